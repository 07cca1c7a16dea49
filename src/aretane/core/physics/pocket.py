"""The next thing that a ball meets outside the cushion lines: jaws, the edge of the drop, the bed again.

A ball is looked at here only while its centre is beyond a cushion line, that is between a pocket's jaws. The
jaws rattle a ball by nothing but their shape; a ball whose centre passes the edge of the slate begins to fall, may
still strike the facings while it falls, and is held once it has fallen by `capture_depth` of its radius.
"""

from __future__ import annotations


from aretane.core.physics.compiled import (
    ARC_R, ARC_X, ARC_Y, AX, AY, DROP, DROP_EDGE, EDGE, FACE_DX, FACE_DY, FACE_NX, FACE_NY, FACE_X, FACE_Y,
    FACING, FAR, FEATURE, JAW_TIP, MID_COS, MID_X, MID_Y, OWN, PHASE, POCKET_AX, POCKET_AY, POCKET_MX,
    POCKET_MY, POCKET_SHELF, RADIUS, REPLAN, RHO, S_LENGTH, S_WIDTH, SPIT_OUT, VX, VY, X, Y, CAPTURE,
    Floats, Ints, inlined, kernel,
)  # fmt: skip
from aretane.core.physics.roots import crossing, first_contact

_SLACK = 1e-9


@kernel
def pocket_at(size: Floats, x: float, y: float) -> int:
    """The pocket whose jaws are here, as its place in `POCKETS`."""
    right = 1 if y < 0.5 * size[S_WIDTH] else 0
    if x < 0.25 * size[S_LENGTH]:
        return right
    return (4 if x > 0.75 * size[S_LENGTH] else 2) + right


@kernel
def plan_in_pocket(b: Floats, k: Ints, size: Floats, jaws: Floats, pockets: Floats, i: int, lasts: float) -> float:
    """Time until ball i, between the jaws or about to be, meets something there; sets its own next event.

    `lasts` is how long its phase lasts; that time and event stay when nothing is met before.
    """
    x, y = b[i, X] + 0.0, b[i, Y] + 0.0
    if k[i, PHASE] == DROP:  # its feature may be the jaw that it was to meet before another ball struck it
        q = pocket_at(size, x, y)
        k[i, FEATURE] = q
    else:
        exit_x, exit_y = _exit_place(b, size, i, lasts)
        q = pocket_at(size, exit_x, exit_y)
    vx, vy, ax, ay = b[i, VX], b[i, VY], b[i, AX], b[i, AY]
    best = lasts
    rho = b[i, RHO]
    for side in range(2):
        j = 2 * q + side
        reach = jaws[j, ARC_R] + rho
        dx, dy = x - jaws[j, ARC_X], y - jaws[j, ARC_Y]
        t = first_contact(dx, dy, 0.0, vx, vy, 0.0, ax, ay, 0.0, reach, best)
        if t < best:
            px, py = dx + (vx + 0.5 * ax * t) * t, dy + (vy + 0.5 * ay * t) * t
            if px * jaws[j, MID_X] + py * jaws[j, MID_Y] >= reach * (jaws[j, MID_COS] - _SLACK):
                best = t
                k[i, OWN], k[i, FEATURE] = JAW_TIP, j
        nx, ny = jaws[j, FACE_NX], jaws[j, FACE_NY]
        fx, fy = x - jaws[j, FACE_X], y - jaws[j, FACE_Y]
        t = crossing(fx * nx + fy * ny - rho, vx * nx + vy * ny, 0.5 * (ax * nx + ay * ny))
        if t < best:
            px, py = fx + (vx + 0.5 * ax * t) * t, fy + (vy + 0.5 * ay * t) * t
            if px * jaws[j, FACE_DX] + py * jaws[j, FACE_DY] >= -_SLACK:
                best = t
                k[i, OWN], k[i, FEATURE] = FACING, j
    ox, oy = pockets[q, POCKET_AX], pockets[q, POCKET_AY]
    beyond = (x - pockets[q, POCKET_MX]) * ox + (y - pockets[q, POCKET_MY]) * oy - pockets[q, POCKET_SHELF]
    out, pull = vx * ox + vy * oy, 0.5 * (ax * ox + ay * oy)
    if k[i, PHASE] == DROP:
        t = crossing(beyond, out, pull)
        if t < best:
            best = t
            k[i, OWN], k[i, FEATURE] = SPIT_OUT, q
        liner = 2.0 * b[i, RADIUS]
        t = crossing(liner - beyond, -out, -pull)
        if t < best:
            best = t
            k[i, OWN], k[i, FEATURE] = CAPTURE, q
        return best
    t = crossing(-beyond, -out, -pull)
    if t < best:
        best = t
        k[i, OWN], k[i, FEATURE] = DROP_EDGE, q
    t = _return(b, size, i)
    if t < best:
        best = t
        k[i, OWN], k[i, FEATURE] = REPLAN, q
    return best


@kernel
def _exit_place(b: Floats, size: Floats, i: int, lasts: float) -> tuple[float, float]:
    """Where the ball is when it is first outside the cushion lines."""
    t = leave(b, size, i)
    if t == FAR or t > lasts:
        return b[i, X], b[i, Y]
    return b[i, X] + (b[i, VX] + 0.5 * b[i, AX] * t) * t, b[i, Y] + (b[i, VY] + 0.5 * b[i, AY] * t) * t


@inlined
def outside(b: Floats, size: Floats, i: int) -> bool:
    """Whether the ball's centre is beyond where a straight cushion would hold it."""
    low = b[i, RHO] - EDGE
    x, y = b[i, X], b[i, Y]
    return x < low or y < low or x > size[S_LENGTH] - low or y > size[S_WIDTH] - low  # type: ignore[no-any-return]


@inlined
def leave(b: Floats, size: Floats, i: int) -> float:
    """When a ball inside the cushion lines first reaches one; infinite if never in this motion; 0 outside."""
    if outside(b, size, i):
        return 0.0
    rho = b[i, RHO]
    vx, vy, ax, ay = b[i, VX], b[i, VY], 0.5 * b[i, AX], 0.5 * b[i, AY]
    best = FAR
    if vx < 0.0 or ax < 0.0:
        best = min(best, crossing(b[i, X] - rho, vx, ax))
    if vx > 0.0 or ax > 0.0:
        best = min(best, crossing(size[S_LENGTH] - rho - b[i, X], -vx, -ax))
    if vy < 0.0 or ay < 0.0:
        best = min(best, crossing(b[i, Y] - rho, vy, ay))
    if vy > 0.0 or ay > 0.0:
        best = min(best, crossing(size[S_WIDTH] - rho - b[i, Y], -vy, -ay))
    return best


@kernel
def _return(b: Floats, size: Floats, i: int) -> float:
    """When a ball outside the cushion lines is inside all of them again."""
    if not outside(b, size, i):
        return FAR
    rho, t = b[i, RHO], 0.0
    t = max(t, _enter(b[i, X] - rho, b[i, VX], b[i, AX]))
    t = max(t, _enter(size[S_LENGTH] - rho - b[i, X], -b[i, VX], -b[i, AX]))
    t = max(t, _enter(b[i, Y] - rho, b[i, VY], b[i, AY]))
    return max(t, _enter(size[S_WIDTH] - rho - b[i, Y], -b[i, VY], -b[i, AY]))


@kernel
def _enter(inside: float, v: float, a: float) -> float:
    """When a negative distance becomes positive."""
    return 0.0 if inside >= -EDGE else crossing(-inside, -v, -0.5 * a)
