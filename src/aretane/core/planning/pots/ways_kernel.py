"""The ways of a ball into its pockets from a place of the cue ball: windows, cuts, the strokes that can be reached.

Compiled twin of `geometry.pocket_window`; the tests hold both equal.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    PHASE,
    POCKET_AX,
    POCKET_AY,
    POCKET_MX,
    POCKET_MY,
    POTTED,
    RADIUS,
    TIP_AX,
    TIP_AY,
    TIP_BX,
    TIP_BY,
    Floats,
    Ints,
    X,
    Y,
    allocating,
    entry,
    kernel,
)  # fmt: skip
from aretane.core.physics.cueing import least_elevation
from aretane.core.planning.pots.pot_kernel import (
    C_ELEVATION,
    C_HEIGHT,
    C_HIGH,
    C_LOW,
    C_PACE,
    C_SIDE,
    C_SPEED,
    C_WIDER,
    C_X,
    C_Y,
)  # fmt: skip
from aretane.core.skill.effort import aim_effort, speed_effort

HANGING = math.radians(50)
PARTS = 3  # of a window from which a ball is sent in: the whole, and its two sides where the ball hangs
ASIDE = math.radians(33)  # a ball that hangs is sent in by its side as well: the cue ball does not follow it then
STEEPEST_CUT = math.radians(85)
NARROWEST = math.radians(0.4)  # a smaller window into a pocket is no pot
MOST_RAISED = math.radians(32)  # a pot with the cue raised more is no plain pot
NEARLY = 0.8  # of the contact distance: a ball that stands this far in the cue ball's way closes it
_PIECES = 24  # a window is cut into at most so many
_WAYS_SIGNATURE = "float64[:,::1], int64[:,::1], float64[::1], float64[:,::1]"


@kernel
def turned(angle: float) -> float:
    """The angle in (-pi, pi]."""
    return angle - 2.0 * math.pi * math.ceil(angle / (2.0 * math.pi) - 0.5)


@kernel
def jaw_window(pockets: Floats, q: int, x: float, y: float, radius: float) -> tuple[float, float, bool]:
    """What the jaws of pocket q leave a ball at (x, y): low, high, and whether it passes at all."""
    mx, my = pockets[q, POCKET_MX], pockets[q, POCKET_MY]
    ax, ay = pockets[q, POCKET_AX], pockets[q, POCKET_AY]
    width = math.hypot(pockets[q, TIP_AX] - pockets[q, TIP_BX], pockets[q, TIP_AY] - pockets[q, TIP_BY])
    along = (x - mx) * ax + (y - my) * ay
    across = abs((x - mx) * ay - (y - my) * ax)
    if along >= -1e-6 and across < width / 2:  # it hangs between the jaws
        inwards = math.atan2(ay, ax)
        return inwards - HANGING, inwards + HANGING, True
    to_mouth = math.atan2(my - y, mx - x)
    if math.cos(turned(to_mouth - math.atan2(ay, ax))) <= 0.0:
        return 0.0, 0.0, False
    one, one_half = _tip(pockets[q, TIP_AX], pockets[q, TIP_AY], x, y, radius, to_mouth)
    two, two_half = _tip(pockets[q, TIP_BX], pockets[q, TIP_BY], x, y, radius, to_mouth)
    if two < one:
        one, one_half, two, two_half = two, two_half, one, one_half
    low, high = one + one_half, two - two_half
    return to_mouth + low, to_mouth + high, high > low


@kernel
def _tip(tx: float, ty: float, x: float, y: float, radius: float, to_mouth: float) -> tuple[float, float]:
    away = math.hypot(tx - x, ty - y)
    half = math.pi / 2 if away <= radius else math.asin(radius / away)
    return turned(math.atan2(ty - y, tx - x) - to_mouth), half


@kernel
def widest_window(b: Floats, k: Ints, pockets: Floats, target: int, q: int) -> tuple[float, float, bool]:
    """The widest part that jaws and other balls leave ball `target` into pocket q; False where it is no pot."""
    low, high, _ = _window(b, k, pockets, target, q)
    return low, high, high - low > NARROWEST


@allocating
def _window(b: Floats, k: Ints, pockets: Floats, target: int, q: int) -> tuple[float, float, float]:
    """The widest part and the free share of what the jaws leave."""
    x, y, radius = b[target, X], b[target, Y], b[target, RADIUS]
    low, high, passes = jaw_window(pockets, q, x, y, radius)
    if not passes:
        return 0.0, 0.0, 0.0
    lows, highs = np.empty(_PIECES), np.empty(_PIECES)
    lows[0], highs[0] = 0.0, high - low
    pieces = 1
    for i in range(1, b.shape[0]):
        if i == target or k[i, PHASE] >= POTTED:
            continue
        begin, end, shades = _shadow(pockets, q, x, y, low, high, b[i, X], b[i, Y], radius + b[i, RADIUS])
        if not shades:
            continue
        for piece in range(pieces):
            if begin < highs[piece] and end > lows[piece]:
                if begin > lows[piece] and end < highs[piece] and pieces < _PIECES:
                    lows[pieces], highs[pieces] = end, highs[piece]
                    highs[piece] = begin
                    pieces += 1
                elif begin > lows[piece]:
                    highs[piece] = begin
                else:
                    lows[piece] = min(end, highs[piece])
    best, free = 0, 0.0
    for piece in range(pieces):
        free += max(highs[piece] - lows[piece], 0.0)
        if highs[piece] - lows[piece] > highs[best] - lows[best]:
            best = piece
    return low + lows[best], low + highs[best], min(free / (high - low), 1.0)


@allocating
def _shadow(
    pockets: Floats, q: int, x: float, y: float, low: float, high: float, ox: float, oy: float, reach: float
) -> tuple[float, float, bool]:
    """The directions, counted from `low`, in which a ball at (x, y) touches one at (ox, oy) before the mouth."""
    away = math.hypot(ox - x, oy - y)
    far = max(
        math.hypot(pockets[q, TIP_AX] - x, pockets[q, TIP_AY] - y),
        math.hypot(pockets[q, TIP_BX] - x, pockets[q, TIP_BY] - y),
    )
    if away > far + reach:
        return 0.0, 0.0, False
    middle = 0.5 * (low + high)
    half = math.asin(min(1.0, reach / away)) if away > 0.0 else math.pi / 2
    towards = turned(math.atan2(oy - y, ox - x) - middle)
    if abs(towards) > half + 0.5 * (high - low):
        return 0.0, 0.0, False
    marks = np.empty(6)
    marks[0], marks[1] = low - middle, high - middle
    marks[2], marks[3] = turned(towards - half), turned(towards + half)
    count = 4
    ux, uy = pockets[q, TIP_BX] - pockets[q, TIP_AX], pockets[q, TIP_BY] - pockets[q, TIP_AY]
    width = math.hypot(ux, uy)
    ux, uy = ux / width, uy / width
    along = (ox - pockets[q, TIP_AX]) * ux + (oy - pockets[q, TIP_AY]) * uy
    height = (ox - pockets[q, TIP_AX]) * uy - (oy - pockets[q, TIP_AY]) * ux
    inside = reach * reach - height * height
    if inside > 0.0:
        for sign in (-1.0, 1.0):
            t = along + sign * math.sqrt(inside)
            px, py = pockets[q, TIP_AX] + t * ux, pockets[q, TIP_AY] + t * uy
            marks[count] = turned(math.atan2(py - y, px - x) - middle)
            count += 1
    cut = np.sort(np.minimum(np.maximum(marks[:count], low - middle), high - middle))
    begin, end = np.nan, np.nan
    for i in range(count - 1):
        if cut[i + 1] <= cut[i]:
            continue
        if _touches(pockets, q, x, y, middle + 0.5 * (cut[i] + cut[i + 1]), ox, oy, reach):
            if math.isnan(begin):
                begin = cut[i]
            end = cut[i + 1]
    if math.isnan(begin):
        return 0.0, 0.0, False
    return begin + middle - low, end + middle - low, True


@kernel
def _touches(
    pockets: Floats, q: int, x: float, y: float, direction: float, ox: float, oy: float, reach: float
) -> bool:
    """Whether a ball that rolls from (x, y) to the mouth in this direction comes within `reach` of (ox, oy)."""
    ux, uy = math.cos(direction), math.sin(direction)
    ex, ey = pockets[q, TIP_BX] - pockets[q, TIP_AX], pockets[q, TIP_BY] - pockets[q, TIP_AY]
    determinant = uy * ex - ux * ey
    run = math.hypot(pockets[q, POCKET_MX] - x, pockets[q, POCKET_MY] - y)
    if abs(determinant) >= 1e-12:
        sx, sy = pockets[q, TIP_AX] - x, pockets[q, TIP_AY] - y
        met, share = (sy * ex - sx * ey) / determinant, (ux * sy - uy * sx) / determinant
        if met >= 0.0 and -1e-9 <= share <= 1.0 + 1e-9:
            run = met
    along = min(max((ox - x) * ux + (oy - y) * uy, 0.0), run)
    return math.hypot(ox - x - along * ux, oy - y - along * uy) < reach - 1e-12


@kernel
def fill_ways(
    b: Floats, k: Ints, size: Floats, emr: float, target: int, low: float, high: float, x: float, y: float,
    reach: float, strokes: Floats, rows: Floats,
) -> int:  # fmt: skip
    """Fill `rows` with the `strokes` (m x 3) from (x, y) that may send `target` into this window, their
    elevation and effort; how many. `reach` widens the aim's error (a stretch, a rest).
    """
    contact = b[0, RADIUS] + b[target, RADIUS]
    middle = 0.5 * (low + high)
    gx, gy = b[target, X] - contact * math.cos(middle) - x, b[target, Y] - contact * math.sin(middle) - y
    away = math.hypot(gx, gy)
    line = math.atan2(gy, gx)
    if away > 1e-6 and abs(turned(middle - line)) >= STEEPEST_CUT:
        return 0
    for i in range(1, b.shape[0]):
        if i == target or k[i, PHASE] >= POTTED:
            continue
        tx, ty = b[i, X] - x, b[i, Y] - y
        share = min(max((tx * gx + ty * gy) / max(away * away, 1e-12), 0.0), 1.0)
        if math.hypot(tx - share * gx, ty - share * gy) < NEARLY * (b[0, RADIUS] + b[i, RADIUS]):
            return 0
    count = 0
    height, raised = np.nan, 0.0
    for s in range(strokes.shape[0]):
        if strokes[s, 2] != height:
            height = strokes[s, 2]
            raised = least_elevation(b, k, size, x, y, line, height)
        if raised > MOST_RAISED:
            continue
        row = rows[count]
        row[C_X], row[C_Y], row[C_LOW], row[C_HIGH] = x, y, low, high
        row[C_SPEED], row[C_SIDE], row[C_HEIGHT], row[C_ELEVATION] = strokes[s, 0], strokes[s, 1], height, raised
        row[C_WIDER] = reach * aim_effort(strokes[s, 0], strokes[s, 1], height, raised, away, emr)
        row[C_PACE] = math.sqrt(reach) * speed_effort(strokes[s, 0], height, raised, away)
        count += 1
    return count


@entry("float64[:,:,::1](float64[:,::1], int64[:,::1], float64[:,::1])")
def every_window(b: Floats, k: Ints, pockets: Floats) -> Floats:
    """Low and high of the widest window and the free share (n x 6 x 3) of every ball of `b` (the cue ball's
    are 0).
    """
    found = np.zeros((b.shape[0], 6, 3))
    for i in range(1, b.shape[0]):
        for q in range(6):
            found[i, q, 0], found[i, q, 1], found[i, q, 2] = _window(b, k, pockets, i, q)
    return found


@entry(
    f"int64({_WAYS_SIGNATURE}, float64, int64, float64[:,::1], float64[::1], float64[:,::1], float64[:,::1],"
    " int64[::1], int64[::1])"
)
def ways_from(
    b: Floats, k: Ints, size: Floats, pockets: Floats, emr: float, target: int, places: Floats, reach: Floats,
    strokes: Floats, rows: Floats, origin: Ints, pocket: Ints,
) -> int:  # fmt: skip
    """Every way of `target` from each of `places` (n x 2); `reach` (n). Fills `rows`, the place and the pocket
    of each, which have room for places x 6 x PARTS x strokes; how many.
    """
    count = 0
    for q in range(6):
        low, high, opens = widest_window(b, k, pockets, target, q)
        if not opens:
            continue
        for i in range(places.shape[0]):
            for part in range(PARTS if high - low > 1.9 * HANGING else 1):
                begin = high - ASIDE if part == 2 else low
                end = low + ASIDE if part == 1 else high
                more = fill_ways(
                    b, k, size, emr, target, begin, end, places[i, 0], places[i, 1], reach[i], strokes, rows[count:]
                )
                origin[count : count + more] = i
                pocket[count : count + more] = q
                count += more
    return count
