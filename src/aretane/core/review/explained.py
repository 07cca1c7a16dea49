"""Which strokes would have led from one layout to the next: the simulator asked backwards.

A fan of strokes over the whole of the ball that was hit first is played on the layout before; those that leave the
balls most nearly where they were seen are varied and played again. What they have in common (the pocket, the side
of a miss, the rails) is what the layouts tell; where two stories fit alike, the layouts do not tell it.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, Floats, Ints
from aretane.core.physics.play import AIM, HEIGHT, ON_TABLE, SIDE, SPEED
from aretane.core.physics.sampling import Samples, play_all
from aretane.core.physics.shot import Shot, simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke

SPEEDS = (0.6, 0.85, 1.2, 1.7, 2.3, 3.1, 4.2)  # m/s, as balls are struck in play
HEIGHTS = (-0.45, -0.2, 0.05, 0.25, 0.45)  # of the radius
THINNEST, OFFSETS = 0.985, 57  # how thin a ball is hit, and how many places across it are tried
ALL_ROUND, FEW_SPEEDS, FEW_HEIGHTS = math.radians(0.75), (0.9, 1.5, 2.4, 3.6), (0.0, 0.3)  # for kicks
STAGES = ((32, 18, 1.0), (16, 30, 0.4), (10, 40, 0.15))  # the best, variations of each, how wide these are
SPREAD = np.array([math.radians(0.5), 0.12, 0.15, 0.12, 0.0])  # of a variation: aim, speed (relative), side, height
UNLIKE = 1.0  # m: a ball that fell and should not have, or the other way, counts as so far off
TOLD_BY, APART = 12, math.radians(0.4)  # strokes that are looked at closely, and how far apart they are aimed


@dataclass(frozen=True)
class Explanation:
    """A stroke, how far from the seen layout it leaves the balls (m, root of the summed squares), its course, and
    the direction (radians) in which the ball that was hit first ran off (None: nothing was hit)."""

    stroke: Stroke
    off: float
    shot: Shot
    direction: float | None


def explanations(before: Layout, after: Layout, candidates: Iterable[str]) -> list[Explanation]:
    """The strokes that fit best, best first; `candidates` may have been hit first. Needs a cue ball before."""
    rows = _fan(before, [ball for ball in candidates if ball in before.balls])
    dice = np.random.Generator(np.random.Philox(7))
    start = start_of(before)
    off = _off(after, play_all(before, start, rows))
    for many, each, wide in STAGES:
        best = rows[np.argsort(off, kind="stable")[:many]]
        varied = _varied(best, each, wide, dice)
        found = _off(after, play_all(before, start, varied))
        rows, off = np.concatenate([rows, varied]), np.concatenate([off, found])
    return [_explained(before, rows[n], float(off[n])) for n in _unlike_each_other(rows, np.argsort(off))]


def _unlike_each_other(rows: Floats, order: Ints) -> list[int]:
    """The best strokes of which no two are aimed alike: each tells a story of its own."""
    chosen: list[int] = []
    for n in order[: 40 * TOLD_BY]:
        if all(abs(rows[n, AIM] - rows[other, AIM]) > APART for other in chosen):
            chosen.append(int(n))
        if len(chosen) == TOLD_BY:
            break
    return chosen


def _fan(before: Layout, balls: list[str]) -> Floats:
    """Strokes at each ball across its whole width; all round where there is no ball to aim at."""
    cue = before.balls[CUE]
    reach = before.table.radius + before.table.cue_radius
    aims = [
        bearing(cue, before.balls[ball]) + math.asin(part * min(1.0, reach / math.dist(cue, before.balls[ball])))
        for ball in balls
        for part in np.linspace(-THINNEST, THINNEST, OFFSETS)
    ]
    if aims:
        return _rows(aims, SPEEDS, HEIGHTS)
    return _rows(np.arange(0.0, 2 * math.pi, ALL_ROUND), FEW_SPEEDS, FEW_HEIGHTS)


def _rows(aims: Iterable[float], speeds: Iterable[float], heights: Iterable[float]) -> Floats:
    grid = np.array(np.meshgrid(list(aims), list(speeds), list(heights), indexing="ij")).reshape(3, -1)
    rows = np.zeros((grid.shape[1], 5))
    rows[:, AIM], rows[:, SPEED], rows[:, HEIGHT] = grid
    return rows


def _varied(best: Floats, each: int, wide: float, dice: np.random.Generator) -> Floats:
    rows = np.repeat(best, each, axis=0)
    wrong = dice.standard_normal(rows.shape) * SPREAD * wide
    rows[:, SPEED] *= np.exp(wrong[:, SPEED])
    for column in (AIM, SIDE, HEIGHT):
        rows[:, column] += wrong[:, column]
    beyond = np.maximum(np.hypot(rows[:, SIDE], rows[:, HEIGHT]) / 0.5, 1.0)
    rows[:, SIDE] /= beyond
    rows[:, HEIGHT] /= beyond
    return rows


def _off(after: Layout, samples: Samples) -> Floats:
    """How far each outcome is from what was seen."""
    total = np.zeros(len(samples.durations))
    for column, ball in enumerate(samples.names):
        stays: Ints = samples.fates[:, column] == ON_TABLE
        if ball in after.balls:
            x, y = after.balls[ball]
            apart = np.hypot(samples.places[:, column, 0] - x, samples.places[:, column, 1] - y)
            off = np.where(stays, np.minimum(apart, UNLIKE), UNLIKE)
        else:
            off = np.where(stays, UNLIKE, 0.0)
        total += off * off
    total += (samples.results[:, R_FIRST] <= 0) * UNLIKE
    return np.asarray(np.sqrt(total))


def _explained(before: Layout, row: Floats, off: float) -> Explanation:
    aim, speed, side, height, elevation = (float(value) for value in row)
    stroke = Stroke(aim=aim, speed=speed, side=side, height=height, elevation=elevation)
    shot = simulate(before, stroke)
    return Explanation(stroke, off, shot, _ran_off(shot))


def _ran_off(shot: Shot) -> float | None:
    """The direction of the ball that was hit first, just after it was."""
    legs = shot.legs.get(shot.first_contact or "", ())
    first = next((leg for leg in legs if math.hypot(*leg.velocity[:2]) > 1e-6), None)
    return math.atan2(first.velocity[1], first.velocity[0]) if first else None
