"""What the database answers is what the shots say one by one; hand-counted answers on the demo's season."""

from __future__ import annotations

import pytest

from aretane.core.statistics.measures import BY, MEASURES
from aretane.core.statistics.question import Asked, answer
from aretane.core.statistics.rates import mean_interval, wilson
from aretane.demo.load import game_of
from aretane.store import games, questions, shot_figures
from aretane.store.club import first_scope, players
from aretane.store.shot_figures import Filter
from tests.lost_rack import lost_rack

GAME = game_of("nine-ball")


@pytest.fixture(scope="module")
def shots(app, database):
    with database.transaction() as db:
        return [one.figures for one in shot_figures.chosen(db, first_scope(db), Filter(game_id=GAME))]


def asked(database, measure, by="nothing", **more):
    where = more.pop("where", {"game_id": GAME})
    with database.transaction() as db:
        question = Asked(measure, by, where=where, **more)
        return answer(MEASURES[measure], by, questions.rows(db, first_scope(db), question), question.series)


VALUES = {
    "pots": lambda one: one.made if one.tried else None,
    "zone": lambda one: one.error.distance == 0 if one.error else None,
    "off": lambda one: one.error.distance if one.error else None,
    "along": lambda one: one.error.along if one.error and not one.error.assumed else None,
    "across": lambda one: one.error.across if one.error and not one.error.assumed else None,
    "safeties": lambda one: one.around.held,
    "hidden": lambda one: one.around.hidden,
    "chances": lambda one: one.around.converted,
    "fouls": lambda one: one.foul is not None,
    "time": lambda one: one.around.seconds,
    "thick": lambda one: {"missed-thick": True, "missed-thin": False}.get(one.result),
    "recovered": lambda one: one.made if one.tried and one.around.missed_by else None,
    "drew": lambda one: one.around.drew,
    "away": lambda one: one.around.away,
    "exchanges": lambda one: one.around.exchange,
    "escapes": lambda one: one.around.hit,
    "cleared": lambda one: one.around.cleared,
    "scored": lambda one: one.around.scored,
    "broke": lambda one: one.opening.won if one.opening else None,
    "dry": lambda one: one.opening.balls == 0 if one.opening else None,
    "lost": lambda one: one.result == "scratch",
    "travel": lambda one: one.travel,
}
REACHED = {"missed-thick": "missed thick", "missed-thin": "missed thin", "missed-jaw": "in the jaws"}
KEYS = {
    "nothing": lambda one: "", "tip": lambda one: one.around.tip, "pace": lambda one: one.around.pace,
    "rails": lambda one: one.around.rails, "standing": lambda one: one.around.standing,
    "phase": lambda one: one.around.phase, "cueing": lambda one: one.around.cueing,
    "lay": lambda one: one.around.lay,
    "likely": lambda one: None if one.around.likely is None else min(9, one.around.likely // 10),
    "off_band": lambda one: None if one.error is None else next(
        at for at, most in enumerate((0.0, 0.1, 0.2, 0.4, 99.0)) if one.error.distance <= most),
    "mouth": lambda one: REACHED.get(one.result, one.around.entered),
    "pocket": lambda one: one.pocket, "kind": lambda one: one.kind,
    "waited": lambda one: None if one.around.waited is None else int(one.around.waited),
    "cut": lambda one: None if one.cut_angle is None else min(5, int(one.cut_angle * 180 / 3.141592653589793 / 15)),
}  # fmt: skip


@pytest.mark.parametrize("measure", VALUES)
@pytest.mark.parametrize("by", KEYS)
def test_the_store_answers_what_the_shots_say(database, shots, measure, by):
    told = [(KEYS[by](one), VALUES[measure](one)) for one in shots]
    found = asked(database, measure, by)
    assert {group.key for group in found.groups} == {str(k) for k, v in told if v is not None and k is not None}
    for group in found.groups:
        values = [value for key, value in told if value is not None and str(key) == group.key]
        true = wilson(sum(values), len(values)) if MEASURES[measure].kind == "rate" else mean_interval(values)
        assert vars(group.values[0]) == pytest.approx(vars(true), abs=1e-9)
    assert found.left_out == sum(key is None and value is not None for key, value in told)


def test_two_players_side_by_side_on_the_same_shots(database, shots):
    with database.transaction() as db:
        ids = {one["name"]: one["id"] for one in players(db, first_scope(db))}
    one, other = (ids[name] for name in ("Ilse Marwood", "Tomas Verrall"))
    found = asked(database, "pots", player=one, versus=other)
    for seat, value in zip("AB", found.whole, strict=True):
        own = [shot.made for shot in shots if shot.tried and shot.player == seat]
        assert (value.n, value.p) == (len(own), pytest.approx(sum(own) / len(own)))
    assert found.difference.adjusted
    assert found.difference.low < found.difference.difference < found.difference.high


def test_before_and_from_a_day_on(database):
    """The demo's nine-ball match is of one day: all of it lies on one side."""
    found = asked(database, "pots", parted="2027-01-01")
    assert found.whole[0].n > 0
    assert found.whole[1].n == 0
    assert found.difference is None


@pytest.mark.parametrize("by", BY)
def test_everything_can_be_told_apart_by_everything(database, by):
    for name, measure in MEASURES.items():
        found = asked(database, name, by, where={"session": "match"})
        values = [group.values[0] for group in found.groups]
        if measure.kind == "share":
            assert {value.n for value in values} <= {found.whole[0].n}
            assert sum(value.p for value in values) == pytest.approx(1.0 if values else 0.0)
        else:
            assert sum(value.n for value in values) == found.whole[0].n


def test_where_tries_reached_the_pocket(database, shots):
    """The share of each part of the mouth in all tries of which it is told, with Wilson's interval."""
    told = [REACHED.get(one.result, one.around.entered) for one in shots if one.tried]
    known = [part for part in told if part is not None]
    found = asked(database, "mix", "mouth")
    assert [group.key for group in found.groups] == [
        part for part in ("missed thick", "thick", "middle", "thin", "missed thin", "in the jaws") if part in known
    ]
    for group in found.groups:
        assert group.values[0] == wilson(known.count(group.key), len(known))
    assert found.left_out == told.count(None)
    assert {"missed thick", "missed thin", "in the jaws", "middle"} <= set(known)


def test_what_the_ledger_booked_is_added_up(client, database):
    """Of strokes: a choice without one is none."""
    body = client.get(f"/games/{GAME}/ledger").json["body"]
    every = [one for rack in body["racks"] for one in rack["shots"] if one["kind"] != "choice"]
    booked = [one["decision"] for one in every if one["decision"] is not None]
    found = asked(database, "decision")
    assert found.whole[0].n == len(booked) > 50
    assert found.whole[0].mean == pytest.approx(sum(booked) / len(booked))


def test_what_is_booked_stays_with_rows_that_are_written_anew(client, database):
    """A model that is newer computes every row again; the ledger is not asked."""
    before = asked(database, "potting").whole[0]
    with database.transaction() as db:
        match = games.load(db, first_scope(db), GAME)
        shot_figures.rebuild(db, first_scope(db), match)
    assert asked(database, "potting").whole[0] == before
    assert before.n > 50


def test_kinds_of_sessions_stand_side_by_side_and_are_never_mixed(client):
    """Asked by kind of session the answer has them all, each by itself; asked by anything else only matches."""
    run = {**lost_rack(), "session": "solo", "title": "Alone"}
    made = client.post("/games/import", run).json
    try:
        told = client.get("/question?measure=pots&by=session").json["groups"]
        assert [group["words"] for group in told] == ["match", "solo run"]
        solo = client.get("/question?measure=pots&by=nothing&session=solo").json["whole"][0]
        assert told[1]["values"][0] == solo
        alone = client.get("/question?measure=pots&by=nothing").json["whole"][0]
        assert told[0]["values"][0] == alone
        behind = client.get("/question/shots?measure=pots&by=session&key=solo").json
        assert behind["n"] == solo["n"] > 0
    finally:
        client.send("DELETE", f"/games/{made['id']}")


def test_questions_are_kept_by_name_for_their_author(database):
    with database.transaction() as db:
        scope = first_scope(db)
        questions.keep(db, scope, "long cuts", "measure=pots&by=cut")
        questions.keep(db, scope, "long cuts", "measure=pots&by=way")
        assert questions.kept(db, scope) == [{"name": "long cuts", "asked": "measure=pots&by=way"}]
        questions.drop(db, scope, "long cuts")
        assert questions.kept(db, scope) == []


SHEET = (
    b"date,player,opponent,game,pots made,pots missed\n"
    b"1931-05-01,Ilse Marwood,Tomas Verrall,nine-ball,31,9\n1931-06-01,I. Marwood,,nine-ball,8,2\n"
)


@pytest.fixture
def on_paper(client, database):
    """Counts of two days, the second under another spelling of the name; gone again afterwards."""
    assert client.send("POST", "/paper", data=SHEET).json == {"counts": 2}
    assert client.send("POST", "/paper", data=SHEET).json == {"counts": 2}, "taken in twice they count once"
    yield {one["name"]: one["id"] for one in client.get("/players").json["players"]}
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("DELETE FROM paper")
        cursor.execute("DELETE FROM player WHERE name = 'I. Marwood'")


def pots(client, player, **more):
    query = "&".join(f"{name}={value}" for name, value in more.items())
    return client.get(f"/question?measure=pots&player={player}&until=1931-12-31&{query}").json


def test_paper_counts_where_it_can_and_a_player_under_two_names_is_one(client, on_paper):
    one, other = on_paper["Ilse Marwood"], on_paper["I. Marwood"]
    assert pots(client, one)["whole"] == [
        pytest.approx({"p": 31 / 40, "n": 40, "low": 0.625, "high": 0.877}, abs=0.01)
    ]
    assert pots(client, one, by="cut")["whole"][0]["n"] == 0, "a sheet says nothing of cuts"
    assert client.send("PUT", f"/players/{other}", {"joined_to": one}).status_code == 200
    together = pots(client, one, by="player")
    assert [(group["words"], group["values"][0]["n"]) for group in together["groups"]] == [("Ilse Marwood", 50)]
    assert [group["key"] for group in pots(client, one, by="month")["groups"]] == ["1931-05", "1931-06"]
    refused = client.send("PUT", f"/players/{one}", {"joined_to": on_paper["Tomas Verrall"]})
    assert refused.status_code == 409 or refused.status_code == 422
    assert "part them first" in refused.json["message"]
    client.send("PUT", f"/players/{other}", {"joined_to": None})
    assert "himself" in client.send("PUT", f"/players/{one}", {"joined_to": one}).json["message"]
    assert pots(client, one)["whole"][0]["n"] == 40


def test_the_survey_and_the_hand_know_every_name_of_a_player(client):
    """Tomas stands for Ilse for a moment: her shots and his are one record."""
    ids = {one["name"]: one["id"] for one in client.get("/players").json["players"]}
    one, other = ids["Ilse Marwood"], ids["Tomas Verrall"]
    apart = [client.get(f"/figures?player={player}").json["overall"]["n"] for player in (one, other)]
    told = [client.get(f"/hand?player={player}").json["aim_deg"]["n"] for player in (one, other)]
    client.send("PUT", f"/players/{other}", {"joined_to": one})
    try:
        assert client.get(f"/figures?player={one}").json["overall"]["n"] == sum(apart)
        assert client.get(f"/hand?player={one}").json["aim_deg"]["n"] == sum(told) > max(told)
    finally:
        client.send("PUT", f"/players/{other}", {"joined_to": None})
    assert client.get(f"/figures?player={one}").json["overall"]["n"] == apart[0]


@pytest.mark.parametrize(
    ("query", "words"),
    [
        ("measure=luckiness", "no such figure"),
        ("measure=pots&by=weather", "not told apart by that"),
        ("measure=pots&versus=2", "say who is compared"),
        ("measure=pots&player=2&versus=2", "same player"),
        ("measure=pots&player=1&versus=2&parted=2026-01-01", "not both at once"),
        ("measure=pots&since=yesterday", ""),
    ],
)
def test_a_question_that_makes_no_sense_is_refused_in_a_word(client, query, words):
    refused = client.get(f"/question?{query}")
    assert refused.status_code == 422
    assert words in refused.json["message"]


def test_lengths_without_a_direction_have_no_plus(client):
    away = client.get("/question?measure=away&by=nothing").json["said"]
    long = client.get("/question?measure=along&by=nothing").json["said"]
    assert "+" not in away
    assert " cm to the nearest ball on" in away
    assert "+" in long or "−" in long
