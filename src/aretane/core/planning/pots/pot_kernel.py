"""Two compiled entry points over many pots of one ball: the aim for each, and what a hand makes of it."""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.chance import begin
from aretane.core.physics.compiled import (
    DROP,
    FEATURE,
    FROZEN,
    PHASE,
    POTTED,
    R_FIRST,
    R_ROWS,
    RADIUS,
    RESULTS,
    ROW,
    Floats,
    Ints,
    X,
    Y,
    entry,
    kernel,
)  # fmt: skip
from aretane.core.physics.cue import TIP_LIMIT, squirt, strike
from aretane.core.physics.engine import lay_out, run
from aretane.core.planning.pots.touch_kernel import COURSE, touched_by
from aretane.core.rules.masks import Flags

# Columns of a candidate: the cue ball's place, the window of the object ball's direction (radians), the
# stroke, and by how much its effort widens the hand's errors of aim and of speed.
C_X, C_Y, C_LOW, C_HIGH, C_SPEED, C_SIDE, C_HEIGHT, C_ELEVATION, C_WIDER, C_PACE = range(10)
CANDIDATE = 10
# A hand: standard deviations of a plain stroke.
H_AIM, H_SPEED, H_SIDE, H_HEIGHT, H_ELEVATION = range(5)
# Columns of its solution: the aim, how far the aim may be off either way for the window, where the cue ball stops,
# whether another ball was moved.
A_AIM, A_HALF, A_X, A_Y, A_MOVED = range(5)
SOLUTION = 5

CAP = 3000
HERE = 1000.0  # m: the pair stands in the middle of a bed without rails
_CLOSE = 3e-4  # rad of the object ball's direction
_TRIES = 7
STEP = 0.5  # of half the window: how far past its edges aims are tried
FARTHEST = 3.0  # half windows: a ball that comes along the rail goes in far beyond what the jaws' tips leave
STILL = 0.005  # m: a ball moved less has not moved
THROWS, MOST_THROWN = 0.36, 0.06  # rad: the throw of a rolling contact for each radius of side, and the most of it
TAIL = 3.6  # standard deviations of aim that are looked at

_F1, _F2, _F3, _I2 = "float64[::1]", "float64[:,::1]", "float64[:,:,::1]", "int64[:,::1]"
_I1 = "int64[::1]"


@kernel
def _leaves(
    pair: Floats, kinds: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    b: Floats, k: Ints, meet: Floats, rows: Floats, result: Ints, c: Floats, aim: float,
) -> float:  # fmt: skip
    """The direction in which the object ball leaves under this aim; NaN where it is missed."""
    lay_out(b, k, pair, kinds)
    strike(b, k, p, aim, c[C_SPEED], c[C_SIDE], c[C_HEIGHT], c[C_ELEVATION], emr)
    run(b, k, p, size, jaws, pockets, meet, result, rows, CAP)
    dx, dy = b[1, X] - pair[1, X], b[1, Y] - pair[1, Y]
    if dx * dx + dy * dy < 1e-8:
        return np.nan
    return math.atan2(dy, dx)


@kernel
def _same_pot(one: Floats, other: Floats) -> bool:
    """Whether two candidates differ by no more than how the ball is struck."""
    return bool(one[C_X] == other[C_X] and one[C_Y] == other[C_Y] and one[C_LOW] == other[C_LOW])


@kernel
def _wrapped(angle: float) -> float:
    return angle - 2.0 * math.pi * math.floor(angle / (2.0 * math.pi) + 0.5)


@kernel
def _pots(k: Ints, result: Ints, target: int, pocket: int) -> bool:
    """The target is struck first and falls where it was meant, and the cue ball stays on the table."""
    fell = (k[target, PHASE] == POTTED or k[target, PHASE] == DROP) and k[target, FEATURE] == pocket
    return bool(fell and result[R_FIRST] == target and k[0, PHASE] < DROP)


@kernel
def _play_from(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    b: Floats, k: Ints, meet: Floats, rows: Floats, result: Ints, c: Floats, aim: float, speed: float,
    side: float, height: float, elevation: float,
) -> None:  # fmt: skip
    """Play a stroke at the candidate `c` from its place."""
    lay_out(b, k, start, state)
    b[0, X], b[0, Y] = c[C_X], c[C_Y]
    k[0, FROZEN] = -1
    off = math.sqrt(side * side + height * height)
    if off > 0.98:
        side, height = side * 0.98 / off, height * 0.98 / off
    strike(b, k, p, aim, max(speed, 0.02), side, height, elevation, emr)
    run(b, k, p, size, jaws, pockets, meet, result, rows, CAP)


