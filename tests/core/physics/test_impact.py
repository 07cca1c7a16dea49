"""Ball on ball: throw, gearing, the stun line, the natural angle, momentum, energy."""

from __future__ import annotations

import math

import numpy as np
import pytest

from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.rack import racked
from aretane.core.table import PRESETS
from tests.core.physics.helpers import (
    NO_FRICTION,
    VAST,
    R,
    after_contact,
    cut,
    direction,
    energy,
    shot,
    with_physics,
)

ICE = with_physics(VAST, slide_friction=0.0, ball_restitution=1.0)
IDEAL = with_physics(VAST, ball_restitution=1.0, **NO_FRICTION)
ANGLES = (10, 20, 30, 40, 50, 60, 70)


def throw(result, degrees):
    """How far the object ball leaves the line of centres, towards the cue ball's direction of travel."""
    return direction(after_contact(result, "1")) + degrees


def frozen_in_time(degrees, speed, side=0.0):
    """A contact without any spin but side: the bed has no friction."""
    return cut(degrees, speed, ICE, distance=0.1, side=side)


@pytest.mark.parametrize(
    ("speed", "expected"),
    [
        (0.5, (1.44, 2.98, 4.72, 4.92, 4.64, 4.42, 4.27)),
        (1.0, (1.44, 2.98, 4.15, 3.64, 3.26, 2.98, 2.79)),
        (2.0, (1.44, 2.98, 2.65, 2.10, 1.74, 1.51, 1.37)),
        (4.0, (1.44, 1.97, 1.27, 0.95, 0.79, 0.71, 0.67)),
    ],
)
def test_throw_of_a_stun_shot(speed, expected):
    """D. G. Alciatore, technical proof A.14, with his fit of Marlow's friction; recomputed, e = 1."""
    found = [throw(frozen_in_time(degrees, speed), degrees) for degrees in ANGLES]
    assert found == pytest.approx(expected, abs=0.006)


@pytest.mark.parametrize("degrees", [15, 30, 45])
def test_gearing_side_throws_nothing(degrees):
    """R ωz = v sin φ: the surfaces roll on one another. The tip place that gives it is 2/5 sin φ."""
    sharp = with_physics(ICE, end_mass_ratio=500.0, spin_slowing=0.0)
    side = -0.4 * math.sin(math.radians(degrees))  # outside: away from where the ball is cut to
    geared = cut(degrees, 2.0, sharp, distance=0.1, side=side)
    line = np.degrees(math.atan2(*(np.array(_contact_line(geared))[::-1])))
    assert direction(after_contact(geared, "1")) == pytest.approx(line, abs=0.05)


def _contact_line(result):
    hit = next(event for event in result.events if event.kind == "contact")
    ball = result.legs["1"][0].place
    return ball[0] - hit.place[0], ball[1] - hit.place[1]


@pytest.mark.parametrize("degrees", [10, 30, 45, 60])
def test_stun_line_is_square_only_at_full_restitution(degrees):
    square = cut(degrees, 2.0, with_physics(ICE, **NO_FRICTION), distance=0.1)
    away = direction(after_contact(square, "cue")) - direction(after_contact(square, "1"))
    assert away == pytest.approx(90.0, abs=1e-6)
    lossy = cut(degrees, 2.0, with_physics(ICE, ball_restitution=0.95, **NO_FRICTION), distance=0.1)
    away = direction(after_contact(lossy, "cue")) - direction(after_contact(lossy, "1"))
    assert away == pytest.approx({10: 81.9, 30: 87.5, 45: 88.6, 60: 89.2}[degrees], abs=0.06)


@pytest.mark.parametrize(
    ("degrees", "expected"),
    [(10, 21.681), (20, 31.868), (30, 33.670), (40, 31.196), (50, 26.518), (60, 20.633), (70, 14.063), (80, 7.116)],
)
def test_natural_angle_of_a_rolling_ball(degrees, expected):
    """tan θ = sin φ cos φ / (sin² φ + 2/5): Alciatore's proof A.4, after Coriolis."""
    result = cut(degrees, 2.0, IDEAL, height=0.4)
    hit = next(event.t for event in result.events if event.kind == "contact")
    roll = next(leg for leg in result.legs["cue"] if leg.t > hit and leg.phase == "roll")
    assert direction(roll) == pytest.approx(expected, abs=0.001)


