"""Playing on: racks of a game of two groups played to their end, both players choosing anew at every turn."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.orders.exchange import Worth
from aretane.core.planning.orders.pattern import Pattern
from aretane.core.planning.outlook import groups_kernel
from aretane.core.planning.outlook.groups_kernel import BEGINS, MONEY, NO_GROUP
from aretane.core.planning.outlook.maps import BLUR
from aretane.core.planning.outlook.outlook import Game
from aretane.core.planning.outlook.play_on import hand_rows, in_parts, seeds_of
from aretane.core.planning.outlook.turn_kernel import CHOICE
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import QUICK, draws_of
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import opponent
from aretane.core.rules.traits import Traits, traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson

_NONE = np.zeros(0)


class Grouped(Protocol):
    """What is needed of an outlook: by player and group the chances to run out and what the table is worth."""

    game: Game
    hands: tuple[Hand, Hand]
    grid: Grid
    patterns: tuple[list[Pattern], list[Pattern]]
    worths: tuple[list[Worth], list[Worth]]


class GroupRacks:
    """A table of two groups made ready to be played on by the two players of its outlook."""

    def __init__(self, outlook: Grouped, layout: Layout) -> None:
        game, grid = outlook.game, outlook.grid
        self.ground, self.alone = Ground(layout), game.alone
        self.names = self.ground.names
        traits, patterns = traits_of(layout.discipline), outlook.patterns[0]
        self.sorts = np.array([_sort(traits, ball) for ball in self.names])
        self.bits = np.array([
            patterns[sort].balls.index(ball) if sort in (0, 1) else 0
            for ball, sort in zip(self.names, self.sorts.tolist(), strict=True)
        ])  # fmt: skip
        self.grid = np.array([grid.xs[0], grid.xs[1] - grid.xs[0], grid.ys[0], grid.ys[1] - grid.ys[0]])
        self.runs = _stacked([[pattern.run for pattern in mine] for mine in outlook.patterns])
        self.softs = _stacked([[grid.all_blurred(one.run, BLUR) for one in mine] for mine in outlook.patterns])
        self.means = self.runs.mean(axis=(3, 4))
        self.opens, self.guards, self.brokens = (
            _stacked([[getattr(worth, name) for worth in mine] for mine in outlook.worths])
            for name in ("open", "guarded", "broken")
        )
        self.hands = np.array([hand_rows(hand) for hand in outlook.hands])
        draws = draws_of(QUICK.draws, 7)
        self.errors, self.lucks = draws.errors, draws.lucks
        options, state = game.options, game.state
        free = options.get("after_foul") is not None  # a free shot; of two visits the second is left out
        self.rules = [
            int(bool(options.get("call"))), int(options.get("opponents_ball") == "foul"), int(free),
            3 if options.get("three_fouls") else 0,
        ]  # fmt: skip
        group, other = state.group[state.player], opponent(state.player)
        self.begins = [
            0, int(layout.cue is None), NO_GROUP if group is None else traits.groups.index(group),
            state.fouls.get(state.player, 0), state.fouls.get(other, 0), int(state.free_shot),
        ]  # fmt: skip
        behind = traits.hand != "anywhere" or options.get("in_hand") == "behind-line" or free
        self.line = layout.table.head_line if behind else layout.table.length

    def run_outs(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
        first: Floats = _NONE,
    ) -> Rate:  # fmt: skip
        """How often the player to shoot clears his balls in one visit, out of `times`."""
        return self._played(times, seed, threads, cancelled, first, slice(None), alone=True)

    def wins_of(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
        first: Floats = _NONE, piece: slice = slice(None),
    ) -> Rate:  # fmt: skip
        """How often the player to shoot wins the rack, out of `times`, or of a `piece` of them; alone he must clear
        it.
        """
        return self._played(times, seed, threads, cancelled, first, piece, alone=self.alone)

    def _played(
        self, times: int, seed: int, threads: int, cancelled: Callable[[], bool] | None, first: Floats,
        piece: slice, *, alone: bool,
    ) -> Rate:  # fmt: skip
        seeds = seeds_of(times, seed)[piece]
        won = np.zeros(len(seeds))
        begins = np.array([*self.begins, int(len(first) == CHOICE)])
        assert len(begins) == BEGINS
        rules = np.array([*self.rules, int(alone)])

        def work(part: slice) -> None:
            groups_kernel.racks(
                *self.ground.fixed, *self.ground.vast, self.sorts, self.bits, self.runs, self.softs, self.means,
                self.opens, self.guards, self.brokens, self.grid, QUICK.strokes, self.hands, self.errors,
                self.lucks, QUICK.kept, rules, begins, self.line, first, seeds[part], won[part],
            )  # fmt: skip

        in_parts(work, len(seeds), threads, cancelled)
        return wilson(round(float(won.sum())), len(seeds))


def _sort(traits: Traits, ball: str) -> int:
    if ball == CUE:
        return -1
    group = group_of(traits.name, ball)
    return MONEY if group is None else traits.groups.index(group)


def _stacked(parts: list[list[Floats]]) -> Floats:
    """Two players' arrays for either group as one, filled up to the largest."""
    shape = np.max([part.shape for mine in parts for part in mine], axis=0)
    out = np.zeros((2, 2, *shape))
    for player, mine in enumerate(parts):
        for sort, part in enumerate(mine):
            out[player, sort][tuple(slice(n) for n in part.shape)] = part
    return out
