"""Recordings: what is known about a file. The bytes themselves lie beside the database, by content hash."""

from __future__ import annotations

from array import array
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Recording:
    """`probe` is what was found in the file; `seen_by` notes who may see it."""

    sha256: str
    name: str
    bytes: int
    added_at: datetime
    seen_by: str
    probe: dict[str, Any]


_SELECT = "SELECT sha256, name, bytes, added_at, seen_by, probe FROM recording"


def add(
    db: Db, scope: Scope, sha256: str, name: str, size: int, probe: dict[str, Any], times: Sequence[float]
) -> None:
    """Note a recording; one that is already there keeps its name and its note."""
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO recording"
            " (club_id, sha256, author_id, name, added_at, bytes, probe, frame_times)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            (
                scope.club_id,
                sha256,
                scope.author_id,
                name[:300],
                datetime.now(UTC).replace(tzinfo=None),
                size,
                orjson.dumps(probe).decode(),
                array("d", times).tobytes(),
            ),
        )


def listed(db: Db, scope: Scope) -> list[Recording]:
    with db.cursor() as cursor:
        cursor.execute(f"{_SELECT} WHERE club_id = %s ORDER BY added_at DESC", (scope.club_id,))
        return [_recording(row) for row in cursor.fetchall()]


def find(db: Db, scope: Scope, sha256: str) -> Recording | None:
    with db.cursor() as cursor:
        cursor.execute(f"{_SELECT} WHERE club_id = %s AND sha256 = %s", (scope.club_id, sha256))
        row = cursor.fetchone()
    return _recording(row) if row else None


def frame_times(db: Db, scope: Scope, sha256: str) -> list[float] | None:
    """Time of every frame on the browser's clock, in seconds; None for an unknown recording."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT frame_times FROM recording WHERE club_id = %s AND sha256 = %s", (scope.club_id, sha256)
        )
        row = cursor.fetchone()
    if row is None:
        return None
    times = array("d")
    times.frombytes(row["frame_times"])
    return times.tolist()


def known(db: Db, sha256: str) -> bool:
    """Whether any club has it."""
    with db.cursor() as cursor:
        return cursor.execute("SELECT 1 FROM recording WHERE sha256 = %s LIMIT 1", (sha256,)) > 0


def remove(db: Db, scope: Scope, sha256: str) -> bool:
    """Forget a recording. Returns whether no other club holds the same bytes: then the file can go."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM recording WHERE club_id = %s AND sha256 = %s", (scope.club_id, sha256))
    return not known(db, sha256)


def note_viewers(db: Db, scope: Scope, sha256: str, seen_by: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE recording SET seen_by = %s WHERE club_id = %s AND sha256 = %s",
            (seen_by[:500], scope.club_id, sha256),
        )


def _recording(row: dict[str, Any]) -> Recording:
    return Recording(**{**row, "probe": orjson.loads(row["probe"])})
