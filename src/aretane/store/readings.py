"""Readings of recordings: one for a match. Found shots grow while it runs; corrections are the coach's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]

SILENT = timedelta(seconds=90)  # without a heartbeat: nobody works on it any more
_COLUMNS = "id, club_id, game_id, state, reached, said, wanted, found, corrections"


@dataclass(frozen=True)
class Reading:
    """`state` is running, done, failed or stopped; `reached` the time of the recording up to which it was read."""

    id: str
    club_id: int
    game_id: str
    state: str
    reached: float
    said: str
    wanted: Data
    found: list[Data]
    corrections: list[Data]


def begin(db: Db, scope: Scope, game_id: str, reading_id: str, wanted: Data) -> None:
    """Start a reading for a match, in the place of an earlier one."""
    now = _now()
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM reading WHERE game_id = %s AND club_id = %s", (game_id, scope.club_id))
        cursor.execute(
            "INSERT INTO reading (id, club_id, game_id, author_id, created_at, heartbeat, state, wanted, found,"
            " corrections) VALUES (%s, %s, %s, %s, %s, %s, 'running', %s, '[]', '[]')",
            (reading_id, scope.club_id, game_id, scope.author_id, now, now, orjson.dumps(wanted).decode()),
        )


def of_game(db: Db, scope: Scope, game_id: str, *, lock: bool = False) -> Reading | None:
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {_COLUMNS} FROM reading WHERE game_id = %s AND club_id = %s" + (" FOR UPDATE" if lock else ""),
            (game_id, scope.club_id),
        )
        row = cursor.fetchone()
    return _reading(row) if row else None


def find(db: Db, scope: Scope, reading_id: str) -> Reading | None:
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {_COLUMNS} FROM reading WHERE id = %s AND club_id = %s", (reading_id, scope.club_id)
        )
        row = cursor.fetchone()
    return _reading(row) if row else None


def advance(db: Db, scope: Scope, reading_id: str, known: int, reached: float, shots: Sequence[Data]) -> bool:
    """Note how far it has come, with the shots found on the way beside the `known` ones.

    False if it is not wanted any more, or if somebody else goes on with it: then nothing is written.
    """
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT state, found FROM reading WHERE id = %s AND club_id = %s FOR UPDATE",
            (reading_id, scope.club_id),
        )
        row = cursor.fetchone()
        if row is None or row["state"] != "running":
            return False
        found = orjson.loads(row["found"])
        if len(found) != known:
            return False
        found += shots
        cursor.execute(
            "UPDATE reading SET reached = %s, found = %s, heartbeat = %s WHERE id = %s AND club_id = %s",
            (reached, orjson.dumps(found).decode(), _now(), reading_id, scope.club_id),
        )
    return True


def end(db: Db, scope: Scope, reading_id: str, state: str, said: str = "") -> None:
    """It is done, failed or stopped; one that has ended already stays as it is."""
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE reading SET state = %s, said = %s WHERE id = %s AND club_id = %s AND state = 'running'",
            (state, said[:500], reading_id, scope.club_id),
        )


def correct(db: Db, scope: Scope, reading_id: str, corrections: Sequence[Data]) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE reading SET corrections = %s WHERE id = %s AND club_id = %s",
            (orjson.dumps(list(corrections)).decode(), reading_id, scope.club_id),
        )


def take_silent(db: Db, *, everything: bool) -> list[tuple[Scope, str]]:
    """Readings of any club on which nobody works any more, because a server was stopped; they are the caller's now.

    With `everything` the caller is the only server there is, and all that run are silent.
    """
    now = _now()
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, club_id, author_id FROM reading WHERE state = 'running' AND heartbeat <= %s FOR UPDATE",
            (now if everything else now - SILENT,),
        )
        found = [(Scope(row["club_id"], row["author_id"], "", ""), row["id"]) for row in cursor.fetchall()]
        for _, reading_id in found:
            cursor.execute("UPDATE reading SET heartbeat = %s WHERE id = %s", (now, reading_id))
    return found


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def _reading(row: dict[str, Any]) -> Reading:
    return Reading(**{**row, **{key: orjson.loads(row[key]) for key in ("wanted", "found", "corrections")}})
