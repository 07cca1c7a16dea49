"""What was worked out, kept by the hash of everything that it depends on; parts of it while it is being made."""

from __future__ import annotations

from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope


def find(db: Db, scope: Scope, key: str) -> dict[str, Any]:
    """What is known so far; nothing at first."""
    with db.cursor() as cursor:
        cursor.execute("SELECT body FROM answer WHERE club_id = %s AND hash = %s", (scope.club_id, key))
        row = cursor.fetchone()
    return orjson.loads(row["body"]) if row else {}


def keep(db: Db, scope: Scope, key: str, body: dict[str, Any]) -> None:
    told = orjson.dumps(body).decode()
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO answer (club_id, hash, body) VALUES (%s, %s, %s) ON DUPLICATE KEY UPDATE body = %s",
            (scope.club_id, key, told, told),
        )


def forget_unasked(db: Db) -> None:
    """Those whose job is gone."""
    with db.cursor() as cursor:
        cursor.execute(
            "DELETE answer FROM answer LEFT JOIN job ON job.club_id = answer.club_id AND job.kind = 'choices'"
            " AND job.subject = answer.hash WHERE job.id IS NULL"
        )
