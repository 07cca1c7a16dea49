"""The shots found in a recording beside the log: which of them are in it, what is proposed for the others, and what
follows in the log when the recording is looked at again."""

from __future__ import annotations

import math
import uuid
from collections.abc import Mapping, Sequence
from typing import Any

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.review.course import Happening
from aretane.core.review.found_shots import SEEN, Seen, Told, contradicted, renewed, told_after, told_before
from aretane.core.rules.referee import referee
from aretane.desk import games
from aretane.desk.house import House
from aretane.desk.recent import Replayed
from aretane.store.changes import Operation
from aretane.store.database import Db
from aretane.store.games import Fact, Match
from aretane.store.scope import Scope
from aretane.vision.shots.corrections import Found

Data = dict[str, Any]

THERE = 0.03  # m: a ball of the log is the one that was found so near
SAME = 1.2  # seconds between a contact that was marked and one that was found
AHEAD = 20  # shots for which something is proposed: a rack, and a look at the next


def beside_the_log(known: Replayed, recording: int, shots: Sequence[Data]) -> list[Data]:
    """These shots of the reading, each with its entry in the log, or what is proposed for it."""
    logged = _logged(known.match, recording)
    proposals = _proposals(known, recording, shots, logged)
    return [
        {
            **shot,
            "logged": fact.id if (fact := _entry_of(logged, shot)) else None,
            "differs": contradicted(fact.document, _fell(shot)) if fact else [],
            "proposal": proposals.get(shot["id"]),
        }
        for shot in shots
    ]


def left(match: Match, recording: int, shots: Sequence[Data]) -> list[Data]:
    """Those of these shots that are in no log yet."""
    logged = _logged(match, recording)
    return [shot for shot in shots if shot["kind"] == "shot" and _entry_of(logged, shot) is None]


def words_of(match: Match, recording: int, shots: Sequence[Found]) -> list[Data]:
    """Names that the coach has confirmed by what he said or nodded at: of balls that he called, saw struck first
    or saw fall. They are evidence for whatever is read later; his corrections come after them."""
    logged = _logged(match, recording)
    words = []
    for one in shots:
        fact = _entry_of(logged, {"contact": one.shot.contact})
        if fact is None:
            continue
        places = (fact.document.get("layout_before") or {}).get("balls") or {}
        for ball in sorted(_confirmed(fact.document) & {*places}):
            near = min(one.shot.before, key=lambda seen: math.dist(seen.place, places[ball]), default=None)
            if near is not None and math.dist(near.place, places[ball]) < THERE:
                words.append({"do": "name", "track": near.track, "ball": ball})
    return words


def _confirmed(document: Data) -> set[str]:
    """The balls of which somebody has said what they did."""
    inferred = document.get("inferred") or ()
    told = {
        "called": [(document.get("called") or {}).get("ball")],
        "first_contact": [document.get("first_contact")],
        "potted": [one["ball"] for one in document.get("potted") or ()],
    }
    return {ball for key, balls in told.items() if key not in inferred for ball in balls if ball}


def follow(
    house: House, db: Db, scope: Scope, game_id: str, recording: int, was: Sequence[Data], now: Sequence[Data]
) -> Replayed | None:
    """What nobody confirmed in the log follows the corrected recording; None if nothing does."""
    known = house.recent.find(db, scope, game_id)
    logged, old = _logged(known.match, recording), {shot["id"]: shot for shot in was}
    match, result = known.match.as_document(), known.replay.result
    changes = {}
    for shot in now:
        fact = _entry_of(logged, shot)
        if fact is None or old.get(shot["id"]) == shot or not fact.document.get("inferred"):
            continue
        rack, index = _place_of(known, fact)
        facts: Data = {}
        if set(fact.document["inferred"]) - set(SEEN):  # else somebody has said it all
            facts = told_before(match, result, rack, index, _seen(known, shot)).document
        document = renewed(fact.document, {**facts, **_pictured(shot, recording)})
        if document != fact.document:
            changes[fact.key] = Fact("shot", fact.id, fact.parent, fact.seat, document)
            match = _with_entry(match, rack, index, document)  # who plays the next shot hangs on this one
            result = referee(match, strict=False, known=result, since=rack)
    if not changes:
        return None
    operation = Operation(str(uuid.uuid4()), str(uuid.uuid4()), known.match.last_change, "recording put right")
    return games.written(house, db, scope, game_id, operation, changes)


