"""Balls set up for the break: the triangle or diamond, and snooker's spots.

No two racks are alike: between the balls stay gaps of some hundredths of a millimetre, drawn from a seed,
because a perfectly tight rack would open the same way every time, and in a way that depends on nothing but the
order of the arithmetic.
"""

from __future__ import annotations

import math
import random

from aretane.core.ball import OBJECT_BALLS
from aretane.core.layout import Layout, State
from aretane.core.rules.traits import d_radius, traits_of
from aretane.core.table import Point, Table

GAP = 0.00003  # m: a well set rack (assumed; wider gaps make drier breaks)

_TRIANGLE = (1, 2, 3, 4, 5)
_ROWS = {
    "nine-ball": (1, 2, 3, 2, 1),
    "ten-ball": (1, 2, 3, 4),
    "eight-ball": _TRIANGLE,
    "straight-pool": _TRIANGLE,
    "blackball": _TRIANGLE,
    "snooker": _TRIANGLE,
}
# World Pool-Billiard Association, The Rules of Play 2.2, 9.2, 3.2; blackball rules: the black on the spot.
_FIXED = {
    "nine-ball": {0: "1", 4: "9"},
    "ten-ball": {0: "1", 4: "10"},
    "eight-ball": {4: "8", 10: "3", 14: "11"},
    "straight-pool": {},
    "blackball": {4: "black", 10: "red-1", 14: "yellow-1"},
    "snooker": {},
}


def racked(table: Table, discipline: str, seed: int = 0, reds: int = 15, gap: float = GAP) -> Layout:
    """A full rack without a cue ball, which is in hand behind the line (snooker: in the D, with so many reds).
    `gap`: about how far apart the balls stand (m).
    """
    dice = random.Random(seed)
    places = _pack(table, discipline, dice, gap)
    names = _order(discipline, dice)
    balls = dict(zip(names, places, strict=True))
    traits = traits_of(discipline)
    if traits.returns:
        balls = {ball: place for ball, place in balls.items() if int(ball.removeprefix("red-")) <= reds}
        balls |= colour_spots(table)
    return Layout(table, discipline, balls, State(ball_in_hand=traits.break_from))


def _pack(table: Table, discipline: str, dice: random.Random, gap: float) -> list[Point]:
    pitch = table.ball_diameter + gap
    x, y = _apex(table, discipline)
    return [
        (
            x + row * pitch * math.sqrt(3) / 2 + dice.uniform(-gap, gap) / 3,
            y + (place - (count - 1) / 2) * pitch + dice.uniform(-gap, gap) / 3,
        )
        for row, count in enumerate(_ROWS[discipline])
        for place in range(count)
    ]


def _apex(table: Table, discipline: str) -> Point:
    """Where the first ball stands."""
    middle = table.width / 2
    if traits_of(discipline).returns:  # as near to the pink as possible without touching it
        return colour_spots(table)["pink"][0] + table.ball_diameter + 0.001, middle
    if _FIXED[discipline].get(4) == "black":  # the black, third row, stands on the spot
        return table.foot_spot - 2 * (table.ball_diameter + GAP) * math.sqrt(3) / 2, middle
    return table.foot_spot, middle


def _order(discipline: str, dice: random.Random) -> list[str]:
    if traits_of(
        discipline
    ).returns:  # reds are alike; counted from the apex, so that fewer make a smaller triangle
        return list(OBJECT_BALLS[discipline][: sum(_ROWS[discipline])])
    fixed = _FIXED[discipline]
    count = sum(_ROWS[discipline])
    free = [ball for ball in OBJECT_BALLS[discipline][:count] if ball not in fixed.values()]
    dice.shuffle(free)
    return [fixed[place] if place in fixed else free.pop() for place in range(count)]


def rack_corners(table: Table, discipline: str) -> tuple[Point, Point, Point]:
    """Centres of a triangle's three corner balls: the apex, the right one and the left one at the back."""
    pitch = table.ball_diameter + GAP
    x, y = _apex(table, discipline)
    rows = len(_TRIANGLE) - 1
    back = x + rows * pitch * math.sqrt(3) / 2
    return (x, y), (back, y - rows * pitch / 2), (back, y + rows * pitch / 2)


def colour_spots(table: Table) -> dict[str, Point]:
    """Snooker's spots; yellow's is on the right as seen from baulk."""
    middle = table.width / 2
    blue = table.length / 2
    return {
        "yellow": (table.head_line, middle - d_radius(table)),
        "green": (table.head_line, middle + d_radius(table)),
        "brown": (table.head_line, middle),
        "blue": (blue, middle),
        "pink": ((blue + table.length) / 2, middle),
        "black": (table.foot_spot, middle),
    }
