"""What follows from a match of any game: respotted balls, re-racks, visits, partners, break records."""

from __future__ import annotations

import pytest

from aretane.core.rack import colour_spots
from aretane.core.review.partners import who_played, who_plays_next
from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.review.visits import figures, visits
from aretane.core.table import PRESETS
from tests.core.rules.sheets import brk, called, choice, entry, match

SNOOKER, POOL = PRESETS["snooker-12ft"], PRESETS["pool-9ft"]
OPENING = brk("A", rails_after_contact=3, first_contact="1")


def pot(player, ball, **facts):
    return entry(player, ball, first_contact=ball, **facts)


# Places


def test_a_snooker_frame_begins_with_every_ball_on_its_spot():
    shot = replay(match("snooker", [entry("A", kind="break")])).racks[0][0]
    assert len(shot.before.object_balls) == 21
    assert shot.before.balls["blue"] == pytest.approx(colour_spots(SNOOKER)["blue"])
    short = replay(match("snooker", [entry("A", kind="break")], rules={"reds": 6})).racks[0][0]
    assert len(short.before.object_balls) == 12


def test_a_potted_colour_is_back_on_its_spot_in_the_next_layout():
    balls = {"cue": [1.0, 0.9], "black": [3.0, 0.4], "red-1": [2.0, 1.2]}
    start = {"player": "A", "layout": {"balls": balls, "state": {"on": "colour"}}}
    left = {"balls": {"cue": [2.5, 0.8], "red-1": [2.0, 1.2]}}
    shots = [pot("A", "black", layout_before={"balls": balls}, layout_after=left), pot("A", "red-1")]
    after = replay(match("snooker", shots, start=start)).racks[0]
    assert after[0].after.balls["black"] == pytest.approx(colour_spots(SNOOKER)["black"])
    assert after[1].before.balls == after[0].after.balls
    assert after[1].before.state.on == "red"


def test_straight_pool_goes_on_with_fourteen_racked_and_the_break_ball_where_it_was():
    run = [called("B", str(n)) for n in range(1, 14)]
    two = {"cue": [1.0, 0.5], "14": [2.0, 0.9], "15": [1.6, 0.3]}
    last = called("B", "14", layout_before={"balls": two})
    last["layout_after"] = {"balls": {"cue": [1.4, 0.6], "15": [1.6, 0.3]}}
    after = replay(match("straight-pool", [OPENING, *run, last])).racks[0][-1].after
    assert len(after.object_balls) == 15
    assert after.balls["15"] == (1.6, 0.3)
    assert after.balls["cue"] == (1.4, 0.6)
    apex = (POOL.foot_spot, POOL.width / 2)
    assert all(abs(x - apex[0]) + abs(y - apex[1]) > 0.02 for ball, (x, y) in after.balls.items())


def test_the_order_of_a_new_eight_ball_rack_is_not_known():
    shots = [brk("A", object_balls_to_rail=2), choice("B", "re-rack"), brk("B")]
    assert replay(match("eight-ball", shots)).racks[0][1].after is None


# Visits


def test_snookers_breaks_are_counted_from_visit_to_visit():
    shots = [
        entry("A", kind="break"),
        *[pot("B", ball) for ball in ("red-1", "black", "red-2", "pink")],
        entry("B", first_contact="red-3"),
        pot("A", "red-3"),
        entry("A", first_contact=None),
        choice("B", "play-again"),
        pot("A", "red-4"),
    ]
    found = visits(replay(match("snooker", shots)))
    assert [(v.player, v.points, v.strokes) for v in found] == [
        ("A", 0, 1), ("B", 15, 5), ("A", 1, 2), ("A", 1, 1),
    ]  # fmt: skip
    assert (found[1].first, found[1].last) == (1, 5)
    assert figures(found, "A") == type(figures(found, "A"))(3, 2, 1, pytest.approx(2 / 3))


def test_a_straight_pool_run_goes_on_into_the_next_stretch():
    first = [OPENING, *[called("B", str(n)) for n in range(1, 6)]]
    found = visits(
        replay(match("straight-pool", first, [called("B", "6"), entry("B", call="7", first_contact="7")]))
    )
    assert [(v.player, v.points, v.strokes) for v in found] == [("A", 0, 1), ("B", 6, 7)]
    assert figures(found, "B").best == 6
    assert figures([], "B").mean is None


# Partners

PAIRS = {"A": {"name": "Ann", "partner": "Abe"}, "B": {"name": "Ben", "partner": "Bea"}}


def test_partners_alternate_stroke_by_stroke_also_into_the_next_rack():
    shots = [
        brk("A", "4"),
        pot("A", "1"),
        entry("A", first_contact="2"),
        pot("B", "2"),
        entry("B", first_contact="3"),
    ]
    told = match("nine-ball", shots, [brk("A")], session="partners", players=PAIRS)
    assert who_played(told) == [["Ann", "Abe", "Ann", "Ben", "Bea"], ["Abe"]]
    assert who_plays_next(told) == {"A": "Ann", "B": "Ben"}


def test_a_word_sets_the_turn_right_and_other_sessions_have_no_turns():
    shots = [brk("A", "4"), pot("A", "1", by="name"), pot("A", "2")]
    assert who_played(match("nine-ball", shots, session="partners", players=PAIRS)) == [["Ann", "Ann", "Abe"]]
    assert who_played(match("nine-ball", shots[:1], players=PAIRS)) == [["Ann"]]


# Break records


def opening_of(shot, discipline="nine-ball", rest=()):
    return shot_figures(replay(match(discipline, [shot, *rest])))[0].opening


def test_a_break_is_told_by_its_layouts():
    before = {"balls": {"cue": [0.6, 0.06], "1": [1.9, 0.635], "9": [2.1, 0.635], "4": [2.05, 0.6]}}
    after = {"balls": {"cue": [1.2, 0.6], "1": [0.4, 0.6], "9": [2.2, 1.0]}}
    found = opening_of(brk("A", "4", layout_before=before, layout_after=after))
    assert (found.place, found.balls, found.dry, found.next_visible) == ("right rail", 1, False, "yes")
    assert found.rail_distance == pytest.approx(0.06)
    hidden = {"balls": {**after["balls"], "9": [0.8, 0.6]}}
    assert opening_of(brk("A", "4", layout_before=before, layout_after=hidden)).next_visible == "no"


def test_what_layouts_do_not_tell_is_taken_from_the_record():
    record = {"from": "left", "power": "firm", "fullness": "full", "next_visible": "partly"}
    found = opening_of(brk("A", break_record=record, scratch=True))
    assert (found.place, found.power, found.fullness, found.next_visible) == ("left", "firm", "full", "partly")
    assert (found.dry, found.scratch, found.legal, found.won) == (True, True, False, None)


def test_a_break_off_and_a_break_shot_have_records_of_their_own():
    off = entry("A", kind="break", break_record={"type": "thin off the end red", "leaves": "nothing"})
    assert opening_of(off, "snooker").type == "thin off the end red"
    shot = called("B", "1", break_record={"opened": "well", "next_shot": "yes"})
    opened = shot_figures(replay(match("straight-pool", [OPENING, shot])))
    assert (opened[1].opening.opened, opened[1].opening.next_shot) == ("well", "yes")
    assert opened[0].opening.dry


def test_a_plain_shot_has_no_break_record():
    told = [brk("A", "4"), pot("A", "1")]
    assert shot_figures(replay(match("nine-ball", told)))[1].opening is None
