"""A rate never stands alone: it carries its sample size and its 95 % interval."""

from __future__ import annotations

import math
from collections.abc import Sequence
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


def mean_interval(values: Sequence[float]) -> Mean:
    n = len(values)
    if n == 0:
        return Mean(None, None, None, 0)
    mean = math.fsum(values) / n
    if n == 1:
        return Mean(mean, None, None, 1)
    deviation = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (n - 1))
    half = student_t95(n - 1) * deviation / math.sqrt(n)
    return Mean(mean, mean - half, mean + half, n)


def student_t95(freedom: int) -> float:
    """Two-sided 95 % quantile of Student's t."""
    from scipy.special import stdtrit  # SciPy takes long to load, and only this function needs it

    return float(stdtrit(freedom, 0.975))
