"""Where long work is done: processes of this machine, or a Dask cluster by its address (`ARETANE_DASK`).

Both take a function that they can import and arguments that they can pickle, and return a future. A process that
works for too long, or on what nobody wants any more, is really ended; on a cluster a part that runs cannot be, and
its result is passed over. So parts are short.
"""

from __future__ import annotations

import multiprocessing
import os
import resource
import threading
from collections.abc import Callable
from concurrent.futures import CancelledError, Executor, Future
from concurrent.futures import TimeoutError as Waited
from multiprocessing.connection import wait
from typing import Any, ParamSpec, Protocol, TypeVar

from pebble import ProcessExpired, ProcessPool

P = ParamSpec("P")
T = TypeVar("T")

LOCAL_WORKERS = max(1, (os.cpu_count() or 2) - 1)
NICE = 5  # workers stand back for the server that answers the coach
QUEUE = 120.0  # seconds that a part may wait for its turn on a cluster


class WorkerDied(Exception):
    """What did a part has died, or did not end in time. No fault of the code here: a film can crash its decoder."""


class Pool:
    """Workers that are made when they are first needed: so many processes that may take so many bytes of memory
    each, or a cluster's."""

    def __init__(self, memory: int, processes: int, dask: str | None = None) -> None:
        self._memory, self._processes, self._dask = memory, processes, dask
        self._workers: _Workers | None = None
        self._lock = threading.Lock()

    def submit(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> Future[T]:
        """Begin `work`, which may take `limit` seconds."""
        with self._lock:
            if self._workers is None:
                self._workers = _Cluster(self._dask) if self._dask else _Processes(self._memory, self._processes)
            return self._workers.submit(limit, work, arguments, named)

    def call(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> T:
        """`work` done elsewhere, waited for. Raises `WorkerDied`, or what the work itself raises."""
        future = self.submit(limit, work, *arguments, **named)
        try:
            return result(future, limit + QUEUE)
        finally:
            future.cancel()

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
    except (ProcessExpired, Waited, CancelledError) as problem:
        raise WorkerDied(str(problem) or type(problem).__name__) from problem
    except Exception as problem:
        if type(problem).__name__ == "KilledWorker":  # Dask's, which is not loaded without a cluster
            raise WorkerDied(str(problem)) from problem
        raise


class _Workers(Protocol):
    def submit(self, limit: float, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]: ...

    def close(self) -> None: ...


class _Processes:
    def __init__(self, memory: int, processes: int) -> None:
        self._memory, self._processes = memory, processes
        self._pool = self._new()

    def submit(self, limit: float, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]:
        if not self._pool.active:  # broken by what its workers did
            self._pool = self._new()
        future: Future[T] = self._pool.schedule(work, args=arguments, kwargs=named, timeout=limit)
        return future

    def close(self) -> None:
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

    def submit(self, limit: float, work: Callable[..., T], arguments: Any, named: Any) -> Future[T]:
        return self._executor.submit(work, *arguments, **named)

    def close(self) -> None:
        self._client.close()
