"""The change log: exactly once, never silently over somebody else's change, and everything can be taken back."""

from __future__ import annotations

import os
import signal
import threading
import time
import uuid

import pytest

from aretane.store.games import forget_deleted
from tests.conftest import Client, rack_change, shot_change

ANN, BEN = str(uuid.UUID(int=1)), str(uuid.UUID(int=2))


@pytest.fixture
def rack(client):
    """A match with a rack of two shots."""
    game = client.new_match()
    rack = rack_change(game)
    shots = [
        shot_change(rack, 0, player="A", kind="break", first_contact="1", object_balls_to_rail=5),
        shot_change(rack, 1, player="B", kind="pot", first_contact="1", potted=[{"ball": "1"}]),
    ]
    answer = client.change(game, rack, *shots)
    assert answer.status_code == 200, answer.text
    return answer.json


def edited(game, index, **changes):
    rack = game["racks"][0]
    shot = rack["shots"][index]
    return {**shot_change(rack, shot["seat"], shot["id"]), "document": {**shot["document"], **changes}}


def test_the_rules_follow_an_edit_of_an_early_shot(client, rack):
    assert rack["racks"][0]["next_up"]["player"] == "B"
    game = client.change(rack, edited(rack, 1, scratch=True)).json
    assert game["racks"][0]["shots"][1]["ruling"]["foul"] == "scratch"
    assert game["racks"][0]["next_up"]["player"] == "A"
    assert game["racks"][0]["next_up"]["in_hand"] == "anywhere"


def test_a_re_sent_operation_is_done_once(client, rack):
    operation = {
        "id": str(uuid.uuid4()), "client": ANN, "seen": rack["last_change"], "label": "note",
        "changes": [edited(rack, 1, note="once")],
    }  # fmt: skip
    first = client.post(f"/games/{rack['id']}/operations", operation).json
    second = client.post(f"/games/{rack['id']}/operations", operation).json
    assert first == second
    history = client.get(f"/games/{rack['id']}/history").json["entries"]
    assert [entry["label"] for entry in history].count("note") == 1


def test_a_second_browser_is_told_and_shown_both(client, rack):
    client.change(rack, edited(rack, 1, note="from Ann"), client=ANN)
    answer = client.change(rack, edited(rack, 1, note="from Ben"), client=BEN)
    assert answer.status_code == 409
    (theirs,) = answer.json["theirs"].values()
    assert theirs["document"]["note"] == "from Ann"
    assert client.get(f"/games/{rack['id']}").json["racks"][0]["shots"][1]["document"]["note"] == "from Ann"


def test_changes_of_different_shots_do_not_clash(client, rack):
    client.change(rack, edited(rack, 0, note="from Ann"), client=ANN)
    assert client.change(rack, edited(rack, 1, note="from Ben"), client=BEN).status_code == 200


def test_different_fields_of_one_shot_do_not_clash_and_each_undoes_his_own(client, rack):
    """Both looked at the same state; Ben's whole document comes later and does not know of Ann's note."""
    client.change(rack, edited(rack, 1, note="from Ann"), client=ANN)
    both = client.change(rack, edited(rack, 1, causes=["speed"]), client=BEN)
    assert both.status_code == 200, both.text
    document = both.json["racks"][0]["shots"][1]["document"]
    assert (document["note"], document["causes"]) == ("from Ann", ["speed"])
    assert "causes" not in reverse(client, both.json, "undo").json["racks"][0]["shots"][1]["document"]


def test_a_deleted_match_is_gone_and_can_be_had_back(client, rack, database):
    assert client.send("DELETE", f"/games/{rack['id']}").status_code == 204
    assert client.get(f"/games/{rack['id']}").status_code == 404
    listed = client.get("/games").json
    assert rack["id"] not in [one["id"] for one in listed["games"]]
    assert rack["id"] in [one["id"] for one in listed["deleted"]]
    assert client.change(rack, edited(rack, 1, note="late")).status_code == 404
    assert client.send("DELETE", f"/games/{rack['id']}").status_code == 404
    assert documents(reverse(client, rack, "undo").json) == documents(rack)
    assert "nothing to redo" in reverse(client, rack, "redo").json["message"]
    assert client.send("DELETE", f"/games/{rack['id']}").status_code == 204
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE game SET deleted_at = deleted_at - INTERVAL 31 DAY WHERE id = %s", (rack["id"],))
    database.write(forget_deleted)
    assert reverse(client, rack, "undo").status_code == 404


