"""Playing on: racks of a rotation game played to their end, both players choosing quickly and anew at every turn.

What the maps promise rests on balls that stay where they are. Played on, they are moved, the cue ball is
hidden, a ball rattles out; the maps serve only to choose. Everything is drawn from the seed, so the answer
does not depend on how many threads worked on it.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.chance import MOST_LUCK
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.physics.sampling import Cancelled
from aretane.core.physics.threads import in_threads
from aretane.core.planning.outlook import play_on_kernel
from aretane.core.planning.outlook.maps import BLUR
from aretane.core.planning.outlook.outlook import Game
from aretane.core.planning.outlook.stage import Stage
from aretane.core.planning.outlook.turn_kernel import CHOICE
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import QUICK, draws_of
from aretane.core.skill.effort import thrown_off
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson

_CHUNK = 4
_NONE = np.zeros(0)


class Staged(Protocol):
    """What is needed of an outlook: every ball's stage."""

    game: Game
    hands: tuple[Hand, Hand]
    grid: Grid
    stages: dict[str, Stage]


class Racks:
    """A rotation table made ready to be played on by the two players of its outlook."""

    def __init__(self, outlook: Staged, layout: Layout) -> None:
        self.ground = Ground(layout)
        self.in_hand = layout.cue is None
        game = outlook.game
        self.alone = game.alone
        order = sorted((ball for ball in layout.object_balls), key=int)
        stages = [outlook.stages[ball] for ball in order]
        after = [*stages[1:], None]
        grid = outlook.grid
        self.names = order
        self.order = np.array([self.ground.names.index(ball) for ball in order])
        self.grid = np.array([grid.xs[0], grid.xs[1] - grid.xs[0], grid.ys[0], grid.ys[1] - grid.ys[0]])
        won = np.ones((grid.columns, grid.rows))
        runs = np.array([[won if s is None else s.run[player].value for s in after] for player in (0, 1)])
        wins = np.array([[won if s is None else s.win[player].value for s in after] for player in (0, 1)])
        blur = np.vectorize(lambda values: grid.blurred(values, BLUR), signature="(m,n)->(m,n)")
        self.runs, self.soft_runs = runs, np.ascontiguousarray(blur(runs))
        self.wins, self.soft_wins = wins, np.ascontiguousarray(blur(wins))
        self.places = np.array([[s.win[player].value for s in stages] for player in (0, 1)])
        self.run_places = np.array([[s.run[player].value for s in stages] for player in (0, 1)])
        self.standings = np.array(
            [[[s.standing[player].open, s.standing[player].guarded] for s in stages] for player in (0, 1)]
        )
        self.hands = np.array([hand_rows(hand) for hand in outlook.hands])
        draws = draws_of(QUICK.draws, 7)
        self.errors, self.lucks = draws.errors, draws.lucks
        self.rules = np.array(
            [int(bool(game.options.get("call"))), 3 if game.options.get("three_fouls", True) else 0]
        )
        state = game.state
        other = "B" if state.player == "A" else "A"
        self.begins = np.array(
            [0, int(self.in_hand), state.fouls.get(state.player, 0), state.fouls.get(other, 0), 0]
        )

    def run_outs(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
        first: Floats = _NONE, piece: slice = slice(None),
    ) -> Rate:  # fmt: skip
        """How often the player to shoot clears the table, out of `times` or a `piece` of them; `first`: his first
        stroke as a choice.
        """
        seeds = seeds_of(times, seed)[piece]
        done = np.zeros(len(seeds), dtype=np.int64)

        def work(part: slice) -> None:
            play_on_kernel.run_outs(
                *self.ground.fixed, *self.ground.vast, self.order, self.runs[0], self.soft_runs[0], self.grid,
                QUICK.strokes, self.hands[0], self.errors, self.lucks, QUICK.kept, bool(self.rules[0]), first,
                seeds[part], done[part],
            )  # fmt: skip

        in_parts(work, len(seeds), threads, cancelled)
        return wilson(int(done.sum()), len(seeds))

    def wins_of(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
        first: Floats = _NONE, piece: slice = slice(None),
    ) -> Rate:  # fmt: skip
        """How often the player to shoot wins the rack, out of `times`, or of a `piece` of them; alone he must clear
        it.
        """
        if self.alone:
            return self.run_outs(times, seed, threads, cancelled, first, piece)
        seeds = seeds_of(times, seed)[piece]
        won = np.zeros(len(seeds))
        begins = self.begins.copy()
        begins[play_on_kernel.B_GIVEN] = int(len(first) == CHOICE)

        def work(part: slice) -> None:
            play_on_kernel.racks(
                *self.ground.fixed, *self.ground.vast, self.order, self.wins, self.soft_wins, self.places,
                self.standings, self.grid, QUICK.strokes, self.hands, self.errors, self.lucks, QUICK.kept,
                self.rules, begins, first, seeds[part], won[part],
            )  # fmt: skip

        in_parts(work, len(seeds), threads, cancelled)
        return wilson(round(float(won.sum())), len(seeds))


def hand_rows(hand: Hand) -> Floats:
    """The hands of a player's strokes in alternation (2 x columns H_...); twice his own where he has no partner."""
    return np.array([hand_row(hand.turn(strokes)) for strokes in (0, 1)])


def hand_row(hand: Hand) -> Floats:
    """A hand in the columns H_... of the kernels."""
    return np.array([
        hand.aim, hand.speed, hand.side, hand.height, 0.0 if hand.plain else hand.elevation,
        0.0 if hand.plain else hand.rail, float(not hand.plain), thrown_off(hand),
    ])  # fmt: skip


def seeds_of(times: int, seed: int) -> Ints:
    """A beginning for each rack, far from the others' (each turn counts on from it)."""
    return np.random.Generator(np.random.Philox(key=seed + 17)).integers(1, MOST_LUCK // 2, times)


def in_parts(work: Callable[[slice], None], n: int, threads: int, cancelled: Callable[[], bool] | None) -> None:
    """Work on slices, on several threads. Raises `Cancelled`."""

    def one(begin: int) -> None:
        if cancelled is not None and cancelled():
            raise Cancelled
        work(slice(begin, min(begin + _CHUNK, n)))

    in_threads(one, range(0, n, _CHUNK), threads)
