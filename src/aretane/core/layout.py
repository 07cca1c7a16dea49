"""A layout: which balls stand where on which table, and what the game knows at that moment."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from aretane.core.ball import CUE, DISCIPLINES, OBJECT_BALLS
from aretane.core.errors import InputError
from aretane.core.jaws import jaws
from aretane.core.table import Point, Table

OFF_TABLE = 0.96  # a centre nearer to a cushion line than this many radii is off the table
OVERLAP = 0.0005  # centres nearer than touching by more than this overlap
TOUCHING = 0.0005  # a gap up to this counts as frozen


@dataclass(frozen=True)
class State:
    """What the rules must know besides the places. Keys as in the layout format."""

    player: str = "A"
    ball_in_hand: str | None = None
    group: str | None = None
    on: str | None = None
    push_out_allowed: bool = False
    fouls: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    points: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    racks: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    free_ball: str | None = None
    touching: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Layout:
    """Ball centres in metres in the table frame, by ball id."""

    table: Table
    discipline: str
    balls: Mapping[str, Point]
    state: State = State()

    @property
    def cue(self) -> Point | None:
        return self.balls.get(CUE)

    @property
    def object_balls(self) -> dict[str, Point]:
        return {ball: place for ball, place in self.balls.items() if ball != CUE}

    def without(self, *gone: str) -> Layout:
        return replace(self, balls={b: p for b, p in self.balls.items() if b not in gone})

    def placed(self, ball: str, place: Point) -> Layout:
        return replace(self, balls={**self.balls, ball: place})


def check(layout: Layout) -> Layout:
    """The layout itself, or `InputError` naming the ball that cannot stand where it is said to."""
    if layout.discipline not in DISCIPLINES:
        raise InputError(
            "discipline", f"unknown discipline {layout.discipline!r}; known are {', '.join(DISCIPLINES)}"
        )
    known = {CUE, *OBJECT_BALLS[layout.discipline]}
    for ball, (x, y) in layout.balls.items():
        if ball not in known:
            raise InputError(f"balls.{ball}", f"{layout.discipline} has no such ball")
        if not (math.isfinite(x) and math.isfinite(y)):
            raise InputError(f"balls.{ball}", "the place must be two finite numbers")
        if not on_table(layout.table, (x, y), layout.table.radius_of(ball)):
            raise InputError(f"balls.{ball}", f"({x:g}, {y:g}) is off the table")
    if layout.cue is None and layout.state.ball_in_hand is None:
        raise InputError("balls.cue", "the cue ball is missing and nobody has ball in hand")
    for pair in layout.state.touching:
        for ball in pair:
            if ball not in layout.balls:
                raise InputError("state.touching", f"{ball} is not on the table")
    overlap = first_overlap(layout)
    if overlap is not None:
        raise InputError(f"balls.{overlap[0]}", f"overlaps ball {overlap[1]}")
    return layout


def on_table(table: Table, place: Point, radius: float) -> bool:
    """Whether a ball's centre may be there: on the bed, or between the jaws of a pocket up to the drop."""
    x, y = place
    inset = min(OFF_TABLE * radius, table.contact_distance(radius))  # a high nose lets a ball nearer
    if inset <= x <= table.length - inset and inset <= y <= table.width - inset:
        return True
    if not (-radius <= x <= table.length + radius and -radius <= y <= table.width + radius):
        return False
    pocket = min(table.pockets.values(), key=lambda near: math.dist(place, near.mouth))
    along = (x - pocket.mouth[0]) * pocket.axis[0] + (y - pocket.mouth[1]) * pocket.axis[1]
    return along <= pocket.shelf and all(jaw.clearance(place) >= inset for jaw in jaws(table)[pocket.name])


def first_overlap(layout: Layout) -> tuple[str, str] | None:
    """The first pair of balls that stand in one another, if any."""
    balls = list(layout.balls.items())
    for i, (one, p) in enumerate(balls):
        for other, q in balls[:i]:
            reach = layout.table.radius_of(one) + layout.table.radius_of(other)
            if math.dist(p, q) < reach - OVERLAP:
                return one, other
    return None
