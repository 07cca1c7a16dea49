"""Long work elsewhere: a worker that dies takes nothing along, a reading goes on where a stopped server left it."""

from __future__ import annotations

import os
import time
import uuid
from concurrent.futures import BrokenExecutor

import pytest

from aretane.demo.load import game_of
from aretane.jobs.pool import Pool
from aretane.jobs.reading import Readings, wanted_from
from aretane.store import readings
from tests.conftest import DEMO
from tests.vision.films import film, steady

GAME = game_of("nine-ball")


def twice(value):
    return 2 * value


def die():
    os._exit(11)


@pytest.fixture
def pool():
    made = Pool()
    yield made
    made.close()


@pytest.fixture
def wanted(demo_match):
    entry = demo_match["recordings"][0]
    return {
        "sha256": entry["sha256"], "table": "pool-9ft", "ball_set": "pool", "picture": None, "pixel_aspect": 1.0,
        "marks": entry["views"][0]["camera"]["marks"], "marked_at": 0.0, "duration": 73.6, "size": [960, 540],
        "from": 0.0, "to": 30.0, "recording": 0,
    }  # fmt: skip


def begun(database, scope, wanted):
    reading_id = str(uuid.uuid4())
    with database.transaction() as db:
        readings.begin(db, scope, GAME, reading_id, wanted)
    return reading_id


def ended(database, scope, reading_id, patience=120):
    until = time.monotonic() + patience
    while time.monotonic() < until:
        with database.transaction() as db:
            reading = readings.find(db, scope, reading_id)
        if reading.state != "running":
            return reading
        time.sleep(0.1)
    raise AssertionError(f"still running at {reading.reached}")


def test_work_is_done_elsewhere_and_a_dead_worker_is_replaced(pool):
    assert pool.submit(twice, 21).result(60) == 42
    with pytest.raises(BrokenExecutor):
        pool.submit(die).result(60)
    pool.renew()
    assert pool.submit(twice, 4).result(60) == 8


def test_a_reading_stores_shots_as_it_goes_and_another_goes_on_from_there(app, database, scope, pool, wanted):
    """Stopped after the first shots, taken up by a server that knows nothing but the store."""
    path = DEMO / "rack.mp4"
    reading_id = begun(database, scope, wanted)
    jobs = Readings(database, pool, lambda _: path)
    thread = jobs.start(scope, reading_id)
    until = time.monotonic() + 60
    while time.monotonic() < until:
        with database.transaction() as db:
            first = readings.find(db, scope, reading_id)
        if first.found:
            break
        time.sleep(0.05)
    jobs._ending.set()  # as when the server is stopped
    assert first.state == "running"
    thread.join(60)
    again = Readings(database, pool, lambda _: path)
    again.resume(everything=True)
    reading = ended(database, scope, reading_id)
    assert (reading.state, reading.said) == ("done", "")
    contacts = [shot["contact"] for shot in reading.found]
    assert contacts == sorted(contacts)
    assert len(contacts) == 4, contacts
    for found, true in zip(contacts, (1.4, 12.16, 20.04, 24.76), strict=True):
        assert abs(found - true) < 0.7


def test_a_reading_that_is_stopped_keeps_what_it_has(app, database, scope, pool, wanted):
    reading_id = begun(database, scope, wanted)
    jobs = Readings(database, pool, lambda _: DEMO / "rack.mp4")
    jobs.start(scope, reading_id)
    with database.transaction() as db:
        readings.end(db, scope, reading_id, "stopped")
    time.sleep(0.3)
    with database.transaction() as db:
        readings.end(db, scope, reading_id, "done")
        reading = readings.find(db, scope, reading_id)
    assert reading.state == "stopped", "what has ended stays as it ended"


def test_what_cannot_be_read_ends_with_a_word(app, database, scope, pool, wanted, tmp_path):
    for path, word in (
        (tmp_path / "gone.mp4", "cannot be read"),
        (film(tmp_path / "talk.mp4", steady(40, 5), size=(960, 540)), ""),
    ):
        reading_id = begun(database, scope, {**wanted, "to": None, "duration": 8.0})
        jobs = Readings(database, pool, lambda _, path=path: path)
        jobs.start(scope, reading_id)
        reading = ended(database, scope, reading_id)
        assert word in reading.said
        assert reading.said, "a picture without a table is said in plain words"
        assert reading.found == []


def test_what_was_stored_becomes_what_is_wanted(wanted, tmp_path):
    made = wanted_from({**wanted, "picture": [0, 0, 960, 540]}, tmp_path / "x.mp4")
    assert made.picture == (0, 0, 960, 540)
    assert made.table.name == "pool-9ft"
    assert made.marks["corner:head-left"] == tuple(wanted["marks"]["corner:head-left"])


def test_a_cluster_does_the_same_work_by_its_address():
    from distributed import LocalCluster

    with LocalCluster(n_workers=1, threads_per_worker=1, processes=False, dashboard_address=None) as cluster:
        pool = Pool(cluster.scheduler_address)
        assert pool.submit(twice, 21).result(60) == 42
        pool.close()
