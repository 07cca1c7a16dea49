"""A ball between two events: sliding, rolling, standing (perhaps spinning), flying.

Slip u = (vx - R ωy, vy + R ωx) is the velocity of the ball's lowest point. While it lasts, friction µ m g acts
against it: its direction stays, |u| falls by 7 µ g / 2 per second, and the ball's path is a parabola
(Coriolis, Théorie mathématique des effets du jeu de billard, 1835). Then the ball rolls and loses µr g per
second along a straight line. Spin about the upright axis dies at its own rate and needs no event.
"""

from __future__ import annotations

import math

from aretane.core.physics.chance import roll_off
from aretane.core.physics.compiled import (
    AIR, AX, AY, AZ, BOX_HIGH_X, BOX_HIGH_Y, BOX_LOW_X, BOX_LOW_Y, DROP, FAR, GRAVITY, P_CAPTURE_DEPTH, P_LUCK,
    P_ROLL, P_SLIDE, P_SPIN, PHASE, RADIUS, REST, ROLL, SLIDE, T0, VX, VY, VZ, WX, WY, WZ, X, Y, Z,
    Floats, Ints, inlined,
)  # fmt: skip

_NO_SLIP = 1e-9  # m/s
_STILL = 1e-7  # m/s


@inlined
def slip_x(b: Floats, i: int) -> float:
    return b[i, VX] - b[i, RADIUS] * b[i, WY]  # type: ignore[no-any-return]


@inlined
def slip_y(b: Floats, i: int) -> float:
    return b[i, VY] + b[i, RADIUS] * b[i, WX]  # type: ignore[no-any-return]


@inlined
def start_phase(b: Floats, k: Ints, p: Floats, i: int) -> float:
    """Set phase and acceleration from place and velocities; the time (from T0) that the phase lasts."""
    if k[i, PHASE] == AIR or k[i, PHASE] == DROP:
        b[i, AX], b[i, AY], b[i, AZ] = 0.0, 0.0, -GRAVITY
        floor = b[i, RADIUS] * (1.0 - p[P_CAPTURE_DEPTH]) if k[i, PHASE] == DROP else b[i, RADIUS]
        height = max(b[i, Z] - floor, 0.0)
        return (b[i, VZ] + math.sqrt(b[i, VZ] * b[i, VZ] + 2.0 * GRAVITY * height)) / GRAVITY  # type: ignore[no-any-return]
    b[i, Z], b[i, VZ], b[i, AZ] = b[i, RADIUS], 0.0, 0.0
    ux, uy = slip_x(b, i), slip_y(b, i)
    slip = math.sqrt(ux * ux + uy * uy)
    if slip > _NO_SLIP:
        k[i, PHASE] = SLIDE
        pull = p[P_SLIDE] * GRAVITY
        b[i, AX], b[i, AY] = -pull * ux / slip, -pull * uy / slip
        return 2.0 * slip / (7.0 * pull) if pull > 0.0 else FAR
    speed = math.sqrt(b[i, VX] * b[i, VX] + b[i, VY] * b[i, VY])
    if speed > _STILL:
        k[i, PHASE] = ROLL
        pull = p[P_ROLL] * GRAVITY
        b[i, AX], b[i, AY] = -pull * b[i, VX] / speed, -pull * b[i, VY] / speed
        if p[P_LUCK] != 0.0:
            roll_off(b, p, i, speed)
        return speed / pull if pull > 0.0 else FAR
    k[i, PHASE] = REST
    b[i, VX], b[i, VY], b[i, WX], b[i, WY], b[i, AX], b[i, AY] = 0.0, 0.0, 0.0, 0.0, 0.0, 0.0
    return FAR


@inlined
def advance(b: Floats, k: Ints, p: Floats, i: int, now: float) -> None:
    """Bring ball i to time `now` within its phase."""
    dt = now - b[i, T0]
    b[i, T0] = now
    if dt <= 0.0:
        return
    phase = k[i, PHASE]
    if phase != AIR and phase != DROP and b[i, WZ] != 0.0:
        left = max(abs(b[i, WZ]) - p[P_SPIN] * dt, 0.0)
        b[i, WZ] = left if b[i, WZ] > 0.0 else -left
    if phase == REST:
        return
    b[i, X] += (b[i, VX] + 0.5 * b[i, AX] * dt) * dt
    b[i, Y] += (b[i, VY] + 0.5 * b[i, AY] * dt) * dt
    b[i, Z] += (b[i, VZ] + 0.5 * b[i, AZ] * dt) * dt
    b[i, VX] += b[i, AX] * dt
    b[i, VY] += b[i, AY] * dt
    b[i, VZ] += b[i, AZ] * dt
    if phase == SLIDE:
        turn = 2.5 / b[i, RADIUS] * dt  # torque of the friction over the moment of inertia 2/5 m R²
        b[i, WX] += turn * b[i, AY]
        b[i, WY] -= turn * b[i, AX]
    elif phase == ROLL:
        roll(b, i)


@inlined
def roll(b: Floats, i: int) -> None:
    """Give the ball the spin with which it rolls at its speed."""
    b[i, WX] = -b[i, VY] / b[i, RADIUS]
    b[i, WY] = b[i, VX] / b[i, RADIUS]


@inlined
def end_phase(b: Floats, k: Ints, i: int) -> None:
    """What is exactly true at the end of a phase, whatever was rounded on the way."""
    if k[i, PHASE] == SLIDE:
        roll(b, i)
    elif k[i, PHASE] == ROLL:
        b[i, VX], b[i, VY], b[i, WX], b[i, WY] = 0.0, 0.0, 0.0, 0.0


@inlined
def bound_path(b: Floats, i: int, lasts: float) -> None:
    """The box around the ball's path over the next `lasts` seconds."""
    b[i, BOX_LOW_X], b[i, BOX_HIGH_X] = _extent(b[i, X], b[i, VX], b[i, AX], lasts)
    b[i, BOX_LOW_Y], b[i, BOX_HIGH_Y] = _extent(b[i, Y], b[i, VY], b[i, AY], lasts)


@inlined
def _extent(x: float, v: float, a: float, lasts: float) -> tuple[float, float]:
    if lasts == FAR:
        return (x, x) if v == 0.0 else (-FAR, FAR)
    end = x + (v + 0.5 * a * lasts) * lasts
    low, high = min(x, end), max(x, end)
    if v * a < 0.0 and -v / a < lasts:
        turn = x - 0.5 * v * v / a
        low, high = min(low, turn), max(high, turn)
    return low, high
