"""Matches as stored facts, and the change log that writes them.

`edit`, `undo` and `redo` are the only ways a fact changes. Each writes one entry of the log, so that a
re-sent operation is recognised, a change of somebody else is noticed, and everything can be taken back.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import orjson
from pymysql.err import IntegrityError

from aretane.core.errors import Conflict, InputError, NotFound, Refused
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]


@dataclass(frozen=True)
class Fact:
    """One stored document. `parent` is the match for a rack, the rack for a shot."""

    kind: str
    id: str
    parent: str
    seat: float
    document: Data

    @property
    def key(self) -> str:
        return f"{self.kind}:{self.id}"

    def as_data(self) -> Data:
        return {"parent": self.parent, "seat": self.seat, "document": self.document}


@dataclass(frozen=True)
class Operation:
    """A change as the client sent it. `seen` is the newest log entry its view was made from."""

    id: str
    client: str
    seen: int
    label: str


@dataclass(frozen=True)
class Game:
    """A match with its facts in order: `racks` are (rack, its shots)."""

    id: str
    club_id: int
    last_change: int
    created_at: datetime
    header: Fact
    racks: tuple[tuple[Fact, tuple[Fact, ...]], ...]

    def as_match(self) -> Data:
        """The match format, exactly as it was given."""
        return {
            **self.header.document,
            "racks": [{**rack.document, "shots": [s.document for s in shots]} for rack, shots in self.racks],
        }


def create(db: Db, scope: Scope, game_id: str) -> None:
    with db.cursor() as cursor:
        try:
            cursor.execute(
                "INSERT INTO game (id, club_id, author_id, created_at) VALUES (%s, %s, %s, %s)",
                (game_id, scope.club_id, scope.author_id, _now()),
            )
        except IntegrityError:
            raise InputError("id", "is taken; make another") from None


def is_known(db: Db, scope: Scope, game_id: str) -> bool:
    with db.cursor() as cursor:
        cursor.execute("SELECT 1 FROM game WHERE id = %s AND club_id = %s", (game_id, scope.club_id))
        return cursor.fetchone() is not None


def delete(db: Db, scope: Scope, game_id: str) -> None:
    with db.cursor() as cursor:
        if not cursor.execute("DELETE FROM game WHERE id = %s AND club_id = %s", (game_id, scope.club_id)):
            raise NotFound("match")


def listed(db: Db, scope: Scope) -> list[Data]:
    """Every match of the club, newest first, with its header and how much was logged."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT game.id, game.created_at, game.last_change, header.document,"
            " (SELECT COUNT(*) FROM fact WHERE fact.game_id = game.id AND fact.kind = 'rack') AS racks,"
            " (SELECT COUNT(*) FROM fact WHERE fact.game_id = game.id AND fact.kind = 'shot') AS shots"
            " FROM game JOIN fact AS header ON header.game_id = game.id AND header.kind = 'match'"
            " WHERE game.club_id = %s ORDER BY game.created_at DESC, game.id",
            (scope.club_id,),
        )
        return [{**row, "document": orjson.loads(row["document"])} for row in cursor.fetchall()]


def load(db: Db, scope: Scope, game_id: str, *, lock: bool = False) -> Game:
    """A whole match. With `lock` nobody else changes it until the transaction ends."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, club_id, last_change, created_at FROM game WHERE id = %s AND club_id = %s"
            + (" FOR UPDATE" if lock else ""),
            (game_id, scope.club_id),
        )
        row = cursor.fetchone()
        if row is None:
            raise NotFound("match")
        cursor.execute(
            "SELECT kind, id, parent, seat, document FROM fact WHERE game_id = %s ORDER BY seat, id",
            (game_id,),
        )
        facts = [Fact(**{**f, "document": orjson.loads(f["document"])}) for f in cursor.fetchall()]
    if not any(fact.kind == "match" for fact in facts):
        raise NotFound("match")
    return _assembled(row, facts)


def _assembled(row: Mapping[str, Any], facts: Sequence[Fact]) -> Game:
    """A game from its facts, which are in the order of their seats."""
    shots: dict[str, list[Fact]] = {}
    for fact in facts:
        if fact.kind == "shot":
            shots.setdefault(fact.parent, []).append(fact)
    racks = tuple((fact, tuple(shots.get(fact.id, ()))) for fact in facts if fact.kind == "rack")
    return Game(**row, header=next(fact for fact in facts if fact.kind == "match"), racks=racks)


def with_changes(game: Game, changes: Mapping[str, Fact | None], entry: int) -> Game:
    """The game as it is stored after these changes, which the log has as `entry`."""
    facts = {fact.key: fact for rack, shots in game.racks for fact in (rack, *shots)}
    facts[game.header.key] = game.header
    for key, fact in changes.items():
        if fact is None:
            facts.pop(key, None)
        else:
            facts[key] = fact
    row = {"id": game.id, "club_id": game.club_id, "last_change": entry, "created_at": game.created_at}
    return _assembled(row, sorted(facts.values(), key=lambda fact: (fact.seat, fact.id)))


def already_done(db: Db, game: Game, operation_id: str) -> int | None:
    """The log entry that this operation made when it was sent before."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM change_log WHERE operation = %s AND game_id = %s", (operation_id, game.id))
        row = cursor.fetchone()
    return int(row["id"]) if row else None


