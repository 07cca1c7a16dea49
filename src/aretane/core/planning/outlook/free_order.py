"""Games in which the order is free: the next shot exactly, the one after it by its pot, the rest by an estimate.

For every ball a player may still pot there is a map of its pot alone, in closed form. The rest of a run is the
best of these at the place where the cue ball stops, and each further ball counts the player's usual hand-over
from one ball to the next, which is read from the same maps. A turn's own values then take the next shot exactly:
every pocket and stroke, with the hand's errors, and the estimate only for what follows it.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.outlook.maps import grid_for, tried
from aretane.core.planning.outlook.outlook import (
    EVEN,
    LEVEL,
    ROUNDS,
    Game,
    Scale,
    Standing,
    Turn,
    Usual,
    between,
    hidden_value,
    standing_of,
    usual_of,
)
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import COARSE, FINE, GLANCE, Effort
from aretane.core.rules.game import RackState
from aretane.core.rules.snooker import is_red, remaining, value
from aretane.core.rules.traits import BALLS, FRAMES, traits_of
from aretane.core.skill.hand import Hand

LEANER = {"glance": GLANCE, "coarse": GLANCE, "fine": COARSE, "finest": FINE}  # every ball needs a map, not one
FOUL_POINTS = {FRAMES: 4.0, BALLS: 1.0}  # by what is counted
USUAL_COLOUR = 5.0  # points of the colour that goes with a red, on average (assumed)
NEW_RACK = 0.6  # chance that a break shot is made and leaves a shot (assumed)
LONGEST_RUN = 40  # balls that the estimate of a run looks at


class FreeOrderOutlook(Usual):
    """Values of eight-ball, blackball, snooker and straight pool."""

    ages, plays_on = True, False
    horizon = "two shots with every stroke, the third by its pot, the rest estimated"

    def __init__(
        self, game: Game, hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1,
        cancelled: Callable[[], bool] | None = None,
    ) -> None:  # fmt: skip
        effort = LEANER[effort.name]
        self.game, self.hands, self.effort, self.seed = game, hands, effort, seed
        self.traits = traits_of(game.layout.discipline)
        self.scale = Scale(points=self.traits.points)
        self.foul = FOUL_POINTS.get(self.traits.counts, 0.0)
        self.grid = grid_for(game.layout, effort)
        self._threads, self._cancelled = threads, cancelled
        self._single: dict[Any, Floats] = {}
        self._turns: dict[Any, Turn] = {}
        self._standings: dict[Any, tuple[Standing, Standing]] = {}
        self.turn(game.state)

    def table(self, state: RackState) -> Layout:
        """The layout with the balls that are left."""
        layout = self.game.layout
        return layout.without(*(ball for ball in layout.object_balls if ball not in state.balls))

    def single(self, player: int, ball: str, state: RackState) -> Floats:
        """The chance to pot this ball from each place, by its best pocket alone (in closed form)."""
        key = player, ball, state.balls
        if key not in self._single:
            table = self.table(state)
            others = np.array([place for name, place in table.object_balls.items() if name != ball]).reshape(-1, 2)
            places = self.grid.free_places(np.concatenate([others, [table.balls[ball]]]), self._reach)
            n = len(places)
            at = np.repeat([table.balls[ball]], n, axis=0)
            every = np.broadcast_to(others, (n, *others.shape))
            chance = quick_pot(table.table, places, at, every, self.hands[player])
            self._single[key] = chance.reshape(self.grid.columns, self.grid.rows)
        return self._single[key]

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        return self.single(player, ball, state)

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        turn = self.turn(self.game.state)
        return [(None, turn.run, turn.worth)]

    def racks(self, layout: Layout) -> None:
        return None

    @property
    def _reach(self) -> float:
        return self.game.layout.table.radius + self.game.layout.table.cue_radius

    def usual(self, player: int, state: RackState) -> float:
        """How often this player makes the next ball from where he usually leaves himself."""
        return usual_of(self._any(player, state if self._here(state) else self.game.state))

    def run(self, state: RackState) -> Floats:
        """Estimate, for the player of `state` at each place: his chance to finish, or the points he will score."""
        player = self.game.number(state.player)
        on = self.game.on(state)
        if not on:
            return np.zeros((self.grid.columns, self.grid.rows))
        usual = self.usual(player, state)
        if not self._here(state):  # a new rack: nobody knows yet where its balls will lie
            return np.full(
                (self.grid.columns, self.grid.rows), NEW_RACK * sum(usual**k for k in range(LONGEST_RUN))
            )
        if not self.scale.points:
            return self._any(player, state) * usual ** (_to_go(self.game, state) - 1)
        worth, rest = np.zeros((self.grid.columns, self.grid.rows)), self._rest(state, usual)
        for ball in on:
            points = self.game.scored(state, self.game.after_pot(state, ball))
            worth = np.maximum(worth, self.single(player, ball, state) * (points + rest))
        return worth

    def standings(self, state: RackState) -> tuple[Standing, Standing]:
        """Both players' turns in general with these balls left, mine first."""
        key = _key(state)[1:]
        if key not in self._standings:
            seen = [self.game.seen_by(state, player) for player in (0, 1)]
            runs = [self.run(one) for one in seen]
            found = [LEVEL, LEVEL] if self.scale.points else [EVEN, EVEN]
            for _ in range(ROUNDS):
                found = [between(found[me], self._general(state, runs[me], found[1 - me])) for me in (0, 1)]
            self._standings[key] = found[0], found[1]
        return self._standings[key]

    def turn(self, state: RackState) -> Turn:
        key = _key(state)
        if key not in self._turns:
            self._turns[key] = self._turn(state)
        return self._turns[key]

    def quick(self, state: RackState) -> Turn:
        """The turn by the estimate alone: what follows the next shot."""
        key = "quick", *_key(state)
        if key not in self._turns:
            self._turns[key] = self._quick(state)
        return self._turns[key]

    def _quick(self, state: RackState) -> Turn:
        player = self.game.number(state.player)
        both = self.standings(state)
        run = self.run(state)
        worth = np.maximum(self._with_rest(state, run, both[1 - player]), self.scale.flip(both[1 - player].guarded))
        return Turn(player, self.game.on(state), self.grid, worth, run, both[player])

    def _turn(self, state: RackState) -> Turn:
        player = self.game.number(state.player)
        both = self.standings(state)
        other = both[1 - player]
        hidden = hidden_value(self.scale, other, self.foul)
        on = self.game.on(state)
        if not self._here(state):
            return self.quick(state)
        ground = Ground(self.table(state), self._threads, self._cancelled)
        places = self.grid.free_places(ground.balls(), ground.reach)
        worth, run = np.full(len(places), hidden), np.zeros(len(places))
        for ball in on:
            after = self.game.after_pot(state, ball)
            if after.winner is None:
                follow = self.quick(after)
                follow_worth, follow_run = follow.worth, follow.run
                if self.game.number(after.player) != player:
                    follow_worth, follow_run = self.scale.flip(follow.worth), np.zeros_like(follow.run)
            else:
                won = float(after.winner == state.player)
                follow_worth = np.full((self.grid.columns, self.grid.rows), 0.0 if self.scale.points else won)
                follow_run = np.full_like(follow_worth, 0.0 if self.scale.points else won)
            gain = self.game.scored(state, after) if self.scale.points else 0.0
            look = tried(
                ground, self.grid, ground.pots(ball, places, self.effort.strokes), self.hands[player], self.effort,
                [follow_worth - follow_worth.min() + gain], self.seed,
            )  # fmt: skip
            pot, value = look.expected(follow_worth + gain)
            value = value + (1.0 - pot) * self.scale.flip(other.open)
            np.maximum.at(worth, look.pots.origin, np.maximum(value, self.scale.flip(other.guarded)))
            np.maximum.at(run, look.pots.origin, look.expected(follow_run + gain)[1])
        shape = self.grid.columns, self.grid.rows
        return Turn(player, on, self.grid, worth.reshape(shape), run.reshape(shape), both[player])

    def _here(self, state: RackState) -> bool:
        return all(ball in self.game.layout.balls for ball in state.balls)

    def _any(self, player: int, state: RackState) -> Floats:
        found = np.zeros((self.grid.columns, self.grid.rows))
        for ball in self.game.on(state):
            found = np.maximum(found, self.single(player, ball, state))
        return found

    def _with_rest(self, state: RackState, run: Floats, other: Standing) -> Floats:
        """The value of a turn that runs out with chance `run` (scores `run`) and else hands the table over."""
        if self.scale.points:
            return np.asarray(run + self.scale.flip(other.open) * self._left(state, run))
        return np.asarray(run + (1.0 - run) * self.scale.flip(other.open))

    def _left(self, state: RackState, run: Floats) -> Floats:
        """The share of the table's points that a run leaves to be played for; straight pool has no end."""
        if self.traits.counts != FRAMES:
            return np.ones_like(run)
        return np.asarray(np.clip(1.0 - run / max(remaining(state), 1), 0.0, 1.0))

    def _general(self, state: RackState, run: Floats, other: Standing) -> Standing:
        values = np.maximum(self._with_rest(state, run, other), self.scale.flip(other.guarded))
        return standing_of(values, hidden_value(self.scale, other, self.foul))

    def _rest(self, state: RackState, usual: float) -> float:
        """Points that follow the next ball, each a usual hand-over after the one before."""
        if self.traits.goes_on:
            return sum(usual**k for k in range(1, LONGEST_RUN))
        return sum(points * usual**k for k, points in enumerate(_to_score(state), start=1))


def _to_score(state: RackState) -> list[float]:
    """Snooker: what the shots after the next one are worth, reds with a middling colour, then the colours in
    turn.
    """
    colours = sorted(value(ball) for ball in state.balls if not is_red(ball))
    reds = sum(is_red(ball) for ball in state.balls)
    with_red = [1.0, USUAL_COLOUR]
    if state.on == "colour":
        return [*(with_red * reds), *map(float, colours)]
    if reds:
        return [USUAL_COLOUR, *(with_red * (reds - 1)), *map(float, colours)]
    return [float(one) for one in colours[1:]]


def _to_go(game: Game, state: RackState) -> int:
    """Balls that the player must still pot, the last one included."""
    last = 1 if len(game.on(state)) < len(state.balls) or len(state.balls) == 1 else 0
    money = {"8", "black"} & set(game.on(state))
    if money:
        return 1
    group = state.group[state.player]
    if group is None:  # an open table: half of the coloured balls
        return max(1, (len(state.balls) - 1) // 2) + 1
    return len(game.on(state)) + last


def _key(state: RackState) -> tuple[object, ...]:
    return state.player, state.balls, state.on, tuple(state.group.values())
