"""Matches as stored facts: the match itself, its racks, its shots.

`write`, `reverse` and `delete` are the only ways a fact changes; each is an entry of the change log.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import orjson
from pymysql.err import IntegrityError

from aretane.core.errors import Conflict, NotFound, Refused, Taken
from aretane.store import changes
from aretane.store.changes import Operation, Part, Row, part_of
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]
Changes = Mapping[str, "Fact | None"]  # by "kind:id"; None removes one

KEPT = timedelta(days=30)  # how long a deleted match can be had back
DELETED = "deleted"  # the field of a match's part in the log
SAME_RACK = "the same rack"  # of what clashes where two begin it
_IN = "document."  # before the names of a document's fields in the log


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

    @property
    def row(self) -> Row:
        """Its fields as the log has them."""
        return {"parent": self.parent, "seat": self.seat, **{_IN + k: v for k, v in self.document.items()}}

    @classmethod
    def of(cls, key: str, row: Row) -> Fact:
        kind, _, id_ = key.partition(":")
        document = {name.removeprefix(_IN): value for name, value in row.items() if name.startswith(_IN)}
        return cls(kind, id_, row["parent"], row["seat"], document)

    def as_data(self) -> Data:
        return {"parent": self.parent, "seat": self.seat, "document": self.document}


@dataclass(frozen=True)
class Match:
    """A match with its facts in order: `racks` are (rack, its shots)."""

    id: str
    club_id: int
    last_change: int
    created_at: datetime
    header: Fact
    racks: tuple[tuple[Fact, tuple[Fact, ...]], ...]

    @property
    def facts(self) -> dict[str, Fact]:
        """All of them, by their keys."""
        every = (self.header, *(fact for rack, shots in self.racks for fact in (rack, *shots)))
        return {fact.key: fact for fact in every}

    def place(self, shot_id: str) -> tuple[int, int]:
        """The rack and the entry of a shot, from 0. Raises `NotFound`."""
        for rack, (_, shots) in enumerate(self.racks):
            for index, shot in enumerate(shots):
                if shot.id == shot_id:
                    return rack, index
        raise NotFound("shot")

    def as_document(self) -> Data:
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
            raise Taken() from None


def is_known(db: Db, scope: Scope, game_id: str) -> bool:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT 1 FROM game WHERE id = %s AND club_id = %s AND deleted_at IS NULL", (game_id, scope.club_id)
        )
        return cursor.fetchone() is not None


def of_same(db: Db, scope: Scope, own_id: str) -> list[str]:
    """The matches of the club that are this one, by the id that it has wherever it is kept; newest first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT game.id FROM game JOIN fact ON fact.game_id = game.id AND fact.kind = 'match'"
            " WHERE club_id = %s AND deleted_at IS NULL AND JSON_VALUE(fact.document, '$.id') = %s"
            " ORDER BY game.created_at DESC",
            (scope.club_id, own_id),
        )
        return [row["id"] for row in cursor.fetchall()]


def delete(db: Db, scope: Scope, game_id: str, operation: Operation) -> None:
    """A match is gone for everybody; for `KEPT` it can be had back by undoing that."""
    _show(db, scope, game_id, deleted=True)
    changes.log(db, scope, game_id, operation, [Part("match", game_id, {DELETED: False}, {DELETED: True})])


def forget_deleted(db: Db) -> None:
    """Matches of any club that were deleted long ago, with all that belongs to them."""
    with db.cursor() as cursor:
        cursor.execute("SELECT id FROM game WHERE deleted_at < %s", (_now() - KEPT,))
        for row in cursor.fetchall():
            cursor.execute(
                "DELETE change_part FROM change_part JOIN change_entry ON change_entry.id = entry_id"
                " WHERE home = %s",
                (row["id"],),
            )
            cursor.execute("DELETE FROM change_entry WHERE home = %s", (row["id"],))
            cursor.execute("DELETE FROM game WHERE id = %s", (row["id"],))


