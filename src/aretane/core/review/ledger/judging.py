"""One entry judged: the best that could be played, what was meant, and what usually comes of that.

The best option is picked on one set of samples; it and the chosen stroke are valued on a second one, the same for
both, so that a choice costs nothing in the mean where two are worth the same. Where racks can be played on to
their end, maps and played racks are put together, each with the weight of its own uncertainty.
"""

from __future__ import annotations

import math
from collections.abc import MutableMapping
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.aim import aimed
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.option import ATTACK, SAFE, Option, Options
from aretane.core.planning.choices.options import Task, arranged, outlook_for, push_of, pushed, tasks_for, valued
from aretane.core.planning.choices.played import PLAYED_SEED, played_on, racks_from
from aretane.core.planning.choices.search import Idea, judged, pot_ideas
from aretane.core.planning.choices.value import STILL, cases_of, left_by
from aretane.core.planning.outlook.answer import answer_to
from aretane.core.planning.outlook.frame import frame_chance
from aretane.core.planning.outlook.outlook import Game, Outlook
from aretane.core.planning.outlook.stage import Stage
from aretane.core.planning.pots.strokes import COARSE, GLANCE, Effort
from aretane.core.review.ledger.juncture import ALL, NO_INTENT, NO_STROKE, PUSH_OUT, CameOf, Juncture, Meant
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.skill.demand import demand_of
from aretane.core.skill.hand import Hand
from aretane.core.table import POCKETS

SECOND = 5000  # seeds of the second set of samples lie so far from the first
POTS = 6  # plain pots of a ball that was meant, where its stroke is not logged
LOOKS = 8  # outcomes of a sort whose other balls are looked at
MOVED = 0.02  # m: a ball seen elsewhere by less than this has not moved, for all that anybody can tell
SAME_PLACE = 0.1  # m: a ball in hand placed as near as this to another place is placed the same
# How far a map's value is from what racks played on come to, standard deviations (measured: docs/method.md): of a
# turn's value, and of the difference between two choices of one sort or of two.
MAP_OFF = {True: 0.06, False: 0.15}  # in rotation, with groups
ALIKE, UNLIKE = 0.03, 0.10
POINTS_OFF = 1.0


@dataclass(frozen=True)
class Care:
    """How well values are known: the search's effort, samples of a value, racks played on to pick the best and to
    value it, and break shots.
    """

    name: str
    effort: Effort
    samples: int
    picked: int
    racks: int
    breaks: int


QUICK_LOOK = Care("coarse", GLANCE, 160, 24, 48, 16)
SETTLED = Care("settled", COARSE, 500, 100, 300, 48)
CARES = {care.name: care for care in (QUICK_LOOK, SETTLED)}


@dataclass(frozen=True)
class Known:
    """A value with its standard error."""

    value: float
    error: float


@dataclass(frozen=True)
class Choice:
    """A choice as it is shown: what it is, its stroke, the chance of its pot and what it is worth, with the cue
    ball's way.
    """

    kind: str
    intent: str
    ball: str | None
    pocket: str | None
    stroke: Stroke
    pot: float | None
    value: float
    route: str
    path: tuple[tuple[float, float], ...]
    why: str


@dataclass(frozen=True)
class Judgement:
    """`before`: what the best option is worth. `chosen`: what was meant is worth; `decision` is what that costs and
    `expected` what remained when it was known whether the pot was made or a foul; `fortune` what the other balls
    did beyond what was to be expected (None: not told). `split` says how far it could be told.
    """

    before: Known
    best: Choice | None
    attack: Choice | None
    safety: Choice | None
    chosen: Choice | None
    decision: Known | None
    expected: Known | None
    fortune: Known | None
    split: str
    even: float | None = None  # the pot chance from which the best attack is right


Stages = MutableMapping[tuple[str, ...], Stage]


