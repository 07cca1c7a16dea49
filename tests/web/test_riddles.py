"""A shot as a question: nothing of what comes is told before it is to be shown."""

from __future__ import annotations

import uuid

import pytest

from aretane.demo.load import game_of

GAME = game_of("nine-ball")


@pytest.fixture
def asked(client):
    """The second shot of the filmed rack."""
    shot = client.get(f"/games/{GAME}").json["racks"][4]["shots"][4]
    made = client.post("/riddles", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot["id"]}).json
    yield made, shot
    client.send("DELETE", f"/riddles/{made['id']}")


def guess(name, **more):
    return {"name": name, "intent": "attack", "ball": "5", "pocket": "side-right", **more}


def test_what_comes_is_hidden_until_it_is_shown(client, judged, asked):
    made, shot = asked
    assert made["balls"] == shot["before"]["balls"]
    assert made["film"]["still"] == shot["document"]["time"]["start"]
    assert (made["n"], made["shown"]) == (0, None)
    path = f"/riddles/{made['id']}"
    answers = [
        guess("Odile", felt=80, place=[1.0, 0.5]), guess("Piers", felt=60),
        guess("Bruno", intent="safety", pocket=None),
    ]  # fmt: skip
    for one in answers:
        told = client.post(f"{path}/answers", one).json
    assert (told["n"], told["shown"]) == (3, None)
    assert client.post(f"{path}/answers", guess("Piers", felt=70)).json["n"] == 3, "he changed his answer"
    shown = client.get(f"{path}?shown=true").json["shown"]
    assert shown["counted"] == [
        {"words": "attack: 5 ball side right", "n": 2}, {"words": "safety: 5 ball", "n": 1}
    ]  # fmt: skip
    assert shown["felt"] == pytest.approx(75)
    assert shown["played"] == "attack: 5 ball side right"
    assert shown["stopped"] == shot["after"]["balls"]["cue"]
    assert shown["computed"]["worth"] > shown["computed"]["played_worth"]
    assert shown["answers"][0]["place"] == [1.0, 0.5]


@pytest.mark.parametrize(
    ("wrong", "words"), [({"name": "  "}, "who answers"), ({"ball": "15"}, "not on the table"), ({"felt": 200}, ""),
                         ({"intent": "hope"}, ""), ({"pocket": "left"}, "")],
)  # fmt: skip
def test_an_answer_that_cannot_be_is_refused(client, asked, wrong, words):
    answer = client.post(f"/riddles/{asked[0]['id']}/answers", {**guess("Odile"), **wrong})
    assert answer.status_code == 422
    assert words in answer.json["message"]
    assert client.get(f"/riddles/{asked[0]['id']}").json["n"] == 0
