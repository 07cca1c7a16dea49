"""Worked situations of snooker. World Professional Billiards and Snooker Association, Official Rules, section 3
(from memory), and the totals that everybody knows: 147, 155, 27 for the colours, fouls of four to seven."""

from __future__ import annotations

import pytest

from aretane.core.errors import ImpossibleShot, InputError
from aretane.core.layout import Layout, State
from aretane.core.rules.board import board
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.options import with_defaults
from aretane.core.rules.referee import referee
from aretane.core.rules.snooker import remaining, snookers_required
from aretane.core.table import PRESETS
from tests.core.rules.sheets import choice, entry, match, rack, says

SNOOKER = "snooker"
COLOURS = ["yellow", "green", "brown", "blue", "pink", "black"]
OFF = entry("A", kind="break", first_contact="red-1")


def pot(player, ball, **facts):
    return entry(player, ball, first_contact=ball, **facts)


def reds_and(player, colour, reds):
    return [pot(player, ball) for red in reds for ball in (f"red-{red}", colour)]


def points(sheet):
    return sheet.state.points["A"], sheet.state.points["B"]


# Totals


def test_the_maximum_break_is_147():
    sheet = rack(SNOOKER, *reds_and("A", "black", range(1, 16)), *[pot("A", colour) for colour in COLOURS])
    assert (points(sheet), sheet.state.run, sheet.winner) == ((147, 0), 147, "A")


def test_after_a_free_ball_155_can_be_made():
    """A foul before any red is down: the free ball counts as a sixteenth red."""
    free = entry("A", "brown", first_contact="brown", declared="free-ball:brown")
    opening = entry("B", kind="break", first_contact=None)
    clearance = [*reds_and("A", "black", range(1, 16)), *[pot("A", colour) for colour in COLOURS]]
    sheet = rack(SNOOKER, opening, free, pot("A", "black"), *clearance)
    assert (points(sheet), sheet.state.run) == ((4 + 155, 0), 155)


def test_27_for_the_colours_and_147_on_the_table_at_the_start():
    state = rules_of(SNOOKER).rack("A", with_defaults(SNOOKER, {}))
    assert remaining(state) == 147
    cleared = rack(SNOOKER, *reds_and("A", "black", range(1, 16)))
    assert remaining(cleared.state) == 27
    on_the_last_colour = rack(SNOOKER, *reds_and("A", "black", range(1, 15)), pot("A", "red-15"))
    assert remaining(on_the_last_colour.state) == 34


def test_six_reds_leave_75():
    options = with_defaults(SNOOKER, {"reds": 6})
    assert remaining(rules_of(SNOOKER).rack("A", options)) == 75
    run = [*reds_and("A", "black", range(1, 7)), *[pot("A", colour) for colour in COLOURS]]
    assert points(rack(SNOOKER, *run, rules={"reds": 6})) == (75, 0)


# Reds, colours, spots


def test_colours_come_back_after_a_red_and_stay_down_in_their_turn():
    sheet = rack(SNOOKER, pot("A", "red-1"), pot("A", "pink"))
    assert (sheet.rulings[-1].spotted, sheet.state.on) == (("pink",), "red")
    last = rack(SNOOKER, *reds_and("A", "black", range(1, 16)), pot("A", "yellow"))
    assert (last.rulings[-1].spotted, last.state.on) == ((), "green")


def test_the_colour_after_the_last_red_comes_back():
    sheet = rack(SNOOKER, *reds_and("A", "yellow", range(1, 16)))
    assert (sheet.rulings[-1].spotted, sheet.state.on) == (("yellow",), "yellow")


def test_several_reds_in_one_stroke_all_score():
    assert points(rack(SNOOKER, entry("A", "red-1 red-2", first_contact="red-1"))) == (2, 0)


def test_after_a_miss_a_red_is_on_again_while_there_is_one():
    assert rack(SNOOKER, pot("A", "red-1"), entry("A", first_contact="black")).state.on == "red"
    last = rack(
        SNOOKER, *reds_and("A", "black", range(1, 15)), pot("A", "red-15"), entry("A", first_contact="black")
    )
    assert last.state.on == "yellow"


