"""Where long work is done: processes of this machine, or a Dask cluster by its address (`ARETANE_DASK`).

Both are `concurrent.futures` executors, so that nothing else knows the difference.
"""

from __future__ import annotations

import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures import BrokenExecutor, Executor, Future, ProcessPoolExecutor
from typing import Any

LOCAL_WORKERS = max(1, (os.cpu_count() or 2) - 1)
NICE = 5  # workers stand back for the server that answers the coach


class Pool:
    """An executor that is made when it is first needed, and anew when its workers have died."""

    def __init__(self, dask: str | None = None) -> None:
        self._dask = dask
        self._executor: Executor | None = None
        self._lock = threading.Lock()

    def submit(self, work: Callable[..., Any], *arguments: Any) -> Future[Any]:
        with self._lock:
            if self._executor is None:
                self._executor = _cluster(self._dask) if self._dask else _local()
            try:
                return self._executor.submit(work, *arguments)
            except (BrokenExecutor, RuntimeError):
                self._executor = _cluster(self._dask) if self._dask else _local()
                return self._executor.submit(work, *arguments)

    def renew(self) -> None:
        """Forget workers that have died."""
        with self._lock:
            if self._executor is not None:
                self._executor.shutdown(wait=False)
                self._executor = None

    close = renew


def _local() -> Executor:
    return ProcessPoolExecutor(
        LOCAL_WORKERS, mp_context=multiprocessing.get_context("spawn"), initializer=os.nice, initargs=(NICE,)
    )


def _cluster(address: str) -> Executor:
    from distributed import Client

    client: Any = Client  # distributed is not typed
    executor: Executor = client(address, timeout=10).get_executor()
    return executor
