"""The aim solver, the player's errors, and the fit of a table."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.parameters import physics_of
from aretane.core.physics.aim import aimed
from aretane.core.physics.fit import fit_table
from aretane.core.physics.sampling import Cancelled, sample, tries_of, with_errors
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke, check_stroke
from aretane.core.rules.disciplines import masks
from aretane.core.rules.masks import judge
from aretane.core.skill.hand import PRESETS as HANDS
from aretane.core.skill.hand import Hand, hand_from
from aretane.core.table import POCKETS, PRESETS
from tests.core.physics.helpers import shot, with_physics

POOL = PRESETS["pool-9ft"]
CUT = Layout(POOL, "nine-ball", {"cue": (0.62, 0.40), "3": (1.31, 0.96), "9": (2.20, 0.55)})


@pytest.mark.parametrize("side", [-0.4, 0.0, 0.4])
@pytest.mark.parametrize("speed", [1.8, 2.5, 4.0])
def test_the_aim_pots_with_squirt_and_throw(side, speed):
    stroke = Stroke(speed=speed, at="3", pocket="foot-left", side=side, height=-0.1)
    assert ("3", "foot-left") in [fall[:2] for fall in simulate(CUT, aimed(CUT, stroke)).potted]


def test_side_moves_the_aim_by_more_than_the_pocket_forgives():
    aims = [aimed(CUT, Stroke(speed=2.5, at="3", pocket="foot-left", side=side)).aim for side in (-0.3, 0.3)]
    assert abs(aims[0] - aims[1]) > math.radians(1.5)


@pytest.mark.parametrize("depth", [-0.5, 0.0, 0.5, 0.95])
def test_a_hanging_ball_is_aimed_at_and_read_as_open(depth):
    """Common practice: a ball between the jaws is the easiest pot on the table."""
    from aretane.core.geometry.measured import measure_shot

    hole = POOL.pockets["foot-left"]
    place = tuple(m + depth * hole.shelf * a for m, a in zip(hole.mouth, hole.axis, strict=True))
    layout = Layout(POOL, "nine-ball", {"cue": (1.5, 0.6), "1": place})
    stroke = aimed(layout, Stroke(speed=1.0, at="1", pocket="foot-left", height=-0.2))
    assert ("1", "foot-left") in [fall[:2] for fall in simulate(layout, stroke).potted]
    measured = measure_shot(layout, "1", "foot-left")
    assert measured.open == 1.0
    assert measured.tolerance > math.radians(0.5)


def test_thick_and_thin_part_of_the_pocket():
    def direction(part):
        result = simulate(CUT, aimed(CUT, Stroke(speed=2.5, at="3", pocket="foot-left", part=part)))
        leg = next(leg for leg in result.legs["3"] if leg.phase == "slide")
        return math.atan2(leg.velocity[1], leg.velocity[0])

    thick, centre, thin = direction("thick"), direction("centre"), direction("thin")
    assert thick > centre > thin or thick < centre < thin
    # The fuller hit sends the ball nearer to the cue ball's own direction.
    line = math.atan2(0.96 - 0.40, 1.31 - 0.62)
    assert abs(thick - line) < abs(thin - line)


@pytest.mark.parametrize(
    ("stroke", "balls", "field"),
    [
        ({"at": "3", "pocket": "head-right"}, {}, "at"),
        ({"at": "3", "pocket": "foot-left", "speed": 0.4}, {}, "at"),
        ({"at": "3", "pocket": "foot-left"}, {"5": (0.97, 0.68)}, "at"),
        ({"at": "9", "pocket": "foot-right"}, {"5": (2.42, 0.15)}, "pocket"),
    ],
)
def test_where_there_is_no_aim_the_field_is_named(stroke, balls, field):
    layout = Layout(POOL, "nine-ball", {**CUT.balls, **balls})
    with pytest.raises(InputError) as refused:
        aimed(layout, Stroke(**{"speed": 2.0, **stroke}))
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("stroke", "field"),
    [
        ({"speed": -1, "aim": 0}, "speed"),
        ({"speed": 0, "aim": 0}, "speed"),
        ({"speed": 99, "aim": 0}, "speed"),
        ({"speed": math.nan, "aim": 0}, "speed"),
        ({"speed": 2, "aim": math.inf}, "aim"),
        ({"speed": 2, "aim": 0, "side": 0.8, "height": 0.7}, "side"),
        ({"speed": 2, "aim": 0, "elevation": 1.6}, "elevation"),
        ({"speed": 2}, "aim"),
        ({"speed": 2, "aim": 0, "at": "3"}, "aim"),
        ({"speed": 2, "at": "7", "pocket": "foot-left"}, "at"),
        ({"speed": 2, "at": "3", "pocket": "middle"}, "pocket"),
        ({"speed": 2, "aim": 0, "place": (1.31, 0.97)}, "place"),
        ({"speed": 2, "aim": 0, "place": (5, 5)}, "place"),
    ],
)
def test_a_stroke_that_cannot_be_names_its_field(stroke, field):
    with pytest.raises(InputError) as refused:
        check_stroke(CUT, Stroke(**stroke))
    assert refused.value.field == field
    assert len(str(refused.value).splitlines()) == 1


def test_samples_do_not_depend_on_the_threads_and_repeat():
    stroke = aimed(CUT, Stroke(speed=2.5, at="3", pocket="foot-left"))
    one, two = (sample(CUT, stroke, HANDS["club"], 1200, seed=7, threads=n) for n in (1, 3))
    assert np.array_equal(one.places, two.places)
    assert np.array_equal(one.fates, two.fates)
    assert not np.array_equal(one.places, sample(CUT, stroke, HANDS["club"], 1200, seed=8).places)


def test_variants_meet_the_same_errors():
    hand = replace(HANDS["league"], plain=True)
    few, more = (tries_of(CUT, Stroke(speed=2.0, aim=0.2), hand, n, 3).strokes for n in (50, 80))
    assert np.array_equal(few, more[:50])
    soft, firm = (tries_of(CUT, Stroke(speed=v, aim=0.2), hand, 50, 3).strokes for v in (1.0, 3.0))
    assert np.allclose(soft[:, 0], firm[:, 0])
    assert np.allclose(soft[:, 1] * 3, firm[:, 1])


def test_an_unintended_offset_turns_the_ball_and_not_its_way():
    """The aim error is the error of the cue ball's direction: squirt of an offset that nobody meant is part of
    it.
    """
    wrong = np.zeros((3, 5))
    wrong[:, 2] = -0.2, 0.0, 0.2
    rows = with_errors(Stroke(speed=2.0, aim=0.6, side=0.1), wrong, physics_of(POOL).end_mass_ratio)
    layout = Layout(POOL, "nine-ball", {"cue": (0.5, 0.3), "1": (2.3, 1.2)})
    shots = [simulate(layout, Stroke(aim=r[0], speed=r[1], side=r[2], height=r[3])) for r in rows]
    ways = [math.atan2(*one.legs["cue"][0].velocity[1::-1]) for one in shots]
    assert ways == pytest.approx([ways[1]] * 3, abs=1e-9)
    assert [one.legs["cue"][0].spin[2] for one in shots] == sorted(one.legs["cue"][0].spin[2] for one in shots)


def test_common_errors_steady_a_difference():
    """The cue ball's stop at two near speeds: the difference scatters less under common errors."""
    hand, n = HANDS["club"], 200

    def stop(speed, seed):
        drawn = sample(CUT, Stroke(speed=speed, aim=0.6), hand, n, seed)
        return drawn.places[drawn.fates[:, 0] == -1, 0, 0].mean()

    common = [stop(1.0, s) - stop(1.02, s) for s in range(25)]
    independent = [stop(1.0, s) - stop(1.02, s + 500) for s in range(25)]
    assert np.std(common) < 0.7 * np.std(independent)


