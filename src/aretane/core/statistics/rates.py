"""A rate never stands alone: it carries its sample size and its 95 % interval."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

Z95 = 1.959963984540054


@dataclass(frozen=True)
class Rate:
    """`p` successes out of `n` tries with the Wilson interval `low` to `high`; p is None without a try."""

    p: float | None
    low: float
    high: float
    n: int


def wilson(successes: int, tries: int) -> Rate:
    """Wilson score interval (Wilson 1927, Journal of the American Statistical Association 22, 209)."""
    return rate_of(successes / tries, tries) if tries else Rate(None, 0.0, 1.0, 0)


def rate_of(p: float, n: int) -> Rate:
    """A rate that need not be a count, with the Wilson interval of as many tries."""
    z2 = Z95 * Z95
    centre = (p + z2 / (2 * n)) / (1 + z2 / n)
    half = Z95 * math.sqrt(p * (1 - p) / n + z2 / (4 * n * n)) / (1 + z2 / n)
    low = 0.0 if p == 0 else max(0.0, centre - half)
    high = 1.0 if p == 1 else min(1.0, centre + half)
    return Rate(p, low, high, n)


@dataclass(frozen=True)
class Mean:
    """Mean of `n` values with the 95 % interval of Student's t; no interval below two values."""

    mean: float | None
    low: float | None
    high: float | None
    n: int


@dataclass(frozen=True)
class Sums:
    """Of `n` values and of their squares: enough for their mean and its interval."""

    n: int
    total: float
    squares: float


def mean_interval(values: Sequence[float]) -> Mean:
    return mean_of([Sums(len(values), math.fsum(values), math.fsum(value * value for value in values))])


def mean_of(sums: Iterable[Sums]) -> Mean:
    """The mean of all the values behind some sums."""
    parts = list(sums)
    n = sum(part.n for part in parts)
    if n == 0:
        return Mean(None, None, None, 0)
    mean = math.fsum(part.total for part in parts) / n
    if n == 1:
        return Mean(mean, None, None, 1)
    variance = max(0.0, math.fsum(part.squares for part in parts) - n * mean * mean) / (n - 1)
    half = student_t95(n - 1) * math.sqrt(variance / n)
    return Mean(mean, mean - half, mean + half, n)


def student_t95(freedom: float) -> float:
    """Two-sided 95 % quantile of Student's t."""
    from scipy.special import stdtrit  # SciPy takes long to load, and only this function needs it

    return float(stdtrit(freedom, 0.975))