def judge(
    at: Juncture, hands: tuple[Hand, Hand], care: Care, seed: int = 0, threads: int = 1, known: Stages | None = None
) -> Judgement:
    """An entry with a stroke, its balls all known; `hands` of the player to act and of the other. `known` serves
    the next entries of a rack too, see `still_true`. Raises `InputError` where there is nothing to play.
    """
    game = game_at(at)
    outlook = outlook_for(game, hands, care.effort, seed, threads, known=known)
    found, options = _options(outlook, care, seed, threads)
    best = options.options[0]
    valuing = _Valuing(outlook, care, seed + SECOND, threads)
    value = valuing.value(best)
    own, split = (
        _own(at.meant, found, options, outlook, valuing) if at.came or at.meant.intent else (None, NO_INTENT)
    )
    told = Judgement(
        value, _choice(game, best, value.value), _first(game, options, ATTACK, valuing),
        _first(game, options, SAFE, valuing), None, None, None, None, split, options.break_even_pot,
    )  # fmt: skip
    if own is None:
        return told
    decision = Known(0.0, 0.0) if own is best else valuing.difference(own, best)
    chosen = value.value + decision.value
    told = replace(told, chosen=_choice(game, own, chosen), decision=decision)
    if at.came is None:
        return told
    outcome = _Outcomes(outlook, own, valuing, chosen)
    expected = outcome.expected(at.came)
    fortune = outcome.fortune(at.came) if split == ALL else None
    return replace(told, expected=expected, fortune=fortune)


def game_at(at: Juncture) -> Game:
    layout = at.layout
    assert layout is not None
    return Game(layout, rules_of(at.discipline), at.options, at.state)


def still_true(known: Stages, before: Juncture, now: Juncture) -> dict[tuple[str, ...], Stage]:
    """What is known of a rotation table that still holds after a shot: of balls that nobody moved."""
    was, lies = before.balls or {}, now.balls or {}
    kept = {ball for ball in was if ball in lies and math.dist(was[ball], lies[ball]) < STILL}
    return {balls: stage for balls, stage in known.items() if kept.issuperset(balls)}


def as_value(game: Game, state: RackState, ahead: float) -> float:
    """To the player of `state`: a chance to win as it is; points ahead from here as the chance to win the frame, or
    in straight pool as balls ahead in the end.
    """
    traits = traits_of(game.layout.discipline)
    if traits.counts == FRAMES:
        return frame_chance(state, ahead)
    if traits.goes_on:
        return state.points[state.player] - state.points[opponent(state.player)] + ahead
    return ahead


def flipped(discipline: str, value: float) -> float:
    """The same standing as the other player sees it."""
    return -value if traits_of(discipline).goes_on else 1.0 - value


def _options(outlook: Outlook, care: Care, seed: int, threads: int) -> tuple[list[Option], Options]:
    tasks = tasks_for(outlook, care.effort, threads)
    found = [valued(outlook, task, care.effort, seed, threads) for task in tasks]
    found += pushed(outlook, care.effort, seed)
    if outlook.plays_on:
        found = played_on(
            outlook, found, lambda one: racks_from(outlook, one, care.picked, seed + PLAYED_SEED, threads)
        )
    return found, arranged(outlook, found)


def _first(game: Game, options: Options, sort: tuple[str, ...], valuing: _Valuing) -> Choice | None:
    one = next((option for option in options.options if option.intent in sort), None)
    return None if one is None else _choice(game, one, valuing.lead + one.win)


def _choice(game: Game, one: Option, value: float) -> Choice:
    return Choice(
        one.kind, one.intent, one.ball, one.pocket, one.stroke, one.value.pot.p if one.ball else None, value,
        one.route, one.path, one.why,
    )  # fmt: skip


# What was chosen.


