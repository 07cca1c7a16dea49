"""Worked situations of blackball (World Pool-Billiard Association, Blackball Rules, from memory) and of the other
common small-table code, which differs by options."""

from __future__ import annotations

import pytest

from tests.core.rules.sheets import brk, choice, entry, rack, says

BLACKBALL = "blackball"
REDS = [f"red-{n}" for n in range(1, 8)]
YELLOWS = [f"yellow-{n}" for n in range(1, 8)]
OTHER_CODE = {"after_foul": "two-visits", "group_on_break": True}


def takes(player, *balls):
    return [entry(player, ball, first_contact=ball) for ball in balls]


def test_the_table_is_open_until_the_first_lawful_pot_after_the_break():
    sheet = rack(BLACKBALL, brk("A", "red-1"))
    assert (says(sheet)[1], sheet.state.group) == ("A", {"A": None, "B": None})
    sheet = rack(BLACKBALL, brk("A", "red-1"), *takes("A", "yellow-2"))
    assert sheet.state.group == {"A": "yellows", "B": "reds"}
    assert rack(BLACKBALL, brk("A", "red-1"), rules=OTHER_CODE).state.group == {"A": "reds", "B": "yellows"}


def test_with_both_colours_down_the_call_decides_and_without_one_the_table_stays_open():
    both = entry("A", "red-2 yellow-2", first_contact="red-2")
    assert rack(BLACKBALL, brk("A", "red-1"), both).state.group["A"] is None
    assert (
        rack(BLACKBALL, brk("A", "red-1"), {**both, "called": {"ball": "yellow-2"}}).state.group["A"] == "yellows"
    )


def test_combinations_are_allowed_on_an_open_table():
    sheet = rack(BLACKBALL, brk("A", "red-1"), entry("A", "yellow-3", first_contact="red-4"))
    assert (says(sheet), sheet.state.group["A"]) == ((None, "A", None), "yellows")


def test_a_break_that_is_too_soft_gives_a_free_shot_or_a_new_rack():
    soft = brk("A", past_line=1)
    sheet = rack(BLACKBALL, soft)
    assert says(sheet) == ("illegal-break", "B", "behind-line")
    assert (sheet.state.free_shot, sheet.rulings[0].after.choices) == (True, ("accept", "re-rack"))
    assert says(rack(BLACKBALL, soft, choice("B", "re-rack"))) == (None, "B", "behind-line")
    assert says(rack(BLACKBALL, brk("A", past_line=2)))[0] is None


def test_after_a_foul_any_ball_may_be_played_once():
    base = [brk("A", "red-1"), *takes("A", "red-2"), entry("A", first_contact="yellow-1")]
    fouled = rack(BLACKBALL, *base)
    assert says(fouled) == ("wrong-ball-first", "B", "behind-line")
    assert fouled.state.free_shot
    free = rack(BLACKBALL, *base, entry("B", "red-3", first_contact="red-3"))
    assert (says(free), free.state.free_shot) == ((None, "B", None), False)
    then = rack(BLACKBALL, *base, entry("B", "red-3", first_contact="red-3"), entry("B", first_contact="red-4"))
    assert says(then)[0] == "wrong-ball-first"


def test_a_free_shot_that_pots_nothing_ends_the_visit_two_visits_go_on():
    base = [
        brk("A", "red-1"),
        *takes("A", "red-2"),
        entry("A", first_contact=None),
        entry("B", first_contact="red-3"),
    ]
    assert says(rack(BLACKBALL, *base))[1] == "A"
    two = rack(BLACKBALL, *base, rules=OTHER_CODE)
    assert (says(two)[1], two.state.visits) == ("B", 1)
    assert says(rack(BLACKBALL, *base, entry("B", first_contact="yellow-3"), rules=OTHER_CODE))[1] == "A"


def test_potting_only_the_opponents_ball_is_a_foul_unless_the_option_says_otherwise():
    base = [brk("A", "red-1"), *takes("A", "red-2"), entry("A", "yellow-1", first_contact="red-3")]
    assert says(rack(BLACKBALL, *base))[:2] == ("wrong-ball-potted", "B")
    assert says(rack(BLACKBALL, *base, rules={"opponents_ball": "turn"})) == (None, "B", None)


