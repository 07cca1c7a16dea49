"""The set-up card: a layout as somebody lays it out on a real table, ball after ball, in what a table shows.

On pool tables diamonds to a twentieth: along from the head, across from the right. On snooker and blackball tables,
whose rails have no diamonds, whole centimetres from the head and right noses. A ball is off by at most half a step,
which is less than a quarter of a ball.
"""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.geometry.groups import frozen_pairs, on_rail
from aretane.core.layout import Layout
from aretane.core.rules.traits import made_for
from aretane.core.table import Point, Table
from aretane.core.units import DIAMONDS_ACROSS, DIAMONDS_ALONG
from aretane.core.words import ball_words

STEP = 0.05  # of a diamond
CENTIMETRE = 0.01


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
