"""Potting percentages by cut angle, distance, pocket, kind and player, and the bias of position errors."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from aretane.core.statistics.cells import CELLS, Band
from aretane.core.statistics.rates import Mean, Rate, Sums, mean_of, wilson


@dataclass(frozen=True)
class Tally:
    """`n` strokes that have all of this in common, `made` of them made: what percentages are added up from.

    `along` and `across` are of position errors whose direction is known, `distance` of all; metres, positive is
    long and left.
    """

    player: str | None
    tried: bool
    cell: int | None
    pocket: str | None
    kind: str | None
    n: int
    made: int
    along: Sums
    across: Sums
    distance: Sums


@dataclass(frozen=True)
class Family:
    """Tries that have something in common."""

    name: str
    rate: Rate


@dataclass(frozen=True)
class Cell:
    """One field of the map: cut angle from `cut[0]` to `cut[1]` degrees, distance in metres."""

    number: int
    cut: Band
    distance: Band
    rate: Rate


@dataclass(frozen=True)
class Bias:
    """Means of the signed position errors: positive is long, positive is left. Metres."""

    along: Mean
    across: Mean
    distance: Mean


def potting_rate(tallies: Iterable[Tally]) -> Rate:
    """Of what counts as a try."""
    tried = [tally for tally in tallies if tally.tried]
    return wilson(sum(tally.made for tally in tried), sum(tally.n for tally in tried))


def by(tallies: Iterable[Tally], key: Callable[[Tally], str | None]) -> list[Family]:
    """Families of tries that share a property, largest first; tries without it are left out."""
    groups: dict[str, list[Tally]] = {}
    for tally in tallies:
        name = key(tally)
        if tally.tried and name is not None:
            groups.setdefault(name, []).append(tally)
    found = [Family(name, potting_rate(own)) for name, own in groups.items()]
    return sorted(found, key=lambda family: (-family.rate.n, family.name))


def cut_and_distance_map(tallies: Sequence[Tally]) -> list[Cell]:
    """The map of cut angle by distance, empty fields included, for tries whose places are known."""
    return [
        Cell(number, cut, distance, potting_rate(tally for tally in tallies if tally.cell == number))
        for number, (cut, distance) in enumerate(CELLS)
    ]


def without_place(tallies: Iterable[Tally]) -> int:
    """Tries that are in no field of the map."""
    return sum(tally.n for tally in tallies if tally.tried and tally.cell is None)


def bias(tallies: Sequence[Tally]) -> Bias:
    """Bias of all measured position errors; errors with an assumed direction count in `distance` only."""
    return Bias(
        along=mean_of(tally.along for tally in tallies),
        across=mean_of(tally.across for tally in tallies),
        distance=mean_of(tally.distance for tally in tallies),
    )
