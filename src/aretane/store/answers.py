"""What was worked out: results kept by the hash of what they depend on, parts of them while they are being made."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope

SILENT = timedelta(seconds=40)  # without a heartbeat: nobody works on it any more
UNWATCHED = timedelta(seconds=25)  # nobody has asked for it: not worth going on
KEPT = timedelta(days=90)


@dataclass(frozen=True)
class Answer:
    """`state` is running, done, stopped or failed; `body` what is known so far."""

    hash: str
    state: str
    progress: float
    said: str
    body: dict[str, Any]


def ask(db: Db, scope: Scope, key: str) -> tuple[Answer, bool]:
    """The answer so far, and whether somebody must start to work on it: that is then the caller."""
    now = _now()
    with db.cursor() as cursor:
        cursor.execute("SELECT * FROM answer WHERE hash = %s AND club_id = %s FOR UPDATE", (key, scope.club_id))
        row = cursor.fetchone()
        if row is None:
            cursor.execute(
                "INSERT IGNORE INTO answer (hash, club_id, state, body, heartbeat, asked_at)"
                " VALUES (%s, %s, 'running', '{}', %s, %s)",
                (key, scope.club_id, now, now),
            )
            return Answer(key, "running", 0.0, "", {}), cursor.rowcount == 1
        left = row["state"] == "stopped" or (row["state"] == "running" and row["heartbeat"] < now - SILENT)
        cursor.execute(
            "UPDATE answer SET asked_at = %s, state = %s, heartbeat = %s WHERE hash = %s AND club_id = %s",
            (now, "running" if left else row["state"], now if left else row["heartbeat"], key, scope.club_id),
        )
    found = _answer(row)
    return (Answer(key, "running", found.progress, "", found.body), True) if left else (found, False)


def advance(db: Db, scope: Scope, key: str, progress: float, body: dict[str, Any]) -> bool:
    """Store what is known; False when it is no longer wanted: stopped, or nobody has looked for a while."""
    now = _now()
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT state, asked_at FROM answer WHERE hash = %s AND club_id = %s FOR UPDATE", (key, scope.club_id)
        )
        row = cursor.fetchone()
        if row is None or row["state"] != "running":
            return False
        watched: bool = row["asked_at"] > now - UNWATCHED
        cursor.execute(
            "UPDATE answer SET progress = %s, body = %s, heartbeat = %s, state = %s"
            " WHERE hash = %s AND club_id = %s",
            (progress, orjson.dumps(body).decode(), now, "running" if watched else "stopped", key, scope.club_id),
        )
        return watched


def end(db: Db, scope: Scope, key: str, state: str, said: str = "") -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE answer SET state = %s, said = %s, progress = IF(%s = 'done', 1, progress)"
            " WHERE hash = %s AND club_id = %s AND state = 'running'",
            (state, said[:500], state, key, scope.club_id),
        )


def forget_old(db: Db) -> None:
    """Answers that nobody asked for in a long time; failed ones are tried again after a restart."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM answer WHERE asked_at < %s OR state = 'failed'", (_now() - KEPT,))


def _answer(row: dict[str, Any]) -> Answer:
    return Answer(row["hash"], row["state"], row["progress"], row["said"], orjson.loads(row["body"]))


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
