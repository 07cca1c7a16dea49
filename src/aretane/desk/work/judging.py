"""The job that judges a match: entry after entry, kept as it goes, gone on with after a restart."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from typing import Any

import orjson

from aretane.core.errors import NotFound
from aretane.core.skill.hand import hand_from
from aretane.core.table import table_from
from aretane.desk.work.ledger import Body, Remembered, Wanted, steps, version_of
from aretane.jobs.work import Stopped, Work
from aretane.store import games, ledgers
from aretane.store.database import Database, Db
from aretane.store.games import Match


def run(work: Work, database: Database) -> str:
    """Judge a match until it is judged as it stands: what is changed meanwhile is judged after it."""
    while _judged(work, database, work.job.arguments["game"], work.job.arguments["care"]):
        pass
    return ""


def _judged(work: Work, database: Database, game_id: str, care: str) -> bool:
    """Whether there was anything to judge."""
    with database.transaction() as db:
        kept = ledgers.find(db, work.scope, game_id, care)
        if kept is None:
            raise Stopped
        try:
            match = games.load(db, work.scope, game_id)
        except NotFound:  # it was deleted meanwhile
            raise Stopped from None
        known = Remembered(ledgers.judgements(db, game_id, care))
    document = match.as_document()
    stamp = stamp_of(document, kept.hands)
    if stamp == kept.stamp:
        return False
    table = table_from(document.get("table") or "pool-9ft")
    hands = {seat: hand_from(hand, table) for seat, hand in kept.hands.items()}
    for progress, body in steps(work, Wanted(document, hands, care), known):
        new, known.new = known.new, {}

        def write(db: Db, new: dict[str, Body] = new, body: Body = body, over: bool = progress == 1.0) -> None:
            ledgers.add_judgements(db, game_id, care, new)
            if body:
                ledgers.keep(db, work.scope, game_id, care, stamp if over else "", with_ids(body, match))
            if over:
                ledgers.drop_judgements(db, game_id, care, known.every.keys() - known.used)

        work.advance(progress, write)
    return True


# Of a shot and of a match: nothing is judged by it.
REMARKS = {"note", "drawings", "causes", "questions", "routine", "time", "recording"}
ABOUT = {"title", "date", "place", "notes", "recordings", "id"}


def stamp_of(document: Mapping[str, Any], hands: Mapping[str, Any]) -> str:
    """What a ledger is made from: the facts that judgements rest on, hands and model. What is remarked, drawn or
    marked in a recording leaves a match judged as it is.
    """
    racks = [
        {**rack, "shots": [_without(shot, REMARKS) for shot in rack.get("shots") or ()]}
        for rack in document.get("racks") or ()
    ]
    facts = {**_without(document, ABOUT), "racks": racks}
    made = [version_of(document["discipline"]), facts, hands]
    return hashlib.sha256(orjson.dumps(made, option=orjson.OPT_SORT_KEYS)).hexdigest()


def _without(data: Mapping[str, Any], names: set[str]) -> dict[str, Any]:
    return {name: value for name, value in data.items() if name not in names}


def with_ids(body: Body, match: Match) -> Body:
    """The ledger with the ids of the shots that its entries are about."""
    for rack, (_, shots) in zip(body["racks"], match.racks, strict=False):
        for entry, shot in zip(rack["shots"], shots, strict=False):
            entry["id"] = shot.id
    return body
