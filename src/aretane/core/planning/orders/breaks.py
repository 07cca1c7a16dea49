"""A snooker break: the loose reds in every order with any colour after each, then the colours in turn.

Of the reds those that lie most freely are taken in every order (`LOOSE`, so twelve pots ahead with their colours);
the rest, the pack, stays until it is struck. Strokes at reds and colours are simulated once and remember which
loose reds they would have met, as for other games of free order.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.physics.threads import in_threads
from aretane.core.planning.orders.known import Known, absent_for, known_at, pot_alone
from aretane.core.planning.orders.subsets_kernel import of_one_ball
from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.outlook import usual_of
from aretane.core.planning.outlook.strength import freedoms
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.moved import BUMPED
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import Effort
from aretane.core.rules.snooker import is_red, value
from aretane.core.skill.hand import Hand

LOOSE = 6
USUAL_COLOUR = 5.0  # points of the colour that goes with a red, on average (assumed)


@dataclass(frozen=True)
class Breaks:
    """Points that a player may expect to score in this visit, by place (columns x rows). With each set of the
    `loose` reds left (bit j: the j-th): on a red (`reds`) and on any colour (`colours`); `turn`: from each colour
    on when the reds have gone, `free` any colour before that. `usual`: how often he makes the next pot from where
    he usually is.
    """

    loose: tuple[str, ...]
    pack: int
    grid: Grid
    known: dict[str, Known]
    usual: float
    reds: Floats
    colours: Floats
    turn: dict[str, Floats]
    free: Floats

    def set_of(self, left: Collection[str]) -> int:
        return sum(1 << at for at, ball in enumerate(self.loose) if ball in left)

    def on_red(self, left: Collection[str]) -> Floats:
        return np.asarray(self.reds[self.set_of(left)])

    def on_colour(self, left: Collection[str]) -> Floats:
        return np.asarray(self.colours[self.set_of(left)] if any(map(is_red, left)) else self.free)

    def by(self, ball: str, left: Collection[str]) -> Floats:
        """The same if this ball is played next, a red or any colour after one; zeros where no stroke is known."""
        if ball not in self.known:
            return np.zeros((self.grid.columns, self.grid.rows))
        last = not is_red(ball) and not any(map(is_red, left))
        after = self.set_of(left) & ~self.set_of((ball,))
        follows = self.colours[after] if is_red(ball) else _first(self.turn) if last else self.reds[after]
        return _of(self, ball, after, follows, self.stirred(left, red=not is_red(ball)))

    def stirred(self, left: Collection[str], *, red: bool) -> float:
        """What these balls are worth strewn, on a red or on a colour; 0 where there is no pack."""
        reds = sum(map(is_red, left))
        return usual_points(reds, self.usual, red=red) if reds - len(set(left) & set(self.loose)) > 1 else 0.0


def breaks_of(
    layout: Layout, hand: Hand, effort: Effort, seed: int = 0, threads: int = 1,
    cancelled: Callable[[], bool] | None = None, *, on_colour: bool = False,
) -> Breaks:  # fmt: skip
    """`on_colour`: the next stroke is at a colour after a red. Of two partners one so has all the reds of a break
    and the other their colours.
    """
    at_reds, at_colours = hand.turn(on_colour), hand.turn(not on_colour)
    reds = [ball for ball in layout.object_balls if is_red(ball)]
    colours = sorted((ball for ball in layout.object_balls if not is_red(ball)), key=value)
    free = freedoms(layout)
    loose = tuple(sorted(reds, key=lambda ball: -free[ball])[:LOOSE])
    pack = len(reds) - len(loose)
    grid = grid_for(layout, effort)
    every = Ground(layout, threads, cancelled)
    places = grid.free_places(every.balls(), every.reach)
    standing = layout.without(*loose)

    def known(stroke: tuple[str, Layout, Hand]) -> Known:
        ball, there, hand = stroke
        ground = Ground(there, 1, cancelled)
        absent = absent_for(layout, loose, ball)
        return known_at(ground, ball, places, grid, absent, hand, effort, effort.kept_each, seed, pack=pack > 0)

    every_one = [(red, standing.placed(red, layout.balls[red]), at_reds) for red in loose]
    every_one += [(colour, standing, at_colours) for colour in colours]
    strokes = dict(zip([*loose, *colours], in_threads(known, every_one, threads), strict=True))
    turn = _in_turn(layout.without(*reds), colours, places, grid, at_reds, effort, seed, threads, cancelled)
    pots = sorted(usual_of(pot_alone(one, grid)) for one in strokes.values()) or [0.5]
    usual = float(np.mean(pots[len(pots) // 2 :]))  # of the freer half: the others lie in the pack
    shape = 1 << len(loose), grid.columns, grid.rows
    made = Breaks(
        loose, pack, grid, strokes, usual, np.zeros(shape), np.zeros(shape), turn,
        np.zeros(shape[1:]),
    )  # fmt: skip
    _fill(made, reds, colours)
    return made


def _fill(breaks: Breaks, reds: Collection[str], colours: Collection[str]) -> None:
    """All sets of the loose reds, the smallest first; with the last red gone a colour leads to the
    colours in turn.
    """
    loose, packed = breaks.loose, [ball for ball in reds if ball not in breaks.loose]
    for colour in colours:
        breaks.free[:] = np.maximum(breaks.free, _of(breaks, colour, 0, _first(breaks.turn), 0.0))
    for left in range(1 << len(loose)):
        balls = [*(ball for at, ball in enumerate(loose) if left >> at & 1), *packed]
        for at, ball in enumerate(loose):
            if left >> at & 1:
                after = left ^ (1 << at)
                follows = breaks.colours[after] if after or packed else breaks.free
                stirred = breaks.stirred([one for one in balls if one != ball], red=False)
                breaks.reds[left] = np.maximum(breaks.reds[left], _of(breaks, ball, after, follows, stirred))
        for colour in colours:
            stirred = breaks.stirred(balls, red=True)
            found = _of(breaks, colour, left, breaks.reds[left], stirred) if balls else breaks.free
            breaks.colours[left] = np.maximum(breaks.colours[left], found)


def _of(breaks: Breaks, ball: str, after: int, follows: Floats, stirred: float) -> Floats:
    """The strokes at one ball, after which these loose reds are left and a place is worth `follows`."""
    grid, run = breaks.grid, np.zeros(breaks.grid.columns * breaks.grid.rows)
    bit = 1 << len(breaks.loose)
    met = after | (bit if stirred > 0.0 else 0)
    of_one_ball(
        met, grid.rows, np.ascontiguousarray(follows).ravel(), *breaks.known[ball].columns, float(value(ball)),
        BUMPED, bit, stirred, run,
    )  # fmt: skip
    return run.reshape(grid.columns, grid.rows)


def _first(turn: dict[str, Floats]) -> Floats:
    return next(iter(turn.values()))


def _in_turn(
    layout: Layout, colours: list[str], places: Floats, grid: Grid, hand: Hand, effort: Effort, seed: int,
    threads: int, cancelled: Callable[[], bool] | None,
) -> dict[str, Floats]:  # fmt: skip
    """The colours in rising order, backwards from the last; by the colour that is on, the lowest first."""
    found: dict[str, Floats] = {}
    follows = np.zeros(grid.columns * grid.rows)
    for at, colour in reversed(list(enumerate(colours))):
        ground = Ground(layout.without(*colours[:at]), threads, cancelled)
        strokes = known_at(
            ground, colour, places, grid, np.zeros((0, 3)), hand.turn(at), effort, effort.kept_each, seed
        )  # fmt: skip
        run = np.zeros(grid.columns * grid.rows)
        of_one_ball(0, grid.rows, follows, *strokes.columns, float(value(colour)), BUMPED, 0, 0.0, run)
        found[colour] = run.reshape(grid.columns, grid.rows)
        follows = run
    return dict(reversed(found.items()))


def usual_points(reds: int, usual: float, *, red: bool) -> float:
    """Points that follow with so many reds left, each pot as usual: reds with a middling colour,
    then the colours.
    """
    pair = [1.0, USUAL_COLOUR]
    left = [*(pair * reds), *map(float, range(2, 8))]
    return sum(points * usual**k for k, points in enumerate(left if red else [USUAL_COLOUR, *left], start=1))
