"""Ball against cushion, after I. Han, "Dynamics in carom and three cushion billiards" (2005).

The nose touches the ball above its centre, so the contact's normal points into the table and down by θ with
sin θ = h/R - 1. Restitution acts along that normal, Coulomb friction across it up to what stops the slip, and the
bed takes the upright part of the impulse. Chosen before the model of Mathavan, Jackson and Parkin (2010),
which integrates the bed's friction through the contact: that costs some hundred steps where this costs one, and
its two free numbers, restitution and friction, can be found from a table's own recorded paths.
"""

from __future__ import annotations

import math

from aretane.core.physics.chance import rail_liveliness, turn_off_rail
from aretane.core.physics.compiled import (
    P_LUCK, P_RAIL_FRICTION, P_RAIL_RESTITUTION, P_RAIL_SOFTENING, PHASE, RADIUS, ROLL, SLOW, VX, VY, VZ, WX,
    WY, WZ, Z, Floats, Ints, kernel,
)  # fmt: skip

_LEAST_RESTITUTION = 0.4


@kernel
def ball_on_cushion(b: Floats, k: Ints, p: Floats, i: int, nx: float, ny: float, nose: float) -> bool:
    """Rebound of ball i from a cushion whose normal into the table is (nx, ny) and whose nose is `nose` high.

    False, and nothing changed, if the ball flies over it.
    """
    towards = -(b[i, VX] * nx + b[i, VY] * ny)
    if towards < SLOW and k[i, PHASE] <= ROLL:
        _lean(b, i, nx, ny, towards)
        return True
    radius = b[i, RADIUS]
    sin = min(max((nose - b[i, Z]) / radius, -0.95), 0.95)
    cos = math.sqrt(1.0 - sin * sin)
    # e: from the ball's centre to the contact; the impulse goes along -e.
    ex, ey, ez = -cos * nx, -cos * ny, sin
    closing = b[i, VX] * ex + b[i, VY] * ey + b[i, VZ] * ez
    if closing <= 0.0:
        return False
    restitution = max(p[P_RAIL_RESTITUTION] - p[P_RAIL_SOFTENING] * closing, _LEAST_RESTITUTION)
    if p[P_LUCK] != 0.0:
        restitution = min(restitution * rail_liveliness(b, p, i), 1.0)
    push = (1.0 + restitution) * closing
    ux = b[i, VX] - closing * ex + radius * (b[i, WY] * ez - b[i, WZ] * ey)
    uy = b[i, VY] - closing * ey + radius * (b[i, WZ] * ex - b[i, WX] * ez)
    uz = b[i, VZ] - closing * ez + radius * (b[i, WX] * ey - b[i, WY] * ex)
    slip = math.sqrt(ux * ux + uy * uy + uz * uz)
    fx, fy, fz = 0.0, 0.0, 0.0
    if slip > 0.0:
        drag = min(p[P_RAIL_FRICTION] * push, slip / 3.5) / slip
        fx, fy, fz = -drag * ux, -drag * uy, -drag * uz
    b[i, VX] += fx - push * ex
    b[i, VY] += fy - push * ey
    b[i, VZ] += fz - push * ez
    turn = 2.5 / radius
    b[i, WX] += turn * (ey * fz - ez * fy)
    b[i, WY] += turn * (ez * fx - ex * fz)
    b[i, WZ] += turn * (ex * fy - ey * fx)
    if k[i, PHASE] <= ROLL:
        b[i, VZ] = 0.0
    if p[P_LUCK] != 0.0:
        turn_off_rail(b, p, i, nx, ny)
    return True


@kernel
def _lean(b: Floats, i: int, nx: float, ny: float, towards: float) -> None:
    """A ball that only leans on the cushion runs along it: no speed and no slip across are left."""
    b[i, VX] += towards * nx
    b[i, VY] += towards * ny
    across = (b[i, VX] - b[i, RADIUS] * b[i, WY]) * nx + (b[i, VY] + b[i, RADIUS] * b[i, WX]) * ny
    b[i, WY] += across * nx / b[i, RADIUS]
    b[i, WX] -= across * ny / b[i, RADIUS]
