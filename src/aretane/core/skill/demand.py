"""What a stroke on a table asks of the hand, read from its course without error."""

from __future__ import annotations

import math

from aretane.core.geometry.plane import turn
from aretane.core.layout import Layout
from aretane.core.physics.hit import first_hit
from aretane.core.physics.shot import Shot, simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.skill.effort import Demand
from aretane.core.skill.reach import UNKNOWN, Arm, reach_for

GRAZES = math.radians(25)  # a ball that a rail turns by less only runs along it: no bank to judge


def demand_of(
    layout: Layout, stroke: Stroke, ball: str | None = None, arm: Arm = UNKNOWN, shot: Shot | None = None
) -> Demand:
    """The demand of an aimed stroke. `ball` is meant to fall (None: the first that does); `shot` saves playing
    it.
    """
    assert layout.cue is not None
    assert stroke.aim is not None
    played = shot or simulate(layout, stroke)
    reach = reach_for(layout.table, layout.cue, stroke.aim, arm).wider
    hit = first_hit(layout, played)
    if hit is None:
        return Demand(reach=reach)
    meant = ball or (played.potted[0][0] if played.potted else None)
    fell = next((t for name, _, t in played.potted if name == meant), math.inf)
    banked = sum(
        e.kind == "rail" and e.balls[0] == meant and hit.t <= e.t and _turned(played, meant, e.t) > GRAZES
        for e in played.events
        if fell < math.inf
    )
    thin = 1.0 - (hit.fraction if hit.fraction is not None else 1.0)
    across = math.sqrt(max(1.0 - thin * thin, 0.01))
    gain = hit.distance / ((layout.table.radius + layout.table.cue_radius) * across)
    return Demand(hit.distance, reach, hit.rails, banked, gain)


def _turned(shot: Shot, ball: str, t: float) -> float:
    """By how much what happened at `t` turned the ball."""
    before = max((leg for leg in shot.legs[ball] if leg.t < t - 1e-9), key=lambda leg: leg.t, default=None)
    after = next((leg for leg in shot.legs[ball] if abs(leg.t - t) < 1e-9), None)
    if before is None or after is None:
        return 0.0
    s = t - before.t
    came = tuple(before.velocity[i] + before.acceleration[i] * s for i in (0, 1))
    return abs(turn(math.atan2(came[1], came[0]), math.atan2(after.velocity[1], after.velocity[0])))
