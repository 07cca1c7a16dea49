"""One turn at the table, compiled: the quick choice of a pot or a safety from where the balls really are.

This is the choice that racks are played on with (`play_on`), thousands of times: the pot that is worth most by
a value map of where the cue ball stops, or the hit that leaves the opponent least.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.chance import begin, hand_error
from aretane.core.physics.compiled import (
    DROP,
    FROZEN,
    OFF,
    PHASE,
    POCKET_AX,
    POCKET_AY,
    POCKET_MX,
    POCKET_MY,
    POTTED,
    R_FIRST,
    R_KICKED,
    R_RAILS_AFTER,
    RADIUS,
    RESULTS,
    ROW,
    TIP_AX,
    TIP_AY,
    TIP_BX,
    TIP_BY,
    Floats,
    Ints,
    X,
    Y,
    allocating,
    kernel,
)  # fmt: skip
from aretane.core.physics.cue import strike
from aretane.core.physics.cueing import least_elevation
from aretane.core.physics.engine import lay_out, run
from aretane.core.planning.pots.pot_kernel import (
    A_AIM,
    A_HALF,
    A_X,
    A_Y,
    C_ELEVATION,
    C_HEIGHT,
    C_HIGH,
    C_LOW,
    C_PACE,
    C_SIDE,
    C_SPEED,
    C_WIDER,
    CANDIDATE,
    CAP,
    H_AIM,
    H_ELEVATION,
    H_HEIGHT,
    H_SIDE,
    H_SPEED,
    SOLUTION,
    sample,
    solve,
    squirts,
)  # fmt: skip
from aretane.core.planning.pots.ways_kernel import MOST_RAISED, fill_ways, turned, widest_window
from aretane.core.skill.effort import USUAL_EFFORT, aim_effort, speed_effort

# A choice: the stroke, by how much effort widens the hand's errors of it, the pot that is meant (row of the ball,
# 0: none), and its worth.
(
    T_AIM, T_SPEED, T_SIDE, T_HEIGHT, T_ELEVATION, T_WIDER, T_PACE, T_KICKED, T_BALL, T_POCKET, T_POT, T_VALUE,
    T_X, T_Y,
) = range(14)  # fmt: skip
CHOICE = 14
# A hand: the columns H_... of `pot_kernel`, the error of judging a rail, whether it meets chance, how far
# throw strays.
H_RAIL, H_CHANCE, H_THROWN = range(5, 8)
HAND = 8

_HITS = 11  # from thin on one side to thin on the other
_SAFE_SPEEDS = np.array([0.7, 1.3, 2.2])
_SAFE_HEIGHTS = np.array([0.0, 0.35])
_KICK_SPEEDS = np.array([1.6, 2.8])
_KICK_AIMS = 240
_SAFE_KEPT, _SAFE_DRAWS = 4, 6
_HOPELESS = 0.3  # of the likeliest pocket's chance: one with less is not looked at
_OPEN = 1.0  # what a foul leaves, against the opponent's chance of a pot


@kernel
def between(values: Floats, grid: Floats, x: float, y: float) -> float:
    """Value between a grid's places, bilinear; `grid`: first x, step, first y, step."""
    columns, rows = values.shape
    u = min(max((x - grid[0]) / grid[1], 0.0), columns - 1.000001)
    v = min(max((y - grid[2]) / grid[3], 0.0), rows - 1.000001)
    i, j = int(u), int(v)
    a, b = u - i, v - j
    low = values[i, j] * (1.0 - b) + values[i, j + 1] * b
    high = values[i + 1, j] * (1.0 - b) + values[i + 1, j + 1] * b
    return low * (1.0 - a) + high * a  # type: ignore[no-any-return]


