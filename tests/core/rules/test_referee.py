"""The referee over whole matches: score, breaks, start states, overruled calls, contradictions."""

from __future__ import annotations

import copy

import pytest

from aretane.core.errors import ImpossibleShot
from aretane.core.layout import Layout, State
from aretane.core.rules.disciplines import legal_first
from aretane.core.rules.referee import referee, result_as_data
from aretane.core.table import PRESETS


def match(*racks, **more):
    return {"discipline": "nine-ball", "race_to": 5, "racks": [{"shots": list(r)} for r in racks], **more}


def brk(player="A", *potted):
    return {
        "player": player,
        "kind": "break",
        "first_contact": "1",
        "object_balls_to_rail": 5,
        "potted": [{"ball": ball, "pocket": "foot-left"} for ball in potted],
    }


def pot(player, ball, first=None, **more):
    first = first or ball
    return {"player": player, "kind": "pot", "first_contact": first, "potted": [{"ball": ball}], **more}


def test_the_answer_has_the_promised_keys():
    answer = result_as_data(referee(match([brk("A", "2"), pot("A", "9", "1")])))
    rack = answer["racks"][0]
    assert rack["winner"] == "A"
    assert rack["score"] == {"A": 1, "B": 0}
    assert {"legal_balls", "foul", "fouls", "points", "next", "in_hand", "choices"} <= set(rack["shots"][0])
    assert rack["shots"][1]["next"] is None
    assert rack["shots"][1]["points"] == {"A": 2, "B": 0}


def test_every_entry_gets_an_answer_choices_too():
    push = {"player": "B", "declared": "push-out", "first_contact": None, "rails_after_contact": 0}
    shots = [brk(), push, {"player": "A", "declared": "pass-back"}, pot("B", "1")]
    rack = result_as_data(referee(match(shots)))["racks"][0]
    assert [shot["next"] for shot in rack["shots"]] == ["B", "A", "B", "B"]
    assert rack["shots"][1]["choices"] == ["accept", "pass-back"]
    assert rack["shots"][1]["legal_balls"] == [str(n) for n in range(1, 10)]


def test_the_demo_match_ends_as_its_story_says(demo_match):
    """A hand-kept sheet of the script: winners of the nine racks, and the final score."""
    result = referee(demo_match)
    assert [rack.winner for rack in result.racks] == ["A", "B", "B", "A", "A", "B", "B", "A", "A"]
    assert result.score == {"A": 5, "B": 4}
    assert result.winner == "A"
    assert result.racks[6].rulings[-1].fouls[-1] == "three-fouls"
    assert result.racks[5].rulings[7].spotted == ("9",)


def test_a_score_sheet_without_details_is_taken_as_lawful():
    sheet = match([{"player": "A"}, {"player": "B"}, {"player": "A", "potted": [{"ball": "9"}]}])
    assert referee(sheet).racks[0].winner == "A"


def test_what_fell_is_taken_from_the_layouts_when_it_is_not_said():
    balls = {"cue": [0.5, 0.5], "8": [1.0, 0.5], "9": [1.5, 0.5]}
    left = {"cue": [0.7, 0.5], "9": [1.5, 0.5]}
    shot = {"player": "A", "kind": "pot", "layout_before": {"balls": balls}, "layout_after": {"balls": left}}
    result = referee(match([shot]))
    assert result.racks[0].state.balls == ("9",)
    assert result.racks[0].rulings[0].next == "A"
    del left["cue"]
    assert referee(match([shot])).racks[0].rulings[0].foul == "scratch"


def test_null_and_nought_mean_that_nothing_was_touched():
    for nothing in (None, 0):
        shot = {
            "player": "B",
            "kind": "pot",
            "first_contact": "1",
            "rails_after_contact": nothing,
            "potted": [],
        }
        assert referee(match([brk(), shot])).racks[0].rulings[1].foul == "no-rail"
    shot = {"player": "B", "kind": "pot", "first_contact": None, "potted": []}
    assert referee(match([brk(), shot])).racks[0].rulings[1].foul == "no-contact"


def test_a_recording_that_begins_in_mid_match_and_mid_rack():
    layout = {"balls": {"cue": [0.5, 0.5], "7": [1, 1], "9": [2, 0.5]}, "state": {"push_out_allowed": False}}
    start = {"score": {"A": 2, "B": 4}, "player": "B", "fouls": {"A": 0, "B": 2}, "layout": layout}
    result = referee(match([{"player": "B", "kind": "pot", "first_contact": "9"}], start=start))
    assert result.racks[0].rulings[0].fouls == ("wrong-ball-first", "three-fouls")
    assert result.score == {"A": 3, "B": 4}


def test_a_start_without_places_has_all_balls_on_the_table():
    start = {"player": "B", "layout": {"state": {"push_out_allowed": True}}}
    result = referee(match([{"player": "B", "declared": "push-out", "first_contact": None}], start=start))
    assert result.racks[0].rulings[0].after.choices == ("accept", "pass-back")


@pytest.mark.parametrize(("how", "breakers"), [("winner", "AAA"), ("loser", "ABA"), ("alternate", "ABA")])
def test_who_breaks_next(how, breakers):
    racks = [[{"player": p, "kind": "break", "potted": [{"ball": "9"}]}] for p in breakers]
    options = {"breaks": how}
    assert [r.breaker for r in referee(match(*racks, rules=options)).racks] == list(breakers)


def test_a_breaker_against_the_agreed_order_is_impossible():
    wrong = match([pot_nine("A")], [pot_nine("B")], rules={"breaks": "winner"})
    wrong["racks"][1]["breaker"] = "B"
    with pytest.raises(ImpossibleShot, match="breaks"):
        referee(wrong)


