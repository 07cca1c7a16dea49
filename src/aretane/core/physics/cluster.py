"""Three and more balls that touch, or nearly: a break, a frozen combination, a pack.

Struck one after the other they would pass nearly everything to one ball, as in Newton's cradle. Real balls give
way by more than the gaps in a rack, so several contacts work at once. Here their forces are integrated through
the contact: Hertz's law F = k δ^(3/2) between two spheres, damped as F (1 + a dδ/dt) with a = 3 (1 - e) / 2 v
so that a lone contact closing at v has restitution e (K. H. Hunt and F. R. E. Crossley, Journal of Applied
Mechanics 42, 1975). The places are then put back: to everything else the impact has taken no time. Friction
acts once, with the sum of each contact's push.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    MASS, P_BALL_RESTITUTION, PHASE, RADIUS, ROLL, VX, VY, VZ, X, Y, Floats, Ints, kernel,
)  # fmt: skip
from aretane.core.physics.impact import rub

HARD = 0.05  # m/s: a softer contact gives way by less than any gap and acts alone
NEARLY = 0.0003  # m: balls with gaps below this are struck together; the rack's gaps are a third of it
STIFFNESS = 5.3e8  # N/m^1.5: 4/3 E* sqrt(R/2) with E 5.8 GPa, Poisson .34 (phenolic resin, from memory), R 28.6 mm
_STEP = 1e-5  # s: a contact lasts about 20 of them at a break's speed
_MOST_STEPS = 800
_REACH = 0.002  # m: no pair with a wider gap comes to touch while it lasts


@kernel
def gather(b: Floats, k: Ints, i: int, j: int, members: Ints) -> int:
    """Fill `members` with the balls linked to i and j by small gaps; their number."""
    n = b.shape[0]
    members[0], members[1] = i, j
    count, looked = 2, 0
    while looked < count:
        one = members[looked]
        looked += 1
        for other in range(n):
            if k[other, PHASE] > ROLL:
                continue
            known = False
            for m in range(count):
                known = known or members[m] == other
            if known:
                continue
            dx, dy = b[one, X] - b[other, X], b[one, Y] - b[other, Y]
            reach = b[one, RADIUS] + b[other, RADIUS] + NEARLY
            if dx * dx + dy * dy < reach * reach:
                members[count] = other
                count += 1
    return count


@kernel
def strike_together(b: Floats, k: Ints, p: Floats, members: Ints, count: int, contacts: Ints) -> int:
    """Let the forces between the members act. Fills `contacts` with the pairs that touched; their number."""
    most = count * (count - 1) // 2
    one, two = np.empty(most, np.int64), np.empty(most, np.int64)
    pairs = 0
    for u in range(count):
        for v in range(u):
            i, j = members[u], members[v]
            dx, dy = b[i, X] - b[j, X], b[i, Y] - b[j, Y]
            reach = b[i, RADIUS] + b[j, RADIUS] + _REACH
            if dx * dx + dy * dy < reach * reach:
                one[pairs], two[pairs] = i, j
                pairs += 1
    pushed, closing = np.zeros(pairs), np.zeros(pairs)
    place = b[:, X : Y + 1].copy()
    _integrate(b, p, place, one, two, pairs, pushed, closing, members, count)
    touched = 0
    for c in range(pairs):
        if pushed[c] > 0.0:
            rub(b, p, one[c], two[c], pushed[c])
            contacts[touched, 0], contacts[touched, 1] = one[c], two[c]
            touched += 1
    for m in range(count):
        b[members[m], VZ] = 0.0
    return touched


@kernel
def _integrate(
    b: Floats, p: Floats, place: Floats, one: Ints, two: Ints, pairs: int, pushed: Floats, closing: Floats,
    members: Ints, count: int,
) -> None:  # fmt: skip
    """Velocities through the contacts; `place` is moved, the balls' own places are not."""
    loss = 1.5 * (1.0 - p[P_BALL_RESTITUTION])
    for step in range(_MOST_STEPS):
        for m in range(count):
            i = members[m]
            place[i, 0] += b[i, VX] * _STEP
            place[i, 1] += b[i, VY] * _STEP
        active = False
        for c in range(pairs):
            i, j = one[c], two[c]
            dx, dy = place[j, 0] - place[i, 0], place[j, 1] - place[i, 1]
            reach = b[i, RADIUS] + b[j, RADIUS]
            apart2 = dx * dx + dy * dy
            if apart2 >= reach * reach:
                closing[c] = 0.0
                continue
            apart = math.sqrt(apart2)
            nx, ny = dx / apart, dy / apart
            speed = (b[i, VX] - b[j, VX]) * nx + (b[i, VY] - b[j, VY]) * ny
            if closing[c] == 0.0:
                closing[c] = max(speed, 1e-4)
            into = reach - apart
            damping = loss * min(max(speed / closing[c], -1.0), 1.0)  # others may press a slow contact
            force = STIFFNESS * into * math.sqrt(into) * (1.0 + damping)
            active = True
            push = force * _STEP
            pushed[c] += push
            b[i, VX] -= push * nx / b[i, MASS]
            b[i, VY] -= push * ny / b[i, MASS]
            b[j, VX] += push * nx / b[j, MASS]
            b[j, VY] += push * ny / b[j, MASS]
        if not active and step > 1:
            return