def test_no_rail_is_ever_needed():
    assert says(rack(SNOOKER, OFF, entry("B", first_contact="red-2", rails_after_contact=0)))[0] is None


# Fouls


@pytest.mark.parametrize(
    ("before", "shot", "foul", "worth"),
    [
        ([], entry("A", first_contact=None), "no-contact", 4),
        ([], entry("A", first_contact="yellow"), "wrong-ball-first", 4),
        ([], entry("A", first_contact="blue"), "wrong-ball-first", 5),
        ([], entry("A", first_contact="black"), "wrong-ball-first", 7),
        ([], entry("A", "pink", first_contact="red-1"), "wrong-ball-potted", 6),
        ([], entry("A", "red-1", first_contact="red-1", scratch=True), "scratch", 4),
        ([], entry("A", first_contact="red-1", off_table=["black"]), "off-table", 7),
        (["red-1"], entry("A", first_contact="black", scratch=True), "scratch", 7),
        (["red-1"], entry("A", first_contact="yellow", scratch=True), "scratch", 4),
        (["red-1"], entry("A", first_contact="pink", called={"ball": "blue"}), "wrong-ball-first", 6),
        (["red-1"], entry("A", first_contact="red-2", called={"ball": "black"}), "wrong-ball-first", 7),
        (["red-1"], entry("A", first_contact=None, called={"ball": "blue"}), "no-contact", 5),
        (["red-1"], entry("A", "red-2", first_contact="black"), "wrong-ball-potted", 7),
        (["red-1"], entry("A", "black yellow", first_contact="black"), "wrong-ball-potted", 7),
    ],
)
def test_a_foul_is_worth_four_or_the_highest_value_involved(before, shot, foul, worth):
    sheet = rack(SNOOKER, *[pot("A", ball) for ball in before], shot)
    assert (sheet.rulings[-1].foul, points(sheet)) == (foul, (len(before), worth))
    assert says(sheet)[1] == "B"


def test_a_foul_on_a_colour_in_its_turn_is_worth_its_value():
    sheet = rack(SNOOKER, *reds_and("A", "black", range(1, 16)), *[pot("A", c) for c in COLOURS[:4]],
                 entry("A", first_contact="black"))  # fmt: skip
    assert sheet.rulings[-1].foul == "wrong-ball-first"
    assert points(sheet)[1] == 7
    missed = rack(SNOOKER, *reds_and("A", "black", range(1, 16)), *[pot("A", c) for c in COLOURS[:4]],
                  entry("A", first_contact=None))  # fmt: skip
    assert points(missed)[1] == 6, "the pink is on"


def test_a_colour_potted_with_a_foul_comes_back_and_a_red_does_not():
    sheet = rack(SNOOKER, entry("A", "red-3 pink", first_contact="red-1"))
    assert (sheet.rulings[-1].spotted, "red-3" in sheet.state.balls) == (("pink",), False)


def test_in_off_gives_the_white_from_the_d_and_the_choice_to_put_in_again():
    sheet = rack(SNOOKER, entry("A", first_contact="red-1", scratch=True))
    assert says(sheet) == ("scratch", "B", "in-d")
    assert sheet.rulings[-1].after.choices == ("accept", "play-again")
    again = rack(SNOOKER, entry("A", first_contact="red-1", scratch=True), choice("B", "play-again"))
    assert says(again)[1] == "A"


def test_touching_a_moved_ball_is_a_foul_unless_only_the_cue_ball_counts():
    moved = entry("A", first_contact="red-1", fouls_seen=["moved-ball"])
    assert says(rack(SNOOKER, moved))[0] == "moved-ball"
    assert says(rack(SNOOKER, moved, rules={"fouls": "cue-ball"}))[0] is None