def _show(db: Db, scope: Scope, game_id: str, *, deleted: bool) -> None:
    with db.cursor() as cursor:
        if not cursor.execute(
            "UPDATE game SET deleted_at = %s WHERE id = %s AND club_id = %s"
            f" AND deleted_at IS {'NULL' if deleted else 'NOT NULL'}",
            (_now() if deleted else None, game_id, scope.club_id),
        ):
            raise NotFound("match")


@dataclass(frozen=True)
class Sought:
    """Which matches of a list: `search` in title, place and names, all that is empty does not matter; days as
    2026-11-28, those of matches without a date being the days on which they were begun here.
    """

    search: str = ""
    player: str = ""
    discipline: str = ""
    session: str = ""
    since: str = ""
    until: str = ""
    deleted: bool = False


_DAY = "COALESCE(JSON_VALUE(header.document, '$.date'), DATE_FORMAT(game.created_at, '%%Y-%%m-%%d'))"
_PEOPLE = ", ".join(
    f"JSON_VALUE(header.document, '$.players.{seat}.{who}')" for seat in "AB" for who in ("name", "partner")
)
_FILTERS = {
    "search": "CONCAT_WS(' ', JSON_VALUE(header.document, '$.title'), JSON_VALUE(header.document, '$.place'),"
    " JSON_EXTRACT(header.document, '$.players.*.*')) COLLATE utf8mb4_general_ci LIKE %(search)s",
    "player": f"%(player)s IN ({_PEOPLE})",
    "discipline": "JSON_VALUE(header.document, '$.discipline') = %(discipline)s",
    "session": "COALESCE(JSON_VALUE(header.document, '$.session'), 'match') = %(session)s",
    "since": f"{_DAY} >= %(since)s",
    "until": f"{_DAY} <= %(until)s",
}


def listed(db: Db, scope: Scope, begin: int, many: int, sought: Sought = Sought()) -> tuple[int, list[Data]]:
    """Matches of the club that are sought: how many there are, and so many from `begin` on, those worked on last
    first, with their headers, when that was, and how much was logged.
    """
    asked = {
        **asdict(sought),
        "search": _holding(sought.search),
        "club": scope.club_id,
        "many": many,
        "begin": begin,
    }
    filters = [test for name, test in _FILTERS.items() if getattr(sought, name)]
    where = " AND ".join(
        ["game.club_id = %(club)s", f"game.deleted_at IS {'NOT NULL' if sought.deleted else 'NULL'}", *filters]
    )
    joined = "game JOIN fact AS header ON header.game_id = game.id AND header.kind = 'match'"
    with db.cursor() as cursor:
        cursor.execute(f"SELECT COUNT(*) AS n FROM {joined if filters else 'game'} WHERE {where}", asked)
        row = cursor.fetchone()
        cursor.execute(
            "SELECT game.id, game.created_at, game.last_change, change_entry.made_at AS changed_at,"
            " header.document,"
            " (SELECT COUNT(*) FROM fact WHERE fact.game_id = game.id AND fact.kind = 'rack') AS racks,"
            " (SELECT COUNT(*) FROM fact WHERE fact.game_id = game.id AND fact.kind = 'shot') AS shots"
            f" FROM {joined} LEFT JOIN change_entry ON change_entry.id = game.last_change"
            f" WHERE {where} ORDER BY game.last_change DESC, game.id DESC LIMIT %(many)s OFFSET %(begin)s",
            asked,
        )
        found = [{**one, "document": orjson.loads(one["document"])} for one in cursor.fetchall()]
    return row["n"] if row else 0, found


def _holding(words: str) -> str:
    """For LIKE: whatever holds these words as they stand."""
    escaped = words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")
    return f"%{escaped}%"


