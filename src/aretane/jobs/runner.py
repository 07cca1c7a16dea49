"""Drives jobs: claims a row, a thread each, does it by the kind that the desk has registered for it."""

from __future__ import annotations

import logging
import socket
import threading
import uuid
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from aretane.core.errors import InputError, Unavailable
from aretane.jobs.pool import Pool, WorkerDied
from aretane.jobs.work import Stopped, Work
from aretane.store import jobs
from aretane.store.database import Database, Db
from aretane.store.jobs import DONE, FAILED, KILLS, Job
from aretane.store.scope import Scope

IDLE = 5.0  # seconds after which a server looks for what others have left
MOST, MOST_KEPT = 12, 2  # jobs that are driven at once, and of those that nobody waits for

log = logging.getLogger("aretane.jobs")


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
        self._driven: dict[str, Job] = {}  # by the name of who does it, new for every claim
        self._looking: threading.Thread | None = None
        self._lives = False

    def ask(self, db: Db, scope: Scope, kind: str, subject: str, arguments: dict[str, Any] | None = None) -> Job:
        """The job as it stands, begun if need be; call `wake` when the transaction is over."""
        return jobs.ask(db, scope, kind, subject, arguments or {}, kept=self._kinds[kind].kept)

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
        if len(driven) >= MOST:
            return False
        worker, more_kept = f"{self._host}:{uuid.uuid4().hex}", sum(job.kept for job in driven) < MOST_KEPT
        job = self._database.write(lambda db: jobs.claim(db, worker, list(self._kinds), kept=more_kept))
        if job is None:
            return False
        with self._lock:
            self._driven[worker] = job
        threading.Thread(target=self._drive, args=(worker, job), daemon=True).start()
        return True

    def _drive(self, worker: str, job: Job) -> None:
        try:
            state, said = self._done(worker, job)
            self._database.write(lambda db: jobs.end(db, job, worker, state, said))
        except Stopped:
            pass
        except Unavailable as problem:
            log.warning("%s %s waits: %s", job.kind, job.subject, problem)
        finally:
            with self._lock:
                self._driven.pop(worker, None)
            self._awake.set()

    def _done(self, worker: str, job: Job) -> tuple[str, str]:
        """Do it: how it ended, and what is said about that."""
        try:
            said = self._kinds[job.kind].run(Work(self._database, self._pool, job, worker, self._closing))
        except InputError as problem:
            return FAILED, str(problem)
        except WorkerDied:
            return FAILED, KILLS
        except (Stopped, Unavailable):
            raise
        except Exception:
            if self._closing.is_set():
                raise Stopped from None
            log.exception("%s %s", job.kind, job.subject)
            return FAILED, "this could not be worked out; the log has the reason"
        return DONE, said
