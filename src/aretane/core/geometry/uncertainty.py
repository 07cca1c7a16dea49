"""How well a shot's angle and distances are known, from how well its places are known.

Angles and ways by first-order error propagation: each coordinate's standard deviation times the figure's slope.
What opens and closes has no slope: it is measured again with the places drawn from their errors. Places 5 to
20 mm off make 1 to 4 degrees at short range, so no angle is shown without this.
"""

from __future__ import annotations

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.geometry.clearance import Gap, gaps
from aretane.core.geometry.measured import MeasuredShot, measure_shot, visible_ball
from aretane.core.layout import Layout
from aretane.core.statistics.rates import Z95

STEP = 1e-4  # metres
DRAWS, LOWEST = 80, 2  # places drawn, and which of the figures in order bounds 95 % of them from below

Between = tuple[float, float]


@dataclass(frozen=True)
class ShotSpread:
    """Half-widths of the 95 % intervals; radians and metres, None where the figure itself is None. `open` and
    `visible` are the intervals themselves. `beside_cue` and `beside_object`: gaps beside the cue ball's way to the
    ghost ball and the object ball's to the mouth, the narrowest first.
    """

    cut_angle: float | None
    cue_distance: float | None
    pocket_distance: float
    open: Between
    visible: Between | None
    beside_cue: tuple[Gap, ...]
    beside_object: tuple[Gap, ...]


def shot_spread(layout: Layout, ball: str, pocket: str, sigma: Mapping[str, float]) -> ShotSpread:
    """The spread of one shot's figures. `sigma` is the standard deviation of each ball's place (metres)."""
    squares = [0.0, 0.0, 0.0]
    shot = measure_shot(layout, ball, pocket)
    for moved in (ball, CUE):
        if moved not in layout.balls:
            continue
        x, y = layout.balls[moved]
        for dx, dy in ((STEP, 0.0), (0.0, STEP)):
            up = _figures(measure_shot(layout.placed(moved, (x + dx, y + dy)), ball, pocket))
            down = _figures(measure_shot(layout.placed(moved, (x - dx, y - dy)), ball, pocket))
            for number, (high, low) in enumerate(zip(up, down, strict=True)):
                squares[number] += ((high - low) / (2 * STEP) * sigma[moved]) ** 2
    cut, cue, to_pocket = (Z95 * math.sqrt(square) for square in squares)
    drawn = _drawn(layout, sigma)
    return ShotSpread(
        cut_angle=None if shot.cut is None else cut,
        cue_distance=None if shot.cut is None else cue,
        pocket_distance=to_pocket,
        open=_between([measure_shot(one, ball, pocket).open for one in drawn]),
        visible=_between([visible_ball(one, ball) for one in drawn]) if layout.cue else None,
        beside_cue=_beside(layout, CUE, shot.ghost, sigma, ball) if layout.cue and shot.cut else (),
        beside_object=_beside(layout, ball, layout.table.pockets[pocket].mouth, sigma, CUE),
    )


def _figures(shot: MeasuredShot) -> tuple[float, float, float]:
    if shot.cut is None:
        return 0.0, 0.0, shot.pocket_distance
    return shot.cut.angle, shot.cut.cue_distance, shot.pocket_distance


def _drawn(layout: Layout, sigma: Mapping[str, float]) -> list[Layout]:
    """The layout as it may as well be. The same each time, so that a figure does not flicker."""
    dice = random.Random(1)
    found = []
    for _ in range(DRAWS):
        one = layout
        for ball, (x, y) in layout.balls.items():
            one = one.placed(ball, (x + dice.gauss(0, sigma[ball]), y + dice.gauss(0, sigma[ball])))
        found.append(one)
    return found


def _between(figures: list[float]) -> Between:
    ordered = sorted(figures)
    return ordered[LOWEST], ordered[-1 - LOWEST]


def _beside(
    layout: Layout, mover: str, end: tuple[float, float], sigma: Mapping[str, float], but: str
) -> tuple[Gap, ...]:
    """Beside the way of one ball: the other balls, but for the one that it is to meet or that sent it."""
    beside = gaps(layout, layout.balls[mover], end, sigma)
    return tuple(one for one in beside if one.what in layout.balls and one.what != but)
