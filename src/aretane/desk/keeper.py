"""What a running server does by itself every hour: brings figures up to date, puts away what nobody can want."""

from __future__ import annotations

import logging
import threading

from aretane.core.errors import Unavailable
from aretane.store import answers, games, jobs, recordings, shot_figures, uploads
from aretane.store.database import Database
from aretane.store.files import RecordingFiles

EVERY = 3600.0  # seconds

log = logging.getLogger("aretane.keeper")


class Keeper:
    """A thread that tidies at once and then every hour."""

    def __init__(self, database: Database, files: RecordingFiles) -> None:
        self._database, self._files = database, files
        self._closing = threading.Event()

    def begin(self) -> None:
        threading.Thread(target=self._keep, daemon=True).start()

    def close(self) -> None:
        self._closing.set()

    def rebuild(self) -> None:
        """Figures that an older version made, newest matches first; meanwhile they are as they were."""
        while not self._closing.is_set() and self._database.write(shot_figures.rebuild_outdated):
            pass

    def tidy(self) -> None:
        """Matches that were deleted long ago, old answers, uploads that never arrived, files without a row."""
        for forget in (games.forget_deleted, jobs.forget_old, answers.forget_unasked, uploads.forget_stale):
            self._database.write(forget)
        self._files.sweep()
        for sha256 in self._files.untouched():
            with self._files.held(sha256), self._database.transaction() as db:
                if not recordings.known(db, sha256):
                    self._files.remove(sha256)

    def _keep(self) -> None:
        while True:
            try:
                self.rebuild()
                self.tidy()
            except Unavailable as problem:
                log.warning("tidying waits: %s", problem)
            except Exception:
                log.exception("tidying failed")
            if self._closing.wait(EVERY):
                return
