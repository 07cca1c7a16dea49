"""A plan of practice: sessions by week with time, exercises, goal and note; taken away as a calendar."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.desk.house import House
from aretane.desk.reports import CAUTION
from aretane.formats.calendar import Entry, as_calendar
from aretane.store import plans, practice
from aretane.store.database import Db
from aretane.store.plans import Planned
from aretane.store.scope import Scope

MOST = 1000  # sessions of a club
YEARS = (2000, 2100)


def listed(house: House, scope: Scope) -> dict[str, Any]:
    with house.database.transaction() as db:
        return _told(db, scope)


def keep(house: House, scope: Scope, one: Planned) -> dict[str, Any]:
    """Plan a session, or another one in place of it. Raises `InputError`, `Refused`."""
    if not one.player.strip():
        raise InputError("player", "say who is going to practise")
    if not YEARS[0] <= one.begins.year < YEARS[1]:
        raise InputError("begins", f"a day between {YEARS[0]} and {YEARS[1]}")

    def write(db: Db) -> dict[str, Any]:
        known = {row["id"] for row in practice.listed(db, scope)}
        if set(one.exercises) - known:
            raise InputError("exercises", "one of them is not there any more")
        there = plans.listed(db, scope)
        if len(there) >= MOST and all(other.id != one.id for other in there):
            raise Refused(f"{MOST} sessions are planned already; remove some that are over")
        plans.keep(db, scope, one)
        return _told(db, scope)

    return house.database.write(write)


def drop(house: House, scope: Scope, id_: str) -> dict[str, Any]:
    def write(db: Db) -> dict[str, Any]:
        plans.drop(db, scope, id_)
        return _told(db, scope)

    return house.database.write(write)


def calendar(house: House, scope: Scope, player: str | None = None) -> bytes:
    """Of everybody, or of one player, for whatever calendar he uses."""
    with house.database.transaction() as db:
        titles = {row["id"]: row["title"] for row in practice.listed(db, scope)}
        sessions = [one for one in plans.listed(db, scope) if player in (None, one.player)]
    return as_calendar(_entry(one, titles) for one in sessions)


def _entry(one: Planned, titles: dict[str, str]) -> Entry:
    exercises = [titles[each] for each in one.exercises if each in titles]
    lines = [f"Goal: {one.goal}" if one.goal else "", *exercises, one.note, CAUTION]
    return Entry(one.id, one.begins, one.minutes, f"Practice: {one.player}", "\n".join(filter(None, lines)))


def _told(db: Db, scope: Scope) -> dict[str, Any]:
    """Sessions with the Monday of their week."""
    return {
        "sessions": [
            {**asdict(one), "begins": one.begins, "week": _monday(one.begins)} for one in plans.listed(db, scope)
        ],
        "caution": CAUTION,
    }


def _monday(day: datetime) -> str:
    return datetime.fromordinal(day.toordinal() - day.weekday()).date().isoformat()
