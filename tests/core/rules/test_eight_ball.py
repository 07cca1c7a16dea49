"""Worked situations of eight-ball. World Pool-Billiard Association, The Rules of Play, section 3 (from memory).

The numbers name the rule; the situations are worked by hand from its text.
"""

from __future__ import annotations

import pytest

from aretane.core.errors import ImpossibleShot, InputError
from aretane.core.layout import Layout, State
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.options import with_defaults
from aretane.core.table import PRESETS as TABLES
from tests.core.rules.sheets import brk, called, choice, entry, rack, says

EIGHT = "eight-ball"
SOLIDS = "1 2 3 4 5 6 7"


def cleared(*last, also=(), **more):
    """A takes the solids one by one after a dry break by B, then plays `last`."""
    run = [called("A", ball) for ball in SOLIDS.split()]
    return rack(EIGHT, brk("B"), *run, *last, **more)


# 3.3 The break


def test_3_4_the_table_is_open_after_the_break_whatever_fell():
    sheet = rack(EIGHT, brk("A", "3"))
    assert (says(sheet)[1], sheet.state.group) == ("A", {"A": None, "B": None})
    league = rack(EIGHT, brk("A", "3"), rules={"open_after_break": False})
    assert league.state.group == {"A": "solids", "B": "stripes"}
    both = rack(EIGHT, brk("A", "3 11"), rules={"open_after_break": False})
    assert both.state.group == {"A": None, "B": None}


def test_3_3_d_an_illegal_break_gives_three_choices():
    short = brk("A", object_balls_to_rail=3)
    sheet = rack(EIGHT, short)
    assert says(sheet) == ("illegal-break", "B", None)
    assert sheet.rulings[0].after.choices == ("accept", "re-rack", "re-break")
    for word, breaker in (("re-rack", "B"), ("re-break", "A")):
        again = rack(EIGHT, short, choice("B", word))
        assert says(again) == (None, breaker, "behind-line")
        assert len(again.state.balls) == 15
        assert says(rack(EIGHT, short, choice("B", word), brk(breaker, "5")))[1] == breaker
    assert says(rack(EIGHT, short, choice("B", "accept"), called("B", "9")))[1] == "B"


def test_3_3_e_the_eight_on_the_break_is_spotted_or_the_breaker_breaks_again():
    sheet = rack(EIGHT, brk("A", "8 2"))
    assert (sheet.winner, sheet.rulings[0].spotted, says(sheet)[1]) == (None, ("8",), "A")
    assert sheet.rulings[0].after.choices == ("accept", "re-break")
    assert says(rack(EIGHT, brk("A", "8"), choice("A", "re-break"))) == (None, "A", "behind-line")
    assert rack(EIGHT, brk("A", "8"), rules={"eight_on_break": "win"}).winner == "A"
    spotted = rack(EIGHT, brk("A", "8"), rules={"eight_on_break": "spot"})
    assert (spotted.winner, spotted.rulings[0].after.choices) == (None, ())


def test_3_3_f_the_eight_on_a_break_with_a_scratch_is_the_opponents_choice():
    sheet = rack(EIGHT, brk("A", "8", scratch=True))
    assert says(sheet) == ("scratch", "B", "behind-line")
    assert sheet.rulings[0].after.choices == ("accept", "re-break")
    assert says(rack(EIGHT, brk("A", "8", scratch=True), choice("B", "re-break"))) == (None, "B", "behind-line")
    assert rack(EIGHT, brk("A", "8", scratch=True), rules={"eight_on_foul_break": "loss"}).winner == "B"


def test_3_3_g_a_scratch_on_the_break_gives_the_cue_ball_behind_the_head_string():
    sheet = rack(EIGHT, brk("A", "3", scratch=True))
    assert says(sheet) == ("scratch", "B", "behind-line")
    assert "3" not in sheet.state.balls


# 3.4, 3.5 Groups and calls


def test_3_4_the_called_ball_settles_the_groups():
    sheet = rack(EIGHT, brk("A", "3"), called("A", "12", also="4"))
    assert sheet.state.group == {"A": "stripes", "B": "solids"}
    assert set(sheet.rulings[-1].after.balls) == {"1", "2", "5", "6", "7", "8", *map(str, (9, 10, 11, 13, 14, 15))}


def test_3_4_without_the_call_the_table_stays_open():
    sheet = rack(EIGHT, brk("A", "3"), entry("A", "12", call="11", first_contact="11"))
    assert (says(sheet)[1], sheet.state.group) == ("B", {"A": None, "B": None})


def test_3_4_on_an_open_table_a_solid_may_be_struck_to_make_a_stripe_but_not_the_eight():
    first = {"kind": "combination"}
    assert says(rack(EIGHT, brk("A", "3"), entry("A", "12", call="12", first_contact="1", **first)))[1] == "A"
    wrong = rack(EIGHT, brk("A", "3"), entry("A", "12", call="12", first_contact="8", **first))
    assert says(wrong) == ("wrong-ball-first", "B", "anywhere")


def test_without_calls_any_ball_of_the_own_group_keeps_the_table():
    rules = {"call": False}
    sheet = rack(
        EIGHT, brk("A", "3"), entry("A", "12", first_contact="12"), entry("A", "9", first_contact="9"), rules=rules
    )
    assert says(sheet)[1] == "A"
    theirs = rack(
        EIGHT, brk("A", "3"), entry("A", "12", first_contact="12"), entry("A", "1", first_contact="9"), rules=rules
    )
    assert says(theirs) == (None, "B", None)


