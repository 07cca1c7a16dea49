"""How alike two layouts are: the same table seen from either end or in a mirror is the same layout."""

from __future__ import annotations

import math

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats

ALONE = 0.5  # m: what a ball counts that the other layout has not
CUE_BALL = 2.0  # times as much as another ball: from somewhere else it is another shot


def unlike(one: Layout, other: Layout) -> float:
    """The mean way, in metres, by which the balls would have to be moved to make one layout of the other, over the
    four ways of laying a table on itself; the cue ball counts twice, object balls are taken as alike. On tables of
    unlike size the places are stretched.
    """
    mine, size = _places(one), (one.table.length, one.table.width)
    theirs = _places(other) * (np.array(size) / (other.table.length, other.table.width))
    cues = one.cue is not None, other.cue is not None
    ways = [(flip_x, flip_y) for flip_x in (False, True) for flip_y in (False, True)]
    return min(_apart(mine, _turned(theirs, size, *flips), cues) for flips in ways)


def _places(layout: Layout) -> Floats:
    """The cue ball first (somewhere, if there is none), then the object balls (n x 2)."""
    cue = layout.cue or (math.nan, math.nan)
    return np.array([cue, *(place for name, place in layout.balls.items() if name != CUE)], dtype=float)


def _turned(places: Floats, size: tuple[float, float], flip_x: bool, flip_y: bool) -> Floats:
    turned = places.copy()
    if flip_x:
        turned[:, 0] = size[0] - turned[:, 0]
    if flip_y:
        turned[:, 1] = size[1] - turned[:, 1]
    return turned


def _apart(mine: Floats, theirs: Floats, cues: tuple[bool, bool]) -> float:
    from scipy.optimize import linear_sum_assignment  # loads long

    own, other = mine[1:], theirs[1:]
    total, balls = 0.0, max(len(own), len(other))
    if len(own) and len(other):
        ways = np.minimum(np.hypot(*(own[:, None] - other[None]).transpose(2, 0, 1)), ALONE)
        total += float(ways[linear_sum_assignment(ways)].sum())
    total += ALONE * abs(len(own) - len(other))
    weight = CUE_BALL if any(cues) else 0.0
    if all(cues):
        total += CUE_BALL * min(float(np.hypot(*(mine[0] - theirs[0]))), ALONE)
    elif any(cues):
        total += CUE_BALL * ALONE
    return total / max(balls + weight, 1.0)
