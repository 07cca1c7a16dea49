"""No fact gets into the record that nobody stated: each of these was taken before without a word."""

from __future__ import annotations

import json
import uuid

import pytest

from tests.conftest import rack_change, shot_change


def shots_of(game):
    return game["racks"][-1]["shots"]


@pytest.fixture
def game(client):
    made = client.new_match()
    rack = {"kind": "rack", "id": str(uuid.uuid4()), "parent": made["id"], "seat": 0, "document": {"breaker": "A"}}
    opened = client.change(made, rack).json
    yield opened
    client.send("DELETE", f"/games/{made['id']}")


def test_where_nobody_saw_the_cue_ball_stop_it_is_no_scratch_and_stands_nowhere(client, game):
    """A result without a place: before, the layout without a cue ball was booked as a scratch."""
    balls = {"cue": [0.6, 0.6], "1": [2.0, 0.9], "9": [1.0, 0.3]}
    shot = shot_change(
        game["racks"][0], 0, player="A", kind="pot", called={"ball": "1", "pocket": "foot-left"}, first_contact="1",
        potted=[{"ball": "1"}], result="made", layout_before={"balls": balls}, overrule={"note": "mid-rack"},
    )  # fmt: skip
    told = shots_of(client.change(game, shot).json)[0]
    assert told["ruling"]["foul"] is None
    assert told["after"]["balls"] == {"9": [1.0, 0.3]}
    missed = shot_change(
        game["racks"][0], 0, shot["id"], **{**shot["document"], "potted": [], "result": "missed-thin"}
    )
    told = shots_of(client.change(game, missed, seen=2**60).json)[0]
    assert (told["ruling"]["foul"], told["after"]["balls"]) == (None, {"9": [1.0, 0.3]})


def test_times_out_of_their_order_are_refused_in_words(client, game):
    wrong = shot_change(game["racks"][0], 0, player="A", kind="break", time={"start": 3, "contact": 5, "still": 4})
    answer = client.change(game, wrong)
    assert answer.status_code == 422
    assert answer.json["message"] == "4 s is before the contact at 5 s"


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"players": {"A": {"name": "  "}, "B": {"name": "Ben"}}}, "players.A.name"),
        ({"players": {"A": {"name": "Ann"}, "B": {"name": "ann"}}}, "players.B.name"),
        ({"race_to": 5, "rules": {"handicap_b": 5}}, "rules.handicap_b"),
        ({"race_to": 100, "discipline": "straight-pool", "rules": {"handicap_a": 120}}, "rules.handicap_a"),
    ],
)
def test_names_and_handicaps_that_cannot_be(client, more, field):
    document = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", **more}
    answer = client.post("/games", {"id": str(uuid.uuid4()), "document": document})
    assert (answer.status_code, answer.json["field"]) == (422, field)


def test_one_player_on_both_sides_has_one_name(client):
    document = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "session": "both-sides",
        "players": {"A": {"name": "Ann"}, "B": {"name": "Ann"}},
    }  # fmt: skip
    answer = client.post("/games", {"id": str(uuid.uuid4()), "document": document})
    assert answer.status_code == 200
    client.send("DELETE", f"/games/{answer.json['id']}")


@pytest.mark.parametrize("felt", [{"pot": 1.5}, {"pot": -0.05}, {"run_out": 2}])
def test_nobody_feels_more_than_all_or_less_than_nothing(client, game, felt):
    answer = client.change(game, shot_change(game["racks"][0], 0, player="A", kind="break", felt=felt))
    assert (answer.status_code, answer.json["field"].rsplit(".", 2)[1:]) == (422, ["felt", next(iter(felt))])


def test_the_same_match_is_not_counted_twice_unasked(client, demo_match):
    own = {**demo_match, "id": f"ladder-{uuid.uuid4().hex[:6]}", "title": "Counted once"}
    raw, before = json.dumps(own), client.matches()
    first = client.send("POST", "/games/import", data=raw).json
    again = client.send("POST", "/games/import", data=raw)
    assert (again.status_code, again.json["games"]) == (409, [first["id"]])
    assert "“Counted once” is here already" in again.json["message"]
    assert len(client.matches()) == len(before) + 1, "asking writes nothing"
    replaced = client.send("POST", "/games/import?same=replace", data=raw).json
    assert set(client.matches()) == {*before, replaced["id"]}
    copy = client.send("POST", "/games/import?same=copy", data=raw).json
    assert copy["header"]["id"] == copy["id"], "a match of its own from now on"
    assert client.send("POST", "/games/import", data=raw).status_code == 409
    for one in (replaced, copy):
        client.send("DELETE", f"/games/{one['id']}")


