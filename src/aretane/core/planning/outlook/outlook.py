"""What the table is worth to whoever is to shoot: the common ground of plans and options in every discipline."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.pots.grid import Grid
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.game import PLAY, Discipline, RackState, Seen, opponent
from aretane.core.rules.options import with_defaults
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate

if TYPE_CHECKING:
    from aretane.core.planning.orders.break_ball import BreakMap
    from aretane.core.planning.outlook.one_place import Best

KICKED = 0.5  # chance that a hidden ball is hit from somewhere (assumed; an option's own leaves are computed)
MISSES = 3.0  # in a row, then a player takes an easier way: a third may lose the frame (rule 14; common practice)
SAFE_SHARE = (
    0.4  # a safety that comes off leaves one of the worst of all places (assumed; an option's own are computed)
)
HAND_SHARE = 0.02  # ball in hand: the mean over the best fiftieth of the places
USUAL_SHARE = 0.4  # a player leaves himself one of the better part of all places
ROUNDS = 16  # of the exchange between two players' turns, each going half the way


@dataclass(frozen=True)
class Scale:
    """What a value counts: chances to win the rack, or points (balls) that a player will be ahead by from here."""

    points: bool

    def flip(self, value: Any) -> Any:
        """The same standing as the other player sees it."""
        return -value if self.points else 1.0 - value


WIN = Scale(points=False)


@dataclass(frozen=True)
class Standing:
    """What the turn is worth to a player in general, whatever the place.

    `open`: at a place like any other, as after the opponent's miss; `safe`: after a safety that came off; `hidden`:
    no ball on can be seen; `in_hand`: the cue ball in hand.
    """

    open: float
    safe: float
    hidden: float
    in_hand: float

    @property
    def guarded(self) -> float:
        """Against a safety as good as the usual one: half of them come off (assumed)."""
        return (self.safe + self.open) / 2

    def moved(self, by: float) -> Standing:
        return Standing(self.open + by, self.safe + by, self.hidden + by, self.in_hand + by)


EVEN = Standing(0.5, 0.3, 0.3, 0.8)
LEVEL = Standing(0.0, -1.0, -1.0, 3.0)  # in points


@dataclass(frozen=True)
class Stakes:
    """In points, at each place: what a run from there brings (`gain`), and the share of the table that is still
    played for once it has ended (`left`).
    """

    gain: Floats
    left: Floats | float

    def against(self, other: Standing) -> Floats:
        """The turn's worth by what the other one's is; where that is less, a usual safety."""
        return np.maximum(self.gain - other.open * self.left, -other.guarded)


@dataclass(frozen=True)
class Turn:
    """A player's turn on the table as it stands: `player` 0 for the one whose options are asked for, 1 for the
    other.

    `worth` and `run` (columns x rows): his value and his chance to run out (in points: what he will score) with the
    cue ball at each place of the grid; `on` the balls that he may strike first.
    """

    player: int
    on: tuple[str, ...]
    grid: Grid
    worth: Floats
    run: Floats
    standing: Standing

    def at(self, places: Floats) -> Floats:
        return self.grid.at(self.worth, places)


@dataclass(frozen=True)
class Visits:
    """Visits played to their end: how often the table was cleared (in straight pool the break shot made), and, in
    games of points, what a visit brought on average; a break shot counts with what its own map says.
    """

    cleared: Rate
    scored: Rate | None = None


class PlayedOn(Protocol):
    """A table that can be played on to the end, many times; see `play_on.Racks`."""

    def run_outs(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None
    ) -> Rate: ...

    def wins_of(
        self, times: int, seed: int = 0, threads: int = 1, cancelled: Callable[[], bool] | None = None,
        first: Floats = ..., piece: slice = ...,
    ) -> Rate: ...  # fmt: skip


class Outlook(Protocol):
    """Values of a layout's turns for two players; they hold as long as the balls that are left stay in place."""

    game: Game
    hands: tuple[Hand, Hand]
    scale: Scale
    horizon: str
    grid: Grid
    plays_on: bool  # racks can be played on to their end by its values
    visited: dict[Any, Visits]  # played on from this table already, see `rollout.py`

    def turn(self, state: RackState) -> Turn:
        """The turn of `state.player` with `state.balls` left, its next shot taken exactly."""

    def quick(self, state: RackState) -> Turn:
        """The same as it is estimated one shot further ahead."""

    def run_ahead(self, state: RackState) -> Floats:
        """The run that this quicker look promises, at each place."""

    def usual(self, player: int, state: RackState) -> float:
        """How often this player makes the next ball from where he usually leaves himself."""

    def run_map(self, player: int, ball: str, state: RackState) -> Floats:
        """What this ball is worth to a player who plays it next, from each place."""

    def maps(self) -> list[tuple[str | None, Floats, Floats]]:
        """The position maps to be shown, run-out and win: of each ball in its turn, or one of whatever is on."""

    def scattered(self, layout: Layout, state: RackState) -> float:
        """What a run promises, in points, where a shot has driven so many balls elsewhere that the maps say nothing
        of them; 0 where they hold.
        """

    def stirred(self, state: RackState) -> float:
        """The chance to run out (points: the run) with these balls left once their clusters are strewn; 0 where
        they have none, or where nobody knows.
        """

    def lever(self, state: RackState) -> float:
        """By how much the turn's value grows with each further bit of the run it promises."""

    def escape(self, kick: float, other: Standing) -> float:
        """What a player has who sees no ball on and hits one so often, the other at the table afterwards."""

    def break_shot(self, layout: Layout) -> Best | None:
        """The stroke that opens the next rack with the one ball that is left; None where no rack is opened so."""

    def opening(self, layout: Layout) -> tuple[float, float] | None:
        """Of the one ball that is left in straight pool: how often its break shot is made, and the balls that it
        brings with what follows. None everywhere else.
        """

    def break_maps(self) -> Mapping[str, BreakMap]:
        """The break shots of the balls that may be kept for it, in straight pool."""

    def win_with(self, group: str, run: float, state: RackState) -> float:
        """The chance to win with a group of which so much will be run out, for the player to shoot."""

    def racks(self, layout: Layout) -> PlayedOn | None:
        """The table made ready to be played on to the end; None where that cannot be done."""


