"""What layouts tell of a shot, against matches whose every stroke is known (the demo's, made by the simulator with
a hand's and a table's chance). What a reviewer would see at once is common practice; the shares are measured.
"""

from __future__ import annotations

import json

import pytest

from aretane.core.layout import Layout
from aretane.core.physics.aim import aimed
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.review.found_shots import Seen, contradicted, renewed, told_after
from aretane.core.review.proposal import propose
from aretane.core.review.replay import replay
from aretane.core.table import PRESETS
from tests.conftest import DEMO

POOL = PRESETS["pool-9ft"]


def layout(**balls):
    return Layout(POOL, "nine-ball", {name.strip("_"): place for name, place in balls.items()})


def story(name, racks):
    """The strokes of some racks with the layouts around them, as they were seen."""
    match = json.loads((DEMO / "matches" / f"{name}.json").read_bytes())
    played = replay(match)
    for rack in played.racks[:racks]:
        for shot in rack:
            after = (shot.data.get("layout_after") or {}).get("balls")
            if after and shot.before and shot.data.get("kind") != "break":
                yield shot, Layout(played.table, played.discipline, {b: (x, y) for b, (x, y) in after.items()})


@pytest.mark.parametrize(("name", "racks"), [("nine-ball", 4), ("snooker", 1)])
def test_most_shots_are_told_rightly_and_what_is_wrong_is_asked(name, racks):
    shots = list(story(name, racks))
    right = wrong = asked = 0
    for shot, after in shots:
        told = propose(shot.before, after, shot.ruling.legal_balls)
        truth = shot.data
        assert (told.facts["first_contact"] == truth["first_contact"]) or name == "snooker"  # reds lie in a pack
        fell = {one["ball"] for one in told.facts["potted"]}
        assert fell == {one["ball"] for one in truth["potted"]}
        meant = told.facts.get("called") if truth["intent"] == "attack" else None
        if told.facts["intent"] == truth["intent"] and meant in (None, truth.get("called")):
            right += 1
        elif told.open:
            asked += 1
        else:
            wrong += 1
    assert right >= 0.75 * len(shots)
    assert wrong <= 0.06 * len(shots)
    assert asked


def played(before, ball, pocket, speed, **more):
    """What a stroke leaves behind, as a picture would show it."""
    return simulate(before, aimed(before, Stroke(at=ball, pocket=pocket, speed=speed, **more))).final


def test_a_plain_pot_is_told_with_its_pocket_and_nothing_is_asked():
    before = layout(cue=(1.6, 0.9), _1=(2.1, 1.05), _2=(0.7, 0.4))
    told = propose(before, played(before, "1", "foot-left", 1.6), ("1",))
    assert told.open == ()
    assert told.facts == {
        "scratch": False,
        "first_contact": "1",
        "kind": "pot",
        "intent": "attack",
        "called": {"ball": "1", "pocket": "foot-left"},
        "potted": [{"ball": "1", "pocket": "foot-left"}],
        "result": "made",
    }


def test_a_break_has_its_record_from_the_layouts():
    before = layout(cue=(0.5, 1.2), _1=(1.9, 0.635), _9=(2.0, 0.635))
    told = propose(before, layout(cue=(1.3, 0.6), _9=(1.2, 0.2)), ("1",), "break")
    assert told.open == ()
    assert told.facts["break_record"] == {"from": "left rail", "rests": "centre"}
    assert told.facts["potted"] == [{"ball": "1"}]


def test_what_moved_nothing_is_no_contact_but_asked():
    before = layout(cue=(1.0, 0.5), _1=(2.1, 1.0))
    told = propose(before, layout(cue=(0.4, 0.9), _1=(2.1, 1.0)), ("1",))
    assert told.facts["first_contact"] is None
    assert "first_contact" in told.open


def test_a_ball_that_hangs_was_missed_in_the_jaws():
    pocket = POOL.pockets["foot-left"]
    hangs = (pocket.mouth[0] - 0.02, pocket.mouth[1] - 0.035)
    before = layout(cue=(1.3, 0.6), _1=(2.0, 1.0))
    told = propose(before, layout(cue=(1.9, 0.8), _1=hangs), ("1",))
    assert told.facts["called"] == {"ball": "1", "pocket": "foot-left"}
    assert told.facts["intent"] == "attack"


def test_an_unseen_ball_that_is_hit_is_an_escape_and_a_scratch_is_seen():
    before = layout(cue=(0.4, 0.635), _2=(0.6, 0.635), _1=(2.0, 0.635))
    told = propose(before, layout(_2=(0.6, 0.635), _1=(2.2, 0.4)), ("1",))
    assert (told.facts["intent"], told.facts["kind"], told.facts["scratch"]) == ("escape", "kick", True)


def test_the_rules_say_who_played_and_a_rack_ends_where_they_say():
    """Ann makes the one and misses the nine, Ben makes it; then a new rack is broken by its winner's opponent or
    himself, as was agreed."""
    one = layout(cue=(1.6, 0.9), _1=(2.1, 1.05), _9=(0.7, 0.4))
    two = played(one, "1", "foot-left", 1.6)
    three = two.placed("9", (0.9, 0.9)).placed("cue", (1.0, 0.5))
    four = played(three, "9", "head-left", 2.2)
    state = {"standing": ["1", "9"], "player": "A"}
    match = {
        "discipline": "nine-ball",
        "racks": [],
        "rules": {"breaks": "winner"},
        "start": {"layout": {"state": state}},
    }
    rack = Layout(POOL, "nine-ball", {"cue": (0.6, 0.6), **{str(n): (2.0, 0.1 * n) for n in range(1, 10)}})
    told = told_after(
        match, [Seen(one, two, False), Seen(two, three, False), Seen(three, four, False), Seen(rack, rack, True)]
    )
    assert [one.document["player"] for one in told] == ["A", "A", "B", "B"]
    assert "wins the rack" in told[2].why
    assert [one.document["kind"] for one in told][-1] == "break"
    assert {"player", "called", "layout_after", "time"} <= set(told[0].document["inferred"])


def test_a_second_look_changes_only_what_nobody_confirmed():
    document = {
        "player": "A",
        "potted": [{"ball": "3"}],
        "note": "mine",
        "result": "made",
        "inferred": ["potted", "player"],
    }
    fresh = {"player": "B", "potted": [{"ball": "4"}], "result": "missed"}
    again = renewed(document, fresh)
    assert (again["player"], again["potted"], again["note"], again["result"]) == (
        "B",
        [{"ball": "4"}],
        "mine",
        "made",
    )
    assert contradicted(document, fresh) == []
    assert contradicted({**document, "inferred": []}, fresh) == ["potted"]
