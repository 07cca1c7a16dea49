"""Fair comparison: the same shots for both, the difference with its interval, and whether it is one at all.

Two players never have the same shots. Of each try the chance of a league hand is known (`likely`); a player is
then by how much his log odds are shifted from it, the same for hard and easy shots: logistic regression with an
offset and one parameter (Cox, The Analysis of Binary Data, 1970). Both shifts are read off on the shots of both.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from aretane.core.statistics.rates import Z95, Mean, Rate, student_t95

Floats = NDArray[np.float64]

STEPS = 60  # of Newton's method, which needs about six
LOOSE = 9.0  # variance of what is known of a shift beforehand: enough that nobody who made all is at infinity
NEVER = 20_000  # tries more than which nobody plays to tell a difference


@dataclass(frozen=True)
class Mix:
    """Tries by their chance: `likely` (k, 0 to 1), tries `n` and `made` of each (k)."""

    likely: Floats
    n: Floats
    made: Floats

    @property
    def odds(self) -> Floats:
        """Log odds of the league hand's chance, kept off 0 and 1."""
        p = np.clip(self.likely, 0.005, 0.995)
        return np.asarray(np.log(p / (1.0 - p)))


@dataclass(frozen=True)
class Difference:
    """The one's figure less the other's with its 95 % interval; `chance` that it is one in that direction at all;
    `more` tries of each that would tell it if it is as large as it looks (0: it is told; None: nobody plays so
    many). `adjusted`: on the same shots; `one` and `other` are then their rates on these.
    """

    difference: float
    low: float
    high: float
    chance: float
    more: int | None
    adjusted: bool
    one: float | None = None
    other: float | None = None


def shift_of(mix: Mix) -> tuple[float, float]:
    """By how much a player's log odds are above the league hand's, and the standard error."""
    shift = 0.0
    for _ in range(STEPS):
        p = _chance(mix.odds + shift)
        slope = float(np.sum(mix.made - mix.n * p)) - shift / LOOSE
        bend = float(np.sum(mix.n * p * (1.0 - p))) + 1.0 / LOOSE
        step = float(np.clip(slope / bend, -1.0, 1.0))
        shift += step
        if abs(step) < 1e-10:
            break
    return shift, 1.0 / math.sqrt(bend)


def fairly(one: Mix, other: Mix) -> Difference | None:
    """How far two are apart on the shots of both; None where one of them has no try."""
    n = one.n.sum(), other.n.sum()
    if not all(n):
        return None
    (first, error), (second, other_error) = shift_of(one), shift_of(other)
    odds = np.concatenate([one.odds, other.odds])
    # Each mix counts half, however many tries it has: nobody's shots are the measure.
    weights = np.concatenate([one.n / n[0], other.n / n[1]]) / 2.0
    middle, apart, spread = (first + second) / 2.0, first - second, math.hypot(error, other_error)

    def rate(shift: float) -> float:
        return float(np.sum(weights * _chance(odds + shift)))

    def between(gap: float) -> float:
        return rate(middle + gap / 2.0) - rate(middle - gap / 2.0)

    low, high = between(apart - Z95 * spread), between(apart + Z95 * spread)
    more = more_tries(apart, spread, min(n))
    return Difference(between(apart), low, high, sure(apart, spread), more, True, rate(first), rate(second))


def apart(one: Rate, other: Rate) -> Difference | None:
    """Two rates as they are: Newcombe's interval from both Wilson ones (Statistics in Medicine 17, 1998, 873)."""
    if one.p is None or other.p is None:
        return None
    gap = one.p - other.p
    low = gap - math.hypot(one.p - one.low, other.high - other.p)
    high = gap + math.hypot(one.high - one.p, other.p - other.low)
    pooled = (one.p * one.n + other.p * other.n) / (one.n + other.n)
    spread = math.sqrt(max(pooled * (1 - pooled), 1e-9) * (1 / one.n + 1 / other.n))
    more = 0 if low > 0 or high < 0 else more_tries(gap, spread, min(one.n, other.n))
    return Difference(gap, low, high, sure(gap, spread), more, False, one.p, other.p)


def means_apart(one: Mean, other: Mean) -> Difference | None:
    """Two means: Welch's interval (Biometrika 34, 1947, 28), read from their own."""
    if one.mean is None or other.mean is None or one.high is None or other.high is None:
        return None
    parts = [(mean.high - mean.mean) / student_t95(mean.n - 1) for mean in (one, other)]  # type: ignore[operator]
    spread = math.hypot(*parts)
    if spread == 0.0:
        return None
    freedom = spread**4 / sum(part**4 / (mean.n - 1) for part, mean in zip(parts, (one, other), strict=True))
    gap, half = one.mean - other.mean, student_t95(freedom) * spread
    more = 0 if abs(gap) > half else more_tries(gap, spread, min(one.n, other.n))
    return Difference(gap, gap - half, gap + half, sure(gap, spread), more, False, one.mean, other.mean)


def sure(gap: float, spread: float) -> float:
    """The chance that a difference has the sign that it shows, if nothing is known of it beforehand."""
    return 0.5 * (1.0 + math.erf(abs(gap) / spread / math.sqrt(2.0)))


def more_tries(gap: float, spread: float, n: float) -> int | None:
    """Tries beyond `n` of each until the interval leaves zero out: it shrinks with the root of their number."""
    times = (Z95 * spread / max(abs(gap), 1e-9)) ** 2
    more = math.ceil(n * (times - 1.0))
    return 0 if more <= 0 else more if more <= NEVER else None


def _chance(odds: Floats) -> Floats:
    return np.asarray(1.0 / (1.0 + np.exp(-odds)))