def edit(db: Db, scope: Scope, game_id: str, operation: Operation, changes: Mapping[str, Fact | None]) -> int:
    """Write facts (None removes one) and return the log entry. Raises `Conflict`; nothing is written then.

    `changes` is by "kind:id". The caller holds the lock of `load(..., lock=True)`.
    """
    before = _stored(db, game_id, list(changes))
    strange = {
        key: row["fact"].as_data()
        for key, row in before.items()
        if row["changed_in"] > operation.seen and row["changed_by"] != operation.client
    }
    gone = _removed_by_others(db, game_id, operation, [k for k in changes if k not in before])
    if strange or gone:
        raise Conflict({**strange, **dict.fromkeys(gone)})
    return _write(db, scope, game_id, operation, "edit", changes, before, None)


def reverse(db: Db, scope: Scope, game_id: str, operation: Operation, kind: str) -> int:
    """Undo the author's newest change that stands, or redo the newest that was undone.

    Raises `Refused` when there is none, or `Conflict` when the facts are no longer as that change left them.
    """
    target = _newest_edit(db, game_id, scope) if kind == "undo" else _newest_undo(db, game_id, scope)
    if target is None:
        raise Refused(f"there is nothing to {kind}")
    facts: dict[str, Data] = orjson.loads(target["facts"])
    current = _stored(db, game_id, list(facts))
    for key, change in facts.items():
        now = current[key]["fact"].as_data() if key in current else None
        if now != change["after"]:
            raise Conflict({key: now})
    changes = {key: _fact(key, change["before"]) for key, change in facts.items()}
    entry = _write(db, scope, game_id, operation, kind, changes, current, target)
    with db.cursor() as cursor:
        cursor.execute("UPDATE change_log SET reversed_by = %s WHERE id = %s", (entry, target["id"]))
        if kind == "redo":
            cursor.execute("UPDATE change_log SET reversed_by = NULL WHERE id = %s", (target["reverses"],))
    return entry


def history(db: Db, scope: Scope, game_id: str, limit: int = 50) -> list[Data]:
    """The newest log entries, newest first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT change_log.id, made_at, kind, label, author.name AS author, reversed_by"
            " FROM change_log JOIN author ON author.id = change_log.author_id"
            " JOIN game ON game.id = change_log.game_id"
            " WHERE game_id = %s AND game.club_id = %s ORDER BY change_log.id DESC LIMIT %s",
            (game_id, scope.club_id, limit),
        )
        return list(cursor.fetchall())


def _newest_edit(db: Db, game_id: str, scope: Scope) -> Data | None:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, label, facts, reverses FROM change_log WHERE game_id = %s AND author_id = %s"
            " AND kind = 'edit' AND reversed_by IS NULL ORDER BY id DESC LIMIT 1",
            (game_id, scope.author_id),
        )
        return cursor.fetchone()


def _newest_undo(db: Db, game_id: str, scope: Scope) -> Data | None:
    """The newest undo that stands; an edit made after it ends what can be redone."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, label, facts, reverses FROM change_log WHERE game_id = %s AND author_id = %s"
            " AND kind = 'undo' AND reversed_by IS NULL AND id > COALESCE((SELECT MAX(id) FROM change_log"
            " WHERE game_id = %s AND author_id = %s AND kind = 'edit'), 0) ORDER BY id DESC LIMIT 1",
            (game_id, scope.author_id, game_id, scope.author_id),
        )
        return cursor.fetchone()


