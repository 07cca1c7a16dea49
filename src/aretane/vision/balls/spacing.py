"""Measured places made possible: balls that touch are measured a little into one another, and into cushions."""

from __future__ import annotations

import math
from collections.abc import Sequence

from aretane.core.layout import on_table
from aretane.core.table import Point, Table

ROUNDS = 60
CLEAR = 0.00001  # m beyond touching


def apart(places: Sequence[Point], table: Table) -> list[Point]:
    """The places moved as little as need be so that no two balls overlap and none lies in a cushion.

    Each pair that overlaps is moved apart along its line, half each, again and again.
    """
    found = [_off_cushions(place, table) for place in places]
    least = table.ball_diameter + CLEAR
    for _ in range(ROUNDS):
        moved = False
        for i in range(len(found)):
            for j in range(i):
                (ax, ay), (bx, by) = found[i], found[j]
                gap = math.hypot(ax - bx, ay - by)
                if gap >= table.ball_diameter:
                    continue
                dx, dy = ((ax - bx) / gap, (ay - by) / gap) if gap > 1e-6 else (1.0, 0.0)
                half = (least - gap) / 2
                found[i] = _off_cushions((ax + half * dx, ay + half * dy), table)
                found[j] = _off_cushions((bx - half * dx, by - half * dy), table)
                moved = True
        if not moved:
            break
    return found


def _off_cushions(place: Point, table: Table) -> Point:
    """The place itself where a ball can be there (in a pocket's jaws too), else the nearest on the bed."""
    if on_table(table, place, table.radius):
        return place
    r = table.radius
    return min(max(place[0], r), table.length - r), min(max(place[1], r), table.width - r)
