"""One shot, event by event.

Each ball knows when its own phase ends or it meets a rail or pocket; each pair knows when it meets within that
time. The earliest of all is carried out, and only the balls that it changed are planned anew. Between events
nothing is computed, so there is no time step, and no error but rounding.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.cluster import HARD, gather, linked, strike_together
from aretane.core.physics.compiled import (
    AIR, ARC_X, ARC_Y, AX, AY, AZ, BOX_HIGH_X, BOX_HIGH_Y, BOX_LOW_X, BOX_LOW_Y, CAPTURE, CONTACT, DROP, DROP_EDGE,
    EDGE, FACE_NX, FACE_NY, FACING, FAR, FEATURE, FROZEN, JAW_TIP, LANDING, NEAR, NEAR_T, OFF, OWN, PHASE,
    PHASE_END, P_LUCK, POTTED, R_CAPPED, R_CUE_RAILS, R_EVENTS, R_FIRST, R_KICKED, R_RAILED, R_RAILS_AFTER, R_ROWS,
    RADIUS, RAIL, REPLAN, REST, RHO, ROLL, S_CORNER_END, S_LENGTH, S_NOSE, S_SIDE_END, S_WIDTH, SLIDE,
    SPIT_OUT, STROKE, T0, TEND, VX, VY, VZ, X, Y,
    Z, Floats, Ints, allocating, inlined, kernel,
)  # fmt: skip
from aretane.core.physics.cushion import ball_on_cushion
from aretane.core.physics.impact import ball_on_ball, closing_speed, land
from aretane.core.physics.motion import advance, bound_path, end_phase, start_phase
from aretane.core.physics.pocket import leave, outside, plan_in_pocket
from aretane.core.physics.roots import first_contact


@kernel
def lay_out(b: Floats, k: Ints, start: Floats, state: Ints) -> None:
    """Put the balls where a shot starts from."""
    for i in range(start.shape[0]):
        for c in range(start.shape[1]):
            b[i, c] = start[i, c]
        for c in range(state.shape[1]):
            k[i, c] = state[i, c]


@kernel
def run(
    b: Floats, k: Ints, p: Floats, size: Floats, jaws: Floats, pockets: Floats, meet: Floats, result: Ints,
    rows: Floats, cap: int,
) -> float:  # fmt: skip
    """Play the shot that the cue ball (ball 0) has just been given; the time when all is at rest.

    `meet` is scratch space (n x n); `rows` takes a row of `ROW` numbers per changed ball (time, kind, ball,
    other ball or feature, phase, place, velocity, spin, acceleration) for those who want the course of it, and
    may be empty.
    """
    n = b.shape[0]
    result[:] = 0
    result[R_FIRST] = -1
    for i in range(n):
        plan(b, k, p, size, jaws, pockets, i)
        _record(b, k, rows, result, STROKE, i, -1)
    meet[:] = FAR
    _refresh(b, k, meet, 0.0, 0, -1)  # nothing but the cue ball moves yet
    now = 0.0
    while True:
        first, own, t = -1, True, FAR
        for i in range(n):
            if b[i, TEND] < t:
                t, first, own = b[i, TEND], i, True
            if b[i, NEAR_T] < t:
                t, first, own = b[i, NEAR_T], i, False
        if first < 0:
            return now
        if result[R_EVENTS] >= cap:
            result[R_CAPPED] = 1
            return now
        result[R_EVENTS] += 1
        now = t
        other = -1
        kind = CONTACT
        advance(b, k, p, first, now)
        if own:
            kind = k[first, OWN]
            feature = k[first, FEATURE]
            _own_event(b, k, p, size, jaws, result, first)
        else:
            other = k[first, NEAR]
            feature = other
            advance(b, k, p, other, now)
            if result[R_FIRST] < 0 and (first == 0 or other == 0):
                result[R_FIRST] = first + other
            low = k[first, PHASE] <= ROLL and k[other, PHASE] <= ROLL
            if low and closing_speed(b, first, other) > HARD and linked(b, k, first, other):
                _strike_cluster(b, k, p, size, jaws, pockets, meet, result, rows, first, other, now)
                continue
            ball_on_ball(b, k, p, first, other)
            plan(b, k, p, size, jaws, pockets, other)
        plan(b, k, p, size, jaws, pockets, first)
        if rows.shape[0] > 0 and kind != REPLAN:
            _record(b, k, rows, result, kind, first, feature)
            if other >= 0:
                _record(b, k, rows, result, kind, other, first)
        _refresh(b, k, meet, now, first, other)
        if other >= 0:
            _refresh(b, k, meet, now, other, first)


@allocating
def _strike_cluster(
    b: Floats, k: Ints, p: Floats, size: Floats, jaws: Floats, pockets: Floats, meet: Floats, result: Ints,
    rows: Floats, first: int, other: int, now: float,
) -> None:  # fmt: skip
    """Two balls meet while others all but touch them: the forces act on all at once."""
    n = b.shape[0]
    members = np.empty(n, np.int64)
    contacts = np.empty((n * (n - 1) // 2, 2), np.int64)
    count = gather(b, k, first, other, members)
    for m in range(2, count):
        advance(b, k, p, members[m], now)
    touched = strike_together(b, k, p, members, count, contacts)
    for m in range(count):
        plan(b, k, p, size, jaws, pockets, members[m])
    for c in range(touched):
        _record(b, k, rows, result, CONTACT, contacts[c, 0], contacts[c, 1])
        _record(b, k, rows, result, CONTACT, contacts[c, 1], contacts[c, 0])
    for m in range(count):
        _refresh(b, k, meet, now, members[m], -1)


@kernel
def plan(b: Floats, k: Ints, p: Floats, size: Floats, jaws: Floats, pockets: Floats, i: int) -> None:
    """After a change: the ball's phase, its own next event and the box around its path until then."""
    if k[i, PHASE] >= POTTED:
        b[i, TEND] = FAR
        return
    lasts = start_phase(b, k, p, i)
    if p[P_LUCK] != 0.0 and k[i, PHASE] == ROLL:
        _keep_off_rails(b, size, i)
    if k[i, PHASE] == REST:
        b[i, TEND] = FAR
        bound_path(b, i, 0.0)
        return
    if k[i, PHASE] == DROP:
        k[i, OWN] = CAPTURE
        lasts = plan_in_pocket(b, k, size, jaws, pockets, i, lasts)
    else:
        k[i, OWN] = LANDING if k[i, PHASE] == AIR else PHASE_END
        t = leave(b, size, i)
        if t < lasts:
            rail = -1 if outside(b, size, i) else _straight_rail(b, size, i, t)
            if rail >= 0:
                lasts = t
                k[i, OWN], k[i, FEATURE] = RAIL, rail
            else:
                lasts = plan_in_pocket(b, k, size, jaws, pockets, i, lasts)
    b[i, TEND] = b[i, T0] + lasts
    bound_path(b, i, lasts)


