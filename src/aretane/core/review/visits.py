"""Visits to the table: snooker's breaks, straight pool's innings and runs.

A visit is what a player scores without giving the table away. In straight pool it goes on through a re-rack.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aretane.core.review.replay import Replay, ReplayedShot
from aretane.core.rules.game import CHOICES
from aretane.core.rules.traits import traits_of


@dataclass(frozen=True)
class Visit:
    """`points` are balls in pool. `first` and `last` are entries of rack `rack`; `strokes` leaves choices out."""

    player: str
    rack: int
    first: int
    last: int
    strokes: int
    points: int


@dataclass(frozen=True)
class VisitFigures:
    """A player's visits: how many, what they scored in all, the best of them, and the mean."""

    visits: int
    points: int
    best: int
    mean: float | None


def visits(replayed: Replay) -> list[Visit]:
    """Every visit of a match, in order of play. Entries after an impossible one are left out."""
    found: list[Visit] = []
    goes_on = False  # whether the last visit of `found` may have another stroke
    for number, rack in enumerate(replayed.racks):
        if not traits_of(replayed.discipline).goes_on:
            goes_on = False
        for index, entry, player in _strokes(rack):
            ruling = entry.ruling
            assert ruling is not None
            if ruling.hole:
                goes_on = False
                continue
            if goes_on and found[-1].player == player:
                before = found.pop()
                found.append(
                    Visit(
                        player,
                        before.rack,
                        before.first,
                        index if number == before.rack else before.last,
                        before.strokes + 1,
                        before.points + ruling.counted,
                    )
                )
            else:
                found.append(Visit(player, number, index, index, 1, ruling.counted))
            goes_on = ruling.next == player and not ruling.fouls
    return found


def _strokes(rack: Sequence[ReplayedShot]) -> Iterator[tuple[int, ReplayedShot, str]]:
    for index, entry in enumerate(rack):
        player = entry.data.get("player") or ""
        if entry.ruling is not None and (player or entry.ruling.hole) and entry.data.get("declared") not in CHOICES:
            yield index, entry, str(player)


def figures(found: Sequence[Visit], player: str) -> VisitFigures:
    """What the visits of one player add up to."""
    own = [visit.points for visit in found if visit.player == player]
    return VisitFigures(len(own), sum(own), max(own, default=0), sum(own) / len(own) if own else None)