def test_a_write_that_met_a_deadlock_is_done_again_whole(database):
    """Two transactions take two rows crosswise; the one that loses runs again, and both counts are right."""
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("CREATE OR REPLACE TABLE two (id INT PRIMARY KEY, n INT NOT NULL)")
        cursor.execute("INSERT INTO two VALUES (1, 0), (2, 0)")
    both, runs = threading.Barrier(2), []

    def crosswise(first, second):
        def work(db):
            runs.append(first)
            with db.cursor() as cursor:
                cursor.execute("UPDATE two SET n = n + 1 WHERE id = %s", (first,))
                if runs.count(first) == 1:
                    both.wait(5)
                cursor.execute("UPDATE two SET n = n + 1 WHERE id = %s", (second,))

        database.write(work)

    threads = [threading.Thread(target=crosswise, args=pair) for pair in ((1, 2), (2, 1))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SELECT n FROM two ORDER BY id")
        assert [row["n"] for row in cursor.fetchall()] == [2, 2]
        cursor.execute("DROP TABLE two")
    assert len(runs) == 3


def test_a_queue_of_ones_own_changes_does_not_clash_with_itself(client, rack):
    for text in ("one", "two", "three"):
        assert client.change(rack, edited(rack, 1, note=text), client=ANN).status_code == 200


def test_a_shot_that_somebody_removed_is_not_written_back_silently(client, rack):
    gone = {**edited(rack, 1), "document": None}
    assert client.change(rack, gone, client=ANN).status_code == 200
    answer = client.change(rack, edited(rack, 1, note="still here?"), client=BEN)
    assert answer.status_code == 409
    assert list(answer.json["theirs"].values()) == [None]


def reverse(client, game, direction):
    body = {"id": str(uuid.uuid4()), "client": ANN, "seen": game["last_change"]}
    return client.post(f"/games/{game['id']}/{direction}", body)


def documents(game):
    return [[shot["document"] for shot in rack["shots"]] for rack in game["racks"]]


def test_undo_and_redo_return_exactly(client, rack):
    states = [documents(rack)]
    game = rack
    for text in ("one", "two", "three"):
        game = client.change(game, edited(game, 1, note=text)).json
        states.append(documents(game))
    for expected in reversed(states[:-1]):
        game = reverse(client, game, "undo").json
        assert documents(game) == expected
    for expected in states[1:]:
        game = reverse(client, game, "redo").json
        assert documents(game) == expected
    assert reverse(client, game, "redo").status_code == 422


def test_an_edit_ends_what_can_be_redone(client, rack):
    game = client.change(rack, edited(rack, 1, note="one")).json
    game = reverse(client, game, "undo").json
    game = client.change(game, edited(game, 1, note="other")).json
    assert "nothing to redo" in reverse(client, game, "redo").json["message"]


def test_undo_takes_back_what_flowed_on_too(client, rack):
    balls = {"cue": [0.5, 0.5], "2": [1, 1], "9": [2, 0.5]}
    game = client.change(rack, edited(rack, 1, layout_after={"balls": balls})).json
    third = shot_change(
        game["racks"][0], 2, player="B", kind="pot", layout_after={"balls": {**balls, "cue": [0.9, 0.9]}}
    )
    game = client.change(game, third).json
    moved = {**balls, "9": [2.01, 0.5]}
    game = client.change(game, edited(game, 1, layout_after={"balls": moved})).json
    assert game["racks"][0]["shots"][2]["document"]["layout_after"]["balls"]["9"] == [2.01, 0.5]
    game = reverse(client, game, "undo").json
    assert game["racks"][0]["shots"][2]["document"]["layout_after"]["balls"]["9"] == [2, 0.5]


def test_what_does_not_exist_cannot_be_written(client, rack):
    lost = {**edited(rack, 1), "parent": str(uuid.uuid4())}
    assert "rack of this shot" in client.change(rack, lost).json["message"]
    bad = client.change(rack, edited(rack, 1, called={"ball": "11", "pocket": "foot-left"}))
    assert (bad.status_code, "no ball '11'" in bad.json["message"]) == (422, True)
    assert client.change(rack, edited(rack, 1, kind="trick")).status_code == 422
    assert client.change({**rack, "id": str(uuid.uuid4())}, edited(rack, 1)).status_code == 404


def test_an_acknowledged_shot_survives_a_killed_database(app, server, rack):
    client = Client(app)
    game = client.change(rack, edited(rack, 1, note="acknowledged")).json
    os.kill(server._pid(), signal.SIGKILL)
    deadline = time.monotonic() + 20
    while server._pid() and time.monotonic() < deadline:
        time.sleep(0.05)
    again = client.get(f"/games/{game['id']}").json
    assert again["racks"][0]["shots"][1]["document"]["note"] == "acknowledged"
    assert client.get("/health").json["ok"]


def test_the_answer_to_a_change_is_what_is_stored(client, rack):
    """The answer is made from the facts in hand; opening the match again reads them from the store."""
    changed = client.change(rack, edited(rack, 1, note="once", scratch=True)).json
    assert changed == client.get(f"/games/{rack['id']}").json
    shot = changed["racks"][0]["shots"][1]
    gone = {**shot_change(changed["racks"][0], shot["seat"], shot["id"]), "document": None}
    assert client.change(changed, gone).json == client.get(f"/games/{rack['id']}").json


def figures_of(app, game):
    from aretane.store.club import coach
    from aretane.store.shot_figures import Filter, chosen

    with app.extensions["aretane"].house.database.transaction() as db:
        return chosen(db, coach(db), Filter(session="lesson", game_id=game["id"]))


def test_a_change_rewrites_the_figures_of_its_rack_and_of_those_after_it(client, app, rack):
    second = rack_change(rack, seat=1)
    more = client.change(
        rack, second, shot_change(second, 0, player="B", kind="break", potted=[{"ball": "9"}])
    ).json
    assert len(figures_of(app, rack)) == 3
    client.change(more, edited(more, 1, potted=[], first_contact=None))
    assert [row.figures.result for row in figures_of(app, rack)] == ["played", "foul", "made"]
