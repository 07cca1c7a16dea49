"""The jaws of the pockets: a rail's straight nose, an arc tangent to it, and the straight facing behind the arc.

The arc rounds the sharp tip that the pocket's mouth is measured between.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from aretane.core.table import Pocket, Point, Table


@dataclass(frozen=True)
class Jaw:
    """One jaw in plan. `rail` runs along the nose into the pocket, `facing` on from there; the normals point to
    where a ball can be. `turn` is the angle between the two directions, `centre` and `radius` those of the arc.
    """

    tip: Point
    rail: Point
    rail_normal: Point
    facing: Point
    facing_normal: Point
    turn: float
    radius: float

    @property
    def lead(self) -> float:
        """How far before the sharp tip the arc begins, and behind it ends."""
        return self.radius * math.tan(self.turn / 2)

    @property
    def centre(self) -> Point:
        return (
            self.tip[0] - self.lead * self.rail[0] - self.radius * self.rail_normal[0],
            self.tip[1] - self.lead * self.rail[1] - self.radius * self.rail_normal[1],
        )

    @property
    def facing_start(self) -> Point:
        return self.tip[0] + self.lead * self.facing[0], self.tip[1] + self.lead * self.facing[1]

    def clearance(self, place: Point) -> float:
        """Distance from a place to the jaw's nose, negative inside it."""
        away = (place[0] - self.centre[0], place[1] - self.centre[1])
        if _dot(away, self.rail) <= 0:
            return _dot(away, self.rail_normal) - self.radius
        if _dot(away, self.facing) >= 0:
            return _dot(away, self.facing_normal) - self.radius
        return math.hypot(*away) - self.radius


def _dot(a: Point, b: Point) -> float:
    return a[0] * b[0] + a[1] * b[1]


@lru_cache(maxsize=64)
def jaws(table: Table) -> dict[str, tuple[Jaw, Jaw]]:
    """The two jaws of each pocket, in the order of its tips."""
    return {pocket.name: _jaws(table, pocket) for pocket in table.pockets.values()}


def _jaws(table: Table, pocket: Pocket) -> tuple[Jaw, Jaw]:
    angle, radius = table.jaw(pocket)
    turn = math.pi - angle

    def jaw(tip: Point) -> Jaw:
        rail, normal = _rail_at(table, pocket, tip)
        cos, sin = math.cos(turn), math.sin(turn)
        facing = (cos * rail[0] - sin * normal[0], cos * rail[1] - sin * normal[1])
        facing_normal = (sin * rail[0] + cos * normal[0], sin * rail[1] + cos * normal[1])
        return Jaw(tip, rail, normal, facing, facing_normal, turn, radius)

    return jaw(pocket.tips[0]), jaw(pocket.tips[1])


def _rail_at(table: Table, pocket: Pocket, tip: Point) -> tuple[Point, Point]:
    """Direction into the pocket of the rail that ends at this tip, and that rail's normal into the table."""
    on_long_rail = tip[1] in (0.0, table.width)
    if on_long_rail:
        return (math.copysign(1.0, pocket.mouth[0] - tip[0]), 0.0), (0.0, 1.0 if tip[1] == 0.0 else -1.0)
    return (0.0, math.copysign(1.0, pocket.mouth[1] - tip[1])), (1.0 if tip[0] == 0.0 else -1.0, 0.0)
