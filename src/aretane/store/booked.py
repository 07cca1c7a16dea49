"""What the ledger booked for each stroke: kept by itself, and carried to the rows that figures read."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from aretane.store.database import Db

PARTS = ("before", "decision", "pot", "position", "luck")  # of an entry, as the columns stand
COLUMNS = ("promised", "decision", "potting", "position", "luck")


def book(db: Db, game_id: str, body: Mapping[str, Any]) -> None:
    """Those of a match, in place of what was booked before; balls are left out: they cannot be added to chances."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM booked WHERE game_id = %s", (game_id,))
        cursor.executemany(
            f"INSERT IGNORE INTO booked (game_id, shot_id, model, {', '.join(COLUMNS)})"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            [
                (game_id, one["id"], body.get("version") or 0, *(one[part] for part in PARTS))
                for rack in body["racks"]
                for one in rack["shots"]
                if one.get("id") and body.get("unit") != "balls"
            ],
        )
    carry(db, game_id)


def carry(db: Db, game_id: str) -> None:
    """The rows of a match say what is booked for them."""
    told = ", ".join(f"shot_fact.{name} = booked.{name}" for name in COLUMNS)
    with db.cursor() as cursor:
        cursor.execute(
            f"UPDATE shot_fact LEFT JOIN booked USING (game_id, shot_id) SET {told} WHERE shot_fact.game_id = %s",
            (game_id,),
        )
