"""Readings of recordings: one for a match. Found shots grow while it runs; corrections are the coach's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]

_COLUMNS = "id, club_id, game_id, reached, wanted, found, corrections"


@dataclass(frozen=True)
class Reading:
    """`reached` is the time of the recording up to which it was read; whether it goes on is its job's."""

    id: str
    club_id: int
    game_id: str
    reached: float
    wanted: Data
    found: list[Data]
    corrections: list[Data]


def begin(db: Db, scope: Scope, game_id: str, reading_id: str, wanted: Data) -> None:
    """Start a reading for a match, in the place of an earlier one."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM reading WHERE game_id = %s AND club_id = %s", (game_id, scope.club_id))
        cursor.execute(
            "INSERT INTO reading (id, club_id, game_id, author_id, created_at, wanted, found,"
            " corrections) VALUES (%s, %s, %s, %s, %s, %s, '[]', '[]')",
            (reading_id, scope.club_id, game_id, scope.author_id, _now(), orjson.dumps(wanted).decode()),
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

    False if somebody else goes on with it: then nothing is written.
    """
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT found FROM reading WHERE id = %s AND club_id = %s FOR UPDATE",
            (reading_id, scope.club_id),
        )
        row = cursor.fetchone()
        if row is None:
            return False
        found = orjson.loads(row["found"])
        if len(found) != known:
            return False
        found += shots
        cursor.execute(
            "UPDATE reading SET reached = %s, found = %s WHERE id = %s AND club_id = %s",
            (reached, orjson.dumps(found).decode(), reading_id, scope.club_id),
        )
    return True


def correct(db: Db, scope: Scope, reading_id: str, corrections: Sequence[Data]) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE reading SET corrections = %s WHERE id = %s AND club_id = %s",
            (orjson.dumps(list(corrections)).decode(), reading_id, scope.club_id),
        )


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def _reading(row: dict[str, Any]) -> Reading:
    return Reading(**{**row, **{key: orjson.loads(row[key]) for key in ("wanted", "found", "corrections")}})
