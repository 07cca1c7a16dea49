"""A layout as the kernels' numbers."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import TOUCHING, Layout
from aretane.core.physics.compiled import (
    BALL_COLUMNS, BALL_INTEGERS, FAR, FROZEN, MASS, NEAR, NEAR_T, RADIUS, RHO, X, Y, Z, Floats, Ints,
)  # fmt: skip
from aretane.core.parameters import Physics, physics_of

_FROZEN_TO_RAIL = 0.001  # m
_STATED = 0.01  # m: stated to touch, balls are moved together over this much at most
_NEIGHBOURS = 2.0  # ball diameters: no ball is moved so far as to meet one that is farther away


class Start(NamedTuple):
    """Balls by row, cue ball first, and the two arrays of `compiled`."""

    names: tuple[str, ...]
    numbers: Floats
    integers: Ints


def start_of(layout: Layout, physics: Physics | None = None) -> Start:
    """All balls at rest where the layout has them; frozen balls exactly touching. The layout has a cue ball."""
    physics = physics or physics_of(layout.table)
    table = layout.table
    names = (CUE, *layout.object_balls)
    places = _touching_places(layout)
    numbers = np.zeros((len(names), BALL_COLUMNS))
    integers = np.zeros((len(names), BALL_INTEGERS), dtype=np.int64)
    integers[:, NEAR] = integers[:, FROZEN] = -1
    numbers[:, NEAR_T] = FAR
    for row, name in enumerate(names):
        radius = table.radius_of(name)
        rho = table.contact_distance(radius)
        x, y = places[name]
        mass = physics.cue_ball_mass if name == CUE else physics.ball_mass
        for column, value in ((X, x), (Y, y), (Z, radius), (RADIUS, radius), (MASS, mass), (RHO, rho)):
            numbers[row, column] = value
        _lay_on_rail(layout, numbers, integers, row)
    return Start(names, numbers, integers)


def cue_elsewhere(start: Start, layout: Layout) -> Start:
    """The same start with the cue ball where this layout has it, touching no ball: much quicker than a new one."""
    numbers, integers = start.numbers.copy(), start.integers.copy()
    numbers[0, [X, Y]], integers[0, FROZEN] = layout.balls[CUE], -1
    _lay_on_rail(layout, numbers, integers, 0)
    return Start(start.names, numbers, integers)


def _touching_places(layout: Layout) -> dict[str, list[float]]:
    """Places in which balls that touch, by their places or as stated, do so exactly."""
    places = {name: list(place) for name, place in layout.balls.items()}
    stated = {frozenset(pair) for pair in layout.state.touching}
    for one, other in _neighbours(layout):
        reach = layout.table.radius_of(one) + layout.table.radius_of(other)
        apart = math.dist(places[one], places[other])
        allowed = _STATED if frozenset((one, other)) in stated else TOUCHING
        if apart == reach or abs(apart - reach) > allowed:
            continue
        # The later ball gives way, along the line of centres.
        ux, uy = ((a - b) / apart for a, b in zip(places[one], places[other], strict=True))
        places[one] = [places[other][0] + reach * ux, places[other][1] + reach * uy]
    return places


def _neighbours(layout: Layout) -> list[tuple[str, str]]:
    """Pairs of balls so near that they may be meant to touch, the later one first."""
    names, at = list(layout.balls), np.array(list(layout.balls.values())).reshape(-1, 2)
    gaps = at[:, None] - at[None]
    near = (gaps**2).sum(axis=2) < (layout.table.ball_diameter * _NEIGHBOURS) ** 2
    return [(names[i], names[j]) for i, j in np.argwhere(np.tril(near, -1)).tolist()]


def _lay_on_rail(layout: Layout, numbers: Floats, integers: Ints, row: int) -> None:
    """A ball within a millimetre of a straight rail is frozen to it."""
    table, rho = layout.table, numbers[row, RHO]
    x, y = numbers[row, X], numbers[row, Y]
    gaps = (y - rho, table.length - rho - x, table.width - rho - y, x - rho)
    rail = min(range(4), key=gaps.__getitem__)
    if gaps[rail] > _FROZEN_TO_RAIL:
        return
    if min(math.dist((x, y), p.mouth) for p in table.pockets.values()) < table.corner_mouth:
        return
    integers[row, FROZEN] = rail
    if gaps[rail] < 0.0:
        column, place = ((Y, rho), (X, table.length - rho), (Y, table.width - rho), (X, rho))[rail]
        numbers[row, column] = place
