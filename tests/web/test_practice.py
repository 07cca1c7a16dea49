"""From a shot to an exercise, attempts at it, and what they come to; what to practise, and the plan."""

from __future__ import annotations

import uuid
from datetime import datetime

import pytest
import vobject

from aretane.demo.load import game_of

GAME = game_of("nine-ball")
AT = "2026-11-{:02d}T18:30:00+00:00"


@pytest.fixture
def shot(client):
    shots = client.get(f"/games/{GAME}").json["racks"][0]["shots"]
    return next(one["id"] for one in shots if (one["document"].get("called") or {}).get("ball"))


@pytest.fixture
def exercise(client, shot):
    made = client.post("/exercises", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot, "hand": "club"}).json
    yield made
    client.send("DELETE", f"/exercises/{made['id']}")


def attempt(result, day=1, player="Ilse Marwood", **more):
    return {"id": str(uuid.uuid4()), "player": player, "result": result, "at": AT.format(day), **more}


def test_a_shot_offers_its_levels_and_is_made_once(client, shot, exercise):
    offered = client.get(f"/games/{GAME}/shots/{shot}/levels?hand=club").json["levels"]
    assert offered[0]["name"] == "as it was"
    assert exercise["chance"] == offered[0]["chance"]
    again = {"id": exercise["id"], "game": GAME, "shot": shot, "hand": "club"}
    assert client.post("/exercises", again).json == exercise
    assert [one["id"] for one in client.get("/exercises").json["exercises"]].count(exercise["id"]) == 1
    assert exercise["card"][-1].lower().startswith("cue ball")


def test_attempts_count_once_however_often_they_are_sent_and_can_be_taken_back(client, exercise):
    path = f"/exercises/{exercise['id']}/attempts"
    sent = [attempt("made", zone=True), attempt("thick", zone=False), attempt("made", day=3)]
    client.post(path, {"attempts": sent})
    told = client.post(path, {"attempts": sent}).json
    (player,) = told["players"]
    assert (player["rate"]["n"], player["rate"]["p"], player["thick"]) == (3, pytest.approx(2 / 3), 1)
    assert (player["zone"]["n"], player["zone"]["p"]) == (2, 0.5)
    assert [day["n"] for day in player["days"]] == [2, 1]
    assert "17 more tries" in player["advice"]
    told = client.send("DELETE", f"{path}/{sent[1]['id']}").json
    assert told["players"][0]["rate"]["p"] == 1.0


@pytest.mark.parametrize(
    ("made", "missed", "words"),
    [(30, 0, "harder"), (5, 25, "easier"), (14, 6, ""), (3, 0, "before the numbers tell")],
)
def test_what_the_numbers_advise(client, exercise, made, missed, words):
    sent = [attempt("made") for _ in range(made)] + [attempt("missed") for _ in range(missed)]
    told = client.post(f"/exercises/{exercise['id']}/attempts", {"attempts": sent}).json
    assert words in told["players"][0]["advice"]


def test_its_card_is_printed(client, exercise):
    page = client.get(f"/exercises/{exercise['id']}/card/html")
    assert exercise["title"] in page.text
    assert "physician" in page.text
    assert client.get(f"/exercises/{exercise['id']}/card/pdf").data.startswith(b"%PDF")


def test_what_makes_no_exercise_is_said(client):
    opening = client.get(f"/games/{GAME}").json["racks"][0]["shots"][0]["id"]
    refused = client.post("/exercises", {"id": str(uuid.uuid4()), "game": GAME, "shot": opening})
    assert refused.status_code in (409, 422)
    assert "meant" in refused.json["message"]
    assert client.get(f"/exercises/{uuid.uuid4()}").status_code == 404
    wrong = client.post(f"/exercises/{uuid.uuid4()}/attempts", {"attempts": [attempt("sat down")]})
    assert wrong.status_code == 422


@pytest.fixture
def layout(client, shot):
    made = client.post("/exercises/layouts", {"id": str(uuid.uuid4()), "game": GAME, "shot": shot}).json
    yield made
    client.send("DELETE", f"/exercises/{made['id']}")


def test_a_whole_table_is_run_out_and_each_run_says_where_and_why_it_ended(client, layout):
    assert (layout["task"], layout["ball"]) == ("layout", None)
    assert layout["title"] == f"{len(layout['balls']) - 1} balls, run out"
    runs = [
        attempt("missed", 1, balls=3, why="missed"), attempt("missed", 1, balls=5, why="no position"),
        attempt("made", 2, balls=8), attempt("missed", 2, "Tomas Verrall", balls=0, why="missed"),
    ]  # fmt: skip
    told = client.post(f"/exercises/{layout['id']}/attempts", {"attempts": runs}).json["players"]
    ilse = next(one for one in told if one["name"] == "Ilse Marwood")["runs"]
    assert ilse["mean"]["mean"] == pytest.approx(16 / 3)
    assert (ilse["best"], sorted(ilse["last"]), ilse["last"][-1]) == (8, [3, 5, 8], 8)
    assert ilse["why"] == {"missed": 1, "no position": 1, "cleared": 1}
    assert [(one["n"], one["mean"]) for one in ilse["days"]] == [(2, 4.0), (1, 8.0)]
    assert {one["name"] for one in told} == {"Ilse Marwood", "Tomas Verrall"}
    assert client.get(f"/exercises/{layout['id']}/card/html").status_code == 200


