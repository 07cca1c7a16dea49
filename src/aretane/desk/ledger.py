"""The verdict on a match: where its racks were won and lost, judged in the background and kept."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from aretane.core.skill.hand import hand_as_data
from aretane.core.table import table_from
from aretane.desk.hands import asked_hand
from aretane.desk.house import House
from aretane.desk.work.judging import stamp_of
from aretane.desk.work.kinds import LEDGER
from aretane.store import games, jobs, ledgers
from aretane.store.database import Db
from aretane.store.jobs import RUNNING
from aretane.store.scope import Scope

Data = dict[str, Any]

COARSE, SETTLED = "coarse", "settled"


def of_match(house: House, scope: Scope, game_id: str, care: str = COARSE, *, again: bool = False) -> Data:
    """The ledger as far as it is known; what is missing or out of date is worked out from now on. `again`: judge
    anew with the hands that both players' records tell today; and try once more what failed.
    """
    hands = _hands_on_record(house, scope, game_id) if again or not _kept(house, scope, game_id, care) else None

    def ask(db: Db) -> Data:
        document = games.load(db, scope, game_id).as_document()
        if hands is not None:
            ledgers.begin(db, scope, game_id, care, hands)
        kept = ledgers.find(db, scope, game_id, care)
        assert kept is not None
        subject, current = f"{game_id}:{care}", kept.stamp == stamp_of(document, kept.hands)
        job = jobs.find(db, scope, LEDGER, subject)
        if not current:
            if job is not None and not job.going and (again or job.state != jobs.FAILED):
                jobs.forget(db, scope, LEDGER, subject)
            job = house.jobs.ask(db, scope, LEDGER, subject, {"game": game_id, "care": care})
        place = house.jobs.place(db, job) if job is not None and job.going else None
        return {
            "state": "done" if current else RUNNING if job and job.going else job.state if job else "",
            "progress": 1.0 if current or job is None else job.progress,
            "said": job.said if job is not None and not current else "",
            "place": asdict(place) if place else None,
            "current": current,
            "care": care,
            "body": kept.body,
        }

    found = house.database.write(ask)
    if found["state"] == RUNNING:
        house.jobs.wake()
    return found


def noticed(house: House, scope: Scope, answer: Data) -> None:
    """A match was changed: one that has a finished rack is judged in the background."""
    if house.judges and any(rack["over"] for rack in answer["racks"]):
        of_match(house, scope, answer["id"])


def _kept(house: House, scope: Scope, game_id: str, care: str) -> bool:
    with house.database.transaction() as db:
        return ledgers.find(db, scope, game_id, care) is not None


def _hands_on_record(house: House, scope: Scope, game_id: str) -> Data:
    """Both players' hands as their records tell them, or a club player's."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
    table, players = table_from(header.get("table") or "pool-9ft"), header.get("players") or {}
    return {
        seat: hand_as_data(
            asked_hand(house, scope, {"record": str((players.get(seat) or {}).get("name") or seat)}, table)
        )
        for seat in ("A", "B")
    }
