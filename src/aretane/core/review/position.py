"""Position error: how far from its target zone a ball stopped, and in which way.

Common practice of the trade: speed is judged along the ball's last leg (long or short), the line
across it (left or right), and the side of the next ball's line decides what can be played.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from aretane.core.geometry.plane import bearing, turn
from aretane.core.geometry.zone import GOOD, Zone
from aretane.core.statistics.rates import Z95
from aretane.core.table import Point

HAND_PLACED = 0.010  # metres, one standard deviation of a ball placed on the drawing by eye (assumed)
STRAIGHT_ON = math.radians(3.0)  # nearer than this to the next ball's line counts as straight on it


@dataclass(frozen=True)
class PositionError:
    """Vector from the nearest point of the zone to where the ball stopped; zero inside. Metres.

    `along` and `across` split it along the last leg: positive long, positive left. `assumed` says that
    no leg was logged and the direction is that from the contact. `plus_minus` is the half-width of the
    95 % interval of the ball's place in any one direction. `side` compares the side of the next ball's
    line with the one that was meant. `length` is `long`, `short`, or None where the place cannot tell.
    """

    vector: Point
    distance: float
    along: float
    across: float
    assumed: bool
    plus_minus: float
    grade: str | None
    side: str | None
    length: str | None


def position_error(
    zones: Sequence[Zone],
    stop: Point,
    leg_start: Point,
    *,
    assumed: bool,
    sigma: float = HAND_PLACED,
    next_line: tuple[Point, Point] | None = None,
) -> PositionError | None:
    """The error of a ball that stopped at `stop` after a last leg from `leg_start`.

    Measured from the ideal and acceptable zones together; None if there are none. `next_line` is the
    next ball's place and the mouth it goes to; `sigma` the standard deviation of the place in metres.
    """
    good = [zone for zone in zones if zone.grade in GOOD]
    if not good:
        return None
    target = min(good, key=lambda zone: math.dist(zone.nearest(stop), stop))
    nearest = target.nearest(stop)
    dx, dy = stop[0] - nearest[0], stop[1] - nearest[1]
    leg = bearing(leg_start, stop)
    ux, uy = math.cos(leg), math.sin(leg)
    along, plus_minus = dx * ux + dy * uy, Z95 * sigma
    return PositionError(
        vector=(dx, dy),
        distance=math.hypot(dx, dy),
        along=along,
        across=-dx * uy + dy * ux,
        assumed=assumed,
        plus_minus=plus_minus,
        grade=next((zone.grade for zone in _best_first(zones) if zone.contains(stop)), None),
        side=_side(target.centre, stop, next_line) if next_line else None,
        length=None if abs(along) <= plus_minus else "long" if along > 0 else "short",
    )


def _best_first(zones: Sequence[Zone]) -> list[Zone]:
    order = {"ideal": 0, "acceptable": 1, "recoverable": 2, "forbidden": 3}
    return sorted(zones, key=lambda zone: order.get(zone.grade, 4))


def _side(meant: Point, stop: Point, line: tuple[Point, Point]) -> str | None:
    """`right` or `wrong` side of the next ball's line, `straight` when on it; None if straight was meant."""
    ball, mouth = line
    away = bearing(mouth, ball)
    planned, played = turn(away, bearing(ball, meant)), turn(away, bearing(ball, stop))
    if abs(planned) < STRAIGHT_ON:
        return None
    if abs(played) < STRAIGHT_ON:
        return "straight"
    return "right" if planned * played > 0 else "wrong"
