"""Puts the demo club, its matches and its recording into the store, once."""

from __future__ import annotations

import shutil
import uuid
from pathlib import Path

from aretane.demo.judge import load_verdict
from aretane.demo.stories import CLUB, COACH, STORIES
from aretane.formats.match import read_match
from aretane.store import games, recordings
from aretane.store.club import first_scope, scope_of
from aretane.store.database import Database, Db
from aretane.store.files import RecordingFiles
from aretane.store.matches import store_match
from aretane.store.scope import Scope
from aretane.vision.files.recording import probe

FOLDER = Path(__file__).parent
GAME_IDS = uuid.UUID("0d5e7a10-0000-4000-8000-000000000001")


def load_demo(database: Database, files: RecordingFiles) -> bool:
    """Load what is missing of the demo's matches; a club of one's own gets them as guests."""
    with database.transaction() as db:
        scope = first_scope(db) or scope_of(db, CLUB, COACH)
        wanted = [story.discipline for story in reversed(STORIES)]
        missing = [one for one in wanted if not games.exists(db, scope, game_of(one))]
        for discipline in missing:
            match = read_match((FOLDER / "matches" / f"{discipline}.json").read_bytes())
            for entry in match.get("recordings") or ():
                _add_film(db, scope, files, entry)
            store_match(db, scope, game_of(discipline), match, "demo")
            load_verdict(db, scope, discipline, game_of(discipline))
    return bool(missing)


def game_of(discipline: str) -> str:
    """The id of a discipline's demo match."""
    return str(GAME_IDS) if discipline == STORIES[0].discipline else str(uuid.uuid5(GAME_IDS, discipline))


def _add_film(db: Db, scope: Scope, files: RecordingFiles, entry: dict[str, str]) -> None:
    film = FOLDER / "rack.mp4"
    copy = files.incoming / str(uuid.uuid4())
    shutil.copyfile(film, copy)
    with files.adding(copy, entry["sha256"]):
        _note(db, scope, film, entry)


def _note(db: Db, scope: Scope, film: Path, entry: dict[str, str]) -> None:
    found, times = probe(film)
    recordings.add(db, scope, entry["sha256"], entry["name"], film.stat().st_size, found.as_data(), times)
    recordings.note_viewers(db, scope, entry["sha256"], "The two players and their coach")