class Usual:
    """What most outlooks answer to what is asked of a few games only."""

    def __init__(self) -> None:
        self.visited: dict[Any, Visits] = {}

    def quick(self, state: RackState) -> Turn:
        raise NotImplementedError

    def run_ahead(self, state: RackState) -> Floats:
        return self.quick(state).run

    def scattered(self, layout: Layout, state: RackState) -> float:
        return 0.0

    def stirred(self, state: RackState) -> float:
        return 0.0

    def lever(self, state: RackState) -> float:
        return 1.0

    def escape(self, kick: float, other: Standing) -> float:
        return hidden_value(WIN, other, kick)

    def break_shot(self, layout: Layout) -> Best | None:
        return None

    def opening(self, layout: Layout) -> tuple[float, float] | None:
        return None

    def break_maps(self) -> Mapping[str, BreakMap]:
        return {}

    def win_with(self, group: str, run: float, state: RackState) -> float:
        return run


class Remembered(Usual):
    """Turns that are worked out once each, all exactly: there is no quicker look."""

    def __init__(self) -> None:
        super().__init__()
        self._turns: dict[Any, Turn] = {}

    def turn(self, state: RackState) -> Turn:
        key = self._key(state)
        if key not in self._turns:
            self._turns[key] = self._turn(state)
        return self._turns[key]

    def quick(self, state: RackState) -> Turn:
        return self.turn(state)

    def _key(self, state: RackState) -> tuple[object, ...]:
        return state.player, state.balls, state.on, tuple(state.group.values())

    def _turn(self, state: RackState) -> Turn:
        raise NotImplementedError


@dataclass(frozen=True)
class Game:
    """A layout with its rules: what a shot does to the state of the rack. `alone`: nobody comes to the table after
    the player, so what counts is his run.
    """

    layout: Layout
    rules: Discipline
    options: Mapping[str, Any]
    state: RackState
    alone: bool = False

    @property
    def me(self) -> str:
        return self.state.player

    def number(self, player: str) -> int:
        return 0 if player == self.me else 1

    def on(self, state: RackState) -> tuple[str, ...]:
        return self.rules.legal_balls(state)

    def after(self, state: RackState, shot: Seen) -> RackState:
        """What the rules make of a shot. Where the layout has no ball left to play, as one without its money ball,
        whoever would be next has finished."""
        after = self.rules.settle(state, shot, self.options).after
        left = tuple(ball for ball in state.balls if ball not in shot.gone)
        if (
            len(after.balls) > len(state.balls) and len(left) == 1
        ):  # what is racked again is not known; this ball is
            after = after.turn_to(after.player, balls=left)
        if after.winner is None and not self.on(after):
            return after.turn_to(after.player, winner=after.player)
        return after

    def after_pot(self, state: RackState, ball: str) -> RackState:
        """The state after this ball alone was potted as called."""
        shot = Seen(player=state.player, first_contact=ball, rails=1, potted=(ball,), called=(ball, None))
        return self.after(state, shot)

    def passed(self, state: RackState) -> RackState:
        """The other player's turn with the same balls, as after a miss."""
        shot = Seen(player=state.player, first_contact=self.on(state)[0], rails=1)
        return self.after(state, shot) if state.phase == PLAY else state.turn_to(opponent(state.player))

    def seen_by(self, state: RackState, player: int) -> RackState:
        """The state as that player's turn."""
        return state if self.number(state.player) == player else self.passed(state)

    def scored(self, before: RackState, after: RackState) -> float:
        """Points by which a shot moved the score, as the player of `before` sees it."""
        mine, theirs = before.player, opponent(before.player)
        gained = after.points[mine] - before.points[mine]
        return float(gained - (after.points[theirs] - before.points[theirs]))


