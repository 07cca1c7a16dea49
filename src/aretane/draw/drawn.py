"""What a coach draws by hand, as shapes: line, arrow, circle, area in three inks, each with its own stroke."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from aretane.core.geometry.plane import ahead, bearing
from aretane.core.table import Point
from aretane.draw.look import LineName
from aretane.draw.shapes import Shape, ring

ARROW, CIRCLE, AREA = "arrow", "circle", "area"
INKS: dict[str, LineName] = {"dark": "ink-dark", "red": "ink-red", "blue": "ink-blue"}
BARB, SPREAD = 0.06, math.radians(25)  # of an arrow's head: m, at most a third of the arrow, and half its angle


def drawn(drawings: Iterable[Mapping[str, Any]]) -> list[Shape]:
    """Drawings as a match has them. What another program calls them is a line in dark ink."""
    return [shape for one in drawings if len(one["points"]) > 1 for shape in [_shape(one)]]


def _shape(one: Mapping[str, Any]) -> Shape:
    points: list[Point] = [(float(x), float(y)) for x, y in one["points"]]
    look, kind = INKS.get(one.get("ink") or "", "ink-dark"), one["kind"]
    if kind == CIRCLE:
        return Shape(look, ring(points[0], math.dist(points[0], points[-1])), True, one.get("text"))
    if kind == ARROW:
        points = _arrow(points)
    return Shape(look, tuple(points), kind == AREA, one.get("text"))


def _arrow(points: Sequence[Point]) -> list[Point]:
    start, end = points[-2], points[-1]
    back, barb = bearing(end, start), min(BARB, math.dist(start, end) / 3)
    return [*points, ahead(end, back - SPREAD, barb), end, ahead(end, back + SPREAD, barb), end]
