"""Ball against ball, and ball against bed.

Ball on ball: restitution along the line of centres, Coulomb friction at the contact with a coefficient that
falls with the slip there (D. G. Alciatore's fit to W. Marlow's measurements), limited to what stops the slip.
That is throw and the transfer of spin in one. Neither ball may leave the bed by it when both are on it: the
upright impulse of the friction, which lets real balls hop by fractions of a millimetre, is left to the bed.
"""

from __future__ import annotations

import math

from aretane.core.physics.chance import ball_friction
from aretane.core.physics.compiled import (
    AIR, DROP, HOP, MASS, P_BALL_RESTITUTION, P_BED_RESTITUTION, P_FRICTION_DECAY, P_FRICTION_FLOOR,
    P_FRICTION_SPAN, P_LUCK, P_SLIDE, PHASE, RADIUS, ROLL, SLOW, VX, VY, VZ, WX, WY, WZ, X, Y, Z, Floats, Ints,
    kernel,
)  # fmt: skip
from aretane.core.physics.motion import slip_x, slip_y


@kernel
def ball_on_ball(b: Floats, k: Ints, p: Floats, i: int, j: int) -> None:
    """Exchange momentum and spin between two touching balls."""
    nx, ny, nz = _normal(b, i, j)
    closing = closing_speed(b, i, j)
    # A contact slower than SLOW is pushed apart at SLOW: with no restitution it would repeat for ever.
    opening = p[P_BALL_RESTITUTION] * closing if closing >= SLOW else SLOW
    push = (closing + opening) / (1.0 / b[i, MASS] + 1.0 / b[j, MASS])
    _apply(b, i, push, 0.0, 0.0, 0.0, -nx, -ny, -nz)
    _apply(b, j, push, 0.0, 0.0, 0.0, nx, ny, nz)
    if push > 0.0:
        rub(b, p, i, j, push)
    level = k[i, PHASE] <= ROLL and k[j, PHASE] <= ROLL
    settle_height(b, k, p, i, level)
    settle_height(b, k, p, j, level)


@kernel
def closing_speed(b: Floats, i: int, j: int) -> float:
    """How fast two touching balls approach along their line of centres."""
    nx, ny, nz = _normal(b, i, j)
    return (b[i, VX] - b[j, VX]) * nx + (b[i, VY] - b[j, VY]) * ny + (b[i, VZ] - b[j, VZ]) * nz  # type: ignore[no-any-return]


@kernel
def _normal(b: Floats, i: int, j: int) -> tuple[float, float, float]:
    """Unit vector from ball i to ball j."""
    nx, ny, nz = b[j, X] - b[i, X], b[j, Y] - b[i, Y], b[j, Z] - b[i, Z]
    length = math.sqrt(nx * nx + ny * ny + nz * nz)
    return nx / length, ny / length, nz / length


@kernel
def rub(b: Floats, p: Floats, i: int, j: int, push: float) -> None:
    """Friction between two balls that were pressed together with the impulse `push`."""
    nx, ny, nz = _normal(b, i, j)
    dvx, dvy, dvz = b[i, VX] - b[j, VX], b[i, VY] - b[j, VY], b[i, VZ] - b[j, VZ]
    along = dvx * nx + dvy * ny + dvz * nz
    # Velocity of ball i's surface against ball j's, without the part along the line of centres.
    sx = b[i, RADIUS] * b[i, WX] + b[j, RADIUS] * b[j, WX]
    sy = b[i, RADIUS] * b[i, WY] + b[j, RADIUS] * b[j, WY]
    sz = b[i, RADIUS] * b[i, WZ] + b[j, RADIUS] * b[j, WZ]
    ux = dvx - along * nx + sy * nz - sz * ny
    uy = dvy - along * ny + sz * nx - sx * nz
    uz = dvz - along * nz + sx * ny - sy * nx
    slip = math.sqrt(ux * ux + uy * uy + uz * uz)
    if slip == 0.0:
        return
    friction = p[P_FRICTION_FLOOR] + p[P_FRICTION_SPAN] * math.exp(-p[P_FRICTION_DECAY] * slip)
    if p[P_LUCK] != 0.0:
        friction *= ball_friction(b, p, j)
    stops = slip / (3.5 * (1.0 / b[i, MASS] + 1.0 / b[j, MASS]))  # 1/m + R²/I = 7/2m for a solid sphere
    drag = min(friction * push, stops) / slip
    fx, fy, fz = -drag * ux, -drag * uy, -drag * uz
    _apply(b, i, 0.0, fx, fy, fz, -nx, -ny, -nz)
    _apply(b, j, 0.0, -fx, -fy, -fz, nx, ny, nz)


@kernel
def _apply(
    b: Floats, i: int, push: float, fx: float, fy: float, fz: float, nx: float, ny: float, nz: float
) -> None:
    """Impulse `push` along n, the ball's own outward push, and friction f at the point opposite to n."""
    m = b[i, MASS]
    b[i, VX] += (push * nx + fx) / m
    b[i, VY] += (push * ny + fy) / m
    b[i, VZ] += (push * nz + fz) / m
    turn = -2.5 / (m * b[i, RADIUS])  # the contact lies at -R n; moment of inertia 2/5 m R²
    b[i, WX] += turn * (ny * fz - nz * fy)
    b[i, WY] += turn * (nz * fx - nx * fz)
    b[i, WZ] += turn * (nx * fy - ny * fx)


@kernel
def settle_height(b: Floats, k: Ints, p: Floats, i: int, level: bool) -> None:
    """After an impulse: whether the ball stays on the bed, bounces from it, or flies."""
    if k[i, PHASE] == DROP or k[i, PHASE] == AIR:
        return
    if level:
        b[i, VZ] = 0.0
        return
    if b[i, VZ] < 0.0:
        b[i, VZ] = -p[P_BED_RESTITUTION] * b[i, VZ]
    if b[i, VZ] > HOP:
        k[i, PHASE] = AIR
    else:
        b[i, VZ] = 0.0


@kernel
def land(b: Floats, k: Ints, p: Floats, i: int) -> None:
    """A flying ball meets the bed: it bounces or stays, and the bed's friction takes its share of the slip."""
    down = -b[i, VZ]
    up = p[P_BED_RESTITUTION] * down
    if up <= HOP:
        up = 0.0
    ux, uy = slip_x(b, i), slip_y(b, i)
    slip = math.sqrt(ux * ux + uy * uy)
    if slip > 0.0:
        drag = min(p[P_SLIDE] * (down + up), slip / 3.5)
        fx, fy = -drag * ux / slip, -drag * uy / slip
        b[i, VX] += fx
        b[i, VY] += fy
        turn = 2.5 / b[i, RADIUS]
        b[i, WX] += turn * fy
        b[i, WY] -= turn * fx
    b[i, Z], b[i, VZ] = b[i, RADIUS], up
    k[i, PHASE] = AIR if up > 0.0 else ROLL
