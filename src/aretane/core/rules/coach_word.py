"""A match that holds impossible entries: every place named, and the rest kept as the coach's word."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from typing import Any

from aretane.core.errors import ImpossibleShot
from aretane.core.rules.referee import referee

NOTE = "as recorded; the rules have it otherwise"


def impossible_places(match: Mapping[str, Any]) -> list[ImpossibleShot]:
    """Every entry that cannot have happened, each with its rule, in order of play."""
    return _kept(match)[1]


def as_the_coachs_word(match: Mapping[str, Any]) -> dict[str, Any]:
    """The match with an overrule at each such entry, which lets it stand and names the rule it breaks."""
    return _kept(match)[0]


def _kept(match: Mapping[str, Any]) -> tuple[dict[str, Any], list[ImpossibleShot]]:
    """Let the first impossible entry of each rack stand, look again, and so on until none is left."""
    kept = deepcopy(dict(match))
    found: list[ImpossibleShot] = []
    while trouble := referee(kept, strict=False).trouble:
        for place in trouble:
            shots = kept["racks"][place.rack]["shots"]
            word = {"note": f"{NOTE}: {place.message}"}
            if place.shot + 1 < len(shots) and shots[place.shot + 1].get("player"):
                word["next"] = shots[place.shot + 1]["player"]  # play went on, whoever the rules would have had
            shots[place.shot]["overrule"] = {**(shots[place.shot].get("overrule") or {}), **word}
            found.append(place)
    return kept, sorted(found, key=lambda place: (place.rack, place.shot))
