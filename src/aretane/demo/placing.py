"""Where a story puts what is not simulated: the cue ball in hand, and the zones that were meant."""

from __future__ import annotations

import math
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.plane import ahead, bearing
from aretane.core.layout import first_overlap, on_table
from aretane.core.physics.shot import Shot
from aretane.core.rules.traits import d_radius
from aretane.core.table import Point
from aretane.demo.making import NEVER, DeadEnd, Line, Making, best, rounded, wanted


def take_in_hand(making: Making, line: Line) -> None:
    """Put the cue ball where the line can be played best, of some places that the rules allow."""
    tried: list[tuple[float, dict[str, Point]]] = []
    for _ in range(300):
        places = {**making.places, CUE: _allowed(making)}
        layout = making.layout_of(places)
        if not on_table(making.table, places[CUE], making.table.radius / 0.96) or first_overlap(layout):
            continue
        cost = making.cost_here(layout, making.legal, line)
        if cost < NEVER:
            tried.append((cost, places))
        if len(tried) >= 12:
            break
    if not tried:
        raise DeadEnd
    making.places = min(tried, key=lambda one: one[0])[1]


def _allowed(making: Making) -> Point:
    """A place that the rules allow for the cue ball in hand."""
    table, dice, where = making.table, making.dice, making.state.in_hand
    if where == "in-d":
        away, aside = d_radius(table) * math.sqrt(dice.random()), dice.uniform(math.pi / 2, 3 * math.pi / 2)
        return rounded(ahead((table.head_line, table.width / 2), aside, away))
    if where == "behind-line":
        edge = 2 * table.radius
        return rounded((dice.uniform(edge, table.head_line), dice.uniform(edge, table.width - edge)))
    return near(making, making.places[dice.choice(making.legal)], 0.7)


def near(making: Making, place: Point, distance: float) -> Point:
    dice = making.dice
    return rounded(ahead(place, dice.uniform(0, 2 * math.pi), dice.uniform(0.3, 1.0) * distance))


def aim_for_zone(making: Making, result: Shot, following: Line) -> None:
    """The zone that was meant: the stop less an error of speed and line."""
    shot, dice, stop = making.shots[-1], making.dice, making.places[CUE]
    turns = [e.place for e in result.events if e.balls[0] == CUE and e.kind in ("rail", "contact")]
    leg = bearing(turns[-1], stop) if math.dist(turns[-1], stop) > 0.02 else 0.0
    long, wide = dice.gauss(0.06, 0.24), dice.gauss(0.0, 0.11)  # this club's table runs a little long
    centre = ahead(ahead(stop, leg, -long), leg + math.pi / 2, -wide)
    free = first_overlap(making.layout_of({**making.places, CUE: centre})) is None  # nobody means to stop on a ball
    if not free or not on_table(making.table, centre, making.table.radius / 0.96):
        centre = stop
    meant = best(making.layout, wanted(making.legal, following.particular), hard=True)
    then = {"ball": meant[1].ball, "pocket": meant[1].pocket} if meant else None
    shot["targets"] = zones(centre, 0.1, "stated" if shot["player"] == "A" else "inferred", then)


def zones(centre: Point, radius: float, source: str, following: dict[str, str] | None) -> dict[str, Any]:
    middle = [round(centre[0], 4), round(centre[1], 4)]
    zones = [
        {"grade": "ideal", "centre": middle, "radius": round(radius / 2, 3)},
        {"grade": "acceptable", "centre": middle, "radius": radius},
    ]
    target: dict[str, Any] = {"source": source, "zones": zones}
    if following:
        target["next"] = following
    return {CUE: target}
