"""Worked situations of ten-ball. World Pool-Billiard Association, The Rules of Play, section 9 (from memory).

The numbers name the rule; the situations are worked by hand from its text.
"""

from __future__ import annotations

import pytest

from aretane.core.errors import ImpossibleShot
from tests.core.rules.sheets import brk, called, choice, entry, rack, says

TEN = "ten-ball"


def test_9_5_a_called_ball_in_its_pocket_keeps_the_table_and_what_falls_with_it_stays_down():
    sheet = rack(TEN, brk("A", "4"), called("A", "1", also="7"))
    assert says(sheet) == (None, "A", None)
    assert sheet.state.points == {"A": 3, "B": 0}
    assert not {"1", "4", "7"} & set(sheet.state.balls)


def test_9_3_the_ten_on_the_break_is_spotted_and_the_breaker_goes_on():
    sheet = rack(TEN, brk("A", "10"))
    assert says(sheet) == (None, "A", None)
    assert sheet.rulings[0].spotted == ("10",)
    assert "10" in sheet.state.balls
    assert sheet.winner is None


def test_9_3_the_break_needs_no_call():
    assert says(rack(TEN, brk("A", "6")))[1] == "A"


@pytest.mark.parametrize(
    "wrong",
    [
        entry("A", "1", call="1 side-left", first_contact="1"),
        entry("A", "5", call="1", first_contact="1"),
        entry("A", "1", first_contact="1"),
        entry("A", "1", call="1", first_contact="1", declared="safety"),
    ],
    ids=["another pocket", "another ball", "nothing called", "a called safety"],
)
def test_9_7_a_wrongly_potted_ball_ends_the_inning_and_the_opponent_may_hand_the_shot_back(wrong):
    sheet = rack(TEN, brk("A", "4"), wrong)
    assert says(sheet) == (None, "B", None)
    assert sheet.rulings[-1].after.choices == ("accept", "pass-back")
    assert sheet.rulings[-1].counted == 0
    back = rack(TEN, brk("A", "4"), wrong, choice("B", "pass-back"))
    assert says(back)[1] == "A"
    assert (
        rack(TEN, brk("A", "4"), wrong, entry("B", first_contact=min(back.state.balls, key=int))).state.player
        == "A"
    )


def test_9_5_the_ten_called_and_made_wins_early_unless_the_option_spots_it():
    combination = entry("A", "10", call="10", first_contact="1", kind="combination")
    assert rack(TEN, brk("A", "4"), combination).winner == "A"
    sheet = rack(TEN, brk("A", "4"), combination, rules={"money_ball_early": "spot"})
    assert (sheet.winner, sheet.rulings[-1].spotted, says(sheet)[1]) == (None, ("10",), "A")


def test_9_8_the_ten_that_falls_uncalled_is_spotted():
    sheet = rack(TEN, brk("A", "4"), called("A", "1", also="10"))
    assert (sheet.winner, sheet.rulings[-1].spotted, says(sheet)[1]) == (None, ("10",), "A")


def test_2_4_a_push_out_suspends_contact_and_rail_but_not_the_scratch():
    pushed = entry("B", declared="push-out", first_contact=None, rails_after_contact=0)
    sheet = rack(TEN, brk("A"), pushed)
    assert (says(sheet), sheet.rulings[-1].after.choices) == ((None, "A", None), ("accept", "pass-back"))
    assert says(rack(TEN, brk("A"), {**pushed, "scratch": True})) == ("scratch", "A", "anywhere")


def test_a_returned_push_out_must_be_hit_but_need_not_be_a_pot():
    pushed = entry("B", declared="push-out", first_contact=None)
    again = rack(TEN, brk("A"), pushed, choice("A", "pass-back"), entry("B", first_contact=None))
    assert says(again) == ("no-contact", "A", "anywhere")
    hit = rack(
        TEN, brk("A"), pushed, choice("A", "pass-back"), entry("B", first_contact="1", rails_after_contact=1)
    )
    assert says(hit) == (None, "A", None)


def test_a_push_out_is_refused_where_the_match_is_played_without():
    with pytest.raises(ImpossibleShot, match="without the push-out"):
        rack(TEN, brk("A"), entry("B", declared="push-out"), rules={"push_out": False})


def test_three_fouls_in_a_row_lose_the_rack_with_the_shots_of_the_other_between():
    miss, hit = {"first_contact": None}, {"first_contact": "1", "rails_after_contact": 1}
    entries = [brk("A")]
    for _ in range(3):
        entries += [entry("B", **miss), entry("A", **hit)]
    sheet = rack(TEN, *entries[:-1])
    assert sheet.winner == "A"
    assert sheet.rulings[-1].fouls == ("no-contact", "three-fouls")
    assert rack(TEN, *entries, rules={"three_fouls": False}).winner is None


@pytest.mark.parametrize(
    ("consequence", "foul", "in_hand", "choices"),
    [("choice", "illegal-break", None, ("accept", "pass-back")), ("foul", "illegal-break", "anywhere", ())],
)
def test_a_three_point_break_that_falls_short_has_the_consequence_of_the_option(
    consequence, foul, in_hand, choices
):
    """Common practice of leagues: three object balls potted or past the line, else the break is short."""
    rules = {"three_point_break": True, "three_point_consequence": consequence}
    sheet = rack(TEN, brk("A", "4", past_line=2), rules=rules)
    assert says(sheet) == (foul, "B", in_hand)
    assert sheet.rulings[0].after.choices == choices
    assert says(rack(TEN, brk("A", "4", past_line=3), rules=rules)) == (None, "A", None)


def test_a_short_break_that_is_only_a_choice_is_no_foul_towards_three():
    rules = {"three_point_break": True}
    assert rack(TEN, brk("A", "4", past_line=1), rules=rules).state.fouls == {"A": 0, "B": 0}
