"""The simulator asked backwards, as data: the answers of `reach`, `kick` and the like."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from aretane.core.errors import InputError
from aretane.core.geometry.plants import Cannon, Plant
from aretane.core.planning.backwards.bank import Bank
from aretane.core.planning.backwards.kick import Way
from aretane.core.planning.backwards.reach import Reach, Reached
from aretane.core.planning.backwards.send import Sent
from aretane.core.table import Point
from aretane.formats.choices import words_of
from aretane.formats.stroke import stroke_as_data


def reach_as_data(found: Reach) -> dict[str, Any]:
    return {
        "strokes": [_reached(one) for one in found.ways],
        "nearest": None if found.nearest is None else _reached(found.nearest),
    }


def _reached(one: Reached) -> dict[str, Any]:
    stroke = one.stroke
    return {**asdict(one), "stroke": stroke_as_data(stroke), "part": stroke.part, "words": words_of(stroke)}


def sent_as_data(found: Sequence[Sent]) -> dict[str, Any]:
    told = [{**asdict(one), "stroke": stroke_as_data(one.stroke), "words": words_of(one.stroke)} for one in found]
    return {"strokes": told}


def ways_as_data(ways: Sequence[Way]) -> dict[str, Any]:
    return {"ways": [asdict(way) for way in ways]}


def banks_as_data(banks: Sequence[Bank]) -> dict[str, Any]:
    return {"banks": [asdict(bank) for bank in banks]}


def lines_as_data(plants: Sequence[Plant], cannons: Sequence[Cannon]) -> dict[str, Any]:
    return {"plants": [asdict(one) for one in plants], "cannons": [asdict(one) for one in cannons]}


def place_from(words: str) -> Point:
    """ "1.2,0.4": a place in metres. Raises `InputError` naming `to`."""
    parts = words.split(",")
    try:
        x, y = (float(part) for part in parts)
    except ValueError:
        raise InputError("to", f"{words!r} is no place; write it as in 1.2,0.4 (metres)") from None
    return x, y


def next_from(words: str) -> tuple[str, str, float]:
    """ "5,foot-left,30": a ball, its pocket and the cut in degrees. Raises `InputError` naming `next`."""
    parts = words.split(",")
    try:
        ball, pocket, degrees = parts
        return ball.strip(), pocket.strip(), float(degrees)
    except ValueError:
        raise InputError(
            "next", f"{words!r} names no ball, pocket and angle; write it as in 5,foot-left,30"
        ) from None
