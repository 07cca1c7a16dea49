"""Strokes and visits of a replayed match: what each was meant as, what came after it, what a visit brought.

A visit is one player's strokes in a row within a rack, the break included; a foul or a miss ends it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.measured import visible_ball
from aretane.core.review.replay import Replay, ReplayedShot
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import BREAK, CHOICES, RackState, Ruling
from aretane.core.rules.traits import FRAMES, traits_of

Data = Mapping[str, Any]

ATTACK = ("attack", "two-way")
PUSH_OUT, SAFETY, ESCAPE = "push-out", "safety", "escape"
CHANCE_IN_POINTS, CHANCE_IN_BALLS = 30, 10  # that convert a visit in snooker and in straight pool
NOT_A_TRY_FLAGS = {"experiment", "demonstration"}


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
    def safe(self) -> bool:
        """A safety, by what was meant or declared, that counts."""
        return self.counts and SAFETY in (self.data.get("intent"), self.data.get("declared"))

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


def strokes_of(match: int, replayed: Replay, rack: int) -> Iterator[Played]:
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


def needed_by(discipline: str, state: RackState, player: str) -> tuple[str, ...]:
    """The balls that a player still has to pot."""
    group = state.group[player]
    if group is None:
        return state.balls
    return tuple(ball for ball in state.balls if group_of(discipline, ball) in (group, None))


def _needed(discipline: str, before: RackState, last: Played, player: str) -> set[str]:
    """Balls that a player needed when his visit began: his group as it turned out, and the last ball."""
    group = before.group[player] or last.before.group[player] or last.ruling.after.group[player]
    if not traits_of(discipline).groups or group is None:
        return set(before.balls)
    return {ball for ball in before.balls if group_of(discipline, ball) in (group, None)}


def hidden_after(one: Played) -> bool | None:
    """Whether every ball that may be struck next is hidden; None where the next layout is not known."""
    following = one.following
    if following is None or following.player == one.player:
        return None
    layout = following.shot.before
    if layout is None or layout.cue is None:
        return None
    legal = [ball for ball in following.ruling.legal_balls if ball in layout.balls]
    return all(visible_ball(layout, ball) == 0.0 for ball in legal) if legal else None
