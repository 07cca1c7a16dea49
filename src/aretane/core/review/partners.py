"""Who played each stroke: the player of the side, or of two partners the one whose turn it was."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from aretane.core.rules.game import CHOICES, opponent

Data = Mapping[str, Any]

SIDES, SEATS = ("A", "B"), ("name", "partner")


def who_played(match: Data) -> list[list[str | None]]:
    """The name of the person behind every entry, rack by rack; None where nobody is named."""
    due = turns_at(match)
    return [
        [_person(match, shot, seats) for shot, seats in zip(rack.get("shots") or (), turns, strict=False)]
        for rack, turns in zip(match.get("racks") or (), due, strict=True)
    ]


def who_plays_next(match: Data) -> dict[str, str | None]:
    """Each side's person whose turn comes next."""
    racks = turns_at(match)
    due = racks[-1][-1] if racks else dict.fromkeys(SIDES, SEATS[0])
    return {side: _name(match, side, due[side]) for side in SIDES}


def turns_at(match: Data) -> list[list[dict[str, str]]]:
    """Each side's seat whose turn it is at every entry of each rack, and after its last one. Partners alternate
    from stroke to stroke, also from rack to rack; `by` says when they did not.
    """
    due = dict.fromkeys(SIDES, SEATS[0])
    found: list[list[dict[str, str]]] = []
    for rack in match.get("racks") or ():
        turns = []
        for shot in rack.get("shots") or ():
            side = shot.get("player") if not shot.get("hole") else None
            turns.append({**due, side: shot["by"]} if side in due and shot.get("by") else due)
            if side in due and shot.get("declared") not in CHOICES and match.get("session") == "partners":
                due = {**due, side: SEATS[1 - SEATS.index(turns[-1][side])]}
        found.append([*turns, due])
    return found


def _person(match: Data, shot: Data, due: Mapping[str, str]) -> str | None:
    side = str(shot.get("player"))
    return _name(match, side, due[side]) if side in due and not shot.get("hole") else None


def people_of(match: Data, side: str, due: str = SEATS[0]) -> tuple[str, ...]:
    """Who plays for a side, whose turn it is (`due`) first; nobody where no name is given."""
    partners = match.get("session") == "partners"
    seats = (due, SEATS[1 - SEATS.index(due)]) if partners else SEATS[:1]
    person = _side(match, side)
    return tuple(str(person[seat]) for seat in seats if person.get(seat))


def alone_at(match: Data, side: str) -> bool:
    """Whether nobody plays against a side, so that a run is the aim."""
    session = match.get("session")
    return session == "solo" or (session == "partners" and not people_of(match, opponent(side)))


def _name(match: Data, side: str, seat: str) -> str | None:
    person = _side(match, side)
    return person.get(seat) or person.get("name") or None


def _side(match: Data, side: str) -> Data:
    players = match.get("players") or {}
    both = match.get("session") == "both-sides" and not (players.get("B") or {}).get("name")
    return players.get("A" if both else side) or {}  # one person plays both sides
