"""A stretch that nobody saw (highlights only, a flat battery), and recordings that begin in mid-rack: the game goes
on as it is stated. What must hold is common practice of the trade: nobody is charged or credited with what nobody
saw.
"""

from __future__ import annotations

import pytest

from aretane.core.errors import ImpossibleShot
from aretane.core.review.partners import who_played
from aretane.core.review.replay import carry_forward, replay
from aretane.core.review.shot_figures import HOLE, shot_figures
from aretane.core.review.visits import visits
from aretane.core.rules.board import board
from aretane.core.rules.options import with_defaults
from aretane.core.rules.referee import referee, result_as_data
from tests.core.rules.test_referee import brk, match, pot

SEVEN, NINE, CUE = (1.2, 0.4), (2.0, 0.9), (0.6, 0.6)


def hole(balls=None, **state):
    told = {"hole": True, "note": "highlights only", "state": state}
    return {**told, "layout_after": {"balls": balls}} if balls else told


def test_after_a_hole_the_game_stands_as_it_is_stated():
    stated = hole(
        {"cue": CUE, "7": SEVEN, "9": NINE}, player="B", ball_in_hand="anywhere", fouls={"A": 0, "B": 2}, run=3
    )
    result = referee(match([brk("A", "2"), stated, pot("B", "7")]))
    rack = result.racks[0]
    after = rack.rulings[1].after
    assert (after.player, after.balls, after.in_hand, after.fouls, after.run) == (
        "B", ("7", "9"), "anywhere", {"A": 0, "B": 2}, 3,
    )  # fmt: skip
    assert rack.rulings[2].legal_balls == ("7",)
    assert rack.rulings[2].after.points == {"A": 1, "B": 1}, "what fell in the hole belongs to nobody"
    answer = result_as_data(result)["racks"][0]["shots"]
    assert [shot["hole"] for shot in answer] == [False, True, False]
    assert (answer[1]["foul"], answer[1]["counted"], answer[1]["next"]) == (None, 0, "B")


def test_nothing_is_ruled_across_a_hole():
    """Without the hole the seven is a wrong ball first; with it the next entry says who plays and what stands."""
    seen = {"layout_before": {"balls": {"cue": CUE, "7": SEVEN, "9": NINE}}}
    wrong = referee(match([brk("A", "2"), pot("A", "7", **seen)]), strict=False)
    assert wrong.racks[0].rulings[1:] == () or wrong.racks[0].rulings[1].foul == "wrong-ball-first"
    right = referee(match([brk("A", "2"), {"hole": True}, pot("B", "7", **seen)]))
    assert right.racks[0].rulings[2].fouls == ()
    assert right.racks[0].rulings[2].after.player == "B"
    assert right.racks[0].rulings[2].after.balls == ("9",)


def test_a_hole_may_hold_the_end_of_a_rack_and_more():
    """Who won is stated; the score too, when racks are missing."""
    result = referee(match([brk("A", "2"), hole(winner="B", racks={"A": 2, "B": 1})], [brk("B", "3")]))
    assert result.racks[0].winner == "B"
    assert result.score == {"A": 2, "B": 2}
    with pytest.raises(ImpossibleShot):
        referee(match([brk("A", "9"), hole()]))  # the rack was over


def test_a_frame_goes_on_with_the_points_reds_and_ball_on_that_are_stated():
    standing = ["red-4", "red-9", "yellow", "green", "brown", "blue", "pink", "black"]
    stated = hole(player="A", points={"A": 41, "B": 20}, on="colour", standing=standing, run=17)
    shots = [{"player": "B", "kind": "break", "first_contact": "red-1"}, stated, pot("A", "black")]
    rack = referee(match(shots, discipline="snooker")).racks[0]
    assert rack.state.points == {"A": 48, "B": 20}
    assert rack.state.run == 24
    assert board("snooker", rack.state, with_defaults("snooker", {})).left == 2 * 8 + 27


def test_a_match_may_begin_in_mid_frame_without_any_place():
    """Which balls are gone, whose turn, run, fouls and ball in hand are stated (points left: counted by hand)."""
    standing = ["red-2", "red-3", "red-4", "yellow", "green", "brown", "blue", "pink", "black"]
    state = {"player": "B", "points": {"A": 30, "B": 12}, "on": "red", "standing": standing, "ball_in_hand": "in-d"}
    start = {"layout": {"state": state}, "run": 8, "fouls": {"A": 1, "B": 0}}
    result = referee(match([pot("B", "red-2")], discipline="snooker", start=start))
    begins = result.racks[0].begins
    assert (begins.player, begins.run, begins.in_hand, begins.fouls) == ("B", 8, "in-d", {"A": 1, "B": 0})
    assert board("snooker", begins, result.options).left == 3 * 8 + 27
    assert result.racks[0].state.points == {"A": 30, "B": 13}


def test_a_hole_ends_visits_moves_nobody_and_is_left_out_of_figures():
    shots = [brk("A", "2"), pot("A", "1"), {"hole": True}, pot("A", "3"), pot("A", "4")]
    played = replay(
        match(shots, players={"A": {"name": "Ann", "partner": "Ida"}, "B": {"name": "Ben"}}, session="partners")
    )
    assert [(visit.first, visit.last, visit.points) for visit in visits(played)] == [(0, 1, 2), (3, 4, 2)]
    figures = shot_figures(played)
    assert [one.kind for one in figures] == ["break", "pot", HOLE, "pot", "pot"]
    assert (figures[2].player, figures[2].tried, figures[2].result) == (None, False, None)
    names = who_played(
        {"racks": [{"shots": shots}], "players": {"A": {"name": "Ann", "partner": "Ida"}}, "session": "partners"}
    )
    assert names == [["Ann", "Ida", None, "Ann", "Ida"]]


def test_no_place_is_carried_across_a_hole():
    there = {"balls": {"cue": list(CUE), "9": list(NINE)}}
    shots = [{"layout_before": there}, {"hole": True}, {"layout_before": there}]
    moved = {"layout_before": {"balls": {"cue": list(CUE), "9": [1.9, 0.8]}}}
    assert set(carry_forward(shots, 0, moved)) == {0}
    played = replay(match([{"player": "A", "kind": "pot", **shots[0]}, {"hole": True}, {"player": "B"}]))
    assert played.racks[0][1].after is None
    assert played.racks[0][2].before is None, "where the balls are is not known"
