"""What is told of a stroke beside the stroke: safety exchanges, visits, stance, squares; worked out by hand."""

from __future__ import annotations

import math

import pytest

from aretane.core.geometry.measured import measure_shot
from aretane.core.layout import Layout
from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.review.stance import cueing_of, reach_of
from aretane.core.statistics.families import cards, position_words, pot_words
from aretane.core.statistics.squares import square_of, square_words
from aretane.core.table import table_from
from tests.core.statistics.test_match_sheet import break_, other, pot, run

TABLE = table_from("pool-9ft")
PLAYERS = {"A": {"name": "Odile"}, "B": {"name": "Piers"}}


def figures(*racks, **header):
    match = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": PLAYERS,
        "racks": [{"breaker": shots[0]["player"], "shots": shots} for shots in racks], **header,
    }  # fmt: skip
    return shot_figures(replay(match))


def test_a_safety_exchange_is_won_by_who_attacks_first():
    """A safety, an answer, another one, then the first one's attack: one exchange, won by who began it."""
    told = [
        one.around
        for one in figures(
            [break_("A", "2"), other("A", "safety"), other("B", "safety"), other("A", "safety"),
             other("B", "escape", fouls_seen=["no-contact"]), pot("A", "1", "1")],
            [break_("B", "3"), other("B", "safety"), other("A", "escape"), pot("B", "1")],
        )
    ]  # fmt: skip
    assert [one.exchange for one in told] == [None, True, None, None, None, None, None, True, None, None]
    assert [one.drew for one in told[:4]] == [None, False, False, True]
    assert [one.held for one in told[:4]] == [None, True, True, True]
    assert [one.hit for one in told] == [None] * 4 + [False, None, None, None, True, None]


def test_visits_score_and_first_chances_are_cleared():
    told = [
        one.around
        for one in figures([break_("A"), *run("B", "1", "2", "3", "4", "5", "6", "7", "8", "9")], race_to=2)
    ]
    assert told[1].scored == 9
    assert told[1].cleared
    assert told[1].took
    assert [one.scored for one in told[2:]] == [None] * 8
    assert told[0].phase == "opening"
    assert [one.phase for one in told[1:]] == ["pattern"] * 6 + ["end"] * 3
    assert {one.stake for one in told} == {False}


def test_a_rack_that_can_end_the_match_is_at_stake():
    rack = [break_("A"), *run("B", "1", "2", "3", "4", "5", "6", "7", "8", "9")]
    told = figures(rack, [break_("B"), pot("A", "1")], race_to=2)
    assert [one.around.stake for one in told if one.rack == 1] == [True, True]
    assert all(one.around.stake is None for one in figures(rack)), "no race was agreed"


def shot(cue, ball=(1.9, 0.6), **others):
    layout = Layout(TABLE, "nine-ball", {"cue": cue, "1": ball, **others})
    return layout, measure_shot(layout, "1", "foot-right")


def test_what_is_under_the_cue():
    """Off the rail: the cue ball frozen to it; over a ball: one close behind it in the line of the cue."""
    assert cueing_of(*shot((1.2, 0.7))) == "free"
    assert cueing_of(*shot((TABLE.cue_radius, 0.8))) == "off the rail"
    gx, gy = shot((1.2, 0.7))[1].ghost
    way = math.dist((gx, gy), (1.2, 0.7))
    behind = (1.2 - 0.09 * (gx - 1.2) / way, 0.7 - 0.09 * (gy - 0.7) / way)
    assert cueing_of(*shot((1.2, 0.7), **{"5": behind})) == "over a ball"
    assert cueing_of(*shot((1.2, 0.7), **{"5": (behind[0], behind[1] + 0.06)})) == "free"
    assert cueing_of(None, None) is None


def test_the_reach_is_what_was_said_else_what_the_layout_tells():
    """From the middle of a nine-foot table to a near ball nobody has to stretch; unknown hands tell nothing."""
    layout, measured = shot((1.2, 0.3))
    assert reach_of({"words": ["soft", "rest"]}, layout, measured, "right") == "rest"
    assert reach_of({}, layout, measured, None) is None
    assert reach_of({}, layout, measured, "right") == "comfortable"


@pytest.mark.parametrize(
    ("place", "square"), [((0.0, 0.0), 0), ((0.1, 1.26), 3), ((2.5, 0.1), 28), ((1.27, 0.64), 18)]
)
def test_squares_of_a_diamond(place, square):
    """Eight diamonds along, four across, from the head and the right."""
    assert square_of(TABLE, place) == square
    along, across = divmod(square, 4)
    assert square_words(square) == f"diamond {along} to {along + 1} from the head, {across} to {across + 1} across"


def test_families_of_pots_and_of_position():
    """A thirty-degree cut covers half a ball (handbooks: the half-ball hit)."""
    half = {"cut_angle": math.radians(30), "cue_distance": 1.0, "pocket_distance": 0.9}
    one = figures([break_("A", "2"), pot("A", "1", "1")])[1]
    told = type(one)(**{**vars(one), **half})
    assert pot_words(told) == "half ball, long"
    assert pot_words(
        type(one)(**{**vars(told), "cut_angle": 0.0, "cue_distance": 0.2, "pocket_distance": 0.3})
    ) == ("full, short")
    assert pot_words(type(one)(**{**vars(told), "kind": "bank"})) == "bank"
    assert position_words(one) is None
    around = type(one.around)(tip="draw", rails=2)
    assert position_words(type(one)(**{**vars(one), "around": around})) == "draw, two rails"


def test_runs_from_the_own_break_and_after_the_others_dry_one():
    """Odile runs out from her break once in two; Piers runs out after the only dry one."""
    nine = ("1", "2", "3", "4", "5", "6", "7", "8", "9")
    shots = [
        [break_("A", "2"), *run("A", "1", "3", "4", "5", "6", "7", "8", "9")],
        [break_("A"), *run("B", *nine)],
        [break_("B", scratch=True), *run("A", *nine)],
    ]
    match = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": PLAYERS,
        "racks": [{"breaker": rack[0]["player"], "shots": rack} for rack in shots],
    }  # fmt: skip
    replayed = replay(match)
    told = cards(replayed, shot_figures(replayed))
    assert (told["A"].runs.p, told["A"].runs.n) == (0.5, 2)
    assert (told["B"].after_dry.p, told["B"].after_dry.n) == (1.0, 1)
    assert told["A"].after_dry.n == 0, "a lost cue ball is a foul, not a dry break"
    assert sum(family.rate.n for family in told["A"].pots) <= 17