def test_playing_away_from_a_touching_red_counts_as_hitting_it():
    balls = {"cue": [1.0, 0.8], "red-1": [1.0525, 0.8], "blue": [1.7845, 0.889]}
    frozen = {"balls": balls, "state": {"touching": [["cue", "red-1"]]}}
    start = {"player": "A", "layout": {"balls": balls, "state": {"on": "red"}}}
    assert says(rack(SNOOKER, entry("A", first_contact=None, layout_before=frozen), start=start))[0] is None
    to_blue = entry("A", first_contact="blue", layout_before=frozen)
    assert says(rack(SNOOKER, to_blue, start=start))[0] is None


# Free ball


SNOOKERED = {"cue": [1.0, 0.9], "brown": [1.2, 0.9], "red-1": [1.6, 0.9], "black": [3.2, 0.9]}


def fouled(layout, on="red", player="A"):
    start = {"player": player, "layout": {"balls": {**layout, "cue": [0.5, 0.5]}, "state": {"on": on}}}
    return rack(SNOOKER, entry(player, first_contact=None, layout_after={"balls": layout}), start=start)


def test_a_snooker_after_a_foul_offers_the_other_balls_as_free():
    choices = fouled(SNOOKERED).rulings[-1].after.choices
    assert choices == ("accept", "play-again", "free-ball:brown", "free-ball:black")
    clear = fouled({**SNOOKERED, "brown": [1.2, 0.5]})
    assert clear.rulings[-1].after.choices == ("accept", "play-again")


def test_half_a_ball_hidden_is_a_snooker_because_not_both_edges_can_be_hit():
    half = {**SNOOKERED, "brown": [1.2, 0.9 + 0.0525]}
    assert "free-ball:brown" in fouled(half).rulings[-1].after.choices


def test_a_free_ball_scores_as_the_ball_on_and_comes_back():
    opening = entry("B", kind="break", first_contact=None)
    sheet = rack(SNOOKER, opening, entry("A", "black", first_contact="black", declared="free-ball:black"))
    assert (points(sheet), sheet.state.on) == ((5, 0), "colour")
    assert sheet.rulings[-1].spotted == ("black",)


def test_a_free_ball_and_a_red_in_one_stroke_score_one_each():
    opening = entry("B", kind="break", first_contact=None)
    both = entry("A", "black red-2", first_contact="black", declared="free-ball:black")
    assert points(rack(SNOOKER, opening, both)) == (6, 0)


def test_a_free_ball_for_yellow_scores_two_and_yellow_stays_on():
    cleared = [*reds_and("A", "black", range(1, 16)), entry("A", first_contact="black")]
    sheet = rack(SNOOKER, *cleared, entry("B", "green", first_contact="green", declared="free-ball:green"))
    assert (sheet.rulings[-1].counted, sheet.state.on, sheet.rulings[-1].spotted) == (2, "yellow", ("green",))
    both = rack(SNOOKER, *cleared, entry("B", "green yellow", first_contact="green", declared="free-ball:green"))
    assert (both.rulings[-1].counted, both.state.on) == (2, "green")


def test_a_missed_free_ball_is_a_foul_of_the_ball_on():
    opening = entry("B", kind="break", first_contact=None)
    missed = entry("A", first_contact=None, declared="free-ball:black")
    assert points(rack(SNOOKER, opening, missed)) == (4, 4)


def test_a_free_ball_without_a_foul_before_is_refused():
    with pytest.raises(ImpossibleShot, match="right after a foul"):
        rack(SNOOKER, OFF, entry("B", "black", first_contact="black", declared="free-ball:black"))


# Miss, play again


def test_a_miss_lets_the_shot_be_replayed_from_the_old_places():
    missed = entry("A", first_contact=None)
    rules = {"miss": True}
    again = rack(SNOOKER, pot("A", "red-1"), missed, choice("B", "play-again"), rules=rules)
    assert (says(again)[1], again.state.on, points(again)) == ("A", "colour", (1, 7))
    here = rack(SNOOKER, pot("A", "red-1"), missed, choice("B", "play-again", replaced=False), rules=rules)
    assert here.state.on == "red"
    without = rack(SNOOKER, pot("A", "red-1"), missed, choice("B", "play-again"))
    assert without.state.on == "red"