def test_an_own_ball_and_one_of_the_opponents_in_one_shot_are_lawful():
    base = [brk("A", "red-1"), *takes("A", "red-2"), entry("A", "red-3 yellow-1", first_contact="red-3")]
    assert says(rack(BLACKBALL, *base)) == (None, "A", None)


def test_a_ball_that_touches_the_cue_ball_counts_as_hit_when_it_is_the_players_own():
    balls = {"cue": [1.0, 0.5], "red-3": [1.0507, 0.5], "yellow-1": [1.5, 0.3], "black": [0.3, 0.3]}
    layout = {"balls": balls, "state": {"touching": [["cue", "red-3"]]}}
    start = {"player": "A", "layout": {"balls": balls, "state": {"group": "reds"}}}
    away = entry("A", first_contact=None, rails_after_contact=1, layout_before=layout)
    assert says(rack(BLACKBALL, away, start=start))[0] is None
    into = entry("A", fouls_seen=["touching-ball"], layout_before=layout)
    assert says(rack(BLACKBALL, into, start=start))[0] == "touching-ball"


def test_no_rail_is_needed_out_of_a_snooker():
    balls = {"cue": [0.4, 0.45], "yellow-1": [0.6, 0.45], "red-3": [1.2, 0.45], "black": [1.7, 0.8]}
    start = {"player": "A", "layout": {"balls": balls, "state": {"group": "reds"}}}
    soft = entry("A", first_contact="red-3", rails_after_contact=0)
    assert says(rack(BLACKBALL, {**soft, "layout_before": {"balls": balls}}, start=start))[0] is None
    clear = {**balls, "yellow-1": [0.6, 0.8]}
    start = {"player": "A", "layout": {"balls": clear, "state": {"group": "reds"}}}
    assert says(rack(BLACKBALL, {**soft, "layout_before": {"balls": clear}}, start=start))[0] == "no-rail"


# The black


def on_the_black(*last, **more):
    return rack(BLACKBALL, brk("A", "red-1"), *takes("A", *REDS[1:]), *last, **more)


def test_the_black_after_the_own_colour_wins():
    assert on_the_black(entry("A", "black", first_contact="black")).winner == "A"


@pytest.mark.parametrize(
    "lost",
    [
        entry("A", "black", first_contact="black", scratch=True),
        entry("A", "black", first_contact="yellow-1"),
        entry("A", off_table=["black"], first_contact="black"),
    ],
)
def test_the_black_with_a_foul_or_off_the_table_loses(lost):
    assert on_the_black(lost).winner == "B"


def test_the_black_out_of_turn_loses_and_with_the_last_own_ball_as_the_option_says():
    assert rack(BLACKBALL, brk("A", "red-1"), entry("A", "red-2 black", first_contact="red-2")).winner == "B"
    early = [brk("A", "red-1"), *takes("A", *REDS[1:6]), entry("A", "red-7 black", first_contact="red-7")]
    assert rack(BLACKBALL, *early).winner == "B"
    assert rack(BLACKBALL, *early, rules={"black_with_last": "win"}).winner == "A"


def test_the_black_on_the_break_is_no_loss_the_same_player_breaks_a_new_rack():
    sheet = rack(BLACKBALL, brk("A", "black red-1"))
    assert (sheet.winner, says(sheet)) == (None, (None, "A", "behind-line"))
    assert len(sheet.state.balls) == 15


def test_a_frame_kept_by_hand():
    """Ann breaks a red down, takes two reds and misses; Ben clears six yellows, fouls; Ann clears up."""
    entries = [
        brk("A", "red-1"),
        *takes("A", "red-2", "red-3"),
        entry("A", first_contact="red-4"),
        *takes("B", *YELLOWS[:6]),
        entry("B", first_contact="yellow-7", scratch=True),
        *takes("A", *REDS[3:]),
        entry("A", "black", first_contact="black"),
    ]
    sheet = rack(BLACKBALL, *entries)
    assert (sheet.winner, sheet.state.points) == ("A", {"A": 8, "B": 6})
    assert [ruling.next for ruling in sheet.rulings] == [*"AAAB", *"BBBBBB", "A", *"AAAA", None]
