"""The fields of the potting map: bands of cut angle by bands of distance."""

from __future__ import annotations

import itertools
import math

CUT_BANDS = (0.0, 15.0, 30.0, 45.0, 60.0, 90.0)  # degrees; 30 is the half-ball hit
DISTANCE_BANDS = (0.0, 0.75, 1.25, 1.75, 2.5, math.inf)  # metres, cue ball to contact plus ball to pocket

Band = tuple[float, float]
CELLS: tuple[tuple[Band, Band], ...] = tuple(
    itertools.product(itertools.pairwise(CUT_BANDS), itertools.pairwise(DISTANCE_BANDS))
)


def cell_of(cut_angle: float, distance: float) -> int | None:
    """The number of the field for a cut angle in radians and a distance in metres; None beyond the map."""
    cut = math.degrees(cut_angle)
    for number, ((low, high), (near, far)) in enumerate(CELLS):
        steepest = high == CUT_BANDS[-1] and cut == high
        if (low <= cut < high or steepest) and near <= distance < far:
            return number
    return None
