"""The value of having the cue ball somewhere: for one ball, the best stroke at every place of the table."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.moved import with_moved
from aretane.core.planning.pots.pots import Ground, Pots, Sampled
from aretane.core.planning.pots.strokes import Draws, Effort, draws_of
from aretane.core.skill.hand import Hand
from aretane.core.table import Point

BLUR = 0.06  # m: landing places this near are one, as long as strokes are compared without errors


@dataclass(frozen=True)
class Map:
    """One ball's map: `value` (columns x rows) at every place of the grid, the chance `pot` of the pot alone, and
    the stroke that gives it: row `best` (-1: none) of `pots`.
    """

    ball: str
    grid: Grid
    value: Floats
    pot: Floats
    best: Ints
    pots: Pots

    def at(self, place: Point) -> float:
        return float(self.grid.at(self.value, np.array(place)))


def grid_for(layout: Layout, effort: Effort) -> Grid:
    return Grid(layout.table, effort.columns, effort.rows)


@dataclass(frozen=True)
class Tried:
    """The strokes worth a look at every place of a grid, sampled with one hand: weights and landings as in
    `Ground`, under a first set of errors to choose by and a second to value the chosen (no winner's curse).
    """

    ground: Ground
    grid: Grid
    hand: Hand
    pots: Pots
    sampled: Sampled
    again: Draws
    stirred: float = 0.0

    def expected(self, worth: Floats | None) -> tuple[Floats, Floats]:
        """Chance of each pot, and that chance times the mean `worth` (on the grid) of where the cue ball lands."""
        return expected(self.grid, self.sampled, worth, self.stirred)

    def best(self, score: Floats, worth: Floats | None) -> tuple[Pots, Floats, Floats]:
        """At each place the stroke with the best `score`; its chance and expected worth under fresh errors."""
        chosen = self.pots.only(top(self.pots.origin, score, 1))
        return chosen, *expected(self.grid, self.ground.sampled(chosen, self.hand, self.again), worth)

    def map(self, chosen: Pots, value: Floats, pot: Floats, otherwise: float = 0.0) -> Map:
        """The chosen strokes as a map; `otherwise` is the value of a place without one."""
        places = self.grid.columns * self.grid.rows
        values, chances = np.full(places, otherwise), np.zeros(places)
        best = np.full(places, -1, dtype=np.int64)
        values[chosen.origin], chances[chosen.origin] = np.maximum(value, otherwise), pot
        best[chosen.origin] = np.arange(len(chosen))
        shape = self.grid.columns, self.grid.rows
        return Map(
            chosen.ball, self.grid, values.reshape(shape), chances.reshape(shape), best.reshape(shape), chosen
        )


def tried(
    ground: Ground, grid: Grid, pots: Pots, hand: Hand, effort: Effort, worths: list[Floats | None], seed: int,
    stirred: float = 0.0,
) -> Tried:  # fmt: skip
    """Keep, at each place, the best few of `pots` by each of `worths` (values on the grid of where the cue ball
    stops; None: the pot is all), and sample them.
    """
    chance = pots.chance(hand)
    kept = set[int]()
    for worth in worths:
        score = chance
        if worth is not None:
            score = chance * with_moved(grid.at(grid.blurred(worth, BLUR), pots.landing), pots.moves, stirred)
        kept.update(top(pots.origin, score, effort.kept).tolist())
    pots = pots.only(np.array(sorted(kept), dtype=np.int64))
    sampled = ground.sampled(pots, hand, draws_of(effort.draws, seed))
    return Tried(ground, grid, hand, pots, sampled, draws_of(effort.again, seed + 1), stirred)


def expected(grid: Grid, sampled: Sampled, worth: Floats | None, stirred: float = 0.0) -> tuple[Floats, Floats]:
    """Chance of each pot, and that chance times the mean `worth` (on the grid) of where the cue ball lands;
    `stirred`: see `with_moved`.
    """
    weights = sampled.weights
    # The weights are a midpoint sum of the normal density: a sure pot may come out a hair above 1.
    total = np.maximum(weights.sum(axis=1), 1.0)
    pot = weights.sum(axis=1) / total
    if worth is None:
        return pot, pot
    follows = with_moved(grid.at(worth, sampled.landings), sampled.disturbed, stirred)
    return pot, (weights * follows).sum(axis=1) / total


def top(groups: Ints, score: Floats, count: int) -> Ints:
    """The rows of the `count` best scores of every group."""
    order = np.lexsort((-score, groups))
    sorted_groups = groups[order]
    first = np.searchsorted(sorted_groups, sorted_groups)
    return np.asarray(order[np.arange(len(order)) - first < count])
