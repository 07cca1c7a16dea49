"""What every request needs: the database, the recordings' files, and who is asking."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import cast

from flask import current_app

from aretane.jobs.choices import Choices
from aretane.jobs.conversion import Conversions
from aretane.jobs.pool import Pool
from aretane.jobs.reading import Readings
from aretane.settings import Settings
from aretane.store.club import Author, coach
from aretane.store.database import Database, Db
from aretane.store.files import RecordingFiles


@dataclass(frozen=True)
class Context:
    settings: Settings
    database: Database
    files: RecordingFiles
    pool: Pool
    readings: Readings
    conversions: Conversions
    choices: Choices


def context() -> Context:
    return cast(Context, current_app.extensions["aretane"])


@contextmanager
def transaction() -> Iterator[tuple[Db, Author]]:
    """A transaction and the one coach of this installation (loopback only: nobody else gets here)."""
    with context().database.transaction() as db:
        yield db, coach(db)
