"""Where balls that come back to the table are put.

Pool: World Pool-Billiard Association, The Rules of Play 1.5: on the long string, on the foot spot or as near to
it as the balls there allow, towards the foot rail; where that is full, towards the head. A ball is set against
another, but never against the cue ball. Snooker: Official Rules, section 3 rule 7: a colour on its own spot; where
that is occupied on the highest spot that is free; where none is, as near to its own spot as can be, towards the
top cushion.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from aretane.core.ball import CUE, SNOOKER_COLOURS
from aretane.core.rack import colour_spots
from aretane.core.table import Point, Table

STEP = 0.0005  # m: how finely a free place is searched along a line
FROM_CUE = 0.001  # m: the gap that is left to the cue ball


def spotted(table: Table, discipline: str, balls: Mapping[str, Point], back: Iterable[str]) -> dict[str, Point]:
    """The places with the balls of `back` spotted among them, one after the other."""
    places = dict(balls)
    order = sorted(back, key=_rank)
    for ball in order:
        places.pop(ball, None)
    for ball in order:
        places[ball] = _spot(table, discipline, places, ball)
    return places


def spot_of(table: Table, name: str) -> Point:
    """A spot of the long string by name: "head-spot", "centre-spot" or "foot-spot"."""
    along = {"head-spot": table.head_line, "centre-spot": table.length / 2, "foot-spot": table.foot_spot}
    return along[name], table.width / 2


def _rank(ball: str) -> int:
    """Pool in the order of numbers; snooker's highest colour first."""
    if ball in SNOOKER_COLOURS:
        return -SNOOKER_COLOURS.index(ball)
    return int(ball) if ball.isdigit() else 0


def _spot(table: Table, discipline: str, places: Mapping[str, Point], ball: str) -> Point:
    if discipline != "snooker":
        return _on_line(table, places, (table.foot_spot, table.width / 2))
    spots = colour_spots(table)
    highest_first = [ball, *reversed(SNOOKER_COLOURS)]
    free = next((name for name in highest_first if is_free(table, places, spots[name])), None)
    return spots[free] if free is not None else _on_line(table, places, spots[ball])


def _on_line(table: Table, places: Mapping[str, Point], spot: Point) -> Point:
    """The free place nearest to the spot along the table, towards the foot if there is one."""
    x, y = spot
    end = table.length - table.radius
    towards_foot = int((end - x) / STEP)
    for n in range(towards_foot + 1):
        if is_free(table, places, (x + n * STEP, y)):
            return (round(x + n * STEP, 6), y)
    for n in range(int((x - table.radius) / STEP)):
        if is_free(table, places, (x - n * STEP, y)):
            return (round(x - n * STEP, 6), y)
    return spot


def is_free(table: Table, places: Mapping[str, Point], spot: Point) -> bool:
    return all(
        math.dist(spot, at) >= table.radius + table.radius_of(ball) + (FROM_CUE if ball == CUE else 0.0)
        for ball, at in places.items()
    )
