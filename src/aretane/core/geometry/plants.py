"""Plants and combinations, and cannons by the tangent line, as they are taught at the table: lines and gaps.

A plant (combination) sends a second ball into a pocket with a first one. Where both touch, the second leaves along
the line of centres whatever the first was struck with (less a throw of a few degrees): it is on where that line
runs into the pocket, and by how much it is off can be read there. With a gap between them the first has to be
sent at the second's ghost ball. A stunned cue ball leaves its object ball along the tangent line, at a right
angle to that ball's way. All common practice.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass

from aretane.core.geometry.cut import cut_for, ghost_ball
from aretane.core.geometry.plane import ahead, bearing, distance_to_segment, turn
from aretane.core.geometry.pocket_window import pocket_line
from aretane.core.geometry.sight import in_the_way
from aretane.core.layout import Layout
from aretane.core.table import Point

TOUCHING = 0.002  # m between two balls that act as one that touches
STEEPEST = math.radians(60)  # of the first ball on the second, and of the cue ball on the first
MOST = 12


@dataclass(frozen=True)
class Plant:
    """`second` into `pocket` by `first`: the `gap` between them (m), how far the line of centres is off the
    pocket's line (`off`, radians, positive to the left) and where that line passes the mouth (`misses_by`, m); the
    place to which `first` has to come (`ghost`), its own cut on the second, and the cue ball's cut on it.
    `blocked`: what stands in one of the ways.
    """

    first: str
    second: str
    pocket: str
    gap: float
    off: float
    misses_by: float
    ghost: Point
    cut: float
    cue_cut: float | None
    blocked: tuple[str, ...]


@dataclass(frozen=True)
class Cannon:
    """Off `first` onto `second` with stun: the `fullness` of the hit (share of the ball's width), on its `side` as
    the player sees it; where the cue ball is at the contact, and which way it leaves.
    """

    first: str
    second: str
    fullness: float
    side: str
    ghost: Point
    direction: float
    blocked: tuple[str, ...]


def plants(layout: Layout) -> list[Plant]:
    """Every plant that can be played at all, those that are on first."""
    found = [
        one
        for first, second in itertools.permutations(layout.object_balls, 2)
        for name in layout.table.pockets
        if (one := _plant(layout, first, second, name)) is not None
    ]
    return sorted(found, key=lambda one: (bool(one.blocked), one.cut + abs(one.cue_cut or 0.0)))[:MOST]


def _plant(layout: Layout, first: str, second: str, name: str) -> Plant | None:
    table, pocket = layout.table, layout.table.pockets[name]
    a, b, width = layout.balls[first], layout.balls[second], 2 * layout.table.radius
    line = pocket_line(b, pocket)
    gap = math.dist(a, b) - width
    off = turn(line, bearing(a, b))
    ghost = ghost_ball(b, line, width)
    run = bearing(a, b) if gap <= TOUCHING else bearing(a, ghost)
    cut = 0.0 if gap <= TOUCHING else abs(turn(run, line))
    if abs(off) > STEEPEST or cut > STEEPEST:
        return None
    struck = cut_for(layout.cue, a, run, table.radius + table.cue_radius) if layout.cue is not None else None
    if layout.cue is not None and (struck is None or abs(struck.angle) > STEEPEST):
        return None
    others = {ball: at for ball, at in layout.object_balls.items() if ball not in (first, second)}
    ways = [(b, pocket.mouth, width)]
    ways += [(a, ghost, width)] if gap > TOUCHING else []
    if layout.cue is not None and struck is not None:
        ways.append((layout.cue, struck.ghost, table.radius + table.cue_radius))
    blocked = dict.fromkeys(ball for start, end, reach in ways for ball in in_the_way(start, end, others, reach))
    misses = math.dist(b, pocket.mouth) * math.sin(off)
    return Plant(
        first,
        second,
        name,
        max(0.0, gap),
        off,
        misses,
        ghost,
        cut,
        struck.angle if struck else None,
        tuple(blocked),
    )


def cannons(layout: Layout) -> list[Cannon]:
    """Every cannon off one ball onto another by the tangent line, the fullest hits first."""
    if layout.cue is None:
        return []
    found = [
        one
        for first, second in itertools.permutations(layout.object_balls, 2)
        for one in _cannons(layout, layout.cue, first, second)
    ]
    return sorted(found, key=lambda one: (bool(one.blocked), -one.fullness))[:MOST]


def _cannons(layout: Layout, cue: Point, first: str, second: str) -> Iterator[Cannon]:
    """On either side: the contact from which the tangent line runs through the second ball's middle.

    The tangent line at the contact touches, at the ghost ball, the circle about the first ball on which ghost balls
    lie; so the ghost ball is where a line from the second ball touches that circle.
    """
    table, a, b = layout.table, layout.balls[first], layout.balls[second]
    reach = table.radius + table.cue_radius
    away = math.dist(a, b)
    if away <= reach:
        return
    spread = math.acos(reach / away)
    for sign in (1.0, -1.0):
        ghost = ahead(a, bearing(a, b) + sign * spread, reach)
        struck = cut_for(cue, a, bearing(ghost, a), reach)
        if struck is None or abs(struck.angle) > math.radians(85) or abs(struck.angle) < 1e-3:
            continue
        leaves = bearing(ghost, b)
        if abs(turn(bearing(cue, ghost), leaves)) > math.pi / 2:  # the tangent line the other way
            continue
        others = {ball: at for ball, at in layout.object_balls.items() if ball not in (first, second)}
        blocked = dict.fromkeys(
            ball for start, end in ((cue, ghost), (ghost, b)) for ball in in_the_way(start, end, others, reach)
        )
        if distance_to_segment(b, cue, ghost) < reach:
            blocked[second] = None
        side = "left" if turn(bearing(cue, a), bearing(cue, ghost)) > 0 else "right"
        yield Cannon(first, second, 1.0 - math.sin(abs(struck.angle)), side, ghost, leaves, tuple(blocked))
