"""What a stroke is worth: played many times with the hand's errors, ruled on, and what is left then valued."""

from __future__ import annotations

import math
from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, State
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER, Floats, Ints
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.search import judged
from aretane.core.planning.outlook.answer import Answer, answer_to
from aretane.core.planning.outlook.outlook import Game, Outlook, Turn, best_places
from aretane.core.planning.outlook.strength import promise
from aretane.core.rules.game import RackState, Seen
from aretane.core.rules.spotting import spotted
from aretane.core.rules.traits import traits_of
from aretane.core.skill.effort import Demand
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, rate_of, wilson
from aretane.core.table import POCKETS

STILL = 0.005  # m: a ball moved less has not moved
LIKELY_POT = 0.5  # what counts as a pot left to the opponent
ACCEPTABLE = 0.6  # of the best that the next ball's map has: the edge of the acceptable zone


@dataclass(frozen=True)
class Leaves:
    """What the opponent is left when he comes to the table: how often hidden, and means over what was looked at."""

    hidden: Rate
    pot: float
    distance: float
    kick: float


@dataclass(frozen=True)
class Value:
    """A stroke's worth to its player. `win`: chance to win the rack (points: by how much he will be ahead), with
    the 95 % interval of its samples; `after_pot`, `after_miss`: the same, given that. `run`: what he will run,
    `landing` where the cue ball stopped; `samples` the worth of each sample, in the order of the seed;
    `played`: how many racks were played on to their end for it (0: what follows is taken from maps).
    """

    pot: Rate
    position: Rate
    foul: Rate
    win: Rate
    opponent_next: Rate
    after_pot: float | None
    after_miss: float | None
    run: float
    leaves: Leaves | None
    landing: Floats
    samples: Floats
    played: int = 0


@dataclass
class Case:
    """Samples that the rules treat alike, and the state that they lead to."""

    rows: Ints
    after: RackState
    points: float

    @property
    def scored(self) -> float:
        """What the player himself scored: points given away by a foul are not part of his run."""
        return max(0.0, self.points)


def value_of(
    outlook: Outlook, layout: Layout, stroke: Stroke, demand: Demand, samples: int, seed: int = 0,
    called: tuple[str, str] | None = None, looks: int = 40, threads: int = 1, hand: Hand | None = None,
) -> Value:  # fmt: skip
    """The worth of an aimed `stroke` from `layout` for the player to shoot.

    `hand`: how it is struck, if not by the player's own. Leaves of moved balls are looked at one by one, at most
    `looks` of each case; the others count their mean.
    """
    game = outlook.game
    tries = tries_of(layout, stroke, hand or outlook.hands[0], samples, seed, demand)
    played = play_all(layout, start_of(layout), tries.strokes, threads, lucks=tries.lucks)
    call = (called[0], POCKETS.index(called[1])) if called and game.options.get("call") else None
    outcome = judged(game, played, call)
    worth, run = np.zeros(samples), np.zeros(samples)
    good = np.zeros(samples, dtype=bool)
    answers: list[tuple[Answer, float]] = []
    exposed, spread = 0.0, 0.0
    for case in cases_of(game, played, called):
        rows = case.rows
        mine = case.after.player == game.me
        if case.after.winner is not None:
            won = case.after.winner == game.me
            worth[rows] = case.points if outlook.scale.points else float(won)
            run[rows] = case.scored if outlook.scale.points else float(won)
            good[rows] = won
            continue
        if case.after.in_hand is not None and not mine:
            turn = outlook.quick(case.after)
            tied = _tied(outlook, layout, played, rows, case.after, turn, looks) if 2 * len(rows) > samples else 0.0
            worth[rows] = outlook.scale.flip(turn.standing.in_hand + tied) + case.points
            exposed += len(rows)
            continue
        if mine and not _moved(layout, played, rows, outlook.game.on(case.after)).any():
            turn = outlook.turn(case.after)
            places = played.places[rows, 0]
            gained = _promised(outlook, layout, played, rows, case.after, turn)
            worth[rows] = turn.at(places) + gained + case.points
            run[rows] = turn.grid.at(turn.run, places) + case.scored
            good[rows] = turn.grid.at(turn.run, places) >= ACCEPTABLE * best_of(turn)
            continue
        few = min(looks, max(1, math.ceil(2 * looks * len(rows) / samples)))
        looked = rows[:: math.ceil(len(rows) / few)]
        found = _answers(outlook, layout, played, looked, case.after)
        values = _spread(rows, looked, [answer.value for answer in found])
        spread += _unlooked(len(rows) / samples, [answer.value for answer in found], len(rows))
        worth[rows] = (values if mine else outlook.scale.flip(values)) + case.points
        run[rows] = case.scored
        if mine:
            turn = outlook.quick(case.after)
            further = _spread(rows, looked, [answer.run for answer in found])
            run[rows] += further
            good[rows] = further >= ACCEPTABLE * best_of(turn)
        else:
            weight = len(rows) / len(found)
            answers += [(answer, weight) for answer in found]
            exposed += weight * sum(answer.pot >= LIKELY_POT for answer in found)
    if game.alone:
        worth, answers, exposed, spread = run, [], 0.0, 0.0
    pot = outcome.pot | outcome.won
    stayed = played.fates[:, 0] == -1
    return Value(
        pot=wilson(int(pot.sum()), samples),
        position=wilson(int((good & pot).sum()), int(pot.sum())),
        foul=wilson(int(outcome.foul.sum()), samples),
        win=mean_rate(worth, outlook.scale.points, spread),
        opponent_next=rate_of(exposed / samples, samples),
        after_pot=float(worth[pot].mean()) if pot.any() else None,
        after_miss=float(worth[~pot].mean()) if not pot.all() else None,
        run=float(run.mean()),
        leaves=_leaves(answers),
        landing=played.places[stayed, 0],
        samples=worth,
    )