# The end of a frame


def at_the_black(a, b):
    layout = {"balls": {"cue": [1, 0.5], "black": [3.2, 0.9]}, "state": {"points": {"A": a, "B": b}}}
    return {"player": "A", "layout": layout}


def test_the_last_black_decides_by_the_score():
    assert rack(SNOOKER, pot("A", "black"), start=at_the_black(50, 56)).winner == "A"
    assert rack(SNOOKER, pot("A", "black"), start=at_the_black(50, 60)).winner == "B"
    assert rack(SNOOKER, entry("A", first_contact=None), start=at_the_black(56, 50)).winner == "B"


def test_level_scores_bring_the_black_back_and_either_player_may_play_it():
    sheet = rack(SNOOKER, pot("A", "black"), start=at_the_black(50, 57))
    assert (sheet.winner, sheet.state.on, sheet.state.in_hand) == (None, "black", "in-d")
    for player in ("A", "B"):
        more = rack(SNOOKER, pot("A", "black"), pot(player, "black"), start=at_the_black(50, 57))
        assert more.winner == player


def test_a_frame_may_be_conceded():
    sheet = match(SNOOKER, [pot("A", "red-1")])
    sheet["racks"][0]["conceded_by"] = "B"
    assert referee(sheet).score == {"A": 1, "B": 0}


def test_what_nobody_can_be_on_is_said_plainly():
    """It was answered that there is no ball that may be played, whatever lay there."""
    balls = {"cue": (0.5, 0.5), "pink": (2.0, 0.9), "black": (3.0, 0.9)}
    snooker, options = rules_of("snooker"), with_defaults("snooker", {})
    for on in ("purple", "blue", ""):
        with pytest.raises(InputError, match="red, colour, or a ball that is on the table"):
            snooker.resume(Layout(PRESETS["snooker-12ft"], "snooker", balls, State(on=on)), options)
    for on, legal in (("black", ("black",)), ("colour", ("pink", "black")), ("red", ("pink",)), (None, ("pink",))):
        state = snooker.resume(Layout(PRESETS["snooker-12ft"], "snooker", balls, State(on=on)), options)
        assert snooker.legal_balls(state) == legal


@pytest.mark.parametrize(
    ("a", "b", "left", "snookers"),
    [(0, 27, 27, 0), (0, 28, 27, 1), (0, 31, 27, 1), (0, 32, 27, 2), (10, 0, 27, 0)],
)
def test_snookers_required_at_four_points_each_on_the_yellow(a, b, left, snookers):
    sheet = rack(SNOOKER, *reds_and("A", "black", range(1, 16)))
    state = sheet.state.turn_to("A", points={"A": a, "B": b})
    assert remaining(state) == left
    assert snookers_required(state, "A") == snookers


def test_the_board_says_what_is_on_and_what_is_needed():
    sheet = rack(SNOOKER, *reds_and("A", "black", range(1, 10)))
    shown = board(SNOOKER, sheet.state, with_defaults(SNOOKER, {}))
    assert (shown.on, shown.run, shown.left) == ("a red", 72, 6 * 8 + 27)
    assert shown.needs["A"] == 2, "74 and 73 left: with two more the frame is safe"
    assert shown.snookers == {"A": 0, "B": 0}


def test_a_frame_kept_by_hand():
    """Break-off; Ben 1 + 7 + 1, then pink first and blue down (6 away); Ann 1 + 4; Ben in-off (4 away)."""
    entries = [
        OFF,
        pot("B", "red-1"), pot("B", "black"), pot("B", "red-2"), entry("B", "blue", first_contact="pink"),
        pot("A", "red-3"), pot("A", "brown"), entry("A", first_contact="red-4"),
        entry("B", first_contact="red-4", scratch=True),
    ]  # fmt: skip
    sheet = rack(SNOOKER, *entries)
    assert points(sheet) == (6 + 1 + 4 + 4, 9)
    assert [ruling.counted for ruling in sheet.rulings] == [0, 1, 7, 1, 0, 1, 4, 0, 0]
