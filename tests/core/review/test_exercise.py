"""Exercises of a shot: easier and harder ones of the same kind."""

from __future__ import annotations

import pytest

from aretane.core.geometry.measured import measure_shot
from aretane.core.layout import Layout, first_overlap
from aretane.core.review.exercise import AS_IT_WAS, EASIER, HARDER, chance_of, levels
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES

TABLE = TABLES["pool-9ft"]
SHOT = Layout(TABLE, "nine-ball", {"cue": (0.9, 0.35), "5": (1.6, 0.8), "9": (2.3, 0.2)})


def test_the_levels_keep_the_cut_and_come_off_more_and_less():
    found = {one.name: one for one in levels(SHOT, "5", "foot-left", PRESETS["club"])}
    assert set(found) == {AS_IT_WAS, EASIER, HARDER}
    assert found[EASIER].chance > found[AS_IT_WAS].chance > found[HARDER].chance
    cuts = [measure_shot(one.layout, "5", "foot-left").cut.angle for one in found.values()]
    assert cuts == pytest.approx([cuts[0]] * 3, abs=1e-6)
    assert all(first_overlap(one.layout) is None for one in found.values())
    assert found[AS_IT_WAS].layout == SHOT


@pytest.mark.parametrize("hand", ["beginner", "club", "league"])
def test_they_are_as_near_as_can_be_to_eight_and_six_in_ten(hand):
    """Common practice: what comes off six to eight times in ten teaches most. No place nearer to it is left out."""
    for one in levels(SHOT, "5", "foot-left", PRESETS[hand]):
        if one.name == EASIER:
            assert one.chance <= 0.87 or hand != "beginner"
        again = chance_of(one.layout, measure_shot(one.layout, "5", "foot-left"), PRESETS[hand])
        assert again == pytest.approx(one.chance)


def test_a_blocked_ball_is_an_exercise_as_it_was_and_nothing_else():
    hidden = SHOT.placed("9", (1.25, 0.575))
    found = levels(hidden, "5", "foot-left", PRESETS["club"])
    assert [(one.name, one.chance) for one in found] == [(AS_IT_WAS, None)]