@kernel
def squirts(side: float, height: float, emr: float) -> float:
    """The squirt of a tip's place, also of one beyond what the tip holds."""
    off = math.sqrt(side * side + height * height)
    return squirt(side * min(1.0, TIP_LIMIT / max(off, TIP_LIMIT)), emr)


@kernel
def _disturbed(start: Floats, b: Floats, target: int) -> bool:
    """Whether another ball than the two of the pot was moved."""
    for j in range(1, b.shape[0]):
        if j != target:
            dx, dy = b[j, X] - start[j, X], b[j, Y] - start[j, Y]
            if dx * dx + dy * dy > STILL * STILL:
                return True
    return False


@entry(
    f"void({_F2}, {_I2}, {_F1}, float64, {_F1}, {_F2}, {_F2}, {_F1}, {_F2}, {_F2}, int64, {_I1},"
    f" {_F2}, {_F2}, boolean[::1])"
)
def solve(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    vast_size: Floats, vast_jaws: Floats, vast_pockets: Floats, target: int, meant: Ints,
    candidates: Floats, solutions: Floats, pots: Flags,
) -> None:  # fmt: skip
    """For each of `candidates` (n x 8) the aim that sends ball `target` to the middle of its window
    into the pocket `meant` (n).

    Fills `solutions` (n x 5) and `pots` (n): whether the stroke, played without error among all balls, pots.
    """
    n = start.shape[0]
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    pair_b, pair_k, pair_meet = (
        np.zeros((2, start.shape[1])),
        np.zeros((2, state.shape[1]), np.int64),
        np.zeros((2, 2)),
    )
    rows, result = np.zeros((0, ROW)), np.zeros(RESULTS, np.int64)
    pair, kinds = pair_b.copy(), pair_k.copy()
    pair[0], pair[1] = start[0], start[target]
    kinds[0], kinds[1] = state[0], state[target]
    kinds[:, FROZEN] = -1
    reach = start[0, RADIUS] + start[target, RADIUS]
    found = False
    for i in range(candidates.shape[0]):
        c = candidates[i]
        pots[i] = False
        bx, by = start[target, X] - c[C_X], start[target, Y] - c[C_Y]
        pair[0, X], pair[0, Y] = HERE, HERE
        pair[1, X], pair[1, Y] = HERE + bx, HERE + by
        wanted = 0.5 * (c[C_LOW] + c[C_HIGH])
        gx, gy = bx - reach * math.cos(wanted), by - reach * math.sin(wanted)
        line = math.atan2(gy, gx)
        away = math.sqrt(gx * gx + gy * gy)
        gain = -(away + 0.01) / (reach * max(math.cos(_wrapped(wanted - line)), 0.1))
        full = math.atan2(by, bx)
        aim = line - squirt(c[C_SIDE], emr)
        if found and _same_pot(candidates[i - 1], c):  # a neighbour's aim is nearer than the ghost ball's
            aim = solutions[i - 1, A_AIM] + squirt(candidates[i - 1, C_SIDE], emr) - squirt(c[C_SIDE], emr)
        found = False
        off = np.nan
        before_aim, before_off = np.nan, np.nan
        for _ in range(_TRIES):
            left = _leaves(
                pair,
                kinds,
                p,
                emr,
                vast_size,
                vast_jaws,
                vast_pockets,
                pair_b,
                pair_k,
                pair_meet,
                rows,
                result,
                c,
                aim,
            )
            if math.isnan(left):
                aim += 0.35 * _wrapped(full - aim)
                continue
            off = _wrapped(left - wanted)
            if abs(off) < _CLOSE:
                break
            if not math.isnan(before_off) and abs(off - before_off) > 1e-7:
                slope = (off - before_off) / _wrapped(aim - before_aim)
                if slope < 0.2 * gain and slope > 5.0 * gain:
                    gain = slope
            before_aim, before_off = aim, off
            aim -= off / gain
        if math.isnan(off) or abs(off) > 0.01:
            continue
        found = True
        half = 0.5 * (c[C_HIGH] - c[C_LOW])
        solutions[i, A_AIM] = aim
        solutions[i, A_HALF] = -half / gain
        _play_from(
            start, state, p, emr, size, jaws, pockets, b, k, meet, rows, result,
            c, aim, c[C_SPEED], c[C_SIDE], c[C_HEIGHT], c[C_ELEVATION],
        )  # fmt: skip
        solutions[i, A_X], solutions[i, A_Y] = b[0, X], b[0, Y]
        solutions[i, A_MOVED] = 1.0 if _disturbed(start, b, target) else 0.0
        pots[i] = _pots(k, result, target, meant[i])


