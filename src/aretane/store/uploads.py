"""Recordings on their way: what was announced, and what it became. Their bytes lie with the files."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from aretane.core.errors import Refused
from aretane.store.database import Db
from aretane.store.scope import Scope

STALE = timedelta(days=1)  # after which one that has not arrived is given up


@dataclass(frozen=True)
class Upload:
    """`size` bytes were announced; `sha256` is the recording that it became."""

    id: str
    size: int
    sha256: str | None


def begin(db: Db, scope: Scope, size: int) -> Upload:
    upload = Upload(str(uuid.uuid4()), size, None)
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO upload (id, club_id, author_id, size, begun_at) VALUES (%s, %s, %s, %s, %s)",
            (upload.id, scope.club_id, scope.author_id, size, _now()),
        )
    return upload


def find(db: Db, scope: Scope, upload_id: str) -> Upload:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, size, sha256 FROM upload WHERE club_id = %s AND id = %s", (scope.club_id, upload_id)
        )
        row = cursor.fetchone()
    if row is None:
        raise Refused("this upload is not known any more; add the file again")
    return Upload(**row)


def announced(db: Db) -> list[Upload]:
    """All that are on their way, of every club."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id, size, sha256 FROM upload WHERE sha256 IS NULL FOR UPDATE")
        return [Upload(**row) for row in cursor.fetchall()]


def room_taken(db: Db, scope: Scope) -> int:
    """Bytes of a club's recordings and of those on their way."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT (SELECT COALESCE(SUM(bytes), 0) FROM recording WHERE club_id = %(club)s)"
            " + (SELECT COALESCE(SUM(size), 0) FROM upload WHERE club_id = %(club)s AND sha256 IS NULL) AS n",
            {"club": scope.club_id},
        )
        row = cursor.fetchone()
    return int(row["n"]) if row else 0


def arrived(db: Db, scope: Scope, upload: Upload, sha256: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE upload SET sha256 = %s WHERE club_id = %s AND id = %s", (sha256, scope.club_id, upload.id)
        )


def forget(db: Db, scope: Scope, upload_id: str) -> None:
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM upload WHERE club_id = %s AND id = %s", (scope.club_id, upload_id))


def forget_stale(db: Db) -> None:
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM upload WHERE begun_at < %s", (_now() - STALE,))


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
