"""The cut: ghost ball, cut angle, fraction of a full ball, and how the aim's error grows.

Sources: the ghost-ball construction and the fraction f = 1 - sin(cut) are common practice; checked
pairs are 3/4 at 14.478, 1/2 at 30 and 1/4 at 48.590 degrees.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from aretane.core.geometry.plane import ahead, bearing, turn
from aretane.core.table import Point

STRAIGHT = 1e-6  # radians; below this a shot has no cut side


@dataclass(frozen=True)
class Cut:
    """The cut that sends the object ball in `object_direction`; angles in radians, lengths in metres.

    `angle` is signed: positive when the object ball leaves to the left of the cue ball's line.
    """

    ghost: Point
    aim: float
    object_direction: float
    angle: float
    cue_distance: float

    @property
    def side(self) -> str | None:
        if abs(self.angle) < STRAIGHT:
            return None
        return "left" if self.angle > 0 else "right"

    @property
    def fraction(self) -> float:
        return fraction_of_full(self.angle)


def fraction_of_full(cut_angle: float) -> float:
    """How much of the object ball is covered at contact: 1 full, 0 a miss."""
    return 1.0 - math.sin(abs(cut_angle))


def ghost_ball(ball: Point, direction: float, reach: float) -> Point:
    """Where the cue ball's centre is at contact: `reach` (sum of the radii) behind the ball's line."""
    return ahead(ball, direction, -reach)


def cut_for(cue: Point, ball: Point, direction: float, reach: float) -> Cut | None:
    """The cut that sends `ball` in `direction`, or None where no contact does (90 degrees and more)."""
    ghost = ghost_ball(ball, direction, reach)
    distance = math.dist(cue, ghost)
    if distance < 1e-9:  # already touching in line: the cue ball can only be pushed through straight
        return Cut(ghost, direction, direction, 0.0, 0.0)
    aim = bearing(cue, ghost)
    angle = turn(aim, direction)
    if abs(angle) >= math.pi / 2:
        return None
    return Cut(ghost, aim, direction, angle, distance)


def tolerance(cue: Point, ball: Point, window: tuple[float, float], reach: float) -> float | None:
    """Half-angle of the cue ball's aim that keeps the object ball inside `window`; None if none does.

    The two edges of the window are carried back through the ghost ball exactly. For small windows this
    is the window divided by the error gain: L/reach - 1 for a straight shot at centre distance L, and
    D/(reach cos(cut)) for a cut at distance D from the ghost ball.
    """
    low, high = window
    line = bearing(cue, ball)
    reachable = math.acos(min(1.0, reach / max(reach, math.dist(cue, ball))))
    middle = turn(line, (low + high) / 2)
    half = (high - low) / 2
    one, two = max(middle - half, -reachable), min(middle + half, reachable)
    if two <= one:
        return None

    def aim(offset: float) -> float:
        return bearing(cue, ghost_ball(ball, line + offset, reach))

    return abs(turn(aim(one), aim(two))) / 2
