"""Who is who: made on first use, once, also by requests that come together."""

from __future__ import annotations

import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import pytest

from aretane.store.club import coach, player_ids, players, scope_of
from aretane.store.database import Database, migrate


@pytest.fixture
def empty(server):
    """A store in which nobody is known yet."""
    address = replace(server.address(), name=f"other_{uuid.uuid4().hex[:8]}")
    server._as_root(
        f"CREATE DATABASE {address.name}; GRANT ALL ON {address.name}.* TO '{address.user}'@'127.0.0.1';"
    )
    migrate(address)
    yield Database(address)
    server._as_root(f"DROP DATABASE {address.name};")


def together(database, work, many=8):
    gate = threading.Barrier(many)

    def run(number):
        gate.wait()
        return database.write(lambda db: work(db, number))

    with ThreadPoolExecutor(many) as pool:
        return list(pool.map(run, range(many)))


def test_the_first_requests_on_a_new_store_come_together(empty):
    found = together(empty, lambda db, _: coach(db))
    assert len(set(found)) == 1


def test_a_club_of_many_first_requests_is_one_and_so_is_each_player(empty):
    scopes = together(empty, lambda db, number: scope_of(db, "Quay", f"Coach {number % 2}"))
    assert len({scope.club_id for scope in scopes}) == 1
    assert len({scope.author_id for scope in scopes}) == 2
    names = [{"Ann", "Ben", f"Guest {number % 3}"} for number in range(8)]
    found = together(empty, lambda db, number: player_ids(db, scopes[0], names[number]))
    assert len({ids["Ann"] for ids in found}) == 1
    with empty.transaction() as db:
        assert {one["name"] for one in players(db, scopes[0])} == {"Ann", "Ben", "Guest 0", "Guest 1", "Guest 2"}
