"""Strokes at a ball from all places of a grid, simulated once, that serve for every set of balls
still to be taken.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.planning.orders.subsets_kernel import of_one_ball
from aretane.core.planning.outlook.maps import top
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pots import Ground, Pots
from aretane.core.planning.pots.strokes import Effort, draws_of
from aretane.core.planning.pots.touch_kernel import BLOCKED
from aretane.core.skill.hand import Hand

PARTS = 6, 3  # of the table, along and across, into each of which a ball's surest stroke is kept
DRAWS = 16  # samples of a stroke


class Columns(NamedTuple):
    """Strokes at one ball, or at several, as `over_sets` takes them."""

    strokes: Ints
    always: Ints
    halves: Floats
    samples: Floats
    marks: Ints


@dataclass(frozen=True)
class Known:
    """Strokes at one ball from all places of a grid, and what their samples came to (n x s each)."""

    origin: Ints
    weights: Floats
    cells: Ints
    along: Floats
    across: Floats
    touched: Ints

    @cached_property
    def columns(self) -> Columns:
        """The same as the kernels take it: of the samples only those that pot, the even ones of a stroke first."""
        draws = range(self.weights.shape[1])
        made = self.weights > 0.0
        always = np.bitwise_and.reduce(np.where(made, self.touched >> BLOCKED, -1), axis=1)
        order = [*draws[0::2], *draws[1::2]]
        kept = np.nonzero(made[:, order])
        kept = kept[0], np.array(order)[kept[1]]
        even, every = made[:, 0::2].sum(axis=1), made.sum(axis=1)
        ends = np.cumsum(every)
        begins = ends - every
        halves = 2.0 * np.stack([self.weights[:, 0::2].sum(axis=1), self.weights[:, 1::2].sum(axis=1)], axis=1)
        return Columns(
            np.stack([self.origin, begins, begins + even, ends], axis=1), always, np.minimum(halves, 1.0),
            np.stack([self.weights[kept], self.along[kept], self.across[kept]], axis=1),
            np.stack([self.cells[kept], self.touched[kept]], axis=1),
        )  # fmt: skip


def known_at(
    ground: Ground, ball: str, places: Floats, grid: Grid, absent: Floats, hand: Hand, effort: Effort, kept: int,
    seed: int, *, pack: bool = False,
) -> Known:  # fmt: skip
    """The strokes at a ball of the ground that are worth knowing, with what they would have met of the `absent`.
    `pack`: the bit after those of the absent says that a ball of the ground was moved.
    """
    pots = ground.pots(ball, places, effort.strokes)
    pots = pots.only(_worth_knowing(pots, hand, ground.layout, kept))
    sampled = ground.sampled(pots, hand, draws_of(DRAWS, seed), absent)
    touched = sampled.touched if len(absent) else np.zeros(sampled.weights.shape, dtype=np.int64)
    if pack:
        touched = touched | (sampled.disturbed.astype(np.int64) << len(absent))
    return Known(pots.origin, sampled.weights, *_cells(grid, sampled.landings), touched)


def absent_for(layout: Layout, own: Collection[str], ball: str) -> Floats:
    """The own balls as `Ground.sampled` takes those that are not there; `ball` itself is never in its own way."""
    radius = layout.table.radius
    return np.array([(*layout.balls[name], radius if name != ball else -1.0) for name in own]).reshape(-1, 3)


def pot_alone(known: Known, grid: Grid) -> Floats:
    """The chance to pot a ball with nothing in the way."""
    places = grid.columns * grid.rows
    pot = np.zeros(places)
    of_one_ball(0, grid.rows, np.ones(places), *known.columns, 0.0, 1.0, 0, 0.0, pot)
    return pot


def _worth_knowing(pots: Pots, hand: Hand, layout: Layout, count: int) -> Ints:
    """At each place the surest stroke into every part of the table, the surest `count` of them."""
    chance = pots.chance(hand)
    size = np.array([layout.table.length, layout.table.width])
    part = np.clip(pots.landing / size * PARTS, 0, np.array(PARTS) - 1).astype(np.int64)
    group = (pots.origin * PARTS[0] + part[:, 0]) * PARTS[1] + part[:, 1]
    surest = top(group, chance, 1)
    return np.sort(surest[top(pots.origin[surest], chance[surest], count)])


def _cells(grid: Grid, at: Floats) -> tuple[Ints, Floats, Floats]:
    """The grid's place below and right of each of `at` (n x s x 2), and how far beyond it they lie, in cells."""
    u = np.clip((at[..., 0] - grid.xs[0]) / (grid.xs[1] - grid.xs[0]), 0, grid.columns - 1.000001)
    v = np.clip((at[..., 1] - grid.ys[0]) / (grid.ys[1] - grid.ys[0]), 0, grid.rows - 1.000001)
    i, j = u.astype(np.int64), v.astype(np.int64)
    return i * grid.rows + j, np.ascontiguousarray(u - i), np.ascontiguousarray(v - j)
