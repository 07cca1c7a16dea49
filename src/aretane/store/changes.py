"""The change log: everything that anybody wrote, field by field, so that it is done once and can be taken back.

An entry is one operation of an author. Its parts are the subjects it touched (a match, a rack, a shot; whatever
else will be written): what the changed fields were before and after. A part without `before` made its subject, one
without `after` removed it. Nothing here knows what a subject is, or where its rows lie.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any

import orjson

from aretane.core.errors import Conflict, Refused
from aretane.store.database import Db
from aretane.store.scope import Scope

Row = Mapping[str, Any]  # a subject's fields


@dataclass(frozen=True)
class Operation:
    """A change as the client sent it. `seen` is the newest log entry its view was made from."""

    id: str
    client: str
    seen: int
    label: str


@dataclass(frozen=True)
class Part:
    """What an entry did to one subject: its changed fields; None where it was not there."""

    subject: str
    id: str
    before: Row | None
    after: Row | None

    @property
    def key(self) -> str:
        return f"{self.subject}:{self.id}"

    @property
    def reversed(self) -> Part:
        return Part(self.subject, self.id, self.after, self.before)


@dataclass(frozen=True)
class Entry:
    """An entry that can be reversed."""

    id: int
    kind: str
    label: str
    reverses: int | None
    parts: tuple[Part, ...]


def part_of(subject: str, id_: str, before: Row | None, after: Row | None) -> Part:
    """The part that leads from one row to the other: only fields that differ, unless it comes or goes."""
    if before is None or after is None:
        return Part(subject, id_, before, after)
    names = [name for name in {**before, **after} if before.get(name) != after.get(name)]
    return Part(subject, id_, _some(before, names), _some(after, names))


def applied(part: Part, row: Row | None) -> Row | None:
    """The row after this part; fields that it does not speak of stay."""
    if part.after is None:
        return None
    if part.before is None:
        return dict(part.after)
    kept = {name: value for name, value in (row or {}).items() if name not in part.before}
    return {**kept, **part.after}


def fits(part: Part, row: Row | None) -> bool:
    """Whether the row still is as this part expects it, in the fields that it speaks of."""
    if part.before is None or row is None:
        return part.before is None and row is None
    names = {*part.before, *(part.after or ())}
    return all(row.get(name) == part.before.get(name) for name in names)


def merged(
    stored: Row | None, sent: Row | None, others: Sequence[Part], key: str, *, over: bool = False
) -> Row | None:
    """What is sent, with what `others` did to the subject since the sender looked (in order): their fields stand
    where he did not touch them. Raises `Conflict` where both changed the same field, or one removed what the other
    changed; it names those fields. With `over` the sender's stand then.
    """
    if not others:
        return sent
    if stored is None or sent is None:
        if over or (stored is None and sent is None):
            return sent
        raise Conflict({key: None})
    theirs: dict[str, Any] = {}  # by field: its value when the sender looked
    for part in others:
        for name in {**(part.before or {}), **(part.after or {})}:
            theirs.setdefault(name, (part.before or {}).get(name))
    found, clashes = dict(sent), []
    for name, seen in theirs.items():
        if sent.get(name) == seen:  # not his change
            found.pop(name, None)
            if name in stored:
                found[name] = stored[name]
        elif sent.get(name) != stored.get(name):
            clashes.append(name)
    if clashes and not over:
        raise Conflict({key: clashes})
    return found


def already_done(db: Db, scope: Scope, home: str, operation_id: str) -> bool:
    """Whether this operation was sent before, and done. Raises `Refused` if that was elsewhere."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT home FROM change_entry WHERE club_id = %s AND operation = %s", (scope.club_id, operation_id)
        )
        row = cursor.fetchone()
    if row is not None and row["home"] != home:
        raise Refused("a change of another match was sent with this id before; make another")
    return row is not None


