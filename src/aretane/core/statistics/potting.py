"""Potting percentages by cut angle, distance, pocket, kind and player, and the bias of position errors."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

from aretane.core.review.shot_figures import ShotFigures
from aretane.core.statistics.rates import Mean, Rate, mean_interval, wilson

CUT_BANDS = (0.0, 15.0, 30.0, 45.0, 60.0, 90.0)  # degrees; 30 is the half-ball hit
DISTANCE_BANDS = (0.0, 0.75, 1.25, 1.75, 2.5, math.inf)  # metres, cue ball to contact plus ball to pocket


@dataclass(frozen=True)
class Family:
    """A set of tries with its rate; `shots` are (rack, shot) positions within the shots given."""

    name: str
    rate: Rate
    members: tuple[int, ...]


@dataclass(frozen=True)
class Cell:
    """One field of the map: cut angle from `cut[0]` to `cut[1]` degrees, distance in metres."""

    cut: tuple[float, float]
    distance: tuple[float, float]
    rate: Rate
    members: tuple[int, ...]


def tries(shots: Sequence[ShotFigures]) -> list[int]:
    """Positions of the shots that count as a try."""
    return [index for index, shot in enumerate(shots) if shot.tried]


def potting_rate(shots: Sequence[ShotFigures], members: Iterable[int]) -> Rate:
    chosen = list(members)
    return wilson(sum(shots[index].made for index in chosen), len(chosen))


def by(shots: Sequence[ShotFigures], key: Callable[[ShotFigures], str | None]) -> list[Family]:
    """Families of tries that share a property, largest first; tries without it are left out."""
    groups: dict[str, list[int]] = {}
    for index in tries(shots):
        name = key(shots[index])
        if name is not None:
            groups.setdefault(name, []).append(index)
    ordered = sorted(groups.items(), key=lambda item: (-len(item[1]), item[0]))
    return [Family(name, potting_rate(shots, members), tuple(members)) for name, members in ordered]


def cut_and_distance_map(shots: Sequence[ShotFigures]) -> list[Cell]:
    """The map of cut angle by distance, empty fields included, for tries whose places are known."""
    cells = []
    for low, high in itertools.pairwise(CUT_BANDS):
        for near, far in itertools.pairwise(DISTANCE_BANDS):
            members = [
                index
                for index in tries(shots)
                if _within(shots[index], low, high, near, far, last=high == CUT_BANDS[-1])
            ]
            cells.append(Cell((low, high), (near, far), potting_rate(shots, members), tuple(members)))
    return cells


def _within(shot: ShotFigures, low: float, high: float, near: float, far: float, *, last: bool) -> bool:
    if shot.cut_angle is None or shot.cue_distance is None or shot.pocket_distance is None:
        return False
    cut = math.degrees(shot.cut_angle)
    distance = shot.cue_distance + shot.pocket_distance
    return low <= cut and (cut < high or last) and near <= distance < far


@dataclass(frozen=True)
class Bias:
    """Means of the signed position errors: positive is long, positive is left. Metres."""

    along: Mean
    across: Mean
    distance: Mean


def bias(shots: Sequence[ShotFigures]) -> Bias:
    """Bias of all measured position errors; errors with an assumed direction count in `distance` only."""
    errors = [shot.error for shot in shots if shot.error is not None]
    known = [error for error in errors if not error.assumed]
    return Bias(
        along=mean_interval([error.along for error in known]),
        across=mean_interval([error.across for error in known]),
        distance=mean_interval([error.distance for error in errors]),
    )
