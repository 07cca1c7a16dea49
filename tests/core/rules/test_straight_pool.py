"""Worked situations of straight pool. World Pool-Billiard Association, The Rules of Play, section 4, from memory.

The numbers name the rule; the situations are worked by hand from its text.
"""

from __future__ import annotations

import pytest

from aretane.core.layout import Layout
from aretane.core.rack import racked
from aretane.core.rules.referee import referee
from aretane.core.rules.straight_pool import in_rack, re_rack
from aretane.core.table import PRESETS
from tests.core.rules.sheets import brk, called, choice, entry, match, rack, says

GAME = "straight-pool"
POOL = PRESETS["pool-9ft"]
HEAD, MIDDLE = POOL.head_line, POOL.width / 2
IN_PACK = (POOL.foot_spot + 0.05, MIDDLE)
OUT = (0.5 * POOL.length, 0.25)
KITCHEN = (0.3, 0.3)

OPENING = brk("A", rails_after_contact=3, first_contact="1")


def points(sheet):
    return (sheet.state.points["A"], sheet.state.points["B"])


def run(player, count, first=1):
    return [called(player, str(n)) for n in range(first, first + count)]


def test_4_5_a_called_ball_counts_one_and_so_does_every_other_that_falls_with_it():
    sheet = rack(GAME, OPENING, called("B", "3", also="7 9"))
    assert (points(sheet), says(sheet)) == ((0, 3), (None, "B", None))


@pytest.mark.parametrize(
    "nothing",
    [entry("B", "3", first_contact="3"), entry("B", "3", call="3 side-left"), called("B", "3", declared="safety")],
    ids=["uncalled", "another pocket", "a safety"],
)
def test_4_7_a_ball_that_falls_otherwise_is_spotted_and_counts_nothing(nothing):
    sheet = rack(GAME, OPENING, nothing)
    assert (points(sheet), says(sheet)) == ((0, 0), (None, "A", None))
    assert sheet.rulings[-1].spotted == ("3",)


def test_4_3_the_opening_break_drives_the_cue_ball_and_two_object_balls_to_a_rail():
    soft = brk("A", rails_after_contact=2, first_contact="1")
    sheet = rack(GAME, soft)
    assert (points(sheet), says(sheet)) == ((-2, 0), ("breaking-foul", "B", None))
    assert sheet.rulings[0].after.choices == ("accept", "re-break")
    assert sheet.state.fouls["A"] == 0, "a breaking foul does not count towards three"
    again = rack(GAME, soft, choice("B", "re-break"))
    assert (points(again), says(again)) == ((-2, 0), (None, "A", "behind-line"))
    twice = rack(GAME, soft, choice("B", "re-break"), soft)
    assert points(twice) == (-4, 0)


def test_a_called_ball_on_the_opening_break_makes_it_lawful():
    shot = called("A", "5", kind="break", rails_after_contact=1)
    sheet = rack(GAME, {**shot, "first_contact": "1"})
    assert (points(sheet), says(sheet)[0]) == ((1, 0), None)


def test_4_11_a_foul_costs_a_point_and_leaves_the_table_as_it_is():
    sheet = rack(GAME, OPENING, entry("B", first_contact=None))
    assert (points(sheet), says(sheet)) == ((0, -1), ("no-contact", "A", None))
    scratched = rack(GAME, OPENING, entry("B", "4", call="4", first_contact="4", scratch=True))
    assert (points(scratched), says(scratched)) == ((0, -1), ("scratch", "A", "behind-line"))
    assert scratched.rulings[-1].spotted == ("4",)


def test_a_lawful_break_with_a_scratch_costs_one():
    assert points(rack(GAME, {**OPENING, "scratch": True})) == (-1, 0)


def test_4_12_the_third_foul_in_a_row_costs_fifteen_more_and_a_new_break():
    entries = [OPENING]
    for _ in range(3):
        entries += [entry("B", first_contact=None), entry("A", first_contact="1", rails_after_contact=1)]
    sheet = rack(GAME, *entries[:-1])
    assert points(sheet) == (0, -1 - 1 - 16)
    assert sheet.rulings[-1].fouls == ("no-contact", "three-fouls")
    assert says(sheet) == ("no-contact", "B", "behind-line")
    assert len(sheet.state.balls) == 15
    assert sheet.state.fouls["B"] == 0
    assert rack(GAME, *entries[:-1], {**OPENING, "player": "B"}).state.player == "A"


