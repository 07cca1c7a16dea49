"""A store as full as a federation's: the demo's match many times over, copied where it lies."""

from __future__ import annotations

from aretane.demo.load import game_of
from aretane.store.database import Database

_NEW = "CONCAT(LPAD(HEX(seq), 8, '0'), SUBSTRING({}, 9))"
AT_ONCE = 250  # copies that one statement makes


def fill(database: Database, matches: int, discipline: str = "nine-ball") -> None:
    """So many copies, each with ids, a day and rows of its own."""
    for begin in range(1, matches + 1, AT_ONCE):
        _copy(database, f"seq_{begin}_to_{min(matches, begin + AT_ONCE - 1)}", game_of(discipline))


def _copy(database: Database, numbers: str, original: str) -> None:
    for table, ids in (
        ("game", ["id"]),
        ("fact", ["game_id", "id", "parent"]),
        ("shot_fact", ["game_id", "shot_id"]),
        ("booked", ["game_id", "shot_id"]),
    ):
        with database.transaction() as db, db.cursor() as cursor:
            cursor.execute(
                "SELECT column_name AS name FROM information_schema.columns WHERE table_schema = DATABASE()"
                " AND table_name = %s AND generation_expression IS NULL",
                (table,),
            )
            columns = [row["name"] for row in cursor.fetchall()]
            told = [
                _NEW.format(name) if name in ids
                else f"{name} - INTERVAL seq HOUR" if name in ("created_at", "played_on") else name
                for name in columns
            ]  # fmt: skip
            cursor.execute(
                f"INSERT INTO {table} ({', '.join(columns)}) SELECT {', '.join(told)} FROM {table}, {numbers}"
                f" WHERE {'id' if table == 'game' else 'game_id'} = %s",
                (original,),
            )