@pytest.mark.parametrize("table", ["pool-9ft", "blackball-7ft"])
def test_momentum_on_the_bed_is_kept_and_energy_lost(table):
    """Blackball's cue ball is smaller and lighter than the others."""
    known, discipline = PRESETS[table], "blackball" if table.startswith("black") else "eight-ball"
    ball = "red-1" if discipline == "blackball" else "1"
    masses = {"cue": 0.098, ball: 0.119} if discipline == "blackball" else {"cue": 0.1701, ball: 0.1701}
    result = shot(known, {"cue": (0.5, 0.5), ball: (0.9, 0.52)}, discipline, aim=0.0, speed=2.0, side=0.2)
    hit = next(event.t for event in result.events if event.kind == "contact")
    before = [leg for leg in result.legs["cue"] if leg.t < hit][-1]
    s = hit - before.t
    arriving = np.array([before.velocity[a] + before.acceleration[a] * s for a in (0, 1)])
    after = {name: np.array(after_contact(result, name).velocity[:2]) for name in masses}
    assert sum(masses[n] * after[n] for n in masses) == pytest.approx(masses["cue"] * arriving, abs=1e-12)
    assert sum(masses[n] * after[n] @ after[n] for n in masses) < masses["cue"] * arriving @ arriving


def test_energy_never_rises_between_events():
    table = PRESETS["pool-9ft"]
    for seed in range(6):
        layout = racked(table, "eight-ball", seed).placed("cue", (0.6, 0.6))
        result = simulate(layout, Stroke(aim=0.01 * seed, speed=6.0, side=0.2, height=-0.2))
        held = {name: energy(legs[0]) for name, legs in result.legs.items()}
        total = sum(held.values())
        changes = sorted((leg.t, n, name) for name, legs in result.legs.items() for n, leg in enumerate(legs) if n)
        for moment in sorted({t for t, _, _ in changes}):
            for t, n, name in changes:
                if t == moment:
                    held[name] = energy(result.legs[name][n])
            # A ball that rests or waits has all it had; slow contacts are pushed apart at 5 mm/s (2 µJ).
            assert sum(held.values()) <= total + 5e-6
            total = max(sum(held.values()), 0.0)


def test_a_jump_shot_clears_a_ball_and_a_level_one_does_not():
    """Common practice: a butt raised by 45 degrees and a firm stroke jump a full ball in the way."""
    balls = {"cue": (0.5, 0.6), "1": (0.9, 0.6), "2": (1.5, 0.6)}
    over = shot(PRESETS["pool-9ft"], balls, aim=0.0, speed=2.6, elevation=math.radians(45))
    level = shot(PRESETS["pool-9ft"], balls, aim=0.0, speed=2.6)
    assert over.first_contact == "2"
    assert level.first_contact == "1"


def test_frozen_balls_leave_along_their_line():
    """A set of two frozen balls: the second goes along the line of centres (throw apart; common practice)."""
    balls = {"cue": (0.5, 0.6), "1": (1.0, 0.62), "2": (1.0 + 2 * R * math.cos(0.4), 0.62 + 2 * R * math.sin(0.4))}
    slick = with_physics(PRESETS["pool-9ft"], **NO_FRICTION)
    result = shot(slick, balls, aim=0.04, speed=2.0)
    leg = next(leg for leg in result.legs["2"] if leg.phase != "rest")
    assert math.atan2(leg.velocity[1], leg.velocity[0]) == pytest.approx(0.4, abs=0.01)


def test_three_frozen_in_line_pass_the_blow_on():
    balls = {"cue": (0.5, 0.6), "1": (1.0, 0.6), "2": (1.0 + 2 * R, 0.6), "3": (1.0 + 4 * R, 0.6)}
    result = shot(PRESETS["pool-9ft"], balls, aim=0.0, speed=1.5)
    speeds = [max(math.hypot(*leg.velocity[:2]) for leg in result.legs[b]) for b in ("1", "2", "3")]
    assert speeds[2] > 3 * max(speeds[:2])


def test_equal_balls_struck_alike_move_alike():
    """The head ball of a triangle of three, struck full: both neighbours leave at the same speed."""
    apart = 2 * R
    balls = {
        "cue": (0.5, 0.6),
        "1": (1.0, 0.6),
        "2": (1.0 + apart * math.cos(math.pi / 6), 0.6 + apart / 2),
        "3": (1.0 + apart * math.cos(math.pi / 6), 0.6 - apart / 2),
    }
    result = simulate(Layout(PRESETS["pool-9ft"], "eight-ball", balls), Stroke(aim=0.0, speed=3.0))
    left, right = (next(leg for leg in result.legs[b] if leg.phase != "rest") for b in ("2", "3"))
    assert left.velocity[0] == pytest.approx(right.velocity[0], rel=5e-3)
    assert left.velocity[1] == pytest.approx(-right.velocity[1], rel=5e-3)
