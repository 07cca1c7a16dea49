"""Tables kept: found by words, tag and likeness, given up."""

from __future__ import annotations

import uuid

import pytest

BALLS = {"cue": [0.6, 0.3], "5": [1.2, 0.9], "9": [2.0, 0.4]}
LENGTH = 2.54


def kept(client, name, balls=BALLS, **more):
    body = {"id": str(uuid.uuid4()), "name": name, "discipline": "nine-ball", "balls": balls, **more}
    answer = client.post("/kept-tables", body)
    assert answer.status_code == 200, answer.text
    return body


@pytest.fixture
def three(client):
    mirrored = {ball: [LENGTH - x, y] for ball, (x, y) in BALLS.items()}
    made = [
        kept(client, "Stop and roll", tags=["Key Ball", "stun"], note="hangs near the side"),
        kept(client, "The same from the other end", mirrored, tags=["stun"]),
        kept(client, "Far apart", {"cue": [2.3, 1.1], "9": [0.2, 0.2]}),
    ]
    yield made
    for one in made:
        assert client.send("DELETE", f"/kept-tables/{one['id']}").status_code in (204, 404)


def search(client, **asked):
    return [one["name"] for one in client.post("/kept-tables/search", asked).json["tables"]]


def test_found_by_words_and_tags(client, three):
    assert search(client, words="stun") == ["The same from the other end", "Stop and roll"]
    assert search(client, words="KEY-BALL") == ["Stop and roll"]
    assert search(client, words="side stun") == ["Stop and roll"]
    assert search(client, words="nothing of the kind") == []


def test_found_by_likeness_with_the_mirrored_one_as_alike(client, three):
    like = {"discipline": "nine-ball", "balls": BALLS}
    told = client.post("/kept-tables/search", {"like": like}).json["tables"]
    assert {one["name"] for one in told[:2]} == {"Stop and roll", "The same from the other end"}
    assert told[0]["unlike"] == pytest.approx(0.0, abs=1e-9)
    assert told[-1]["name"] == "Far apart"
    assert told[-1]["unlike"] > 0.2


def test_kept_once_however_often_it_is_sent_and_gone_when_given_up(client, three):
    client.post("/kept-tables", three[0])
    assert search(client).count("Stop and roll") == 1
    client.send("DELETE", f"/kept-tables/{three[0]['id']}")
    assert "Stop and roll" not in search(client)


def test_what_is_no_table_is_said(client):
    body = {"id": str(uuid.uuid4()), "name": " ", "discipline": "nine-ball", "balls": BALLS}
    assert "needs a name" in client.post("/kept-tables", body).json["message"]
    off = {**body, "name": "off the table", "balls": {"cue": [9.0, 9.0]}}
    assert client.post("/kept-tables", off).status_code == 422
    unknown = {**body, "name": "another game", "discipline": "darts"}
    assert client.post("/kept-tables", unknown).status_code == 422
