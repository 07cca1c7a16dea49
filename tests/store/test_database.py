"""Faults of the database: tried again where that helps, else said in one sentence, never as a defect of ours."""

from __future__ import annotations

import pymysql
import pytest

from aretane.core.errors import CannotStart, Unavailable
from aretane.store import database as module
from aretane.store.database import Address, Busy, Database

DEADLOCK = pymysql.err.OperationalError(1213, "Deadlock found")


@pytest.fixture(autouse=True)
def quick(monkeypatch):
    monkeypatch.setattr(module, "PAUSE", 0.0)


def failing(times, problem, tried):
    def work(db):
        tried.append(1)
        with db.cursor() as cursor:
            cursor.execute("SELECT 1")
        if len(tried) <= times:
            raise problem
        return "written"

    return work


@pytest.mark.parametrize("code", module.AGAIN)
def test_who_stood_in_anothers_way_tries_again(database, code):
    tried = []
    assert database.write(failing(3, pymysql.err.OperationalError(code, "busy"), tried)) == "written"
    assert len(tried) == 4


def test_but_not_for_ever(database):
    tried = []
    with pytest.raises(Busy, match="try again"):
        database.write(failing(99, DEADLOCK, tried))
    assert len(tried) == module.TRIES


@pytest.mark.parametrize(
    ("problem", "words"),
    [
        (pymysql.err.OperationalError(1114, "The table is full"), "disk is full"),
        (pymysql.err.OperationalError(2013, "Lost connection"), "went away"),
        (pymysql.err.OperationalError(1290, "running with --read-only"), "trouble of its own"),
        (pymysql.err.InternalError(1712, "Index corrupted"), "trouble of its own"),
    ],
)
def test_every_trouble_of_the_database_is_said_as_such(database, problem, words):
    with pytest.raises(Unavailable, match=words):
        database.write(failing(1, problem, []))
    assert database.write(failing(0, problem, [])) == "written", "the connection is good again"


def test_a_query_of_ours_that_is_wrong_stays_a_defect(database):
    with pytest.raises(pymysql.err.ProgrammingError), database.transaction() as db, db.cursor() as cursor:
        cursor.execute("SELECT nonsense FROM nowhere")


def test_a_database_that_cannot_be_started_again_is_no_defect_either():
    def revive():
        raise CannotStart("the disk is full")

    nowhere = Database(Address("127.0.0.1", 1, "nobody", "", "nothing"), revive)
    with pytest.raises(Unavailable, match="disk is full"):
        nowhere.write(lambda db: None)


def test_over_the_interface_it_is_503_with_a_time_to_come_back(client, app, monkeypatch):
    house = app.extensions["aretane"].house
    monkeypatch.setattr(type(house.database), "_try_begin", lambda self: (_ for _ in ()).throw(DEADLOCK))
    answer = client.get("/games")
    assert (answer.status_code, answer.headers["Retry-After"]) == (503, "2")
    assert "database" in answer.json["message"]
