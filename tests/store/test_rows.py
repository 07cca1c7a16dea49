"""Recordings, readings, answers and players as rows: kept for their club, found again, forgotten."""

from __future__ import annotations

import uuid

import pytest

from aretane.store import answers, club, games, jobs, readings, recordings
from aretane.store.changes import Operation
from aretane.store.games import Fact

SHA = "ab" * 32


@pytest.fixture
def db(server, database):
    """A transaction that leaves nothing behind."""
    connection = database._begin()
    yield connection
    connection.rollback()
    connection.close()


@pytest.fixture
def ours(db):
    return club.scope_of(db, f"Club {uuid.uuid4()}", "Ann")


@pytest.fixture
def theirs(db):
    return club.scope_of(db, f"Club {uuid.uuid4()}", "Ben")


@pytest.fixture
def game(db, ours):
    game_id = str(uuid.uuid4())
    games.create(db, ours, game_id)
    games.begin(
        db, ours, game_id, Operation(str(uuid.uuid4()), str(uuid.uuid4()), 0, "new"),
        [Fact("match", game_id, game_id, 0.0, {"discipline": "nine-ball"})],
    )  # fmt: skip
    return game_id


def test_a_recording_is_its_clubs_and_goes_when_no_club_holds_it(db, ours, theirs):
    for scope in (ours, theirs):
        recordings.add(db, scope, SHA, "rack.mp4", 10, {"duration": 2.5}, [0.0, 0.04])
    recordings.add(db, ours, SHA, "another name", 10, {}, [])
    recordings.note_viewers(db, ours, SHA, "the club")
    found = recordings.find(db, ours, SHA)
    assert (found.name, found.seen_by, found.probe) == ("rack.mp4", "the club", {"duration": 2.5})
    assert recordings.frame_times(db, ours, SHA) == [0.0, 0.04]
    assert recordings.find(db, theirs, SHA).seen_by == ""
    assert not recordings.remove(db, ours, SHA), "another club still holds it"
    assert recordings.find(db, ours, SHA) is None
    assert recordings.frame_times(db, ours, SHA) is None
    assert recordings.remove(db, theirs, SHA)
    assert recordings.listed(db, theirs) == []


def test_a_reading_grows_by_what_is_found_and_only_once(db, ours, theirs, game):
    reading_id = str(uuid.uuid4())
    readings.begin(db, ours, game, reading_id, {"from": 0})
    assert readings.advance(db, ours, reading_id, 0, 5.0, [{"contact": 1}])
    assert not readings.advance(db, ours, reading_id, 0, 9.0, [{"contact": 2}]), "another has gone on with it"
    assert not readings.advance(db, theirs, reading_id, 1, 9.0, [])
    readings.correct(db, ours, reading_id, [{"do": "delete", "shot": "x"}])
    found = readings.of_game(db, ours, game, lock=True)
    assert (found.reached, found.found, len(found.corrections)) == (5.0, [{"contact": 1}], 1)
    assert readings.of_game(db, theirs, game) is None
    readings.begin(db, ours, game, str(uuid.uuid4()), {"from": 3})
    assert readings.find(db, ours, reading_id) is None, "one a match"


def test_an_answer_is_kept_as_long_as_its_job(db, ours, theirs):
    key = uuid.uuid4().hex * 2
    assert answers.find(db, ours, key) == {}
    jobs.ask(db, ours, "choices", key, {}, kept=False)
    for level in ("glance", "coarse"):
        answers.keep(db, ours, key, {"level": level})
    answers.forget_unasked(db)
    assert answers.find(db, ours, key) == {"level": "coarse"}
    assert answers.find(db, theirs, key) == {}
    jobs.forget(db, ours, "choices", key)
    answers.forget_unasked(db)
    assert answers.find(db, ours, key) == {}


def test_work_that_failed_is_tried_again_after_a_start_unless_it_is_to_be_kept(db, ours):
    for kind, kept in (("one", False), ("other", True)):
        jobs.ask(db, ours, kind, "it", {}, kept=kept)
        job = jobs.claim(db, "here", [kind], kept=True)
        jobs.end(db, job, "here", "failed", "no")
        assert jobs.ask(db, ours, kind, "it", {}, kept=kept).state == "failed"
    jobs.forget_old(db)
    assert jobs.find(db, ours, "one", "it") is None
    assert jobs.find(db, ours, "other", "it").said == "no"


def test_players_are_known_by_name_within_their_club(db, ours, theirs):
    known = club.player_ids(db, ours, {"Cleo", "Dan"})
    assert club.player_ids(db, ours, {"Dan", "Cleo"}) == known
    assert club.player_ids(db, ours, set()) == {}
    assert club.player_ids(db, theirs, {"Dan"})["Dan"] != known["Dan"]
    assert [one["name"] for one in club.players(db, ours)] == ["Cleo", "Dan"]
    assert club.scope_of(db, ours.club, "Ann") == ours
