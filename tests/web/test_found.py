"""Shots found in a recording beside the log: proposed, taken, put right afterwards."""

from __future__ import annotations

import json
import time
import uuid

import pytest

from tests.conftest import DEMO, Client

DEMO_MATCH = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
TRUE = DEMO_MATCH["racks"][4]["shots"]  # the rack that was filmed


@pytest.fixture(scope="module")
def bare(app):
    """A match with the demo's recording and no entry, read to 30 s: a break and three pots."""
    client = Client(app)
    game = client.new_match(title="Found", recordings=DEMO_MATCH["recordings"])
    body = {"id": str(uuid.uuid4()), "begin": 0, "end": 30, "marked_at": 0}
    assert client.post(f"/games/{game['id']}/reading", body).status_code == 200
    until = time.monotonic() + 120
    while found(client, game)["state"] == "running":
        assert time.monotonic() < until
        time.sleep(0.2)
    yield client, game["id"]
    client.send("DELETE", f"/games/{game['id']}")


def found(client, game):
    return client.get(f"/games/{game['id']}/reading").json


def change(client, game, *changes):
    answer = client.change(game, *changes)
    assert answer.status_code == 200, answer.text
    return answer.json


def test_what_is_found_is_proposed_taken_and_put_right(bare):
    client, game_id = bare
    game = client.get(f"/games/{game_id}").json
    shots = found(client, game)["shots"]
    proposals = [shot["proposal"] for shot in shots]
    # who played, what was hit, what fell and where: as the script of the film has it
    assert [one["document"]["player"] for one in proposals[:4]] == [shot["player"] for shot in TRUE[:4]]
    for told, true in zip(proposals[1:4], TRUE[1:4], strict=True):
        document = told["document"]
        assert (document["called"], document["potted"]) == (true["called"], true["potted"])
        assert (document["intent"], document["intent_source"], document["result"]) == ("attack", "inferred", "made")
        assert {"player", "called", "potted", "layout_before"} <= set(document["inferred"])
    assert proposals[1]["sure"]
    assert all(shot["logged"] is None and shot["differs"] == [] for shot in shots)

    waits = client.get(f"/games/unfinished?games={game_id}").json["games"][game_id]
    assert (waits["found"], waits["reading"]) == (len([one for one in shots if one["kind"] == "shot"]), False)

    # taken: the first two nodded at (what was said is confirmed), the others not
    rack, ids = str(uuid.uuid4()), [str(uuid.uuid4()) for _ in shots]
    changes = [{"kind": "rack", "id": rack, "parent": game_id, "seat": 0, "document": {"breaker": "A"}}]
    for seat, (shot, id_) in enumerate(zip(shots[:3], ids, strict=False)):
        document = dict(shot["proposal"]["document"])
        if seat < 2:
            document["inferred"] = ["layout_before", "layout_after", "time"]
        changes.append({"kind": "shot", "id": id_, "parent": rack, "seat": seat, "document": document})
    game = change(client, game, *changes)
    after = found(client, game)["shots"]
    assert [shot["logged"] for shot in after[:4]] == [*ids[:3], None]
    assert after[3]["proposal"]["document"]["player"] == "A"

    # a nod at a sentence is evidence: the ball that it names is that ball from then on, whatever is read later
    sure = {one["ball"]: one["confidence"] for one in after[1]["before"]}
    assert sure[TRUE[1]["called"]["ball"]] == 1.0
    assert sure[TRUE[2]["called"]["ball"]] < 1.0, "nobody has looked at that one"

    # a ball is named anew: the layouts of all entries follow; of the facts those that nobody confirmed
    three = next(one for one in after[2]["before"] if one["ball"] == TRUE[2]["called"]["ball"])
    answer = client.post(
        f"/games/{game_id}/reading/corrections", {"do": "name", "track": three["track"], "ball": "3"}
    )
    assert answer.status_code == 200, answer.text
    logged = {shot["id"]: shot["document"] for shot in client.get(f"/games/{game_id}").json["racks"][0]["shots"]}
    assert logged[ids[2]]["potted"][0]["ball"] == "3"
    assert "3" in logged[ids[1]]["layout_after"]["balls"]
    assert logged[ids[1]]["potted"] == TRUE[1]["potted"]
    client.send("DELETE", f"/games/{game_id}/reading/corrections")
    logged = {shot["id"]: shot["document"] for shot in client.get(f"/games/{game_id}").json["racks"][0]["shots"]}
    assert logged[ids[2]]["potted"] == TRUE[2]["potted"]

    # a ball that was taken for a fallen one is there after all: a confirmed entry shows a mark and stays
    body = {"do": "ball", "shot": "s1", "side": "after", "ball": TRUE[1]["called"]["ball"], "place": [1.2, 0.3]}
    told = client.post(f"/games/{game_id}/reading/corrections", body).json["shots"]
    assert told[1]["differs"] == ["potted"]
    assert {one["ball"]: one["place"] for one in told[2]["before"]}[body["ball"]] == [1.2, 0.3]
    logged = {shot["id"]: shot["document"] for shot in client.get(f"/games/{game_id}").json["racks"][0]["shots"]}
    assert logged[ids[1]]["potted"] == TRUE[1]["potted"]
    assert body["ball"] in logged[ids[1]]["layout_after"]["balls"]
    refused = client.post(f"/games/{game_id}/reading/corrections", {**body, "ball": "44"})
    assert (refused.status_code, refused.json["field"]) == (422, "ball")
    client.send("DELETE", f"/games/{game_id}/reading/corrections")

    # a forgotten one, between two that are there, is proposed as from there
    game = client.get(f"/games/{game_id}").json
    gone = {"kind": "shot", "id": ids[1], "parent": rack, "seat": 1, "document": None}
    game = change(client, game, gone)
    again = found(client, game)["shots"][1]
    assert again["logged"] is None
    assert again["proposal"]["document"]["potted"] == TRUE[1]["potted"]