def _own(
    meant: Meant, found: list[Option], options: Options, outlook: Outlook, valuing: _Valuing
) -> tuple[Option | None, str]:
    """The option that was played, and how far that is known. The best one itself stands for every stroke of its
    idea."""
    best = options.options[0]
    if meant.declared == PUSH_OUT or meant.intent == PUSH_OUT:
        if meant.stroke is None:
            return None, NO_STROKE
        worth = push_of(outlook, meant.stroke, valuing.care.samples, valuing.seed)
        return (best if best.intent == PUSH_OUT else worth), ALL
    if meant.stroke is not None:
        task = _meant_task(meant, outlook)
        if task is None:
            return None, NO_STROKE
        own = valuing.option(task)
        return (best if _same_idea(own, best) else own), ALL
    if meant.pot is None:
        return None, NO_STROKE if meant.intent or meant.declared else NO_INTENT
    same = [one for one in options.options if (one.ball, one.pocket) == meant.pot and _placed_as(one, meant)]
    if same:
        return same[0], NO_STROKE
    more = [valuing.option(task) for task in _plain_pots(meant, outlook, valuing.care.effort)]
    return max(more, key=lambda one: one.win, default=None), NO_STROKE


def _meant_task(meant: Meant, outlook: Outlook) -> Task | None:
    """The stroke as it was meant: a direct pot with the aim for it, anything else as it was struck."""
    layout, stroke = _from_place(meant, outlook), meant.stroke
    assert stroke is not None
    if layout is None:
        return None
    idea = meant.pot if meant.pot and meant.pot[0] in layout.balls else (None, None)
    try:
        if idea[0] is not None:
            stroke = aimed(layout, replace(stroke, aim=None, at=idea[0], pocket=idea[1]))
    except InputError:
        pass
    return Task(layout, Idea(aimed(layout, stroke), *idea))


def _from_place(meant: Meant, outlook: Outlook) -> Layout | None:
    layout = outlook.game.layout
    if outlook.game.state.in_hand is None:
        return layout
    if meant.place is None:
        return None
    placed = layout.placed(CUE, meant.place)
    return None if first_overlap(placed) else placed


def _plain_pots(meant: Meant, outlook: Outlook, effort: Effort) -> list[Task]:
    layout = _from_place(meant, outlook)
    if layout is None or meant.pot is None:
        return []
    found = [one for one in pot_ideas(outlook, layout, effort, 60) if (one.ball, one.pocket) == meant.pot]
    return [Task(layout, one) for one in found[:POTS]]


def _placed_as(option: Option, meant: Meant) -> bool:
    if option.stroke.place is None:
        return True
    return meant.place is not None and math.dist(option.stroke.place, meant.place) < SAME_PLACE


def _same_idea(own: Option, best: Option) -> bool:
    """Whether two options are one idea: ball, pocket, way and purpose, from the same place."""
    one, other = own.stroke.place, best.stroke.place
    if one is not None and other is not None and math.dist(one, other) > SAME_PLACE:
        return False
    sort = (own.intent in ATTACK) == (best.intent in ATTACK)
    return sort and (own.struck, own.ball, own.pocket, own.kind, own.route) == (
        best.struck, best.ball, best.pocket, best.kind, best.route,
    )  # fmt: skip


# What it is worth.