@allocating
def best_pot(
    b: Floats, k: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, vast_size: Floats,
    vast_jaws: Floats, vast_pockets: Floats, target: int, strokes: Floats, hand: Floats, errors: Floats,
    lucks: Ints, kept: int, worth: Floats, soft: Floats, grid: Floats, missed: float, choice: Floats,
) -> bool:  # fmt: skip
    """Fill `choice` with the pot of `target` that is worth most from where the cue ball lies; False where none is.

    `worth` (columns x rows) is what a place is worth once the ball has gone, `soft` the same blurred, `missed`
    what is left after a miss. Of all `strokes` the `kept` likeliest are looked at with the hand's errors.
    """
    rows = np.empty((6 * strokes.shape[0], CANDIDATE))
    pocket = np.empty(6 * strokes.shape[0], np.int64)
    count = 0
    lows, highs, hopes = np.empty(6), np.empty(6), np.zeros(6)
    for q in range(6):
        lows[q], highs[q], opens = widest_window(b, k, pockets, target, q)
        if opens:
            hopes[q] = _hope(b, target, lows[q], highs[q], hand)
    for q in range(6):
        low, high = lows[q], highs[q]
        if hopes[q] > _HOPELESS * hopes.max():
            more = fill_ways(b, k, size, emr, target, low, high, b[0, X], b[0, Y], 1.0, strokes, rows[count:])
            pocket[count : count + more] = q
            count += more
    if count == 0:
        return False
    solutions, good = np.zeros((count, SOLUTION)), np.zeros(count, np.bool_)
    solve(
        b, k, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, target, pocket[:count], rows[:count],
        solutions, good,
    )  # fmt: skip
    first = np.full(count, -np.inf)
    for i in range(count):
        if good[i]:
            window = max(0.5 * (rows[i, C_HIGH] - rows[i, C_LOW]), 1e-9)
            thrown = hand[H_THROWN] * solutions[i, A_HALF] / window
            wide = math.hypot(hand[H_AIM] * rows[i, C_WIDER], thrown)
            chance = math.erf(solutions[i, A_HALF] / max(wide, 1e-9) / math.sqrt(2.0))
            first[i] = chance * between(soft, grid, solutions[i, A_X], solutions[i, A_Y]) + (1.0 - chance) * missed
    draws = errors.shape[1]
    weights, landings = np.zeros((1, draws)), np.zeros((1, draws, 2))
    disturbed, block = np.zeros((1, draws), np.bool_), np.zeros(1, np.int64)
    absent, touched = np.zeros((0, 3)), np.zeros((0, 0), np.int64)
    block[0] = int(1e5 * (b[0, X] + 3.0 * b[0, Y]))
    best = -np.inf
    for _ in range(kept):
        i = int(np.argmax(first))
        if first[i] == -np.inf:
            break
        first[i] = -np.inf
        sample(
            b, k, p, emr, size, jaws, pockets, target, pocket[i : i + 1], rows[i : i + 1], solutions[i : i +
            1], hand, errors, lucks, block, weights, landings, disturbed, absent, touched, False,
        )  # fmt: skip
        pot, value = 0.0, 0.0
        for s in range(draws):
            pot += weights[0, s]
            if weights[0, s] > 0.0:
                value += weights[0, s] * between(worth, grid, landings[0, s, 0], landings[0, s, 1])
        if pot > 1.0:  # a midpoint sum of the normal density may come out a hair above 1
            pot, value = 1.0, value / pot
        value += (1.0 - pot) * missed
        if value > best:
            best = value
            choice[T_AIM] = solutions[i, A_AIM]
            choice[T_SPEED], choice[T_SIDE] = rows[i, C_SPEED], rows[i, C_SIDE]
            choice[T_HEIGHT], choice[T_ELEVATION] = rows[i, C_HEIGHT], rows[i, C_ELEVATION]
            choice[T_WIDER], choice[T_PACE], choice[T_KICKED] = rows[i, C_WIDER], rows[i, C_PACE], 0.0
            choice[T_BALL], choice[T_POCKET], choice[T_POT], choice[T_VALUE] = target, pocket[i], pot, value
            choice[T_X], choice[T_Y] = solutions[i, A_X], solutions[i, A_Y]
    return best > -np.inf


@kernel
def _hope(b: Floats, target: int, low: float, high: float, hand: Floats) -> float:
    """Chance of a plain stroke into this window, in closed form."""
    middle, reach = 0.5 * (low + high), b[0, RADIUS] + b[target, RADIUS]
    gx = b[target, X] - reach * math.cos(middle) - b[0, X]
    gy = b[target, Y] - reach * math.sin(middle) - b[0, Y]
    away = math.hypot(gx, gy)
    gain = (away + 0.02) / (reach * max(math.cos(turned(middle - math.atan2(gy, gx))), 0.05))
    spread = math.hypot(hand[H_AIM], hand[H_THROWN] / gain)
    return math.erf(0.5 * (high - low) / gain / max(spread, 1e-9) / math.sqrt(2.0))


