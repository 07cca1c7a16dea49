"""Balls that a player may take in any order, all orders at once: what each set of them is worth from each place.

The strokes at each ball are simulated once, among the balls that are never taken in this run (the opponent's, the
one for the end), and remember which of the own balls would have come in the way. So each stroke is known for every
set of own balls that may still stand, and the values follow backwards over all sets: no order is left out, and none
is enumerated. What is sampled are the strokes (some of each kind, and the surest into every part of the table),
what is taken in full are the orders. The other balls are taken to stay where they are.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from aretane.core.geometry.groups import clusters
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.physics.sampling import Cancelled
from aretane.core.physics.threads import in_threads
from aretane.core.planning.orders.known import DRAWS, Columns, Known, absent_for, known_at, pot_alone
from aretane.core.planning.orders.subsets_kernel import of_one_ball, over_sets
from aretane.core.planning.outlook.maps import grid_for, tried
from aretane.core.planning.outlook.outlook import usual_of
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.moved import BUMPED
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import Effort
from aretane.core.skill.hand import Hand

MOST_LOOKS, FIRST_LOOKS = 8e8, 4.5e8  # samples times sets: seconds on two cores; at a first look
LEAST_KEPT = 4


@dataclass(frozen=True)
class Terms:
    """What a pot is worth beside what follows (`gain`); which own balls lie in clusters (`tied`, as bits), and what
    each set is worth once they are strewn (`stirred`, 2^m; 0 where it has no cluster).
    """

    gain: float
    tied: int
    stirred: Floats


@dataclass(frozen=True)
class Pattern:
    """`balls`: a player's own, in any order, with the strokes `known` at each to whoever plays (one hand, or two
    partners' who take every second ball, the next to play first); `last` the one that may be played
    when they have gone (None: the run ends with them). `run`, `pot` (2^m x columns x rows): chance to finish, and
    of the pot that it begins with, by the set of own balls that are left (bit j: the j-th of `balls`).
    """

    balls: tuple[str, ...]
    last: str | None
    grid: Grid
    known: tuple[tuple[Known, ...], ...]
    terms: Terms
    run: Floats
    pot: Floats

    def set_of(self, left: Collection[str]) -> int:
        """The number of the set of those of the own balls that are `left`."""
        return sum(1 << at for at, ball in enumerate(self.balls) if ball in left)

    def run_of(self, left: Collection[str]) -> Floats:
        return np.asarray(self.run[self.set_of(left)])

    def run_by(self, ball: str, left: Collection[str]) -> Floats:
        """The chance to finish if this ball is played next."""
        if ball == self.last:
            return np.asarray(self.run[0])
        at, run = self.balls.index(ball), np.zeros(self.grid.columns * self.grid.rows)
        after = self.set_of(left) & ~(1 << at)
        terms, known = self.terms, self.known[(len(self.balls) - after.bit_count() - 1) % len(self.known)]
        of_one_ball(
            after, self.grid.rows, self.run[after].ravel(), *known[at].columns, terms.gain, BUMPED, terms.tied,
            float(terms.stirred[after]), run,
        )  # fmt: skip
        return run.reshape(self.grid.columns, self.grid.rows)

    @cached_property
    def sizes(self) -> Ints:
        """How many balls are left in each set, the last one (also one that is not there) counted."""
        return np.bitwise_count(np.arange(len(self.run))).astype(np.int64) + 1


def pattern_of(
    layout: Layout, balls: Collection[str], last: str | None, hand: Hand, effort: Effort, seed: int = 0,
    threads: int = 1, cancelled: Callable[[], bool] | None = None,
) -> Pattern:  # fmt: skip
    """The chance to take a player's own `balls` of the layout, and then the `last`."""
    own, grid = tuple(balls), grid_for(layout, effort)
    places = _places(layout, grid)
    closing = hand.turn(len(own))
    end = _last_map(Ground(layout.without(*own), threads, cancelled), grid, places, last, closing, effort, seed)
    known = tuple(
        _all_known(layout, own, places, grid, one, effort, seed, threads, cancelled) for one in hand.people
    )
    usual = np.mean([usual_of(pot_alone(one, grid)) for strokes in known for one in strokes]) if own else 0.0
    sizes = np.bitwise_count(np.arange(1 << len(own))) + (last is not None)
    terms = _terms(layout, own, 0.0, float(usual) ** sizes)
    run, pot = _filled(known, grid, {0: end}, terms, threads, cancelled)
    return Pattern(own, last, grid, known, terms, run, pot)


def run_of_all(
    layout: Layout, worths: Callable[[Mapping[str, Floats]], tuple[Mapping[str, Floats], float]], hand: Hand,
    effort: Effort, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
) -> Pattern:  # fmt: skip
    """The balls that a player may expect to score with all those of the layout. `worths` is given, by ball, the
    chance to pot it as if it were alone (columns x rows), and says what it is worth to have it alone left, and what
    a run is worth with strewn balls.
    """
    own, grid = tuple(layout.object_balls), grid_for(layout, effort)
    places, shape = _places(layout, grid), (grid.columns, grid.rows)
    known = tuple(
        _all_known(layout, own, places, grid, one, effort, seed, threads, cancelled) for one in hand.people
    )
    closing = known[(len(own) - 1) % len(known)]
    alone = {ball: pot_alone(one, grid).reshape(shape) for ball, one in zip(own, closing, strict=True)}
    found, strewn = worths(alone)
    ends = {1 << at: found[ball].ravel() for at, ball in enumerate(own)}
    terms = _terms(layout, own, 1.0, np.full(1 << len(own), strewn))
    run, pot = _filled(known, grid, ends, terms, threads, cancelled)
    return Pattern(own, None, grid, known, terms, run, pot)


