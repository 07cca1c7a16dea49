"""What it costs to begin with another ball: for every ball that may be played now, the best order
that begins with it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from aretane.core.layout import Layout
from aretane.core.planning.choices.value import best_of
from aretane.core.planning.outlook.answer import follow_run
from aretane.core.planning.outlook.one_place import Best
from aretane.core.planning.outlook.outlook import Outlook, best_places
from aretane.core.planning.outlook.rollout import best_now
from aretane.core.planning.pots.strokes import Effort
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import RackState
from aretane.core.rules.traits import traits_of
from aretane.core.statistics.rates import Rate
from aretane.core.words import ball_words

ALIKE = 1.96  # standard errors of the difference, within which two orders are equal
TINY = 1e-3


@dataclass(frozen=True)
class Instead:
    """`ball` first, in `pocket`: `value` of the order as in an entry of the plan, `cost` against the best first
    ball with the `error` (half a 95 % interval) of the difference, `equal` where that is no more than the error,
    and what it costs by.
    """

    ball: str
    pocket: str
    value: Rate
    cost: float
    error: float
    equal: bool
    why: str


@dataclass(frozen=True)
class Group:
    """On an open table: a group to take, the ball that it is best begun with, the chances to run out and to win."""

    group: str
    ball: str
    run: Rate
    win: float


@dataclass(frozen=True)
class _First:
    best: Best
    value: Rate
    top: float  # of what is left, wherever the cue ball comes to lie


def instead_of(
    outlook: Outlook, layout: Layout, state: RackState, effort: Effort, seed: int,
    value: Callable[[Best], Rate],
) -> list[Instead]:  # fmt: skip
    """Every ball that can be potted first, the best order leading; `value` as for the plan. Nothing where the order
    is given.
    """
    firsts = []
    for ball in outlook.game.on(state):
        found = (
            best_now(outlook, layout, state, outlook.hands[0], effort, seed, [ball]) if ball in layout.balls else []
        )
        if found:
            firsts.append(_First(found[0], value(found[0]), _top(outlook, state, ball)))
    firsts.sort(key=lambda one: -(one.value.p or 0.0))
    return [_beside(outlook, state, firsts[0], one) for one in firsts] if len(firsts) > 1 else []


def _beside(outlook: Outlook, state: RackState, best: _First, one: _First) -> Instead:
    cost = (best.value.p or 0.0) - (one.value.p or 0.0)
    error = math.hypot(best.value.high - best.value.low, one.value.high - one.value.low) / 2
    equal = one is not best and cost <= error
    why = "" if one is best else _why(outlook, state, best, one)
    return Instead(one.best.ball, one.best.pocket, one.value, cost, 0.0 if one is best else error, equal, why)


def _top(outlook: Outlook, state: RackState, ball: str) -> float:
    """What is left once a ball has gone, from the best places."""
    return best_places(follow_run(outlook, state, ball))


def _why(outlook: Outlook, state: RackState, best: _First, one: _First) -> str:
    """By what an order is worse than the best: the pot itself, what is left then, or where the cue
    ball comes to.
    """

    def parts(first: _First) -> tuple[float, float, float]:
        pot, top = max(first.best.pot, TINY), max(first.top, TINY)
        return pot, top, max((first.value.p or 0.0) / pot / top, TINY)

    lost = [math.log(a / b) for a, b in zip(parts(best), parts(one), strict=True)]
    worst = int(np.argmax(lost))
    mine, other = ball_words(one.best.ball), ball_words(best.best.ball)
    if worst == 0:
        return f"the {mine} goes in {one.best.pot:.0%}, the {other} {best.best.pot:.0%}".replace("%", " %")
    if worst == 1:
        trouble = _trouble(outlook, state, one.best.ball)
        named = f": the {ball_words(trouble)} becomes the trouble" if trouble else ""
        return f"what is left after the {mine} is harder to clear than after the {other}{named}"
    return f"from the {mine} the cue ball comes to a worse place for what is left"


def _trouble(outlook: Outlook, state: RackState, ball: str) -> str | None:
    """The ball without which what is left would be worth most more; None where the values know no such table."""
    after = outlook.game.after_pot(state, ball)
    if after.winner is not None or after.player != state.player:
        return None
    others = [one for one in outlook.game.on(after) if one in outlook.game.layout.balls]
    if len(others) < 2:
        return None
    return max(others, key=lambda one: best_of(outlook.quick(outlook.game.after_pot(after, one))))


def groups_of(outlook: Outlook, layout: Layout, state: RackState, firsts: Sequence[Instead]) -> list[Group]:
    """Both groups, the better first; nothing unless the table is open."""
    if state.group[state.player] is not None:
        return []
    found = []
    for group in traits_of(layout.discipline).groups:
        own = [one for one in firsts if group_of(layout.discipline, one.ball) == group]
        if own:
            run = own[0].value
            found.append(Group(group, own[0].ball, run, outlook.win_with(group, run.p or 0.0, state)))
    return sorted(found, key=lambda one: -one.win)
