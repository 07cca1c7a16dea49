"""What stands between a player and the run-out: problem balls, clusters with the chances left to open them,
insurance.

A chance to open a cluster is a ball of the plan, played before the cluster's first ball is needed, whose pot can
also drive the cluster apart. It counts as often as pot and opening come off together under the player's hand.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.groups import clusters
from aretane.core.geometry.measured import ProblemBall, measure_table
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Ints
from aretane.core.physics.hit import Met, met_at
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.kinds import FIRM
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.outlook.strength import FREE, freedom
from aretane.core.planning.plans.plan import Plan
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import FINE
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS

TRIED = 16  # pots of a ball that are tried for opening a cluster
SAMPLES = 200
NEXT = 0.5  # the chance of a pot that counts as a next shot
INSURANCE_NEAR = 0.9  # m from the cluster: a ball there can be fallen back on


@dataclass(frozen=True)
class Opening:
    """A ball whose pot can open the cluster as well, the stroke, and how often both come off. `struck`: the ball of
    the cluster that the cue ball meets, and how (None: the potted ball does it); `next`: how often then a pot of
    one in two or better is on.
    """

    ball: str
    stroke: Stroke
    chance: Rate
    struck: str | None
    met: Met | None
    next: Rate


@dataclass(frozen=True)
class Trouble:
    """A cluster: its balls, the first of them that is needed, the chances left to open it and that one of them
    works, and the balls to fall back on beside it.
    """

    balls: tuple[str, ...]
    needed: str
    openings: tuple[Opening, ...]
    any_works: float
    insurance: tuple[str, ...]


@dataclass(frozen=True)
class TableTrouble:
    problem_balls: tuple[ProblemBall, ...]
    clusters: tuple[Trouble, ...]


def trouble_on(outlook: Outlook, plan: Plan, seed: int = 0) -> TableTrouble:
    """Problem balls and clusters that the player of the plan must deal with."""
    layout = outlook.game.layout
    mine = [entry.ball for entry in plan.order]
    measured = measure_table(layout, outlook.game.on(outlook.game.state))
    problems = tuple(problem for problem in measured.problem_balls if problem.ball in mine)
    found = []
    for group in clusters(layout):
        needed = next((ball for ball in mine if ball in group), None)
        if needed is not None:
            found.append(_trouble(outlook, plan, tuple(group), needed, seed))
    return TableTrouble(problems, tuple(found))


def _trouble(outlook: Outlook, plan: Plan, group: tuple[str, ...], needed: str, seed: int) -> Trouble:
    game, layout = outlook.game, outlook.game.layout
    openings: list[Opening] = []
    state = game.state
    for number, entry in enumerate(plan.order):
        if entry.ball in group:
            break
        gone = [ball for ball in layout.object_balls if ball not in state.balls]
        state = game.after_pot(state, entry.ball)
        following = [ball for ball in game.on(state) if ball in state.balls] if state.winner is None else []
        table = layout.without(*gone).placed("cue", entry.place)
        opening = _opening(outlook.hands[0].turn(number), table, entry.ball, group, following, seed)
        if opening is not None:
            openings.append(opening)
    fails = math.prod(1.0 - float(one.chance.p or 0.0) for one in openings)
    centre = np.mean([layout.balls[ball] for ball in group], axis=0)
    returns = traits_of(layout.discipline).returns
    near = tuple(
        entry.ball
        for entry in plan.order
        if entry.ball not in (*group, *returns)
        and math.dist(layout.balls[entry.ball], centre) < INSURANCE_NEAR
        and freedom(layout, entry.ball) >= FREE
    )
    return Trouble(group, needed, tuple(openings), 1.0 - fails, near)


def _opening(
    hand: Hand, layout: Layout, ball: str, group: tuple[str, ...], following: list[str], seed: int
) -> Opening | None:
    """The pot of `ball` from the cue ball's place that opens the cluster most often; None where none does."""
    assert layout.cue is not None
    pots = Ground(layout).pots(ball, np.array([layout.cue]), FINE.strokes)
    if not len(pots):
        return None
    start = start_of(layout)
    rows = np.argsort(-pots.chance(hand))
    strokes = [stroke_of(pots, int(row)) for row in rows]
    played = play_all(layout, start, np.array([[s.aim, s.speed, s.side, s.height, s.elevation] for s in strokes]))
    opens = [i for i in range(len(strokes)) if _moved(layout, played.names, played.places[i], group) > FIRM]
    best = None
    for i in opens[:TRIED]:
        tries = tries_of(layout, strokes[i], hand, SAMPLES, seed, ball=ball)
        drawn = play_all(layout, start, tries.strokes, lucks=tries.lucks)
        fell = drawn.fates[:, drawn.names.index(ball)] == POCKETS.index(POCKETS[int(pots.pocket[rows[i]])])
        good = fell & (drawn.fates[:, 0] == ON_TABLE)
        opened = np.array([_moved(layout, drawn.names, places, group) > FIRM for places in drawn.places])
        works = np.flatnonzero(good & opened)
        if len(works) and (best is None or len(works) > best.chance.n * float(best.chance.p or 0.0)):
            struck, met = _struck(layout, strokes[i], group)
            then = wilson(_goes_on(drawn, works, layout, following, hand.turn(1)), len(works))
            best = Opening(ball, strokes[i], wilson(len(works), SAMPLES), struck, met, then)
    return best


def _struck(layout: Layout, stroke: Stroke, group: tuple[str, ...]) -> tuple[str | None, Met | None]:
    """The ball of the cluster that the cue ball meets first, played without an error."""
    shot = simulate(layout, stroke)
    for event in shot.events:
        other = next((ball for ball in event.balls if ball in group), None)
        if event.kind == "contact" and other is not None:
            return (other, met_at(layout, shot, event.t, other)) if CUE in event.balls else (None, None)
    return None, None


def _goes_on(drawn: Samples, rows: Ints, layout: Layout, following: list[str], hand: Hand) -> int:
    """In how many of these samples the cue ball stops where a following ball goes one time in two."""
    best = np.zeros(len(rows))
    places = np.where((drawn.fates[rows] == ON_TABLE)[:, :, None], drawn.places[rows], np.nan)
    for ball in following:
        at = drawn.names.index(ball)
        others = np.delete(places, [0, at], axis=1)
        best = np.fmax(best, quick_pot(layout.table, places[:, 0], places[:, at], others, hand))
    return int((best >= NEXT).sum())


def _moved(layout: Layout, names: tuple[str, ...], places: np.ndarray, group: tuple[str, ...]) -> float:
    """How far the cluster's balls were driven apart: the most that any of them moved."""
    return max(math.dist(layout.balls[ball], places[names.index(ball)]) for ball in group)
