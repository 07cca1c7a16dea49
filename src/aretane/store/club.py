"""Clubs, authors and players: who a fact belongs to."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.store.database import Db

DEFAULT_CLUB = "My club"
DEFAULT_AUTHOR = "Coach"


@dataclass(frozen=True)
class Author:
    """Who writes, and for which club."""

    id: int
    club_id: int
    name: str
    club: str


def author_of(db: Db, club: str, name: str) -> Author:
    """The author of that name, made on first use together with the club."""
    club_id = _named(db, "INSERT INTO club (name) VALUES (%s)", "SELECT id FROM club WHERE name = %s", club)
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM author WHERE club_id = %s AND name = %s", (club_id, name))
        row = cursor.fetchone()
        if row is None:
            cursor.execute("INSERT INTO author (club_id, name) VALUES (%s, %s)", (club_id, name))
            return Author(cursor.lastrowid, club_id, name, club)
    return Author(row["id"], club_id, name, club)


def coach(db: Db) -> Author:
    """The one coach of an installation on one machine, made on first use."""
    return first_author(db) or author_of(db, DEFAULT_CLUB, DEFAULT_AUTHOR)


def first_author(db: Db) -> Author | None:
    """The first author; None on an empty store."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT author.id, author.club_id, author.name, club.name AS club"
            " FROM author JOIN club ON club.id = author.club_id ORDER BY author.id LIMIT 1"
        )
        row = cursor.fetchone()
    return Author(**row) if row else None


def player_id(db: Db, club_id: int, name: str) -> int:
    """The id of a club's player, made on first use."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM player WHERE club_id = %s AND name = %s", (club_id, name))
        row = cursor.fetchone()
        if row is not None:
            return int(row["id"])
        cursor.execute("INSERT INTO player (club_id, name) VALUES (%s, %s)", (club_id, name))
        return int(cursor.lastrowid)


def players(db: Db, club_id: int) -> list[dict[str, object]]:
    with db.cursor() as cursor:
        cursor.execute("SELECT id, name FROM player WHERE club_id = %s ORDER BY name", (club_id,))
        return list(cursor.fetchall())


def _named(db: Db, insert: str, select: str, name: str) -> int:
    with db.cursor() as cursor:
        cursor.execute(select, (name,))
        row = cursor.fetchone()
        if row is not None:
            return int(row["id"])
        cursor.execute(insert, (name,))
        return int(cursor.lastrowid)
