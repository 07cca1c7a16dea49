"""The match sheet: what matches add up to for each player, from what their files hold and nothing else.

No hand is estimated and nothing is simulated. A visit is one player's strokes in a row within a rack, the break
included; a foul or a miss ends it. An inning is a visit with a stroke that is no push-out.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, TypeVar

from aretane.core.ball import CUE
from aretane.core.geometry.measured import visible_ball
from aretane.core.review.position import PositionError
from aretane.core.review.replay import Replay, ReplayedShot
from aretane.core.review.shot_figures import NOT_A_TRY_FLAGS, cue_error
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import BREAK, CHOICES, RackState, Ruling
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.statistics.rates import Mean, Rate, mean_interval, wilson

Data = Mapping[str, Any]
T = TypeVar("T")

ATTACK = ("attack", "two-way")
PUSH_OUT, SAFETY, ESCAPE = "push-out", "safety", "escape"
CHANCE_IN_POINTS, CHANCE_IN_BALLS = 30, 10  # that convert a visit in snooker and in straight pool


@dataclass(frozen=True)
class Played:
    """A stroke: where it stands, the game before it, the ruling on it, and what came after it."""

    match: int
    rack: int
    index: int
    player: str
    shot: ReplayedShot
    before: RackState
    ruling: Ruling
    following: Played | None = None

    @property
    def data(self) -> Data:
        return self.shot.data

    @property
    def is_break(self) -> bool:
        return self.before.phase == BREAK or self.data.get("kind") == "break"

    @property
    def is_push_out(self) -> bool:
        return PUSH_OUT in (self.data.get("declared"), self.data.get("intent"))

    @property
    def attacks(self) -> bool:
        """Meant to pot: said so, or a ball was called and nothing else said."""
        intent = self.data.get("intent")
        called = bool((self.data.get("called") or {}).get("ball"))
        silent = intent is None and self.data.get("declared") not in (SAFETY, PUSH_OUT)
        return intent in ATTACK or (silent and called)

    @property
    def counts(self) -> bool:
        return not NOT_A_TRY_FLAGS.intersection(self.data.get("flags") or ()) and (
            self.data.get("intent") != "experiment"
        )

    @property
    def tried(self) -> bool:
        """A pot that was tried: an attack with a called ball, no break, push-out, experiment or demonstration."""
        called = (self.data.get("called") or {}).get("ball")
        return bool(called and self.attacks and self.counts and not self.is_break and not self.is_push_out)

    @property
    def fell(self) -> bool:
        """Whether the called ball fell where it was called; anywhere, where no pocket was."""
        called = self.data.get("called") or {}
        return any(
            one["ball"] == called.get("ball")
            and (called.get("pocket") is None or one.get("pocket") in (None, called["pocket"]))
            for one in self.data.get("potted") or ()
        )


@dataclass(frozen=True)
class Visit:
    """One player's strokes in a row. `winner` of the rack, if this visit ended it."""

    strokes: tuple[Played, ...]
    winner: str | None

    @property
    def player(self) -> str:
        return self.strokes[0].player

    @property
    def pushes(self) -> bool:
        return any(one.is_push_out for one in self.strokes)

    @property
    def inning(self) -> bool:
        return any(not one.is_push_out for one in self.strokes)

    @property
    def scored(self) -> int:
        return sum(one.ruling.counted for one in self.strokes)

    @property
    def balls(self) -> int:
        """Balls that were legally potted; in snooker each counts as one, whatever it scores."""
        return sum(
            min(one.ruling.counted, sum(each["ball"] != CUE for each in one.data.get("potted") or ()))
            for one in self.strokes
        )

    @property
    def begins_with_attack(self) -> bool:
        return self.strokes[0].data.get("intent") in ATTACK and not self.strokes[0].is_break

    @property
    def wins(self) -> bool:
        return self.winner == self.player

    def cleared(self, discipline: str) -> bool:
        """Whether every ball that the player still needed fell in this visit."""
        if not self.wins:
            return False
        if traits_of(discipline).goes_on:
            return True
        fallen = {each["ball"] for one in self.strokes for each in one.data.get("potted") or ()}
        return _needed(discipline, self.strokes[0].before, self.strokes[-1], self.player) <= fallen

    def converted(self, discipline: str) -> bool:
        traits = traits_of(discipline)
        if traits.counts == FRAMES:
            return self.wins or self.scored >= CHANCE_IN_POINTS
        return self.scored >= CHANCE_IN_BALLS if traits.goes_on else self.wins


