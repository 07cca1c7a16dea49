"""Backwards over every set of balls that may still stand, compiled."""

from __future__ import annotations

import numpy as np

from aretane.core.physics.compiled import Floats, Ints, entry, kernel
from aretane.core.planning.pots.moved import OPENED
from aretane.core.planning.pots.touch_kernel import BLOCKED

_F1, _F2, _I1, _I2 = "float64[::1]", "float64[:,::1]", "int64[::1]", "int64[:,::1]"
_STROKES = f"{_I2}, {_I1}, {_F2}, {_F2}, {_I2}"
S_ORIGIN, S_EVEN, S_ODD, S_END = range(4)  # columns of a stroke: the place it is played from, and its samples
WEIGHT, ALONG, ACROSS = range(3)  # columns of a sample
CELL, TOUCHED = range(2)
_HAIR = 1.0 + 1e-9  # a bound may be rounded down


@kernel
def _half(
    begin: int, end: int, samples: Floats, marks: Ints, after: int, rows: int, worth: Floats, gain: float,
    bumped: float, tied: int, stirred: float,
) -> tuple[float, float]:  # fmt: skip
    """A stroke's value by the samples `begin` to `end`, half of all, and the chance of the pot they stand for."""
    value, total, made = 0.0, 0.0, 0.0
    for s in range(begin, end):
        touched, weight = marks[s, TOUCHED], samples[s, WEIGHT]
        total += weight
        if touched >> BLOCKED & after != 0:
            continue
        at, a, b = marks[s, CELL], samples[s, ALONG], samples[s, ACROSS]
        low = worth[at] * (1.0 - b) + worth[at + 1] * b
        high = worth[at + rows] * (1.0 - b) + worth[at + rows + 1] * b
        met = touched & after
        follows = (low * (1.0 - a) + high * a) * (bumped if met != 0 else 1.0)
        if met & tied != 0 and stirred > 0.0:
            follows = OPENED * stirred + (1.0 - OPENED) * follows
        value += weight * (gain + follows)
        made += weight
    # A midpoint sum of the normal density may come out a hair above 1.
    return 2.0 * value / max(1.0, 2.0 * total), made


@kernel
def _better(
    begin: int, end: int, after: int, rows: int, worth: Floats, strokes: Ints, always: Ints, halves: Floats,
    samples: Floats, marks: Ints, gain: float, bumped: float, tied: int, stirred: float, best: Floats,
) -> None:  # fmt: skip
    """Take the strokes `begin` to `end` of one ball, after which the set `after` is left, into `best` (6 x places):
    the highest value by either half of the samples, the same stroke's by the other half, and its pot.
    """
    most = stirred
    for at in range(worth.shape[0]):
        most = max(most, worth[at])
    most = (gain + most) * _HAIR
    for i in range(begin, end):
        place = strokes[i, S_ORIGIN]
        if always[i] & after != 0:
            continue
        if halves[i, 0] * most <= best[0, place] and halves[i, 1] * most <= best[3, place]:
            continue  # not even if the cue ball always stopped at the best of all places
        one, made_one = _half(
            strokes[i, S_EVEN], strokes[i, S_ODD], samples, marks, after, rows, worth, gain, bumped, tied, stirred
        )  # fmt: skip
        other, made_other = _half(
            strokes[i, S_ODD], strokes[i, S_END], samples, marks, after, rows, worth, gain, bumped, tied, stirred
        )  # fmt: skip
        made = min(made_one + made_other, 1.0)
        if one > best[0, place]:
            best[0, place], best[1, place], best[2, place] = one, other, made
        if other > best[3, place]:
            best[3, place], best[4, place], best[5, place] = other, one, made


@entry(f"void({_I1}, int64, {_I1}, {_STROKES}, float64, float64, int64, {_F1}, {_F2}, {_F2})")
def over_sets(
    sets: Ints, rows: int, begins: Ints, strokes: Ints, always: Ints, halves: Floats, samples: Floats, marks: Ints,
    gain: float, bumped: float, tied: int, stirred: Floats, run: Floats, pot: Floats,
) -> None:  # fmt: skip
    """Fill the rows `sets` of `run` (2^m x places), what it is worth to have just these balls left, and of `pot`,
    the chance of the pot that it begins with. The rows of all sets with a ball less are filled already.

    Strokes at ball j of m are rows `begins[j]` to `begins[j + 1]` of `strokes` (n x 4: the index of the place that
    it is played from, and where its even samples begin, its odd ones, and where these end). `samples` (k x 3), of
    those that pot: the chance that one stands for, and where the cue ball stops then, as shares of the grid's cell
    along and across; `marks` (k x 2): the place below that cell, and bits of the balls that came in the way, as
    `touched_by` tells them. `always` (n): bits of the balls that spoil every sample. `halves` (n x 2): the chance
    of the pot by the even and by the odd samples. `rows`: places in a column
    of the grid. A pot is worth `gain` and what follows; of that only a part, `bumped`, where a ball that stands was
    met, and nothing where one was in the way of the pot. `tied`: bits of balls in clusters; where one of these was
    met the cluster is opened (`OPENED`), and the set that is left is worth what `stirred` (2^m) says of it strewn;
    0 where it has no cluster.

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
                    begins[ball], begins[ball + 1], after, rows, run[after], strokes, always, halves, samples,
                    marks, gain, bumped, tied, stirred[after], best,
                )  # fmt: skip
        run[left], pot[left] = 0.5 * (best[1] + best[4]), 0.5 * (best[2] + best[5])


@entry(f"void(int64, int64, {_F1}, {_STROKES}, float64, float64, int64, float64, {_F1})")
def of_one_ball(
    after: int, rows: int, worth: Floats, strokes: Ints, always: Ints, halves: Floats, samples: Floats, marks: Ints,
    gain: float, bumped: float, tied: int, stirred: float, run: Floats,
) -> None:  # fmt: skip
    """The same for the strokes of one ball alone, after which the set `after` is left and a place is `worth`."""
    best = np.zeros((6, run.shape[0]))
    _better(
        0, strokes.shape[0], after, rows, worth, strokes, always, halves, samples, marks, gain, bumped, tied,
        stirred, best,
    )  # fmt: skip
    run[:] = 0.5 * (best[1] + best[4])
