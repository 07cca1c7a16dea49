"""How the cue comes to the ball, and what the table does by chance."""

import math

import numpy as np
import pytest

from aretane.core.layout import Layout
from aretane.core.parameters import physics_as_data, physics_of
from aretane.core.physics.compiled import R_CAPPED
from aretane.core.physics.cueing import TIP, UNREACHABLE, least_elevations
from aretane.core.physics.sampling import lucks_of, play_all
from aretane.core.physics.start import start_of
from aretane.core.physics.table_shape import table_shape
from aretane.core.table import PRESETS
from tests.core.physics.helpers import with_physics

POOL = PRESETS["pool-9ft"]
R = POOL.radius


def elevation(cue, aim, height=0.0, **balls):
    layout = Layout(
        POOL, "nine-ball", {"cue": cue, **{name.removeprefix("b"): place for name, place in balls.items()}}
    )
    start = start_of(layout)
    size = table_shape(POOL).size
    return float(least_elevations(start.numbers, start.integers, size, np.array([aim]), np.array([height]))[0])


def test_in_the_open_the_cue_is_level():
    assert elevation((1.0, 0.6), 0.3) == 0.0
    assert elevation((1.0, 0.6), 0.3, -0.4) == 0.0


def test_a_frozen_cue_ball_gets_no_level_centre_hit():
    """Common practice: frozen to the rail it is struck high, with a raised cue; a centre hit needs far more."""
    rho = POOL.contact_distance(R)
    centre, high = elevation((rho, 0.6), 0.0), elevation((rho, 0.6), 0.0, 0.4)
    assert 0.0 < high < centre
    assert math.degrees(centre) > 20
    assert elevation((rho, 0.6), math.pi / 2, 0.0) == 0.0  # along the rail nothing is in the way


def test_a_frozen_level_centre_hit_is_below_the_nose_by_hand():
    """Worked out: the cue's lower edge at a centre hit is R - 6.5 mm above the bed, the nose .635 of two R."""
    assert POOL.nose_height > R - TIP


def test_low_tips_and_near_rails_raise_the_cue():
    low, lower = elevation((0.15, 0.6), 0.0, -0.2), elevation((0.15, 0.6), 0.0, -0.5)
    assert lower >= low
    assert elevation((0.1, 0.6), 0.0) >= elevation((0.3, 0.6), 0.0)


def test_a_ball_under_the_cue_raises_it_by_what_it_is_high():
    over = elevation((1.0, 0.6), 0.0, 0.0, b3=(0.85, 0.6))
    tip, away = R * (1 + math.sin(over)), 0.15 - R * math.cos(over)
    clear = (tip + away * math.tan(over) - R) * math.cos(over)
    assert over > math.radians(6)
    assert clear >= R + TIP
    assert elevation((1.0, 0.6), 0.0, 0.0, b3=(0.85, 0.75)) == 0.0
    assert elevation((1.0, 0.6), 0.0, -0.5, b3=(1.0 - 2 * R - 0.0005, 0.6)) > math.radians(30)
    assert math.degrees(UNREACHABLE) == 90


LAYOUT = Layout(POOL, "nine-ball", {"cue": (0.5, 0.4), "1": (1.4, 0.5), "9": (2.0, 0.9)})


def played(lucks, layout=LAYOUT, stroke=(0.13, 2.0, 0.0, 0.1, 0.0)):
    strokes = np.tile(stroke, (len(lucks), 1))
    return play_all(layout, start_of(layout), strokes, lucks=np.asarray(lucks, dtype=np.int64))


def test_without_luck_the_table_is_the_same_every_time():
    made = played([0, 0, 0])
    assert np.ptp(made.places, axis=0).max() == 0.0


def test_the_same_luck_meets_the_same_table():
    lucks = lucks_of(6, 3)
    one, other = played(lucks), played(lucks[::-1])
    assert np.array_equal(one.places, other.places[::-1])
    assert np.ptp(one.places[:, 0], axis=0).max() > 0.0


def test_rails_scatter_as_the_parameters_say():
    """One rail straight on: the stop scatters as it moves when the rail is livelier by one and a half per cent."""
    table = with_physics(POOL, rail_turn=0.0, throw_scatter=0.0, cling_chance=0.0, tilt=0.0)
    layout = Layout(table, "nine-ball", {"cue": (1.6, 0.6)})
    stops = played(lucks_of(3000, 1), layout, (0.0, 1.4, 0.0, 0.4, 0.0)).places[:, 0, 0]
    usual = dict(physics_as_data(physics_of(POOL)))["rail_restitution"]
    lively = with_physics(POOL, rail_restitution=usual + 0.015 * (usual - 0.01))
    one, other = (
        played([0], Layout(t, "nine-ball", layout.balls), (0.0, 1.4, 0.0, 0.4, 0.0)).places[0, 0, 0]
        for t in (table, lively)
    )
    assert stops.std() == pytest.approx(abs(one - other), rel=0.15)


def test_a_slope_pulls_a_slow_ball_aside():
    """5/7 g tilt for each radian; at rest after t seconds half of that times t squared. The trade: a slow ball
    rolls off.
    """
    table = with_physics(POOL, rail_scatter=0.0, rail_turn=0.0, tilt=0.001)
    layout = Layout(table, "nine-ball", {"cue": (0.4, 0.6)})
    slow = played(lucks_of(2000, 2), layout, (0.0, 0.5, 0.0, 0.4, 0.0))
    time = slow.durations[0]
    expected = 0.5 * 5 / 7 * 9.81 * 0.001 * time**2
    assert slow.places[:, 0, 1].std() == pytest.approx(expected, rel=0.15)


def test_a_ball_clings_now_and_then():
    """A half-ball hit at 2 m/s: throw of the object ball is three times as much in one contact of fifty."""
    table = with_physics(POOL, cling_chance=0.02, throw_scatter=0.0, rail_turn=0.0, rail_scatter=0.0, tilt=0.0)
    layout = Layout(table, "nine-ball", {"cue": (0.5, 0.6), "1": (1.2, 0.6 + R)})
    made = played(lucks_of(4000, 5), layout, (0.0, 2.0, 0.0, 0.0, 0.0))
    usual = played([0], layout, (0.0, 2.0, 0.0, 0.0, 0.0))
    off = np.hypot(*(made.places[:, 1] - usual.places[0, 1]).T) > 0.01
    assert off.mean() == pytest.approx(0.02, abs=0.008)


def test_chance_never_loses_a_ball_or_runs_for_ever():
    dice = np.random.default_rng(4)
    rho = POOL.contact_distance(R)
    layout = Layout(POOL, "nine-ball", {"cue": (0.6, rho), "1": (1.0, rho), "2": (1.6, 1.2), "9": (2.2, 0.7)})
    strokes = np.column_stack([dice.uniform(-3.1, 3.1, 3000), dice.uniform(0.2, 7, 3000), *np.zeros((3, 3000))])
    made = play_all(layout, start_of(layout), strokes, lucks=lucks_of(3000, 9))
    assert not made.results[:, R_CAPPED].any()
    assert np.isfinite(made.places).all()
    on = made.fates == -1
    assert (made.places[on] > -0.05).all()
