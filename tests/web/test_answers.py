"""Answers that tell: requests that come twice, late, or at the wrong thing."""

from __future__ import annotations

import json
import uuid

import pytest

from tests.conftest import Client, rack_change


def undo_of(**more):
    return {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=1)), "seen": 2**60, **more}


def test_before_its_first_change_a_match_cannot_be_undone(client, demo_match):
    """Imported or begun: it is deleted, and that is undone."""
    imported = client.send("POST", "/games/import", data=json.dumps(demo_match).encode()).json
    for game in (imported, client.new_match()):
        answer = client.post(f"/games/{game['id']}/undo", undo_of())
        assert (answer.status_code, "the match begins here" in answer.json["message"]) == (422, True)
        assert client.get(f"/games/{game['id']}").json == game
        client.send("DELETE", f"/games/{game['id']}")
        assert client.post(f"/games/{game['id']}/undo", undo_of()).status_code == 200, "the deletion is"
        client.send("DELETE", f"/games/{game['id']}")


def test_an_operation_id_of_another_match_is_refused(client):
    first, second = client.new_match(), client.new_match()
    operation = {**undo_of(label="x"), "changes": [rack_change(first)]}
    assert client.post(f"/games/{first['id']}/operations", operation).status_code == 200
    other = {**operation, "changes": [rack_change(second)]}
    answer = client.post(f"/games/{second['id']}/operations", other)
    assert (answer.status_code, bool(answer.json["message"])) == (422, True)
    for game in (first, second):
        client.send("DELETE", f"/games/{game['id']}")


def test_a_match_begun_twice_is_one(app, client):
    game = client.new_match(title="Twice")
    document = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "title": "Other"}
    again = Client(app).post("/games", {"id": game["id"], "document": document})
    assert (again.status_code, again.json["header"]["title"]) == (200, "Twice")
    client.send("DELETE", f"/games/{game['id']}")


@pytest.mark.parametrize(
    ("method", "path", "status", "said"),
    [
        ("GET", "/games/" + "a" * 5000, 404, "no such match"),
        ("GET", "/games/é", 404, "no such match"),
        ("GET", f"/games/{uuid.UUID(int=5)}", 404, "no such match"),
        ("GET", "/recordings/" + "A" * 64, 404, "no such recording"),
        ("PUT", "/uploads/x/0", 404, "no such upload"),
        ("GET", "/nothing", 404, "nothing at this address"),
        ("GET", f"/games/{uuid.UUID(int=5)}/nothing", 404, "nothing at this address"),
        ("PATCH", "/games", 405, ""),
        ("POST", "/games", 400, ""),
    ],
)
def test_a_refusal_keeps_its_own_words(client, method, path, status, said):
    answer = client.send(method, path)
    assert answer.status_code == status
    assert said in answer.json["message"]
    assert answer.json["message"] != "Not Found"


@pytest.mark.parametrize(
    "body",
    [
        b"[" * 100_000,
        b'{"id":' * 50_000,
        b'"\\ud800"',
        b"\xff\xfe",
        b"",
        b"NaN",
        b'{"racks":[{"racks":[{"racks":[]}]}]}',
    ],
)
def test_bodies_that_are_nested_broken_or_strange_are_told_so(client, body):
    for path in ("/games", "/games/import", "/read", "/choices"):
        answer = client.send("POST", path, data=body, content_type="application/json")
        assert 400 <= answer.status_code < 500, answer.text
        assert answer.json["message"]


def test_what_a_file_says_beyond_the_format_is_kept_and_is_no_accident(client):
    """A later version may say more; the lists and the figures look at what they know."""
    strange = {"players": {"A": {"name": "Ann"}, "C": [1, {"x": None}], "é": "text"}, "more": {"racks": [[]]}}
    strange["start"] = {"sets": {"A": 1, "é": "x"}, "fouls": {"B": 1, "é": []}, "score": {"é": {}}}
    game = client.new_match(title="Strange", **strange)
    assert client.get("/games?search=Strange").json["games"][0]["players"] == {"A": "Ann"}
    assert client.get(f"/games/{game['id']}/export").json["players"] == strange["players"]
    assert client.get("/figures?session=lesson").status_code == 200
    client.send("DELETE", f"/games/{game['id']}")
