"""What is drawn of a table and over it, as shapes in metres: lines and areas with the name of their look."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.geometry.measured import MeasuredShot
from aretane.core.layout import Layout
from aretane.core.rack import colour_spots
from aretane.core.rules.traits import d_radius, made_for
from aretane.core.table import Point, Table
from aretane.core.units import DIAMONDS_ACROSS, DIAMONDS_ALONG
from aretane.draw.look import LOOK, LineName

ROUND = 32  # corners of a circle
SPOT, DIAMOND = 0.014, 0.009  # m: half the cross of a spot, half a diamond
SIGHT = 0.62  # of the rail's width: where its diamonds are drawn
HOLE = 0.43  # of a mouth's width: a hole's radius as it is drawn


@dataclass(frozen=True)
class Shape:
    """`line` is the name of its look. A `closed` one is an area. `label`: a word at its middle; the letters of
    an `end` stand at its first point and run towards its second. `part` of several shades of one look.
    """

    line: LineName
    points: tuple[Point, ...]
    closed: bool = False
    label: str | None = None
    part: int = 0


def plan(table: Table) -> list[Shape]:
    """The table itself: frame, bed, grid of diamonds, strings, spots, noses, pockets, diamonds, the ends' names."""
    L, W, own = table.length, table.width, made_for(table)
    along = [number * L / DIAMONDS_ALONG for number in range(1, DIAMONDS_ALONG)]
    across = [number * W / DIAMONDS_ACROSS for number in range(1, DIAMONDS_ACROSS)]
    found = [
        Shape("frame", _rounded(-LOOK.rail, -LOOK.rail, L + LOOK.rail, W + LOOK.rail, LOOK.corner), True),
        Shape("bed", ((0.0, 0.0), (L, 0.0), (L, W), (0.0, W)), True),
        *(Shape("grid", ((x, 0.0), (x, W))) for x in along),
        *(Shape("grid", ((0.0, y), (L, y))) for y in across),
        Shape("head-line", ((table.head_line, 0.0), (table.head_line, W))),
    ]
    for x, y in spots(table):
        found += [Shape("spot", ((x - SPOT, y), (x + SPOT, y))), Shape("spot", ((x, y - SPOT), (x, y + SPOT)))]
    if own is not None and own.returns:
        found.append(Shape("d", _arc((table.head_line, W / 2), d_radius(table), math.pi / 2, 3 * math.pi / 2)))
    found += [Shape("nose", points) for points in _noses(table)]
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        centre = pocket.drop[0] + half * pocket.axis[0], pocket.drop[1] + half * pocket.axis[1]
        found.append(Shape("hole", ring(centre, HOLE * pocket.mouth_width), True))
    if own is None:  # tables that are made for one discipline have none
        out = SIGHT * LOOK.rail
        middle = along[len(along) // 2]  # where the side pocket is
        places = [(x, y) for x in along if x != middle for y in (-out, W + out)]
        found += [_diamond(place) for place in [*places, *((x, y) for y in across for x in (-out, L + out))]]
    head, foot = own.ends if own else ("head", "foot")
    side = 5 * W / 8  # between two diamonds of the short rail
    found.append(Shape("end", ((-LOOK.rail / 2, side), (-LOOK.rail / 2, W)), label=head))
    found.append(Shape("end", ((L + LOOK.rail / 2, side), (L + LOOK.rail / 2, 0.0)), label=foot))
    return found


def spots(table: Table) -> list[Point]:
    """Where balls are spotted."""
    own = made_for(table)
    if own is not None and own.returns:
        return list(colour_spots(table).values())
    return [(table.foot_spot, table.width / 2)]


def pot(layout: Layout, measured: MeasuredShot) -> list[Shape]:
    """Ghost ball, the object ball's line, the aim and the two natural lines of one pot."""
    table, ghost = layout.table, measured.ghost
    ball, mouth = layout.balls[measured.ball], table.pockets[measured.pocket].mouth
    found = [Shape("pocket", (ball, mouth)), Shape("ghost", ring(ghost, table.cue_radius), True)]
    if layout.cue is not None and measured.cut is not None:
        found.append(Shape("aim", (layout.cue, ghost)))
    if measured.stun is not None:
        found.append(Shape("stun", (ghost, to_rail(table, ghost, measured.stun)), label="stun"))
    if measured.roll is not None:
        found.append(Shape("roll", (ghost, to_rail(table, ghost, measured.roll)), label="roll"))
    return found


def zones(targets: Sequence[Mapping[str, Any]]) -> list[Shape]:
    """Target zones as a match has them, the ideal one on top."""
    found = []
    for zone in reversed(targets):
        x, y = zone.get("centre") or (0.0, 0.0)
        outline = tuple((float(px), float(py)) for px, py in zone.get("outline") or ())
        round_one = ring((float(x), float(y)), float(zone.get("radius") or 0.0))
        grade: LineName = zone.get("grade") or "acceptable"
        found.append(Shape(grade, outline or round_one, True))
    return found


def ring(centre: Point, radius: float, corners: int = ROUND) -> tuple[Point, ...]:
    """A circle."""
    return _arc(centre, radius, 0.0, 2 * math.pi, corners)[:-1]


def to_rail(table: Table, start: Point, direction: float) -> Point:
    """Where a cue ball that runs from `start` in this direction (rad) meets a cushion."""
    runs = [math.inf]
    for at, go, far in zip(
        start, (math.cos(direction), math.sin(direction)), (table.length, table.width), strict=True
    ):
        if abs(go) > 1e-9:
            runs.append(((far - table.cue_radius if go > 0 else table.cue_radius) - at) / go)
    run = max(0.0, min(runs))
    return start[0] + run * math.cos(direction), start[1] + run * math.sin(direction)


def _arc(centre: Point, radius: float, begin: float, end: float, corners: int = ROUND) -> tuple[Point, ...]:
    angles = [begin + (end - begin) * step / corners for step in range(corners + 1)]
    return tuple((centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles)


def _rounded(x0: float, y0: float, x1: float, y1: float, radius: float) -> tuple[Point, ...]:
    corners = (
        ((x1 - radius, y1 - radius), 0), ((x0 + radius, y1 - radius), 1), ((x0 + radius, y0 + radius), 2),
        ((x1 - radius, y0 + radius), 3),
    )  # fmt: skip
    quarter = math.pi / 2
    return tuple(
        place
        for centre, turn in corners
        for place in _arc(centre, radius, turn * quarter, (turn + 1) * quarter, ROUND // 4)
    )


def _diamond(place: Point) -> Shape:
    x, y = place
    return Shape("diamond", ((x, y - DIAMOND), (x + DIAMOND, y), (x, y + DIAMOND), (x - DIAMOND, y)), True)


def _noses(table: Table) -> list[tuple[Point, Point]]:
    """The nose lines with their gaps at the pockets."""
    rails = (
        ("head-right", 0, "side-right", 0), ("side-right", 1, "foot-right", 0), ("head-left", 0, "side-left", 0),
        ("side-left", 1, "foot-left", 0), ("head-right", 1, "head-left", 1), ("foot-right", 1, "foot-left", 1),
    )  # fmt: skip
    return [(table.pockets[a].tips[i], table.pockets[b].tips[j]) for a, i, b, j in rails]
