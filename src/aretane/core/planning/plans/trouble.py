"""What stands between a player and the run-out: problem balls, clusters with the chances left to open them,
insurance, and single balls that can be nudged.

A chance to open a cluster is a ball of the plan, played before the cluster's first ball is needed, whose pot can
also drive the cluster apart. It counts as often as pot and opening come off together under the player's hand.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.groups import clusters
from aretane.core.geometry.measured import ProblemBall, measure_table
from aretane.core.layout import Layout
from aretane.core.physics.hit import Met
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.kinds import FIRM
from aretane.core.planning.orders.break_ball import BreakMap, break_map
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.strength import FREE, freedom
from aretane.core.planning.plans.nudges import Nudge, nudges_on
from aretane.core.planning.plans.on_the_way import (
    Moment,
    goes_on,
    made,
    moments,
    played_plain,
    pots_from,
    struck_in,
    tried,
)
from aretane.core.planning.plans.plan import Plan
from aretane.core.rules.traits import traits_of
from aretane.core.statistics.rates import Rate, wilson

TRIED = 16  # pots of a ball that are tried for opening a cluster
SAMPLES = 200
BREAKS = 2  # balls beside a cluster of which the secondary break shot is played
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
    works, and the balls to fall back on beside it. `breaks`: from where the nearest balls that are played before it
    open it, the secondary break shots; in straight pool only.
    """

    balls: tuple[str, ...]
    needed: str
    openings: tuple[Opening, ...]
    any_works: float
    insurance: tuple[str, ...]
    breaks: tuple[BreakMap, ...] = ()


@dataclass(frozen=True)
class TableTrouble:
    problem_balls: tuple[ProblemBall, ...]
    clusters: tuple[Trouble, ...]
    nudges: tuple[Nudge, ...]


def trouble_on(
    outlook: Outlook, plan: Plan, seed: int = 0, threads: int = 1, *, closely: bool = True
) -> TableTrouble:
    """Problem balls and clusters that the player of the plan must deal with; looked at `closely` with the nudges
    and secondary break shots that help.
    """
    layout = outlook.game.layout
    mine = [entry.ball for entry in plan.order]
    measured = measure_table(layout, outlook.game.on(outlook.game.state))
    problems = tuple(problem for problem in measured.problem_balls if problem.ball in mine)
    found = []
    for group in clusters(layout):
        needed = next((ball for ball in mine if ball in group), None)
        if needed is not None:
            one = _trouble(outlook, plan, tuple(group), needed, seed)
            found.append(replace(one, breaks=_breaks(outlook, plan, one, seed, threads)) if closely else one)
    return TableTrouble(problems, tuple(found), nudges_on(outlook, plan, seed) if closely else ())


def _trouble(outlook: Outlook, plan: Plan, group: tuple[str, ...], needed: str, seed: int) -> Trouble:
    layout = outlook.game.layout
    tries = [_opening(moment, group, seed) for moment in moments(outlook, plan, group)]
    openings = tuple(one for one in tries if one is not None)
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
    return Trouble(group, needed, openings, 1.0 - fails, near)


def _breaks(outlook: Outlook, plan: Plan, trouble: Trouble, seed: int, threads: int) -> tuple[BreakMap, ...]:
    """The secondary break shots of the balls beside a cluster that are played before it."""
    layout, group = outlook.game.layout, trouble.balls
    if not traits_of(layout.discipline).goes_on:
        return ()

    def away(ball: str) -> float:
        return min(math.dist(layout.balls[ball], layout.balls[one]) for one in group)

    near = [moment for moment in moments(outlook, plan, group) if moment.ball in trouble.insurance]
    return tuple(
        break_map(moment.table.without(CUE), moment.ball, moment.hand, seed, threads, into=group)
        for moment in sorted(near, key=lambda one: away(one.ball))[:BREAKS]
    )


def _opening(moment: Moment, group: tuple[str, ...], seed: int) -> Opening | None:
    """The pot from the cue ball's place that opens the cluster most often; None where none does."""
    pots = pots_from(moment)
    if not pots:
        return None
    table, plain = moment.table, played_plain(moment, pots)
    opens = [at for at in range(len(pots)) if _moved(table, plain.names, plain.places[at], group) > FIRM]
    best = None
    for at in opens[:TRIED]:
        drawn = tried(moment, pots[at], SAMPLES, seed)
        opened = [_moved(table, drawn.names, drawn.places[row], group) > FIRM for row in range(SAMPLES)]
        works = np.array([row for row in made(drawn, moment, pots[at]) if opened[row]], dtype=np.int64)
        if len(works) and (best is None or len(works) > best.chance.n * float(best.chance.p or 0.0)):
            struck, met = struck_in(table, pots[at][0], group)
            then = wilson(goes_on(drawn, works, moment), len(works))
            best = Opening(moment.ball, pots[at][0], wilson(len(works), SAMPLES), struck, met, then)
    return best


def _moved(layout: Layout, names: tuple[str, ...], places: np.ndarray, group: tuple[str, ...]) -> float:
    """How far the cluster's balls were driven apart: the most that any of them moved."""
    return max(math.dist(layout.balls[ball], places[names.index(ball)]) for ball in group)