class _Valuing:
    """The second set of samples, the same for whatever is valued on it."""

    def __init__(self, outlook: Outlook, care: Care, seed: int, threads: int) -> None:
        self.outlook, self.care, self.seed, self.threads = outlook, care, seed, threads
        self.effort = replace(care.effort, samples=care.samples)
        game = outlook.game
        self.lead = as_value(game, game.state, 0.0) if traits_of(game.layout.discipline).goes_on else 0.0
        self._again: dict[int, Option] = {}
        self._racks: dict[int, Known] = {}

    def option(self, task: Task) -> Option:
        """A stroke of somebody's own, valued on this set."""
        own = valued(self.outlook, task, self.effort, self.seed, self.threads)
        self._again[id(own)] = own
        return own

    def again(self, one: Option) -> Option:
        """An option that was found on the first set, valued on this one."""
        if id(one) not in self._again and one.intent == PUSH_OUT:
            self._again[id(one)] = one
        if id(one) not in self._again:
            layout = self.outlook.game.layout
            if one.stroke.place is not None:
                layout = layout.placed(CUE, one.stroke.place)
            idea = Idea(replace(one.stroke, place=None), one.ball, one.pocket)
            self._again[id(one)] = valued(self.outlook, Task(layout, idea), self.effort, self.seed, self.threads)
        return self._again[id(one)]

    def value(self, one: Option) -> Known:
        by_map, racks = self.again(one), self._played(one)
        spread = float(np.std(by_map.value.samples, ddof=1)) / math.sqrt(len(by_map.value.samples))
        off = MAP_OFF[traits_of(self.outlook.game.layout.discipline).rotation] if racks else 0.0
        value = _together([Known(by_map.win, math.hypot(spread, off)), *([racks] if racks else [])])
        return Known(value.value + self.lead, value.error)

    def difference(self, own: Option, best: Option) -> Known:
        """What the one is worth more than the other: under the same errors, and by racks played on."""
        one, other = self.again(own), self.again(best)
        apart = (
            one.value.samples - other.value.samples if len(one.value.samples) == len(other.value.samples) else None
        )
        if apart is not None and len(apart) > 1:
            spread = float(np.std(apart, ddof=1)) / math.sqrt(len(apart))
        else:
            spread = math.hypot(*(_half(x) for x in (one, other)))
        found = [Known(one.win - other.win, spread)]
        first, second = self._played(own), self._played(best)
        if first is not None and second is not None:
            alike = (own.intent in ATTACK) == (best.intent in ATTACK)
            found[0] = replace(found[0], error=math.hypot(spread, ALIKE if alike else UNLIKE))
            found.append(Known(first.value - second.value, math.hypot(first.error, second.error)))
        return _together(found)

    def _played(self, one: Option) -> Known | None:
        if not self.outlook.plays_on or one.intent == PUSH_OUT:
            return None
        if id(one) not in self._racks:
            rate = racks_from(self.outlook, one, self.care.racks, self.seed + PLAYED_SEED, self.threads)
            share = (rate.n * (rate.p or 0.0) + 1.0) / (rate.n + 2.0)  # an error also where all were won
            self._racks[id(one)] = Known(rate.p or 0.0, math.sqrt(share * (1.0 - share) / rate.n))
        return self._racks[id(one)]


def _half(one: Option) -> float:
    return (one.value.win.high - one.value.win.low) / 2 / 1.96


def _together(found: list[Known]) -> Known:
    """Several readings of one value, each with the weight of its own error."""
    weights = [1.0 / max(one.error, 1e-4) ** 2 for one in found]
    total = sum(weights)
    mean = sum(weight * one.value for weight, one in zip(weights, found, strict=True)) / total
    return Known(mean, math.sqrt(1.0 / total))


# What came of it.