@allocating
def play_choice(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, choice: Floats,
    hand: Floats, luck: int, b: Floats, k: Ints, meet: Floats, result: Ints,
) -> None:  # fmt: skip
    """Play a choice once with the hand's errors and the table's chance in the shot with this luck (0: with
    neither).
    """
    lay_out(b, k, start, state)
    k[0, FROZEN] = -1
    rows = np.zeros((0, ROW))
    aim, speed = choice[T_AIM], choice[T_SPEED]
    side, height, elevation = choice[T_SIDE], choice[T_HEIGHT], choice[T_ELEVATION]
    begin(p, 0)
    if luck != 0:
        spread = math.hypot(hand[H_AIM] * choice[T_WIDER], hand[H_RAIL] * math.sqrt(choice[T_KICKED]))
        meant = squirts(side, height, emr)
        aim += spread * hand_error(luck, 0)
        speed = max(speed * (1.0 + hand[H_SPEED] * choice[T_PACE] * hand_error(luck, 1)), 0.02)
        side += hand[H_SIDE] * hand_error(luck, 2)
        height += hand[H_HEIGHT] * hand_error(luck, 3)
        if elevation > 0.0:
            elevation = min(max(elevation + hand[H_ELEVATION] * hand_error(luck, 4), 0.0), 1.4)
        off = math.hypot(side, height) / 0.98
        if off > 1.0:
            side, height = side / off, height / off
        aim += meant - squirts(side, height, emr)
        if hand[H_CHANCE] != 0.0:
            begin(p, luck)
    strike(b, k, p, aim, speed, side, height, elevation, emr)
    run(b, k, p, size, jaws, pockets, meet, result, rows, CAP)


@allocating
def best_safety(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, target: int,
    theirs: Ints, hand: Floats, other: Floats, luck: int, choice: Floats,
) -> bool:  # fmt: skip
    """Fill `choice` with the lawful hit of `target`, straight or by rails, that leaves the other player least of
    `theirs`, the rows of the balls that he may pot; its T_VALUE is what it leaves.
    """
    n = start.shape[0]
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    result = np.zeros(RESULTS, np.int64)
    tried = np.zeros((_SAFE_KEPT, CHOICE))
    left = np.full(_SAFE_KEPT, np.inf)
    found = False
    dx, dy = start[target, X] - start[0, X], start[target, Y] - start[0, Y]
    away, straight = max(math.hypot(dx, dy), 1e-6), math.atan2(dy, dx)
    half = math.asin(min(1.0, (start[0, RADIUS] + start[target, RADIUS]) / away))
    for direct in (True, False):
        if found:
            break
        speeds = _SAFE_SPEEDS if direct else _KICK_SPEEDS
        for h in range(len(_SAFE_HEIGHTS) if direct else 1):
            for a in range(_HITS if direct else _KICK_AIMS):
                if direct:
                    aim = straight + half * 0.985 * (2.0 * a / (_HITS - 1) - 1.0)
                else:
                    aim = 2.0 * math.pi * a / _KICK_AIMS
                raised = least_elevation(start, state, size, start[0, X], start[0, Y], aim, _SAFE_HEIGHTS[h])
                if raised > MOST_RAISED:
                    continue
                for v in range(len(speeds)):
                    choice[:] = 0.0
                    choice[T_AIM], choice[T_SPEED] = aim, speeds[v]
                    choice[T_HEIGHT], choice[T_ELEVATION] = _SAFE_HEIGHTS[h], raised
                    play_choice(start, state, p, emr, size, jaws, pockets, choice, hand, 0, b, k, meet, result)
                    if not lawful(b, k, result, target) or k[target, PHASE] >= DROP:
                        continue
                    found = True
                    choice[T_WIDER] = aim_effort(speeds[v], 0.0, _SAFE_HEIGHTS[h], raised, away, emr)
                    choice[T_PACE] = speed_effort(speeds[v], _SAFE_HEIGHTS[h], raised, away)
                    choice[T_KICKED] = result[R_KICKED]
                    score = leave(b, k, pockets, theirs, other)
                    worst = int(np.argmax(left))
                    if score < left[worst]:
                        left[worst] = score
                        tried[worst] = choice
    if not found:
        return False
    best = np.inf
    for i in range(_SAFE_KEPT):
        if left[i] == np.inf:
            continue
        mean = 0.0
        for s in range(_SAFE_DRAWS):
            play_choice(start, state, p, emr, size, jaws, pockets, tried[i], hand, luck + s + 1, b, k, meet, result)
            mean += leave(b, k, pockets, theirs, other) if lawful(b, k, result, target) else _OPEN
        if mean < best:
            best = mean
            choice[:] = tried[i]
            choice[T_VALUE] = mean / _SAFE_DRAWS
    return True