def test_a_lawful_shot_between_ends_the_row_of_fouls():
    foul, lawful = entry("B", first_contact=None), called("B", "1")
    safe = entry("A", first_contact="2", rails_after_contact=1)
    sheet = rack(GAME, OPENING, foul, safe, foul, safe, lawful, entry("B", first_contact=None))
    assert points(sheet) == (0, -2)


# Continuous racks


def test_the_run_goes_on_through_the_re_rack_when_one_ball_is_left():
    sheet = rack(GAME, OPENING, *run("B", 14), called("B", "15"), called("B", "2"))
    assert (points(sheet), sheet.state.run) == ((0, 16), 16)
    assert len(sheet.state.balls) == 13
    assert len(sheet.rulings[14].racked) == 14


def test_the_fourteenth_and_fifteenth_together_are_all_racked_again():
    sheet = rack(GAME, OPENING, *run("B", 13), called("B", "14", also="15"))
    assert (points(sheet), len(sheet.state.balls), len(sheet.rulings[-1].racked)) == ((0, 15), 15, 15)


def test_a_game_to_points_ends_when_they_are_reached():
    assert referee(match(GAME, [OPENING, *run("B", 3)], race_to=3)).winner == "B"


def test_a_game_may_be_told_in_stretches():
    result = referee(match(GAME, [OPENING, *run("B", 3)], [called("B", "9")], race_to=50))
    assert result.score == {"A": 0, "B": 4}
    assert len(result.racks[1].state.balls) == 11


# 4.8 and its table: what stands in the way of the new rack


@pytest.mark.parametrize(
    ("ball", "cue", "placed", "in_hand"),
    [
        (OUT, KITCHEN, {}, None),
        (IN_PACK, KITCHEN, {"5": "head-spot"}, None),
        (IN_PACK, (HEAD, MIDDLE), {"5": "centre-spot"}, None),
        (IN_PACK, IN_PACK, {"5": "foot-spot"}, "behind-line"),
        (OUT, IN_PACK, {}, "behind-line"),
        (KITCHEN, IN_PACK, {"cue": "head-spot"}, None),
        ((HEAD, MIDDLE), IN_PACK, {"cue": "centre-spot"}, None),
    ],
    ids=[
        "neither",
        "ball",
        "ball, cue on head spot",
        "both",
        "cue",
        "cue, ball in kitchen",
        "cue, ball on head spot",
    ],
)
def test_4_8_the_table_of_the_fifteenth_ball_and_the_cue_ball(ball, cue, placed, in_hand):
    after = Layout(POOL, GAME, {"cue": cue, "5": ball})
    assert re_rack(after, "5") == (placed, in_hand)


def test_4_8_with_the_fifteenth_ball_down_too_a_cue_ball_in_the_rack_comes_to_hand():
    assert re_rack(Layout(POOL, GAME, {"cue": IN_PACK}), None) == ({}, "behind-line")
    assert re_rack(Layout(POOL, GAME, {"cue": OUT}), None) == ({}, None)
    assert re_rack(None, "5") == ({}, None), "what is not known is outside"


def test_the_rack_area_holds_every_racked_ball_and_little_else():
    for place in racked(POOL, GAME).balls.values():
        assert in_rack(POOL, place)
    assert not in_rack(POOL, (POOL.foot_spot - 0.06, MIDDLE))
    assert not in_rack(POOL, (POOL.foot_spot + 0.1, MIDDLE + 0.2))


def test_a_game_kept_by_hand():
    """Opening safety; Ben runs 4, scratches (-1); Ann runs 2, fouls (-1), Ben 15 through a re-rack."""
    entries = [
        OPENING,
        *run("B", 4),
        entry("B", first_contact="5", scratch=True),
        *run("A", 2, 5),
        entry("A", first_contact=None),
        *run("B", 8, 7),
        called("B", "15"),
        *run("B", 6),
    ]
    sheet = rack(GAME, *entries)
    assert points(sheet) == (2 - 1, 4 - 1 + 15)
    assert sheet.state.run == 15