@inlined
def _keep_off_rails(b: Floats, size: Floats, i: int) -> None:
    """A ball that runs along a rail is held by it against the slope of the bed."""
    low = b[i, RHO] + EDGE
    if (b[i, X] <= low and b[i, VX] <= 0.0 and b[i, AX] < 0.0) or (
        b[i, X] >= size[S_LENGTH] - low and b[i, VX] >= 0.0 and b[i, AX] > 0.0
    ):
        b[i, AX] = 0.0
    if (b[i, Y] <= low and b[i, VY] <= 0.0 and b[i, AY] < 0.0) or (
        b[i, Y] >= size[S_WIDTH] - low and b[i, VY] >= 0.0 and b[i, AY] > 0.0
    ):
        b[i, AY] = 0.0


@inlined
def _straight_rail(b: Floats, size: Floats, i: int, t: float) -> int:
    """The rail (0 right, 1 foot, 2 left, 3 head) met at t, or -1 where it is cut away for a pocket."""
    x = b[i, X] + (b[i, VX] + 0.5 * b[i, AX] * t) * t
    y = b[i, Y] + (b[i, VY] + 0.5 * b[i, AY] * t) * t
    right, left = y - b[i, RHO], size[S_WIDTH] - b[i, RHO] - y
    head, foot = x - b[i, RHO], size[S_LENGTH] - b[i, RHO] - x
    long_gap, short_gap = min(right, left), min(head, foot)
    if long_gap < short_gap:
        along = min(x, size[S_LENGTH] - x)
        if along < size[S_CORNER_END] or abs(x - 0.5 * size[S_LENGTH]) < size[S_SIDE_END]:
            return -1
        return 0 if right < left else 2
    along = min(y, size[S_WIDTH] - y)
    if along < size[S_CORNER_END]:
        return -1
    return 3 if head < foot else 1


@inlined
def meeting(b: Floats, k: Ints, i: int, j: int, now: float) -> float:
    """When balls i and j meet, if they do before either has an event of its own."""
    if k[i, PHASE] >= POTTED or k[j, PHASE] >= POTTED or (k[i, PHASE] == REST and k[j, PHASE] == REST):
        return FAR
    reach = b[i, RADIUS] + b[j, RADIUS]
    if (
        b[i, BOX_LOW_X] > b[j, BOX_HIGH_X] + reach
        or b[j, BOX_LOW_X] > b[i, BOX_HIGH_X] + reach
        or b[i, BOX_LOW_Y] > b[j, BOX_HIGH_Y] + reach
        or b[j, BOX_LOW_Y] > b[i, BOX_HIGH_Y] + reach
    ):
        return FAR
    s, t = now - b[i, T0], now - b[j, T0]
    dx = b[i, X] + (b[i, VX] + 0.5 * b[i, AX] * s) * s - b[j, X] - (b[j, VX] + 0.5 * b[j, AX] * t) * t
    dy = b[i, Y] + (b[i, VY] + 0.5 * b[i, AY] * s) * s - b[j, Y] - (b[j, VY] + 0.5 * b[j, AY] * t) * t
    dz = b[i, Z] + (b[i, VZ] + 0.5 * b[i, AZ] * s) * s - b[j, Z] - (b[j, VZ] + 0.5 * b[j, AZ] * t) * t
    vx = b[i, VX] + b[i, AX] * s - b[j, VX] - b[j, AX] * t
    vy = b[i, VY] + b[i, AY] * s - b[j, VY] - b[j, AY] * t
    vz = b[i, VZ] + b[i, AZ] * s - b[j, VZ] - b[j, AZ] * t
    horizon = min(b[i, TEND], b[j, TEND]) - now
    ax, ay, az = b[i, AX] - b[j, AX], b[i, AY] - b[j, AY], b[i, AZ] - b[j, AZ]
    if horizon == FAR:  # only without friction
        horizon = 1e6
    return now + first_contact(dx, dy, dz, vx, vy, vz, ax, ay, az, reach, horizon)


