"""What every question needs: the database, the recordings' files, and who does long work."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.desk.keeper import Backups, Keeper
from aretane.desk.recent import Recent
from aretane.desk.work.kinds import kinds
from aretane.jobs.pool import LOCAL_WORKERS, NOW, Pool
from aretane.jobs.runner import Runner
from aretane.settings import Settings
from aretane.store.database import Database
from aretane.store.files import RecordingFiles

PATIENCE = 60.0  # seconds
PART_MEMORY, FILM_MEMORY = 4_000_000_000, 1_500_000_000  # bytes for a part of long work, and to open a film


@dataclass(frozen=True)
class House:
    database: Database
    files: RecordingFiles
    room: int  # bytes of recordings that a club may keep
    pool: Pool
    films: Pool
    jobs: Runner
    recent: Recent
    keeper: Keeper
    judges: bool  # finished racks by itself, before anybody asks

    @classmethod
    def opened(cls, settings: Settings, database: Database) -> House:
        files, pool = RecordingFiles(settings.recordings), Pool(PART_MEMORY, LOCAL_WORKERS, settings.dask)
        runner = Runner(database, pool, kinds(database, files))
        return cls(
            database,
            files,
            settings.room,
            pool,
            Pool(FILM_MEMORY, 1),
            runner,
            Recent(),
            Keeper(database, files),
            settings.judges,
        )

    def resume(self, *, alone: bool, backups: Backups | None = None) -> None:
        """Go on with what a stopped server left; with `alone` no other server works on this store."""
        self.keeper.begin(backups)
        self.pool.submit(PATIENCE, NOW, ready)
        self.jobs.begin(alone=alone)

    def close(self) -> None:
        self.keeper.close()
        self.jobs.close()
        self.films.close()


def ready() -> None:
    """Load in a worker what most parts need, so that the first one does not wait for it."""
    import scipy.stats.qmc  # noqa: F401

    import aretane.core.planning.choices.options  # noqa: F401
