"""Tables that somebody kept, with name, tags and a note."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import orjson

from aretane.core.errors import NotFound
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]


def keep(db: Db, scope: Scope, one: Data) -> None:
    """Keep a table; one of the same id in the same club is written over."""
    with db.cursor() as cursor:
        cursor.execute("SELECT club_id FROM kept_table WHERE id = %s", (one["id"],))
        row = cursor.fetchone()
        if row is not None and row["club_id"] != scope.club_id:
            raise NotFound("table")
        cursor.execute(
            "REPLACE INTO kept_table (id, club_id, name, tags, note, discipline, document, kept_at)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            (
                one["id"], scope.club_id, one["name"], " ".join(one["tags"]), one["note"],
                one["document"]["discipline"], orjson.dumps(one["document"]).decode(),
                datetime.now(UTC).replace(tzinfo=None),
            ),
        )  # fmt: skip


def every(db: Db, scope: Scope) -> list[Data]:
    """All of the club's, the newest first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, name, tags, note, discipline, document FROM kept_table WHERE club_id = %s"
            " ORDER BY kept_at DESC, id",
            (scope.club_id,),
        )
        return [
            {**row, "tags": row["tags"].split(), "document": orjson.loads(row["document"])}
            for row in cursor.fetchall()
        ]


def drop(db: Db, scope: Scope, id_: str) -> None:
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM kept_table WHERE id = %s AND club_id = %s", (id_, scope.club_id))
        if not cursor.rowcount:
            raise NotFound("table")
