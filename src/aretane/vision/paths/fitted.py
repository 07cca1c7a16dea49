"""The stroke that explains the paths: the simulator asked backwards, against every place at which a ball was seen.

The first way of the cue ball gives direction and speed; strokes round these are played, and those that keep the
balls nearest to their paths are varied and played again. What the best ones have in common is what the paths tell
of the tip; where they differ, they do not tell it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.shot import Shot, place_on, simulate
from aretane.core.physics.stroke import Stroke
from aretane.vision.paths.told import Mark

Floats = NDArray[np.float64]

FIRST, ROUNDS, EACH, KEPT = (
    120,
    4,
    8,
    10,
)  # strokes played at first; rounds of varying the best, how often each, how many
SPREAD = np.array([math.radians(1.0), 0.15, 0.35, 0.35])  # aim, speed (relative), side, height: of the first ones
NARROWER = 0.5  # each round beside the one before
FARTHEST = 0.15  # m: a place that is missed by more counts no more
MOST_PLACES = 40  # of one path that are compared
EXPLAINED = 0.035  # m: a stroke that misses the places by less on the whole explains them
AS_GOOD = 0.004  # m: strokes that miss by so little more are as likely
TIP = 0.5  # of the radius: farther out the tip slips


@dataclass(frozen=True)
class Fit:
    """A stroke and by how much it misses the places seen (m, mean); `low` and `high` are what others say that
    explain them as well: aim, speed, side, height. `explains` is whether it is believed."""

    stroke: Stroke
    off: float
    low: tuple[float, ...]
    high: tuple[float, ...]
    shot: Shot

    @property
    def explains(self) -> bool:
        return self.off < EXPLAINED


def fitted(before: Layout, paths: Mapping[str, Sequence[Mark]], struck: float) -> Fit | None:
    """The stroke at time `struck` that explains the paths; None where the cue ball's way does not tell of one."""
    start = _first_way(paths.get(CUE, ()), struck)
    if start is None or CUE not in before.balls:
        return None
    seen = {ball: _thinned(marks, struck) for ball, marks in paths.items() if ball in before.balls}
    dice = np.random.Generator(np.random.Philox(5))
    centre = np.array([*start, 0.0, 0.05])
    rows = np.array([_varied(centre, SPREAD, dice) for _ in range(FIRST)])
    misses = np.array([_misses(before, row, seen) for row in rows])
    spread = SPREAD
    for _ in range(ROUNDS):
        spread = spread * NARROWER
        best = rows[np.argsort(misses, kind="stable")[:KEPT]]
        fresh = np.array([_varied(row, spread, dice) for row in best for _ in range(EACH)])
        rows = np.concatenate([rows, fresh])
        misses = np.concatenate([misses, [_misses(before, row, seen) for row in fresh]])
    order = np.argsort(misses, kind="stable")
    as_good = rows[order[misses[order] <= misses[order[0]] + AS_GOOD]]
    stroke = _stroke(rows[order[0]])
    low, high = (tuple(float(v) for v in bound) for bound in (as_good.min(axis=0), as_good.max(axis=0)))
    return Fit(stroke, float(misses[order[0]]), low, high, simulate(before, stroke))


def _first_way(path: Sequence[Mark], struck: float) -> tuple[float, float] | None:
    """Direction and speed of the cue ball before it meets anything: over its first places."""
    first = [mark for mark in path if mark.t > struck][:6]
    if len(first) < 2 or math.dist(first[0].place, first[-1].place) < 0.01:
        return None
    start = path[0].place
    far = max(first[:4], key=lambda mark: math.dist(mark.place, start))
    aim = math.atan2(far.place[1] - start[1], far.place[0] - start[0])
    speed = math.dist(far.place, start) / max(1e-3, far.t - struck)
    return aim, float(np.clip(speed, 0.1, 12.0))


def _thinned(marks: Sequence[Mark], struck: float) -> list[tuple[float, float, float]]:
    ran = [(mark.t - struck, *mark.place) for mark in marks if mark.t >= struck]
    step = max(1, math.ceil(len(ran) / MOST_PLACES))
    return ran[::step]


def _varied(row: Floats, spread: Floats, dice: np.random.Generator) -> Floats:
    wrong = dice.standard_normal(4) * spread
    side, height = row[2] + wrong[2], row[3] + wrong[3]
    beyond = max(1.0, math.hypot(side, height) / TIP)
    return np.array([row[0] + wrong[0], row[1] * math.exp(wrong[1]), side / beyond, height / beyond])


def _stroke(row: Floats) -> Stroke:
    return Stroke(aim=float(row[0]), speed=float(row[1]), side=float(row[2]), height=float(row[3]))


def _misses(before: Layout, row: Floats, seen: Mapping[str, Sequence[tuple[float, float, float]]]) -> float:
    """The mean distance between where balls were seen and where this stroke would have them."""
    shot = simulate(before, _stroke(row))
    offs = []
    for ball, places in seen.items():
        legs = shot.legs.get(ball)
        for t, x, y in places:
            at = place_on(legs, t) if legs else before.balls[ball]
            offs.append(FARTHEST if at is None else min(FARTHEST, math.dist(at, (x, y))))
    return float(np.mean(offs)) if offs else FARTHEST
