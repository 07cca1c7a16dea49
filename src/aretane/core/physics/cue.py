"""What the cue does to the cue ball.

An impulse along the cue at the tip's place on the ball gives speed and spin together: a tip b R off centre
gives R ω = 5/2 b v. A tip to the side also pushes the ball off the cue's line (squirt), because the end of the
cue has mass: tan α = 5/2 b sqrt(1 - b²) / (1 + m_r + 5/2 (1 - b²)), m_r the ball's mass over the end mass (D.
G. Alciatore, technical proof A.31, after R. Cross). A raised cue presses the ball on the bed: it hops, and its
tilted spin makes it swerve. Beyond half a radius the tip slips: the impulse then leaves the cue's direction by
as much as the contact lies beyond the friction cone, and gives no more spin than at its edge.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from aretane.core.physics.compiled import (
    AIR, HOP, P_BED_RESTITUTION, PHASE, RADIUS, ROLL, VX, VY, VZ, WX, WY, WZ, Floats, Ints, kernel,
)  # fmt: skip

TIP_LIMIT = 0.5  # of R: the friction of a chalked tip holds no further out (common practice)


@kernel
def squirt(side: float, end_mass_ratio: float) -> float:
    """Angle between the cue and the ball's path, away from the side that is struck."""
    inner = 1.0 - side * side
    return math.atan(2.5 * side * math.sqrt(inner) / (1.0 + end_mass_ratio + 2.5 * inner))


def squirt_of(side: Any, end_mass_ratio: float) -> Any:
    """The same for arrays."""
    inner = 1.0 - side * side
    return np.arctan(2.5 * side * np.sqrt(inner) / (1.0 + end_mass_ratio + 2.5 * inner))


@kernel
def strike(
    b: Floats, k: Ints, p: Floats, aim: float, speed: float, side: float, height: float, elevation: float,
    end_mass_ratio: float,
) -> None:  # fmt: skip
    """Give ball 0 the velocity and spin of a stroke whose cue points along `aim` in plan."""
    offset = math.sqrt(side * side + height * height)
    direction, lift = aim, 0.0
    if offset > TIP_LIMIT:
        slipped = math.asin(min(offset, 1.0)) - math.asin(TIP_LIMIT)
        direction += slipped * side / offset
        lift = math.tan(-slipped * height / offset)
        side, height = side * TIP_LIMIT / offset, height * TIP_LIMIT / offset
    direction += squirt(side, end_mass_ratio)
    cx, cy = math.cos(direction), math.sin(direction)
    b[0, VX], b[0, VY] = speed * cx, speed * cy
    sin, cos = math.sin(elevation), math.cos(elevation)
    spin = 2.5 * speed / (cos * b[0, RADIUS])
    tilt = spin * side * sin  # about the cue ball's direction of travel: swerve
    b[0, WX] = tilt * cx - spin * height * cy
    b[0, WY] = tilt * cy + spin * height * cx
    b[0, WZ] = spin * side * cos
    up = (lift - sin / cos) * speed
    if up < 0.0:
        up = -p[P_BED_RESTITUTION] * up
    b[0, VZ] = up if up > HOP else 0.0
    k[0, PHASE] = AIR if up > HOP else ROLL


def cue_speed(speed: float, side: float, height: float, ball_mass: float, cue_mass: float = 0.54) -> float:
    """Speed of the cue before it gives the ball `speed`: V = v (1 + m/M + 5/2 b²) / 2.

    After W. Leckie and M. Greenspan, "An event-based pool physics simulator" (2005); a cue of 19 oz.
    """
    return speed * (1.0 + ball_mass / cue_mass + 2.5 * (side * side + height * height)) / 2.0
