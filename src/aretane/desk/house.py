"""What every question needs: the database, the recordings' files, and who does long work."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.desk.recent import Recent
from aretane.desk.work.kinds import kinds
from aretane.jobs.pool import Pool
from aretane.jobs.runner import Runner
from aretane.settings import Settings
from aretane.store import answers, jobs
from aretane.store.database import Database
from aretane.store.files import RecordingFiles
from aretane.store.games import forget_deleted

PATIENCE = 60.0  # seconds


@dataclass(frozen=True)
class House:
    database: Database
    files: RecordingFiles
    pool: Pool
    jobs: Runner
    recent: Recent

    @classmethod
    def opened(cls, settings: Settings, database: Database) -> House:
        files, pool = RecordingFiles(settings.recordings), Pool(settings.dask)
        return cls(database, files, pool, Runner(database, pool, kinds(database, files)), Recent())

    def resume(self, *, alone: bool) -> None:
        """Go on with what a stopped server left; with `alone` no other server works on this store."""
        self.database.write(forget_deleted)
        self.database.write(jobs.forget_old)
        self.database.write(answers.forget_unasked)
        self.pool.submit(PATIENCE, ready)
        self.jobs.begin(alone=alone)

    def close(self) -> None:
        self.jobs.close()


def ready() -> None:
    """Load in a worker what most parts need, so that the first one does not wait for it."""
    import scipy.stats.qmc  # noqa: F401

    import aretane.core.planning.choices.options  # noqa: F401
