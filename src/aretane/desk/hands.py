"""A player's hand: by name, by its numbers, or as his record tells it."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, fields, replace
from typing import Any

from aretane.core.review.partners import SEATS, people_of
from aretane.core.rules.traits import usual_table
from aretane.core.skill.estimate import Parameter
from aretane.core.skill.hand import LONG_TABLE, Hand, hand_from
from aretane.core.statistics.success_map import hand_of, same_kind, success_map
from aretane.core.table import PRESETS as TABLES
from aretane.core.table import Table
from aretane.desk.house import House
from aretane.store.club import players
from aretane.store.scope import Scope
from aretane.store.shot_figures import Filter, chosen

_ERRORS = tuple(field.name for field in fields(Hand) if field.name not in ("plain", "partner"))
FORM = 3000  # of a player's shots the newest are taken: a season of league play, and his hand of today
DIGITS = 2  # of an estimated hand: a hair's breadth more record does not set off all work anew


def asked_hand(
    house: House, scope: Scope, asked: str | Mapping[str, Any], table: Table, field: str = "hand"
) -> Hand:
    """A preset by name, errors as in the hand file, or {"record": name of a player}: as estimated from what is
    logged; with a `partner`, another such name, of two who play in alternation.
    """
    if isinstance(asked, str) or "record" not in asked:
        return hand_from(asked, table, field)
    if partner := asked.get("partner"):
        first = asked_hand(house, scope, {"record": asked["record"]}, table, field)
        return replace(first, partner=asked_hand(house, scope, {"record": partner}, table, field))
    with house.database.transaction() as db:
        known = (one for one in players(db, scope) if one["name"] == asked["record"])
        number = next((one["joined_to"] or one["id"] for one in known), None)
        rows = chosen(db, scope, Filter(player_id=int(str(number))), FORM) if number is not None else []
    found = hand_of([row.figures for row in rows if same_kind(row.discipline, table)], table).hand
    if not rows:
        return found
    errors: dict[str, Any] = {name: float(f"{getattr(found, name):.{DIGITS}g}") for name in _ERRORS}
    return replace(found, **errors)


def on_record(match: Mapping[str, Any], side: str, due: str = SEATS[0]) -> dict[str, str]:
    """A side of a match, as `asked_hand` takes it; of partners the one whose turn it is (`due`) comes first."""
    people = people_of(match, side, due)
    return dict(zip(("record", "partner"), people or (side,), strict=False))


def hand_on_record(
    house: House, scope: Scope, player: int, prior: str, session: str | None, discipline: str | None
) -> dict[str, Any]:
    """A player's hand as his record tells it, and what it means for every family of pots."""
    with house.database.transaction() as db:
        rows = chosen(db, scope, Filter(session=session, player_id=player), FORM)
    table = _table_of([row.discipline for row in rows], discipline)
    shots = [row.figures for row in rows if same_kind(row.discipline, table)]
    found = hand_of(shots, table, prior)
    return {
        "says": found.says,
        "on": "a snooker table" if table.length > LONG_TABLE else "pool tables",
        "aim_deg": _in_degrees(found.aim),
        "rail_deg": _in_degrees(found.rail),
        "speed": asdict(found.speed),
        "side": asdict(found.side),
        "height": asdict(found.height),
        "needs": list(found.needs),
        "families": [
            {
                "cut": field.cut,
                "distance": (field.distance[0], field.distance[1] if math.isfinite(field.distance[1]) else None),
                "record": asdict(field.success.record),
                "predicted": field.success.predicted,
                "shrunk": asdict(field.success.shrunk),
            }
            for field in success_map(shots, found.hand)
        ],
    }


def _table_of(played: Sequence[str], asked: str | None) -> Table:
    """The kind of table that is asked for, else the one that most of the record is from."""
    tables = [usual_table(one) for one in ([asked] if asked else played)]
    longer = [table for table in tables if table.length > LONG_TABLE]
    return longer[0] if 2 * len(longer) > len(tables) else TABLES["pool-9ft"]


def _in_degrees(one: Parameter) -> dict[str, Any]:
    turned = {name: math.degrees(getattr(one, name)) for name in ("value", "low", "high")}
    return {**asdict(one), **turned}
