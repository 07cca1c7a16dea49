"""A player's execution error: independent normal errors of aim, speed and tip place.

The presets' aim errors are the contract's; the others are assumed in proportion. For comparison, from memory: the
computational-billiards tournaments played with .125 deg of aim, .075 m/s, .5 mm of tip.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.errors import InputError


@dataclass(frozen=True)
class Hand:
    """Standard deviations: `aim` in radians, `speed` relative, `side` and `height` in fractions of the radius."""

    aim: float
    speed: float
    side: float
    height: float


PRESETS: dict[str, Hand] = {
    "beginner": Hand(math.radians(1.2), 0.18, 0.10, 0.10),
    "club": Hand(math.radians(0.5), 0.10, 0.05, 0.05),
    "league": Hand(math.radians(0.3), 0.07, 0.035, 0.035),
    "professional": Hand(math.radians(0.17), 0.04, 0.02, 0.02),
}

_LIMITS = {"aim_deg": 20.0, "speed": 1.0, "side": 0.5, "height": 0.5}


def hand_from(value: str | Mapping[str, object], field: str = "player") -> Hand:
    """A preset by name, or an object with `aim_deg`, `speed`, `side`, `height`. Raises `InputError`."""
    if isinstance(value, str):
        if value not in PRESETS:
            raise InputError(field, f"unknown hand {value!r}; known are {', '.join(PRESETS)}")
        return PRESETS[value]
    if not isinstance(value, Mapping):
        raise InputError(field, "must be the name of a hand or an object with its errors")
    errors = {}
    for name, most in _LIMITS.items():
        number = value.get(name)
        if isinstance(number, bool) or not isinstance(number, int | float) or not 0 <= number <= most:
            raise InputError(f"{field}.{name}", f"must be a number from 0 to {most:g}")
        errors[name] = float(number)
    return Hand(math.radians(errors["aim_deg"]), errors["speed"], errors["side"], errors["height"])
