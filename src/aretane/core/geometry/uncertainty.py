"""How well a shot's angle and distances are known, from how well its places are known.

First-order error propagation: each coordinate's standard deviation times the slope of the figure.
Places 5 to 20 mm off make 1 to 4 degrees at short range, so no angle is shown without this.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot, measure_shot
from aretane.core.layout import Layout

STEP = 1e-4  # metres
TWO_SIDED_95 = 1.959964


@dataclass(frozen=True)
class ShotSpread:
    """Half-widths of the 95 % intervals; radians and metres, None where the figure itself is None."""

    cut_angle: float | None
    cue_distance: float | None
    pocket_distance: float


def shot_spread(layout: Layout, ball: str, pocket: str, sigma: Mapping[str, float]) -> ShotSpread:
    """The spread of one shot's figures. `sigma` is the standard deviation of each ball's place (metres)."""
    squares = [0.0, 0.0, 0.0]
    cutless = measure_shot(layout, ball, pocket).cut is None
    for moved in (ball, CUE):
        if moved not in layout.balls:
            continue
        x, y = layout.balls[moved]
        for dx, dy in ((STEP, 0.0), (0.0, STEP)):
            up = _figures(measure_shot(layout.placed(moved, (x + dx, y + dy)), ball, pocket))
            down = _figures(measure_shot(layout.placed(moved, (x - dx, y - dy)), ball, pocket))
            for number, (high, low) in enumerate(zip(up, down, strict=True)):
                squares[number] += ((high - low) / (2 * STEP) * sigma[moved]) ** 2
    cut, cue, to_pocket = (TWO_SIDED_95 * math.sqrt(square) for square in squares)
    return ShotSpread(None if cutless else cut, None if cutless else cue, to_pocket)


def _figures(shot: MeasuredShot) -> tuple[float, float, float]:
    if shot.cut is None:
        return 0.0, 0.0, shot.pocket_distance
    return shot.cut.angle, shot.cut.cue_distance, shot.pocket_distance
