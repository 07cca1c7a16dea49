"""Where long work is done: a worker that dies or hangs takes nothing along; what is large goes there once."""

from __future__ import annotations

import os
import pickle
import subprocess
import sys
import time
from concurrent.futures import Future
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path

import pytest

from aretane.core.errors import InputError
from aretane.jobs import kept
from aretane.jobs.pool import NOW, Pool, WorkerDied, result
from aretane.settings import ROOT


def twice(value):
    return 2 * value


def die():
    os._exit(11)


def wait_for(seconds):
    time.sleep(seconds)
    return os.getpid()


def refuse():
    raise InputError("file", "cannot be read")


@pytest.fixture(scope="module")
def processes():
    made = Pool(2_000_000_000, 1)
    yield made
    made.close()


@pytest.fixture(scope="module", params=["processes", "a cluster"])
def pool(request, processes):
    """The same on this machine and on a Dask cluster by its address."""
    if request.param == "processes":
        yield processes
        return
    import dask
    from distributed import LocalCluster

    with (
        dask.config.set({"distributed.scheduler.allowed-failures": 0}),
        LocalCluster(n_workers=1, threads_per_worker=1, processes=True, dashboard_address=None) as cluster,
    ):
        made = Pool(2_000_000_000, 1, cluster.scheduler_address)
        yield made
        made.close()


def test_work_is_done_elsewhere(pool):
    assert pool.call(60, twice, 21) == 42
    assert pool.call(60, wait_for, 0) != os.getpid()
    with pytest.raises(InputError, match="cannot be read"):
        pool.call(60, refuse)


def test_a_dead_worker_is_replaced(pool):
    with pytest.raises(WorkerDied):
        pool.call(60, die)
    assert pool.call(60, twice, 4) == 8


def test_a_process_that_hangs_is_ended_and_so_is_one_that_nobody_wants(processes):
    before = processes.call(60, wait_for, 0)
    with pytest.raises(WorkerDied):
        processes.call(0.3, wait_for, 60)
    after = processes.call(60, wait_for, 0)
    assert after != before
    with pytest.raises(ProcessLookupError):
        os.kill(before, 0)
    future = processes.submit(60, NOW, wait_for, 60)
    time.sleep(0.5)
    future.cancel()
    assert processes.call(20, wait_for, 0) != after


PARENT = """
import sys, time
from aretane.jobs.pool import NOW, Pool
from tests.jobs.test_pool import told_where
if __name__ == "__main__":
    pool = Pool(2_000_000_000, 1)
    future = pool.submit(600, NOW, told_where, sys.argv[1])
    time.sleep(600)
"""


def told_where(path):
    Path(path).write_text(str(os.getpid()))
    time.sleep(600)


def test_workers_go_with_a_server_that_is_killed(tmp_path):
    script, told = tmp_path / "parent.py", tmp_path / "pid"
    script.write_text(PARENT)
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}"}
    parent = subprocess.Popen([sys.executable, str(script), str(told)], env=environment)
    until = time.monotonic() + 30
    while not told.is_file() or not told.read_text():
        assert time.monotonic() < until
        time.sleep(0.05)
    parent.kill()
    parent.wait()
    until = time.monotonic() + 10
    while Path(f"/proc/{told.read_text()}").exists():
        assert time.monotonic() < until, "it outlived the server"
        time.sleep(0.05)


def test_what_is_kept_is_made_once_and_sent_only_where_it_is_missing():
    held, told = kept.made("key", lambda size: ({"size": size, "found": []}, "told"), 3)
    assert told == "told"
    assert pickle.loads(held.packed) == {"size": 3, "found": []}
    kept.used("key", None, lambda value: value["found"].append(1))
    assert kept.used("key", None, lambda value, more: value["found"] + [more], 2) == [1, 2], "what was found stays"
    with pytest.raises(kept.Missing):
        kept.used("another", None, twice)
    assert kept.used("another", held.packed, lambda value: value["size"]) == 3
    for number in range(kept.MOST):
        kept.made(f"later {number}", lambda: ("later", None))
    with pytest.raises(kept.Missing):
        kept.used("key", None, twice)


def note(path, name):
    with open(path, "a") as file:  # noqa: PTH123
        file.write(name)
    time.sleep(0.05)


def test_parts_take_their_turns_and_none_waits_for_ever(processes, tmp_path):
    """One process: what is awaited first, by number; every fourth time the one that has waited for longest."""
    done = tmp_path / "done"
    first = processes.submit(60, NOW, wait_for, 0.5)
    later = [processes.submit(60, (2, n), note, done, "later "[n]) for n in range(3)]
    awaited = [processes.submit(60, (1, 10 - n), note, done, "ABCDEF"[n]) for n in range(6)]
    for future in (first, *later, *awaited):
        future.result(30)
    order = done.read_text()
    assert order.index("F") < order.index("E") < order.index("A")
    assert order.replace("l", "").startswith("FED")
    assert order.index("l") < 4 < len(order) - 2


def test_a_part_that_nobody_wants_is_not_begun(processes, tmp_path):
    first = processes.submit(60, NOW, wait_for, 0.4)
    unwanted = processes.submit(60, (1, 1), note, tmp_path / "done", "x")
    assert unwanted.cancel()
    first.result(30)
    assert processes.call(30, twice, 2) == 4
    assert not (tmp_path / "done").exists()


@pytest.mark.parametrize("problem", [BrokenProcessPool("All workers expired"), MemoryError(), TimeoutError()])
def test_a_worker_that_dies_before_it_says_what_it_does_has_died(problem):
    future = Future()
    future.set_exception(problem)
    with pytest.raises(WorkerDied):
        result(future, 0)
