"""What nobody knows of the table before the shot: rails, friction and bed are never quite the same.

Every shot that is played with chance has a number, its luck. Whatever a ball meets draws from that number, from the
ball and from how many chance errors it has met before, and from nothing else: two variants of a shot with the same
luck meet the same table (common random numbers), in whatever order things happen. Luck 0 is the table without
chance.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    AX, AY, DRAWN, P_CLING_CHANCE, P_CLING_GAIN, P_LUCK, P_RAIL_SCATTER, P_RAIL_TURN, P_THROW_SCATTER, P_TILT,
    P_TILT_X, P_TILT_Y, VX, VY, Floats, kernel,
)  # fmt: skip

MOST_LUCK = 2**52  # numbers of shots are kept in a float
_BED, _HAND = 63, 62  # the streams that bed and hand draw from; balls draw from 0 to 21


@kernel
def begin(p: Floats, luck: int) -> None:
    """Draw what holds for a whole shot: the way in which the bed slopes."""
    p[P_LUCK] = luck
    p[P_TILT_X] = p[P_TILT_Y] = 0.0
    if luck != 0:
        p[P_TILT_X] = p[P_TILT] * _normal(luck, _BED, 0)
        p[P_TILT_Y] = p[P_TILT] * _normal(luck, _BED, 1)


@kernel
def rail_liveliness(b: Floats, p: Floats, i: int) -> float:
    """Factor on a rail's restitution, this time."""
    return 1.0 + p[P_RAIL_SCATTER] * _next(b, p, i)  # type: ignore[no-any-return]


@kernel
def turn_off_rail(b: Floats, p: Floats, i: int, nx: float, ny: float) -> None:
    """Turn a ball that has come off a cushion with normal (nx, ny) by this time's error; never back into it."""
    angle = p[P_RAIL_TURN] * _next(b, p, i)
    cos, sin = math.cos(angle), math.sin(angle)
    vx, vy = cos * b[i, VX] - sin * b[i, VY], sin * b[i, VX] + cos * b[i, VY]
    if vx * nx + vy * ny > 0.0:
        b[i, VX], b[i, VY] = vx, vy


@kernel
def ball_friction(b: Floats, p: Floats, i: int) -> float:
    """Factor on the friction between two balls, this time; now and then they cling."""
    gain = math.exp(p[P_THROW_SCATTER] * _next(b, p, i))
    clings = _uniform(int(p[P_LUCK]), i, int(b[i, DRAWN]), 2) < p[P_CLING_CHANCE]
    return gain * p[P_CLING_GAIN] if clings else gain


@kernel
def roll_off(b: Floats, p: Floats, i: int, speed: float) -> None:
    """The slope across a rolling ball's way pulls it aside: 5/7 g for each radian (a solid sphere)."""
    ux, uy = b[i, VX] / speed, b[i, VY] / speed
    across = p[P_TILT_Y] * ux - p[P_TILT_X] * uy
    pull = 5.0 / 7.0 * 9.81 * across
    b[i, AX] -= pull * uy
    b[i, AY] += pull * ux


@kernel
def _next(b: Floats, p: Floats, i: int) -> float:
    """The next standard normal error that ball i meets."""
    b[i, DRAWN] += 1.0
    return _normal(int(p[P_LUCK]), i, int(b[i, DRAWN]))


@kernel
def hand_error(luck: int, which: int) -> float:
    """Standard normal error number `which` of the hand in the shot with this luck."""
    return _normal(luck, _HAND, which)


@kernel
def _normal(luck: int, stream: int, count: int) -> float:
    """Box and Muller's transform of two even numbers."""
    one, other = _uniform(luck, stream, count, 0), _uniform(luck, stream, count, 1)
    return math.sqrt(-2.0 * math.log(1.0 - one)) * math.cos(2.0 * math.pi * other)


@kernel
def _uniform(luck: int, stream: int, count: int, part: int) -> float:
    """An even number in [0, 1) from a counter, by the mixing of G. Steele, D. Lea and C. Flood (SplitMix, 2014)."""
    state = np.uint64(luck) * np.uint64(0x9E3779B97F4A7C15)
    state += np.uint64(stream * 4096 + count * 4 + part) * np.uint64(0xD1B54A32D192ED03)
    state = (state ^ (state >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    state = (state ^ (state >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    state = state ^ (state >> np.uint64(31))
    return float(state >> np.uint64(11)) / 9007199254740992.0
