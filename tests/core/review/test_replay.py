"""Layouts carried from shot to shot, and edits that flow on."""

from __future__ import annotations

import copy

import pytest

from aretane.core.review.replay import carry_forward, replay
from aretane.core.review.shot_figures import shot_figures

CUE, ONE, TWO, NINE = [0.6, 0.4], [1.3, 0.9], [2.0, 0.5], [0.4, 1.0]


def layout(**balls):
    return {"balls": {("cue" if b == "cue" else b[1:]): p for b, p in balls.items()}}


def shots():
    return [
        {"player": "A", "kind": "pot", "first_contact": "1", "potted": [{"ball": "1", "pocket": "foot-left"}],
         "called": {"ball": "1", "pocket": "foot-left"}, "intent": "attack",
         "layout_before": layout(cue=CUE, b1=ONE, b2=TWO, b9=NINE),
         "layout_after": layout(cue=[1.5, 0.7], b2=TWO, b9=NINE)},
        {"player": "A", "kind": "pot", "first_contact": "2", "potted": [],
         "called": {"ball": "2", "pocket": "foot-right"}, "intent": "attack",
         "layout_after": layout(cue=[1.0, 0.7], b2=[2.2, 0.2], b9=NINE)},
        {"player": "B", "kind": "pot", "first_contact": "2", "potted": [],
         "layout_after": layout(cue=[0.9, 0.3], b2=[2.2, 0.3], b9=NINE)},
    ]  # fmt: skip


def match(entries):
    return {"discipline": "nine-ball", "table": "pool-9ft", "racks": [{"shots": entries}]}


def test_a_shot_without_its_own_layout_begins_where_the_last_one_ended():
    rack = replay(match(shots())).racks[0]
    assert rack[1].before.balls == rack[0].after.balls
    assert rack[1].before.state.player == "A"
    assert rack[2].before.state.player == "B"


def test_balls_that_fell_are_gone_and_the_cue_ball_is_nowhere_when_nobody_placed_the_rest():
    entries = shots()
    del entries[0]["layout_after"]
    after = replay(match(entries)).racks[0][0].after
    assert set(after.balls) == {"2", "9"}


def test_the_spotted_nine_comes_back_to_the_foot_spot(nine_foot):
    entries = shots()[:1]
    entries[0] |= {"potted": [{"ball": "9"}], "scratch": True}
    del entries[0]["layout_after"]
    after = replay(match(entries)).racks[0][0].after
    assert after.balls["9"] == pytest.approx((nine_foot.foot_spot, nine_foot.width / 2))
    assert "cue" not in after.balls
    assert after.state.ball_in_hand == "anywhere"


def test_where_a_break_left_the_balls_is_unknown_until_it_is_placed():
    entry = {"player": "A", "kind": "break", "layout_before": layout(cue=CUE, b1=ONE)}
    assert replay(match([entry])).racks[0][0].after is None


def edited(entries, index, key, ball, place):
    shot = copy.deepcopy(entries[index])
    if place is None:
        del shot[key]["balls"][ball]
    else:
        shot[key]["balls"][ball] = place
    return carry_forward(entries, index, shot)


def test_a_corrected_place_flows_on_through_every_layout_that_kept_it():
    changed = edited(shots(), 0, "layout_before", "9", [0.41, 1.01])
    assert set(changed) == {0, 1, 2}
    assert all(shot["layout_after"]["balls"]["9"] == [0.41, 1.01] for shot in changed.values())


def test_a_place_that_was_only_carried_along_flows_on_too():
    entries = shots()
    balls = {**entries[0]["layout_after"]["balls"], "9": [0.42, 1.0]}
    changed = carry_forward(entries, 1, {**entries[1], "layout_before": {"balls": balls}})
    assert changed[1]["layout_after"]["balls"]["9"] == [0.42, 1.0]
    assert changed[2]["layout_after"]["balls"]["9"] == [0.42, 1.0]


