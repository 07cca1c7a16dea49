"""Points ahead, as games of points count a choice, told as the chance to win where a frame is at stake."""

from __future__ import annotations

from dataclasses import replace

from aretane.core.planning.choices.value import Value
from aretane.core.planning.outlook.equity import attack_value
from aretane.core.planning.outlook.frame import ahead_at, frame_chance
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.skill.visits import goes_on
from aretane.core.statistics.rates import Rate


def as_win(outlook: Outlook, value: Value) -> Value:
    """In snooker: points ahead as the chance to win the frame."""
    if not _is_frame(outlook):
        return value
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
    state, pots = outlook.game.state, _pots(outlook)
    return frame_chance(state, ahead_at(state, worth, pots) + points, pots)


def within_scale(outlook: Outlook, worth: Rate) -> Rate:
    """A chance is one; points ahead may be any number."""
    if not _is_frame(outlook):
        return worth
    p, low, high = (min(1.0, max(0.0, one or 0.0)) for one in (worth.p, worth.low, worth.high))
    return Rate(p, low, high, worth.n)


def _is_frame(outlook: Outlook) -> bool:
    return traits_of(outlook.game.layout.discipline).counts == FRAMES


def _pots(outlook: Outlook) -> tuple[float, float]:
    mine, theirs = (goes_on(hand, outlook.game.layout.table) for hand in outlook.hands)
    return mine, theirs
