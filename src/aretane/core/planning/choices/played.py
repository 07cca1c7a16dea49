"""Options' values held against racks played on to their end (in games of points: visits, see `visited.py`).

A map takes the balls that are left to stay where they are. Where racks can be played on to their end, the best
attack and the best safety are played on with both players' hands, and what comes out is their value; the other
choices of the same sort rest on the same maps, are off by the same amount, and are moved with them.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.parameters import physics_of
from aretane.core.physics.compiled import Floats
from aretane.core.physics.start import start_of
from aretane.core.planning.choices.option import ATTACK, SAFE, Option
from aretane.core.planning.choices.plain import plain_first
from aretane.core.planning.choices.visited import scored_on
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.turn_kernel import (
    CHOICE,
    T_AIM,
    T_BALL,
    T_ELEVATION,
    T_HEIGHT,
    T_PACE,
    T_POCKET,
    T_SIDE,
    T_SPEED,
    T_WIDER,
)  # fmt: skip
from aretane.core.skill.demand import demand_of
from aretane.core.skill.effort import spread_of
from aretane.core.statistics.rates import Rate
from aretane.core.table import POCKETS

PLAYED_SEED = 2000  # racks are played on with other errors than the maps were made with
MOST_LEADERS = 4  # choices that are played on because they would stand first
BEHIND = 0.15  # a sort whose best choice is so much worse by the maps is not played on
UNLIKE = (
    0.03  # standard deviation of how differently two choices of one sort are off (measured: see docs/method.md)
)


def played_on(outlook: Outlook, found: Sequence[Option], rate_of: Callable[[Option], Rate]) -> list[Option]:
    """The options with values from racks played on for the best of either sort; `rate_of` plays them, as
    `racks_from` or `visits_of` does, and is asked once for each that it is worth."""
    if not outlook.plays_on:
        return scored_on(outlook, found, rate_of)
    moved, played = {id(option): option for option in found}, set[int]()
    top = max((option.win for option in found), default=0.0)
    for sort in (ATTACK, SAFE):
        same = [option for option in found if option.intent in sort]
        best = max((one for one in same if _plays(outlook, one)), key=lambda one: one.win, default=None)
        if best is None or best.win < top - BEHIND:
            continue
        rate = rate_of(best)
        off = float(rate.p or 0.0) - best.win
        spread = _spread(rate)
        played.add(id(best))
        for option in same:
            own = 0.0 if option is best else math.hypot(UNLIKE, _spread(option.value.win))
            itself = rate.n if option is best else 0
            moved[id(option)] = _moved(option, off, math.hypot(spread, own), itself)
    for _ in range(MOST_LEADERS):  # one whose map flattered it gives way to the next
        leading = _leading(list(moved.values()))
        key = next(
            (key for key, one in moved.items() if leading is not None and one.stroke is leading.stroke), None
        )
        if leading is None or key is None or key in played or not _plays(outlook, leading):
            break
        rate = rate_of(leading)
        moved[key] = _moved(moved[key], float(rate.p or 0.0) - leading.win, _spread(rate), rate.n)
        played.add(key)
    return [moved[id(option)] for option in found]


def _leading(options: Sequence[Option]) -> Option | None:
    """The choice that will stand first: its value is the table's, and is played on itself."""
    return next(iter(plain_first(options)), None)


def _plays(outlook: Outlook, option: Option) -> bool:
    """Whether the quick rules of a rack played on tell this stroke's outcome: in a call game only of a ball on."""
    return not outlook.game.options.get("call") or option.ball in (None, *outlook.game.on(outlook.game.state))


def racks_from(
    outlook: Outlook, option: Option, times: int, seed: int, threads: int = 1, piece: slice = slice(None)
) -> Rate:
    """How often the player wins out of `times` racks that begin with this option, or of a `piece` of them."""
    layout, stroke = outlook.game.layout, option.stroke
    if stroke.place is not None:
        layout = layout.placed(CUE, stroke.place)
    racks = outlook.racks(layout)
    assert racks is not None
    return racks.wins_of(times, seed, threads, first=_choice(outlook, option), piece=piece)


def _choice(outlook: Outlook, option: Option) -> Floats:
    """The option's stroke in the columns of the kernel."""
    hand, stroke, layout = outlook.hands[0], option.stroke, outlook.game.layout
    if stroke.place is not None:
        layout = layout.placed(CUE, stroke.place)
    demand = replace(demand_of(layout, stroke, option.ball), reach=option.reach.wider)
    end_mass = physics_of(layout.table).end_mass_ratio
    spread = spread_of(hand, stroke.speed, stroke.side, stroke.height, stroke.elevation, demand, end_mass)
    row = np.zeros(CHOICE)
    row[[T_AIM, T_SPEED, T_SIDE, T_HEIGHT, T_ELEVATION]] = (
        stroke.aim or 0.0, stroke.speed, stroke.side, stroke.height, stroke.elevation,
    )  # fmt: skip
    row[T_WIDER], row[T_PACE] = spread.aim / max(hand.aim, 1e-9), spread.speed / max(hand.speed, 1e-9)
    row[T_BALL] = start_of(layout).names.index(option.ball) if option.ball else 0
    row[T_POCKET] = POCKETS.index(option.pocket) if option.pocket else -1.0
    return row


def _spread(rate: Rate) -> float:
    return (rate.high - rate.low) / 2 / 1.96


def _moved(option: Option, off: float, spread: float, times: int) -> Option:
    """The option with its value moved by `off`; what follows the pot and the miss moves as much. `times` racks
    were played on from this very stroke.
    """

    def by(value: float | None) -> float | None:
        return None if value is None else min(1.0, max(0.0, value + off))

    win, half = float(by(option.win) or 0.0), 1.96 * spread
    value = option.value
    return replace(
        option,
        value=replace(
            value,
            win=Rate(win, max(0.0, win - half), min(1.0, win + half), value.win.n),
            after_pot=by(value.after_pot),
            after_miss=by(value.after_miss),
            played=times,
        ),
    )
