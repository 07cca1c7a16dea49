"""What a ball that runs along a line leaves beside itself: the gap to every ball and jaw, and how sure it is.

Plane geometry: the gap is the distance of the other centre from the way of the moving one, less both radii; from a
jaw's tip, less one. Each place that is known to `sigma` moves it, the ends of the way by their share.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from aretane.core.geometry.plane import bearing, nearest_on_segment, turn
from aretane.core.layout import Layout
from aretane.core.statistics.rates import Z95
from aretane.core.table import Point

AT_A_BALL = 0.5  # of a radius: an end of the way that lies so near to a ball's centre is meant to be there

Verdict = Literal["passes", "touches", "cannot be told"]


@dataclass(frozen=True)
class Gap:
    """Metres between the moving ball and `what` (a ball, or "jaw of foot-left") at the nearest, below 0 where it
    runs into it; `plus_minus` is half of the 95 % interval."""

    what: str
    gap: float
    plus_minus: float

    @property
    def verdict(self) -> Verdict:
        if self.gap > self.plus_minus:
            return "passes"
        return "touches" if self.gap < -self.plus_minus else "cannot be told"


def mover_at(layout: Layout, place: Point) -> str | None:
    """The ball that a way begins (or ends) at."""
    near = [(math.dist(at, place), ball) for ball, at in layout.balls.items()]
    away, ball = min(near, default=(math.inf, ""))
    return ball if ball and away < AT_A_BALL * layout.table.radius_of(ball) else None


def gaps(layout: Layout, start: Point, end: Point, sigma: Mapping[str, float]) -> list[Gap]:
    """The gaps beside the way from `start` to `end`, the narrowest first.

    A ball at the start is the one that moves (else an object ball is meant), one at the end the one that it is sent
    to; neither is beside the way. `sigma`: standard deviation of a ball's place in metres, 0 where it has none.
    """
    mover, goal = mover_at(layout, start), mover_at(layout, end)
    radius = layout.table.radius_of(mover or "")
    ends = sigma.get(mover or "", 0.0), sigma.get(goal or "", 0.0)
    found = []
    for ball, place in layout.balls.items():
        reach = radius + layout.table.radius_of(ball)
        if ball not in (mover, goal) and not _left_behind(start, end, place, reach):
            found.append(_gap(ball, place, reach, (start, end), (*ends, sigma.get(ball, 0.0))))
    found += [_gap(name, tip, radius, (start, end), (*ends, 0.0)) for name, tip in _jaws(layout)]
    return sorted(found, key=lambda one: one.gap)


def _gap(what: str, place: Point, reach: float, way: tuple[Point, Point], known: tuple[float, float, float]) -> Gap:
    near = nearest_on_segment(place, *way)
    length = math.dist(*way)
    share = math.dist(way[0], near) / length if length else 0.0
    at_start, at_end, own = known
    spread = math.hypot((1 - share) * at_start, share * at_end, own)
    return Gap(what, math.dist(place, near) - reach, Z95 * spread)


def _left_behind(start: Point, end: Point, place: Point, reach: float) -> bool:
    """Whether the ball touches the moving one already, and is not run into."""
    frozen = math.dist(start, place) <= reach + 5e-4
    return frozen and math.cos(turn(bearing(start, end), bearing(start, place))) <= 1e-9


def _jaws(layout: Layout) -> Iterator[tuple[str, Point]]:
    for pocket in layout.table.pockets.values():
        for tip in pocket.tips:
            yield f"jaw of {pocket.name}", tip
