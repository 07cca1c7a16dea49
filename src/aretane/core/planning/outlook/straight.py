"""Straight pool: every order of the rack down to the ball that opens the next one, and its break shot."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.compiled import Floats
from aretane.core.physics.threads import in_threads
from aretane.core.planning.orders.break_ball import DRIVEN, OPEN, BreakMap, break_map, openers, racked_again
from aretane.core.planning.orders.pattern import Pattern, run_of_all
from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.one_place import Best, stroke_of
from aretane.core.planning.outlook.outlook import Game, InPoints, Stakes, usual_of
from aretane.core.planning.outlook.race import FURTHER, margin
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.moved import OPENED
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import COARSE, GLANCE, Effort
from aretane.core.rules.game import RackState, opponent
from aretane.core.skill.hand import Hand
from aretane.core.skill.visits import usual_run
from aretane.core.table import POCKETS

UNOPENED = 0.05  # of the usual run: a break shot with a ball that lies wrong for it (assumed)
MANY = 10  # balls
CANDIDATES = 4  # balls whose break shot is played
FOUL = 1.0  # point


class StraightOutlook(InPoints):
    """Values in balls, for both players, of every set of the balls that lie there."""

    foul = FOUL
    horizon = "every order down to the break shot, later racks by the usual run"

    def __init__(
        self, game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1,
        cancelled: Callable[[], bool] | None = None,
    ) -> None:  # fmt: skip
        super().__init__()
        if len(game.layout.object_balls) > MANY and effort.level > COARSE.level:
            effort = COARSE  # a finer grid takes minutes then, and changes little
        self.game, self.hands, self.effort, self.seed = game, hands, effort, seed
        self.grid = grid_for(game.layout, effort)
        self._threads, self._cancelled = threads, cancelled
        table, closing = game.layout.table, max(len(game.layout.object_balls) - 1, 0)
        self._closing = tuple(hand.turn(closing) for hand in hands)  # who plays the break shot
        # Of the racks to come nobody knows how they will lie: this one would tell it far too shakily.
        self.usual_runs: tuple[float, float] = (usual_run(hands[0], table), usual_run(hands[1], table))
        made = [self._made(one) for one in ((0,) if hands[0] == hands[1] else (0, 1))]
        self.patterns: tuple[Pattern, Pattern] = (made[0][0], made[-1][0])
        self.breaks: dict[str, BreakMap] = made[0][1]

    def _made(self, player: int) -> tuple[Pattern, dict[str, BreakMap]]:
        """The pattern, made of the break shots of the balls that may be left for them."""
        layout, grid, hand, following = self.game.layout, self.grid, self.hands[player], self.usual_runs[player]
        few = 2 if self.effort is GLANCE else CANDIDATES
        racks = _candidates(layout, few)
        alone = self._threads if len(racks) == 1 else 1

        def break_shots(ball: str) -> BreakMap:
            return break_map(racks[ball], ball, self._closing[player], self.seed, alone, self._cancelled)

        maps = dict(zip(racks, in_threads(break_shots, list(racks), self._threads), strict=True))

        def worths(pots: Mapping[str, Floats]) -> tuple[dict[str, Floats], float]:
            ends = {
                ball: _on(grid, maps[ball], following) if ball in maps else pot * (1.0 + UNOPENED * following)
                for ball, pot in pots.items()
            }
            return ends, following

        pattern = run_of_all(layout, worths, hand, self.effort, self.seed, self._threads, self._cancelled)
        return pattern, maps

    def run(self, player: int, state: RackState) -> Floats:
        pattern = self.patterns[player]
        if not set(state.balls) <= set(pattern.balls):  # a new rack: nobody knows yet where its balls will lie
            return np.full((self.grid.columns, self.grid.rows), self.usual_runs[player])
        return pattern.run_of(state.balls)

    def ahead(self, state: RackState, run: Floats) -> Floats:
        """By how many balls a run puts the player of `state` ahead from here: its balls, and what the race beyond
        it brings, where the other one comes to some table next, as after a new rack.
        """
        player, mine, theirs = self.game.number(state.player), *_points(state)
        race = float(self.game.options.get("race_to") or max(mine, theirs) + FURTHER)
        usual = self.usual_runs
        return margin(race - mine - run, race - theirs, usual[player], usual[1 - player]) - (mine - theirs)

    def stakes(self, state: RackState, run: Floats) -> Stakes:
        """A run and the race beyond it. He whom a safety leaves the table may play safe as well: so few balls that
        bring nobody much are worth little to both.
        """
        return Stakes(self.ahead(state, run), 0.0)

    def _key(self, state: RackState) -> tuple[object, ...]:
        return (*super()._key(state), *_points(state))

    def usual(self, player: int, state: RackState) -> float:
        pattern = self.patterns[player]
        return min(0.98, usual_of(pattern.pot[pattern.set_of(state.balls)]))

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        pattern = self.patterns[player]
        if len(state.balls) == 1:
            return pattern.run_of(state.balls)
        return pattern.run_by(ball, state.balls)

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        """Of the balls that may be kept for it the break shot's, of the others what it is worth to
        play them now.
        """
        state = self.game.state
        turn = self.turn(state)
        alone = [(ball, self.patterns[0].run_of((ball,))) for ball in self.breaks]
        now = [(ball, self.run_map(0, ball, state)) for ball in turn.on if ball not in self.breaks]
        return [
            (None, turn.run, turn.worth),
            *((ball, run, self.ahead(state, run)) for ball, run in [*alone, *now]),
        ]

    def opening(self, layout: Layout) -> tuple[float, float] | None:
        left = layout.object_balls
        if len(left) != 1 or layout.cue is None or not set(left) <= set(self.patterns[0].balls):
            return None
        pattern, place = self.patterns[0], np.array(layout.cue)
        pot, worth = pattern.pot[pattern.set_of(left)], pattern.run_of(left)
        return float(self.grid.at(pot, place)), float(self.grid.at(worth, place))

    def break_maps(self) -> Mapping[str, BreakMap]:
        return self.breaks

    def racks(self, layout: Layout) -> None:
        return None

    def stirred(self, state: RackState) -> float:
        pattern = self.patterns[self.game.number(state.player)]
        known = set(state.balls) <= set(pattern.balls)
        return float(pattern.terms.stirred[pattern.set_of(state.balls)]) if known else 0.0

    def lever(self, state: RackState) -> float:
        if self.game.alone:
            return 1.0
        player = self.game.number(state.player)
        few, more = self.ahead(state, np.array([0.0, self.usual_runs[player]]))
        return float(more - few) / max(self.usual_runs[player], 1e-9)

    def scattered(self, layout: Layout, state: RackState) -> float:
        player, known = self.game.number(state.player), self.game.layout.balls
        left = [ball for ball in layout.object_balls if ball in known]
        driven = sum(math.dist(layout.balls[ball], known[ball]) > DRIVEN for ball in left)
        return OPENED * self.usual_runs[player] if driven >= OPEN else 0.0

    def break_shot(self, layout: Layout) -> Best | None:
        if len(layout.object_balls) != 1:
            return None
        (ball,) = layout.object_balls
        again = racked_again(layout.table, ball, layout.balls[ball])
        assert layout.cue is not None
        if again is None or first_overlap(again.placed(CUE, layout.cue)):
            return None
        chosen, chance, _ = openers(
            Ground(again, self._threads), ball, np.array([layout.cue]), self._closing[0], self.seed
        )
        if not len(chosen):
            return None
        pattern = self.patterns[0]
        worth = float(self.grid.at(pattern.run_of((ball,)), np.array(layout.cue)))
        x, y = chosen.landing[0].tolist()
        return Best(ball, POCKETS[int(chosen.pocket[0])], stroke_of(chosen, 0), float(chance[0]), worth, (x, y))


def _points(state: RackState) -> tuple[float, float]:
    """The score, the player's own first."""
    return float(state.points[state.player]), float(state.points[opponent(state.player)])


def _on(grid: Grid, found: BreakMap, following: float) -> Floats:
    """A break shot's worth on the grid of the pattern."""
    return found.grid.at(found.worth(following), grid.places).reshape(grid.columns, grid.rows)


def _candidates(layout: Layout, most: int) -> dict[str, Layout]:
    """The balls nearest to where a break ball lies, each with the rack that is set up beside it. Common practice:
    beside or below the rack, a hand's breadth to two from it.
    """
    table = layout.table
    middle = table.foot_spot + 2 * table.ball_diameter, table.width / 2

    def off(ball: str) -> float:
        x, y = layout.balls[ball]
        return abs(float(np.hypot(x - middle[0], y - middle[1])) - 0.27)

    racks = {ball: racked_again(table, ball, place) for ball, place in layout.object_balls.items()}
    beside = {ball: again for ball, again in racks.items() if again is not None}
    return {ball: beside[ball] for ball in sorted(beside, key=off)[:most]}
