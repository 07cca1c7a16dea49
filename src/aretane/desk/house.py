"""What every question needs: the database, the recordings' files, and who does long work."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.jobs.choices import Choices
from aretane.jobs.conversion import Conversions
from aretane.jobs.pool import Pool
from aretane.jobs.reading import Readings
from aretane.settings import Settings
from aretane.store.database import Database
from aretane.store.files import RecordingFiles
from aretane.store.games import forget_deleted


@dataclass(frozen=True)
class House:
    database: Database
    files: RecordingFiles
    pool: Pool
    readings: Readings
    conversions: Conversions
    choices: Choices

    @classmethod
    def opened(cls, settings: Settings, database: Database) -> House:
        files, pool = RecordingFiles(settings.recordings), Pool(settings.dask)
        return cls(
            database, files, pool, Readings(database, pool, files.path), Conversions(pool, files),
            Choices(database, pool),
        )  # fmt: skip

    def resume(self, *, alone: bool) -> None:
        """Go on with what a stopped server left; with `alone` no other server works on this store."""
        self.database.write(forget_deleted)
        self.choices.begin()
        self.readings.resume(everything=alone)

    def close(self) -> None:
        self.choices.close()
        self.readings.close()
