"""Choices over the interface: worked out in the background, kept, stopped, refused; hands and what was felt."""

from __future__ import annotations

import time

import pytest

from aretane.demo.load import game_of
from aretane.web.choices.schemas import ChoicesAnswer
from tests.core.rules.sheets import brk
from tests.web.test_games_of_every_kind import begun, logged

BODY = {
    "discipline": "nine-ball",
    "balls": {"cue": [1.5, 0.55], "8": [1.9, 0.9], "9": [0.6, 0.9]},
    "player": "professional",
    "opponent": "club",
}


def worked_out(client, body, seconds=90):
    end = time.monotonic() + seconds
    seen = []
    while time.monotonic() < end:
        answer = client.post("/choices", body)
        assert answer.status_code == 200, answer.text
        ChoicesAnswer.model_validate(answer.json)
        seen.append(answer.json["progress"])
        if answer.json["state"] != "running":
            return answer.json, seen
        time.sleep(0.2)
    raise AssertionError("not worked out in time")


@pytest.fixture(scope="module")
def answer(app):
    from tests.conftest import Client

    return worked_out(Client(app), BODY)


def test_maps_options_and_plan_arrive(answer):
    found, seen = answer
    assert found["state"] == "done"
    assert seen == sorted(seen)
    body = found["body"]
    assert [one["ball"] for one in body["maps"]] == ["9", "8"]
    for chart in body["maps"]:
        assert len(chart["run"]) == chart["columns"] * chart["rows"]
    assert body["level"] == "coarse"
    assert body["options"]["complete"]
    assert [entry["ball"] for entry in body["plan"]["order"]] == ["8", "9"]
    assert {school["name"] for school in body["schools"]} == {"by the numbers", "attack", "control"}
    assert found["hands"][0]["aim_deg"] == pytest.approx(0.04)


def test_what_was_worked_out_is_kept(client, answer):
    started = time.monotonic()
    again = client.post("/choices", BODY).json
    assert again == answer[0]
    assert time.monotonic() - started < 2


def test_a_stroke_of_ones_own_is_valued_among_them(client, answer):
    best = answer[0]["body"]["options"]["options"][0]
    stroke = {name: best["stroke"][name] for name in ("aim", "speed", "side", "height")}
    drawn = {"stroke": stroke, "ball": best["ball"], "pocket": best["pocket"]}
    found, _ = worked_out(client, {**BODY, "drawn": [drawn], "answering": True, "race": [2, 1]})
    assert 0 <= found["body"]["answer"]["hand_back"] <= 1
    assert 0 <= found["body"]["curves"]["match"]["attack"] <= 1
    drawn = [one for one in found["body"]["options"]["options"] if "added" in one["also"]]
    assert len(drawn) == 1
    assert drawn[0]["win"]["p"] == pytest.approx(best["win"]["p"], abs=0.05)


def test_work_is_stopped_and_taken_up_again(client, database):
    body = {**BODY, "balls": {**BODY["balls"], "7": [2.0, 0.4], "6": [0.9, 0.3]}, "settle": True}
    first = client.post("/choices", body).json
    assert client.send("DELETE", f"/choices/{first['hash']}").status_code == 204
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SELECT state FROM job WHERE subject = %s", (first["hash"],))
        assert cursor.fetchone()["state"] == "stopped"
    assert client.post("/choices", body).json["state"] == "running"
    client.send("DELETE", f"/choices/{first['hash']}")


@pytest.mark.parametrize("kind", ["who", "against"])
def test_who_could_run_it_and_against_whom(client, kind):
    found, _ = worked_out(client, {**BODY, "kind": kind})
    if kind == "who":
        rates = found["body"]["who"]
        assert rates["professional"]["p"] > rates["beginner"]["p"]
        assert all(rate["n"] > 0 for rate in rates.values())
    else:
        assert [one["opponent"] for one in found["body"]["against"]] == [
            "beginner",
            "club",
            "league",
            "professional",
        ]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"balls": {"cue": [9, 9], "9": [1, 1]}}, "balls.cue"),
        ({"balls": {"cue": [1, 0.5]}}, "balls"),
        ({"player": "nobody"}, "player"),
        ({"player": {"aim_deg": 0.2}}, "player.speed"),
        ({"discipline": "bowls"}, "discipline"),
        ({"rules": {"call": "perhaps"}}, "rules.call"),
        ({"drawn": [{"stroke": {"speed": 2, "aim": 0, "side": 9}}]}, "side"),
    ],
)
def test_nonsense_is_refused_by_name(client, change, field):
    answer = client.post("/choices", {**BODY, **change})
    if answer.status_code == 200:  # what only the simulator sees is said by the work itself
        answer, _ = worked_out(client, {**BODY, **change})
        assert answer["state"] == "failed"
        assert field in answer["said"]
    else:
        assert answer.status_code == 422
        assert field in answer.json["field"]


