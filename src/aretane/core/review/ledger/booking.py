"""Booking: what each entry changed in a player's chance, split into decision, pot, position and luck.

    before                  the best option
      + decision            chosen - before
      + pot                 mean of what happened (made, missed, foul) - chosen
      + position            the same with the cue ball where it stopped - that mean
      + luck                what the other balls did beyond what was to be expected
      + unsplit             what cannot be told
    = after                 the next entry's before

The idea is Broadie's value per shot: M. Broadie, Interfaces 42 (2012) 146, "Assessing Golfer Performance on the
PGA Tour": a shot is worth what it changed in what the rest of the game is expected to bring.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from aretane.core.review.ledger.general import worth_in_general
from aretane.core.review.ledger.judging import Judgement
from aretane.core.review.ledger.juncture import (
    ALL,
    CHOICE,
    END,
    HOLE,
    NO_LAYOUT,
    NO_STROKE,
    OPENING,
    RULES,
    STROKE,
    Juncture,
)
from aretane.core.review.ledger.opening import Opening
from aretane.core.review.ledger.worth import Known, flipped
from aretane.core.rules.game import opponent
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand

PARTS = ("decision", "pot", "position", "luck")
GENERAL = 0.2  # standard error of a value that no layout tells (assumed)


@dataclass(frozen=True)
class Judged:
    """What was worked out for one entry: a stroke, a break, or what the choices without a stroke are worth."""

    stroke: Judgement | None = None
    opening: Opening | None = None
    others: Known | None = None  # the best of the choices that were not made


@dataclass(frozen=True)
class Entry:
    """One entry's booking, all as its player sees it. `errors`: standard errors of the four parts."""

    kind: str
    player: str
    before: float
    after: float
    chosen: float | None
    split: str
    parts: dict[str, float | None]
    unsplit: float | None
    errors: dict[str, float | None]
    judged: Judged = field(default_factory=Judged)

    @property
    def change(self) -> float:
        return self.after - self.before


@dataclass(frozen=True)
class RackLedger:
    """`start`, `result` are player A's; `result` None: not over, and `now` is what it is worth to him."""

    start: float
    entries: tuple[Entry, ...]
    result: float | None
    now: float
    sums: dict[str, dict[str, float]]
    turning_point: int | None


def rack_ledger(
    rack: Sequence[Juncture],
    judged: Sequence[Judged],
    hands: Mapping[str, Hand],
    winner: str | None,
    conceded: bool,
) -> RackLedger:
    """A rack's entries booked: `judged` for each juncture, `winner` as the referee has it."""
    discipline, result = rack[0].discipline, _result(rack, winner)
    values = _befores(rack, judged, hands, result)
    entries = [
        _booked(
            at, judged[index], values[index], _after(rack, values, index, result), conceded and index + 1 == played
        )
        for played in (sum(at.kind != END for at in rack),)
        for index, at in enumerate(rack[:played])
    ]
    start = values[0].value if rack[0].player == "A" else flipped(discipline, values[0].value)
    now = start
    for entry in entries:
        now += entry.change if entry.player == "A" else -entry.change
    return RackLedger(start, tuple(entries), result, now, sums_of(entries), _turning(entries, result, discipline))


def sums_of(entries: Sequence[Entry]) -> dict[str, dict[str, float]]:
    """What each player gained and lost by each part."""
    return {
        player: {
            part: math.fsum(
                value for one in entries if one.player == player and (value := _part(one, part)) is not None
            )
            for part in (*PARTS, "unsplit")
        }
        for player in ("A", "B")
    }


def _part(entry: Entry, part: str) -> float | None:
    return entry.unsplit if part == "unsplit" else entry.parts[part]


def _befores(
    rack: Sequence[Juncture], judged: Sequence[Judged], hands: Mapping[str, Hand], result: float | None
) -> list[Known]:
    """What each entry begins with. A choice without a stroke begins with the better of what follows it and of what
    could have been chosen instead."""
    values = [_before(at, one, hands) for at, one in zip(rack, judged, strict=True)]
    for index in reversed(range(len(rack))):
        if rack[index].kind == CHOICE:
            others = judged[index].others
            taken = _after(rack, values, index, result)
            values[index] = others if others is not None and others.value > taken.value else taken
    return values


def _after(rack: Sequence[Juncture], values: Sequence[Known], index: int, result: float | None) -> Known:
    """What an entry ends with, as its player sees it."""
    at, discipline = rack[index], rack[index].discipline
    if index + 1 == len(rack):
        assert result is not None
        return Known(result if at.player == "A" else flipped(discipline, result), 0.0)
    following, known = rack[index + 1], values[index + 1]
    return known if following.player == at.player else Known(flipped(discipline, known.value), known.error)


