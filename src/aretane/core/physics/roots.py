"""When two quadratically moving things meet: the first crossing from apart to together.

The tests hold both functions against a solver that goes through the chain of derivatives.
"""

from __future__ import annotations

import math

from aretane.core.physics.compiled import FAR, inlined, kernel

_ON = 1e-12  # m: on the line
_STILL = 1e-12  # m/s
_TOUCHING = 1e-13  # m²: squared distances this near to contact are contact
_STEPS = 200


@inlined
def crossing(c0: float, c1: float, c2: float) -> float:
    """First t >= 0 at which c0 + c1 t + c2 t² falls through zero; infinite if it never does.

    On the line already, only a movement or an acceleration inwards counts; one that moves away is asked for its
    return.
    """
    if c0 <= _ON:
        if c1 < -_STILL:
            return 0.0
        if c1 <= _STILL:
            return 0.0 if c2 < -1e-9 else FAR
        return -c1 / c2 if c2 < 0.0 else FAR
    within = c1 * c1 - 4.0 * c2 * c0
    if c2 >= 0.0:
        if c1 >= 0.0 or within <= 0.0:
            return FAR
        return 2.0 * c0 / (math.sqrt(within) - c1)
    if c1 > 0.0:
        return (c1 + math.sqrt(within)) / (-2.0 * c2)
    return 2.0 * c0 / (math.sqrt(within) - c1)


@kernel
def first_contact(
    dx: float, dy: float, dz: float, vx: float, vy: float, vz: float,
    ax: float, ay: float, az: float, reach: float, horizon: float,
) -> float:  # fmt: skip
    """First t in [0, horizon] at which |d + v t + a t²/2| falls to `reach`; infinite if it does not.

    A quartic f(t). From the left, f is bounded below by the parabola that has its value and slope here and
    the least curvature that f has until the horizon; stepping to that parabola's root can never pass the
    first root of f, and near it converges as Newton's method does.
    """
    c0 = dx * dx + dy * dy + dz * dz - reach * reach
    c1 = 2.0 * (dx * vx + dy * vy + dz * vz)
    c2 = vx * vx + vy * vy + vz * vz + dx * ax + dy * ay + dz * az
    c3 = vx * ax + vy * ay + vz * az
    c4 = 0.25 * (ax * ax + ay * ay + az * az)
    if c0 <= _TOUCHING:
        if c1 < -_STILL:
            return 0.0
        if c1 <= _STILL and c2 < -1e-9:
            return 0.0
        c0, c1 = 0.0, max(c1, 0.0)  # running along one another: what rounding left of an approach is none
    lowest = -c3 / (4.0 * c4) if c4 > 0.0 else (0.0 if c3 >= 0.0 else horizon)
    t, f, g = 0.0, c0, c1
    for _ in range(_STEPS):
        at = min(max(lowest, t), horizon)
        half = c2 + (3.0 * c3 + 6.0 * c4 * at) * at
        within = g * g - 4.0 * half * f
        if half >= 0.0:
            if g >= 0.0 or within < 0.0:
                return FAR
            t += 2.0 * f / (math.sqrt(within) - g)
        elif g > 0.0:
            t += (g + math.sqrt(within)) / (-2.0 * half)
        else:
            t += 2.0 * f / (math.sqrt(within) - g)
        if t > horizon:
            return FAR
        f = c0 + t * (c1 + t * (c2 + t * (c3 + t * c4)))
        g = c1 + t * (2.0 * c2 + t * (3.0 * c3 + t * 4.0 * c4))
        if f <= _TOUCHING:
            if g < 0.0:
                return t
            f = max(f, 0.0)
            if g == 0.0:
                return FAR
    return t
