"""Clubs, authors and players: who a fact belongs to."""

from __future__ import annotations

from collections.abc import Collection

from aretane.core.errors import NotFound, Refused
from aretane.store.database import Db
from aretane.store.scope import Scope

DEFAULT_CLUB = "My club"
DEFAULT_AUTHOR = "Coach"


def scope_of(db: Db, club: str, name: str) -> Scope:
    """That of the author of that name, made on first use together with the club."""
    club_id = _made_once(db, "club", {"name": club})
    return Scope(club_id, _made_once(db, "author", {"club_id": club_id, "name": name}), club, name)


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


def player_ids(db: Db, scope: Scope, names: Collection[str]) -> dict[str, int]:
    """Those of a club's players, made on first use."""
    found: dict[str, int] = {}
    with db.cursor() as cursor:
        if names:
            cursor.execute(
                "SELECT name, id FROM player WHERE club_id = %s AND name IN %s", (scope.club_id, tuple(names))
            )
            found = {row["name"]: row["id"] for row in cursor.fetchall()}
    return {
        name: found.get(name) or _made_once(db, "player", {"club_id": scope.club_id, "name": name})
        for name in sorted(names)
    }


def players(db: Db, scope: Scope) -> list[dict[str, object]]:
    """Everybody who was ever named; `joined_to`: the player whose other name it is."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id, name, joined_to FROM player WHERE club_id = %s ORDER BY name", (scope.club_id,))
        return list(cursor.fetchall())


def one_player(db: Db, scope: Scope) -> dict[int, int]:
    """Of every name that is another's as well, the player that it stands for."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, joined_to FROM player WHERE club_id = %s AND joined_to IS NOT NULL", (scope.club_id,)
        )
        return {row["id"]: row["joined_to"] for row in cursor.fetchall()}


def every_name(db: Db, scope: Scope, player: int) -> tuple[int, ...]:
    """A player under every name that stands for him."""
    return (player, *(name for name, is_ in one_player(db, scope).items() if is_ == player))


def join(db: Db, scope: Scope, player: int, other: int | None) -> None:
    """Let a name stand for another player from now on, or (None) for itself again; what is logged stays."""
    known = {one["id"]: one["joined_to"] for one in players(db, scope)}
    if player not in known or other not in (None, *known):
        raise NotFound("player")
    if other == player:
        raise Refused("a player is not joined with himself")
    if other is not None and (known[other] is not None or player in known.values()):
        raise Refused("one of the two is joined with somebody already; part them first")
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE player SET joined_to = %s WHERE id = %s AND club_id = %s", (other, player, scope.club_id)
        )


def _made_once(db: Db, table: str, known: dict[str, str | int]) -> int:
    """The id of a row, made on first use; two who make it together get the same."""
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT id FROM {table} WHERE {' AND '.join(f'{name} = %({name})s' for name in known)}", known
        )
        row = cursor.fetchone()
        if row is not None:
            return int(row["id"])
        cursor.execute(
            f"INSERT INTO {table} ({', '.join(known)}) VALUES ({', '.join(f'%({name})s' for name in known)})"
            " ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)",
            known,
        )
        return int(cursor.lastrowid)
