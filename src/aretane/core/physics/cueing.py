"""How low the tip can come, and how far the cue must be raised over a rail or a ball behind the cue ball.

The cue is a straight rod that tapers: what lies behind the cue ball in the cue's own upright plane must stay
below it. With the tip a fraction h of the radius above the centre (across the cue) and the cue raised by e,
the tip meets the ball R (1 + h cos e + sqrt(1 - h²) sin e) above the bed and R (sqrt(1 - h²) cos e - h sin e)
behind its centre.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    PHASE, POTTED, RADIUS, S_LENGTH, S_NOSE, S_WIDTH, X, Y, Floats, Ints, entry, kernel,
)  # fmt: skip

# Elevations that are tried; the first stands for a level cue, which always rises a little over the rail it lies on.
_STEPS = np.radians(np.array([6.0, 9.0, 12.0, 16.0, 20.0, 25.0, 31.0, 38.0, 46.0, 56.0]))
UNREACHABLE = math.radians(90.0)
TIP = 0.0065  # m: radius of a 13 mm tip and the shaft behind it
TAPER = 0.008  # m of radius for each metre of cue (a butt of 29 mm)
CAP, CAP_BEHIND = 0.006, 0.05  # m: the rail's cap lies this much higher than the nose, this far behind it (assumed)
LONGEST = 1.2  # m of cue beyond which nothing is in its way


@kernel
def least_elevation(b: Floats, k: Ints, size: Floats, x: float, y: float, aim: float, height: float) -> float:
    """Least elevation (radians; 0: level; `UNREACHABLE`) to strike the cue ball at (x, y) along `aim` with the
    tip at `height` (fractions of R), past the rail and the balls 1, 2, ... of `b`.
    """
    radius = b[0, RADIUS]
    back_x, back_y = -math.cos(aim), -math.sin(aim)
    along_x = (size[S_LENGTH] - x if back_x > 0.0 else x) / max(abs(back_x), 1e-9)
    along_y = (size[S_WIDTH] - y if back_y > 0.0 else y) / max(abs(back_y), 1e-9)
    nose = min(along_x, along_y)
    cosine = max(abs(back_x) if along_x < along_y else abs(back_y), 0.05)
    flat = math.sqrt(max(1.0 - height * height, 0.0))
    for step in range(len(_STEPS)):
        e = _STEPS[step]
        cos, tan = math.cos(e), math.tan(e)
        tip = radius * (1.0 + height * cos + flat * math.sin(e))
        behind = radius * (flat * cos - height * math.sin(e))
        if not _over(tip, behind, cos, tan, nose, size[S_NOSE]):
            continue
        if not _over(tip, behind, cos, tan, nose + CAP_BEHIND / cosine, size[S_NOSE] + CAP):
            continue
        clear = True
        for i in range(1, b.shape[0]):
            if k[i, PHASE] < POTTED and clear:
                to_x, to_y = b[i, X] - x, b[i, Y] - y
                along = to_x * back_x + to_y * back_y
                aside = abs(to_x * back_y - to_y * back_x)
                clear = _over_ball(tip, behind, cos, tan, along, aside, b[i, RADIUS])
        if clear:
            return 0.0 if step == 0 else e
    return UNREACHABLE


@kernel
def _over(tip: float, behind: float, cos: float, tan: float, away: float, top: float) -> bool:
    """Whether the cue's lower edge passes over something `top` high and `away` behind the ball's centre."""
    along = max(away - behind, 0.0)
    return along > LONGEST or tip + along * tan - (TIP + TAPER * along) / cos >= top


@kernel
def _over_ball(
    tip: float, behind: float, cos: float, tan: float, along: float, aside: float, radius: float
) -> bool:
    """Whether the cue clears a ball `along` behind the cue ball and `aside` of the cue."""
    run = max(along - behind, 0.0)
    room = radius + TIP + TAPER * run
    if along <= 0.0 or aside >= room or run > LONGEST:
        return True
    return (tip + run * tan - radius) * cos >= math.sqrt(room * room - aside * aside)


@entry("float64[::1](float64[:,::1], int64[:,::1], float64[::1], float64[::1], float64[::1])")
def least_elevations(b: Floats, k: Ints, size: Floats, aims: Floats, heights: Floats) -> Floats:
    """`least_elevation` of strokes (n) of the cue ball from where it lies."""
    found = np.empty(len(aims))
    for i in range(len(aims)):
        found[i] = least_elevation(b, k, size, b[0, X], b[0, Y], aims[i], heights[i])
    return found
