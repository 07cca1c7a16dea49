"""Target zones: where a ball was meant to stop."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from aretane.core.errors import InputError
from aretane.core.geometry.plane import nearest_on_segment
from aretane.core.table import Point

GRADES = ("ideal", "acceptable", "recoverable", "forbidden")  # from best to worst
GOOD = ("ideal", "acceptable")


@dataclass(frozen=True)
class Zone:
    """A graded area of the table: a disc (`radius` about `centre`) or the polygon `outline`."""

    grade: str
    centre: Point
    radius: float = 0.0
    outline: tuple[Point, ...] = ()

    def contains(self, place: Point) -> bool:
        if not self.outline:
            return math.dist(place, self.centre) <= self.radius
        return _inside(place, self.outline)

    def nearest(self, place: Point) -> Point:
        """The point of the zone nearest to `place`: the place itself when it is inside."""
        if self.contains(place):
            return place
        if self.outline:
            closed = (*self.outline, self.outline[0])
            points = (nearest_on_segment(place, a, b) for a, b in pairwise(closed))
            return min(points, key=lambda point: math.dist(place, point))
        away = math.dist(place, self.centre)
        share = self.radius / away
        return (
            self.centre[0] + share * (place[0] - self.centre[0]),
            self.centre[1] + share * (place[1] - self.centre[1]),
        )


def _inside(place: Point, outline: Sequence[Point]) -> bool:
    """Crossing number of a ray to the right of `place`."""
    x, y = place
    odd = False
    for (ax, ay), (bx, by) in pairwise((*outline, outline[0])):
        if (ay > y) != (by > y) and x < ax + (y - ay) * (bx - ax) / (by - ay):
            odd = not odd
    return odd


def zones_of(target: Mapping[str, Any] | None) -> tuple[Zone, ...]:
    """The zones of one ball's target in the match format; `InputError` for one that is no area."""
    found = []
    for number, zone in enumerate((target or {}).get("zones") or ()):
        grade = zone.get("grade", "acceptable")
        outline = tuple((float(x), float(y)) for x, y in zone.get("outline") or ())
        if outline:
            if len(outline) < 3:
                raise InputError(f"zones[{number}].outline", "an outline needs at least three points")
            xs, ys = zip(*outline, strict=True)
            centre = (sum(xs) / len(xs), sum(ys) / len(ys))
            found.append(Zone(grade, centre, outline=outline))
        elif "centre" in zone:
            x, y = zone["centre"]
            found.append(Zone(grade, (float(x), float(y)), radius=float(zone.get("radius", 0.0))))
        else:
            raise InputError(f"zones[{number}]", "a zone needs an outline or a centre")
    return tuple(found)
