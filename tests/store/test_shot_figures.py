"""The derived rows: columns as the dataclass has them; what is written comes back; rebuilt and filtered."""

from __future__ import annotations

import json
import uuid

import pytest

from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures as figures_of
from aretane.core.statistics import potting
from aretane.core.statistics.breaks import families
from aretane.demo.load import game_of
from aretane.store import booked, games, shot_figures
from aretane.store.club import first_scope
from aretane.store.shot_figures import COLUMNS, Filter
from tests.conftest import shot_change
from tests.core.statistics.tallies import break_tally_of, tally_of

GAME = game_of("nine-ball")


def count(database, **wanted):
    with database.transaction() as db:
        return len(shot_figures.chosen(db, first_scope(db), Filter(**{"game_id": GAME, **wanted})))


def test_columns_and_dataclasses_are_the_same(server, database):
    """But those that the database makes itself, of parts of others, and what the ledger booked."""
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SHOW COLUMNS FROM shot_fact WHERE Extra NOT LIKE '%GENERATED%'")
        assert {row["Field"] for row in cursor.fetchall()} == {*COLUMNS, *booked.COLUMNS}


def test_what_the_store_adds_up_is_what_the_shots_say(app, database):
    """Of all games and of one, with and without a filter: the same as each shot for itself."""
    for wanted in (
        Filter(),
        Filter(game_id=GAME),
        Filter(discipline="snooker"),
        Filter(target_source="stated"),
        Filter(session=None),
    ):
        with database.transaction() as db:
            scope = first_scope(db)
            rows = shot_figures.chosen(db, scope, wanted)
            added = shot_figures.tallies(db, scope, wanted)
            breaks = shot_figures.break_tallies(db, scope, wanted)
        one_by_one = [tally_of(row.figures, row.player_name) for row in rows]
        for key in (lambda one: one.player, lambda one: one.pocket, lambda one: one.kind):
            assert potting.by(added, key) == potting.by(one_by_one, key)
        assert potting.cut_and_distance_map(added) == potting.cut_and_distance_map(one_by_one)
        for name in ("along", "across", "distance"):
            found, true = (vars(getattr(potting.bias(one), name)) for one in (added, one_by_one))
            assert found == pytest.approx(true)
        openings = [break_tally_of(row.figures.opening, row.player_name) for row in rows if row.figures.opening]
        for key in (lambda one: one.player, lambda one: one.place, lambda one: one.opened):
            found, true = (
                sorted(families(tallies, key), key=lambda one: one.name) for tallies in (breaks, openings)
            )
            assert [(one.name, one.dry, one.scratch, one.next_visible, one.won) for one in found] == [
                (one.name, one.dry, one.scratch, one.next_visible, one.won) for one in true
            ]
            assert [one.balls.mean for one in found] == pytest.approx([one.balls.mean for one in true])


def test_of_many_shots_the_newest_are_taken(app, database):
    with database.transaction() as db:
        scope = first_scope(db)
        every = shot_figures.chosen(db, scope, Filter(session=None))
        assert shot_figures.chosen(db, scope, Filter(session=None), 40) == every[-40:]


def test_every_figure_comes_back_as_it_was_computed(app, database):
    for name in ("nine-ball", "snooker", "straight-pool"):
        with database.transaction() as db:
            scope = first_scope(db)
            match = games.load(db, scope, game_of(name))
            rows = shot_figures.chosen(db, scope, Filter(game_id=game_of(name), session=None))
        assert [row.figures for row in rows] == figures_of(replay(match.as_document()))


def test_what_is_written_after_every_change_is_what_a_match_says(client, app, database, demo_match):
    """Only rows that differ are written: after shots come, change, go and come back, each is as computed anew."""
    game = client.send("POST", "/games/import", data=json.dumps(demo_match).encode()).json
    rack, shots = game["racks"][1], game["racks"][1]["shots"]
    edits = [
        shot_change(rack, 99, player="A", kind="pot", called={"ball": "5", "pocket": "foot-left"}),
        {
            **shot_change(rack, shots[3]["seat"], shots[3]["id"]),
            "document": {**shots[3]["document"], "intent": "two-way"},
        },
        {**shot_change(rack, shots[4]["seat"], shots[4]["id"]), "document": None},
        {"kind": "rack", "id": rack["id"], "parent": game["id"], "seat": 50.0, "document": rack["document"]},
        {
            "kind": "match",
            "id": game["id"],
            "parent": game["id"],
            "seat": 0,
            "document": {**game["header"], "session": "lesson"},
        },
    ]

    def check():
        with database.transaction() as db:
            scope = first_scope(db)
            match = games.load(db, scope, game["id"])
            rows = shot_figures.chosen(db, scope, Filter(game_id=game["id"], session=None))
        true = {
            shot: figures
            for shot, (_, figures) in shot_figures.rows_of(match, figures_of(replay(match.as_document()))).items()
        }
        assert {row.shot_id: row.figures for row in rows} == true

    for edit in edits:
        answer = client.change(game, edit, seen=2**60)
        assert answer.status_code == 200, answer.text
        check()
    for _ in edits:
        undo = {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=1)), "seen": 2**60}
        assert client.post(f"/games/{game['id']}/undo", undo).status_code == 200
        check()
    client.send("DELETE", f"/games/{game['id']}")


def test_only_what_comes_since_is_computed(demo_match):
    replayed = replay(demo_match)
    whole = figures_of(replayed)
    for since in (0, 4, len(replayed.racks)):
        assert figures_of(replayed, since) == [one for one in whole if one.rack >= since]


def test_sessions_are_not_mixed_unasked(app, database):
    assert count(database) == 83
    assert count(database, session="lesson") == 0
    assert count(database, session=None) == 83


def test_figures_can_be_filtered_by_whose_intention_it_was(app, database):
    stated, inferred = count(database, target_source="stated"), count(database, target_source="inferred")
    assert stated > 0 < inferred
    assert stated + inferred < 83


def test_rows_of_an_older_model_are_rebuilt(app, database):
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE shot_fact SET version = 0, made = 0 WHERE game_id = %s", (GAME,))
    with database.transaction() as db:
        assert shot_figures.rebuild_outdated(db) == 1
    with database.transaction() as db:
        scope = first_scope(db)
        rows = shot_figures.chosen(db, scope, Filter(game_id=GAME))
    assert sum(row.figures.made for row in rows) > 40
