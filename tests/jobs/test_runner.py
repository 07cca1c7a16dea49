"""Jobs as rows: claimed once, gone on with after a death, given up after two, stopped when nobody looks."""

from __future__ import annotations

import os
import threading
import time
import uuid

import pytest

from aretane.core.errors import InputError
from aretane.jobs.pool import Pool
from aretane.jobs.runner import Kind, Runner
from aretane.store import jobs
from tests.jobs.test_pool import die, twice, wait_for


@pytest.fixture(scope="module")
def pool():
    made = Pool(2_000_000_000, 1)
    yield made
    made.close()


@pytest.fixture
def runner(app, database, pool):
    """Makes runners that end with the test; the pool outlives them."""
    made = []

    def make(**kinds):
        kept = kinds.pop("kept", True)
        one = Runner(database, pool, [Kind(name, run, kept) for name, run in kinds.items()])
        made.append(one)
        return one

    yield make
    for one in made:
        one._closing.set()
        one._awake.set()


@pytest.fixture
def name():
    """A kind that no other test has."""
    return f"kind-{uuid.uuid4().hex[:8]}"


def asked(runner, database, scope, kind, subject="it", **arguments):
    job = database.write(lambda db: runner.ask(db, scope, kind, subject, arguments))
    runner.wake()
    return job


def until(database, scope, kind, good, subject="it", patience=30):
    end = time.monotonic() + patience
    while time.monotonic() < end:
        with database.transaction() as db:
            job = jobs.find(db, scope, kind, subject)
        if good(job):
            return job
        time.sleep(0.02)
    raise AssertionError(job)


def ended(job):
    return not job.going


def test_a_job_is_done_in_parts_with_progress_and_its_arguments(runner, database, scope, name):
    noted = []

    def run(work):
        for number in (1, 2):
            work.advance(number / 2, lambda db, n=number: noted.append((n, work.part(30, twice, n))))
        return f"for {work.job.arguments['who']}"

    one = runner(**{name: run})
    assert asked(one, database, scope, name, who="Ann").going
    job = until(database, scope, name, ended)
    assert (job.state, job.progress, job.said) == ("done", 1.0, "for Ann")
    assert noted == [(1, 2), (2, 4)]
    assert asked(one, database, scope, name).state == "done", "what is done is not done again"


def test_one_of_many_servers_does_it(runner, database, scope, name):
    done = []
    one, other = (runner(**{name: lambda work: done.append(work.job.subject) or ""}) for _ in range(2))
    for number in range(20):
        database.write(lambda db, number=number: one.ask(db, scope, name, str(number)))
    one.wake()
    other.wake()
    for number in range(20):
        until(database, scope, name, ended, str(number))
    assert sorted(done, key=int) == [str(number) for number in range(20)]


@pytest.mark.parametrize(
    ("run", "said"),
    [
        (lambda work: work.part(30, die), jobs.KILLS),
        (lambda work: work.part(0.2, wait_for, 30), jobs.KILLS),
        (lambda work: 1 / 0, "the log has the reason"),
    ],
    ids=["dies", "hangs", "fails"],
)
def test_what_stops_its_worker_twice_or_fails_is_reported(runner, database, scope, name, run, said):
    asked(runner(**{name: run}), database, scope, name)
    job = until(database, scope, name, ended)
    assert job.state == "failed"
    assert said in job.said


def test_bad_input_is_said_in_its_own_words(runner, database, scope, name):
    def run(work):
        raise InputError("recording", "has no picture")

    asked(runner(**{name: run}), database, scope, name)
    assert until(database, scope, name, ended).said == "recording: has no picture"


def dies_once(path):
    if not os.path.exists(path):  # noqa: PTH110
        open(path, "w").close()  # noqa: PTH123
        os._exit(1)
    return "came on"


def test_after_one_death_it_is_tried_again(runner, database, scope, name, tmp_path):
    asked(runner(**{name: lambda work: work.part(30, dies_once, str(tmp_path / "mark"))}), database, scope, name)
    job = until(database, scope, name, ended)
    assert (job.state, job.said, job.deaths) == ("done", "came on", 1)


def test_cancelled_work_really_ends(runner, database, scope, name, pool):
    before = pool.call(30, wait_for, 0)
    asked(runner(**{name: lambda work: str(work.part(60, wait_for, 60))}), database, scope, name)
    until(database, scope, name, lambda job: job.state == "running")
    time.sleep(0.5)
    database.write(lambda db: jobs.stop(db, scope, name, "it"))
    assert pool.call(20, wait_for, 0) != before
    assert until(database, scope, name, ended).state == "stopped"


@pytest.mark.parametrize("kept", [True, False])
def test_kept_work_goes_on_when_nobody_looks_and_other_work_does_not(runner, database, scope, name, kept):
    looked = threading.Event()

    def run(work):
        looked.wait(20)
        work.advance(0.5)
        return ""

    asked(runner(**{name: run}, kept=kept), database, scope, name)
    until(database, scope, name, lambda job: job.state == "running")
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE job SET asked_at = asked_at - INTERVAL 30 SECOND WHERE kind = %s", (name,))
    looked.set()
    job = until(database, scope, name, ended)
    assert job.state == ("done" if kept else "stopped")
    if not kept:
        again = database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=False))
        assert again.state == "waiting", "who asks again has it done again"


def test_what_a_dead_server_left_is_gone_on_with_but_not_for_ever(database, scope, name):
    database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=True))
    for state in ("waiting", "failed"):
        job = database.write(lambda db: jobs.claim(db, "dead", [name], kept=True))
        assert job is not None
        with database.transaction() as db, db.cursor() as cursor:
            cursor.execute("UPDATE job SET heartbeat = heartbeat - INTERVAL 1 MINUTE WHERE kind = %s", (name,))
        database.write(jobs.take_silent)
        with database.transaction() as db:
            assert jobs.find(db, scope, name, "it").state == state
    assert not database.write(lambda db: jobs.beat(db, job, "dead")), "the dead one, awake again, is told so"


def test_progress_forgives_a_death_and_an_ending_server_gives_back(database, scope, name):
    database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=True))
    job = database.write(lambda db: jobs.claim(db, "here", [name], kept=True))
    assert database.write(lambda db: jobs.died(db, job, "here"))
    assert database.write(lambda db: jobs.beat(db, job, "here", 0.4))
    assert database.write(lambda db: jobs.died(db, job, "here"))
    database.write(lambda db: jobs.give_back(db, ["here"]))
    with database.transaction() as db:
        job = jobs.find(db, scope, name, "it")
    assert (job.state, job.progress) == ("waiting", 0.4)