def game_of(layout: Layout, options: Mapping[str, Any] | None = None, *, alone: bool = False) -> Game:
    rules = rules_of(layout.discipline)
    complete = with_defaults(rules.name, options or {})
    return Game(layout, rules, complete, rules.resume(layout, complete), alone)


def won_by_running(outlook: Outlook, state: RackState) -> float:
    """What a chance to run out is worth where the other player has the table otherwise."""
    if outlook.game.alone:
        return 1.0
    other = outlook.quick(outlook.game.passed(state)).standing
    return float(1.0 - outlook.scale.flip(other.open))


def shown_maps(outlook: Outlook) -> list[tuple[str | None, Floats, Floats]]:
    """The outlook's position maps; alone at the table a place is worth the run from it."""
    return [(ball, run, run if outlook.game.alone else worth) for ball, run, worth in outlook.maps()]


def best_places(values: Floats) -> float:
    """The mean of a map over its best places."""
    ordered = np.sort(values, axis=None)
    return float(ordered[-max(1, int(HAND_SHARE * len(ordered))) :].mean())


def standing_of(values: Floats, hidden: float) -> Standing:
    """The turn in general, from a player's values over all places."""
    ordered = np.sort(values, axis=None)
    low = ordered[: max(1, int(SAFE_SHARE * len(ordered)))]
    return Standing(float(ordered.mean()), float(low.mean()), hidden, best_places(values))


def usual_of(chances: Floats) -> float:
    """The chance of the next pot from where a player usually leaves himself, from its map."""
    ordered = np.sort(chances, axis=None)
    return float(np.clip(ordered[-max(1, int(USUAL_SHARE * len(ordered))) :].mean(), 0.02, 0.98))


def between(one: Standing, other: Standing) -> Standing:
    return Standing(
        (one.open + other.open) / 2,
        (one.safe + other.safe) / 2,
        (one.hidden + other.hidden) / 2,
        (one.in_hand + other.in_hand) / 2,
    )


def hidden_value(scale: Scale, other: Standing, kick: float = KICKED) -> float:
    """To a player who cannot see the ball on: the `kick` hits and the opponent has the table, or he has it with the
    cue ball in hand.
    """
    return float(kick * scale.flip(other.open) + (1.0 - kick) * scale.flip(other.in_hand))


class InPoints(Remembered):
    """Turns in points: a run, and then the other player's turn. `foul`: points that one gives away."""

    game: Game
    grid: Grid
    scale = Scale(points=True)
    plays_on = False
    foul: float

    def escape(self, kick: float, other: Standing) -> float:
        """A foul costs its points and leaves the cue ball where it is; where a miss is called it is played again
        until the ball is hit.
        """
        again = self.game.options.get("miss")
        fouls = min((1.0 - kick) / max(kick, 1e-9), MISSES) if again else 1.0 - kick
        return float(self.scale.flip(other.open) - fouls * self.foul)

    def run(self, player: int, state: RackState) -> Floats:
        """The points that a player may expect to score in this visit, at each place."""
        raise NotImplementedError

    def run_ahead(self, state: RackState) -> Floats:
        return self.run(self.game.number(state.player), state)

    def stakes(self, state: RackState, run: Floats) -> Stakes:
        """What a run from each place brings the player of `state`, and what is left to the other one after it."""
        raise NotImplementedError

    def tempered(self, state: RackState, standing: Standing) -> Standing:
        """What the turn of `state` is worth in general, where its map tells too much or too little of it."""
        return standing

    def _turn(self, state: RackState) -> Turn:
        player = self.game.number(state.player)
        states = [self.game.seen_by(state, one) for one in (0, 1)]
        runs = [self.run(one, states[one]) for one in (0, 1)]
        stakes = [self.stakes(states[one], runs[one]) for one in (0, 1)]
        found = [LEVEL, LEVEL]
        for _ in range(ROUNDS):
            made = [
                standing_of(stakes[me].against(found[1 - me]), self.escape(KICKED, found[1 - me])) for me in (0, 1)
            ]
            made = [self.tempered(states[me], made[me]) for me in (0, 1)]
            found = [between(*pair) for pair in zip(found, made, strict=True)]
        worth = stakes[player].against(found[1 - player])
        return Turn(player, self.game.on(state), self.grid, worth, runs[player], found[player])
