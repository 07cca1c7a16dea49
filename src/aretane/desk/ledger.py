"""The verdict on a match: where its racks were won and lost, judged in the background and kept."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from aretane.core.skill.hand import hand_as_data
from aretane.core.table import table_from
from aretane.desk.hands import asked_hand, on_record
from aretane.desk.house import House
from aretane.desk.work.judging import stamp_of
from aretane.desk.work.kinds import LEDGER
from aretane.store import games, jobs, ledgers
from aretane.store.database import Db
from aretane.store.jobs import DONE, FAILED, RUNNING
from aretane.store.scope import Scope

Data = dict[str, Any]

COARSE, SETTLED = "coarse", "settled"


def known(house: House, scope: Scope, game_id: str, care: str = COARSE) -> Data:
    """The ledger as far as it is known; nothing is begun."""
    with house.database.transaction() as db:
        return _told(house, db, scope, game_id, care)


def asked(house: House, scope: Scope, game_id: str, care: str = COARSE, *, again: bool = False) -> Data:
    """The same; what is missing or out of date is worked out from now on, whether somebody looks or not. `again`:
    judge anew with the hands that both players' records tell today, and try once more what failed.
    """
    hands = None
    if again or not _begun(house, scope, game_id, care):
        hands = _hands_on_record(house, scope, game_id)

    def ask(db: Db) -> Data:
        if hands is not None:
            ledgers.begin(db, scope, game_id, care, hands)
        if not _is_current(db, scope, game_id, care):
            subject = _subject(game_id, care)
            job = jobs.find(db, scope, LEDGER, subject)
            if job is not None and not job.going and (again or job.state != FAILED):
                jobs.forget(db, scope, LEDGER, subject)
            house.jobs.ask(db, scope, LEDGER, subject, {"game": game_id, "care": care})
        return _told(house, db, scope, game_id, care)

    found = house.database.write(ask)
    if found["state"] == RUNNING:
        house.jobs.wake()
    return found


def _told(house: House, db: Db, scope: Scope, game_id: str, care: str) -> Data:
    current = _is_current(db, scope, game_id, care)
    kept, job = ledgers.find(db, scope, game_id, care), jobs.find(db, scope, LEDGER, _subject(game_id, care))
    going = job is not None and job.going
    place = house.jobs.place(db, job) if job is not None and going else None
    return {
        "state": RUNNING if going else DONE if current else job.state if job is not None and job.said else "",
        "progress": job.progress if job is not None and going else float(current),
        "said": job.said if job is not None and not current else "",
        "place": asdict(place) if place else None,
        "current": current,
        "care": care,
        "body": kept.body if kept is not None else {},
    }


def _is_current(db: Db, scope: Scope, game_id: str, care: str) -> bool:
    """Whether a match is judged as it stands. Raises `NotFound` where there is none."""
    document = games.load(db, scope, game_id).as_document()
    kept = ledgers.find(db, scope, game_id, care)
    return kept is not None and kept.stamp == stamp_of(document, kept.hands)


def _subject(game_id: str, care: str) -> str:
    return f"{game_id}:{care}"


def noticed(house: House, scope: Scope, answer: Data) -> None:
    """A match was changed: one that has a finished rack is judged in the background."""
    if house.judges and any(rack["over"] for rack in answer["racks"]):
        asked(house, scope, answer["id"])


def _begun(house: House, scope: Scope, game_id: str, care: str) -> bool:
    with house.database.transaction() as db:
        return ledgers.find(db, scope, game_id, care) is not None


def _hands_on_record(house: House, scope: Scope, game_id: str) -> Data:
    """Both players' hands as their records tell them, or a club player's."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
    table = table_from(header.get("table") or "pool-9ft")
    return {seat: hand_as_data(asked_hand(house, scope, on_record(header, seat), table)) for seat in ("A", "B")}
