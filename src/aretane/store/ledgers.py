"""Ledgers of matches: with which hands each was judged, from which facts, and every entry's judgement."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import orjson

from aretane.store import booked
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]


@dataclass(frozen=True)
class Kept:
    """`stamp` tells from which facts and by which model `body` was made; '' while there is none yet."""

    hands: Data
    stamp: str
    body: Data


def find(db: Db, scope: Scope, game_id: str, care: str) -> Kept | None:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT hands, stamp, body FROM ledger WHERE game_id = %s AND care = %s AND club_id = %s",
            (game_id, care, scope.club_id),
        )
        row = cursor.fetchone()
    return Kept(orjson.loads(row["hands"]), row["stamp"], orjson.loads(row["body"])) if row else None


def begin(db: Db, scope: Scope, game_id: str, care: str, hands: Data) -> None:
    """Judge a match with these hands from now on; what was found with others stays to be seen until then."""
    told = orjson.dumps(hands).decode()
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO ledger (club_id, game_id, care, hands) VALUES (%s, %s, %s, %s)"
            " ON DUPLICATE KEY UPDATE hands = %s, stamp = ''",
            (scope.club_id, game_id, care, told, told),
        )


def keep(db: Db, scope: Scope, game_id: str, care: str, stamp: str, body: Data) -> None:
    """What was found; the figures know of it from now on."""
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE ledger SET stamp = %s, body = %s WHERE game_id = %s AND care = %s AND club_id = %s",
            (stamp, orjson.dumps(body).decode(), game_id, care, scope.club_id),
        )
    booked.book(db, game_id, body)


def judgements(db: Db, game_id: str, care: str) -> dict[str, Data]:
    """The entries of a match that were judged, by their hashes."""
    with db.cursor() as cursor:
        cursor.execute("SELECT hash, body FROM judgement WHERE game_id = %s AND care = %s", (game_id, care))
        return {row["hash"]: orjson.loads(row["body"]) for row in cursor.fetchall()}


def add_judgements(db: Db, game_id: str, care: str, judged: Mapping[str, Data]) -> None:
    with db.cursor() as cursor:
        cursor.executemany(
            "INSERT IGNORE INTO judgement (game_id, care, hash, body) VALUES (%s, %s, %s, %s)",
            [(game_id, care, key, orjson.dumps(body).decode()) for key, body in judged.items()],
        )


def drop_judgements(db: Db, game_id: str, care: str, keys: Iterable[str]) -> None:
    """Those that nothing rests on any more."""
    with db.cursor() as cursor:
        cursor.executemany(
            "DELETE FROM judgement WHERE game_id = %s AND care = %s AND hash = %s",
            [(game_id, care, key) for key in sorted(keys)],
        )