@dataclass
class Sheet:
    """One player's strokes, visits and racks; what they come to is read off it."""

    discipline: str
    strokes: list[Played] = field(default_factory=list)
    visits: list[Visit] = field(default_factory=list)
    racks: list[bool] = field(default_factory=list)  # decided ones: whether they were won
    errors: list[PositionError] = field(default_factory=list)

    @cached_property
    def tries(self) -> list[Played]:
        return [one for one in self.strokes if one.tried]

    def figures(self) -> dict[str, Any]:
        traits = traits_of(self.discipline)
        frames, points = traits.counts == FRAMES, traits.points
        innings = [visit for visit in self.visits if visit.inning]
        attacking = [one for one in self.visits if one.begins_with_attack]
        settled = [visit for visit in self.visits if not visit.pushes]
        escapes = [one for one in self.strokes if one.data.get("intent") == ESCAPE and one.counts]
        best = max((visit.balls for visit in self.visits), default=0)
        return {
            "pots": _rate(self.tries, lambda one: one.fell and not one.ruling.fouls),
            "position": self._position(),
            "potted_but_foul": sum(one.fell and bool(one.ruling.fouls) for one in self.tries),
            "safeties": self._safeties(),
            "escapes": _rate(escapes, lambda one: not one.ruling.fouls),
            "attack_visits": _rate(attacking, lambda visit: visit.converted(self.discipline)),
            "run_outs": _rate(settled, lambda visit: visit.cleared(self.discipline)),
            "breaks": None if points else self._breaks(),
            "innings": len(innings),
            "balls_per_inning": None
            if frames or not innings
            else sum(visit.balls for visit in innings) / len(innings),
            "high_run": best,
            "shot_time": self._shot_time(),
            "racks_won": _rate(self.racks, lambda won: won),
            "fouls": sum(bool(one.ruling.fouls) for one in self.strokes),
            "scratches": sum(bool(one.data.get("scratch")) for one in self.strokes),
            "points": sum(visit.scored for visit in self.visits) if points else None,
            "high_break": max((visit.scored for visit in self.visits), default=0) if frames else None,
        }

    def _position(self) -> dict[str, Any]:
        told = [one for one in self.errors if not one.assumed]
        return {
            "n": len(self.errors),
            "inside": sum(one.distance == 0.0 for one in self.errors),
            "along": mean_interval([one.along for one in told]),
            "across": mean_interval([one.across for one in told]),
        }

    def _safeties(self) -> dict[str, Any]:
        played = [one for one in self.strokes if SAFETY in (one.data.get("intent"), one.data.get("declared"))]
        played = [one for one in played if one.counts]
        lawful = [one for one in played if not one.ruling.fouls]
        answered = [
            one.following for one in lawful if one.following is not None and one.following.player != one.player
        ]
        hidden = [seen for one in lawful if (seen := _hidden_after(one)) is not None]
        return {
            "n": len(played),
            "not_attacked": _rate(answered, lambda one: not one.attacks),
            "hidden": _rate(hidden, lambda one: one),
        }

    def _breaks(self) -> dict[str, Any]:
        played = [one for one in self.strokes if one.is_break]
        made = [sum(each["ball"] != CUE for each in one.data.get("potted") or ()) for one in played]
        return {
            "n": len(played),
            "balls": mean_interval([float(count) for count in made]),
            "dry": wilson(made.count(0), len(made)),
            "scratch": _rate(played, lambda one: bool(one.data.get("scratch"))),
        }

    def _shot_time(self) -> Mean | None:
        """From contact to contact within a visit, seconds."""
        times = []
        for visit in self.visits:
            contacts = [(one.data.get("time") or {}).get("contact") for one in visit.strokes]
            recordings = [one.data.get("recording") for one in visit.strokes]
            for at in range(1, len(contacts)):
                before, now = contacts[at - 1], contacts[at]
                if before is not None and now is not None and recordings[at - 1] == recordings[at] and now > before:
                    times.append(float(now - before))
        return mean_interval(times) if times else None


