"""The question that is asked of a shot, and which of the answers was played: made here, not by the page."""

from __future__ import annotations

import uuid

import pytest

from aretane.core.errors import InputError, NotFound
from aretane.demo.load import game_of
from aretane.desk import choices
from aretane.desk.choices import AtShot, played_of

OPTIONS = [
    {"also": [], "ball": "5", "pocket": "side-left"},
    {"also": [], "ball": "5", "pocket": "foot-left"},
    {"also": [], "ball": None, "pocket": None},
    {"also": ["played"], "ball": "5", "pocket": "foot-left"},
]
CALLED = {"called": {"ball": "5", "pocket": "foot-left"}}


@pytest.mark.parametrize(
    ("document", "count", "found"),
    [
        ({**CALLED, "intent": "attack"}, 4, {"index": 3, "exact": True}),
        (CALLED, 3, {"index": 1, "exact": False}),
        ({"intent": "safety"}, 3, {"index": 2, "exact": False}),
        ({}, 3, None),
        ({"called": {"ball": "7", "pocket": "side-left"}}, 3, None),
    ],
)
def test_what_was_played_is_the_stroke_itself_or_the_nearest(document, count, found):
    assert played_of(document, OPTIONS[:count]) == found


@pytest.fixture
def asked(app, database, scope, monkeypatch):
    """What the desk would have worked out; nothing is."""
    house, seen = app.extensions["aretane"].house, []

    def note(_, __, question, page, *, again):
        seen.append(question)
        return {"body": {}}

    monkeypatch.setattr(choices, "choices", note)

    def ask(game, **at):
        choices.at_shot(house, scope, game_of(game), AtShot("choices", **at))
        return seen[-1]

    return ask


def test_the_question_has_the_shots_hands_state_race_and_what_was_meant(asked, client):
    match = client.get(f"/games/{game_of('nine-ball')}").json
    rack = match["racks"][4]
    shot = next(
        one
        for one in rack["shots"]
        if (one["document"].get("stroke") or {}).get("aim") is not None and one["state"]
    )
    balls = {ball: tuple(place) for ball, place in shot["before"]["balls"].items()}
    question = asked("nine-ball", shot=shot["id"], balls={**balls, "15": (0.1, 0.1)}, opponent="club")
    seat = shot["document"]["player"]
    assert question.player == {"record": match["header"]["players"][seat]["name"]}
    assert question.opponent == "club"
    assert question.balls == balls, "a ball that this game has not is left out"
    assert question.state["player"] == shot["state"]["player"]
    assert question.state["ball_in_hand"] is False
    before = match["racks"][3]["score"]
    other = "B" if seat == "A" else "A"
    assert question.race == (match["header"]["race_to"] - before[seat], match["header"]["race_to"] - before[other])
    (played,) = question.drawn
    assert (played.source, played.stroke.aim) == ("played", shot["document"]["stroke"]["aim"])
    tried = asked("nine-ball", shot=shot["id"], balls=balls, tried=True)
    assert not list(tried.drawn), "on another table nothing was played"


def test_no_race_where_the_game_goes_on(asked, client):
    match = client.get(f"/games/{game_of('straight-pool')}").json
    shot = next(one for one in match["racks"][0]["shots"] if one["state"])
    balls = {ball: tuple(place) for ball, place in shot["before"]["balls"].items()}
    assert asked("straight-pool", shot=shot["id"], balls=balls).race is None


def test_there_is_nothing_to_ask_of_a_break_or_of_no_shot(asked, client):
    match = client.get(f"/games/{game_of('nine-ball')}").json
    opening = match["racks"][0]["shots"][0]
    with pytest.raises(InputError, match="nothing to choose"):
        asked("nine-ball", shot=opening["id"], balls={"cue": (0.3, 0.6), "1": (1.9, 0.6)})
    with pytest.raises(NotFound, match="shot"):
        asked("nine-ball", shot=str(uuid.uuid4()), balls={})


def test_over_the_interface_the_answer_says_which_was_played(client):
    match = client.get(f"/games/{game_of('nine-ball')}").json
    shot = next(one for one in match["racks"][0]["shots"][8:] if one["document"].get("called") and one["state"])
    body = {"shot": shot["id"], "balls": shot["before"]["balls"], "player": "club", "opponent": "club"}
    answer = client.post(f"/games/{match['id']}/choices", body)
    assert answer.status_code == 200, answer.text
    assert answer.json["state"] in ("running", "done")
    assert answer.json["played"] is None or answer.json["played"]["index"] >= 0
    client.send("DELETE", f"/choices/{answer.json['hash']}")
    refused = client.post(f"/games/{match['id']}/choices", {**body, "player": "nobody"})
    assert refused.status_code == 422
