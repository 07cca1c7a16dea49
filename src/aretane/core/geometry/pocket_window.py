"""The angular window of an object ball's path into a pocket, and what balls leave of it.

Jaw tips are widened by the ball's radius, balls by the sum of the radii, and what remains is an
exact union of intervals. The tests hold it against areas and distances computed by Shapely.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.geometry.plane import ahead, bearing, distance_to_segment, run_to_line, turn
from aretane.core.table import Pocket, Point

Interval = tuple[float, float]

HANGING = math.radians(50)


@dataclass(frozen=True)
class PocketWindow:
    """Directions (radians) in which a ball goes in, relative to nothing: absolute in the table frame.

    `jaws` is what the jaws alone leave (None when they close the pocket), `free` the intervals that the
    balls leave of it, `blockers` the balls that take some of it.
    """

    jaws: Interval | None
    free: tuple[Interval, ...]
    blockers: tuple[str, ...]

    @property
    def open(self) -> float:
        """Free part of the window that the jaws leave: 1 open, 0 closed."""
        if self.jaws is None:
            return 0.0
        whole = self.jaws[1] - self.jaws[0]
        return min(1.0, sum(high - low for low, high in self.free) / whole)

    @property
    def widest(self) -> Interval | None:
        """The widest free interval: what a ball is aimed at in a partly closed pocket."""
        return max(self.free, key=lambda part: part[1] - part[0], default=None)


def hangs(ball: Point, pocket: Pocket) -> bool:
    """Whether the ball's centre is past the mouth, between the jaws."""
    dx, dy = ball[0] - pocket.mouth[0], ball[1] - pocket.mouth[1]
    along = dx * pocket.axis[0] + dy * pocket.axis[1]
    across = abs(dx * pocket.axis[1] - dy * pocket.axis[0])
    return along >= -1e-6 and across < pocket.mouth_width / 2


def pocket_line(ball: Point, pocket: Pocket) -> float:
    """Direction of the pocket line: to the middle of the mouth, for a hanging ball along the pocket's axis."""
    if hangs(ball, pocket):
        return math.atan2(pocket.axis[1], pocket.axis[0])
    return bearing(ball, pocket.mouth)


def jaw_window(ball: Point, pocket: Pocket, radius: float) -> Interval | None:
    """Directions in which a ball of `radius` passes between the jaw tips; None if it cannot.

    A hanging ball has passed them: whatever pushes it within `HANGING` of the axis sends it in (assumed).
    """
    if hangs(ball, pocket):
        inwards = pocket_line(ball, pocket)
        return inwards - HANGING, inwards + HANGING
    to_mouth = bearing(ball, pocket.mouth)
    edges = []
    for tip in pocket.tips:
        away = math.dist(ball, tip)
        half = math.pi / 2 if away <= radius else math.asin(radius / away)
        edges.append((turn(to_mouth, bearing(ball, tip)), half))
    edges.sort()
    low = edges[0][0] + edges[0][1]
    high = edges[1][0] - edges[1][1]
    outward = math.cos(turn(math.atan2(pocket.axis[1], pocket.axis[0]), to_mouth))
    if high <= low or outward <= 0.0:
        return None
    return to_mouth + low, to_mouth + high


def pocket_window(
    ball: Point, pocket: Pocket, others: Mapping[str, Point], radius: float, reach: Mapping[str, float]
) -> PocketWindow:
    """What jaws and `others` leave for `ball` into `pocket`.

    `reach[name]` is the distance of centres at which the rolling ball touches that other ball.
    """
    jaws = jaw_window(ball, pocket, radius)
    if jaws is None:
        return PocketWindow(None, (), ())
    free: list[Interval] = [jaws]
    blockers = []
    for name, other in others.items():
        shadow = _shadow(ball, pocket, jaws, other, reach[name])
        if shadow is None:
            continue
        left = [piece for part in free for piece in _minus(part, shadow)]
        blockers.append(name)
        free = left
    return PocketWindow(jaws, tuple(free), tuple(blockers))


def _shadow(ball: Point, pocket: Pocket, jaws: Interval, other: Point, reach: float) -> Interval | None:
    """The directions within `jaws` in which the ball touches `other` before it is past the mouth."""
    away = math.dist(ball, other)
    far = max(math.dist(ball, tip) for tip in pocket.tips)
    if away > far + reach:
        return None
    towards = bearing(ball, other)
    half = math.asin(min(1.0, reach / away)) if away > 0 else math.pi / 2
    middle = (jaws[0] + jaws[1]) / 2
    if abs(turn(middle, towards)) > half + (jaws[1] - jaws[0]) / 2:
        return None
    # Where the shadow may begin or end: its two tangents, and the two directions that just touch the
    # ball at the moment of passing the mouth (a ball beyond the mouth counts only up to there).
    cuts = [turn(middle, towards - half), turn(middle, towards + half)]
    cuts += [turn(middle, bearing(ball, point)) for point in _mouth_touches(pocket, other, reach)]
    low, high = jaws[0] - middle, jaws[1] - middle
    marks = sorted({low, high, *(c for c in cuts if low < c < high)})
    struck = [
        (a, b) for a, b in itertools.pairwise(marks) if _touches(ball, pocket, middle + (a + b) / 2, other, reach)
    ]
    if not struck:
        return None
    return middle + struck[0][0], middle + struck[-1][1]


def _mouth_touches(pocket: Pocket, other: Point, reach: float) -> list[Point]:
    """The points of the mouth's line at distance `reach` from another ball."""
    (ax, ay), (bx, by) = pocket.tips
    width = pocket.mouth_width
    ux, uy = (bx - ax) / width, (by - ay) / width
    along = (other[0] - ax) * ux + (other[1] - ay) * uy
    height = (other[0] - ax) * uy - (other[1] - ay) * ux
    inside = reach * reach - height * height
    if inside <= 0:
        return []
    return [(ax + t * ux, ay + t * uy) for t in (along - math.sqrt(inside), along + math.sqrt(inside))]


def _touches(ball: Point, pocket: Pocket, direction: float, other: Point, reach: float) -> bool:
    run = run_to_line(ball, direction, *pocket.tips)
    end = ahead(ball, direction, run if run is not None else math.dist(ball, pocket.mouth))
    return distance_to_segment(other, ball, end) < reach - 1e-12


def _minus(part: Interval, taken: Interval) -> list[Interval]:
    low, high = part
    shift = 2 * math.pi * round((low - taken[0]) / (2 * math.pi))
    a, b = taken[0] + shift, taken[1] + shift
    pieces = [(low, min(high, a)), (max(low, b), high)]
    return [(x, y) for x, y in pieces if y - x > 1e-12]
