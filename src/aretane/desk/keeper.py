"""What a running server does by itself every hour: brings figures up to date, puts away what nobody can want,
and backs up once a day."""

from __future__ import annotations

import logging
import sys
import threading
from dataclasses import dataclass
from pathlib import Path

from aretane.core.errors import Problem
from aretane.store import answers, backup, games, jobs, recordings, shot_figures, uploads
from aretane.store.database import Database
from aretane.store.files import RecordingFiles

EVERY = 3600.0  # seconds
DAY = 23.5 * 3600.0  # looked at every hour, so that it stays about the same time of day

log = logging.getLogger("aretane.keeper")


@dataclass(frozen=True)
class Backups:
    """Where to back up to every day, and how many are kept."""

    folder: Path
    many: int


class Keeper:
    """A thread that tidies at once and then every hour."""

    def __init__(self, database: Database, files: RecordingFiles) -> None:
        self._database, self._files = database, files
        self._closing = threading.Event()
        self._backups: Backups | None = None

    def begin(self, backups: Backups | None = None) -> None:
        self._backups = backups
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

    def back_up(self) -> None:
        """Once a day, where it was asked for."""
        kept = self._backups
        if kept is None:
            return
        target = backup.due(kept.folder, DAY)
        if target is not None:
            backup.back_up(self._database, self._files, target)
            backup.keep_newest(kept.folder, kept.many)
            log.info("backed up to %s", target)

    def _keep(self) -> None:
        while True:
            for name, step in (("figures", self.rebuild), ("tidying", self.tidy), ("the backup", self.back_up)):
                try:
                    step()
                except Problem as problem:
                    log.warning("%s waits: %s", name, problem)
                    print(f"{name} waits: {problem}", file=sys.stderr, flush=True)
                except Exception:
                    log.exception("%s failed", name)
            if self._closing.wait(EVERY):
                return