def _terms(layout: Layout, own: tuple[str, ...], gain: float, strewn: Floats) -> Terms:
    """With what each set is worth `strewn`, if it has a cluster: two of the own balls, or one with another's."""
    sets, tied, has = np.arange(1 << len(own)), 0, np.zeros(1 << len(own), dtype=bool)
    for cluster in clusters(layout):
        bits = sum(1 << own.index(ball) for ball in cluster if ball in own)
        least = 1 if any(ball not in own for ball in cluster) else 2
        has |= np.bitwise_count(sets & bits) >= least
        tied |= bits
    return Terms(gain, tied, np.where(has, strewn, 0.0))


def _places(layout: Layout, grid: Grid) -> Floats:
    ground = Ground(layout)
    return grid.free_places(ground.balls(), ground.reach)


def _last_map(
    ground: Ground, grid: Grid, places: Floats, last: str | None, hand: Hand, effort: Effort, seed: int
) -> Floats:
    """The chance to pot the last ball from each place; 1 where the run ends before it."""
    if last is None:
        return np.ones(len(places))
    look = tried(ground, grid, ground.pots(last, places, effort.strokes), hand, effort, [None], seed)
    chosen, value, pot = look.best(look.expected(None)[1], None)
    return look.map(chosen, value, pot).value.ravel()


def _all_known(
    layout: Layout, own: tuple[str, ...], places: Floats, grid: Grid, hand: Hand, effort: Effort, seed: int,
    threads: int, cancelled: Callable[[], bool] | None,
) -> tuple[Known, ...]:  # fmt: skip
    """The strokes at each of the own balls, played among those that are not."""
    standing = layout.without(*own)
    kept = _leaner(len(own), len(places), effort)

    def known(ball: str) -> Known:
        ground = Ground(standing.placed(ball, layout.balls[ball]), 1, cancelled)
        return known_at(ground, ball, places, grid, absent_for(layout, own, ball), hand, effort, kept, seed)

    return tuple(in_threads(known, own, threads))


def _leaner(balls: int, places: int, effort: Effort) -> int:
    """Strokes at each ball of a place that are known: with many balls, and so very many sets, fewer."""
    kept, most = effort.kept_each, MOST_LOOKS if effort.played else FIRST_LOOKS
    while kept > LEAST_KEPT and balls * places * kept * DRAWS << max(balls - 1, 0) > most:
        kept -= 1
    return kept


def _filled(
    known: tuple[tuple[Known, ...], ...], grid: Grid, ends: Mapping[int, Floats], terms: Terms, threads: int,
    cancelled: Callable[[], bool] | None,
) -> tuple[Floats, Floats]:  # fmt: skip
    """Values and pots of every set (2^m x columns x rows), from those of the sets that `ends` gives."""
    balls = len(known[0])
    shape = 1 << balls, grid.columns * grid.rows
    run, pot = np.zeros(shape), np.zeros(shape)
    for left, worth in ends.items():
        run[left], pot[left] = worth, np.minimum(worth, 1.0)
    if balls:
        strokes = [_strokes(one) for one in known]

        def work(sets: Ints) -> None:
            if cancelled is not None and cancelled():
                raise Cancelled
            begins, columns = strokes[(balls - int(sets[0]).bit_count()) % len(strokes)]
            over_sets(
                sets, grid.rows, begins, *columns, terms.gain, BUMPED, terms.tied, terms.stirred, run,
                pot,
            )  # fmt: skip

        for sets in _by_size(balls, ends):
            in_threads(work, np.array_split(sets, max(1, min(len(sets), 4 * threads))), threads)
    on_grid = shape[0], grid.columns, grid.rows
    return run.reshape(on_grid), pot.reshape(on_grid)


def _strokes(known: tuple[Known, ...]) -> tuple[Ints, Columns]:
    """All balls' strokes together, and where each ball's begin."""
    each = [one.columns for one in known]
    begins = np.cumsum([0, *(len(one.strokes) for one in each)])
    before = np.cumsum([0, *(len(one.samples) for one in each)])[:-1]
    moved = [
        one._replace(strokes=one.strokes + np.array([0, at, at, at])) for one, at in zip(each, before, strict=True)
    ]
    return begins, Columns(*(np.concatenate(column) for column in zip(*moved, strict=True)))


def _by_size(balls: int, without: Collection[int]) -> Sequence[Ints]:
    """The sets of each number of balls, the smallest first, but for those that are known."""
    every = np.setdiff1d(np.arange(1, 1 << balls), np.array(list(without)))
    sizes = np.bitwise_count(every)
    return [every[sizes == size] for size in range(1, balls + 1) if (sizes == size).any()]
