"""A player's execution error: how far a stroke strays from what was meant, as independent normal errors.

The aim error is the error of the *cue ball's direction*. Squirt of an unintended offset of the tip is in it,
because that is all that a record can tell; an unintended offset then only turns the ball, and so throws the
next one. The errors are those of a plain stroke: `effort` says how a stroke's demands widen them.

The presets are calibrated to what such players do: `aretane bench --hands` prints pots, banks, kicks, jumps,
lags and run-outs beside the ranges of the trade, and docs/hands.md tells where each number comes from.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

from aretane.core.errors import InputError

if TYPE_CHECKING:
    from aretane.core.table import Table

LEVELS = ("beginner", "club", "league", "professional")


@dataclass(frozen=True)
class Hand:
    """Standard deviations: `aim` of the cue ball's direction (radians), `speed` relative, `side` and `height`
    of the tip's place in fractions of the radius; `rail` of the direction judged off one rail in a kick or
    bank, and `elevation` of a raised cue (radians). `plain`: nothing widens these errors, and the table adds
    none of its own. `partner`: whose turn the next stroke is, where two play in alternation.
    """

    aim: float
    speed: float
    side: float
    height: float
    rail: float = 0.0
    elevation: float = 0.0
    plain: bool = False
    partner: Hand | None = None

    def turn(self, strokes: int) -> Hand:
        """The hand that plays so many strokes from now."""
        if self.partner is None or strokes % 2 == 0:
            return self
        return replace(self.partner, partner=replace(self, partner=None))

    @property
    def people(self) -> tuple[Hand, ...]:
        """Whoever plays with this hand, the next to play first."""
        return (self,) if self.partner is None else (self, self.turn(1))

    @property
    def all_plain(self) -> Hand:
        """The same with nothing that widens their errors."""
        return replace(self, plain=True, partner=self.partner and replace(self.partner, plain=True))


def _hand(aim: float, speed: float, tip: float, rail: float, elevation: float) -> Hand:
    return Hand(math.radians(aim), speed, tip, tip, math.radians(rail), math.radians(elevation))


PRESETS: dict[str, Hand] = {
    "beginner": _hand(0.39, 0.19, 0.070, 2.6, 24.0),
    "club": _hand(0.16, 0.098, 0.045, 1.45, 11.0),
    "league": _hand(0.09, 0.056, 0.030, 1.1, 6.5),
    "professional": _hand(0.04, 0.025, 0.015, 0.72, 4.0),
}
# Snooker players are finer by about .6 (common practice: the same level of player, a longer table, a closer game).
SNOOKER: dict[str, Hand] = {
    "beginner": _hand(0.29, 0.19, 0.060, 2.6, 24.0),
    "club": _hand(0.11, 0.098, 0.035, 1.45, 11.0),
    "league": _hand(0.06, 0.056, 0.020, 1.1, 6.5),
    "professional": _hand(0.024, 0.025, 0.010, 0.72, 4.0),
}
LONG_TABLE = 3.0  # m: a table of snooker's size
_LIMITS = {"aim_deg": 20.0, "speed": 1.0, "side": 0.5, "height": 0.5}
_OPTIONAL = {"rail_deg": 20.0, "elevation_deg": 30.0}


def presets_for(table: Table) -> dict[str, Hand]:
    """The presets' values on this kind of table."""
    return SNOOKER if table.length > LONG_TABLE else PRESETS


def hand_from(value: str | Mapping[str, object], table: Table, field: str = "player") -> Hand:
    """A preset by name, or an object with `aim_deg`, `speed`, `side`, `height` and, if known, `rail_deg` and
    `elevation_deg`, which are else what players of this aim usually have. Two partners in alternation are two names
    with a plus between them, whose turn it is first, or an object with a `partner`. Raises `InputError`.
    """
    known = presets_for(table)
    if isinstance(value, str):
        name, plus, partner = value.partition("+")
        if plus:
            return replace(hand_from(name, table, field), partner=_partner_from(partner, table, field))
        if value not in known:
            raise InputError(field, f"unknown hand {value!r}; known are {', '.join(known)}")
        return known[value]
    if not isinstance(value, Mapping):
        raise InputError(field, "must be the name of a hand or an object with its errors")
    errors = {}
    for name, most in {**_LIMITS, **_OPTIONAL}.items():
        number = value.get(name)
        if number is None and name in _OPTIONAL:
            continue
        if isinstance(number, bool) or not isinstance(number, int | float) or not 0 <= number <= most:
            raise InputError(f"{field}.{name}", f"must be a number from 0 to {most:g}")
        errors[name] = float(number)
    aim = math.radians(errors["aim_deg"])
    usual = usual_hand(aim, known)
    rail, elevation = (
        math.radians(errors[name]) if name in errors else getattr(usual, name.removesuffix("_deg"))
        for name in _OPTIONAL
    )
    hand = Hand(aim, errors["speed"], errors["side"], errors["height"], rail, elevation)
    if value.get("partner") is None:
        return hand
    return replace(hand, partner=_partner_from(value["partner"], table, f"{field}.partner"))


def _partner_from(value: object, table: Table, field: str) -> Hand:
    if not isinstance(value, str | Mapping):
        raise InputError(field, "must be the name of a hand or an object with its errors")
    partner = hand_from(value, table, field)
    if partner.partner is not None:
        raise InputError(field, "two partners play in alternation, not more")
    return partner


def hand_as_data(hand: Hand) -> dict[str, Any]:
    """The inverse of `hand_from`."""
    partner = {} if hand.partner is None else {"partner": hand_as_data(hand.partner)}
    return {
        "aim_deg": math.degrees(hand.aim),
        "speed": hand.speed,
        "side": hand.side,
        "height": hand.height,
        "rail_deg": math.degrees(hand.rail),
        "elevation_deg": math.degrees(hand.elevation),
        **partner,
    }


def usual_hand(aim: float, known: Mapping[str, Hand] = PRESETS) -> Hand:
    """What players of this aim usually have: between the presets in proportion of ln(aim), beyond them half as
    fast.
    """
    ordered = sorted(known.values(), key=lambda hand: hand.aim)
    logs = [math.log(hand.aim) for hand in ordered]
    at = math.log(max(aim, 1e-6))
    inside = min(max(at, logs[0]), logs[-1])
    upper = next(i for i in range(1, len(logs)) if inside <= logs[i] or i == len(logs) - 1)
    share = (inside - logs[upper - 1]) / (logs[upper] - logs[upper - 1])

    def between(name: str) -> float:
        low, high = (math.log(getattr(hand, name)) for hand in (ordered[upper - 1], ordered[upper]))
        return math.exp(low + share * (high - low) + 0.5 * (at - inside))

    return Hand(aim, between("speed"), between("side"), between("height"), between("rail"), between("elevation"))