def others_since(db: Db, scope: Scope, home: str, operation: Operation) -> dict[str, list[Part]]:
    """What other clients did at this home since the operation's sender looked, by subject, in order."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT subject, subject_id, before_, after_ FROM change_part"
            " JOIN change_entry ON change_entry.id = change_part.entry_id"
            " WHERE home = %s AND entry_id > %s AND club_id = %s AND client <> %s ORDER BY entry_id",
            (home, operation.seen, scope.club_id, operation.client),
        )
        found: dict[str, list[Part]] = {}
        for row in cursor.fetchall():
            part = _part(row)
            found.setdefault(part.key, []).append(part)
    return found


def log(
    db: Db, scope: Scope, home: str, operation: Operation, parts: Iterable[Part], kind: str = "edit",
    reverses: int | None = None,
) -> int:  # fmt: skip
    """Write an entry. `home` is the match (or whatever else a screen shows) to which its subjects belong."""
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO change_entry (club_id, author_id, home, operation, client, made_at, kind, label, reverses)"
            " VALUES (%(club)s, %(author)s, %(home)s, %(operation)s, %(client)s, %(at)s, %(kind)s, %(label)s,"
            " %(reverses)s)",
            {
                "club": scope.club_id, "author": scope.author_id, "home": home, "operation": operation.id,
                "client": operation.client, "at": datetime.now(UTC).replace(tzinfo=None), "kind": kind,
                "label": operation.label[:200], "reverses": reverses,
            },
        )  # fmt: skip
        entry = int(cursor.lastrowid)
        cursor.executemany(
            "INSERT INTO change_part (entry_id, subject, subject_id, before_, after_)"
            " VALUES (%(entry)s, %(subject)s, %(id)s, %(before)s, %(after)s)",
            [
                {
                    "entry": entry, "subject": part.subject, "id": part.id, "before": _as_json(part.before),
                    "after": _as_json(part.after),
                }
                for part in parts
            ],
        )  # fmt: skip
        if reverses is not None:
            cursor.execute("UPDATE change_entry SET reversed_by = %s WHERE id = %s", (entry, reverses))
    return entry


def to_reverse(db: Db, scope: Scope, homes: Sequence[str], kind: str) -> Entry:
    """The author's newest entry at these homes that can be undone, or redone. Raises `Refused` if there is none.

    An edit that was made after an undo ends what can be redone.
    """
    wanted = "edit" if kind == "undo" else "undo"
    newest_edit = "COALESCE((SELECT MAX(id) FROM change_entry WHERE {where} AND kind = 'edit'), 0)"
    where = f"home IN ({', '.join(['%s'] * len(homes))}) AND club_id = %s AND author_id = %s"
    since = newest_edit.format(where=where) if kind == "redo" else "0"
    values = [*homes, scope.club_id, scope.author_id]
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT id, kind, label, reverses FROM change_entry WHERE {where} AND kind = %s"
            f" AND reversed_by IS NULL AND id > {since} ORDER BY id DESC LIMIT 1",
            [*values, wanted, *(values if kind == "redo" else ())],
        )
        row = cursor.fetchone()
        if row is None:
            raise Refused(f"there is nothing to {kind}")
        cursor.execute("SELECT * FROM change_part WHERE entry_id = %s", (row["id"],))
        parts = [_part(one) for one in cursor.fetchall()]
        return Entry(row["id"], row["kind"], row["label"], row["reverses"], tuple(parts))


def note_reversed(db: Db, scope: Scope, target: Entry, operation: Operation, home: str, kind: str) -> int:
    """Log that an entry was undone or redone."""
    parts = [part.reversed for part in target.parts]
    entry = log(db, scope, home, replace(operation, label=target.label), parts, kind, target.id)
    if kind == "redo":
        with db.cursor() as cursor:
            cursor.execute("UPDATE change_entry SET reversed_by = NULL WHERE id = %s", (target.reverses,))
    return entry


def history(db: Db, scope: Scope, home: str, limit: int = 50) -> list[dict[str, Any]]:
    """The newest entries, newest first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT change_entry.id, made_at, kind, label, author.name AS author, reversed_by"
            " FROM change_entry JOIN author ON author.id = change_entry.author_id"
            " WHERE home = %s AND change_entry.club_id = %s ORDER BY change_entry.id DESC LIMIT %s",
            (home, scope.club_id, limit),
        )
        return list(cursor.fetchall())


def _some(row: Row, names: Sequence[str]) -> dict[str, Any]:
    return {name: row[name] for name in names if name in row}


def _part(row: Mapping[str, Any]) -> Part:
    return Part(row["subject"], row["subject_id"], _row(row["before_"]), _row(row["after_"]))


def _row(text: str | None) -> Row | None:
    return None if text is None else orjson.loads(text)


def _as_json(row: Row | None) -> str | None:
    return None if row is None else orjson.dumps(row).decode()
