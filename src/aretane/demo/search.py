"""Finding a stroke that does what the story says: many are simulated, the first that fits is played."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, Floats
from aretane.core.physics.sampling import Samples, play_all
from aretane.core.physics.shot import Shot, simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke

SPEEDS = (0.7, 3.6)
DIGITS = 5  # of a stroke's numbers, so that the file repeats it exactly

Wanted = Callable[[Samples], Floats]


def strokes_at(
    layout: Layout, ball: str, dice: random.Random, count: int, speeds: tuple[float, float] = SPEEDS
) -> Floats:
    """Strokes that touch this ball somewhere, mostly without side."""
    (cx, cy), (bx, by) = layout.balls[CUE], layout.balls[ball]
    half = math.asin(min(1.0, 2 * layout.table.radius / math.hypot(bx - cx, by - cy)))
    straight = bearing((cx, cy), (bx, by))
    return _rows(dice, count, lambda: straight + dice.uniform(-half, half), speeds)


def strokes_anywhere(dice: random.Random, count: int, speeds: tuple[float, float] = SPEEDS) -> Floats:
    return _rows(dice, count, lambda: dice.uniform(-math.pi, math.pi), speeds)


def _rows(dice: random.Random, count: int, aim: Callable[[], float], speeds: tuple[float, float]) -> Floats:
    rows = []
    for _ in range(count):
        side = dice.uniform(-0.3, 0.3) if dice.random() < 0.25 else 0.0
        numbers = (aim(), dice.uniform(*speeds), side, dice.uniform(-0.4, 0.4), 0.0)
        rows.append([round(number, DIGITS) for number in numbers])
    return np.array(rows)


def played(layout: Layout, strokes: Floats, wanted: Wanted) -> Iterator[Shot]:
    """Each stroke's shot whose outcome is wanted, one after the other."""
    samples = play_all(layout, start_of(layout), strokes)
    for row in strokes[np.asarray(wanted(samples), dtype=bool)]:
        aim, speed, side, height, _ = (float(number) for number in row)
        yield simulate(layout, Stroke(aim=aim, speed=speed, side=side, height=height))


def nothing_falls(samples: Samples) -> Floats:
    return np.asarray((samples.fates == -1).all(axis=1))


def falls(*balls: str) -> Wanted:
    """Exactly these balls fall, and none leaves the table."""

    def wanted(samples: Samples) -> Floats:
        rows = np.isin(np.array(samples.names), balls)
        down = (samples.fates >= 0) & (samples.fates < 6)
        return np.asarray((down == rows).all(axis=1) & (samples.fates != 6).all(axis=1))

    return wanted


def first_is(ball: str | None, also: Wanted) -> Wanted:
    """The cue ball touches this ball first (None: no ball at all), and what else is wanted."""

    def wanted(samples: Samples) -> Floats:
        row = samples.names.index(ball) if ball else -1
        return np.asarray((samples.results[:, R_FIRST] == row) & also(samples))

    return wanted
