"""Three and more balls that touch, or nearly: a break, a frozen combination, a pack.

Struck one after the other they would pass nearly everything to one ball, as in Newton's cradle. Real balls give
way by more than the gaps in a rack, so several contacts work at once. Here their forces are integrated through
the contact: Hertz's law F = k δ^(3/2) between two spheres, damped as F (1 + a dδ/dt) with a = 3 (1 - e) / 2 v
so that a lone contact closing at v has restitution e (K. H. Hunt and F. R. E. Crossley, Journal of Applied
Mechanics 42, 1975). The lines of centres stay as they were and the balls are not moved: to everything else the
impact has taken no time. Friction acts once, with the sum of each contact's push.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    MASS, P_BALL_RESTITUTION, PHASE, RADIUS, ROLL, VX, VY, VZ, X, Y, Floats, Ints, allocating, kernel,
)  # fmt: skip
from aretane.core.physics.impact import rub

HARD = 0.05  # m/s: a softer contact gives way by less than any gap and acts alone
NEARLY = 0.0003  # m: balls with gaps below this are struck together; the rack's gaps are a third of it
STIFFNESS = 5.3e8  # N/m^1.5: 4/3 E* sqrt(R/2) with E 5.8 GPa, Poisson .34 (phenolic resin, from memory), R 28.6 mm
_STEP = 1.25e-5  # s: a contact lasts some 18 of them at a break's speed
_MOST_STEPS = 800
_REACH = 0.0015  # m: no pair with a wider gap comes to touch while it lasts


@kernel
def linked(b: Floats, k: Ints, i: int, j: int) -> bool:
    """Whether a third ball is linked to i or j by a small gap."""
    for other in range(b.shape[0]):
        if other != i and other != j and k[other, PHASE] <= ROLL and (_near(b, i, other) or _near(b, j, other)):
            return True
    return False


@kernel
def _near(b: Floats, i: int, j: int) -> bool:
    dx, dy = b[i, X] - b[j, X], b[i, Y] - b[j, Y]
    reach = b[i, RADIUS] + b[j, RADIUS] + NEARLY
    return bool(dx * dx + dy * dy < reach * reach)


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
            if not known and _near(b, one, other):
                members[count] = other
                count += 1
    return count


@allocating
def strike_together(b: Floats, k: Ints, p: Floats, members: Ints, count: int, contacts: Ints) -> int:
    """Let the forces between the members act. Fills `contacts` with the pairs that touched; their number."""
    most = count * (count - 1) // 2
    one, two = np.empty(most, np.int64), np.empty(most, np.int64)
    nx, ny, gap = np.empty(most), np.empty(most), np.empty(most)
    pairs = 0
    for u in range(count):
        for v in range(u):
            i, j = members[u], members[v]
            dx, dy = b[j, X] - b[i, X], b[j, Y] - b[i, Y]
            reach = b[i, RADIUS] + b[j, RADIUS]
            apart = math.sqrt(dx * dx + dy * dy)
            if apart < reach + _REACH:
                one[pairs], two[pairs] = i, j
                nx[pairs], ny[pairs], gap[pairs] = dx / apart, dy / apart, max(apart - reach, 0.0)
                pairs += 1
    pushed = _integrate(b, p, one, two, nx, ny, gap, pairs)
    touched = 0
    for c in range(pairs):
        if pushed[c] > 0.0:
            rub(b, p, one[c], two[c], pushed[c])
            contacts[touched, 0], contacts[touched, 1] = one[c], two[c]
            touched += 1
    for m in range(count):
        b[members[m], VZ] = 0.0
    return touched


@allocating
def _integrate(
    b: Floats, p: Floats, one: Ints, two: Ints, nx: Floats, ny: Floats, gap: Floats, pairs: int
) -> Floats:
    """Velocities through the contacts, along the lines of centres as they were; each pair's summed push."""
    loss = 1.5 * (1.0 - p[P_BALL_RESTITUTION])
    pushed, closing, push = np.zeros(pairs), np.zeros(pairs), np.zeros(pairs)
    for step in range(_MOST_STEPS):
        active = False
        for c in range(pairs):  # all forces first: none may know of another's effect in the same step
            i, j = one[c], two[c]
            speed = (b[i, VX] - b[j, VX]) * nx[c] + (b[i, VY] - b[j, VY]) * ny[c]
            gap[c] -= speed * _STEP
            if gap[c] >= 0.0:
                closing[c] = push[c] = 0.0
                continue
            if closing[c] == 0.0:
                closing[c] = max(speed, 1e-4)
            damping = loss * min(max(speed / closing[c], -1.0), 1.0)  # others may press a slow contact
            push[c] = STIFFNESS * -gap[c] * math.sqrt(-gap[c]) * (1.0 + damping) * _STEP
            active = True
        for c in range(pairs):
            if push[c] == 0.0:
                continue
            i, j = one[c], two[c]
            pushed[c] += push[c]
            one_gets, two_gets = push[c] / b[i, MASS], push[c] / b[j, MASS]
            b[i, VX] -= one_gets * nx[c]
            b[i, VY] -= one_gets * ny[c]
            b[j, VX] += two_gets * nx[c]
            b[j, VY] += two_gets * ny[c]
        if not active and step > 1:
            break
    return pushed