class _Outcomes:
    """The chosen stroke's samples by what became of them."""

    def __init__(self, outlook: Outlook, own: Option, valuing: _Valuing, chosen: float) -> None:
        self.outlook, self.chosen, self.valuing = outlook, chosen, valuing
        self.own = valuing.again(own)
        game = outlook.game
        layout, stroke = game.layout, self.own.stroke
        if stroke.place is not None:
            layout, stroke = layout.placed(CUE, stroke.place), replace(stroke, place=None)
        self.layout = layout
        demand = demand_of(layout, stroke, self.own.ball)
        samples = len(self.own.value.samples)
        tries = tries_of(layout, stroke, outlook.hands[0], samples, valuing.seed, demand)
        self.played: Samples = play_all(layout, start_of(layout), tries.strokes, valuing.threads, lucks=tries.lucks)
        pot = (self.own.ball, self.own.pocket) if self.own.ball and self.own.pocket else None
        self.cases = cases_of(game, self.played, pot)
        self.sorts = np.full(samples, "missed", dtype=object)
        call = (pot[0], POCKETS.index(str(pot[1]))) if pot and game.options.get("call") else None
        self.sorts[judged(game, self.played, call).foul] = "foul"
        if pot:
            column = self.played.names.index(pot[0])
            self.sorts[self.played.fates[:, column] == POCKETS.index(str(pot[1]))] = "made"

    def expected(self, came: CameOf) -> Known:
        """What is left in the mean of what happened."""
        rows = np.flatnonzero(self.sorts == came.outcome)
        samples, mean = self.own.value.samples, self.own.win
        if len(rows):
            found = samples[rows]
            spread = float(np.std(found, ddof=1)) if len(found) > 2 else 0.3 * self._unit
            return Known(self.chosen + float(found.mean()) - mean, spread / math.sqrt(len(found)))
        return Known(self._general(came), 0.1 * self._unit)

    @property
    def _unit(self) -> float:
        return 10.0 if traits_of(self.outlook.game.layout.discipline).goes_on else 1.0

    def _general(self, came: CameOf) -> float:
        """What did not happen once: the turn in general, from a place like any other."""
        state = came.state
        if state.winner is not None:
            return self.value_to_me(state, 0.0)
        standing = self.outlook.quick(self._known(state)).standing
        return self.value_to_me(state, standing.in_hand if state.in_hand is not None else standing.open)

    def _known(self, state: RackState) -> RackState:
        """A state without the balls that this table never had (a re-rack)."""
        known = self.outlook.game.state.balls
        return state if all(ball in known for ball in state.balls) else replace(state, balls=known)

    def value_to_me(self, state: RackState, worth: float) -> float:
        """What a turn's `worth` to the player of `state` is to the player of this entry."""
        game = self.outlook.game
        if state.winner is not None and not self.outlook.scale.points:
            return float(state.winner == game.me)
        value = as_value(game, state, worth)
        return value if state.player == game.me else flipped(game.layout.discipline, value)

    def fortune(self, came: CameOf) -> Known | None:
        """What the other balls did beyond what they usually do, the cue ball being where it stopped; nothing where
        they lie as they were to be expected.
        """
        state = came.state
        if came.balls is None or len(state.balls) > len(self.outlook.game.state.balls):
            return None if came.balls is None and state.winner is None else Known(0.0, 0.0)
        if state.winner is not None or state.in_hand is not None or CUE not in came.balls:
            return Known(0.0, 0.0)
        rows = np.flatnonzero(self.sorts == came.outcome)
        lies = self._displaced(came)
        same = [row for row in rows if not self._apart(int(row), came)]
        if not len(rows) or (not lies and 2 * len(same) >= len(rows)):
            return Known(0.0, 0.0)
        if 2 * len(same) >= len(rows):
            return Known(0.0, 0.0)
        usual = [
            value for row in rows[:: max(1, math.ceil(len(rows) / LOOKS))]
            if (value := self._moved_to(int(row), came)) is not None
        ]  # fmt: skip
        seen = self._looked_at(dict(came.balls), state)
        if len(usual) < 2 or seen is None:
            return Known(0.0, 0.1 * self._unit)
        return Known(seen - float(np.mean(usual)), float(np.std(usual, ddof=1)) / math.sqrt(len(usual)))

    def _displaced(self, came: CameOf) -> bool:
        balls = came.balls or {}
        meant = self.own.ball
        return any(
            ball != meant and ball in balls and math.dist(place, balls[ball]) > MOVED
            for ball, place in self.layout.object_balls.items()
        )

    def _apart(self, row: int, came: CameOf) -> bool:
        """Whether an outcome's object balls lie otherwise than they were seen."""
        balls = came.balls or {}
        for column, ball in enumerate(self.played.names):
            if ball == CUE:
                continue
            stays = self.played.fates[row, column] == -1
            if stays != (ball in balls):
                return True
            if stays and math.dist(tuple(self.played.places[row, column]), balls[ball]) > MOVED:
                return True
        return False

    def _moved_to(self, row: int, came: CameOf) -> float | None:
        """An outcome's value with the cue ball moved to where it stopped."""
        case = next(case for case in self.cases if row in case.rows)
        if case.after.winner is not None or case.after.in_hand is not None:
            return None
        balls = dict(left_by(self.layout, self.played, row, case.after).balls)
        balls[CUE] = (came.balls or {})[CUE]
        return self._looked_at(balls, case.after)

    def _looked_at(self, balls: dict[str, tuple[float, float]], state: RackState) -> float | None:
        layout = Layout(self.layout.table, self.layout.discipline, balls)
        if any(ball not in balls for ball in state.balls) or first_overlap(layout):
            return None
        return self.value_to_me(state, answer_to(layout, state, self.outlook).value)
