"""Finding matches and moments again, and what is measured of drawings."""

from __future__ import annotations

import math
import uuid

import pytest

from aretane.demo.load import game_of
from tests.conftest import Client, rack_change, shot_change


@pytest.fixture(scope="module")
def evenings(app):
    """Three matches of one person, on different days and in different games; the first is worked on last."""
    client, made = Client(app), []
    for title, day, game, session in (
        ("First evening", "2026-01-10", "nine-ball", "match"),
        ("Second evening", "2026-02-10", "eight-ball", "solo"),
        ("Third evening", "2026-03-10", "nine-ball", "lesson"),
    ):
        players = {"A": {"name": "Imke Solberg"}, **({} if session == "solo" else {"B": {"name": "Piet Arlow"}})}
        made.append(
            client.new_match(
                title=title, date=day, place="Upper room", discipline=game, session=session, players=players
            )
        )
    rack = rack_change(made[0])
    shot = shot_change(rack, 0, player="A", kind="break", note="Hit 100 % too low, as last week_")
    assert client.change(made[0], rack, shot).status_code == 200
    yield [game["id"] for game in made]
    for game in made:
        client.send("DELETE", f"/games/{game['id']}")


def found(client, query):
    answer = client.get(f"/games?{query}")
    assert answer.status_code == 200, answer.text
    return [one["title"].split()[0] for one in answer.json["games"]]


@pytest.mark.parametrize(
    ("query", "titles"),
    [
        ("player=Imke+Solberg", ["First", "Third", "Second"]),
        ("player=Imke", []),
        ("search=upper+room", ["First", "Third", "Second"]),
        ("player=Imke+Solberg&discipline=eight-ball", ["Second"]),
        ("player=Imke+Solberg&session=lesson", ["Third"]),
        ("player=Imke+Solberg&since=2026-02-01", ["Third", "Second"]),
        ("player=Imke+Solberg&since=2026-01-10&until=2026-01-10", ["First"]),
        ("player=Piet+Arlow&search=second", []),
    ],
)
def test_matches_are_found_and_those_worked_on_last_come_first(client, evenings, query, titles):
    assert found(client, query) == titles


@pytest.mark.parametrize("query", ["since=tomorrow", "until=2026-1-1", "begin=-1", "search=" + "x" * 201])
def test_what_is_no_day_is_refused_in_words(client, query):
    answer = client.get(f"/games?{query}")
    assert answer.status_code == 422
    assert answer.json["field"].endswith(query.partition("=")[0])


def test_a_moment_is_found_by_its_note_and_signs_mean_themselves(client, evenings):
    def moments(words):
        return client.get(f"/games/moments?search={words}").json["moments"]

    (one,) = moments("100 %25 too")
    assert (one["game"], one["title"]) == (evenings[0], "First evening")
    assert moments("week_")[0]["shot"] == one["shot"]
    assert moments("w%25k") == []
    assert moments("lastxweek") == []


def test_a_deleted_match_has_no_moments_until_it_is_back(client):
    game = client.new_match(title="Gone for a while")
    rack = rack_change(game)
    client.change(game, rack, shot_change(rack, 0, player="A", kind="break", note="quokka"))
    assert len(client.get("/games/moments?search=quokka").json["moments"]) == 1
    client.send("DELETE", f"/games/{game['id']}")
    assert client.get("/games/moments?search=quokka").json["moments"] == []


def test_matches_without_a_reading_have_nothing_that_waits(client, evenings):
    unknown = str(uuid.uuid4())
    answer = client.get(f"/games/unfinished?games={','.join([*evenings, unknown, 'nonsense'])}")
    assert answer.status_code == 200
    assert answer.json == {"games": {}}


@pytest.mark.parametrize("ids", ["%C3%A9", "a'b", "x" * 4001])
def test_what_is_no_list_of_ids_is_refused(client, ids):
    assert client.get(f"/games/unfinished?games={ids}").status_code == 422


BALLS = {"cue": [0.5, 0.5], "1": [1.5, 0.9], "2": [1.0, 0.66]}


def measured(client, *drawings, **more):
    return client.post("/measure", {"discipline": "nine-ball", "balls": BALLS, "drawings": list(drawings), **more})


def test_drawings_are_measured(client):
    line = {"kind": "line", "points": [BALLS["cue"], BALLS["1"]]}
    circle = {"kind": "circle", "points": [[1.0, 0.5], [1.0, 0.7]]}
    area = {"kind": "area", "points": [[0.2, 0.2], [0.6, 0.2], [0.6, 0.6]]}
    told = measured(client, line, circle, area, sigma=dict.fromkeys(BALLS, 0.003)).json["drawings"]
    assert told[0]["length"] == pytest.approx(math.dist(*line["points"]))
    assert told[0]["angle_deg"] == pytest.approx(math.degrees(math.atan2(0.4, 1.0)))
    assert told[0]["mover"] == "cue"
    assert told[0]["gaps"][0]["what"] == "2"
    assert told[0]["gaps"][0]["verdict"] == "touches"
    assert told[1]["area"] == pytest.approx(math.pi * 0.04)
    assert told[2]["area"] == pytest.approx(0.08)
    assert told[2]["length"] is None


@pytest.mark.parametrize(
    "drawing", [{"kind": "line", "points": [[0, 0]]}, {"kind": "line", "points": [[0, 0], [1]]}, {"points": []}]
)
def test_what_is_no_drawing_is_refused(client, drawing):
    assert measured(client, drawing).status_code == 422


def test_the_days_conditions_reach_the_choices(client, app, monkeypatch):
    """What a job is asked for: the tight pockets and the left hand of the match, without jump cue."""
    conditions = {"pockets": "tight", "A": {"hand": "left", "jump_cue": False}, "rest": False}
    game = client.new_match(conditions=conditions)
    rack = rack_change(game)
    shot = shot_change(
        rack, 0, player="A", kind="break", first_contact="1", rails_after_contact=6,
        potted=[{"ball": "2", "pocket": "foot-left"}],
    )  # fmt: skip
    assert client.change(game, rack, shot).status_code == 200
    wanted = []
    monkeypatch.setattr(
        "aretane.desk.choices.wanted_as_data", lambda one: wanted.append(one) or {"kind": "choices"}
    )
    monkeypatch.setattr(app.extensions["aretane"].house.jobs, "wake", lambda: None)
    body = {"shot": None, "balls": {"cue": [0.5, 0.5], "1": [1.5, 0.9], "3": [1.0, 0.3]}, "seat": "A"}
    answer = client.post(f"/games/{game['id']}/choices", body)
    assert answer.status_code == 200, answer.text
    (one,) = wanted
    assert one.layout.table.corner_mouth < 0.109
    assert one.handed == "left"
    assert one.barred == ("rest", "jump")
    client.send("DELETE", f"/choices/{answer.json['hash']}")


def test_conditions_of_another_form_are_refused(client):
    document = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": {"A": {"name": "Ann"}},
        "session": "solo",
    }  # fmt: skip
    for wrong in ({"pockets": "huge"}, {"hours_before": -1}, {"A": {"hand": "third"}}, 7):
        answer = client.post("/games", {"id": str(uuid.uuid4()), "document": {**document, "conditions": wrong}})
        assert answer.status_code == 422, wrong
        assert "conditions" in answer.json["field"]


def test_the_demos_matches_stand_in_the_list_with_their_day(client):
    answer = client.get("/games?search=Winter+ladder").json
    assert [(one["id"], one["day"]) for one in answer["games"]] == [(game_of("nine-ball"), "2026-01-17")]
