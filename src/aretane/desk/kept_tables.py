"""Tables that a club keeps, with name, tags and note, found by words, tag or likeness."""

from __future__ import annotations

from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.core.geometry.likeness import unlike
from aretane.core.layout import Layout
from aretane.desk.house import House
from aretane.formats.layout import layout_as_data, layout_from
from aretane.store import kept_tables
from aretane.store.scope import Scope

Data = dict[str, Any]

MOST = 500  # tables of a club


def found(house: House, scope: Scope, words: str = "", like: Layout | None = None) -> list[Data]:
    """Tables whose name, tags or note hold all the words; with `like` the likest first, else the newest."""
    with house.database.transaction() as db:
        rows = kept_tables.every(db, scope)
    sought = words.casefold().split()
    rows = [row for row in rows if all(word in _text(row) for word in sought)]
    for row in rows:
        row["unlike"] = None if like is None else unlike(like, layout_from(row["document"]))
    return rows if like is None else sorted(rows, key=lambda row: row["unlike"])


def keep(house: House, scope: Scope, id_: str, name: str, tags: list[str], note: str, layout: Layout) -> list[Data]:
    """Keep a table under its name. Raises `InputError` for one without a name."""
    if not name.strip():
        raise InputError("name", "a table that is kept needs a name")
    clean = sorted({tag.strip().casefold().replace(" ", "-") for tag in tags if tag.strip()})
    one = {"id": id_, "name": name.strip(), "tags": clean, "note": note.strip(), "document": layout_as_data(layout)}

    def write(db: Any) -> None:
        if len(kept_tables.every(db, scope)) >= MOST:
            raise Refused(f"{MOST} tables are kept already; give one up first")
        kept_tables.keep(db, scope, one)

    house.database.write(write)
    return found(house, scope)


def drop(house: House, scope: Scope, id_: str) -> None:
    house.database.write(lambda db: kept_tables.drop(db, scope, id_))


def _text(row: Data) -> str:
    return f"{row['name']} {' '.join(row['tags'])} {row['note']}".casefold()
