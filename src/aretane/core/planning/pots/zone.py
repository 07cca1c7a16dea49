"""Where the cue ball should be for a ball: graded areas of its map, the right side, the harmless error."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from contourpy import contour_generator
from scipy.interpolate import RectBivariateSpline
from scipy.ndimage import gaussian_filter

from aretane.core.geometry.cut import cut_for
from aretane.core.geometry.pocket_window import pocket_line
from aretane.core.geometry.zone import Zone
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.pots.grid import Grid
from aretane.core.table import POCKETS, Point

# A grade is reached from this share of the best that the map has (assumed; they are words for a contour).
GRADES = {"ideal": 0.85, "acceptable": 0.6, "recoverable": 0.3}
PROBE = 0.15  # m: how far the cue ball runs past or stays short, to tell which error is harmless
STRAIGHT = math.radians(3)
EVEN = 0.02  # of the value: a smaller difference between two errors is none
FINER = 5  # parts of a cell for outlines
BLUR = 0.5  # cells: how far a place takes its neighbours with it in outlines
FLAT = 1e-4  # a map that never rises above this has no zones


@dataclass(frozen=True)
class Area:
    """One connected piece of a grade: its outline, its size in m², and its centre, which lies inside."""

    grade: str
    centre: Point
    area: float
    outline: tuple[Point, ...]


def best_value(values: Floats) -> float:
    """The best that a map has: the mean over its best fiftieth, so that one lucky place does not set the scale."""
    ordered = np.sort(values, axis=None)
    return float(ordered[-max(1, len(ordered) // 50) :].mean())


def areas(grid: Grid, values: Floats, grade: str) -> list[Area]:
    """The pieces of the table with at least this grade, the largest first.

    Between its places a map knows nothing: the outline is that of the smooth surface through them, each place taken
    with a part of its neighbours, so that no corner is drawn that the map cannot know.
    """
    best = best_value(values)
    if best < FLAT:
        return []
    edge = GRADES[grade] * best
    fine_x, fine_y = (np.linspace(all_[0], all_[-1], FINER * (len(all_) - 1) + 1) for all_ in (grid.xs, grid.ys))
    smooth = RectBivariateSpline(grid.xs, grid.ys, gaussian_filter(values, BLUR, mode="nearest"))(fine_x, fine_y)
    # A frame of nothing around the bed closes the contours at the rails.
    framed = np.pad(smooth, 1, constant_values=-best)
    xs = np.concatenate([[fine_x[0] - 1e-6], fine_x, [fine_x[-1] + 1e-6]])
    ys = np.concatenate([[fine_y[0] - 1e-6], fine_y, [fine_y[-1] + 1e-6]])
    found = []
    for drawn in contour_generator(xs, ys, framed.T).lines(edge):
        line = np.asarray(drawn, dtype=np.float64)
        size = _area(line)
        if abs(size) > grid.cell / 4 and _is_hill(grid, values, line, edge):
            outline = tuple((float(x), float(y)) for x, y in line[:-1])
            found.append(Area(grade, _inner(grid, values, outline), abs(size), outline))
    return sorted(found, key=lambda one: -one.area)


def area_at(grid: Grid, values: Floats, place: Point, grade: str = "acceptable") -> Area | None:
    """The piece that `place` is in, else the one nearest to it."""
    pieces = areas(grid, values, grade)
    if not pieces:
        return None
    return min(
        pieces, key=lambda one: math.dist(place, Zone(grade, one.centre, outline=one.outline).nearest(place))
    )


def grade_of(grid: Grid, values: Floats, place: Point) -> str:
    """The grade of a place."""
    best = best_value(values)
    share = float(grid.at(values, np.array(place))) / best if best > FLAT else 0.0
    return next((grade for grade, least in GRADES.items() if share >= least), "forbidden")


@dataclass(frozen=True)
class Angle:
    """The cut from a place to a ball's pocket: degrees from straight, the side the ball is cut to, straight or
    not.
    """

    degrees: float
    side: str | None
    straight: bool


def angle_from(layout: Layout, place: Point, ball: str, pocket: int) -> Angle | None:
    """The cut of `ball` into pocket number `pocket` from this place of the cue ball; None where none exists."""
    at = layout.balls[ball]
    line = pocket_line(at, layout.table.pockets[POCKETS[pocket]])
    cut = cut_for(place, at, line, layout.table.radius + layout.table.cue_radius)
    if cut is None:
        return None
    return Angle(math.degrees(abs(cut.angle)), cut.side, abs(cut.angle) < STRAIGHT)


@dataclass(frozen=True)
class Harmless:
    """Which speed error costs less where the cue ball comes in: long, short or either, and the values left."""

    error: str
    long: float
    short: float


def harmless_error(grid: Grid, values: Floats, place: Point, direction: float) -> Harmless:
    """Compare running on and staying short along the cue ball's last way (`direction`, radians)."""
    u = np.array([math.cos(direction), math.sin(direction)])
    long, short = (float(grid.at(values, np.array(place) + step * u)) for step in (PROBE, -PROBE))
    scale = max(best_value(values), FLAT)
    error = "either" if abs(long - short) < EVEN * scale else "long" if long > short else "short"
    return Harmless(error, long, short)


def _area(line: Floats) -> float:
    x, y = line[:-1, 0], line[:-1, 1]
    return float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1))) / 2


def _is_hill(grid: Grid, values: Floats, line: Floats, edge: float) -> bool:
    """Whether the map is above the edge inside the line: a hole in a larger piece is not an area of its own."""
    outline = Zone("ideal", (0.0, 0.0), outline=tuple(map(tuple, line[:-1].tolist())))
    inside = [p for p in grid.places.tolist() if outline.contains((p[0], p[1]))]
    if inside:
        return float(grid.at(values, np.array(inside)).max()) >= edge
    return True


def _inner(grid: Grid, values: Floats, outline: tuple[Point, ...]) -> Point:
    """A centre that is inside: the mean of the grid's places weighted by their value, or the best of them."""
    zone = Zone("ideal", (0.0, 0.0), outline=outline)
    inside = [(p[0], p[1]) for p in grid.places.tolist() if zone.contains((p[0], p[1]))]
    if not inside:
        x, y = np.mean(np.array(outline), axis=0)
        return float(x), float(y)
    weight = grid.at(values, np.array(inside))
    x, y = (np.array(inside) * weight[:, None]).sum(axis=0) / weight.sum()
    if zone.contains((float(x), float(y))):
        return float(x), float(y)
    return inside[int(np.argmax(weight))]
