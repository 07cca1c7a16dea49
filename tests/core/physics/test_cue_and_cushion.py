"""The cue's impact and the cushion's rebound."""

from __future__ import annotations

import math

import pytest

from aretane.core.physics.cue import cue_speed, squirt
from aretane.core.table import PRESETS
from tests.core.physics.helpers import VAST, R, shot, with_physics

POOL = PRESETS["pool-9ft"]


@pytest.mark.parametrize(("side", "ratio"), [(0.1, 28), (0.25, 28), (0.5, 28), (0.5, 60), (-0.3, 20)])
def test_squirt_is_the_published_formula(side, ratio):
    """tan α = 5/2 b sqrt(1 - b²) / (1 + m_r + 5/2 (1 - b²)): Alciatore's proof A.31."""
    b2 = side * side
    expected = math.atan(2.5 * side * math.sqrt(1 - b2) / (1 + ratio + 2.5 * (1 - b2)))
    assert squirt(side, ratio) == pytest.approx(expected, rel=1e-12)
    table = with_physics(VAST, end_mass_ratio=ratio)
    vx, vy, _ = shot(table, {"cue": (200, 200)}, aim=0.3, speed=2.0, side=side).legs["cue"][0].velocity
    assert math.atan2(vy, vx) == pytest.approx(0.3 + expected, abs=1e-12)
    assert math.hypot(vx, vy) == pytest.approx(2.0)


def test_right_side_spins_counter_clockwise_and_two_fifths_above_rolls():
    first = shot(VAST, {"cue": (200, 200)}, aim=0.0, speed=2.0, side=0.2, height=0.4).legs["cue"][0]
    assert first.spin[2] == pytest.approx(2.5 * 2.0 * 0.2 / R)
    assert math.hypot(*first.spin[:2]) == pytest.approx(2.0 / R)


def test_cue_speed_after_leckie_and_greenspan():
    """v = 2 V / (1 + m/M + 5/2 b²): a 19 oz cue at 2 m/s drives a 6 oz ball off centre by 1/2 R at 2.06 m/s."""
    assert pytest.approx(2.06, abs=0.005) == 2 * 2.0 / (1 + 0.1701 / 0.54 + 2.5 * 0.25)
    assert cue_speed(2.06, 0.3, 0.4, 0.1701) == pytest.approx(2.0, abs=0.01)


def test_a_raised_cue_with_right_side_swerves_right():
    result = shot(VAST, {"cue": (200, 200)}, aim=0.0, speed=2.0, side=0.3, elevation=math.radians(15))
    start = result.legs["cue"][0].velocity
    end = next(leg for leg in result.legs["cue"] if leg.phase == "roll").velocity
    assert math.atan2(start[1], start[0]) > 0 > math.atan2(end[1], end[0])


def test_beyond_half_a_radius_the_tip_slips():
    clean = shot(VAST, {"cue": (200, 200)}, aim=0.0, speed=2.0, side=0.499)
    slipped = shot(VAST, {"cue": (200, 200)}, aim=0.0, speed=2.0, side=0.7)
    assert (clean.miscue, slipped.miscue) == (False, True)
    off = math.atan2(slipped.legs["cue"][0].velocity[1], slipped.legs["cue"][0].velocity[0])
    assert math.degrees(off) > 14
    assert slipped.legs["cue"][0].spin[2] < 1.01 * clean.legs["cue"][0].spin[2]


def rebound(angle_degrees, speed=1.5, side=0.0, height=0.4, table=POOL):
    """A rolling ball onto the left rail; angle from the rail's normal. Speed and angle as it leaves."""
    aim = math.radians(90 - angle_degrees)
    result = shot(table, {"cue": (0.8, 1.1)}, aim=aim, speed=speed, side=side, height=height)
    leg = next(leg for leg in result.legs["cue"] if leg.velocity[1] < 0)
    return math.hypot(*leg.velocity[:2]), math.degrees(math.atan2(leg.velocity[0], -leg.velocity[1]))


def test_a_centre_ball_sliding_square_on_comes_back_as_hans_formula_says():
    """Han (2005) without friction: v' = v (1 - (1 + e) cos² θ), sin θ = h/R - 1."""
    table = with_physics(POOL, rail_friction=0, rail_softening=0, rail_restitution=0.85, slide_friction=0)
    sin = POOL.nose_height / R - 1
    speed, angle = rebound(0, height=0.0, table=table)
    assert speed == pytest.approx(1.5 * ((1 + 0.85) * (1 - sin**2) - 1), rel=1e-9)
    assert angle == pytest.approx(0, abs=1e-9)


def test_side_widens_and_narrows_the_angle():
    """Common practice: running side lengthens the angle off the rail, check side shortens it. A ball without
    topspin, which would use the rail's friction up."""
    no_squirt = with_physics(POOL, end_mass_ratio=500.0)
    check, plain, running = (rebound(35, side=side, height=0.0, table=no_squirt)[1] for side in (-0.4, 0.0, 0.4))
    assert check + 1 < plain < running - 1
    assert running - check > 6


def test_a_fast_ball_comes_off_deader():
    slow, fast = rebound(0, 1.0)[0] / 1.0, rebound(0, 6.0)[0] / 6.0
    assert fast < slow < 1


def test_parameters_and_kernel_columns_are_in_the_same_order():
    from dataclasses import fields

    from aretane.core.parameters import LIMITS, SETS, Physics, physics_of
    from aretane.core.physics import compiled

    columns = sorted((number, name) for name, number in vars(compiled).items() if name.startswith("P_"))
    meant = ["slide", "roll", "spin", "ball_restitution", "friction_floor", "friction_span", "friction_decay"]
    meant += ["rail_restitution", "rail_softening", "rail_friction", "bed_restitution", "capture_depth"]
    meant += ["rail_scatter", "rail_turn", "throw_scatter", "cling_chance", "cling_gain", "tilt"]
    drawn = ["luck", "tilt_x", "tilt_y"]
    assert [name for _, name in columns] == ["P_" + name.upper() for name in [*meant, *drawn]]
    assert [field.name for field in fields(Physics)][3:18] == meant[3:]
    assert set(LIMITS) == {field.name for field in fields(Physics)}
    for table in PRESETS.values():
        assert physics_of(table) == SETS[table.name]
    assert physics_of(with_physics(POOL, roll_friction=0.02)).roll_friction == 0.02