def _before(at: Juncture, judged: Judged, hands: Mapping[str, Hand]) -> Known:
    """A turn's value by itself; in general where nothing was worked out."""
    if judged.stroke is not None:
        return judged.stroke.before
    if judged.opening is not None:
        return judged.opening.worth
    general = worth_in_general(at.discipline, at.state, (hands[at.player], hands[opponent(at.player)]), at.table)
    return Known(general, GENERAL * (10.0 if traits_of(at.discipline).goes_on else 1.0))


def _result(rack: Sequence[Juncture], winner: str | None) -> float | None:
    """What the rack came to, for player A; None while it is not over."""
    if rack[-1].kind == END:
        return None
    last = rack[-1].came
    if traits_of(rack[0].discipline).goes_on and last is not None:
        return float(last.state.points["A"] - last.state.points["B"])
    return float(winner == "A")


def _booked(at: Juncture, judged: Judged, before: Known, after: Known, conceded: bool) -> Entry:
    change = after.value - before.value
    parts: dict[str, float | None] = dict.fromkeys(PARTS)
    errors: dict[str, float | None] = dict.fromkeys(PARTS)
    chosen, split = None, ALL
    untold = at.meant.experiment or (at.kind != CHOICE and at.came is not None and at.came.overruled) or conceded
    if at.kind == HOLE:
        split = HOLE
    elif at.kind == CHOICE:
        chosen, split = after.value, RULES
        parts["decision"] = after.value - before.value
        errors["decision"] = judged.others.error if judged.others is not None else 0.0
    elif at.kind == OPENING:
        chosen, split = _book_break(at, judged.opening, before, after, parts, errors)
    elif judged.stroke is None:
        split = NO_LAYOUT
    else:
        chosen, split = _book_stroke(judged.stroke, before, after, parts, errors)
    if untold and at.kind in (STROKE, OPENING):
        split = RULES
        keep = () if at.meant.experiment else ("decision", "pot")
        for part in PARTS:
            if part not in keep:
                parts[part] = errors[part] = None
    told = [value for value in parts.values() if value is not None]
    whole = parts["luck"] is not None or at.kind == CHOICE
    unsplit = None if whole else change - math.fsum(told)
    return Entry(at.kind, at.player, before.value, after.value, chosen, split, parts, unsplit, errors, judged)


Parts = dict[str, Any]


def _book_stroke(
    judged: Judgement, before: Known, after: Known, parts: Parts, errors: Parts
) -> tuple[float | None, str]:
    if judged.chosen is None or judged.decision is None:
        return None, judged.split
    chosen = before.value + judged.decision.value
    parts["decision"], errors["decision"] = judged.decision.value, judged.decision.error
    if judged.expected is None:
        return chosen, judged.split
    parts["pot"], errors["pot"] = judged.expected.value - chosen, judged.expected.error
    if judged.fortune is not None and judged.split == ALL:
        parts["luck"], errors["luck"] = judged.fortune.value, judged.fortune.error
        parts["position"] = after.value - judged.expected.value - judged.fortune.value
        errors["position"] = math.hypot(
            before.error, judged.decision.error, judged.expected.error, judged.fortune.error, after.error
        )
        return chosen, judged.split
    return chosen, judged.split if judged.split != ALL else NO_LAYOUT


def _book_break(
    at: Juncture, opening: Opening | None, before: Known, after: Known, parts: Parts, errors: Parts
) -> tuple[float | None, str]:
    expected = opening.expected(at.came) if opening is not None and at.came is not None else None
    if opening is None or expected is None or at.came is None:
        return None, NO_STROKE
    parts["decision"], errors["decision"] = 0.0, 0.0
    parts["pot"], errors["pot"] = expected.value - before.value, expected.error
    placed = opening.placed(at.came, at.table)
    if placed is None and at.came.balls is None and at.came.state.winner is None:
        return before.value, NO_LAYOUT
    placed = placed or Known(0.0, 0.0)
    parts["position"], errors["position"] = placed.value, placed.error
    parts["luck"] = after.value - expected.value - placed.value
    errors["luck"] = math.hypot(after.error, expected.error, placed.error)
    return before.value, ALL


def _turning(entries: Sequence[Entry], result: float | None, discipline: str) -> int | None:
    """The entry that turned the rack most against whoever lost it."""
    level = 0.0 if traits_of(discipline).goes_on else 0.5
    if result is None or result == level or not entries:
        return None
    won = "A" if result > level else "B"
    gains = [one.change if one.player == won else -one.change for one in entries]
    return max(range(len(gains)), key=gains.__getitem__)
