"""The verdict over the interface: asked for, kept, followed by an edit, judged by itself after a rack."""

from __future__ import annotations

import time
import uuid
from dataclasses import replace

import pytest

from aretane.web.ledger.schemas import LedgerAnswer
from tests.lost_rack import lost_rack


def judged(client, game, seconds=60):
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        answer = client.post(f"/games/{game}/ledger", {})
        assert answer.status_code == 200, answer.text
        LedgerAnswer.model_validate(answer.json)
        if answer.json["state"] != "running":
            return answer.json
        time.sleep(0.2)
    raise AssertionError("not judged in time")


@pytest.fixture(scope="module")
def game(app):
    from tests.conftest import Client

    return Client(app).post("/games/import", lost_rack()).json


def test_a_match_is_judged_and_an_edit_is_followed(client, game):
    assert client.get(f"/games/{game['id']}/ledger").json["body"]["racks"] == []
    first = judged(client, game["id"])
    assert first["state"] == "done"
    assert first["current"]
    (rack,) = first["body"]["racks"]
    shots = game["racks"][0]["shots"]
    assert [entry["id"] for entry in rack["shots"]] == [shot["id"] for shot in shots]
    assert client.get(f"/games/{game['id']}/ledger").json["body"] == first["body"]
    edited = {**shots[1]["document"], "called": {"ball": "9", "pocket": "head-left"}}
    change = {
        "kind": "shot", "id": shots[1]["id"], "parent": game["racks"][0]["id"], "seat": shots[1]["seat"],
        "document": edited,
    }  # fmt: skip
    operation = {
        "id": str(uuid.uuid4()),
        "client": str(uuid.uuid4()),
        "seen": game["last_change"],
        "label": "pocket",
    }
    assert client.post(f"/games/{game['id']}/operations", {**operation, "changes": [change]}).status_code == 200
    stale = client.get(f"/games/{game['id']}/ledger").json
    assert not stale["current"]
    assert stale["body"] == first["body"], "what was found before is still to be seen"
    second = judged(client, game["id"])
    assert second["current"]
    before, after = first["body"]["racks"][0]["shots"], second["body"]["racks"][0]["shots"]
    assert after[1]["played"]["pocket"] == "head-left"
    assert after[0]["before"] == before[0]["before"], "what does not rest on it is not judged again"
    assert after[2] == before[2]


def test_a_match_that_is_not_there(client):
    nobody = f"/games/{uuid.uuid4()}/ledger"
    assert client.get(nobody).status_code == 404
    assert client.post(nobody, {}).status_code == 404
    assert client.post(nobody, {"care": "wild"}).status_code == 422


def test_a_finished_rack_is_judged_before_anybody_asks(app, client, monkeypatch):
    house = app.extensions["aretane"].house
    monkeypatch.setitem(
        app.extensions, "aretane", replace(app.extensions["aretane"], house=replace(house, judges=True))
    )
    made = client.post("/games/import", {**lost_rack(), "title": "Another"}).json
    until = time.monotonic() + 60
    while not client.get(f"/games/{made['id']}/ledger").json["current"]:
        assert time.monotonic() < until
        time.sleep(0.2)
    assert client.send("DELETE", f"/games/{made['id']}").status_code == 204


def test_a_remark_leaves_a_match_judged_as_it_is(client, game):
    """A note, a drawing, a cause, a place in a recording, another title: nothing is judged by them."""
    judged(client, game["id"])
    known = client.get(f"/games/{game['id']}").json
    shot = known["racks"][0]["shots"][1]
    drawing = {"kind": "line", "points": [[0.2, 0.2], [1.0, 0.4]], "ink": "red"}
    told = {"note": "too quick", "drawings": [drawing], "causes": ["speed"], "time": {"contact": 12.0}}
    change = {
        "kind": "shot", "id": shot["id"], "parent": known["racks"][0]["id"], "seat": shot["seat"],
        "document": {**shot["document"], **told},
    }  # fmt: skip
    assert client.change(known, change).status_code == 200
    assert client.get(f"/games/{game['id']}/ledger").json["current"]
    again = client.get(f"/games/{game['id']}").json
    change["document"] = {**change["document"], "potted": [{"ball": "9", "pocket": "head-right"}]}
    assert client.change(again, change).status_code == 200
    assert not client.get(f"/games/{game['id']}/ledger").json["current"]
