"""What a coach said over moments: one voice a shot."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.store.database import Db
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Voice:
    """`sort`: its media type, as the browser recorded it."""

    seconds: float
    sort: str
    sound: bytes


def keep(db: Db, scope: Scope, game_id: str, shot_id: str, voice: Voice) -> None:
    """In place of what was said before."""
    with db.cursor() as cursor:
        cursor.execute(
            "REPLACE INTO voice (club_id, game_id, shot_id, seconds, sort, sound) VALUES (%s, %s, %s, %s, %s, %s)",
            (scope.club_id, game_id, shot_id, voice.seconds, voice.sort, voice.sound),
        )


def find(db: Db, scope: Scope, game_id: str, shot_id: str) -> Voice | None:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT seconds, sort, sound FROM voice WHERE club_id = %s AND game_id = %s AND shot_id = %s",
            (scope.club_id, game_id, shot_id),
        )
        row = cursor.fetchone()
    return Voice(row["seconds"], row["sort"], row["sound"]) if row else None


def seconds(db: Db, scope: Scope, game_id: str) -> dict[str, float]:
    """By shot how long somebody speaks over it."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT shot_id, seconds FROM voice WHERE club_id = %s AND game_id = %s", (scope.club_id, game_id)
        )
        return {row["shot_id"]: row["seconds"] for row in cursor.fetchall()}


def drop(db: Db, scope: Scope, game_id: str, shot_id: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "DELETE FROM voice WHERE club_id = %s AND game_id = %s AND shot_id = %s",
            (scope.club_id, game_id, shot_id),
        )