def _stored(db: Db, game_id: str, keys: Sequence[str]) -> dict[str, Data]:
    found = {}
    with db.cursor() as cursor:
        for key in keys:
            kind, _, id_ = key.partition(":")
            cursor.execute(
                "SELECT kind, id, parent, seat, document, changed_in, changed_by FROM fact"
                " WHERE game_id = %s AND kind = %s AND id = %s",
                (game_id, kind, id_),
            )
            row = cursor.fetchone()
            if row is not None:
                changed_in, changed_by = row.pop("changed_in"), row.pop("changed_by")
                fact = Fact(**{**row, "document": orjson.loads(row["document"])})
                found[key] = {"fact": fact, "changed_in": changed_in, "changed_by": changed_by}
    return found


def _removed_by_others(db: Db, game_id: str, operation: Operation, keys: Sequence[str]) -> list[str]:
    """Facts that are gone because another client removed them after this one looked."""
    if not keys:
        return []
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT facts FROM change_log WHERE game_id = %s AND id > %s AND client <> %s",
            (game_id, operation.seen, operation.client),
        )
        touched = {key for row in cursor.fetchall() for key in orjson.loads(row["facts"])}
    return [key for key in keys if key in touched]


def _write(
    db: Db,
    scope: Scope,
    game_id: str,
    operation: Operation,
    kind: str,
    changes: Mapping[str, Fact | None],
    before: Mapping[str, Data],
    target: Data | None,
) -> int:
    log = {
        key: {
            "before": before[key]["fact"].as_data() if key in before else None,
            "after": fact.as_data() if fact else None,
        }
        for key, fact in changes.items()
    }
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO change_log"
            " (game_id, operation, client, author_id, made_at, kind, label, facts, reverses)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s)",
            (
                game_id,
                operation.id,
                operation.client,
                scope.author_id,
                _now(),
                kind,
                operation.label[:200],
                orjson.dumps(log).decode(),
                target["id"] if target else None,
            ),
        )
        entry = int(cursor.lastrowid)
        for key, fact in changes.items():
            if fact is None:
                kind_, _, id_ = key.partition(":")
                cursor.execute(
                    "DELETE FROM fact WHERE game_id = %s AND kind = %s AND id = %s", (game_id, kind_, id_)
                )
                continue
            cursor.execute(
                "REPLACE INTO fact (game_id, kind, id, parent, seat, document, changed_in, changed_by)"
                " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
                (
                    game_id,
                    fact.kind,
                    fact.id,
                    fact.parent,
                    fact.seat,
                    orjson.dumps(fact.document).decode(),
                    entry,
                    operation.client,
                ),
            )
        cursor.execute("UPDATE game SET last_change = %s WHERE id = %s", (entry, game_id))
    return entry


def _fact(key: str, data: Data | None) -> Fact | None:
    kind, _, id_ = key.partition(":")
    return Fact(kind, id_, **data) if data is not None else None


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)


def felt_shots(db: Db, scope: Scope) -> list[dict[str, Any]]:
    """Shots with somebody's own estimate, the latest match first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT fact.id AS shot, fact.document, game.id AS game, header.document AS header FROM fact"
            " JOIN game ON game.id = fact.game_id JOIN fact AS header ON header.id = game.id"
            " WHERE game.club_id = %s AND fact.kind = 'shot' AND JSON_TYPE(JSON_EXTRACT(fact.document, '$.felt'))"
            " = 'OBJECT' ORDER BY game.created_at DESC, fact.id",
            (scope.club_id,),
        )
        rows = cursor.fetchall()
    found = []
    for row in rows:
        document, header = orjson.loads(row["document"]), orjson.loads(row["header"])
        side = (header.get("players") or {}).get(document.get("player")) or {}
        found.append(
            {
                "game": row["game"],
                "title": str(header.get("title") or header["discipline"]),
                "shot": row["shot"],
                "player": side.get("name"),
                "ball": (document.get("called") or {}).get("ball"),
                "felt": document["felt"],
            }
        )
    return found
