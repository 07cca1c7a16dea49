"""The set-up card: a layout as somebody lays it out on a real table, ball after ball, in what a table shows.

On pool tables diamonds to a twentieth: along from the head, across from the right. On snooker and blackball tables,
whose rails have no diamonds, whole centimetres from the head and right noses. A ball is off by at most half a step,
which is less than a quarter of a ball.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.geometry.groups import frozen_pairs, on_rail
from aretane.core.layout import Layout
from aretane.core.rules.traits import made_for
from aretane.core.table import Point, Table
from aretane.core.units import DIAMONDS_ACROSS, DIAMONDS_ALONG
from aretane.core.words import ball_words

STEP = 0.05  # of a diamond
CENTIMETRE = 0.01
NEAR, ROUNDS = 1e-5, 400  # m: nearer needs no moving; how often balls are moved apart before it is given up


@dataclass(frozen=True)
class Laid:
    """A ball's place along from the head and across from the right, and the line to be read aloud."""

    ball: str
    long: float
    short: float
    text: str


def in_centimetres(table: Table) -> bool:
    return made_for(table) is not None


def card(layout: Layout) -> list[Laid]:
    """Every ball, in an order in which nobody reaches over one that lies already: from the far end, those that
    touch after one another, the cue ball last.
    """
    touching = {(one, two) for pair in frozen_pairs(layout) for one, two in (pair, pair[::-1])}
    found: list[Laid] = []
    for ball in _in_order(layout, touching):
        beside = [laid.ball for laid in found if (ball, laid.ball) in touching]
        found.append(_laid(layout, ball, beside))
    return found


def on_table(layout: Layout, table: Table) -> Layout:
    """The same layout on another table for the same balls: in proportion between the rails, so that what lies on a
    rail still does; balls that touch still touch, and nothing lies in one another. Raises `InputError` where that
    cannot be.
    """
    was = layout.table
    if table.ball_diameter != was.ball_diameter:
        raise InputError("table", "it is for balls of another size")
    pairs = frozenset(frozenset(pair) for pair in frozen_pairs(layout))
    places = {ball: _between_rails(was, table, ball, at) for ball, at in layout.balls.items()}
    for _ in range(ROUNDS):
        if not _apart(table, places, pairs):
            return Layout(table, layout.discipline, places, layout.state)
    raise InputError("table", "it is too small for this layout: balls would lie in one another")


def _between_rails(was: Table, table: Table, ball: str, place: Point) -> Point:
    """In proportion of the room that a ball's centre has."""
    radius = table.radius_of(ball)

    def moved(at: float, old: float, new: float) -> float:
        return radius + (at - radius) * (new - 2 * radius) / (old - 2 * radius)

    return moved(place[0], was.length, table.length), moved(place[1], was.width, table.width)


def _apart(table: Table, places: dict[str, Point], touching: frozenset[frozenset[str]]) -> bool:
    """Move what overlaps, or should touch and does not, along the line of centres; whether anything moved."""
    moved = False
    for one, other in itertools.combinations(places, 2):
        reach = table.radius_of(one) + table.radius_of(other)
        way = math.dist(places[one], places[other])
        short = reach - way
        if short < NEAR and not (frozenset((one, other)) in touching and short < -NEAR):
            continue
        moved = True
        (ax, ay), (bx, by) = places[one], places[other]
        ux, uy = ((bx - ax) / way, (by - ay) / way) if way > 0 else (1.0, 0.0)
        for ball, (x, y), sign in ((one, (ax, ay), -1.0), (other, (bx, by), 1.0)):
            radius = table.radius_of(ball)
            at = x + sign * ux * short / 2, y + sign * uy * short / 2
            places[ball] = (
                min(max(at[0], radius), table.length - radius), min(max(at[1], radius), table.width - radius),
            )  # fmt: skip
    return moved


def place_of(table: Table, laid: Laid) -> Point:
    """Where a ball lies that was laid out by its card (metres)."""
    along, across = _steps(table)
    return laid.long * along, laid.short * across


def _steps(table: Table) -> tuple[float, float]:
    """One of the card's units along and across, in metres."""
    if in_centimetres(table):
        return CENTIMETRE, CENTIMETRE
    return table.length / DIAMONDS_ALONG, table.width / DIAMONDS_ACROSS


def _in_order(layout: Layout, touching: set[tuple[str, str]]) -> list[str]:
    waiting = sorted(layout.object_balls, key=lambda ball: -layout.balls[ball][0])
    order: list[str] = []
    while waiting:
        group = [waiting.pop(0)]
        for ball in group:
            beside = [other for other in waiting if (ball, other) in touching]
            group += beside
            waiting = [other for other in waiting if other not in beside]
        order += group
    return [*order, CUE] if layout.cue is not None else order


def _laid(layout: Layout, ball: str, beside: list[str]) -> Laid:
    table, (x, y) = layout.table, layout.balls[ball]
    along, across = _steps(table)
    step, digits = (1.0, 0) if in_centimetres(table) else (STEP, 2)
    long, short = (round(round(value / unit / step) * step, digits) for value, unit in ((x, along), (y, across)))
    unit = "cm" if in_centimetres(table) else "diamonds"
    words = f"{ball_words(ball)}: {long:g} {unit} from the head, {short:g} from the right"
    if ball in on_rail(layout):
        words += f", at the {_rail(table, (x, y))} rail"
    if beside:
        words += f"; touching the {' and the '.join(ball_words(one) for one in beside)}"
    return Laid(ball, long, short, words)


def _rail(table: Table, place: Point) -> str:
    x, y = place
    gaps = {"head": x, "foot": table.length - x, "right": y, "left": table.width - y}
    return min(gaps, key=gaps.__getitem__)