def test_progress_is_told_and_cancel_obeyed():
    seen = []
    stroke = Stroke(speed=2.0, aim=0.6)
    sample(CUT, stroke, HANDS["club"], 1000, progress=seen.append)
    assert seen[-1] == 1000
    with pytest.raises(Cancelled):
        sample(CUT, stroke, HANDS["club"], 1000, cancelled=lambda: True)


def test_a_straight_pot_comes_off_as_often_as_the_normal_integral_says():
    """With an error of aim alone, P = 2 Φ(w/σ) - 1 with w found by trying the aims one by one."""
    from scipy.stats import norm

    layout = Layout(POOL, "nine-ball", {"cue": (1.0, 0.5), "1": (1.6, 0.8)})
    stroke = aimed(layout, Stroke(speed=2.5, at="1", pocket="foot-left"))
    aims = stroke.aim + np.linspace(-0.02, 0.02, 801)
    falls = [
        any(fall[:2] == ("1", "foot-left") for fall in simulate(layout, Stroke(speed=2.5, aim=float(a))).potted)
        for a in aims
    ]
    low, high = aims[np.flatnonzero(falls)[[0, -1]]]
    sigma = math.radians(0.3)
    expected = norm.cdf((high - stroke.aim) / sigma) - norm.cdf((low - stroke.aim) / sigma)
    drawn = sample(layout, stroke, Hand(sigma, 0, 0, 0, plain=True), 4000, seed=1)
    row = drawn.names.index("1")
    found = (drawn.fates[:, row] == POCKETS.index("foot-left")).mean()
    assert found == pytest.approx(expected, abs=0.035)


