"""How the cue ball came to the first ball: its way there, the rails on it, and how full it hit."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.shot import Shot


@dataclass(frozen=True)
class Hit:
    """`t` in seconds; `ball` struck first; `distance` the cue ball's way in metres and `rails` on it; `fraction` of
    the ball that was hit (None: not to be told).
    """

    t: float
    ball: str
    distance: float
    rails: int
    fraction: float | None


def first_hit(before: Layout, shot: Shot) -> Hit | None:
    """The first contact of `shot`, which was played from `before`; None where nothing was hit."""
    first = next((e for e in shot.events if e.kind == "contact" and CUE in e.balls), None)
    if first is None:
        return None
    struck = first.balls[1] if first.balls[0] == CUE else first.balls[0]
    mine = [e for e in shot.events if e.balls[0] == CUE and e.t <= first.t and e is not first]
    here = _place(shot, first.t)
    places = [before.balls[CUE], *(e.place for e in mine if e.kind in ("rail", "jaw")), here]
    return Hit(
        first.t,
        struck,
        sum(math.dist(a, b) for a, b in pairwise(places)),
        sum(e.kind == "rail" for e in mine),
        met.fullness if (met := met_at(before, shot, first.t, struck)) else None,
    )


def _place(shot: Shot, t: float) -> tuple[float, float]:
    """Where the cue ball was at `t`, on the leg that ended there."""
    leg = max((leg for leg in shot.legs[CUE] if leg.t < t - 1e-9), key=lambda leg: leg.t, default=shot.legs[CUE][0])
    s = t - leg.t
    x, y = (leg.place[i] + leg.velocity[i] * s + leg.acceleration[i] * s * s / 2 for i in (0, 1))
    return x, y


@dataclass(frozen=True)
class Met:
    """How the cue ball meets a ball: how full (1: full), and on which side of it as the cue ball comes."""

    fullness: float
    side: str


def met_at(before: Layout, shot: Shot, t: float, struck: str) -> Met | None:
    """From the cue ball's direction at a contact with a ball that has not moved yet."""
    leg = max((leg for leg in shot.legs[CUE] if leg.t < t - 1e-9), key=lambda leg: leg.t, default=None)
    if leg is None:
        return None
    s = t - leg.t
    x, y = _place(shot, t)
    vx, vy = (leg.velocity[i] + leg.acceleration[i] * s for i in (0, 1))
    bx, by = before.balls[struck]
    speed, apart = math.hypot(vx, vy), math.hypot(bx - x, by - y)
    if speed < 1e-9 or apart < 1e-9:
        return None
    across = (vx * (by - y) - vy * (bx - x)) / speed / apart  # above 0: the ball lies left of the way
    return Met(1.0 - min(1.0, abs(across)), "right" if across > 0 else "left")