def test_a_match_begun_here_is_known_when_its_file_comes_back(client):
    made = client.new_match(title="Out and in again")
    exported = client.get(f"/games/{made['id']}/export")
    assert exported.json["id"] == made["id"]
    assert client.send("POST", "/games/import", data=exported.data).status_code == 409
    client.send("DELETE", f"/games/{made['id']}")


def test_a_rack_that_two_begin_at_once_is_asked_about(client, game):
    """Two windows log the break at the same time: the second one hears of the first."""
    seen = client.get(f"/games/{game['id']}").json
    seat = 1 + max((rack["seat"] for rack in seen["racks"]), default=-1)
    assert client.change(seen, rack_change(seen, seat)).status_code == 200
    mine = rack_change(seen, seat)
    other = str(uuid.uuid4())
    clash = client.change(seen, mine, shot_change(mine, 0, player="A", kind="break"), client=other)
    assert clash.status_code == 409
    ((key, theirs),) = clash.json["theirs"].items()
    assert key == f"rack:{mine['id']}"
    assert theirs["fields"] == ["the same rack"]
    # whoever has looked may begin a further one
    assert client.change(client.get(f"/games/{game['id']}").json, mine, client=other).status_code == 200


def test_in_a_clash_only_what_both_touched_is_asked_and_written_over(client, game):
    """Two windows: one changes kind and note, the other the note and the causes."""
    rack = game["racks"][0]
    shot = shot_change(rack, 0, player="A", kind="break", note="as it was", causes=[])
    seen = client.change(game, shot).json
    theirs = {**shot["document"], "note": "theirs", "causes": ["speed"]}
    client.change(seen, shot_change(rack, 0, shot["id"], **theirs), client=str(uuid.UUID(int=8)))
    mine = shot_change(rack, 0, shot["id"], **{**shot["document"], "note": "mine", "also": ["break-out"]})
    clash = client.change(seen, mine)
    assert clash.status_code == 409
    (told,) = clash.json["theirs"].values()
    assert told["fields"] == ["note"]
    body = {
        "id": str(uuid.uuid4()), "client": str(uuid.UUID(int=1)), "seen": seen["last_change"], "label": "mine",
        "changes": [mine], "over": True,
    }  # fmt: skip
    over = shots_of(client.post(f"/games/{game['id']}/operations", body).json)[0]["document"]
    assert (over["note"], over["causes"], over["also"]) == ("mine", ["speed"], ["break-out"])


def test_undo_says_what_it_took_back(client, game):
    client.change(game, shot_change(game["racks"][0], 0, player="A", kind="break"))
    body = {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=1)), "seen": 2**60}
    assert client.post(f"/games/{game['id']}/undo", body).json["reversed"] == "test"


def test_a_solo_run_ends_at_its_miss_but_not_at_a_dry_break(client):
    made = client.new_match(session="solo", race_to=None, players={"A": {"name": "Ann"}})
    rack = {"kind": "rack", "id": str(uuid.uuid4()), "parent": made["id"], "seat": 0, "document": {}}
    opened = client.change(made, rack).json["racks"][0]
    dry = shot_change(opened, 0, player="A", kind="break", first_contact="1", object_balls_to_rail=5)
    told = client.change(made, dry, seen=2**60).json["racks"][0]
    assert not told["over"]
    pot = shot_change(opened, 1, player="A", kind="pot", first_contact="1", potted=[{"ball": "1"}])
    assert not client.change(made, pot, seen=2**60).json["racks"][0]["over"]
    miss = shot_change(opened, 2, player="A", kind="pot", first_contact="2")
    told = client.change(made, miss, seen=2**60).json["racks"][0]
    assert (told["over"], told["winner"]) == (True, None)
    assert told["shots"][2]["ruling"]["why"] == "the run ends"
    client.send("DELETE", f"/games/{made['id']}")


def test_what_a_shot_leaves_is_said_when_the_other_comes_to_the_table(client, game):
    before = {"cue": [0.6, 0.6], "1": [2.0, 0.9]}
    easy, hidden = {"cue": [2.2, 1.0], "1": [2.45, 1.17]}, {"cue": [0.1, 0.1], "1": [0.1, 0.7], "9": [0.1, 0.2]}
    for after, word in ((easy, "an easy pot"), (hidden, "nothing")):
        document = {
            "player": "A", "kind": "pot", "first_contact": "1", "overrule": {"note": "mid-rack", "next": "B"},
            "layout_before": {"balls": before}, "layout_after": {"balls": after},
        }  # fmt: skip
        told = client.change(game, shot_change(game["racks"][0], 0, str(uuid.UUID(int=77)), **document), seen=2**60)
        assert shots_of(told.json)[0]["leaves"] == word