def test_open_runs_have_no_table(client):
    made = client.post("/exercises/runs", {"id": str(uuid.uuid4()), "title": "straight pool alone"}).json
    path = f"/exercises/{made['id']}"
    assert (made["picture"], made["card"], made["balls"]) == ("", [], {})
    told = client.post(f"{path}/attempts", {"attempts": [attempt("missed", 3, balls=27, why="cue ball lost")]}).json
    assert told["players"][0]["runs"]["best"] == 27
    assert client.get(f"{path}/card/pdf").status_code in (409, 422)
    assert client.post("/exercises/runs", {"id": str(uuid.uuid4()), "title": "  "}).status_code == 422
    client.send("DELETE", path)


def test_practice_is_held_against_like_shots_in_matches(client, exercise):
    """The demo's matches lie before the tries: nothing has been played since."""
    told = client.post(f"/exercises/{exercise['id']}/attempts", {"attempts": [attempt("made")]}).json
    matches = told["players"][0]["matches"]
    assert matches["before"]["n"] > 0
    assert (matches["since"]["n"], matches["difference"]) == (0, None)


def test_what_to_practise_comes_from_the_ledger_with_its_uncertainty(client):
    ilse = next(one["id"] for one in client.get("/players").json["players"] if one["name"] == "Ilse Marwood")
    told = client.get(f"/to-practise?player={ilse}").json
    assert told["racks"] > 5
    assert told["gains"] == sorted(told["gains"], key=lambda one: -one["gain"])
    for one in told["gains"]:
        assert one["low"] < one["gain"] < one["high"]
        assert one["often"] == pytest.approx(one["n"] / told["racks"])
        assert all(shot["cost"] < 0 for shot in one["shots"])
        assert one["gain"] < 0.3, "no family is worth a third of a rack to a league player (common practice)"
    first = told["gains"][0]["shots"][0]
    assert client.get(f"/games/{first['game']}/shots/{first['shot']}/levels").status_code == 200
    assert client.get("/to-practise?player=999999").json == {"racks": 0, "gains": []}


def session(**more):
    return {
        "id": str(uuid.uuid4()), "player": "Ilse Marwood", "begins": "2026-12-01T18:30:00", "minutes": 90,
        "goal": "eight of ten, thin cuts", "note": "rest after each set; stop when the wrist hurts", **more,
    }  # fmt: skip


def test_a_plan_by_week_goes_into_any_calendar(client, exercise):
    """Read back by vobject, an independent reader of iCalendar."""
    first, other = (
        session(exercises=[exercise["id"]]),
        session(begins="2026-12-09T07:00:00", player="Tomas Verrall"),
    )
    for one in (other, first, {**first, "minutes": 60}):
        told = client.send("PUT", "/plan", one).json
    assert [(one["player"], one["week"], one["minutes"]) for one in told["sessions"]] == [
        ("Ilse Marwood", "2026-11-30", 60), ("Tomas Verrall", "2026-12-07", 90),
    ]  # fmt: skip
    answer = client.get("/plan/calendar")
    assert answer.mimetype == "text/calendar"
    events = vobject.readOne(answer.text).vevent_list
    assert [event.dtstart.value for event in events] == [datetime(2026, 12, 1, 18, 30), datetime(2026, 12, 9, 7)]
    assert events[0].dtend.value == datetime(2026, 12, 1, 19, 30)
    assert events[0].summary.value == "Practice: Ilse Marwood"
    assert exercise["title"] in events[0].description.value
    assert "physician" in events[0].description.value
    assert len(vobject.readOne(client.get("/plan/calendar?player=Tomas+Verrall").text).vevent_list) == 1
    for one in (first, other):
        told = client.send("DELETE", f"/plan/{one['id']}").json
    assert told["sessions"] == []


@pytest.mark.parametrize(
    "wrong", [{"minutes": 0}, {"begins": "tomorrow"}, {"begins": "1700-01-01T10:00:00"}, {"player": ""},
              {"exercises": [str(uuid.uuid4())]}, {"note": "x" * 3000}],
)  # fmt: skip
def test_a_session_that_cannot_be_is_refused(client, wrong):
    answer = client.send("PUT", "/plan", session(**wrong))
    assert answer.status_code == 422
    assert client.get("/plan").json["sessions"] == []