def test_a_called_safety_passes_the_table_and_what_falls_stays_down():
    sheet = rack(EIGHT, brk("A", "3"), called("A", "12"), called("A", "13", declared="safety"))
    assert (says(sheet), "13" in sheet.state.balls) == ((None, "B", None), False)


def test_a_foul_gives_the_cue_ball_where_the_option_says():
    fouls = [brk("A"), entry("B", first_contact=None)]
    assert says(rack(EIGHT, *fouls)) == ("no-contact", "A", "anywhere")
    assert says(rack(EIGHT, *fouls, rules={"in_hand": "behind-line"})) == ("no-contact", "A", "behind-line")


def test_the_wrong_group_first_is_a_foul():
    sheet = rack(EIGHT, brk("A", "3"), called("A", "12"), entry("A", first_contact="1"))
    assert says(sheet) == ("wrong-ball-first", "B", "anywhere")


def test_a_frozen_ball_must_be_played_away_from_where_the_option_says():
    """Small-table codes: a lawful ball that touches the cue ball counts as hit, and is played away from."""
    balls = {"cue": [1.0, 0.5], "12": [1.0572, 0.5], "5": [2.0, 0.9], "8": [0.4, 0.3]}
    frozen = {"balls": balls, "state": {"touching": [["cue", "12"]]}}
    away = entry("A", first_contact=None, rails_after_contact=1, layout_before=frozen)
    start = {"player": "A", "layout": {"balls": balls, "state": {"group": "stripes"}}}
    assert says(rack(EIGHT, away, start=start))[0] == "no-contact"
    assert says(rack(EIGHT, away, start=start, rules={"touching": "away"}))[0] is None
    pushed = entry("A", fouls_seen=["touching-ball"], rails_after_contact=1, layout_before=frozen)
    assert says(rack(EIGHT, pushed, start=start, rules={"touching": "away"}))[0] == "touching-ball"


# 3.8 The eight


def test_the_eight_called_and_made_after_the_group_wins():
    assert cleared(called("A", "8")).winner == "A"


@pytest.mark.parametrize(
    "lost",
    [
        called("A", "8", scratch=True),
        entry("A", "8", call="8 side-left", first_contact="8"),
        entry("A", "8", first_contact="8"),
        entry("A", off_table=["8"], first_contact="8"),
        entry("A", "8", call="8", first_contact="12"),
    ],
    ids=["with a scratch", "another pocket", "uncalled", "off the table", "wrong ball first"],
)
def test_3_8_the_rack_is_lost_with_the_eight(lost):
    assert cleared(lost).winner == "B"


def test_3_8_the_eight_before_the_group_is_cleared_loses_also_with_its_last_ball():
    assert rack(EIGHT, brk("A", "3"), called("A", "12", also="8")).winner == "B"
    run = [called("A", ball) for ball in ["1", "2", "3", "4", "5", "6"]]
    assert rack(EIGHT, brk("B"), *run, called("A", "7", also="8")).winner == "B"


def test_a_scratch_on_the_eight_that_stays_up_is_a_foul_or_a_loss():
    miss = entry("A", first_contact="8", scratch=True)
    assert (cleared(miss).winner, says(cleared(miss))) == (None, ("scratch", "B", "anywhere"))
    assert cleared(miss, rules={"scratch_on_eight": "loss"}).winner == "B"


def test_three_fouls_lose_only_as_an_option():
    entries = [brk("A")]
    for _ in range(3):
        entries += [entry("B", first_contact=None), entry("A", first_contact="1", rails_after_contact=1)]
    assert rack(EIGHT, *entries).winner is None
    assert rack(EIGHT, *entries[:-1], rules={"three_fouls": True}).winner == "A"


def test_a_choice_that_nobody_has_is_refused_with_its_rule():
    with pytest.raises(ImpossibleShot, match="nothing to re-rack now"):
        rack(EIGHT, brk("A", "3"), choice("A", "re-rack"))


def test_a_rack_kept_by_hand():
    """Ann breaks dry, Ben takes three stripes and misses, Ann clears the solids and the eight."""
    solids = [called("A", ball) for ball in SOLIDS.split()]
    stripes = [called("B", "9"), called("B", "10"), called("B", "11"), entry("B", call="12", first_contact="12")]
    sheet = rack(EIGHT, brk("A"), *stripes, *solids, called("A", "8"))
    assert (sheet.winner, sheet.score) == ("A", {"A": 1, "B": 0})
    assert sheet.state.points == {"A": 8, "B": 3}
    assert [r.next for r in sheet.rulings] == ["B", "B", "B", "B", "A", *["A"] * 7, None]


@pytest.mark.parametrize(("game", "group"), [("eight-ball", "reds"), ("blackball", "stripes"), ("eight-ball", "")])
def test_a_group_that_is_not_played_with_is_named(game, group):
    layout = Layout(TABLES["pool-9ft"], game, {"cue": (0.5, 0.5)}, State(group=group))
    with pytest.raises(InputError, match=f"'{group}' is no group of this game"):
        rules_of(game).resume(layout, with_defaults(game, {}))
