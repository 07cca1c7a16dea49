"""The log of older stores, which kept whole rows by match, as entries and parts by field."""

import json

from yoyo import step

__depends__ = {"0016.create-change-part"}


def _flat(row):
    if row is None:
        return None
    fields = {f"document.{name}": value for name, value in row["document"].items()}
    return {"parent": row["parent"], "seat": row["seat"], **fields}


def _part(entry, key, change):
    subject, _, id_ = key.partition(":")
    before, after = _flat(change["before"]), _flat(change["after"])
    if before is not None and after is not None:
        names = [name for name in {**before, **after} if before.get(name) != after.get(name)]
        before = {name: before[name] for name in names if name in before}
        after = {name: after[name] for name in names if name in after}
    return (
        entry, subject, id_,
        None if before is None else json.dumps(before), None if after is None else json.dumps(after),
    )  # fmt: skip


def carry_over(connection):
    cursor = connection.cursor()
    cursor.execute(
        "INSERT INTO change_entry (id, club_id, author_id, home, operation, client, made_at, kind, label,"
        " reverses, reversed_by) SELECT change_log.id, game.club_id, change_log.author_id, game_id, operation,"
        " client, made_at, kind, label, reverses, reversed_by"
        " FROM change_log JOIN game ON game.id = change_log.game_id"
    )
    cursor.execute("SELECT id FROM change_log ORDER BY id")
    for (entry,) in cursor.fetchall():
        cursor.execute("SELECT facts FROM change_log WHERE id = %s", (entry,))
        facts = json.loads(cursor.fetchone()[0])
        cursor.executemany(
            "INSERT INTO change_part (entry_id, subject, subject_id, before_, after_) VALUES (%s, %s, %s, %s, %s)",
            [_part(entry, key, change) for key, change in facts.items()],
        )


steps = [step(carry_over)]
