"""Strokes by the thousand, and what each of them does: the story takes the one that suits it."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, R_RAILED, R_RAILS_AFTER, Floats
from aretane.core.physics.sampling import Samples, play_all
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.table import POCKETS, Point

SPEEDS = (0.7, 3.6)
DIGITS = 5  # of a stroke's numbers, so that the file repeats it exactly
NARROW = 0.02  # rad: at least so far to either side of the ghost ball's line, because throw has to be allowed for

Places = dict[str, Point]


@dataclass(frozen=True)
class Outcome:
    """What one stroke did: pockets by fallen object ball, and where everything else came to rest."""

    stroke: Stroke
    fell: dict[str, str]
    scratch: bool
    off_table: tuple[str, ...]
    first: str | None
    rails: int
    object_rails: int
    places: Places


def strokes_at(
    layout: Layout, ball: str, dice: random.Random, count: int, speeds: tuple[float, float] = SPEEDS
) -> Floats:
    """Strokes that touch this ball somewhere, mostly without side."""
    (cx, cy), (bx, by) = layout.balls[CUE], layout.balls[ball]
    reach = layout.table.radius + layout.table.cue_radius
    half = math.asin(min(1.0, reach / math.hypot(bx - cx, by - cy)))
    straight = bearing((cx, cy), (bx, by))
    return _rows(dice, count, lambda: straight + dice.uniform(-half, half), speeds)


def strokes_for(
    measured: MeasuredShot, dice: random.Random, count: int, speeds: tuple[float, float] = SPEEDS, wide: float = 1.0
) -> Floats:
    """Strokes about the line that pots; `wide` widens the span."""
    assert measured.cut is not None
    span = wide * max(NARROW, 3 * (measured.tolerance or 0.0))
    straight = measured.cut.aim
    return _rows(dice, count, lambda: straight + dice.uniform(-span, span), speeds)


def strokes_anywhere(dice: random.Random, count: int, speeds: tuple[float, float] = SPEEDS) -> Floats:
    return _rows(dice, count, lambda: dice.uniform(-math.pi, math.pi), speeds)


def _rows(dice: random.Random, count: int, aim: Callable[[], float], speeds: tuple[float, float]) -> Floats:
    rows = []
    for _ in range(count):
        side = dice.uniform(-0.3, 0.3) if dice.random() < 0.25 else 0.0
        numbers = (aim(), dice.uniform(*speeds), side, dice.uniform(-0.4, 0.4), 0.0)
        rows.append([round(number, DIGITS) for number in numbers])
    return np.array(rows)


def outcomes(layout: Layout, strokes: Floats) -> Iterator[Outcome]:
    """What each stroke does, in their order."""
    samples = play_all(layout, start_of(layout), strokes)
    for row, numbers in enumerate(strokes):
        yield _outcome(samples, row, numbers)


def _outcome(samples: Samples, row: int, numbers: Floats) -> Outcome:
    aim, speed, side, height, _ = (float(number) for number in numbers)
    fates = dict(zip(samples.names, (int(fate) for fate in samples.fates[row]), strict=True))
    first = int(samples.results[row, R_FIRST])
    return Outcome(
        stroke=Stroke(aim=aim, speed=speed, side=side, height=height),
        fell={ball: POCKETS[fate] for ball, fate in fates.items() if 0 <= fate < len(POCKETS) and ball != CUE},
        scratch=0 <= fates[CUE] < len(POCKETS),
        off_table=tuple(ball for ball, fate in fates.items() if fate == len(POCKETS)),
        first=samples.names[first] if first > 0 else None,
        rails=int(samples.results[row, R_RAILS_AFTER]).bit_count(),
        object_rails=(int(samples.results[row, R_RAILED]) >> 1).bit_count(),
        places={
            ball: (round(float(x), 4), round(float(y), 4))
            for ball, (x, y) in zip(samples.names, samples.places[row], strict=True)
            if fates[ball] < 0
        },
    )
