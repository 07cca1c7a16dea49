"""The coach's voice over a moment: kept with the shot, heard at the bench and in clips."""

from __future__ import annotations

import tempfile
from pathlib import Path

from aretane.core.errors import NotFound, Refused
from aretane.desk.house import PATIENCE, House
from aretane.store import games, voices
from aretane.store.database import Db
from aretane.store.scope import Scope
from aretane.store.voices import Voice
from aretane.vision.clip.sound import length_of

MOST_BYTES, MOST_SECONDS = 4 * 1024 * 1024, 180.0
SORTS = ("audio/webm", "audio/ogg", "audio/mp4")  # what browsers record


def keep(house: House, scope: Scope, game_id: str, shot_id: str, sound: bytes, sort: str) -> dict[str, float]:
    """Keep what was said over a shot, in place of what was said before. Raises `Refused` for what is no speech."""
    sort = sort.partition(";")[0].strip()
    if sort not in SORTS:
        raise Refused("this is no recorded voice")
    if len(sound) > MOST_BYTES:
        raise Refused(f"a voice over a moment may last {MOST_SECONDS / 60:.0f} minutes")
    seconds = _length(house, sound)
    if seconds <= 0.0:
        raise Refused("nothing can be heard in it; record it again")
    if seconds > MOST_SECONDS:
        raise Refused(
            f"a voice over a moment may last {MOST_SECONDS / 60:.0f} minutes, this one has {seconds:.0f} s"
        )

    def write(db: Db) -> dict[str, float]:
        _check(db, scope, game_id, shot_id)
        voices.keep(db, scope, game_id, shot_id, Voice(seconds, sort, sound))
        return voices.seconds(db, scope, game_id)

    return house.database.write(write)


def seconds(house: House, scope: Scope, game_id: str) -> dict[str, float]:
    with house.database.transaction() as db:
        games.load(db, scope, game_id)
        return voices.seconds(db, scope, game_id)


def find(house: House, scope: Scope, game_id: str, shot_id: str) -> Voice:
    with house.database.transaction() as db:
        found = voices.find(db, scope, game_id, shot_id)
    if found is None:
        raise NotFound("voice")
    return found


def drop(house: House, scope: Scope, game_id: str, shot_id: str) -> dict[str, float]:
    def write(db: Db) -> dict[str, float]:
        games.load(db, scope, game_id)
        voices.drop(db, scope, game_id, shot_id)
        return voices.seconds(db, scope, game_id)

    return house.database.write(write)


def _check(db: Db, scope: Scope, game_id: str, shot_id: str) -> None:
    match = games.load(db, scope, game_id)
    if all(shot.id != shot_id for _, shots in match.racks for shot in shots):
        raise NotFound("shot")


def _length(house: House, sound: bytes) -> float:
    """Decoded by a worker, as every file that somebody sent."""
    with tempfile.NamedTemporaryFile() as file:
        file.write(sound)
        file.flush()
        return house.films.call(PATIENCE, length_of, Path(file.name))
