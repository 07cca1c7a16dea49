"""Little experiments on the simulator."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import PRESETS

R = 0.05715 / 2
G = 9.81
NO_FRICTION = {"friction_floor": 0.0, "friction_span": 0.0}
VAST = replace(PRESETS["pool-9ft"], name="vast", length=400.0, width=400.0)  # no rail is ever reached


def with_physics(table, **changes):
    return replace(table, physics=tuple(sorted({**dict(table.physics), **changes}.items())))


def shot(table, balls, discipline="eight-ball", **stroke):
    return simulate(Layout(table, discipline, balls), Stroke(**stroke))


def cut(degrees, speed, table, distance=0.3, side=0.0, height=0.0, ball="1"):
    """The cue ball runs along +x and meets a ball at this cut angle; the ball goes to the right."""
    phi, ghost = math.radians(degrees), (200.0 + distance, 200.0)
    place = (ghost[0] + 2 * R * math.cos(phi), ghost[1] - 2 * R * math.sin(phi))
    return shot(table, {"cue": (200.0, 200.0), ball: place}, aim=0.0, speed=speed, side=side, height=height)


def after_contact(result, ball):
    """A ball's leg right after its first contact."""
    hit = next(event.t for event in result.events if event.kind == "contact")
    return next(leg for leg in result.legs[ball] if leg.t >= hit)


def direction(leg):
    return math.degrees(math.atan2(leg.velocity[1], leg.velocity[0]))


def energy(leg, mass=0.1701, radius=R):
    v, w = np.array(leg.velocity), np.array(leg.spin)
    return mass * (0.5 * v @ v + 0.2 * radius**2 * w @ w + G * (leg.place[2] - radius))
