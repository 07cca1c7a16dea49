"""What is special about a day: the table in words, how the players cue, what is at hand, what the house forbids."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from aretane.core.errors import InputError
from aretane.core.parameters import LIMITS, physics_of
from aretane.core.physics.stroke import Stroke
from aretane.core.skill.reach import Arm
from aretane.core.table import Table

# Factors on what the table's preset has. Mouths: 4 1/4 in are called tight, 4 7/8 in wide, 4 1/2 in usual (common
# practice; snooker's templates vary by as much). Cloth: a lag that needs a quarter less or a third more (common
# practice: new worsted against slow napped cloth). Rails: assumed.
POCKETS = {"tight": 0.945, "usual": 1.0, "wide": 1.085}
CLOTH = {"slow": 1.3, "usual": 1.0, "fast": 0.8}
RAILS = {"dead": 0.94, "usual": 1.0, "lively": 1.03}
WORDS = {"pockets": POCKETS, "cloth": CLOTH, "rails": RAILS}

RESTS, JUMPS, MASSES = "rest", "jump", "masse"  # what can be barred
JUMP_RAISED = math.radians(40)  # a cue raised as far as this is raised to jump
MASSE_RAISED, MASSE_SIDE = math.radians(30), 0.2  # and with side on the ball, to curve it (assumed)


@dataclass(frozen=True)
class Seat:
    """Of one player: how he cues, whether he has a jump cue with him; None where nobody has said so."""

    hand: str | None = None
    jump_cue: bool | None = None


@dataclass(frozen=True)
class Conditions:
    """Words of `WORDS`; whether a rest is there, and whether jump and masse shots are allowed."""

    pockets: str = "usual"
    cloth: str = "usual"
    rails: str = "usual"
    rest: bool = True
    jump: bool = True
    masse: bool = True
    seats: Mapping[str, Seat] = field(default_factory=dict)

    def barred(self, seat: str) -> tuple[str, ...]:
        """What this player cannot use."""
        own = self.seats.get(seat, Seat())
        allowed = {RESTS: self.rest, JUMPS: self.jump and own.jump_cue is not False, MASSES: self.masse}
        return tuple(name for name, there in allowed.items() if not there)

    def hand(self, seat: str) -> str | None:
        return self.seats.get(seat, Seat()).hand


def conditions_from(told: Any) -> Conditions:
    """As a match has them: free words only say nothing that could be reckoned with. Raises `InputError`."""
    if not isinstance(told, Mapping):
        return Conditions()
    for name, words in WORDS.items():
        if told.get(name) not in (None, *words):
            raise InputError(f"conditions.{name}", f"must be one of {', '.join(words)}")
    seats = {seat: told.get(seat) or {} for seat in ("A", "B")}
    pockets, cloth, rails = (str(told.get(name) or "usual") for name in WORDS)
    rest, jump, masse = (told.get(name) is not False for name in (RESTS, JUMPS, MASSES))
    return Conditions(
        pockets, cloth, rails, rest, jump, masse,
        seats={seat: Seat(one.get("hand"), one.get("jump_cue")) for seat, one in seats.items()},
    )  # fmt: skip


def table_under(table: Table, conditions: Conditions) -> Table:
    """The table as these words make it."""
    mouth = POCKETS[conditions.pockets]
    physics, changed = physics_of(table), dict(table.physics)
    if conditions.cloth != "usual":
        changed["roll_friction"] = _within("roll_friction", physics.roll_friction * CLOTH[conditions.cloth])
    if conditions.rails != "usual":
        changed["rail_restitution"] = _within(
            "rail_restitution", physics.rail_restitution * RAILS[conditions.rails]
        )
    return replace(
        table,
        corner_mouth=table.corner_mouth * mouth,
        side_mouth=table.side_mouth * mouth,
        physics=tuple(sorted(changed.items())),
    )


def _within(name: str, value: float) -> float:
    low, high = LIMITS[name]
    return min(high, max(low, value))


def arm_of(handed: str, barred: Collection[str]) -> Arm:
    return Arm(handed, RESTS not in barred)


def allowed(stroke: Stroke, barred: Collection[str]) -> bool:
    """Whether a stroke is none of what is barred."""
    if JUMPS in barred and stroke.elevation >= JUMP_RAISED:
        return False
    return not (MASSES in barred and stroke.elevation >= MASSE_RAISED and abs(stroke.side) >= MASSE_SIDE)
