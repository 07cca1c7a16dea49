"""The match sheet: what matches add up to for each player, from what their files hold and nothing else.

No hand is estimated and nothing is simulated. A visit is one player's strokes in a row within a rack, the break
included; a foul or a miss ends it. An inning is a visit with a stroke that is no push-out.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, TypeVar

from aretane.core.ball import CUE
from aretane.core.review.position import PositionError
from aretane.core.review.replay import Replay
from aretane.core.review.shot_figures import cue_error
from aretane.core.review.strokes import ESCAPE, Played, Visit, hidden_after, strokes_of, visits_of
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.statistics.rates import Mean, Rate, mean_interval, wilson

Data = Mapping[str, Any]
T = TypeVar("T")


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
        played = [one for one in self.strokes if one.safe]
        lawful = [one for one in played if not one.ruling.fouls]
        answered = [
            one.following for one in lawful if one.following is not None and one.following.player != one.player
        ]
        hidden = [seen for one in lawful if (seen := hidden_after(one)) is not None]
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
            strokes = list(strokes_of(number, replayed, rack))
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


def _rate(items: Sequence[T], good: Callable[[T], bool]) -> Rate:
    return wilson(sum(bool(good(one)) for one in items), len(items))
