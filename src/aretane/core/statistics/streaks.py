"""Streaks of one sign: does a player stop long, then long again, more than chance would have it?

Wald and Wolfowitz, On a test whether two samples are from the same population (Annals of Mathematical
Statistics 11, 1940): the number of runs of one sign among n signs in order, in its normal approximation.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from aretane.core.statistics.rates import Mean

SIGNED = {"along": ("long", "short"), "across": ("left", "right")}  # what either sign is
ONE_IN_TWENTY = 0.05
MANY = 30  # stops of others that tell whether it is the table (common practice)
FEWEST = 10  # of each sign: below that the approximation is none (common practice)


@dataclass(frozen=True)
class Streaks:
    """Of `n` signs in order: `longest` streak of one, `positive` or not; `runs` of one sign, `expected` of so many
    by chance, and the chance `p` of as few (one-sided; None: too few signs to tell).
    """

    n: int
    longest: int
    positive: bool
    runs: int
    expected: float
    p: float | None


def streaks(groups: Sequence[Sequence[float]]) -> Streaks | None:
    """Of values in order, in groups (a day, a table) over which no streak goes on; zeros have no sign. None
    without a sign.
    """
    signs = [[value > 0 for value in group if value != 0] for group in groups]
    spans = [(sign, len(list(own))) for group in signs for sign, own in groupby(group)]
    if not spans:
        return None
    positive, longest = max(spans, key=lambda span: span[1])
    runs = expected = variance = 0.0
    for group in signs:
        if not group:
            continue
        n, more = len(group), sum(group)
        less = n - more
        product = 2.0 * more * less
        runs += len(list(groupby(group)))
        expected += product / n + 1.0
        variance += product * (product - n) / (n * n * (n - 1)) if n > 1 else 0.0
    more = sum(sum(group) for group in signs)
    n = sum(len(group) for group in signs)
    told = min(more, n - more) >= FEWEST and variance > 0.0
    p = 0.5 * math.erfc((expected - runs) / math.sqrt(2.0 * variance)) if told else None
    return Streaks(n, longest, positive, int(runs), expected, p)


def streak_words(found: Streaks, signs: tuple[str, str]) -> str:
    """What to say of them."""
    which = f"{found.n} stops, the newest that were {signs[0]} or {signs[1]},"
    longest = f"Of {which} at most {found.longest} in a row were {signs[0] if found.positive else signs[1]}"
    if found.p is None:
        return f"{longest}; fewer than {FEWEST} of one sign tell nothing of streaks."
    runs = f"{found.runs} runs of one sign, {found.expected:.0f} by chance"
    if found.p < ONE_IN_TWENTY:
        p = f"{found.p:.3f}" if found.p >= 0.001 else "< 0.001"
        return f"{longest}; {runs}: misses of one sign follow each other (p {p})."
    return f"{longest}; {runs}: no more streaks than chance makes (p {found.p:.2f})."


def may_be_pace(own: Mean, measure: str) -> bool:
    """Whether it is to be asked if what one player does is the table's pace: he stops long, or short."""
    return measure == "along" and _is_told(own)


def pace_words(own: Mean, others: Mean) -> list[str]:
    """Whether it is: the others in the same matches do it too, or do not."""
    if own.mean is None or others.mean is None or others.low is None:
        return []
    beside = f"The others in these matches: {100 * others.mean:+.1f} cm ({100 * others.low:+.1f} to "
    beside += f"{100 * (others.high or 0.0):+.1f}, {others.n} stops): "
    beside = beside.replace("-", "−")
    if _is_told(others) and (others.mean > 0) == (own.mean > 0):
        return [f"{beside}the table's pace as much as the player's."]
    return [
        f"{beside}{'the player, not the table.' if others.n >= MANY else 'too few to tell player and table apart.'}"
    ]


def _is_told(value: Mean) -> bool:
    return value.low is not None and value.high is not None and (value.low > 0.0 or value.high < 0.0)
