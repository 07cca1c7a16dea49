"""What cloth, rails, balls and cue do: one set for each table, each value with its source or "assumed"."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields, replace
from typing import Protocol

from aretane.core.errors import InputError


@dataclass(frozen=True)
class Physics:
    """Parameters in metres, kilograms, seconds. Sources below, at the presets.

    Friction between two balls is `friction_floor` + `friction_span` exp(-`friction_decay` slip). Rail restitution
    falls by `rail_softening` for each m/s of the impact. `capture_depth` is the part of its radius that a ball must
    have fallen beyond the slate before it cannot come back. The last seven of the bed say how much chance
    there is in it, see `chance`: standard deviations of a rail's restitution (relative) and of the direction off it
    (radians), of ln(friction between balls), how often and how much a ball clings, and of the bed's slope
    (radians).
    """

    slide_friction: float = 0.2
    roll_friction: float = 0.010
    spin_slowing: float = 10.0  # rad/s²
    ball_restitution: float = 0.95
    friction_floor: float = 9.951e-3
    friction_span: float = 0.108
    friction_decay: float = 1.088  # s/m
    rail_restitution: float = 0.90
    rail_softening: float = 0.01  # s/m
    rail_friction: float = 0.2
    bed_restitution: float = 0.5
    capture_depth: float = 0.2
    rail_scatter: float = 0.015
    rail_turn: float = 0.003
    throw_scatter: float = 0.2
    cling_chance: float = 0.01
    cling_gain: float = 3.0
    tilt: float = 1.0e-4
    ball_mass: float = 0.1701  # kg
    cue_ball_mass: float = 0.1701  # kg
    end_mass_ratio: float = 28.0  # ball's mass over the mass of the cue's end that the impact moves sideways

    def numbers(self) -> tuple[float, ...]:
        """What the kernels use, in the order of the columns `P_...`."""
        return (*(getattr(self, name) for name in _KERNEL_FIELDS), 0.0, 0.0, 0.0)


_KERNEL_FIELDS = tuple(field.name for field in fields(Physics))[:18]

# Sources. Sliding .2 and rolling .01 friction, cushion friction .2: usual values for pool cloth collected by D.
# G. Alciatore, "Physical properties of balls, cloth and cushions" (from memory). Spin slowing 10 rad/s²: the
# same collection (5 to 15). Ball restitution .95: his .92 to .98. Ball friction: his fit to W. Marlow, "The
# Physics of Pocket Billiards" (1995). Bed restitution .5: his jump-shot figures. Masses: 6 oz, the upper end of
# the WPA's equipment specification. Rail restitution and softening: assumed, set so that a lag (two lengths)
# starts at 2.3 m/s and a stroke of 6.5 m/s runs a little over four lengths (common practice; tests/core/physics
# hold it). End mass ratio 28: two degrees of squirt at half a radius, a usual cue (assumed). Capture depth:
# assumed.
# Chance. Slope .1 mm a metre: half of the WPA's limit for a bed (.020 in over its length: .2 mm a metre). A
# ball clings once in a hundred contacts and then throws about three times as much: D. G. Alciatore on cling,
# skid and kick (from memory); players of snooker count one or two kicks in a frame. Rails: two balls of one
# machine come off the same rail within two per cent of speed and a third of a degree (assumed). Friction
# between balls a fifth up or down with chalk and handling (assumed).
POOL = Physics()

# Snooker. Sliding .21, rolling .0127: S. Mathavan, M. R. Jackson, R. M. Parkin, "Application of high-speed
# imaging to determine the dynamics of billiards" (2009), worn club cloth; a matched table rolls easier: .009
# assumed. Mass 142 g (5 oz): usual for 52.5 mm balls, the rules ask only for equal weights.
SNOOKER = replace(POOL, slide_friction=0.21, roll_friction=0.009, ball_mass=0.142, cue_ball_mass=0.142,
                  rail_restitution=0.92, end_mass_ratio=24.0)  # fmt: skip

# Blackball. Napped cloth, assumed slower; masses of 2 in and 1 7/8 in balls at the density of a pool ball.
BLACKBALL = replace(POOL, roll_friction=0.013, rail_restitution=0.87, ball_mass=0.119, cue_ball_mass=0.098,
                    end_mass_ratio=22.0)  # fmt: skip

SETS: dict[str, Physics] = {
    "pool-9ft": POOL,
    "pool-8ft": POOL,
    "pool-7ft": replace(POOL, roll_friction=0.012, rail_restitution=0.87),  # worn cloth of a public bar: assumed
    "snooker-12ft": SNOOKER,
    "blackball-7ft": BLACKBALL,
}

# What a table's set may be changed to, in the same units; wide enough for any cloth, narrow enough for nonsense.
LIMITS: dict[str, tuple[float, float]] = {
    "slide_friction": (0.0, 1.0),
    "roll_friction": (0.0, 0.1),
    "spin_slowing": (0.0, 100.0),
    "ball_restitution": (0.5, 1.0),
    "friction_floor": (0.0, 0.5),
    "friction_span": (0.0, 0.5),
    "friction_decay": (0.0, 10.0),
    "rail_restitution": (0.4, 1.0),
    "rail_softening": (0.0, 0.2),
    "rail_friction": (0.0, 1.0),
    "bed_restitution": (0.0, 0.9),
    "capture_depth": (0.01, 1.0),
    "rail_scatter": (0.0, 0.2),
    "rail_turn": (0.0, 0.1),
    "throw_scatter": (0.0, 1.0),
    "cling_chance": (0.0, 0.5),
    "cling_gain": (1.0, 10.0),
    "tilt": (0.0, 0.005),
    "ball_mass": (0.05, 0.5),
    "cue_ball_mass": (0.05, 0.5),
    "end_mass_ratio": (5.0, 500.0),
}


class Kind(Protocol):
    """What of a table tells its set; see `core/table.py`."""

    @property
    def name(self) -> str: ...

    @property
    def ball_diameter(self) -> float: ...

    @property
    def physics(self) -> tuple[tuple[str, float], ...]: ...


def physics_of(table: Kind) -> Physics:
    """The table's set: its preset's, or for a custom table that of the nearest ball, changed as the table says."""
    base = SETS.get(table.name) or _nearest(table.ball_diameter)
    return replace(base, **dict(table.physics))


def _nearest(ball_diameter: float) -> Physics:
    return min(
        (POOL, 0.05715), (SNOOKER, 0.0525), (BLACKBALL, 0.0508), key=lambda known: abs(known[1] - ball_diameter)
    )[0]


def changes_from(value: Mapping[str, object]) -> tuple[tuple[str, float], ...]:
    """Checked changes of a set, as a table keeps them. Raises `InputError` naming the parameter."""
    checked = []
    for name, number in sorted(value.items()):
        if name not in LIMITS:
            raise InputError(f"table.physics.{name}", "no parameter of a table; docs/physics.md names them")
        low, high = LIMITS[name]
        if isinstance(number, bool) or not isinstance(number, int | float) or not math.isfinite(number):
            raise InputError(f"table.physics.{name}", "must be a number")
        if not low <= number <= high:
            raise InputError(f"table.physics.{name}", f"{number:g} is outside {low:g} to {high:g}")
        checked.append((name, float(number)))
    return tuple(checked)


def physics_as_data(physics: Physics) -> dict[str, float]:
    return asdict(physics)
