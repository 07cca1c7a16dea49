"""Points, directions and rays in the plane of the table."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

from aretane.core.table import Point


def bearing(start: Point, end: Point) -> float:
    """Direction from `start` to `end`, radians counter-clockwise from +x."""
    return math.atan2(end[1] - start[1], end[0] - start[0])


def turn(start: float, end: float) -> float:
    """The signed angle that turns direction `start` into `end`, in (-pi, pi]; positive to the left."""
    difference = math.fmod(end - start, 2 * math.pi)
    if difference > math.pi:
        difference -= 2 * math.pi
    elif difference <= -math.pi:
        difference += 2 * math.pi
    return difference


def angle_to_rail(start: Point, end: Point) -> float:
    """The angle between a line and the long rails, 0 along them to pi / 2 straight across."""
    return math.atan2(abs(end[1] - start[1]), abs(end[0] - start[0]))


def area_of(outline: Sequence[Point]) -> float:
    """The area inside of a closed outline that does not cross itself (Gauss's area formula)."""
    twice = sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in itertools.pairwise((*outline, outline[0])))
    return abs(twice) / 2


def ahead(start: Point, direction: float, distance: float) -> Point:
    """The point `distance` metres from `start` in `direction`."""
    return start[0] + distance * math.cos(direction), start[1] + distance * math.sin(direction)


def distance_to_segment(point: Point, start: Point, end: Point) -> float:
    """Distance from a point to the segment between two points."""
    return math.dist(point, nearest_on_segment(point, start, end))


def nearest_on_segment(point: Point, start: Point, end: Point) -> Point:
    """The point of a segment that is nearest to `point`."""
    dx, dy = end[0] - start[0], end[1] - start[1]
    length2 = dx * dx + dy * dy
    if length2 == 0.0:
        return start
    t = ((point[0] - start[0]) * dx + (point[1] - start[1]) * dy) / length2
    t = min(1.0, max(0.0, t))
    return start[0] + t * dx, start[1] + t * dy


def run_to_contact(start: Point, direction: float, target: Point, reach: float) -> float | None:
    """How far a ball rolls from `start` until its centre is `reach` from `target`; None if it misses.

    A ball that already touches and moves nearer has run 0.
    """
    dx, dy = target[0] - start[0], target[1] - start[1]
    ux, uy = math.cos(direction), math.sin(direction)
    along = dx * ux + dy * uy
    if along <= 0.0:
        return None
    across = dx * uy - dy * ux
    inside = reach * reach - across * across
    if inside <= 0.0:
        return None
    return max(0.0, along - math.sqrt(inside))


def run_to_line(start: Point, direction: float, one: Point, two: Point) -> float | None:
    """How far from `start` in `direction` the segment between two points is crossed; None if never."""
    ux, uy = math.cos(direction), math.sin(direction)
    ex, ey = two[0] - one[0], two[1] - one[1]
    determinant = uy * ex - ux * ey
    if abs(determinant) < 1e-12:
        return None
    sx, sy = one[0] - start[0], one[1] - start[1]
    distance = (sy * ex - sx * ey) / determinant
    share = (ux * sy - uy * sx) / determinant
    return distance if distance >= 0.0 and -1e-9 <= share <= 1 + 1e-9 else None
