"""Kicks by the mirror: where to aim off up to four rails to reach a place.

The rails are mirrors in the lines that the ball's centre turns at, inset by its contact distance. Exact for a ball
without friction and a rail without loss; speed and spin bend it, and the simulator then corrects. Common practice;
the unfolding is checked against the simulator without friction.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise, product

from aretane.core.geometry.plane import bearing, distance_to_segment
from aretane.core.table import Point, Table
from aretane.core.units import DIAMONDS_ACROSS, DIAMONDS_ALONG, SIGHT_FROM_NOSE

RAILS = ("right", "foot", "left", "head")


@dataclass(frozen=True)
class Kick:
    """A way to `end` by the `rails` in this order: the aim (radians), the whole length, the turning points."""

    rails: tuple[str, ...]
    aim: float
    length: float
    corners: tuple[Point, ...]


def kicks(table: Table, start: Point, end: Point, most_rails: int = 2) -> Iterator[Kick]:
    """Every mirror way from `start` to `end` by so many rails at most, none of them twice in a row."""
    for count in range(1, most_rails + 1):
        yield from kicks_by(table, start, end, count)


def kicks_by(table: Table, start: Point, end: Point, rails: int) -> Iterator[Kick]:
    """The mirror ways by just so many rails that turn on the cushions."""
    for order in product(RAILS, repeat=rails):
        if all(one != two for one, two in pairwise(order)):
            kick = _way(table, start, end, order)
            if kick is not None:
                yield kick


def diamond_of(table: Table, kick: Kick, start: Point, aim: float | None = None) -> float:
    """Where the line of aim meets the first rail's line of diamonds, counted from its head or its right end. The
    diamonds stand `units.SIGHT_FROM_NOSE` behind the nose. `aim`: another direction than the mirror's (radians).
    """
    direction = kick.aim if aim is None else aim
    axis, nose = _nose(table, kick.rails[0])
    beyond = nose + math.copysign(SIGHT_FROM_NOSE, nose - start[axis])
    run = (beyond - start[axis]) / (math.cos(direction) if axis == 0 else math.sin(direction))
    along = start[1 - axis] + run * (math.sin(direction) if axis == 0 else math.cos(direction))
    return along / (table.width / DIAMONDS_ACROSS if axis == 0 else table.length / DIAMONDS_ALONG)


def clear(kick: Kick, start: Point, end: Point, others: Mapping[str, Point], reach: float) -> bool:
    """Whether no other ball stands in any leg."""
    points = (start, *kick.corners, end)
    return all(distance_to_segment(place, a, b) >= reach for a, b in pairwise(points) for place in others.values())


def _way(table: Table, start: Point, end: Point, rails: tuple[str, ...]) -> Kick | None:
    images = [end]  # the target as seen in the last mirror, then in the one before
    for rail in reversed(rails):
        images.append(_mirrored(table, rail, images[-1]))
    corners, here = [], start
    for rail, image in zip(rails, reversed(images), strict=False):
        corner = _crossing(table, rail, here, image)
        if corner is None:
            return None
        corners.append(corner)
        here = corner
    points = (start, *corners, end)
    length = sum(math.dist(a, b) for a, b in pairwise(points))
    return Kick(rails, bearing(start, corners[0]), length, tuple(corners))


def _line(table: Table, rail: str) -> tuple[int, float]:
    """Coordinate and place of the line in which a ball's centre turns at this rail."""
    inset = table.contact_distance(table.cue_radius)
    return {
        "right": (1, inset),
        "left": (1, table.width - inset),
        "head": (0, inset),
        "foot": (0, table.length - inset),
    }[rail]


def _nose(table: Table, rail: str) -> tuple[int, float]:
    """Coordinate and place of this rail's nose."""
    return {"right": (1, 0.0), "left": (1, table.width), "head": (0, 0.0), "foot": (0, table.length)}[rail]


def _mirrored(table: Table, rail: str, point: Point) -> Point:
    axis, line = _line(table, rail)
    x, y = point
    return (2 * line - x, y) if axis == 0 else (x, 2 * line - y)


def _crossing(table: Table, rail: str, start: Point, image: Point) -> Point | None:
    """Where the way to the image meets the rail; None if it goes away from it or meets no cushion there."""
    axis, line = _line(table, rail)
    run = image[axis] - start[axis]
    if abs(run) < 1e-9:
        return None
    share = (line - start[axis]) / run
    if not 1e-6 < share < 1.0:
        return None
    point = start[0] + share * (image[0] - start[0]), start[1] + share * (image[1] - start[1])
    free = table.corner_mouth
    across, most = (point[1], table.width) if axis == 0 else (point[0], table.length)
    if not free * 0.7 < across < most - free * 0.7:
        return None
    if axis == 1 and abs(point[0] - table.length / 2) < table.side_mouth / 2:
        return None
    return point
