"""The shot lab's interface: answers like the command line's, refusals in the user's words."""

from __future__ import annotations

import pytest

BODY = {
    "discipline": "nine-ball",
    "balls": {"cue": [0.62, 0.40], "3": [1.31, 0.96], "9": [2.20, 0.55]},
    "stroke": {"at": "3", "pocket": "foot-left", "speed": 2.5, "height": -0.3},
}


def test_a_shot_comes_with_its_motion_and_samples(client):
    answer = client.post("/simulate", {**BODY, "samples": 400, "hand": "league"}).json
    assert answer["shot"]["potted"][0]["ball"] == "3"
    assert {"cue", "3"} <= set(answer["legs"])
    assert "9" not in answer["legs"]
    assert answer["samples"]["pot"]["n"] == 400
    assert answer["cue_speed"] > 0
    again = client.post("/simulate", {**BODY, "samples": 400, "hand": "league"}).json
    assert again == answer


def test_another_cloth_is_another_shot(client):
    slow = client.post("/simulate", {**BODY, "physics": {"roll_friction": 0.02}}).json
    fast = client.post("/simulate", {**BODY, "physics": {"roll_friction": 0.005}}).json
    assert slow["shot"]["duration"] < fast["shot"]["duration"]


def test_the_lab_offers_tables_hands_and_limits(client):
    offered = client.get("/lab").json
    assert len(offered["tables"]) == 5
    for choice in offered["tables"]:
        assert [hand["id"] for hand in choice["hands"]] == ["beginner", "club", "league", "professional"]
        for name, value in choice["physics"].items():
            low, high = offered["limits"][name]
            assert low <= value <= high


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"stroke": {"speed": 2}}, "aim"),
        ({"stroke": {"speed": -1, "aim": 0}}, "speed"),
        ({"stroke": {"speed": 1e400, "aim": 0}}, "speed"),
        ({"stroke": {"speed": 2, "aim": 0, "side": 0.9, "height": 0.9}}, "side"),
        ({"stroke": {"speed": 2, "at": "3", "pocket": "head-right"}}, "at"),
        ({"balls": {"cue": [0.62, 0.40], "3": [0.63, 0.40]}}, "balls.3"),
        ({"balls": {"cue": [0.62, 0.40], "x": [1, 1]}}, "balls.x"),
        ({"balls": {"3": [1.31, 0.96]}, "state": {"ball_in_hand": "anywhere"}}, "place"),
        ({"physics": {"magic": 1}}, "table.physics.magic"),
        ({"physics": {"roll_friction": 5}}, "table.physics.roll_friction"),
        ({"hand": "wizard"}, "hand"),
        ({"table": "pool-11ft"}, "table"),
    ],
)
def test_bad_shots_are_refused_in_a_line(client, change, field):
    answer = client.post("/simulate", {**BODY, **change})
    assert answer.status_code == 422, answer.text
    assert answer.json["field"].endswith(field)
    assert 0 < len(answer.json["message"]) < 300


def test_too_many_samples_are_refused(client):
    assert client.post("/simulate", {**BODY, "samples": 10**7}).status_code == 422
