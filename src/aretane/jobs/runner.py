"""Drives jobs: claims a row, a thread each, does it by the kind that the desk has registered for it."""

from __future__ import annotations

import itertools
import logging
import socket
import threading
import time
import uuid
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from aretane.core.errors import Crowded, InputError, Unavailable
from aretane.jobs.pool import Pool, WorkerDied
from aretane.jobs.work import Stopped, Work
from aretane.store import jobs
from aretane.store.database import Database, Db
from aretane.store.jobs import DONE, FAILED, RUNNING, WAITING, Job, Queued
from aretane.store.scope import Scope

IDLE = 5.0  # seconds after which a server looks for what others have left
MOST, MOST_AWAITED, MOST_KEPT = 60, 4, 2  # jobs driven at once; of those: with nothing to see yet, and to be kept
PACE, WEIGHT = 2.0, 0.2  # seconds from one job's first results to the next one's, at first; how quickly it changes

log = logging.getLogger("aretane.jobs")


@dataclass(frozen=True)
class QueuePlace:
    """In the queue: how many come first, and in about how many seconds there is something to see."""

    before: int
    seconds: float


@dataclass(frozen=True)
class Kind:
    """A sort of job. `run` does one and returns what is to be said at its end; what it stores on the way it hands
    to `Work.advance`. `kept` work finishes though nobody looks; other work stops when nobody asks for it.
    """

    name: str
    run: Callable[[Work], str]
    kept: bool


class Runner:
    """The jobs of a server. Several servers may share a store."""

    def __init__(self, database: Database, pool: Pool, kinds: Iterable[Kind]) -> None:
        self._database, self._pool = database, pool
        self._kinds = {kind.name: kind for kind in kinds}
        self._host = socket.gethostname()[:40]
        self._closing, self._awake = threading.Event(), threading.Event()
        self._lock = threading.Lock()
        self._driven: dict[str, Work] = {}  # by the name of who does it, new for every claim
        self._numbers = itertools.count()
        self._pace, self._last_seen = PACE, 0.0
        self._looking: threading.Thread | None = None
        self._lives = False

    def ask(
        self, db: Db, scope: Scope, kind: str, subject: str, arguments: dict[str, Any] | None = None,
        page: str = "", *, again: bool = False,
    ) -> Job:  # fmt: skip
        """The job as it stands, begun if need be; call `wake` when the transaction is over. `page` is who asks,
        `again` whether what failed is to be tried again.

        Raises `Crowded` when too many wait already.
        """
        kept = self._kinds[kind].kept
        known = jobs.find(db, scope, kind, subject)
        if not kept and (known is None or known.state not in (RUNNING, DONE)):
            waiting = [one for one in self._waiting(db) if not one.kept and one.id != (known.id if known else None)]
            if len(waiting) >= jobs.MOST_WAITING:
                raise Crowded(len(waiting), self._pace * len(waiting))
        return jobs.ask(db, scope, kind, subject, arguments or {}, kept=kept, page=page, again=again)

    def place(self, db: Db, job: Job) -> QueuePlace | None:
        """Where a job stands that waits for its turn."""
        if job.state != WAITING:
            return None
        before = next((number for number, one in enumerate(self._waiting(db)) if one.id == job.id), 0)
        with self._lock:
            before += sum(work.awaited for work in self._driven.values())
        return QueuePlace(before, (before + 1) * self._pace)

    def _waiting(self, db: Db) -> list[Queued]:
        return jobs.in_turn(jobs.queue(db, list(self._kinds)))

    def wake(self) -> None:
        """There may be something to do."""
        self._awake.set()
        with self._lock:
            if self._looking is None and not self._closing.is_set():
                self._looking = threading.Thread(target=self._look, daemon=True)
                self._looking.start()

    def begin(self, *, alone: bool) -> None:
        """Live: look for work from now on, also for what others have left. With `alone` no other server works on
        this store."""
        self._database.write(lambda db: jobs.take_silent(db, everything=alone))
        self._lives = True
        self.wake()

    def close(self) -> None:
        """End; what is being done waits for the next server."""
        self._closing.set()
        self._awake.set()
        self._pool.close()
        with self._lock:
            driven = list(self._driven)
        try:
            self._database.write(lambda db: jobs.give_back(db, driven))
        except Unavailable:
            log.warning("the database was gone first: what ran is taken up when it is silent")

    def _look(self) -> None:
        while not self._closing.is_set():
            self._awake.wait(IDLE if self._lives else None)
            self._awake.clear()
            try:
                if self._lives:
                    self._database.write(jobs.take_silent)
                while not self._closing.is_set() and self._claim():
                    pass
            except Unavailable as problem:
                log.warning("jobs wait: %s", problem)
            except Exception:
                log.exception("jobs wait")

    def _claim(self) -> bool:
        with self._lock:
            driven = list(self._driven.values())
        watched = sum(work.awaited for work in driven) < MOST_AWAITED
        kept = sum(work.job.kept for work in driven) < MOST_KEPT
        if len(driven) >= MOST or not (watched or kept):
            return False
        worker = f"{self._host}:{uuid.uuid4().hex}"
        job = self._database.write(lambda db: jobs.claim(db, worker, list(self._kinds), watched=watched, kept=kept))
        if job is None:
            return False
        work = Work(self._database, self._pool, job, worker, next(self._numbers), self._closing, self._seen)
        with self._lock:
            self._driven[worker] = work
        threading.Thread(target=self._drive, args=(worker, work), daemon=True).start()
        return True

    def _seen(self, began: float) -> None:
        """A job has something to show."""
        now = time.monotonic()
        with self._lock:
            self._pace += WEIGHT * (now - max(began, self._last_seen) - self._pace)
            self._last_seen = now
        self._awake.set()

    def _drive(self, worker: str, work: Work) -> None:
        job = work.job
        try:
            state, said = self._done(work)
            self._database.write(lambda db: jobs.end(db, job, worker, state, said))
        except Stopped:
            pass
        except Unavailable as problem:
            log.warning("%s %s waits: %s", job.kind, job.subject, problem)
        finally:
            with self._lock:
                self._driven.pop(worker, None)
            self._awake.set()

    def _done(self, work: Work) -> tuple[str, str]:
        """Do it: how it ended, and what is said about that."""
        job = work.job
        try:
            said = self._kinds[job.kind].run(work)
        except InputError as problem:
            return FAILED, str(problem)
        except WorkerDied as problem:
            return FAILED, f"tried twice: {problem}"
        except (Stopped, Unavailable):
            raise
        except Exception:
            if self._closing.is_set():
                raise Stopped from None
            log.exception("%s %s", job.kind, job.subject)
            return FAILED, "this could not be worked out; the log has the reason"
        return DONE, said