@kernel
def _refresh(b: Floats, k: Ints, meet: Floats, now: float, i: int, done: int) -> None:
    """All meetings of ball i anew, and what that means for the others' nearest one."""
    for j in range(b.shape[0]):
        if j == i:
            continue
        if j != done or done > i:
            meet[i, j] = meet[j, i] = meeting(b, k, i, j, now)
        if k[j, NEAR] == i:
            nearest(b, k, meet, j)
        elif meet[i, j] < b[j, NEAR_T]:
            b[j, NEAR_T] = meet[i, j]
            k[j, NEAR] = i
    nearest(b, k, meet, i)


@inlined
def nearest(b: Floats, k: Ints, meet: Floats, i: int) -> None:
    best, who = FAR, -1
    for j in range(b.shape[0]):
        if meet[i, j] < best:
            best, who = meet[i, j], j
    b[i, NEAR_T] = best
    k[i, NEAR] = who


@kernel
def _own_event(b: Floats, k: Ints, p: Floats, size: Floats, jaws: Floats, result: Ints, i: int) -> None:
    """Carry out what ball i has come to by itself."""
    kind, feature = k[i, OWN], k[i, FEATURE]
    if kind == PHASE_END:
        end_phase(b, k, i)
    elif kind == LANDING:
        land(b, k, p, i)
    elif kind == RAIL or kind == JAW_TIP or kind == FACING:
        if b[i, Z] > size[S_NOSE] + 0.95 * b[i, RADIUS]:
            k[i, PHASE] = OFF
            return
        _count_rail(k, result, i, kind, feature)
        if kind == RAIL:
            nx, ny = _rail_normal(b, size, i, feature)
        elif kind == FACING:
            nx, ny = jaws[feature, FACE_NX], jaws[feature, FACE_NY]
        else:
            nx, ny = b[i, X] - jaws[feature, ARC_X], b[i, Y] - jaws[feature, ARC_Y]
            length = math.sqrt(nx * nx + ny * ny)
            nx, ny = nx / length, ny / length
        if not ball_on_cushion(b, k, p, i, nx, ny, size[S_NOSE]):
            k[i, PHASE] = OFF
    elif kind == DROP_EDGE:
        flies_over = k[i, PHASE] == AIR and b[i, Z] - b[i, RADIUS] > size[S_NOSE]
        if k[i, PHASE] != AIR:
            b[i, VZ] = 0.0
        k[i, PHASE] = OFF if flies_over else DROP
    elif kind == SPIT_OUT:
        k[i, PHASE] = SLIDE
    elif kind == CAPTURE:
        k[i, PHASE] = POTTED
    k[i, FROZEN] = -1


@kernel
def _rail_normal(b: Floats, size: Floats, i: int, rail: int) -> tuple[float, float]:
    """The rail's normal into the table; the ball is put exactly on the line that it has met."""
    if rail == 0:
        b[i, Y] = b[i, RHO]
        return 0.0, 1.0
    if rail == 2:
        b[i, Y] = size[S_WIDTH] - b[i, RHO]
        return 0.0, -1.0
    if rail == 3:
        b[i, X] = b[i, RHO]
        return 1.0, 0.0
    b[i, X] = size[S_LENGTH] - b[i, RHO]
    return -1.0, 0.0


@kernel
def _count_rail(k: Ints, result: Ints, i: int, kind: int, feature: int) -> None:
    """A ball driven into the rail that it stood frozen to has not reached a rail by that."""
    if kind == RAIL and k[i, FROZEN] == feature:
        return
    if i == 0:
        result[R_CUE_RAILS] += 1
        if result[R_FIRST] < 0:
            result[R_KICKED] += 1
    result[R_RAILED] |= 1 << i
    if result[R_FIRST] >= 0:
        result[R_RAILS_AFTER] |= 1 << i


@kernel
def _record(b: Floats, k: Ints, rows: Floats, result: Ints, kind: int, i: int, feature: int) -> None:
    r = result[R_ROWS]
    if r >= rows.shape[0]:
        return
    result[R_ROWS] = r + 1
    rows[r, 0], rows[r, 1], rows[r, 2], rows[r, 3], rows[r, 4] = b[i, T0], kind, i, feature, k[i, PHASE]
    for c in range(9):
        rows[r, 5 + c] = b[i, X + c]
    rows[r, 14], rows[r, 15] = b[i, AX], b[i, AY]
