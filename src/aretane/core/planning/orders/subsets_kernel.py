"""Backwards over every set of balls that may still stand, compiled."""

from __future__ import annotations

import numpy as np

from aretane.core.physics.compiled import Floats, Ints, entry, kernel
from aretane.core.planning.pots.moved import OPENED
from aretane.core.planning.pots.touch_kernel import BLOCKED

_F1, _F2, _I1, _I2 = "float64[::1]", "float64[:,::1]", "int64[::1]", "int64[:,::1]"
_STROKES = f"{_I1}, {_F2}, {_I2}, {_F2}, {_F2}, {_I2}, {_I1}"


@kernel
def _halves(
    weights: Floats, cells: Ints, along: Floats, across: Floats, touched: Ints, after: int, rows: int,
    worth: Floats, gain: float, bumped: float, tied: int, stirred: float,
) -> tuple[float, float, float]:  # fmt: skip
    """A stroke's value by the even and by the odd samples, and the chance of its pot."""
    one, other, total_one, total_other, made = 0.0, 0.0, 0.0, 0.0, 0.0
    for s in range(weights.shape[0]):
        weight = weights[s]
        if weight == 0.0:
            continue
        value = 0.0
        if touched[s] >> BLOCKED & after == 0:
            at, a, b = cells[s], along[s], across[s]
            low = worth[at] * (1.0 - b) + worth[at + 1] * b
            high = worth[at + rows] * (1.0 - b) + worth[at + rows + 1] * b
            follows = low * (1.0 - a) + high * a
            if touched[s] & after != 0:
                follows *= bumped
                if touched[s] & after & tied != 0 and stirred > 0.0:
                    follows = OPENED * stirred + (1.0 - OPENED) * follows
            value = weight * (gain + follows)
            made += weight
        if s & 1 == 0:
            one, total_one = one + value, total_one + weight
        else:
            other, total_other = other + value, total_other + weight
    # A midpoint sum of the normal density may come out a hair above 1.
    return 2.0 * one / max(1.0, 2.0 * total_one), 2.0 * other / max(1.0, 2.0 * total_other), min(made, 1.0)


@kernel
def _better(
    begin: int, end: int, after: int, rows: int, worth: Floats, origin: Ints, weights: Floats, cells: Ints,
    along: Floats, across: Floats, touched: Ints, always: Ints, gain: float, bumped: float, tied: int,
    stirred: float, best: Floats,
) -> None:  # fmt: skip
    """Take the strokes `begin` to `end` of one ball, after which the set `after` is left, into `best` (6 x places):
    the highest value by either half of the samples, the same stroke's by the other half, and its pot.
    """
    for i in range(begin, end):
        if always[i] & after != 0:
            continue
        one, other, made = _halves(
            weights[i], cells[i], along[i], across[i], touched[i], after, rows, worth, gain, bumped, tied, stirred
        )  # fmt: skip
        place = origin[i]
        if one > best[0, place]:
            best[0, place], best[1, place], best[2, place] = one, other, made
        if other > best[3, place]:
            best[3, place], best[4, place], best[5, place] = other, one, made


@entry(f"void({_I1}, int64, {_I1}, {_STROKES}, float64, float64, int64, {_F1}, {_F2}, {_F2})")
def over_sets(
    sets: Ints, rows: int, begins: Ints, origin: Ints, weights: Floats, cells: Ints, along: Floats, across: Floats,
    touched: Ints, always: Ints, gain: float, bumped: float, tied: int, stirred: Floats, run: Floats, pot: Floats,
) -> None:  # fmt: skip
    """Fill the rows `sets` of `run` (2^m x places), what it is worth to have just these balls left, and of `pot`,
    the chance of the pot that it begins with. The rows of all sets with a ball less are filled already.

    Strokes at ball j of m are rows `begins[j]` to `begins[j + 1]` of `origin` (n: index of the place they are
    played from), `weights` (n x s: the chance that a sample pots stands for, 0 where it did not), and where the
    cue ball stops then: `cells` (n x s: the grid's place below it), `along`, `across` (shares of a cell). `rows`:
    places in a column of the grid. `touched` (n x s): bits of the balls that came in the way, as `touched_by` tells
    them, and `always` (n) of those that spoil every sample. A pot is worth `gain` and what follows; of that only a
    part, `bumped`, where a ball that stands was met, and nothing where one was in the way of the pot. `tied`: bits
    of balls in clusters; where one of these was met the cluster is opened (`OPENED`), and the set that is left is
    worth what `stirred` (2^m) says of it strewn; 0 where it has no cluster.

    Each place's stroke is chosen by one half of its samples and valued by the other, and the other way round:
    chosen and valued by the same it would look better than it is.
    """
    best = np.zeros((6, run.shape[1]))
    for left in sets:
        best[:] = 0.0
        for ball in range(begins.shape[0] - 1):
            if left >> ball & 1 != 0:
                after = left ^ (1 << ball)
                _better(
                    begins[ball], begins[ball + 1], after, rows, run[after], origin, weights, cells, along, across,
                    touched, always, gain, bumped, tied, stirred[after], best,
                )  # fmt: skip
        run[left], pot[left] = 0.5 * (best[1] + best[4]), 0.5 * (best[2] + best[5])


@entry(f"void(int64, int64, {_F1}, {_STROKES}, float64, float64, int64, float64, {_F1})")
def of_one_ball(
    after: int, rows: int, worth: Floats, origin: Ints, weights: Floats, cells: Ints, along: Floats, across: Floats,
    touched: Ints, always: Ints, gain: float, bumped: float, tied: int, stirred: float, run: Floats,
) -> None:  # fmt: skip
    """The same for the strokes of one ball alone, after which the set `after` is left and a place is `worth`."""
    best = np.zeros((6, run.shape[0]))
    _better(
        0, origin.shape[0], after, rows, worth, origin, weights, cells, along, across, touched, always, gain,
        bumped, tied, stirred, best,
    )  # fmt: skip
    run[:] = 0.5 * (best[1] + best[4])
