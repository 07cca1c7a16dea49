"""Success over time as a smooth curve: each day the days around it, the nearer the more."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from aretane.core.statistics.rates import Rate, rate_of

POINTS = 48
LEAST_BREADTH, SHARE = 7.0, 0.12  # days: the kernel's standard deviation, and its share of the whole time


@dataclass(frozen=True)
class Day:
    """Tries of one day; `day` counts days from any begin."""

    day: int
    n: int
    good: int


def curve(days: Sequence[Day]) -> list[tuple[float, Rate]]:
    """Points of the curve, day and rate with its 95 % band: a Gaussian kernel's mean (Nadaraya and Watson, 1964),
    its band the Wilson interval of as many tries as the weights are worth (Kish's effective number). Of one day
    its one point.
    """
    told = [one for one in days if one.n]
    if not told:
        return []
    if len({one.day for one in told}) == 1:
        tries, good = (float(sum(getattr(one, name) for one in told)) for name in ("n", "good"))
        return [(float(told[0].day), rate_of(good / tries, round(tries)))]
    first, last = min(one.day for one in told), max(one.day for one in told)
    breadth = max(LEAST_BREADTH, SHARE * (last - first))
    found = []
    for at in range(POINTS):
        day = first + (last - first) * at / (POINTS - 1)
        weights = [math.exp(-0.5 * ((one.day - day) / breadth) ** 2) for one in told]
        tries = sum(weight * one.n for weight, one in zip(weights, told, strict=True))
        good = sum(weight * one.good for weight, one in zip(weights, told, strict=True))
        squares = sum(weight * weight * one.n for weight, one in zip(weights, told, strict=True))
        found.append((day, rate_of(good / tries, max(1, round(tries * tries / squares)))))
    return found
