"""Jobs as rows: claimed once, gone on with after a death, given up after two, stopped when nobody looks."""

from __future__ import annotations

import os
import threading
import time
import uuid

import pytest

from aretane.core.errors import Crowded, InputError
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


def until(database, scope, kind, good, subject="it", patience=120):
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


def takes(size):
    return len(b"x" * size)


@pytest.mark.parametrize(
    ("run", "said"),
    [
        (lambda work: work.part(30, die), "tried twice: what worked on it broke down"),
        (lambda work: work.part(0.2, wait_for, 30), "tried twice: it took too long"),
        (lambda work: work.part(30, takes, 3_000_000_000), "tried twice: it took more memory than it may"),
        (lambda work: 1 / 0, "the log has the reason"),
    ],
    ids=["dies", "hangs", "grows", "fails"],
)
def test_what_stops_its_worker_twice_or_fails_is_reported(runner, database, scope, name, run, said):
    asked(runner(**{name: run}), database, scope, name)
    job = until(database, scope, name, ended)
    assert job.state == "failed"
    assert said in job.said
    assert database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=True)).state == "failed"
    again = database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=True, again=True))
    assert (again.state, again.deaths, again.said) == ("waiting", 0, ""), "who says so has it tried again"


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


def queued(number, page, state="waiting", kept=False, author=1):
    return jobs.Queued(number, author, page, kept, state, 0.0)


def test_each_page_gets_its_turn_and_of_its_questions_the_newest_first():
    def order(*queue):
        return [one.id for one in jobs.in_turn(queue)]

    assert order(queued(1, "a"), queued(2, "b"), queued(3, "a"), queued(4, "b")) == [3, 4, 1, 2]
    assert order(queued(1, "a"), queued(2, "a"), queued(9, "b")) == [2, 9, 1]
    assert order(queued(1, "a", "running"), queued(2, "a"), queued(3, "b")) == [3, 2]
    assert order(queued(1, "a", kept=True), queued(2, "a")) == [2, 1]
    assert order(queued(1, "", author=1), queued(2, "", author=1), queued(3, "", author=2)) == [2, 3, 1]


def test_what_nobody_waits_for_is_not_begun_and_is_stopped(database, scope, name):
    database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=False))
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE job SET asked_at = asked_at - INTERVAL 30 SECOND WHERE kind = %s", (name,))
    assert database.write(lambda db: jobs.claim(db, "here", [name])) is None
    database.write(jobs.take_silent)
    with database.transaction() as db:
        assert jobs.find(db, scope, name, "it").state == "stopped"


def test_asking_again_and_again_writes_nothing(database, scope, name):
    first = database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=False, page="a"))
    assert database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=False, page="a")) == first
    other = database.write(lambda db: jobs.ask(db, scope, name, "it", {}, kept=False, page="b"))
    assert (other.id, other.page) == (first.id, "b")


def test_those_who_wait_are_told_their_place_and_too_many_are_sent_away(runner, database, scope, name, monkeypatch):
    monkeypatch.setattr(jobs, "MOST_WAITING", 3)
    one = runner(**{name: lambda work: ""}, kept=False)  # not awake: all wait
    asks = [database.write(lambda db, n=n: one.ask(db, scope, name, str(n), page=str(n))) for n in range(3)]
    with database.transaction() as db:
        places = [one.place(db, job) for job in asks]
    assert [place.before for place in places] == [0, 1, 2]
    assert 0 < places[0].seconds < places[1].seconds < places[2].seconds
    with pytest.raises(Crowded, match="3 questions wait already; try again in about") as told:
        database.write(lambda db: one.ask(db, scope, name, "one more"))
    assert told.value.seconds > 0
    assert database.write(lambda db: one.ask(db, scope, name, "0", page="0")).id == asks[0].id, "who waits, stays"
    for number in range(3):
        database.write(lambda db, n=number: jobs.stop(db, scope, name, str(n)))


def test_all_see_something_before_anybody_sees_all(runner, database, scope, name):
    """Five questions at once on one process: the first results of each come before the rest of any."""
    seen = []

    def run(work):
        work.part(30, wait_for, 0.05)
        seen.append(("first", work.job.subject))
        work.shown()
        for _ in range(4):
            work.part(30, wait_for, 0.05)
        seen.append(("all", work.job.subject))
        return ""

    one = runner(**{name: run}, kept=False)
    for number in range(5):
        database.write(lambda db, n=number: one.ask(db, scope, name, str(n), page=str(n)))
    one.wake()
    for number in range(5):
        until(database, scope, name, ended, str(number))
    assert sorted(what for what, _ in seen[:4]) == ["first"] * 4
    assert [what for what, _ in seen].index("all") >= 4
