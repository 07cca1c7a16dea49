"""The derived rows: rebuilt on save, filtered, and rebuilt when the model is newer."""

from __future__ import annotations

from aretane.demo.load import game_of
from aretane.store import shot_facts
from aretane.store.club import first_scope

GAME = game_of("nine-ball")


def count(database, **wanted):
    with database.transaction() as db:
        scope = first_scope(db)
        return len(shot_facts.chosen(db, scope, shot_facts.Filter(**{"game": GAME, **wanted})))


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
        assert shot_facts.rebuild_outdated(db) == 1
    with database.transaction() as db:
        scope = first_scope(db)
        rows = shot_facts.chosen(db, scope, shot_facts.Filter(game=GAME))
    assert sum(row.fact.made for row in rows) > 40
