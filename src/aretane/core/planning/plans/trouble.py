"""What stands between a player and the run-out: problem balls, clusters with the chances left to open them,
insurance.

A chance to open a cluster is a ball of the plan, played before the cluster's first ball is needed, whose pot can
also drive the cluster apart. It counts as often as pot and opening come off together under the player's hand.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from aretane.core.geometry.groups import clusters
from aretane.core.geometry.measured import ProblemBall, measure_table
from aretane.core.layout import Layout
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.kinds import FIRM
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.strength import FREE, freedom
from aretane.core.planning.plans.plan import Plan
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import FINE
from aretane.core.rules.traits import traits_of
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS

TRIED = 16  # pots of a ball that are tried for opening a cluster
SAMPLES = 200
INSURANCE_NEAR = 0.9  # m from the cluster: a ball there can be fallen back on


@dataclass(frozen=True)
class Opening:
    """A ball whose pot can open the cluster as well, the stroke, and how often both come off."""

    ball: str
    stroke: Stroke
    chance: Rate


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
    layout = outlook.game.layout
    openings: list[Opening] = []
    gone: list[str] = []
    for entry in plan.order:
        if entry.ball in group:
            break
        table = layout.without(*gone).placed("cue", entry.place)
        opening = _opening(outlook, table, entry.ball, group, seed)
        if opening is not None:
            openings.append(opening)
        gone += [] if entry.ball in traits_of(layout.discipline).returns else [entry.ball]
    fails = math.prod(1.0 - float(one.chance.p or 0.0) for one in openings)
    centre = np.mean([layout.balls[ball] for ball in group], axis=0)
    near = tuple(
        entry.ball
        for entry in plan.order
        if entry.ball not in group
        and math.dist(layout.balls[entry.ball], centre) < INSURANCE_NEAR
        and freedom(layout, entry.ball) >= FREE
    )
    return Trouble(group, needed, tuple(openings), 1.0 - fails, near)


def _opening(outlook: Outlook, layout: Layout, ball: str, group: tuple[str, ...], seed: int) -> Opening | None:
    """The pot of `ball` from the cue ball's place that opens the cluster most often; None where none does."""
    assert layout.cue is not None
    hand = outlook.hands[0]
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
        works = sum(
            bool(ok) and _moved(layout, drawn.names, places, group) > FIRM
            for ok, places in zip(good, drawn.places, strict=True)
        )
        rate = wilson(works, SAMPLES)
        if works and (best is None or works > best.chance.n * float(best.chance.p or 0.0)):
            best = Opening(ball, strokes[i], rate)
    return best


def _moved(layout: Layout, names: tuple[str, ...], places: np.ndarray, group: tuple[str, ...]) -> float:
    """How far the cluster's balls were driven apart: the most that any of them moved."""
    return max(math.dist(layout.balls[ball], places[names.index(ball)]) for ball in group)
