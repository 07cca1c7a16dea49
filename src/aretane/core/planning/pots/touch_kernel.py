"""Which of some balls that are not there a shot would have met: so one simulation serves many tables."""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import CONTACT, OFF, POTTED, RADIUS, REST, ROLL, Floats, inlined, kernel

BLOCKED = 32  # places by which the bits of balls are moved that are met before the pot is decided
COURSE = 160  # rows of the course of a shot that are kept; what happens after so many moves little
_BENDS = 5  # pieces that a bent way is looked at in
_T, _PHASE, _X, _Y, _VX, _VY, _AX, _AY = 0, 4, 5, 6, 8, 9, 14, 15  # columns of a row, see `engine.run`
_KIND, _BALL = 1, 2


@kernel
def touched_by(rows: Floats, start: Floats, absent: Floats, target: int) -> int:
    """Bits of those of `absent` (m x 3: place and radius) that come in the way of a moving ball. `rows`: the course
    of a shot among the balls of `start`. One that the cue ball would meet before the `target`, or the target on its
    way, is in the way of the pot: its bit stands `BLOCKED` places higher too.
    """
    touched = 0
    met = _first_contact(rows)
    for r in range(rows.shape[0]):
        row = rows[r]
        if row[_PHASE] == REST or row[_PHASE] == POTTED or row[_PHASE] == OFF:
            continue
        lasts = _until_next(rows, r)
        pieces = 1 if row[_PHASE] == ROLL else _BENDS
        x, y, radius = row[_X], row[_Y], start[int(row[_BALL]), RADIUS]
        ball = int(row[_BALL])
        blocks = ball == target or (ball == 0 and row[_T] < met)
        for piece in range(1, pieces + 1):
            t = lasts * piece / pieces
            to_x = row[_X] + (row[_VX] + 0.5 * row[_AX] * t) * t
            to_y = row[_Y] + (row[_VY] + 0.5 * row[_AY] * t) * t
            touched |= _in_the_way(x, y, to_x, to_y, radius, absent, blocks, touched)
            x, y = to_x, to_y
    return touched


@kernel
def _first_contact(rows: Floats) -> float:
    """When the cue ball met the first ball."""
    for r in range(rows.shape[0]):
        if rows[r, _KIND] == CONTACT and rows[r, _BALL] == 0:
            return rows[r, _T]  # type: ignore[no-any-return]
    return np.inf


@kernel
def _until_next(rows: Floats, r: int) -> float:
    """Seconds until something else happens to the ball of row r; its course may have been kept no further."""
    for later in range(r + 1, rows.shape[0]):
        if rows[later, _BALL] == rows[r, _BALL]:
            return rows[later, _T] - rows[r, _T]  # type: ignore[no-any-return]
    speed, slowing = math.hypot(rows[r, _VX], rows[r, _VY]), math.hypot(rows[r, _AX], rows[r, _AY])
    return speed / slowing if slowing > 1e-9 else 0.0


@inlined
def _in_the_way(
    x: float, y: float, to_x: float, to_y: float, radius: float, absent: Floats, blocks: bool, known: int
) -> int:
    """Bits of the absent balls that a ball touches on the straight way between two places; `known` are not asked
    again.
    """
    found = 0
    dx, dy = to_x - x, to_y - y
    per_length2 = 1.0 / max(dx * dx + dy * dy, 1e-18)
    for j in range(absent.shape[0]):
        bits = (1 << j) | (1 << j + BLOCKED) if blocks else 1 << j
        reach = radius + absent[j, 2]
        if known & bits == bits or reach <= 0.0:
            continue
        gx, gy = absent[j, 0] - x, absent[j, 1] - y
        share = min(max((gx * dx + gy * dy) * per_length2, 0.0), 1.0)
        gx, gy = gx - share * dx, gy - share * dy
        if gx * gx + gy * gy < reach * reach:
            found |= bits
    return found


NONE_ABSENT = np.zeros((0, 3))