def test_it_flows_only_until_the_ball_is_moved():
    changed = edited(shots(), 0, "layout_before", "2", [2.01, 0.5])
    assert set(changed) == {0}
    assert changed[0]["layout_after"]["balls"]["2"] == [2.01, 0.5]


def test_a_ball_put_back_stands_until_it_falls():
    entries = shots()
    changed = edited(entries, 0, "layout_after", "7", [0.2, 0.2])
    assert changed[2]["layout_after"]["balls"]["7"] == [0.2, 0.2]
    entries[1]["potted"] = [{"ball": "7"}]
    assert set(edited(entries, 0, "layout_after", "7", [0.2, 0.2])) == {0}


def test_a_ball_taken_off_is_gone_from_what_follows():
    changed = edited(shots(), 0, "layout_after", "9", None)
    assert "9" not in changed[2]["layout_after"]["balls"]


def test_the_input_is_left_as_it_was():
    entries = shots()
    before = copy.deepcopy(entries)
    edited(entries, 0, "layout_before", "9", [0.41, 1.01])
    assert entries == before


# The facts behind figures


def facts(**changes):
    entries = shots()
    entries[0] |= changes
    return shot_figures(replay(match(entries)))


def test_a_made_pot_and_a_missed_one():
    first, second, third = facts()
    assert (first.tried, first.made, first.result) == (True, True, "made")
    assert (second.tried, second.made, second.result) == (True, False, "missed")
    assert not third.tried
    assert first.cut_angle is not None
    assert first.pocket_distance > 1.0


@pytest.mark.parametrize(
    "change",
    [
        {"kind": "break"}, {"intent": "safety"}, {"flags": ["experiment"]}, {"flags": ["demonstration"]},
        {"intent": "experiment"}, {"called": None},
    ],
)  # fmt: skip
def test_what_is_no_try(change):
    assert not facts(**change)[0].tried


def test_an_unknown_intention_with_a_meant_ball_is_a_try():
    assert facts(intent=None)[0].tried


def test_a_fluke_and_a_scratch_are_not_made():
    other = facts(potted=[{"ball": "1", "pocket": "side-left"}])[0]
    assert (other.made, other.result) == (False, "fluke")
    scratched = facts(scratch=True, layout_after=layout(b2=TWO, b9=NINE))[0]
    assert (scratched.made, scratched.result) == (False, "scratch")


def zone(source="stated"):
    return {"cue": {"source": source, "zones": [{"grade": "ideal", "centre": [1.4, 0.7], "radius": 0.02}]}}


def test_an_unknown_intention_gives_no_position_error():
    assert facts(targets=zone())[0].error.distance == pytest.approx(0.08)
    assert facts(targets=zone("unknown"))[0].error is None
    assert facts()[0].error is None
    assert facts(targets=zone(), flags=["experiment"])[0].error is None


def test_without_a_last_leg_the_direction_is_said_to_be_assumed():
    assert facts(targets=zone())[0].error.assumed
    known = facts(targets=zone(), route=[[1.0, 0.7]])[0].error
    assert not known.assumed
    assert (known.along, known.across) == (pytest.approx(0.08), pytest.approx(0))


def test_the_places_own_uncertainty_is_used():
    after = {**layout(cue=[1.5, 0.7], b2=TWO, b9=NINE), "sigma": {"cue": 0.004}}
    assert facts(targets=zone(), layout_after=after)[0].error.plus_minus == pytest.approx(1.96 * 0.004, rel=1e-4)


def test_the_figures_of_the_demo_were_counted_by_hand(demo_match):
    found = shot_figures(replay(demo_match))
    lines = [line for rack in demo_match["racks"] for line in rack["shots"]]
    strokes = [line for line in lines if line.get("declared") not in ("accept", "pass-back")]
    assert len(found) == len(strokes)
    assert sum(fact.tried for fact in found) == sum(line.get("called") is not None for line in lines)
    assert {fact.result for fact in found} >= {
        "made", "missed-thick", "missed-thin", "missed-jaw", "fluke", "foul", "scratch", "played",
    }  # fmt: skip
