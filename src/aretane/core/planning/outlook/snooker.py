"""Snooker: breaks over every order of the loose reds, colours to the end, and what the other player is left."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.orders.breaks import Breaks, breaks_of, usual_points
from aretane.core.planning.outlook.frame import usual_ahead
from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.outlook import (
    Game,
    InPoints,
    Stakes,
    Standing,
)
from aretane.core.planning.pots.strokes import COARSE, Effort
from aretane.core.rules.game import RackState
from aretane.core.rules.snooker import COLOUR, RED, is_red, remaining
from aretane.core.skill.hand import Hand
from aretane.core.skill.visits import goes_on

FOUL = 4.0  # points
TEMPERED = 0.5  # of what the maps promise a turn beyond a usual frame does not come (see docs/method.md)
MANY = 10  # balls


class SnookerOutlook(InPoints):
    """Values in points, for both players."""

    foul = FOUL
    horizon = "six reds with their colours in every order, then the colours; the pack by the usual break"

    def __init__(
        self, game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1,
        cancelled: Callable[[], bool] | None = None,
    ) -> None:  # fmt: skip
        super().__init__()
        if len(game.layout.object_balls) > MANY and effort.level > COARSE.level:
            effort = COARSE  # a finer grid takes half a minute then, and changes little
        self.game, self.hands, self.effort = game, hands, effort
        self.grid = grid_for(game.layout, effort)
        colour = game.state.on == COLOUR
        alike = hands[0] == hands[1] and not (colour and hands[0].partner)
        made = [
            breaks_of(
                game.layout, hands[player], effort, seed, threads, cancelled, on_colour=colour and player == 0
            )
            for player in ((0,) if alike else (0, 1))
        ]
        self.breaks: tuple[Breaks, Breaks] = (made[0], made[-1])

    def run(self, player: int, state: RackState) -> Floats:
        breaks = self.breaks[player]
        if not all(ball in self.game.layout.balls for ball in state.balls):  # a new frame: nobody knows its balls
            reds = sum(map(is_red, state.balls))
            usual = usual_points(reds, breaks.usual, red=True)
            return np.full((self.grid.columns, self.grid.rows), usual)
        if state.on == RED and any(map(is_red, state.balls)):
            return breaks.on_red(state.balls)
        if state.on == COLOUR:
            return breaks.on_colour(state.balls)
        on = self.game.on(state)
        return breaks.turn[on[0]] if on else np.zeros((self.grid.columns, self.grid.rows))

    def stakes(self, state: RackState, run: Floats) -> Stakes:
        """A run, and then the other at a table with as much less to play for."""
        return Stakes(run, np.clip(1.0 - run / max(remaining(state), 1), 0.0, 1.0))

    def tempered(self, state: RackState, standing: Standing) -> Standing:
        """A turn seldom begins from any place, as the maps have it: the better player finds the balls hidden as
        well, and the other has his chances. So the truth lies between them and what frames usually bring.
        """
        if state.on == COLOUR or self.game.alone:
            return standing
        me, table = self.game.number(state.player), self.game.layout.table
        usual = usual_ahead(state, (goes_on(self.hands[me], table), goes_on(self.hands[1 - me], table)))
        return standing.moved(TEMPERED * (usual - standing.open))

    def usual(self, player: int, state: RackState) -> float:
        return min(0.98, self.breaks[player].usual)

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        breaks = self.breaks[player]
        given = state.on not in (RED, COLOUR) or not (is_red(ball) or state.on == COLOUR)
        return breaks.turn[ball] if given and ball in breaks.turn else breaks.by(ball, state.balls)

    def stirred(self, state: RackState) -> float:
        player = self.game.number(state.player)
        return self.breaks[player].stirred(state.balls, red=state.on == RED)

    def lever(self, state: RackState) -> float:
        """What is not scored now is still played for, with the other one at the table first."""
        if self.game.alone:
            return 1.0
        other = self.turn(self.game.passed(state)).standing
        return max(0.0, 1.0 + other.open / max(remaining(state), 1))

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        state = self.game.state
        turn, other = self.turn(state), self.turn(self.game.passed(state)).standing
        each = [(ball, self.run_map(0, ball, state)) for ball in turn.on if self._known(ball)]
        return [
            (None, turn.run, turn.worth),
            *((ball, run, self.stakes(state, run).against(other)) for ball, run in each),
        ]

    def _known(self, ball: str) -> bool:
        return ball in self.breaks[0].known or ball in self.breaks[0].turn

    def racks(self, layout: Layout) -> None:
        return None
