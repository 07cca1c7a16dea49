"""Single balls moved into better places on the way: a ball that hardly goes, touched by the cue ball of an earlier
pot so that it goes well, where that risks nothing.

Nothing is risked where the pot that nudges goes about as often as the surest pot of the same ball, and leaves a
next shot about as often (common practice: neither the pot nor its position is given up for it).
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.groups import clusters
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.physics.hit import Met
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import Samples
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.kinds import FIRM
from aretane.core.planning.outlook.outlook import Outlook, usual_of
from aretane.core.planning.outlook.quick import quick_pot
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
from aretane.core.planning.pots.grid import Grid
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import Point, Table

LOOKED_AT = 3  # balls that go worst
TRIED = 4  # pots of a ball that are tried for a nudge
SURE = 3  # of the pots that look surest the one that goes most often is the surest
SAMPLES = 120
HARD = 0.8  # a ball that goes less often than that from where its player usually is
BETTER = 0.1  # by so much more often must it go then
POT_RISKED, NEXT_RISKED = 0.04, 0.10  # by so much less often may the pot go, and leave a next shot
WORTH = 0.25  # how often the pot and the better place must come off together
PLACES = 19, 10  # of the cue ball


@dataclass(frozen=True)
class Nudge:
    """`moved` can be moved into a better place by the pot of `ball`: the `stroke`, how often both come off
    (`chance`), how often it pots and the surest stroke of that ball does (`pot`, `surest`), how often then a pot of
    one in two or better is on (`next`), and how the cue ball meets it (None: the potted ball does). `goes`: how
    often `moved` goes at its turn, from where its player usually is, untouched and once it was nudged.
    """

    moved: str
    ball: str
    stroke: Stroke
    goes: tuple[float, float]
    chance: Rate
    pot: Rate
    surest: Rate
    next: Rate
    met: Met | None


@dataclass(frozen=True)
class _Hard:
    """A ball that hardly goes at its turn, when the balls `gone` have been played; who plays it, from `places`."""

    ball: str
    gone: tuple[str, ...]
    hand: Hand
    places: Floats
    goes: float

    def then(self, table: Layout, played: Samples, row: int) -> float:
        """How often it goes at its turn after a stroke; 0 where it has fallen."""
        left = {
            name: (float(x), float(y))
            for name, (x, y), fate in zip(played.names, played.places[row], played.fates[row], strict=True)
            if fate == ON_TABLE and name != CUE and name not in self.gone
        }
        return _goes(table.table, left, self.ball, self.hand, self.places) if self.ball in left else 0.0


def nudges_on(outlook: Outlook, plan: Plan, seed: int = 0) -> tuple[Nudge, ...]:
    """The best nudge of each ball of the plan that hardly goes and lies in no cluster, if one risks nothing."""
    found = [_best(outlook, plan, hard, seed) for hard in _hard(outlook, plan)]
    return tuple(nudge for nudge in found if nudge is not None)


def _hard(outlook: Outlook, plan: Plan) -> list[_Hard]:
    layout = outlook.game.layout
    places = Grid(layout.table, *PLACES).places
    spared = {ball for cluster in clusters(layout) for ball in cluster} | {
        *traits_of(layout.discipline).returns,
        plan.break_ball,
    }
    order, found = [entry.ball for entry in plan.order], []
    for at, ball in enumerate(order):
        if ball not in spared and ball in layout.balls:
            hand, left = outlook.hands[0].turn(at), layout.without(*order[:at]).object_balls
            found.append(
                _Hard(ball, tuple(order[:at]), hand, places, _goes(layout.table, left, ball, hand, places))
            )
    return sorted((one for one in found if one.goes < HARD), key=lambda one: one.goes)[:LOOKED_AT]


def _goes(table: Table, balls: Mapping[str, Point], ball: str, hand: Hand, places: Floats) -> float:
    """How often a ball goes from where its player usually leaves himself."""
    count = len(places)
    others = np.array([place for name, place in balls.items() if name != ball]).reshape(1, -1, 2)
    at = np.broadcast_to(np.array(balls[ball]), (count, 2))
    return usual_of(quick_pot(table, places, at, np.repeat(others, count, axis=0), hand))


def _best(outlook: Outlook, plan: Plan, hard: _Hard, seed: int) -> Nudge | None:
    nudges = [nudge for moment in moments(outlook, plan, (hard.ball,)) for nudge in _at(moment, hard, seed)]
    return max(nudges, key=lambda nudge: (nudge.chance.p or 0.0) * (nudge.goes[1] - nudge.goes[0]), default=None)


def _at(moment: Moment, hard: _Hard, seed: int) -> list[Nudge]:
    """The nudges at one ball of the plan."""
    ways = pots_from(moment)
    if not ways:
        return []
    table, plain, better = moment.table, played_plain(moment, ways), hard.goes + BETTER
    nudging = [
        number
        for number in range(len(ways))
        if _shifted(table, plain, number, hard.ball) > FIRM and hard.then(table, plain, number) > better
    ]
    if not nudging:
        return []
    surely = [(way, tried(moment, way, SAMPLES, seed)) for way in ways[:SURE]]
    surest, sure = max(((drawn, made(drawn, moment, way)) for way, drawn in surely), key=lambda one: len(one[1]))
    follows = goes_on(surest, sure, moment) / max(len(sure), 1)
    found = []
    for number in nudging[:TRIED]:
        drawn = tried(moment, ways[number], SAMPLES, seed)
        fell = made(drawn, moment, ways[number])
        on = goes_on(drawn, fell, moment)
        if len(fell) < len(sure) - POT_RISKED * SAMPLES or on < (follows - NEXT_RISKED) * len(fell):
            continue
        goes = np.array([hard.then(table, drawn, row) for row in fell])
        works = goes > better
        if works.sum() >= WORTH * SAMPLES:
            found.append(
                Nudge(
                    hard.ball, moment.ball, ways[number][0], (hard.goes, float(goes[works].mean())),
                    wilson(int(works.sum()), SAMPLES), wilson(len(fell), SAMPLES), wilson(len(sure), SAMPLES),
                    wilson(on, len(fell)), struck_in(table, ways[number][0], (hard.ball,))[1],
                )
            )  # fmt: skip
    return found


def _shifted(table: Layout, played: Samples, row: int, ball: str) -> float:
    column = played.names.index(ball)
    stays = played.fates[row, column] == ON_TABLE
    return math.dist(table.balls[ball], played.places[row, column]) if stays else 0.0
