"""Two clubs on one store: what belongs to the other does not exist, on any route of the interface description."""

from __future__ import annotations

import json
import uuid

import pytest

from aretane.demo.load import game_of
from aretane.settings import ROOT
from aretane.store.club import scope_of
from tests.conftest import Client, rack_change

GAME = game_of("nine-ball")
ROUTES = [
    (method.upper(), path)
    for path, methods in json.loads((ROOT / "docs" / "openapi.json").read_text())["paths"].items()
    for method in methods
]
NO_ROWS = {  # answers from what was asked alone
    ("POST", "/api/camera"), ("GET", "/api/disciplines"), ("GET", "/api/health"), ("GET", "/api/lab"),
    ("POST", "/api/read"), ("POST", "/api/measure"), ("POST", "/api/simulate"), ("GET", "/api/session"),
    ("POST", "/api/reach"), ("POST", "/api/send"), ("POST", "/api/kick"), ("POST", "/api/bank"),
    ("POST", "/api/lines"),
}  # fmt: skip
OWN = {  # lists and makes what is one's own
    ("GET", "/api/felt"), ("GET", "/api/figures"), ("GET", "/api/figures/shots"), ("GET", "/api/games"),
    ("GET", "/api/games/moments"), ("GET", "/api/games/unfinished"), ("GET", "/api/question"),
    ("GET", "/api/question/shots"), ("GET", "/api/question/table"), ("GET", "/api/questions"),
    ("PUT", "/api/questions"), ("DELETE", "/api/questions"), ("POST", "/api/paper"),
    ("GET", "/api/exercises"), ("POST", "/api/exercises"), ("POST", "/api/exercises/layouts"),
    ("POST", "/api/riddles"),
    ("POST", "/api/exercises/runs"), ("GET", "/api/plan"), ("PUT", "/api/plan"), ("GET", "/api/plan/calendar"),
    ("GET", "/api/to-practise"), ("POST", "/api/kept-tables"),
    ("POST", "/api/kept-tables/search"),
    ("GET", "/api/players"), ("GET", "/api/recordings"), ("GET", "/api/hand"), ("POST", "/api/games"),
    ("POST", "/api/games/import"), ("POST", "/api/choices"), ("POST", "/api/uploads"),
}  # fmt: skip
BY_NAME = ("/api/hand", "/api/question/table", "/api/plan/calendar")  # answered by a file, or about a name
OPERATION = {"id": str(uuid.uuid4()), "client": str(uuid.uuid4()), "seen": 0, "label": "x"}
BODIES = {
    ("POST", "/api/games/{game_id}/operations"): {**OPERATION, "changes": [rack_change({"id": GAME})]},
    ("POST", "/api/games/{game_id}/{direction}"): OPERATION,
    ("POST", "/api/games/{game_id}/choices"): {"shot": None, "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]}},
    ("POST", "/api/games/{game_id}/ledger"): {},
    ("POST", "/api/games/{game_id}/clips"): {"shots": [str(uuid.uuid4())]},
    ("PUT", "/api/players/{player}"): {"joined_to": None},
    ("POST", "/api/exercises/{exercise}/attempts"): {"attempts": []},
    ("POST", "/api/riddles/{riddle}/answers"): {"name": "somebody", "intent": "attack"},
    ("POST", "/api/games/{game_id}/reading"): {"id": str(uuid.uuid4())},
    ("POST", "/api/games/{game_id}/reading/corrections"): {"do": "delete", "shot": "x"},
    ("POST", "/api/recordings/{sha256}/outline"): {"table": "pool-9ft", "at": 1.0},
    ("POST", "/api/uploads/{upload}/finish"): {"name": "x.mp4"},
}
QUERIES = {
    ("GET", "/api/games/{game_id}/still"): "?at=1",
    ("GET", "/api/games/moments"): "?search=went",
    ("GET", "/api/games/unfinished"): f"?games={GAME}",
    ("GET", "/api/figures/shots"): "?by=player&name=Ilse%20Marwood",
    ("GET", "/api/question/shots"): "?by=kind&key=pot",
    ("GET", "/api/to-practise"): "?player=1",
    ("GET", "/api/report/{kind}"): "?player=1",
}


@pytest.fixture(scope="module")
def stranger(app, database, settings):
    """Another club's coach on the same store."""
    from aretane.web.app import create_app

    made = create_app(settings, database, lambda db: scope_of(db, "Quay Street Club", "Another coach"))
    made.config["CHECK_ANSWERS"] = True
    yield Client(made)
    made.extensions["aretane"].house.close()


@pytest.fixture
def theirs(client):
    """What the first club has: ids by the parameter of a route."""
    upload = client.post("/uploads", {"size": 10, "name": "a.mp4"}).json["upload"]
    asked = client.post("/choices", {"discipline": "nine-ball", "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]}}).json
    shot = client.get(f"/games/{GAME}").json["racks"][0]["shots"][2]["id"]
    exercise = client.post("/exercises", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot}).json["id"]
    kept = str(uuid.uuid4())
    table = {"id": kept, "name": "mine", "discipline": "nine-ball", "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]}}
    assert client.post("/kept-tables", table).status_code == 200
    filmed = client.get(f"/games/{GAME}").json["racks"][4]["shots"][1]["id"]
    clip = client.post(f"/games/{GAME}/clips", {"shots": [filmed]}).json["clip"]
    planned = {"id": str(uuid.uuid4()), "player": "Ilse Marwood", "begins": "2026-12-01T18:00:00", "minutes": 60}
    assert client.send("PUT", "/plan", planned).status_code == 200
    riddle = client.post("/riddles", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot}).json["id"]
    yield {
        "game_id": GAME, "shot_id": shot, "sha256": client.get("/recordings").json["recordings"][0]["sha256"],
        "upload": upload, "hash": asked["hash"], "offset": "0", "direction": "undo", "kind": "pdf", "player": "1",
        "exercise": exercise, "attempt": str(uuid.uuid4()), "kept": kept,
        "clip": clip, "planned": planned["id"], "riddle": riddle,
    }  # fmt: skip
    client.send("DELETE", f"/exercises/{exercise}")
    client.send("DELETE", f"/clips/{clip}")
    assert client.send("DELETE", f"/riddles/{riddle}").status_code == 204, "still there"
    assert client.send("DELETE", f"/plan/{planned['id']}").json["sessions"] == []
    assert client.send("DELETE", f"/kept-tables/{kept}").status_code == 204, "still there"
    client.send("DELETE", f"/choices/{asked['hash']}")
    client.send("DELETE", f"/uploads/{upload}")


FORGETS = {  # also what is gone already
    ("DELETE", "/api/choices/{hash}"), ("DELETE", "/api/uploads/{upload}"), ("DELETE", "/api/clips/{clip}"),
}  # fmt: skip
NOBODYS = {"game_id": str(uuid.uuid4()), "sha256": "0" * 64, "upload": str(uuid.uuid4()), "hash": "0" * 64,
           "player": "999999", "exercise": str(uuid.uuid4()),
           "kept": str(uuid.uuid4()), "clip": "0" * 64, "planned": str(uuid.uuid4()),
           "riddle": str(uuid.uuid4())}  # fmt: skip


def asked(who, route, ids):
    method, path = route
    for name, value in ids.items():
        path = path.replace("{" + name + "}", value)
    more = {"data": b"0123456789"} if method == "PUT" and route not in BODIES else {}
    answer = who.send(method, path.removeprefix("/api") + QUERIES.get(route, ""), BODIES.get(route), **more)
    return answer.status_code, answer.text


@pytest.mark.parametrize("route", [r for r in ROUTES if "{" in r[1]], ids=" ".join)
def test_what_belongs_to_another_club_is_as_if_it_had_never_been(stranger, theirs, route):
    found = asked(stranger, route, theirs)
    assert found == asked(stranger, route, {**theirs, **NOBODYS})
    assert found[0] in (404, 422) or (found[0] == 204 and route in FORGETS), found


def test_nothing_of_the_first_club_is_gone(client, stranger, theirs):
    for route in ROUTES:
        if "{" in route[1]:
            asked(stranger, route, theirs)
    assert client.get(f"/games/{GAME}").status_code == 200
    assert client.get(f"/recordings/{theirs['sha256']}/file").status_code == 200
    assert client.send("PUT", f"/uploads/{theirs['upload']}/0", data=b"0123456789").json["arrived"] == 10
    assert client.post("/choices", {"discipline": "nine-ball", "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]}}).json[
        "state"
    ] in ("running", "done")


def test_every_route_without_a_name_is_known_to_list_only_its_own(stranger):
    assert {route for route in ROUTES if "{" not in route[1]} == NO_ROWS | OWN
    for route in (one for one in OWN if one[0] == "GET" and one[1] not in BY_NAME):
        listed = stranger.get(route[1].removeprefix("/api") + QUERIES.get(route, "")).json
        names = (
            "shots", "games", "players", "recordings", "errors", "moments", "groups", "questions", "exercises",
            "sessions", "gains",
        )  # fmt: skip
        (kept,) = (listed[name] for name in names if name in listed)
        assert not kept, route
    assert stranger.post("/kept-tables/search", {}).json == {"tables": []}
    assert stranger.get("/question/table?by=kind").text.splitlines() == ["field,of,value,low,high,n"]
    assert stranger.get("/hand?player=1").json["aim_deg"]["n"] == 0


def test_a_hand_on_record_is_the_own_club_s(stranger, client):
    """Two clubs may have a player of one name."""
    body = {
        "discipline": "nine-ball",
        "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]},
        "player": {"record": "Ilse Marwood"},
    }
    mine, other = client.post("/choices", body).json, stranger.post("/choices", body).json
    assert mine["hands"][0] != other["hands"][0]
    assert mine["hash"] != other["hash"]
    for who, one in ((client, mine), (stranger, other)):
        who.send("DELETE", f"/choices/{one['hash']}")


def test_two_clubs_may_ask_the_same_question(client, stranger):
    body = {"discipline": "nine-ball", "balls": {"cue": [0.9, 0.6], "9": [1.6, 0.61]}}
    first, second = client.post("/choices", body).json, stranger.post("/choices", body).json
    assert first["hash"] == second["hash"]
    assert stranger.send("DELETE", f"/choices/{second['hash']}").status_code == 204
    assert client.post("/choices", body).json["state"] in ("running", "done"), "the other's stop is not mine"
    client.send("DELETE", f"/choices/{first['hash']}")


def test_an_id_of_another_club_cannot_be_taken(stranger):
    document = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "title": "x", "session": "match",
        "race_to": 3, "players": {"A": {"name": "Ann"}, "B": {"name": "Ben"}},
    }  # fmt: skip
    answer = stranger.post("/games", {"id": GAME, "document": document})
    assert (answer.status_code, answer.json["field"]) == (422, "id")
