"""Who played each stroke: the player of the side, or of two partners the one whose turn it was."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from aretane.core.rules.game import CHOICES

Data = Mapping[str, Any]

SEATS = ("name", "partner")


def who_played(match: Data) -> list[list[str | None]]:
    """The name of the person behind every entry, rack by rack; None where nobody is named."""
    return _turns(match)[0]


def who_plays_next(match: Data) -> dict[str, str | None]:
    """Each side's person whose turn comes next."""
    due = _turns(match)[1]
    return {side: _name(match, side, due[side]) for side in ("A", "B")}


def _turns(match: Data) -> tuple[list[list[str | None]], dict[str, str]]:
    """Partners alternate from stroke to stroke, also from rack to rack; `by` says when they did not."""
    due = {"A": SEATS[0], "B": SEATS[0]}
    found: list[list[str | None]] = []
    for rack in match.get("racks") or ():
        names: list[str | None] = []
        for shot in rack.get("shots") or ():
            side = shot.get("player")
            if side not in due or shot.get("hole"):
                names.append(None)
                continue
            seat = shot.get("by") or due[side]
            names.append(_name(match, side, seat))
            if shot.get("declared") not in CHOICES and match.get("session") == "partners":
                due[side] = SEATS[1 - SEATS.index(seat)]
        found.append(names)
    return found, due


def _name(match: Data, side: str, seat: str) -> str | None:
    players = match.get("players") or {}
    both = match.get("session") == "both-sides" and not (players.get("B") or {}).get("name")
    person = players.get("A" if both else side) or {}  # one person plays both sides
    return person.get(seat) or person.get("name") or None
