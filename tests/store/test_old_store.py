"""A store that an older release wrote is opened: nothing is lost, what was changed can still be taken back."""

from __future__ import annotations

import subprocess
import uuid
from dataclasses import replace
from pathlib import Path

import pymysql
import pytest

from aretane.store import answers, changes, games, jobs, readings
from aretane.store.changes import Operation
from aretane.store.club import coach
from aretane.store.database import Database, migrate

DUMPS = sorted((Path(__file__).parent / "old").glob("*.sql"))


@pytest.fixture(params=DUMPS, ids=lambda path: path.stem)
def old(server, request):
    """The dump in a database of its own, brought to today's version."""
    address = replace(server.address(), name=f"old_{uuid.uuid4().hex[:8]}")
    server._as_root(
        f"CREATE DATABASE {address.name}; GRANT ALL ON {address.name}.* TO '{address.user}'@'127.0.0.1';"
    )
    client = [
        "mariadb",
        "-h",
        address.host,
        "-P",
        str(address.port),
        "-u",
        address.user,
        "--skip-ssl",
        address.name,
    ]
    subprocess.run(
        client,
        input=request.param.read_text(),
        text=True,
        check=True,
        env={"MYSQL_PWD": address.password, "PATH": "/usr/bin"},
    )
    migrate(address)
    return Database(address)


def test_the_match_its_log_and_undo_are_there(old):
    with old.transaction() as db:
        scope = coach(db)
        _, (line,) = games.listed(db, scope, 0, 10)
        game = games.load(db, scope, line["id"])
        labels = [(entry["kind"], entry["label"]) for entry in changes.history(db, scope, game.id)]
    assert (line["document"]["title"], line["racks"], line["shots"]) == ("An older store", 2, 5)
    assert labels == [("undo", "undo"), ("edit", "note again"), ("edit", "note"), ("edit", "imported")]
    noted = game.racks[1][1][1]
    assert noted.document["note"] == "first word"
    for kind, note in (("redo", "second word"), ("undo", "first word"), ("undo", None)):
        operation = Operation(str(uuid.uuid4()), str(uuid.uuid4()), 0, kind)
        old.write(lambda db, kind=kind, operation=operation: games.reverse(db, scope, game.id, operation, kind))
        with old.transaction() as db:
            assert games.load(db, scope, game.id).racks[1][1][1].document.get("note") == note


def test_its_figures_are_there(old):
    from aretane.store.shot_figures import Filter, chosen, rebuild_outdated

    old.write(rebuild_outdated)
    with old.transaction() as db:
        assert len(chosen(db, coach(db), Filter())) == 5


def test_what_ran_is_gone_on_with_and_what_was_worked_out_is_known(old):
    with old.transaction() as db:
        scope = coach(db)
        reading = readings.of_game(db, scope, games.listed(db, scope, 0, 10)[1][0]["id"])
        going, done = jobs.find(db, scope, "reading", reading.id), jobs.find(db, scope, "choices", "a1" * 32)
        assert answers.find(db, scope, "a1" * 32) == {"level": "coarse"}
    assert (going.state, going.kept, going.progress, reading.reached) == ("waiting", True, 0, 12)
    assert (done.state, done.kept, done.progress) == ("done", False, 1)


def test_a_migration_that_was_done_is_not_done_again(old):
    migrate(old.address)
    with pymysql.connect(
        host=old.address.host, port=old.address.port, user=old.address.user, password=old.address.password,
        database=old.address.name, ssl_disabled=True,
    ) as db, db.cursor() as cursor:  # fmt: skip
        cursor.execute("SELECT COUNT(*) FROM change_entry")
        assert cursor.fetchone() == (4,)
