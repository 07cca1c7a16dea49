"""Rotation games, backwards from the last ball: chances to run out and to win, for both players."""

from __future__ import annotations

from collections.abc import Callable, MutableMapping

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.outlook import WIN, Game, Turn, Usual, usual_of, won_by_running
from aretane.core.planning.outlook.play_on import Racks
from aretane.core.planning.outlook.stage import Stage, stage_of
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import Effort
from aretane.core.rules.game import RackState
from aretane.core.skill.hand import Hand


def one_more(
    game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int, threads: int,
    cancelled: Callable[[], bool] | None, known: MutableMapping[tuple[str, ...], Stage],
) -> Stage | None:  # fmt: skip
    """The next stage that is not known yet, noted among those that are; None when all are."""
    balls = sorted(game.layout.object_balls, key=int)
    following: Stage | None = None
    for left in range(1, len(balls) + 1):
        on = tuple(balls[-left:])
        stage = known.get(on)
        if stage is None:
            ground = Ground(game.layout.without(*balls[:-left]), threads, cancelled)
            first, other = (hand.turn(len(balls) - left) for hand in hands)
            known[on] = stage_of(ground, grid_for(game.layout, effort), on, following, (first, other), effort, seed)
            return known[on]
        following = stage
    return None


class RotationOutlook(Usual):
    """Every ball's stage. `known` stages, by the balls that were then on the table, are used again and added to:
    they hold for the same places, hands in the same turn, and effort only. `progress` hears each stage, the last
    ball's first.
    """

    scale = WIN
    horizon = "the whole rack"
    plays_on = True

    def __init__(
        self, game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1,
        progress: Callable[[Stage], None] | None = None, cancelled: Callable[[], bool] | None = None,
        known: MutableMapping[tuple[str, ...], Stage] | None = None,
    ) -> None:  # fmt: skip
        super().__init__()
        self.game, self.hands, self.effort = game, hands, effort
        self.grid = grid_for(game.layout, effort)
        known = {} if known is None else known
        while (stage := one_more(game, hands, effort, seed, threads, cancelled, known)) is not None:
            if progress is not None:
                progress(stage)
        balls = sorted(game.layout.object_balls, key=int)
        self.stages = {ball: known[tuple(balls[at:])] for at, ball in reversed(list(enumerate(balls)))}

    def turn(self, state: RackState) -> Turn:
        on = self.game.on(state)
        stage = self.stages[on[0]]
        player = self.game.number(state.player)
        return Turn(player, on, self.grid, stage.win[player].value, stage.run[player].value, stage.standing[player])

    quick = turn

    def lever(self, state: RackState) -> float:
        return won_by_running(self, state)

    def usual(self, player: int, state: RackState) -> float:
        """The mean over the balls that are left."""
        left = [stage for ball, stage in self.stages.items() if ball in state.balls]
        return float(np.mean([usual_of(stage.run[player].pot) for stage in left]))

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        return self.stages[ball].run[player].value

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        return [(ball, stage.run[0].value, stage.win[0].value) for ball, stage in self.stages.items()]

    def racks(self, layout: Layout) -> Racks:
        return Racks(self, layout)
