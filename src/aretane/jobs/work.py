"""A job that is being done: its parts elsewhere, its progress and heartbeat in the store."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, wait
from typing import Any, Concatenate, ParamSpec, TypeVar

from aretane.jobs import kept
from aretane.jobs.kept import Kept, Missing
from aretane.jobs.pool import Pool, Turn, WorkerDied, result
from aretane.store import jobs
from aretane.store.database import Database, Db
from aretane.store.jobs import Job

P = ParamSpec("P")
K = TypeVar("K")
T = TypeVar("T")

BEAT = 1.0  # seconds between heartbeats
AWAITED, LATER = 1, 2  # ranks of parts
GRACE = 2.0  # seconds that a part has to end by itself: a worker that is ended takes longer to be replaced

log = logging.getLogger("aretane.jobs")


class Stopped(Exception):
    """The job is not wanted any more, or another server goes on with it: nothing more is to be done or said."""


class Work:
    """What a kind of job is given to do one."""

    def __init__(
        self, database: Database, pool: Pool, job: Job, worker: str, number: int, closing: threading.Event,
        seen: Callable[[float], None],
    ) -> None:  # fmt: skip
        self._database, self._pool, self._worker, self._closing = database, pool, worker, closing
        self._number, self._seen, self._began = number, seen, time.monotonic()
        self.job, self.scope = job, job.scope
        self.awaited = not job.kept  # somebody waits for it and has seen nothing yet

    def shown(self) -> None:
        """There is something to see: others, who have seen nothing yet, go first."""
        if self.awaited:
            self.awaited = False
            self._seen(self._began)

    def part(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> T:
        """A part, done by a worker within `limit` seconds. Once a worker that dies is replaced and the part tried
        anew.

        Raises `Stopped`, `WorkerDied` for the second death in a row, and what the work itself raises.
        """
        while True:
            try:
                return self._waited_for(self._pool.submit(limit, self._turn, work, *arguments, **named), limit)
            except WorkerDied as problem:
                if self._closing.is_set():
                    raise Stopped from None
                log.warning("%s %s: %s", self.job.kind, self.job.subject, problem)
                if not self._database.write(lambda db: jobs.died(db, self.job, self._worker)):
                    raise

    def keep(
        self, limit: float, key: str, make: Callable[P, tuple[K, T]], /, *arguments: P.args, **_: P.kwargs
    ) -> tuple[Kept[K], T]:
        """What `make` gives first is kept by workers for later parts, under a key that nothing else has; what it
        gives beside it is told here."""
        return self.part(limit, kept.made, f"{self.job.id}:{key}", make, *arguments)

    def with_kept(
        self,
        limit: float,
        held: Kept[K],
        work: Callable[Concatenate[K, P], T],
        /,
        *arguments: P.args,
        **_: P.kwargs,
    ) -> T:
        """A part that works on what is kept."""
        try:
            return self.part(limit, kept.used, held.key, None, work, *arguments)
        except Missing:
            return self.part(limit, kept.used, held.key, held.packed, work, *arguments)

    def advance(self, progress: float, write: Callable[[Db], Any] = lambda _: None) -> None:
        """Note how far it has come, together with what `write` stores. Raises `Stopped` when it is not wanted."""

        def noted(db: Db) -> bool:
            wanted = jobs.beat(db, self.job, self._worker, progress)
            if wanted:
                write(db)
            return wanted

        if not self._database.write(noted) or self._closing.is_set():
            raise Stopped

    @property
    def _turn(self) -> Turn:
        return (AWAITED if self.awaited else LATER, self._number)

    def _waited_for(self, future: Future[T], limit: float) -> T:
        until, beat = time.monotonic() + limit + self._pool.patience, time.monotonic() + BEAT
        while True:
            done, _ = wait([future], timeout=BEAT / 4)
            if done or time.monotonic() > until:
                return result(future, 0)
            if self._closing.is_set():
                raise Stopped
            if time.monotonic() > beat:
                beat = time.monotonic() + BEAT
                if not self._database.write(lambda db: jobs.beat(db, self.job, self._worker)):
                    wait([future], timeout=GRACE)
                    future.cancel()
                    raise Stopped