def test_hands_are_checked():
    made = hand_from({"aim_deg": 0.16, "speed": 0.1, "side": 0, "height": 0}, POOL)
    assert made.aim == pytest.approx(math.radians(0.16))
    assert made.rail == pytest.approx(HANDS["club"].rail)
    assert hand_from({"aim_deg": 0, "speed": 0, "side": 0, "height": 0, "rail_deg": 3}, POOL).rail == math.radians(
        3
    )
    assert hand_from("club", PRESETS["snooker-12ft"]).aim < hand_from("club", POOL).aim
    for wrong in ("amateur", {"aim_deg": 0.4}, {"aim_deg": math.nan, "speed": 0, "side": 0, "height": 0}, 3,
                  {"aim_deg": 0.1, "speed": 0, "side": 0, "height": 0, "rail_deg": -1}):  # fmt: skip
        with pytest.raises(InputError, match="player"):
            hand_from(wrong, POOL)


def test_masks_of_the_rules_judge_outcomes():
    def verdict(discipline, balls, fates, first, rails=1, called=None, **state):
        from aretane.core.layout import State

        layout = Layout(POOL, discipline, balls, State(**state))
        names = ("cue", *layout.object_balls)
        row = np.array([[fates.get(name, -1) for name in names]])
        made = judge(masks(layout), names, row, np.array([names.index(first)]), np.array([rails]), called)
        return bool(made.pot[0]), bool(made.foul[0])

    nine = {"cue": (1, 1), "2": (0.5, 0.5), "9": (0.7, 0.7)}
    assert verdict("nine-ball", nine, {"9": 0}, "2") == (True, False)
    assert verdict("nine-ball", nine, {"9": 0}, "9") == (False, True)
    assert verdict("nine-ball", nine, {}, "2", rails=0) == (False, True)
    assert verdict("nine-ball", nine, {"2": 1, "cue": 3}, "2") == (False, True)
    assert verdict("nine-ball", nine, {"2": 1}, "2", called=("2", 0)) == (False, False)
    eight = {"cue": (1, 1), "2": (0.5, 0.5), "12": (0.7, 0.7), "8": (0.9, 0.3)}
    assert verdict("eight-ball", eight, {"12": 0}, "2", group="solids") == (False, False)
    assert verdict("eight-ball", eight, {"2": 0}, "2", group="solids") == (True, False)
    red = {"cue": (1, 1), "red-1": (0.5, 0.5), "blue": (0.7, 0.7), "pink": (0.9, 0.3)}
    assert verdict("snooker", red, {"blue": 0}, "red-1") == (False, True)
    assert verdict("snooker", red, {}, "red-1", rails=0) == (False, False)
    assert verdict("snooker", red, {"pink": 0}, "blue", on="colour") == (False, True)
    assert verdict("snooker", red, {"blue": 0}, "blue", on="colour") == (True, False)


def test_a_table_is_recovered_from_its_paths():
    """Synthetic tracks of another table, 25 pictures a second, places to 3 mm: both parameters within 5 %."""
    true = with_physics(POOL, roll_friction=0.0075, rail_restitution=0.82)
    dice = np.random.default_rng(5)
    tracks = []
    for x, y, aim, speed in (
        (0.5, 0.4, 0.5, 2.2),
        (1.8, 0.9, 3.6, 1.8),
        (1.2, 0.3, 1.3, 1.5),
        (0.7, 0.9, -0.4, 2.6),
    ):
        result = shot(true, {"cue": (x, y)}, aim=aim, speed=speed, side=dice.normal(0, 0.05), height=0.4)
        times = np.arange(0, result.duration + 0.2, 0.04)
        rows = []
        for t in times:
            leg = [one for one in result.legs["cue"] if one.t <= t][-1]
            s = t - leg.t
            rows.append([t, *(leg.place[a] + (leg.velocity[a] + leg.acceleration[a] * s / 2) * s for a in (0, 1))])
        track = np.array(rows)
        track[:, 1:] += dice.normal(0, 0.003, (len(track), 2))
        tracks.append(track)
    fit = fit_table(POOL, tracks)
    assert fit.roll_friction == pytest.approx(0.0075, rel=0.05)
    assert fit.rail_restitution == pytest.approx(0.82, rel=0.05)
    assert fit.roll_friction_error < 0.05 * 0.0075
    assert fit.residual < 0.006
    assert dict(fit.applied_to(POOL).physics)["roll_friction"] == fit.roll_friction


def test_a_track_without_enough_samples_is_refused():
    with pytest.raises(InputError, match="tracks"):
        fit_table(POOL, [np.zeros((3, 3))])
