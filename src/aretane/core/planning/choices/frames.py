"""Points ahead, as games of points count a choice, told as the chance to win where a frame is at stake."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from aretane.core.planning.choices.value import Value
from aretane.core.planning.outlook.equity import attack_value
from aretane.core.planning.outlook.frame import (
    MISSED,
    SAFE,
    USUAL_COLOUR,
    ahead_at,
    foul_of,
    frame_chance,
    left_in,
    turn_chances,
)
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.rules.game import opponent
from aretane.core.rules.snooker import snookers_required
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.skill.visits import goes_on
from aretane.core.statistics.rates import Rate


def as_win(outlook: Outlook, value: Value, ball: str | None) -> Value:
    """In snooker: points ahead as the chance to win the frame. `ball` is meant, or none."""
    if not _is_frame(outlook):
        return value
    if needs_snookers(outlook):
        return _by_fouls(outlook, value, ball)
    state, pots = outlook.game.state, _pots(outlook)

    def chance(ahead: float | None) -> float | None:
        return None if ahead is None else frame_chance(state, ahead, pots)

    win, pot = value.win, value.pot.p
    assert win.p is not None
    low, mid, high = (frame_chance(state, ahead, pots) for ahead in (win.low, win.p, win.high))
    made, missed = chance(value.after_pot), chance(value.after_miss)
    if pot is not None and made is not None and missed is not None:  # so that win is still made of what follows
        mixed = attack_value(pot, made, missed)
        low, mid, high = max(0.0, mixed - (mid - low)), mixed, min(1.0, mixed + (high - mid))
    slope = (high - low) / (win.high - win.low) if win.high > win.low else 0.0
    samples = mid + slope * (value.samples - win.p)
    return replace(value, win=Rate(mid, low, high, win.n), after_pot=made, after_miss=missed, samples=samples)


def with_points(outlook: Outlook, worth: float, points: float) -> float:
    """A choice's worth once it brings so many points more: as many more ahead, or a better chance of the frame."""
    if not _is_frame(outlook):
        return worth + points
    if needs_snookers(outlook):  # what decides is no points of the player's own
        return worth
    state, pots = outlook.game.state, _pots(outlook)
    return frame_chance(state, ahead_at(state, worth, pots) + points, pots)


def needs_snookers(outlook: Outlook) -> bool:
    state = outlook.game.state
    return _is_frame(outlook) and snookers_required(state, state.player) > 0


def _by_fouls(outlook: Outlook, value: Value, ball: str | None) -> Value:
    """The chance of the frame for who cannot win by potting alone: what keeps balls on the table and hides the next
    one is worth most. A hidden player fouls as often as his kick fails.
    """
    game, pots = outlook.game, _pots(outlook)
    state = game.state
    lead = int(state.points[state.player] - state.points[opponent(state.player)])
    left = left_in(state)
    stays = (left[0], left[1], False)  # after a miss a red is on again
    foul = foul_of(stays)
    theirs = turn_chances(stays, lead, pots, SAFE if ball is None else MISSED)[1]
    drawn, given = turn_chances(stays, lead + foul, pots)[0], turn_chances(stays, lead - foul, pots)[1]
    pot, fouls = float(value.pot.p or 0.0), float(value.foul.p or 0.0)
    made = None
    if ball is not None and pot > 0.0:
        made = _after_potting(outlook, ball, lead, pots)
    hides = value.leaves.hidden if value.leaves is not None else Rate(0.0, 0.0, 0.0, 0)
    fails = 1.0 - value.leaves.kick if value.leaves is not None else 0.0
    missed = max(0.0, 1.0 - pot - fouls)

    def chance(hidden: float) -> float:
        caught = hidden * fails
        return pot * (made or 0.0) + fouls * given + missed * (caught * drawn + (1.0 - caught) * theirs)

    low, mid, high = (chance(one or 0.0) for one in (hides.low, hides.p, hides.high))
    after_miss = (mid - pot * (made or 0.0)) / (1.0 - pot) if pot < 1.0 else None
    return replace(
        value, win=Rate(mid, low, high, value.win.n), after_pot=made, after_miss=after_miss,
        samples=np.full_like(value.samples, mid),
    )  # fmt: skip


def _after_potting(outlook: Outlook, ball: str, lead: int, pots: tuple[float, float]) -> float:
    """The chance of the frame after this ball alone was made; of a red with a usual colour to follow."""
    game, state = outlook.game, outlook.game.state
    after = game.after_pot(state, ball)
    if after.winner is not None:
        return float(after.winner == state.player)
    reds, colours, on_colour = left_in(after)
    gained = int(game.scored(state, after)) + (USUAL_COLOUR if on_colour else 0)
    return turn_chances((reds, colours, False), lead + gained, pots)[0]


def within_scale(outlook: Outlook, worth: Rate) -> Rate:
    """A chance is one; points ahead may be any number."""
    if not _is_frame(outlook):
        return worth
    p, low, high = (min(1.0, max(0.0, one or 0.0)) for one in (worth.p, worth.low, worth.high))
    return Rate(p, low, high, worth.n)


def _is_frame(outlook: Outlook) -> bool:
    return traits_of(outlook.game.layout.discipline).counts == FRAMES and not outlook.game.alone


def _pots(outlook: Outlook) -> tuple[float, float]:
    mine, theirs = (goes_on(hand, outlook.game.layout.table) for hand in outlook.hands)
    return mine, theirs
