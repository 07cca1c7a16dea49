"""Puts the demo club, its match and its recording into the store, once."""

from __future__ import annotations

from pathlib import Path

from aretane.demo import script
from aretane.formats.match import read_match
from aretane.store import games, recordings
from aretane.store.club import author_of, first_author
from aretane.store.database import Database
from aretane.store.files import RecordingFiles
from aretane.store.matches import store_match
from aretane.vision.recording import probe

FOLDER = Path(__file__).parent
GAME = "0d5e7a10-0000-4000-8000-000000000001"


def load_demo(database: Database, files: RecordingFiles) -> bool:
    """Load the demo unless its match is there already; a club of one's own gets it as a guest."""
    with database.transaction() as db:
        author = first_author(db) or author_of(db, script.CLUB, script.COACH)
        if any(row["id"] == GAME for row in games.listed(db, author.club_id)):
            return False
        match = read_match((FOLDER / "match.json").read_bytes())
        entry = match["recordings"][0]
        film = FOLDER / "rack.mp4"
        found, times = probe(film)
        files.keep(film, entry["sha256"], copy=True)
        size = film.stat().st_size
        recordings.add(db, author, entry["sha256"], entry["name"], size, found.as_data(), times)
        recordings.note_viewers(db, author.club_id, entry["sha256"], "The two players and their coach")
        store_match(db, author, GAME, match, "demo")
    return True
