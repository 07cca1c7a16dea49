"""From a shot to an exercise, attempts at it, and what they come to."""

from __future__ import annotations

import uuid

import pytest

from aretane.demo.load import game_of

GAME = game_of("nine-ball")
AT = "2026-11-{:02d}T18:30:00+00:00"


@pytest.fixture
def shot(client):
    shots = client.get(f"/games/{GAME}").json["racks"][0]["shots"]
    return next(one["id"] for one in shots if (one["document"].get("called") or {}).get("ball"))


@pytest.fixture
def exercise(client, shot):
    made = client.post("/exercises", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot, "hand": "club"}).json
    yield made
    client.send("DELETE", f"/exercises/{made['id']}")


def attempt(result, day=1, player="Ilse Marwood", **more):
    return {"id": str(uuid.uuid4()), "player": player, "result": result, "at": AT.format(day), **more}


def test_a_shot_offers_its_levels_and_is_made_once(client, shot, exercise):
    offered = client.get(f"/games/{GAME}/shots/{shot}/levels?hand=club").json["levels"]
    assert offered[0]["name"] == "as it was"
    assert exercise["chance"] == offered[0]["chance"]
    again = {"id": exercise["id"], "game": GAME, "shot": shot, "hand": "club"}
    assert client.post("/exercises", again).json == exercise
    assert [one["id"] for one in client.get("/exercises").json["exercises"]].count(exercise["id"]) == 1
    assert exercise["card"][-1].lower().startswith("cue ball")


def test_attempts_count_once_however_often_they_are_sent_and_can_be_taken_back(client, exercise):
    path = f"/exercises/{exercise['id']}/attempts"
    sent = [attempt("made", zone=True), attempt("thick", zone=False), attempt("made", day=3)]
    client.post(path, {"attempts": sent})
    told = client.post(path, {"attempts": sent}).json
    (player,) = told["players"]
    assert (player["rate"]["n"], player["rate"]["p"], player["thick"]) == (3, pytest.approx(2 / 3), 1)
    assert (player["zone"]["n"], player["zone"]["p"]) == (2, 0.5)
    assert [day["n"] for day in player["days"]] == [2, 1]
    assert "17 more tries" in player["advice"]
    told = client.send("DELETE", f"{path}/{sent[1]['id']}").json
    assert told["players"][0]["rate"]["p"] == 1.0


@pytest.mark.parametrize(
    ("made", "missed", "words"),
    [(30, 0, "harder"), (5, 25, "easier"), (14, 6, ""), (3, 0, "before the numbers tell")],
)
def test_what_the_numbers_advise(client, exercise, made, missed, words):
    sent = [attempt("made") for _ in range(made)] + [attempt("missed") for _ in range(missed)]
    told = client.post(f"/exercises/{exercise['id']}/attempts", {"attempts": sent}).json
    assert words in told["players"][0]["advice"]


def test_its_card_is_printed(client, exercise):
    page = client.get(f"/exercises/{exercise['id']}/card/html")
    assert exercise["title"] in page.text
    assert "physician" in page.text
    assert client.get(f"/exercises/{exercise['id']}/card/pdf").data.startswith(b"%PDF")


def test_what_makes_no_exercise_is_said(client):
    opening = client.get(f"/games/{GAME}").json["racks"][0]["shots"][0]["id"]
    refused = client.post("/exercises", {"id": str(uuid.uuid4()), "game": GAME, "shot": opening})
    assert refused.status_code in (409, 422)
    assert "meant" in refused.json["message"]
    assert client.get(f"/exercises/{uuid.uuid4()}").status_code == 404
    wrong = client.post(f"/exercises/{uuid.uuid4()}/attempts", {"attempts": [attempt("sat down")]})
    assert wrong.status_code == 422