def sheets(matches: Sequence[tuple[Data, Replay]]) -> dict[str, Sheet]:
    """A sheet for each player of these matches, all of one discipline; equal names are one person."""
    found: dict[str, Sheet] = {}
    for number, (match, replayed) in enumerate(matches):
        players = match.get("players") or {}
        names = {seat: str((players.get(seat) or {}).get("name") or seat) for seat in ("A", "B")}

        def sheet(seat: str, names: dict[str, str] = names, replayed: Replay = replayed) -> Sheet:
            return found.setdefault(names[seat], Sheet(replayed.discipline))

        for seat in names:
            if seat in players or not players:
                sheet(seat)
        for rack in range(len(replayed.racks)):
            strokes = list(_strokes(number, replayed, rack))
            winner = replayed.result.racks[rack].winner
            for one in strokes:
                own = sheet(one.player)
                own.strokes.append(one)
                after = one.following.shot if one.following is not None else None
                error = cue_error(one.shot, after) if one.counts else None
                if error is not None and not one.is_break:
                    own.errors.append(error)
            for visit in visits_of(strokes):
                sheet(visit.player).visits.append(visit)
            if winner is not None:
                for seat in names:
                    if names[seat] in found:
                        found[names[seat]].racks.append(winner == seat)
    return found


def _strokes(match: int, replayed: Replay, rack: int) -> Iterator[Played]:
    """Every ruled stroke of a rack in order, each with the one after it; choices and holes are none."""
    result, shots = replayed.result.racks[rack], replayed.racks[rack]
    found: list[Played] = []
    state = result.begins
    for index, ruling in enumerate(result.rulings):
        shot = shots[index]
        if not ruling.hole and shot.data.get("declared") not in CHOICES:
            player = str(shot.data.get("player") or state.player)
            found.append(Played(match, rack, index, player, shot, state, ruling))
        state = ruling.after
    following = None
    linked = []
    for one in reversed(found):
        following = Played(**{**vars(one), "following": following})
        linked.append(following)
    return iter(reversed(linked))


def visits_of(strokes: Sequence[Played]) -> Iterator[Visit]:
    """The visits of one rack's strokes."""
    current: list[Played] = []
    for at, one in enumerate(strokes):
        current.append(one)
        after = strokes[at + 1] if at + 1 < len(strokes) else None
        adjoins = after is not None and after.index == one.index + 1 and after.player == one.player
        if not adjoins or one.ruling.fouls or not one.ruling.counted or one.ruling.next != one.player:
            yield Visit(tuple(current), one.ruling.after.winner)
            current = []


def _needed(discipline: str, before: RackState, last: Played, player: str) -> set[str]:
    """Balls that a player needed when his visit began: his group as it turned out, and the last ball."""
    group = before.group[player] or last.before.group[player] or last.ruling.after.group[player]
    if not traits_of(discipline).groups or group is None:
        return set(before.balls)
    return {ball for ball in before.balls if group_of(discipline, ball) in (group, None)}


def _hidden_after(one: Played) -> bool | None:
    """Whether every ball that may be struck next is hidden; None where the next layout is not known."""
    following = one.following
    if following is None or following.player == one.player:
        return None
    layout = following.shot.before
    if layout is None or layout.cue is None:
        return None
    legal = [ball for ball in following.ruling.legal_balls if ball in layout.balls]
    return all(visible_ball(layout, ball) == 0.0 for ball in legal) if legal else None


def _rate(items: Sequence[T], good: Callable[[T], bool]) -> Rate:
    return wilson(sum(bool(good(one)) for one in items), len(items))