def _spread(rows: Ints, looked: Ints, values: list[float]) -> Floats:
    """The values of the looked-at samples, their mean for the others."""
    every = np.full(len(rows), float(np.mean(values)))
    every[np.searchsorted(rows, looked)] = values
    return every


def best_of(turn: Turn) -> float:
    """The best run-out chance that the map has: the mean over its best fiftieth."""
    return best_places(turn.run)


def _unlooked(share: float, values: list[float], count: int) -> float:
    """Variance that the mean of a case, `share` of all samples, still has because only some were looked at."""
    if len(values) < 2 or len(values) == count:
        return 0.0
    return share * share * float(np.var(values, ddof=1)) / len(values)


def mean_rate(values: Floats, points: bool, more: float = 0.0) -> Rate:
    """A mean with the 95 % interval of its sampling error; `more` is variance that the values do not show. Where
    every sample is won or lost outright it is a count.
    """
    n = len(values)
    mean = float(values.mean())
    if not points and more == 0.0 and np.isin(values, (0.0, 1.0)).all():
        return wilson(int(values.sum()), n)
    half = 1.96 * math.sqrt(float(values.var(ddof=1)) / n + more) if n > 1 else 0.0
    if points:
        return Rate(mean, mean - half, mean + half, n)
    return Rate(mean, max(0.0, mean - half), min(1.0, mean + half), n)


def cases_of(game: Game, played: Samples, called: tuple[str, str] | None = None) -> list[Case]:
    """The samples by what the rules see of them, each ruled on once by the referee's own book."""
    points = traits_of(game.layout.discipline).points
    rails = np.bitwise_count(played.results[:, R_RAILS_AFTER])
    groups: dict[tuple[tuple[int, ...], int, bool], list[int]] = defaultdict(list)
    for row in range(len(played.durations)):
        key = tuple(played.fates[row].tolist()), int(played.results[row, R_FIRST]), bool(rails[row] > 0)
        groups[key].append(row)
    cases = []
    for (fates, first, rail), rows in groups.items():
        fallen = [(n, f) for n, f in zip(played.names, fates, strict=True) if 0 <= f < 6]
        shot = Seen(
            player=game.me,
            first_contact=played.names[first] if first > 0 else None,
            rails=4 if rail else 0,
            potted=tuple(name for name, _ in fallen if name != CUE),
            pockets={name: POCKETS[fate] for name, fate in fallen},
            scratch=any(name == CUE for name, _ in fallen),
            off_table=tuple(n for n, f in zip(played.names, fates, strict=True) if f == 6),
            called=called,
        )
        after = game.after(game.state, shot)
        cases.append(Case(np.array(rows), after, game.scored(game.state, after) if points else 0.0))
    return cases