def _with_entry(match: Data, rack: int, index: int, document: Data) -> Data:
    racks = list(match["racks"])
    shots = list(racks[rack]["shots"])
    shots[index] = document
    racks[rack] = {**racks[rack], "shots": shots}
    return {**match, "racks": racks}


def _logged(match: Match, recording: int) -> list[tuple[float, Fact]]:
    """The entries that were seen in this recording, by the time of their contact."""
    found = []
    for _, shots in match.racks:
        for shot in shots:
            contact = (shot.document.get("time") or {}).get("contact")
            if contact is not None and (shot.document.get("recording") or 0) == recording:
                found.append((float(contact), shot))
    return sorted(found, key=lambda one: one[0])


def _entry_of(logged: Sequence[tuple[float, Fact]], shot: Mapping[str, Any]) -> Fact | None:
    return next((fact for contact, fact in logged if abs(contact - shot["contact"]) < SAME), None)


def _place_of(known: Replayed, fact: Fact) -> tuple[int, int]:
    return next(
        (number, index)
        for number, (_, shots) in enumerate(known.match.racks)
        for index, shot in enumerate(shots)
        if shot.id == fact.id
    )


def _proposals(
    known: Replayed, recording: int, shots: Sequence[Data], logged: Sequence[tuple[float, Fact]]
) -> dict[str, Data]:
    """What is believed of the next shots that are not in the log: those between entries, then those after them."""
    match, result = known.match.as_document(), known.replay.result
    counted = [shot for shot in shots if shot["kind"] == "shot"]
    fresh = [shot for shot in counted if _entry_of(logged, shot) is None][:AHEAD]
    last = max((contact for contact, _ in logged), default=0.0)
    told: dict[str, Told] = {}
    for shot in fresh:
        if shot["contact"] < last:
            following = next(fact for contact, fact in logged if contact > shot["contact"])
            told[shot["id"]] = told_before(match, result, *_place_of(known, following), _seen(known, shot))
    later = [shot for shot in fresh if shot["id"] not in told]
    opens = {one["id"]: _opens(counted, one) for one in later}
    seen = [_seen(known, shot, begins=opens[shot["id"]]) for shot in later]
    told |= {shot["id"]: one for shot, one in zip(later, told_after(match, seen), strict=True)}
    return {shot["id"]: _as_data(told[shot["id"]], shot, recording) for shot in fresh}


def _opens(counted: Sequence[Data], shot: Data) -> bool:
    """Whether the balls were racked anew before this shot."""
    index = counted.index(shot)
    return index > 0 and counted[index - 1]["rack"] != shot["rack"]


def _seen(known: Replayed, shot: Data, *, begins: bool = False) -> Seen:
    table, discipline = known.replay.table, known.replay.discipline
    before, after = (
        Layout(table, discipline, {one["ball"]: tuple(one["place"]) for one in shot[side]})
        for side in ("before", "after")
    )
    course = tuple(Happening(one["t"], one["kind"], tuple(one["balls"]), one["what"]) for one in shot["events"])
    return Seen(before, after, begins, course)


def _fell(shot: Data) -> Data:
    stayed = {one["ball"] for one in shot["after"]}
    gone = [one["ball"] for one in shot["before"] if one["ball"] not in stayed]
    return {"potted": [{"ball": ball} for ball in gone if ball != CUE], "scratch": CUE in gone}


def _pictured(shot: Data, recording: int) -> Data:
    """What the picture itself tells of an entry."""
    told: Data = {"recording": recording, "seen": True}
    told["time"] = {key: shot[key] for key in ("start", "contact", "still")}
    for key, side in (("layout_before", "before"), ("layout_after", "after")):
        balls = {one["ball"]: list(one["place"]) for one in shot[side]}
        told[key] = {"balls": balls, "sigma": {one["ball"]: one["sigma"] for one in shot[side]}}
    way: list[Any] = next((one["points"] for one in shot["paths"] if one["ball"] == CUE), [])
    if len(way) > 2:
        told["route"] = [list(way[-2][1:])]  # where the last leg of the cue ball began
    assert set(SEEN) <= {*told, "route"}
    return told


def _as_data(told: Told, shot: Data, recording: int) -> Data:
    return {
        "document": {**_pictured(shot, recording), **told.document},
        "open": list(told.open),
        "sure": not told.open and not shot["doubtful"],
        "why": told.why,
    }
