"""What reaching for a shot costs: a stretch, the rest, the off hand, a ball or a rail under the cue.

How much each widens the hand's error of aim is assumed; which of them apply is geometry. The player stands beside
the table behind the cue ball; the cue points along the aim.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from aretane.core.geometry.plane import ahead, distance_to_segment
from aretane.core.table import Point, Table

COMFORT, STRETCH = 1.0, 1.35  # m from the rail to the cue ball, along the cue: reached, stretched; beyond: rest
OFF_HAND_GAIN = 0.35  # m that the other hand brings nearer when the body is in the way of the first (assumed)
BUTT = 0.22  # m behind the cue ball in which a ball is under the cue
WIDER = {"stretched": 1.25, "rest": 1.4, "off hand": 1.6, "over a ball": 1.6, "off the rail": 1.25}


@dataclass(frozen=True)
class Reach:
    """`wider`: factor on the error of aim; `words`: why, in a coach's words."""

    wider: float
    words: tuple[str, ...]


def reach_for(table: Table, cue: Point, aim: float, others: Mapping[str, Point], handed: str = "right") -> Reach:
    """How a player reaches this cue ball to shoot along `aim`. `handed`: right, left or both; of one of whom that
    is unknown nothing is counted.
    """
    if handed == "unknown":
        return Reach(1.0, ())
    found = []
    behind = aim + math.pi
    if _to_rail(table, cue, behind) < 1.8 * table.cue_radius:
        found.append("off the rail")
    back = ahead(cue, behind, BUTT)
    if any(
        distance_to_segment(place, cue, back) < table.radius + 0.012 and math.dist(place, cue) > 1e-9
        for place in others.values()
    ):
        found.append("over a ball")
    lean = _lean(table, cue, behind, handed)
    if lean > COMFORT:
        other = _lean(table, cue, behind, "left" if handed == "right" else "right")
        if handed != "both" and other < min(lean - OFF_HAND_GAIN, COMFORT) and lean > STRETCH:
            found.append("off hand" if WIDER["off hand"] < WIDER["rest"] else "rest")
        else:
            found.append("stretched" if lean <= STRETCH else "rest")
    return Reach(math.prod(WIDER[word] for word in found), tuple(found))


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
