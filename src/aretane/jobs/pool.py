"""Where long work is done: processes of this machine, or a Dask cluster by its address (`ARETANE_DASK`).

Both take a function that they can import and arguments that they can pickle, and return a future. A process that
works for too long, or on what nobody wants any more, is really ended; on a cluster a part that runs cannot be, and
its result is passed over. So parts are short. Here they take their turns: what somebody waits for before the rest.
"""

from __future__ import annotations

import itertools
import math
import multiprocessing
import os
import resource
import threading
from collections.abc import Callable
from concurrent.futures import CancelledError, Executor, Future
from concurrent.futures import TimeoutError as Waited
from concurrent.futures.process import BrokenProcessPool
from multiprocessing.connection import wait
from typing import Any, ParamSpec, Protocol, TypeVar

from pebble import ProcessExpired, ProcessPool

P = ParamSpec("P")
T = TypeVar("T")

LOCAL_WORKERS = max(1, (os.cpu_count() or 2) - 1)
NICE = 5  # workers stand back for the server that answers the coach
QUEUE = 120.0  # seconds that a part may wait for its turn on a cluster


Turn = tuple[int, int]  # rank and number: the lower goes first
NOW: Turn = (0, 0)
OLDEST = 4  # every so many parts the one that has waited for longest is done, whatever its turn


class WorkerDied(Exception):
    """What did a part has died, took more memory than it may, or did not end in time; says which. No fault of the
    code here: a film can crash its decoder."""


class Pool:
    """Workers that are made when they are first needed: so many processes that may take so many bytes of memory
    each, or a cluster's."""

    def __init__(self, memory: int, processes: int, dask: str | None = None) -> None:
        self._memory, self._processes, self._dask = memory, processes, dask
        self._workers: _Workers | None = None
        self._lock = threading.Lock()

    def submit(
        self, limit: float, turn: Turn, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs
    ) -> Future[T]:
        """Do `work`, which may take `limit` seconds, when it is its turn."""
        with self._lock:
            if self._workers is None:
                self._workers = _Cluster(self._dask) if self._dask else _Processes(self._memory, self._processes)
            return self._workers.submit(limit, turn, work, arguments, named)

    def call(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> T:
        """`work` done elsewhere before anything else, waited for. Raises `WorkerDied`, or what the work itself
        raises."""
        future = self.submit(limit, NOW, work, *arguments, **named)
        try:
            return result(future, limit + QUEUE)
        finally:
            future.cancel()

    @property
    def patience(self) -> float:
        """Seconds beyond its limit after which a part is lost. Processes of this machine end it themselves."""
        return QUEUE if self._dask else math.inf

    def close(self) -> None:
        """End the workers with whatever they are at."""
        with self._lock:
            if self._workers is not None:
                self._workers.close()
                self._workers = None


def result(future: Future[T], patience: float) -> T:
    """What a part gave, or raised. Raises `WorkerDied` when it could not give anything."""
    try:
        return future.result(patience)
    except Waited as problem:
        raise WorkerDied("it took too long") from problem
    except MemoryError as problem:
        raise WorkerDied("it took more memory than it may") from problem
    except (
        ProcessExpired,
        BrokenProcessPool,
        CancelledError,
    ) as problem:  # broken: died before it said what it does
        raise WorkerDied("what worked on it broke down") from problem
    except Exception as problem:
        if type(problem).__name__ == "KilledWorker":  # Dask's, which is not loaded without a cluster
            raise WorkerDied("what worked on it broke down") from problem
        raise


class _Workers(Protocol):
    def submit(self, limit: float, turn: Turn, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]: ...

    def close(self) -> None: ...


class _Part(Future[T]):
    """One that waits for its turn, then for the process that does it."""

    def __init__(self, begin: Callable[[], Future[T]]) -> None:
        super().__init__()
        self.begin = begin
        self._there: Future[T] | None = None
        self._unwanted = False

    def follow(self, there: Future[T], then: Callable[[], None]) -> None:
        self._there = there
        if self._unwanted:
            there.cancel()

        def ended(_: Future[T]) -> None:
            then()
            try:
                self.set_result(there.result())
            except BaseException as problem:
                self.set_exception(problem)

        there.add_done_callback(ended)

    def cancel(self) -> bool:
        """Also while it is done: its process is ended."""
        self._unwanted = True
        return self._there.cancel() if self._there else super().cancel()


class _Processes:
    def __init__(self, memory: int, processes: int) -> None:
        self._memory, self._free = memory, processes
        self._processes = processes
        self._pool = self._new()
        self._waiting: list[tuple[Turn, int, _Part[Any]]] = []  # with the number of each, in the order they came
        self._count, self._turns = itertools.count(), 0
        self._lock, self._closed = threading.Lock(), False

    def submit(self, limit: float, turn: Turn, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]:
        part: _Part[T] = _Part(lambda: self._pool.schedule(work, args=arguments, kwargs=named, timeout=limit))
        with self._lock:
            self._waiting.append((turn, next(self._count), part))
        self._go_on()
        return part

    def _go_on(self) -> None:
        while not self._closed and (part := self._next()) is not None:
            if not self._pool.active:  # broken by what its workers did
                self._pool = self._new()
            part.follow(part.begin(), self._over)

    def _next(self) -> _Part[Any] | None:
        with self._lock:
            while self._free and self._waiting:
                self._turns += 1
                oldest = self._turns % OLDEST == 0
                chosen = min(self._waiting, key=lambda one: one[1] if oldest else one[:2])
                self._waiting.remove(chosen)
                if chosen[2].set_running_or_notify_cancel():
                    self._free -= 1
                    return chosen[2]
            return None

    def _over(self) -> None:
        with self._lock:
            self._free += 1
        self._go_on()

    def close(self) -> None:
        with self._lock:
            self._closed = True
            for *_, part in self._waiting:
                part.cancel()
            self._waiting.clear()
        self._pool.stop()
        self._pool.join()

    def _new(self) -> Any:
        spawn = multiprocessing.get_context("spawn")
        return ProcessPool(self._processes, initializer=_begin, initargs=[self._memory], context=spawn)


def _begin(memory: int) -> None:
    """In a new worker: stand back for the server, take no more memory than is given, and go when the server goes,
    however it ends."""
    os.nice(NICE)
    resource.setrlimit(resource.RLIMIT_DATA, (memory, memory))
    threading.Thread(target=_go_with_the_parent, daemon=True).start()


def _go_with_the_parent() -> None:
    parent = multiprocessing.parent_process()
    if parent is not None:
        wait([parent.sentinel])
        os._exit(1)


class _Cluster:
    def __init__(self, address: str) -> None:
        from distributed import Client

        client: Any = Client  # distributed is not typed
        self._client = client(address, timeout=10)
        self._executor: Executor = self._client.get_executor(retries=0)

    def submit(self, limit: float, turn: Turn, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]:
        return self._executor.submit(work, *arguments, **named)

    def close(self) -> None:
        self._client.close()