def _moved(layout: Layout, played: Samples, rows: Ints, on: tuple[str, ...]) -> Ints:
    """In which samples a ball that is on next was moved."""
    moved = np.zeros(len(rows), dtype=bool)
    for ball in on:
        if ball in played.names:
            at = played.places[rows, played.names.index(ball)]
            moved |= np.hypot(*(at - np.array(layout.balls[ball])).T) > STILL
    return moved


def left_by(layout: Layout, played: Samples, row: int, after: RackState) -> Layout:
    """The layout that one sample leaves, what comes back on its spot."""
    stays = played.fates[row] == -1
    places = zip(played.names, played.places[row].tolist(), stays, strict=True)
    left = {name: (x, y) for name, (x, y), there in places if there}
    back = [name for name in played.names if name in after.balls and name not in left]
    balls = spotted(layout.table, layout.discipline, left, back)
    return Layout(layout.table, layout.discipline, balls, State(ball_in_hand="anywhere"))


def _answers(outlook: Outlook, layout: Layout, played: Samples, rows: Ints, after: RackState) -> list[Answer]:
    """In one thread: it is mostly Python, of which several threads are slower."""
    return [answer_to(left_by(layout, played, int(row), after), after, outlook) for row in rows]


def _promised(
    outlook: Outlook, layout: Layout, played: Samples, rows: Ints, after: RackState, turn: Turn
) -> Floats:
    """What it adds that other balls were moved: an opened cluster, or a ball driven into a worse place."""
    left = [ball for ball in after.balls if ball in played.names]
    columns = [played.names.index(ball) for ball in left]
    before = np.array([layout.balls[ball] for ball in left])
    moved = np.hypot(*np.moveaxis(played.places[rows][:, columns] - before, 2, 0)) > 0.02
    gained = np.zeros(len(rows))
    if not moved.any():
        return gained
    usual = outlook.usual(turn.player, after)
    old = promise(layout, after, usual, outlook)
    lever = outlook.lever(after)
    for i in np.flatnonzero(moved.any(axis=1)):
        new = promise(left_by(layout, played, int(rows[i]), after), after, usual, outlook)
        gained[i] = lever * (new - old)
    return gained


def _tied(
    outlook: Outlook, layout: Layout, played: Samples, rows: Ints, after: RackState, turn: Turn, looks: int
) -> Floats:
    """What it adds to the other's ball in hand that balls lie differently: of what mostly is a foul it may be why
    it is played.
    """
    looked = rows[:: math.ceil(len(rows) / looks)]
    return _spread(rows, looked, list(_promised(outlook, layout, played, looked, after, turn)))


def _leaves(answers: list[tuple[Answer, float]]) -> Leaves | None:
    if not answers:
        return None
    weights = np.array([weight for _, weight in answers])
    weights = weights / weights.sum()

    def mean(name: str) -> float:
        return float(sum(w * getattr(answer, name) for (answer, _), w in zip(answers, weights, strict=True)))

    hidden = float(sum(w * (answer.seen <= 0.02) for (answer, _), w in zip(answers, weights, strict=True)))
    kicks = [answer.kick for answer, _ in answers if answer.seen <= 0.02]
    return Leaves(
        rate_of(hidden, len(answers)), mean("pot"), mean("distance"), float(np.mean(kicks)) if kicks else 1.0
    )
