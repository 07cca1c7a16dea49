"""How balls stand to one another and to the rails: frozen, in a cluster, on the rail."""

from __future__ import annotations

import math
from itertools import combinations

from aretane.core.ball import CUE
from aretane.core.layout import TOUCHING, Layout

RAIL_GAP = 0.005  # a ball within this of the cushion counts as on the rail


def gap(layout: Layout, one: str, other: str) -> float:
    """Distance between two balls' surfaces, in metres."""
    reach = layout.table.radius_of(one) + layout.table.radius_of(other)
    return math.dist(layout.balls[one], layout.balls[other]) - reach


def frozen_pairs(layout: Layout) -> list[tuple[str, str]]:
    """Pairs that touch: stated so, or with a gap of half a millimetre at most."""
    stated = {frozenset(pair) for pair in layout.state.touching}
    return [
        (one, other)
        for one, other in combinations(layout.balls, 2)
        if frozenset((one, other)) in stated or gap(layout, one, other) <= TOUCHING
    ]


def clusters(layout: Layout) -> list[list[str]]:
    """Object balls linked by gaps smaller than a ball's radius, each group in the order of the layout."""
    names = [ball for ball in layout.balls if ball != CUE]
    frozen = {frozenset(pair) for pair in frozen_pairs(layout)}
    group = {name: {name} for name in names}
    for one, other in combinations(names, 2):
        near = gap(layout, one, other) < layout.table.radius or frozenset((one, other)) in frozen
        if near and group[one] is not group[other]:
            joined = group[one] | group[other]
            for name in joined:
                group[name] = joined
    found: list[list[str]] = []
    for name in names:
        members = [ball for ball in names if ball in group[name]]
        if len(members) > 1 and members not in found:
            found.append(members)
    return found


def on_rail(layout: Layout) -> list[str]:
    """Object balls whose centre is within a radius and five millimetres of a cushion line."""
    limit = layout.table.radius + RAIL_GAP
    return [
        ball
        for ball, (x, y) in layout.object_balls.items()
        if min(x, y, layout.table.length - x, layout.table.width - y) <= limit
    ]
