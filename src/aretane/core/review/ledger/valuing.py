"""The second set of samples, the same for whatever is valued on it: so a choice costs nothing in the mean where two
are worth the same. Where racks can be played on to their end, maps and played racks are put together, each with the
weight of its own uncertainty.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.planning.choices.option import ATTACK, Option
from aretane.core.planning.choices.options import Task, valued
from aretane.core.planning.choices.played import PLAYED_SEED, racks_from
from aretane.core.planning.choices.search import Idea
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.pots.strokes import COARSE, GLANCE, Effort
from aretane.core.review.ledger.juncture import PUSH_OUT
from aretane.core.review.ledger.worth import Known, as_value
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand

# How far a map's value is from what racks played on come to, standard deviations (measured: docs/method.md): of a
# turn's value, and of the difference between two choices of one sort or of two.
MAP_OFF = {True: 0.06, False: 0.15}  # in rotation, with groups
ALIKE, UNLIKE = 0.03, 0.10
AT_ONCE = 100  # racks, before it is asked whether a value is known well enough


@dataclass(frozen=True)
class Care:
    """How well values are known: the search's effort, samples of a value, racks played on to pick the best and to
    value it, at most and until its standard error is `error`, and break shots.
    """

    name: str
    effort: Effort
    samples: int
    picked: int
    racks: int
    breaks: int
    error: float = 0.0


FIRST_LOOK = Care("glance", GLANCE, 60, 8, 16, 6)
QUICK_LOOK = Care("coarse", GLANCE, 120, 16, 40, 14)
SETTLED = Care("settled", COARSE, 500, 70, 1000, 48, error=0.018)
CARES = {care.name: care for care in (FIRST_LOOK, QUICK_LOOK, SETTLED)}


class Valuing:
    """The second set of samples, the same for whatever is valued on it."""

    def __init__(self, outlook: Outlook, care: Care, seed: int, threads: int) -> None:
        self.outlook, self.care, self.seed, self.threads = outlook, care, seed, threads
        self.effort = replace(care.effort, samples=care.samples)
        game = outlook.game
        self.lead = (
            as_value(game, game.state, 0.0, outlook.hands) if traits_of(game.layout.discipline).goes_on else 0.0
        )
        self._again: dict[int, Option] = {}
        self._racks: dict[int, Known] = {}

    def option(self, task: Task) -> Option:
        """A stroke of somebody's own, valued on this set."""
        own = self._valued(task, self.seed)
        self._again[id(own)] = own
        return own

    def again(self, one: Option) -> Option:
        """An option that was found on the first set, valued on this one."""
        if id(one) not in self._again:
            push = one.intent == PUSH_OUT
            self._again[id(one)] = one if push else self._valued(self._task(one), self.seed)
        return self._again[id(one)]

    def by_hand(self, one: Option, hand: Hand) -> tuple[Option, int]:
        """An option as another hand would play it, and the seed of its samples."""
        return self._valued(self._task(one), self.seed + 1, hand), self.seed + 1

    def _task(self, one: Option) -> Task:
        layout = self.outlook.game.layout
        if one.stroke.place is not None:
            layout = layout.placed(CUE, one.stroke.place)
        return Task(layout, Idea(replace(one.stroke, place=None), one.ball, one.pocket))

    def _valued(self, task: Task, seed: int, hand: Hand | None = None) -> Option:
        return valued(self.outlook, task, self.effort, seed, self.threads, hand=hand)

    def value(self, one: Option) -> Known:
        by_map, racks = self.again(one), self._played(one)
        spread = float(np.std(by_map.value.samples, ddof=1)) / math.sqrt(len(by_map.value.samples))
        off = MAP_OFF[traits_of(self.outlook.game.layout.discipline).rotation] if racks else 0.0
        value = together([Known(by_map.win, math.hypot(spread, off)), *([racks] if racks else [])])
        game = self.outlook.game
        straight = traits_of(game.layout.discipline).goes_on
        return Known(
            as_value(game, game.state, value.value, self.outlook.hands) if straight else value.value, value.error
        )

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
        return together(found)

    def _played(self, one: Option) -> Known | None:
        if not self.outlook.plays_on or one.intent == PUSH_OUT:
            return None
        if id(one) not in self._racks:
            self._racks[id(one)] = self._until_known(one)
        return self._racks[id(one)]

    def _until_known(self, one: Option) -> Known:
        """So many racks at a time until the share that is won is known well enough: one near even takes most."""
        most, won, played = self.care.racks, 0.0, 0
        while played < most:
            piece = slice(played, min(played + AT_ONCE, most))
            rate = racks_from(self.outlook, one, most, self.seed + PLAYED_SEED, self.threads, piece)
            won, played = won + rate.n * (rate.p or 0.0), played + rate.n
            known = played_share(won, played)
            if known.error <= self.care.error:
                break
        return known


def played_share(won: float, played: int) -> Known:
    """The share of racks that were won, with an error also where all were."""
    share = (won + 1.0) / (played + 2.0)
    return Known(won / played, math.sqrt(share * (1.0 - share) / played))


def _half(one: Option) -> float:
    return (one.value.win.high - one.value.win.low) / 2 / 1.96


def together(found: list[Known]) -> Known:
    """Several readings of one value, each with the weight of its own error."""
    weights = [1.0 / max(one.error, 1e-4) ** 2 for one in found]
    total = sum(weights)
    mean = sum(weight * one.value for weight, one in zip(weights, found, strict=True)) / total
    return Known(mean, math.sqrt(1.0 / total))