def test_a_hand_from_the_record_says_what_it_knows(client):
    players = {one["name"]: one["id"] for one in client.get("/players").json["players"]}
    found = client.get(f"/hand?player={players['Ilse Marwood']}").json
    assert found["aim_deg"]["low"] < found["aim_deg"]["value"] < found["aim_deg"]["high"]
    assert found["aim_deg"]["speaks"]
    assert not found["side"]["speaks"]
    assert found["needs"]
    for family in found["families"]:
        assert 0 <= family["shrunk"]["low"] <= family["shrunk"]["p"] <= family["shrunk"]["high"] <= 1


def test_the_record_of_somebody_unknown_is_the_prior(client):
    answer = client.post("/choices", {**BODY, "player": {"record": "Nobody Atall"}}).json
    assert answer["hands"][0]["aim_deg"] == pytest.approx(0.16, abs=0.01)
    client.send("DELETE", f"/choices/{answer['hash']}")


def test_what_was_felt_is_listed_with_its_shot(client):
    listed = client.get("/felt").json["shots"]
    assert any(one["game"] == game_of("nine-ball") and one["felt"]["pot"] == 0.45 for one in listed)


def test_every_shot_but_a_break_has_a_state_to_ask_with(client):
    game = client.get(f"/games/{game_of('nine-ball')}").json
    shots = game["racks"][0]["shots"]
    assert shots[0]["state"] is None
    assert shots[1]["state"]["player"] in ("A", "B")
    assert shots[1]["state"]["push_out_allowed"] is True


PAIRS = {"A": {"name": "Ann", "partner": "Abe"}, "B": {"name": "Ben", "partner": "Bea"}}


@pytest.mark.parametrize(("session", "players", "told", "alone"), [
    ("partners", PAIRS, ("Abe", "Ann"), False),
    ("partners", {"A": PAIRS["A"]}, ("Abe", "Ann"), True),
    ("solo", {"A": {"name": "Ann"}}, ("Ann",), True),
    ("both-sides", {"A": {"name": "Ann"}}, ("Ann",), False),
    ("match", PAIRS, ("Ann",), False),
])  # fmt: skip
def test_an_entry_is_asked_for_with_the_hands_of_whoever_plays(client, monkeypatch, session, players, told, alone):
    """After a break of the first partner the second is to play; nobody plays against somebody alone."""
    from aretane.desk import choices as desk

    asked = []

    def take(house, scope, question, page, *, again=False):
        asked.append(question)
        return {"body": {}, "state": "done", "progress": 1.0, "said": "", "place": None, "hash": "", "hands": []}

    monkeypatch.setattr(desk, "choices", take)
    game = logged(client, begun(client, "nine-ball", session=session, players=players), brk("A", "4"))
    body = {"shot": None, "seat": "A", "balls": {"cue": [1.0, 0.5], "1": [1.5, 0.6], "9": [2.0, 0.4]}}
    client.post(f"/games/{game['id']}/choices", body)
    assert tuple(asked[0].player.values()) == told
    assert asked[0].alone == alone
    if session == "both-sides":
        assert asked[0].opponent == {"record": "Ann"}, "he plays both sides"


def test_a_pair_of_hands_arrives_as_two(client):
    found = client.post("/choices", {**BODY, "player": "professional+club"}).json
    assert [found["hands"][0]["aim_deg"], found["hands"][0]["partner"]["aim_deg"]] == pytest.approx([0.04, 0.16])
    client.send("DELETE", f"/choices/{found['hash']}")