def noted(db: Db, scope: Scope, words: str, many: int) -> list[Data]:
    """The newest shots of the club whose notes hold these words."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT fact.id AS shot, game.id AS game, fact.note, JSON_VALUE(header.document, '$.title') AS title"
            " FROM fact JOIN game ON game.id = fact.game_id"
            " JOIN fact AS header ON header.game_id = game.id AND header.kind = 'match'"
            " WHERE fact.note > '' AND fact.note COLLATE utf8mb4_general_ci LIKE %s AND fact.kind = 'shot'"
            " AND game.club_id = %s AND game.deleted_at IS NULL"
            " ORDER BY game.last_change DESC, fact.seat LIMIT %s",
            (_holding(words), scope.club_id, many),
        )
        return list(cursor.fetchall())


def load(db: Db, scope: Scope, game_id: str, *, lock: bool = False, known: Match | None = None) -> Match:
    """A whole match: `known` itself if it has not changed since. With `lock` nobody else changes it until the
    transaction ends.
    """
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, club_id, last_change, created_at FROM game"
            " WHERE id = %s AND club_id = %s AND deleted_at IS NULL" + (" FOR UPDATE" if lock else ""),
            (game_id, scope.club_id),
        )
        row = cursor.fetchone()
        if row is None:
            raise NotFound("match")
        if known is not None and known.last_change == row["last_change"]:
            return known
        cursor.execute(
            "SELECT kind, id, parent, seat, document FROM fact WHERE game_id = %s ORDER BY seat, id",
            (game_id,),
        )
        facts = [Fact(**{**f, "document": orjson.loads(f["document"])}) for f in cursor.fetchall()]
    if not any(fact.kind == "match" for fact in facts):
        raise NotFound("match")
    return _assembled(row, facts)


def _assembled(row: Mapping[str, Any], facts: Sequence[Fact]) -> Match:
    """A game from its facts, which are in the order of their seats."""
    shots: dict[str, list[Fact]] = {}
    for fact in facts:
        if fact.kind == "shot":
            shots.setdefault(fact.parent, []).append(fact)
    racks = tuple((fact, tuple(shots.get(fact.id, ()))) for fact in facts if fact.kind == "rack")
    return Match(**row, header=next(fact for fact in facts if fact.kind == "match"), racks=racks)


def with_changes(game: Match, changed: Changes, entry: int) -> Match:
    """The game as it is stored after these changes, which the log has as `entry`."""
    facts = game.facts
    for key, fact in changed.items():
        if fact is None:
            facts.pop(key, None)
        else:
            facts[key] = fact
    row = {"id": game.id, "club_id": game.club_id, "last_change": entry, "created_at": game.created_at}
    return _assembled(row, sorted(facts.values(), key=lambda fact: (fact.seat, fact.id)))


def merged(
    db: Db, scope: Scope, game: Match, operation: Operation, changed: Changes, *, over: bool = False
) -> dict[str, Fact | None]:
    """The changes with what others wrote since their sender looked: different fields never clash, and with `over`
    the sender's stand where they do.

    Raises `Conflict` with what is stored and the names of the fields that clash (none: one removed it); the caller
    holds the lock of `load(..., lock=True)`.
    """
    others = changes.others_since(db, scope, game.id, operation)
    facts = game.facts
    found: dict[str, Fact | None] = {}
    for key, fact in changed.items():
        stored = facts.get(key)
        twin = _begun_by_others(game, key, fact, others)
        if twin is not None and not over:
            told = {**twin.document, SAME_RACK: "begun already"}
            raise Conflict({key: {**twin.as_data(), "document": told, "fields": [SAME_RACK]}})
        try:
            sent = fact.row if fact else None
            row = changes.merged(stored.row if stored else None, sent, others.get(key, ()), key, over=over)
        except Conflict as clash:
            fields = [name.removeprefix(_IN) for name in clash.theirs[key] or ()]
            theirs = {**stored.as_data(), "fields": fields} if stored else None
            raise Conflict({key: theirs}) from None
        found[key] = Fact.of(key, row) if row is not None else None
    return found


def _begun_by_others(game: Match, key: str, fact: Fact | None, others: Mapping[str, object]) -> Fact | None:
    """The rack that somebody else began in the place of a new one, while its sender did not see it."""
    if fact is None or fact.kind != "rack" or key in game.facts:
        return None
    return next((rack for rack, _ in game.racks if rack.seat == fact.seat and rack.key in others), None)


def write(db: Db, scope: Scope, game: Match, operation: Operation, changed: Changes) -> int:
    """Write facts and return the log entry."""
    facts = game.facts
    parts = [part_of(*_named(key), _row(facts.get(key)), _row(fact)) for key, fact in changed.items()]
    entry = changes.log(db, scope, game.id, operation, parts)
    _store(db, game.id, changed, entry)
    return entry


def begin(db: Db, scope: Scope, game_id: str, operation: Operation, facts: Sequence[Fact]) -> int:
    """Write the facts of a match that has just been created."""
    parts = [part_of(fact.kind, fact.id, None, fact.row) for fact in facts]
    entry = changes.log(db, scope, game_id, operation, parts)
    _store(db, game_id, {fact.key: fact for fact in facts}, entry)
    return entry


def reverse(db: Db, scope: Scope, game_id: str, operation: Operation, kind: str) -> str:
    """Undo the author's newest change of this match that stands (its deletion too), or redo the newest that was
    undone; returns what it was.

    Raises `Refused` when there is none, or `Conflict` when its fields are no longer as that change left them.
    """
    if not exists(db, scope, game_id):
        raise NotFound("match")
    target = changes.to_reverse(db, scope, [game_id], kind)
    if any(DELETED in (part.after or {}) for part in target.parts):
        if kind == "redo":
            raise Refused("there is nothing to redo: delete it anew")
        _show(db, scope, game_id, deleted=False)
        changes.note_reversed(db, scope, target, operation, game_id, kind)
        return target.label
    if any(part.subject == "match" and part.before is None for part in target.parts):
        raise Refused("there is nothing to undo: the match begins here; delete it instead")
    facts = load(db, scope, game_id, lock=True).facts
    changed: dict[str, Fact | None] = {}
    for part in (one.reversed for one in target.parts):
        stored = facts.get(part.key)
        if not changes.fits(part, _row(stored)):
            raise Conflict({part.key: stored.as_data() if stored else None})
        row = changes.applied(part, _row(stored))
        changed[part.key] = Fact.of(part.key, row) if row is not None else None
    _store(db, game_id, changed, changes.note_reversed(db, scope, target, operation, game_id, kind))
    return target.label


def exists(db: Db, scope: Scope, game_id: str) -> bool:
    """Whether it is this club's, deleted or not; nobody else changes it until the transaction ends."""
    with db.cursor() as cursor:
        cursor.execute("SELECT 1 FROM game WHERE id = %s AND club_id = %s FOR UPDATE", (game_id, scope.club_id))
        return cursor.fetchone() is not None


