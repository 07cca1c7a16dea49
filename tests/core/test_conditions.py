"""What a day's conditions do to the table, the reach, and the strokes that are proposed."""

from __future__ import annotations

import math

import pytest

from aretane.core.conditions import Conditions, allowed, arm_of, conditions_from, table_under
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.parameters import physics_of
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.skill.reach import reach_for
from aretane.core.table import PRESETS
from aretane.core.units import INCH

TABLE = PRESETS["pool-9ft"]


def test_a_tight_pocket_is_four_and_a_quarter_inches_and_a_wide_one_nearly_five():
    """Common practice: rooms call 4 1/4 in tight; 4 7/8 in and more are bar pockets."""
    tight, wide = (table_under(TABLE, Conditions(pockets=word)) for word in ("tight", "wide"))
    assert tight.corner_mouth == pytest.approx(4.25 * INCH, rel=0.005)
    assert wide.corner_mouth == pytest.approx(4.875 * INCH, rel=0.005)
    assert table_under(TABLE, Conditions()) == TABLE


def test_the_same_stroke_runs_further_on_a_fast_cloth():
    """Rolling friction decides how far: v^2 / (2 mu g) on a free bed."""
    runs = []
    for cloth in ("slow", "usual", "fast"):
        table = table_under(TABLE, Conditions(cloth=cloth))
        shot = simulate(Layout(table, "nine-ball", {"cue": (0.3, 0.6)}), Stroke(speed=0.6, aim=0.0))
        runs.append(shot.final.balls["cue"][0] - 0.3)
    assert runs == sorted(runs)
    ratio = (
        physics_of(table_under(TABLE, Conditions(cloth="slow"))).roll_friction
        / physics_of(table_under(TABLE, Conditions(cloth="fast"))).roll_friction
    )
    assert runs[2] / runs[0] == pytest.approx(ratio, rel=0.15)


def test_without_a_rest_a_far_ball_costs_more():
    snooker, place, aim = PRESETS["snooker-12ft"], (0.7, 0.3), math.radians(240)
    with_rest = reach_for(snooker, place, aim, arm_of("right", ()))
    without = reach_for(snooker, place, aim, arm_of("right", ("rest",)))
    assert with_rest.words == ("rest",)
    assert without.words == ("no rest at hand",)
    assert without.wider > with_rest.wider


def test_what_is_barred_is_a_matter_of_house_and_player():
    told = {"jump": True, "masse": False, "A": {"jump_cue": False, "hand": "left"}, "B": {"jump_cue": True}}
    day = conditions_from(told)
    assert day.barred("A") == ("jump", "masse")
    assert day.barred("B") == ("masse",)
    assert day.hand("A") == "left"
    assert day.hand("B") is None


def test_jumps_and_masses_are_known_by_the_raised_cue():
    jump = Stroke(speed=3.0, aim=0.0, elevation=math.radians(45))
    masse = Stroke(speed=2.0, aim=0.0, elevation=math.radians(35), side=0.4)
    over_a_ball = Stroke(speed=2.0, aim=0.0, elevation=math.radians(12), side=0.4)
    assert not allowed(jump, ("jump",))
    assert not allowed(masse, ("masse",))
    assert allowed(over_a_ball, ("jump", "masse"))
    assert allowed(jump, ())


def test_free_words_say_nothing_that_is_reckoned_with_and_wrong_ones_are_refused():
    assert conditions_from("hot and humid") == Conditions()
    with pytest.raises(InputError, match=r"conditions\.cloth"):
        conditions_from({"cloth": "greasy"})