def pot_nine(player):
    return {"player": player, "kind": "break", "potted": [{"ball": "9"}]}


def test_nothing_is_played_after_the_match_is_won():
    with pytest.raises(ImpossibleShot, match="match is already over"):
        referee(match([pot_nine("A")], [pot_nine("A")], [pot_nine("A")], race_to=2))


def test_the_first_impossible_shot_is_named_with_rack_shot_and_rule():
    with pytest.raises(ImpossibleShot) as refused:
        referee(match([pot_nine("A")], [brk("A"), pot("A", "1")]))
    assert (refused.value.rack, refused.value.shot) == (1, 1)
    assert str(refused.value).startswith("racks[1].shots[1]: player B is at the table")
    assert "order of play" in str(refused.value)


def test_an_editor_sees_the_trouble_and_the_rest_of_the_match():
    result = referee(match([brk("A"), pot("A", "1")], [pot_nine("B")]), strict=False)
    assert [t.rack for t in result.trouble] == [0]
    assert result.racks[1].winner == "B"


# Overruled and called otherwise


def test_an_overruled_foul_is_taken_back_and_play_follows():
    hit = {"player": "B", "kind": "pot", "first_contact": "1", "fouls_seen": ["double-hit"], "potted": []}
    fouled = referee(match([brk(), hit])).racks[0]
    assert (fouled.rulings[1].foul, fouled.state.in_hand) == ("double-hit", "anywhere")
    cleared = referee(match([brk(), {**hit, "overrule": {"foul": None, "note": "clean"}}])).racks[0]
    assert (cleared.rulings[1].foul, cleared.state.in_hand, cleared.state.fouls["B"]) == (None, None, 0)
    assert "clean" in cleared.rulings[1].why


def test_a_foul_seen_only_in_review_is_kept_while_play_goes_on_as_called():
    seen = {"player": "B", "kind": "pot", "first_contact": "1", "potted": [{"ball": "1"}],
            "fouls_seen": ["double-hit"], "called_at_table": {"foul": None, "next": "B"}}  # fmt: skip
    rack = referee(match([brk(), seen, pot("B", "2")])).racks[0]
    assert rack.rulings[1].next == "B"
    assert rack.rulings[2].foul is None


def test_the_coachs_word_stands_over_the_call_at_the_table():
    shot = {"player": "B", "kind": "pot", "first_contact": "1", "rails_after_contact": 1, "potted": [],
            "called_at_table": {"next": "B"}, "overrule": {"next": "A"}}  # fmt: skip
    assert referee(match([brk(), shot])).racks[0].state.player == "A"


def test_an_overruled_winner_changes_the_score():
    result = referee(match([brk(), {"player": "B", "overrule": {"winner": "B", "note": "conceded"}}]))
    assert result.score == {"A": 0, "B": 1}


def test_an_impossible_shot_stands_when_the_coach_says_so():
    strange = {
        "player": "A",
        "kind": "pot",
        "first_contact": "1",
        "overrule": {"note": "took the shot anyway"},
    }
    assert referee(match([brk(), strange])).racks[0].rulings[1].next == "B"


# Contradictions


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"layout_before": {"balls": {"cue": [0.5, 0.5], "2": [1, 1]}}}, "potted earlier"),
        ({"layout_after": {"balls": {"cue": [0.5, 0.5], "1": [1, 1]}}}, "but was potted"),
        ({"scratch": True, "layout_after": {"balls": {"cue": [0.5, 0.5]}}}, "cue ball stands there"),
    ],
)
def test_contradictions_are_reported_with_their_place(change, said):
    with pytest.raises(ImpossibleShot, match=said) as refused:
        referee(match([brk("A", "2"), {**pot("A", "1"), **change}]))
    assert refused.value.shot == 1


def test_the_referee_changes_nothing_it_was_given(demo_match):
    before = copy.deepcopy(demo_match)
    referee(demo_match)
    assert demo_match == before


# Which balls may be struck first: what reading a table needs of the other disciplines


def first(discipline, balls, **state):
    table = PRESETS["snooker-12ft" if discipline == "snooker" else "pool-9ft"]
    places = {ball: (0.3 + 0.1 * n, 0.5) for n, ball in enumerate(balls)}
    return set(legal_first(Layout(table, discipline, places, State(**state))))


@pytest.mark.parametrize(
    ("discipline", "balls", "state", "legal"),
    [
        ("nine-ball", ["3", "9"], {}, {"3"}),
        ("ten-ball", ["10", "4"], {}, {"4"}),
        ("eight-ball", ["1", "8", "12"], {}, {"1", "12"}),
        ("eight-ball", ["1", "8", "12"], {"group": "stripes"}, {"12"}),
        ("eight-ball", ["1", "8"], {"group": "stripes"}, {"8"}),
        ("blackball", ["red-1", "black"], {"group": "yellows"}, {"black"}),
        ("blackball", ["red-1", "yellow-2", "black"], {"group": "reds"}, {"red-1"}),
        ("straight-pool", ["3", "14"], {}, {"3", "14"}),
        ("snooker", ["red-1", "blue", "black"], {}, {"red-1"}),
        ("snooker", ["red-1", "blue", "black"], {"on": "colour"}, {"blue", "black"}),
        ("snooker", ["blue", "black"], {}, {"blue"}),
        ("snooker", ["red-1", "blue"], {"free_ball": "blue"}, {"red-1", "blue"}),
    ],
)
def test_the_balls_that_may_be_struck_first(discipline, balls, state, legal):
    assert first(discipline, balls, **state) == legal
