"""Clubs, authors and players: who a fact belongs to."""

from __future__ import annotations

from collections.abc import Collection

from aretane.store.database import Db
from aretane.store.scope import Scope

DEFAULT_CLUB = "My club"
DEFAULT_AUTHOR = "Coach"


def scope_of(db: Db, club: str, name: str) -> Scope:
    """That of the author of that name, made on first use together with the club."""
    club_id = _named(db, "INSERT INTO club (name) VALUES (%s)", "SELECT id FROM club WHERE name = %s", club)
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM author WHERE club_id = %s AND name = %s", (club_id, name))
        row = cursor.fetchone()
        if row is None:
            cursor.execute("INSERT INTO author (club_id, name) VALUES (%s, %s)", (club_id, name))
            return Scope(club_id, cursor.lastrowid, club, name)
    return Scope(club_id, row["id"], club, name)


def coach(db: Db) -> Scope:
    """The one coach of an installation on one machine, made on first use."""
    return first_scope(db) or scope_of(db, DEFAULT_CLUB, DEFAULT_AUTHOR)


def first_scope(db: Db) -> Scope | None:
    """That of the first author; None on an empty store."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT author.club_id, author.id AS author_id, club.name AS club, author.name AS author"
            " FROM author JOIN club ON club.id = author.club_id ORDER BY author.id LIMIT 1"
        )
        row = cursor.fetchone()
    return Scope(**row) if row else None


def player_id(db: Db, scope: Scope, name: str) -> int:
    """The id of a club's player, made on first use."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM player WHERE club_id = %s AND name = %s", (scope.club_id, name))
        row = cursor.fetchone()
        if row is not None:
            return int(row["id"])
        cursor.execute("INSERT INTO player (club_id, name) VALUES (%s, %s)", (scope.club_id, name))
        return int(cursor.lastrowid)


def player_ids(db: Db, scope: Scope, names: Collection[str]) -> dict[str, int]:
    """Those of a club's players, made on first use."""
    found: dict[str, int] = {}
    with db.cursor() as cursor:
        if names:
            cursor.execute(
                "SELECT name, id FROM player WHERE club_id = %s AND name IN %s", (scope.club_id, tuple(names))
            )
            found = {row["name"]: row["id"] for row in cursor.fetchall()}
    return {name: found.get(name) or player_id(db, scope, name) for name in sorted(names)}


def players(db: Db, scope: Scope) -> list[dict[str, object]]:
    with db.cursor() as cursor:
        cursor.execute("SELECT id, name FROM player WHERE club_id = %s ORDER BY name", (scope.club_id,))
        return list(cursor.fetchall())


def _named(db: Db, insert: str, select: str, name: str) -> int:
    with db.cursor() as cursor:
        cursor.execute(select, (name,))
        row = cursor.fetchone()
        if row is not None:
            return int(row["id"])
        cursor.execute(insert, (name,))
        return int(cursor.lastrowid)
