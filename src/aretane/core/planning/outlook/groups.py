"""Games of two groups, eight-ball and blackball: every order of either group to the end of the rack."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.orders.exchange import Worth, exchange, side_of
from aretane.core.planning.orders.pattern import Pattern, pattern_of
from aretane.core.planning.outlook.group_racks import GroupRacks
from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.outlook import WIN, Game, Remembered, Turn, usual_of, won_by_running
from aretane.core.planning.pots.strokes import Effort
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import RackState
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand


class GroupOutlook(Remembered):
    """Values of both players with either group. On an open table a turn is worth what the better group makes it."""

    plays_on = True
    scale = WIN
    horizon = "every order to the end of the rack"

    def __init__(
        self, game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1,
        cancelled: Callable[[], bool] | None = None,
    ) -> None:  # fmt: skip
        super().__init__()
        self.game, self.hands, self.effort = game, hands, effort
        self.grid = grid_for(game.layout, effort)
        self.traits = traits_of(game.layout.discipline)
        balls = game.layout.object_balls
        money = self.traits.money if self.traits.money in balls else None
        own = [
            tuple(ball for ball in balls if group_of(self.traits.name, ball) == group)
            for group in self.traits.groups
        ]
        made = [
            [pattern_of(game.layout, group, money, hand, effort, seed, threads, cancelled) for group in own]
            for hand in (hands[:1] if hands[0] == hands[1] else hands)
        ]
        # By player (0: whose options are asked for) and by the group that he has.
        self.patterns: tuple[list[Pattern], list[Pattern]] = (made[0], made[-1])
        sides = [[side_of(pattern) for pattern in mine] for mine in self.patterns]
        first, second = (exchange(sides[0][sort], sides[1][1 - sort]) for sort in (0, 1))
        self.worths: tuple[list[Worth], list[Worth]] = ([first[0], second[0]], [second[1], first[1]])

    def _turn(self, state: RackState) -> Turn:
        player = self.game.number(state.player)
        found = [self._with(player, sort, state) for sort in self.sorts(state)]
        run = np.max([run for run, _, _ in found], axis=0)
        worth = np.max([worth for _, worth, _ in found], axis=0)
        best = max((standing for _, _, standing in found), key=lambda standing: standing.open)
        return Turn(player, self.game.on(state), self.grid, worth, run, best)

    def _with(self, player: int, sort: int, state: RackState) -> tuple[Floats, Floats, Any]:
        """Chance to run out and to win with this group, and the turn in general."""
        run, worth = self.patterns[player][sort].run_of(state.balls), self.worths[player][sort]
        own, theirs = self.left(player, sort, state), self.left(1 - player, 1 - sort, state)
        other = self.worths[1 - player][1 - sort]
        broken, guarded = worth.broken[own, theirs], 1.0 - other.guarded[theirs, own]
        return run, np.maximum(run + (1.0 - run) * broken, guarded), worth.standing(own, theirs)

    def stirred(self, state: RackState) -> float:
        player = self.game.number(state.player)
        patterns = [self.patterns[player][sort] for sort in self.sorts(state)]
        return max(float(pattern.terms.stirred[pattern.set_of(state.balls)]) for pattern in patterns)

    def win_with(self, group: str, run: float, state: RackState) -> float:
        player, sort = self.game.number(state.player), self.traits.groups.index(group)
        return run + (1.0 - run) * self._broken(player, sort, state)

    def sorts(self, state: RackState) -> list[int]:
        """The groups that the player to shoot may still have."""
        group = state.group[state.player]
        return [0, 1] if group is None else [self.traits.groups.index(group)]

    def left(self, player: int, sort: int, state: RackState) -> int:
        """Balls of a group that are left, and the one that is played last."""
        pattern = self.patterns[player][sort]
        return int(pattern.sizes[pattern.set_of(state.balls)])

    def lever(self, state: RackState) -> float:
        return won_by_running(self, state)

    def usual(self, player: int, state: RackState) -> float:
        seen = self.game.seen_by(state, player)
        sorts = [self.patterns[player][sort] for sort in self.sorts(seen)]
        return max(usual_of(pattern.pot[pattern.set_of(state.balls)]) for pattern in sorts)

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        group = group_of(self.traits.name, ball)
        seen = self.game.seen_by(state, player)
        sort = self.traits.groups.index(group) if group is not None else self.sorts(seen)[0]
        return self.patterns[player][sort].run_by(ball, state.balls)

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        state = self.game.state
        turn, found = self.turn(state), []
        for ball in turn.on:
            group = group_of(self.traits.name, ball)
            sort = self.traits.groups.index(group) if group is not None else self.sorts(state)[0]
            run, broken = self.run_map(0, ball, state), self._broken(0, sort, state)
            found.append((ball, run, run + (1.0 - run) * broken))
        return [(None, turn.run, turn.worth), *found]

    def _broken(self, player: int, sort: int, state: RackState) -> float:
        """The chance to win a rack in which the run breaks down."""
        at = self.left(player, sort, state), self.left(1 - player, 1 - sort, state)
        return float(self.worths[player][sort].broken[at])

    def racks(self, layout: Layout) -> GroupRacks:
        return GroupRacks(self, layout)
