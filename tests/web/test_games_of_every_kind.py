"""Every game through the API: begun, logged, undone, exported and imported, with what the bench shows of it."""

from __future__ import annotations

import json
import uuid

import pytest

from aretane.core.rules.disciplines import RULES
from aretane.demo.load import game_of
from tests.conftest import rack_change, shot_change
from tests.core.rules.sheets import TABLES, brk, choice, entry, match

BALLS = {"nine-ball": 9, "ten-ball": 10, "snooker": 21}


def begun(client, discipline, **more):
    more = {"race_to": 3, "session": "match", **more}
    return client.new_match(discipline=discipline, table=TABLES.get(discipline, "pool-9ft"), **more)


def logged(client, game, *shots):
    """The match with these shots in a new rack."""
    rack = rack_change(game)
    changes = [shot_change(rack, seat, **shot) for seat, shot in enumerate(shots)]
    answer = client.change(game, rack, *changes)
    assert answer.status_code == 200, answer.text
    return answer.json


@pytest.mark.parametrize("discipline", RULES)
def test_each_game_begins_with_its_balls_its_rules_and_its_scoreboard(client, discipline):
    game = begun(client, discipline)
    assert len(game["balls"]) == 1 + BALLS.get(discipline, 15)
    assert game["rules"]["breaks"] == "alternate"
    game = logged(client, game, brk("A", rails_after_contact=4))
    up = game["racks"][0]["next_up"]
    assert up["player"] == "B"
    assert up["board"]["left"] > 0
    assert set(up["legal_balls"]) <= set(up["balls"]) == set(game["balls"][1:])


@pytest.mark.parametrize("discipline", RULES)
def test_undo_returns_exactly_and_a_file_keeps_every_state(client, discipline):
    demo = client.get(f"/games/{game_of(discipline)}").json
    text = client.get(f"/games/{demo['id']}/export").data
    copy = client.post("/games/import", data=text, headers={"Content-Type": "application/json"}).json
    kept = ("score", "sets", "winner", "visits", "rules", "trouble")
    assert {key: copy[key] for key in kept} == {key: demo[key] for key in kept}
    for was, now in zip(demo["racks"], copy["racks"], strict=True):
        for before, after in zip(was["shots"], now["shots"], strict=True):
            assert {**before, "id": ""} == {**after, "id": ""}
    shot = copy["racks"][0]["shots"][-1]
    change = shot_change(
        copy["racks"][0], shot["seat"], shot["id"], **{**shot["document"], "scratch": True, "potted": []}
    )
    edited = client.change(copy, change).json
    assert edited["racks"] != copy["racks"]
    reversing = {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=1)), "seen": edited["last_change"]}
    undone = client.post(f"/games/{copy['id']}/undo", reversing).json
    assert undone.pop("reversed") == "test"
    assert {**undone, "last_change": 0} == {**copy, "last_change": 0}
    client.send("DELETE", f"/games/{copy['id']}")


def test_a_snooker_break_is_shown_with_what_is_on_and_what_is_needed(client):
    shots = [
        entry("A", kind="break"),
        entry("B", "red-1", first_contact="red-1"),
        entry("B", "black", first_contact="black"),
    ]
    game = logged(client, begun(client, "snooker"), *shots)
    board = game["racks"][0]["next_up"]["board"]
    assert (board["on"], board["run"], board["points"]) == ("a red", 8, {"A": 0, "B": 8})
    assert game["racks"][0]["shots"][2]["board"]["on"] == "a colour"
    assert game["visit_figures"]["B"] == {"visits": 1, "points": 8, "best": 8, "mean": 8.0}
    assert game["fresh"]["balls"]["pink"]


def test_a_solo_run_is_closed_and_the_next_rack_begins(client):
    game = logged(client, begun(client, "nine-ball", session="solo"), brk("A"), entry("A", "1", first_contact="1"))
    rack = game["racks"][0]
    closing = {"kind": "rack", "id": rack["id"], "parent": game["id"], "seat": 0, "document": {"closed": True}}
    game = client.change(game, closing).json
    assert (game["racks"][0]["over"], game["racks"][0]["next_up"], game["winner"]) == (True, None, None)


def test_partners_are_counted_as_the_persons_they_are(client):
    players = {"A": {"name": "Ann", "partner": "Abe"}, "B": {"name": "Ben", "partner": "Bea"}}
    game = begun(client, "nine-ball", session="partners", players=players)
    game = logged(client, game, brk("A", "4"), entry("A", "1", first_contact="1"))
    assert [shot["person"] for shot in game["racks"][0]["shots"]] == ["Ann", "Abe"]
    assert game["next_person"] == {"A": "Ann", "B": "Ben"}
    names = {player["name"] for player in client.get("/players").json["players"]}
    assert {"Ann", "Abe", "Ben", "Bea"} <= names


STRANGE = match(
    "snooker",
    [entry("A", kind="break"), entry("B", "red-1", first_contact="red-1"), entry("A", first_contact="red-2"),
     choice("B", "play-again"), entry("B", "red-1", first_contact="red-1")],
)  # fmt: skip


def test_a_file_with_impossible_entries_names_each_place_and_may_be_kept(client):
    headers = {"Content-Type": "application/json"}
    before = client.matches()
    refused = client.post("/games/import", data=json.dumps(STRANGE), headers=headers)
    assert refused.status_code == 422
    places = refused.json["places"]
    assert [(place["rack"], place["shot"]) for place in places] == [(0, 2), (0, 4)]
    assert all("(" in place["message"] for place in places), "each names its rule"
    assert client.matches() == before
    kept = client.post("/games/import?keep=true", data=json.dumps(STRANGE), headers=headers)
    assert kept.status_code == 200
    assert not kept.json["trouble"]
    assert "order of play" in kept.json["racks"][0]["shots"][2]["document"]["overrule"]["note"]
    client.send("DELETE", f"/games/{kept.json['id']}")


def test_wrong_options_are_refused_by_name(client):
    answer = client.post("/games", {"id": str(uuid.uuid4()), "document": {
        "format": "aretane-match", "version": 1, "discipline": "snooker", "rules": {"reds": 40},
    }})  # fmt: skip
    assert (answer.status_code, answer.json["field"]) == (422, "rules.reds")


def test_the_disciplines_tell_their_tables_and_options(client):
    told = {one["name"]: one for one in client.get("/disciplines").json["disciplines"]}
    assert set(told) == set(RULES)
    assert told["blackball"]["tables"] == ["blackball-7ft"]
    assert {"miss", "reds"} <= {option["name"] for option in told["snooker"]["options"]}


def test_the_figures_of_breaks_have_their_samples(client):
    tables = client.get(f"/figures?game={game_of('nine-ball')}").json["breaks"]
    by_player = next(table for table in tables if table["by"] == "player")
    assert sum(family["balls"]["n"] for family in by_player["families"]) == 9
    assert all(family["dry"]["n"] == family["balls"]["n"] for family in by_player["families"])
