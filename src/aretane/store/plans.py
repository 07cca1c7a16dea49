"""Planned practice: sessions by day, each with what is to be practised in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import orjson

from aretane.core.errors import NotFound
from aretane.store.club import player_ids
from aretane.store.database import Db
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Planned:
    """`begins`: the clock on the wall of the room; `exercises` by their ids, in their order."""

    id: str
    player: str
    begins: datetime
    minutes: int
    goal: str
    note: str
    exercises: Sequence[str]


def keep(db: Db, scope: Scope, one: Planned) -> None:
    """In place of what was planned under this id; another club's stays as it is."""
    ids = player_ids(db, scope, {one.player})
    with db.cursor() as cursor:
        cursor.execute("SELECT club_id FROM planned WHERE id = %s", (one.id,))
        row: dict[str, Any] | None = cursor.fetchone()
        if row is not None and row["club_id"] != scope.club_id:
            raise NotFound("session")
        cursor.execute(
            "REPLACE INTO planned (id, club_id, player_id, begins, minutes, goal, note, exercises)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            (
                one.id, scope.club_id, ids[one.player], one.begins, one.minutes, one.goal, one.note,
                orjson.dumps(list(one.exercises)).decode(),
            ),
        )  # fmt: skip


def listed(db: Db, scope: Scope) -> list[Planned]:
    """Everything that is planned in the club, the earliest first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT planned.*, player.name AS player FROM planned JOIN player ON player.id = player_id"
            " WHERE planned.club_id = %s ORDER BY begins, planned.id",
            (scope.club_id,),
        )
        return [
            Planned(
                row["id"], row["player"], row["begins"], row["minutes"], row["goal"], row["note"],
                orjson.loads(row["exercises"]),
            )
            for row in cursor.fetchall()
        ]  # fmt: skip


def drop(db: Db, scope: Scope, id_: str) -> None:
    with db.cursor() as cursor:
        if not cursor.execute("DELETE FROM planned WHERE id = %s AND club_id = %s", (id_, scope.club_id)):
            raise NotFound("session")