def _store(db: Db, game_id: str, changed: Changes, entry: int) -> None:
    gone = [(game_id, *_named(key)) for key, fact in changed.items() if fact is None]
    rows = [
        {
            "game": game_id, "kind": fact.kind, "id": fact.id, "parent": fact.parent, "seat": fact.seat,
            "document": orjson.dumps(fact.document).decode(),
        }
        for fact in changed.values()
        if fact is not None
    ]  # fmt: skip
    with db.cursor() as cursor:
        cursor.executemany("DELETE FROM fact WHERE game_id = %s AND kind = %s AND id = %s", gone)
        cursor.executemany(
            "INSERT INTO fact (game_id, kind, id, parent, seat, document)"
            " VALUES (%(game)s, %(kind)s, %(id)s, %(parent)s, %(seat)s, %(document)s)"
            " ON DUPLICATE KEY UPDATE parent = VALUES(parent), seat = VALUES(seat), document = VALUES(document)",
            rows,
        )
        cursor.execute("UPDATE game SET last_change = %s WHERE id = %s", (entry, game_id))


def _named(key: str) -> tuple[str, str]:
    kind, _, id_ = key.partition(":")
    return kind, id_


def _row(fact: Fact | None) -> Row | None:
    return fact.row if fact is not None else None


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
