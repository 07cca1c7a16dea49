"""What should have been played: choices, plans and maps in the background; hands from the record; felt and
computed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict, fields, replace
from typing import Any

from apiflask import APIBlueprint

from aretane.core.errors import InputError
from aretane.core.rules.options import check_options
from aretane.core.skill.estimate import Parameter
from aretane.core.skill.hand import LONG_TABLE, Hand, hand_as_data, hand_from
from aretane.core.statistics.success_map import hand_of, same_kind, success_map
from aretane.core.table import PRESETS as TABLES
from aretane.core.table import Table, table_from
from aretane.formats.stroke import stroke_from
from aretane.jobs.choices import Drawn, Wanted
from aretane.store.club import Author, players
from aretane.store.database import Db
from aretane.store.games import felt_shots
from aretane.store.shot_facts import Filter, chosen
from aretane.web.choice_schemas import ChoicesAnswer, ChoicesRequest, DisagreementList, HandAnswer, HandQuery
from aretane.web.context import context, transaction
from aretane.web.layouts import asked_layout

blueprint = APIBlueprint("choices", __name__, url_prefix="/api", tag="choices")

FIRST, SETTLED = ("glance", "coarse"), ("glance", "coarse", "fine")
_ERRORS = tuple(field.name for field in fields(Hand) if field.name != "plain")
DIGITS = 2  # of an estimated hand: a hair's breadth more record does not set off all work anew


@blueprint.post("/choices")
@blueprint.input(ChoicesRequest)
@blueprint.output(ChoicesAnswer)
def choices(json_data: ChoicesRequest) -> dict[str, Any]:
    """What is known now; asking again tells how far it has come. Work stops when nobody asks any more."""
    table = table_from(json_data.table)
    with transaction() as (db, author):
        player = _hand(db, author, json_data.player, table, "player")
        opponent = (
            player if json_data.opponent is None else _hand(db, author, json_data.opponent, table, "opponent")
        )
    wanted = _wanted(json_data, (player, opponent))
    answer = context().choices.ask(author.club_id, wanted)
    return {**asdict(answer), "hands": [hand_as_data(player), hand_as_data(opponent)]}


@blueprint.delete("/choices/<hash>")
@blueprint.output({}, status_code=204)
def stop_choices(hash: str) -> tuple[str, int]:
    context().choices.stop(hash)
    return "", 204


@blueprint.get("/hand")
@blueprint.input(HandQuery, location="query")
@blueprint.output(HandAnswer)
def hand(query_data: HandQuery) -> dict[str, Any]:
    """A player's hand as his record tells it, and what it means for every family of pots."""
    with transaction() as (db, author):
        rows = chosen(db, author.club_id, Filter(session=query_data.session, player=query_data.player))
    table = _table_of([row.discipline for row in rows], query_data.discipline)
    facts = [row.fact for row in rows if same_kind(row.discipline, table)]
    found = hand_of(facts, table, query_data.prior)
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
            for field in success_map(facts, found.hand)
        ],
    }


@blueprint.get("/felt")
@blueprint.output(DisagreementList)
def felt() -> dict[str, Any]:
    """Every shot at which somebody's own estimate was kept, with the computed numbers of that moment."""
    with transaction() as (db, author):
        return {"shots": felt_shots(db, author.club_id)}


def _wanted(asked: ChoicesRequest, hands: tuple[Hand, Hand]) -> Wanted:
    layout = asked_layout(asked.table, asked.discipline, asked.balls, asked.state)
    if not layout.object_balls:
        raise InputError("balls", "there is no ball that may be played")
    check_options(layout.discipline, asked.rules)
    drawn = tuple(
        Drawn(one.source, stroke_from(one.stroke.model_dump(exclude_none=True)), one.ball, one.pocket)
        for one in asked.drawn
    )
    levels = SETTLED if asked.settle else FIRST
    return Wanted(asked.kind, layout, asked.rules, hands, asked.handed, levels, drawn, asked.race, asked.answering)


def _hand(db: Db, author: Author, asked: str | dict[str, Any], table: Table, field: str) -> Hand:
    if isinstance(asked, str) or "record" not in asked:
        return hand_from(asked, table, field)
    number = next((one["id"] for one in players(db, author.club_id) if one["name"] == asked["record"]), None)
    if number is None:
        return hand_of((), table).hand
    rows = chosen(db, author.club_id, Filter(player=int(str(number))))
    found = hand_of([row.fact for row in rows if same_kind(row.discipline, table)], table).hand
    errors: dict[str, Any] = {name: float(f"{getattr(found, name):.{DIGITS}g}") for name in _ERRORS}
    return replace(found, **errors)


def _table_of(played: Sequence[str], asked: str | None) -> Table:
    """The kind of table that is asked for, else the one that most of the record is from."""
    snooker = asked == "snooker" if asked else 2 * sum(one == "snooker" for one in played) > len(played)
    return TABLES["snooker-12ft" if snooker else "pool-9ft"]


def _in_degrees(one: Parameter) -> dict[str, Any]:
    turned = {name: math.degrees(getattr(one, name)) for name in ("value", "low", "high")}
    return {**asdict(one), **turned}