@kernel
def lawful(b: Floats, k: Ints, result: Ints, target: int) -> bool:
    """Whether a shot of a rotation game is no foul: the target first, the cue ball on the table, a rail or a
    pot.
    """
    if result[R_FIRST] != target or k[0, PHASE] >= DROP:
        return False
    for i in range(1, b.shape[0]):
        if k[i, PHASE] == OFF:
            return False
    if result[R_RAILS_AFTER] != 0:
        return True
    fell = False
    for i in range(1, b.shape[0]):
        fell = fell or k[i, PHASE] == POTTED or k[i, PHASE] == DROP
    return fell


@kernel
def leave(b: Floats, k: Ints, pockets: Floats, theirs: Ints, hand: Floats) -> float:
    """What a hand is left, at a first glance: its best pot of `theirs`, and a little for seeing one at all."""
    best = -np.inf
    for t in theirs:
        if k[t, PHASE] < DROP:
            seen = 0.15 if _sees(b, k, t) else 0.0
            away = math.hypot(b[t, X] - b[0, X], b[t, Y] - b[0, Y])
            best = max(best, likely_pot(b, k, pockets, t, hand) + seen - 0.02 * away)
    return best if best > -np.inf else 0.3


@kernel
def likely_pot(b: Floats, k: Ints, pockets: Floats, target: int, hand: Floats) -> float:
    """Chance of the best pot of `target`, in closed form: the window as the ball sees it against the hand's
    error.
    """
    x, y, radius = b[target, X], b[target, Y], b[target, RADIUS]
    reach = b[0, RADIUS] + radius
    best = 0.0
    for q in range(6):
        wx, wy = pockets[q, POCKET_MX] - x, pockets[q, POCKET_MY] - y
        far = max(math.hypot(wx, wy), 1e-3)
        ux, uy = wx / far, wy / far
        width = math.hypot(pockets[q, TIP_AX] - pockets[q, TIP_BX], pockets[q, TIP_AY] - pockets[q, TIP_BY])
        free = width * max(ux * pockets[q, POCKET_AX] + uy * pockets[q, POCKET_AY], 0.0) - 2.0 * radius
        if free <= 0.0:
            continue
        rx, ry = x - reach * ux - b[0, X], y - reach * uy - b[0, Y]
        away = max(math.hypot(rx, ry), 1e-3)
        cosine = (rx * ux + ry * uy) / away
        if cosine < 0.09:
            continue
        gain = (away + 0.02) / (reach * cosine)
        half = 0.5 * free / far / gain
        spread = math.hypot(USUAL_EFFORT * hand[H_AIM], hand[H_THROWN] / gain)
        chance = math.erf(half / max(spread, 1e-9) / math.sqrt(2.0))
        if (
            chance > best
            and _free(b, k, target, x, y, wx, wy, 2.0 * radius)
            and _free(b, k, target, b[0, X], b[0, Y], rx, ry, 0.97 * reach)
        ):
            best = chance
    return best


@kernel
def _sees(b: Floats, k: Ints, target: int) -> bool:
    """Whether the middle or either half of `target` can be met directly."""
    wx, wy = b[target, X] - b[0, X], b[target, Y] - b[0, Y]
    away = max(math.hypot(wx, wy), 1e-6)
    reach = b[0, RADIUS] + b[target, RADIUS]
    for part in (0.0, 0.85, -0.85):
        sx, sy = -wy / away * part * reach, wx / away * part * reach
        if _free(b, k, target, b[0, X], b[0, Y], wx + sx, wy + sy, reach):
            return True
    return False


@kernel
def _free(b: Floats, k: Ints, target: int, x: float, y: float, wx: float, wy: float, reach: float) -> bool:
    """Whether a way (wx, wy) from (x, y) stays clear of every ball but the cue ball and the target."""
    length2 = max(wx * wx + wy * wy, 1e-12)
    for i in range(1, b.shape[0]):
        if i == target or k[i, PHASE] >= POTTED:
            continue
        tx, ty = b[i, X] - x, b[i, Y] - y
        share = min(max((tx * wx + ty * wy) / length2, 0.0), 1.0)
        if math.hypot(tx - share * wx, ty - share * wy) < reach:
            return False
    return True
