"""What the cue ball can reach: how much of a ball is seen, and what stands in the way."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping

from aretane.core.geometry.plane import bearing, distance_to_segment, run_to_contact, turn
from aretane.core.table import Point


def in_the_way(start: Point, end: Point, others: Mapping[str, Point], reach: float) -> list[str]:
    """The balls that a ball touches while its centre runs from `start` to `end`.

    A ball that already touches at the start blocks only if the path leads into it.
    """
    found = []
    direction = bearing(start, end)
    for name, place in others.items():
        if distance_to_segment(place, start, end) >= reach - 1e-9:
            continue
        frozen = math.dist(start, place) <= reach + 1e-9
        if frozen and math.cos(turn(direction, bearing(start, place))) <= 1e-9:
            continue
        found.append(name)
    return found


def visible_part(cue: Point, ball: str, balls: Mapping[str, Point], reach: float) -> float:
    """The share of the directions in which the cue ball would meet `ball`, that no other ball takes.

    1 when every hit from full to the thinnest edge on either side is there, 0 when the ball is hidden.
    The borders are exact: tangents, and the directions in which two balls would be met at once.
    """
    target = balls[ball]
    away = math.dist(cue, target)
    if away <= reach:
        return 1.0
    line = bearing(cue, target)
    half = math.asin(reach / away)
    near = {
        name: place
        for name, place in balls.items()
        if name != ball and math.dist(cue, place) < away + reach and _overlaps(cue, place, line, half, reach)
    }
    marks = {-half, half}
    for place in near.values():
        to = turn(line, bearing(cue, place))
        wide = math.asin(min(1.0, reach / math.dist(cue, place)))
        marks |= {to - wide, to + wide}
        marks |= {turn(line, bearing(cue, point)) for point in _both_at(target, place, reach)}
    ordered = sorted(mark for mark in marks if -half <= mark <= half)
    seen = sum(
        b - a for a, b in itertools.pairwise(ordered) if _met_first(cue, line + (a + b) / 2, target, near, reach)
    )
    return min(1.0, seen / (2 * half))


def _overlaps(cue: Point, place: Point, line: float, half: float, reach: float) -> bool:
    wide = math.asin(min(1.0, reach / math.dist(cue, place)))
    return abs(turn(line, bearing(cue, place))) < half + wide


def _both_at(one: Point, two: Point, reach: float) -> list[Point]:
    """Where a ball's centre touches two balls at once."""
    apart = math.dist(one, two)
    if apart >= 2 * reach or apart == 0:
        return []
    height = math.sqrt(reach * reach - apart * apart / 4)
    mx, my = (one[0] + two[0]) / 2, (one[1] + two[1]) / 2
    nx, ny = (two[1] - one[1]) / apart, (one[0] - two[0]) / apart
    return [(mx + height * nx, my + height * ny), (mx - height * nx, my - height * ny)]


def _met_first(cue: Point, direction: float, target: Point, others: Mapping[str, Point], reach: float) -> bool:
    run = run_to_contact(cue, direction, target, reach)
    if run is None:
        return False
    stops = (run_to_contact(cue, direction, place, reach) for place in others.values())
    return not any(stop is not None and stop < run for stop in stops)