@entry(
    f"void({_F2}, {_I2}, {_F1}, float64, {_F1}, {_F2}, {_F2}, int64, {_I1}, {_F2}, {_F2}, {_F1}, {_F3},"
    f" {_I2}, {_I1}, {_F2}, {_F3}, boolean[:,::1], {_F2}, {_I2}, boolean)"
)
def sample(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    target: int, meant: Ints, candidates: Floats, solutions: Floats, hand: Floats, errors: Floats, lucks: Ints,
    blocks: Ints, weights: Floats, landings: Floats, disturbed: Flags, absent: Floats, touched: Ints, probe: bool,
) -> None:  # fmt: skip
    """Each solved candidate under the errors of a hand, by importance: aims far outside its window are misses.

    `hand`: standard deviations H_... of a plain stroke. `errors` (blocks x s x 5): a share 0..1 of the aims
    that cover the window, and standard normal errors of speed, side, height and elevation; `lucks` (blocks x
    s) what the table does; `blocks` (n) says which block each candidate uses. Fills `weights` (n x s): the
    chance that this sample stands for, 0 when it did not pot; the sum of a row is the pot's chance. `landings`
    (n x s x 2); `disturbed` (n x s): whether another ball was moved. `absent` (m x 3: place and radius) are balls
    that are not on this table: `touched` (n x s, where m > 0) has bit j set where the way of a ball would have met
    the j-th of them (see `touched_by`).
    """
    n = start.shape[0]
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    p = p.copy()  # holds what chance draws for one shot
    unseen, result = np.zeros((0, ROW)), np.zeros(RESULTS, np.int64)
    rows = np.zeros((COURSE if absent.shape[0] > 0 else 0, ROW))
    draws = errors.shape[1]
    # What turns the object ball besides the aim: throw by an unintended offset, and the table's own.
    thrown = min(THROWS * hand[H_SIDE], MOST_THROWN) + 0.01
    for i in range(candidates.shape[0]):
        c = candidates[i]
        block = blocks[i] % errors.shape[0]
        spread = max(hand[H_AIM] * c[C_WIDER], 1e-9)
        half = solutions[i, A_HALF]
        margin = half * (STEP + 2.0 * thrown / max(0.5 * (c[C_HIGH] - c[C_LOW]), 1e-3))
        low, high = -TAIL * spread, TAIL * spread
        begin(p, 0)
        for side in (-1.0, 1.0):
            edge = 1.0
            while probe and edge < FARTHEST and edge * half < high:
                _play_from(
                    start, state, p, emr, size, jaws, pockets, b, k, meet, unseen, result, c,
                    solutions[i, A_AIM] + side * edge * half, c[C_SPEED], c[C_SIDE], c[C_HEIGHT], c[C_ELEVATION],
                )  # fmt: skip
                if not _pots(k, result, target, meant[i]):
                    break
                edge += STEP
            if side < 0.0:
                low = max(low, -edge * half - margin)
            else:
                high = min(high, edge * half + margin)
        squirted = squirts(c[C_SIDE], c[C_HEIGHT], emr)
        for s in range(draws):
            wrong = low + errors[block, s, 0] * (high - low)
            z = wrong / spread
            speed = c[C_SPEED] * (1.0 + hand[H_SPEED] * c[C_PACE] * errors[block, s, 1])
            side = c[C_SIDE] + hand[H_SIDE] * errors[block, s, 2]
            height = c[C_HEIGHT] + hand[H_HEIGHT] * errors[block, s, 3]
            elevation = c[C_ELEVATION]
            if elevation > 0.0:
                elevation = min(max(elevation + hand[H_ELEVATION] * errors[block, s, 4], 0.0), 1.4)
            begin(p, lucks[block, s])
            _play_from(
                start, state, p, emr, size, jaws, pockets, b, k, meet, rows, result, c,
                solutions[i, A_AIM] + wrong + squirted - squirts(side, height, emr), speed, side, height, elevation,
            )  # fmt: skip
            weights[i, s] = 0.0
            if _pots(k, result, target, meant[i]):
                weights[i, s] = math.exp(-0.5 * z * z) / math.sqrt(2.0 * math.pi) * (high - low) / spread / draws
            landings[i, s, 0], landings[i, s, 1] = b[0, X], b[0, Y]
            disturbed[i, s] = _disturbed(start, b, target)
            if absent.shape[0] > 0:
                touched[i, s] = touched_by(rows[: result[R_ROWS]], start, absent, target)
