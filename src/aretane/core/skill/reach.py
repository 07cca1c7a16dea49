"""What reaching for a shot costs: a stretch, the rest, the off hand.

How much each widens the hand's error of aim is assumed; which of them apply is geometry. The player stands beside
the table behind the cue ball; the cue points along the aim. What a ball or a rail under the cue costs follows
from how far the cue must be raised (`geometry.cueing`, `skill.effort`).
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from aretane.core.table import Point, Table

COMFORT, STRETCH = 1.0, 1.35  # m from the rail to the cue ball, along the cue: reached, stretched; beyond: rest
WITHOUT_REST = 2.0  # on the error of aim where only the rest would do and there is none (assumed)
OFF_HAND_GAIN = 0.35  # m that the other hand brings nearer when the body is in the way of the first (assumed)
WIDER = {"stretched": 1.25, "rest": 1.4, "off hand": 1.35}


@dataclass(frozen=True)
class Arm:
    """How a player reaches: `handed` right, left, both, or unknown if nobody has said so; is a rest there."""

    handed: str = "right"
    rest: bool = True


RIGHT, UNKNOWN = Arm(), Arm("unknown")


@dataclass(frozen=True)
class Reach:
    """`wider`: factor on the error of aim; `words`: why, in a coach's words."""

    wider: float
    words: tuple[str, ...]


def reach_for(table: Table, cue: Point, aim: float, arm: Arm = RIGHT) -> Reach:
    """How a player reaches this cue ball to shoot along `aim`; of an unknown arm nothing is counted."""
    handed = arm.handed
    if handed == "unknown":
        return Reach(1.0, ())
    behind = aim + math.pi
    lean = _lean(table, cue, behind, handed)
    if lean <= COMFORT:
        return Reach(1.0, ())
    other = _lean(table, cue, behind, "left" if handed == "right" else "right")
    word = "stretched" if lean <= STRETCH else "rest"
    if handed != "both" and other < min(lean - OFF_HAND_GAIN, COMFORT) and WIDER["off hand"] < WIDER[word]:
        word = "off hand"
    if word == "rest" and not arm.rest:
        return Reach(WITHOUT_REST, ("no rest at hand",))
    return Reach(WIDER[word], (word,))


def _lean(table: Table, cue: Point, behind: float, handed: str) -> float:
    """How far the player leans over: the shortest way from the cue ball to a rail on the side where he can stand.

    A right-hander's body is to the left of the cue as he looks along it; he may stand from straight behind to
    seventy degrees round to that side, and a little to the other.
    """
    left, right = {"right": (70, 25), "left": (25, 70), "both": (70, 70)}[handed]
    turns = range(-right, left + 1, 5)  # degrees; clockwise from straight behind is the player's left
    return min(_to_rail(table, cue, behind - math.radians(turned)) for turned in turns)


def _to_rail(table: Table, start: Point, direction: float) -> float:
    """Distance from `start` to the edge of the bed in this direction."""
    ux, uy = math.cos(direction), math.sin(direction)
    runs: Iterable[float] = (
        (limit - at) / u
        for at, u, limit in (
            (start[0], ux, table.length if ux > 0 else 0.0),
            (start[1], uy, table.width if uy > 0 else 0.0),
        )
        if abs(u) > 1e-9
    )
    return min(runs)
