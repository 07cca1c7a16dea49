"""What to practise: what a failure costs, how much practice can change, how often it comes up.

Of each family of strokes: how often a rack it comes up, what lies between its coming off and its failing in points
of win chance (by the ledger, so the hands and the moments of these very strokes are in it), and how much more of
it could come off. That last is assumed: up to the share that a league hand makes of the same pots, or a quarter
of what fails, whichever is more; of decisions half of what they cost (common practice of coaches: knowing is
quick, the arm is slow).
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from aretane.core.statistics.rates import Z95, Rate, wilson

OF_FAILURES = 0.25  # that practice turns into successes (assumed)
OF_DECISIONS = 0.5  # of their cost that looking at them saves (assumed)
FEWEST = 5  # strokes of either sort that tell what lies between them (the interval says how little)
DECISIONS, POTS = "decisions", ("long pots", "thin cuts", "pots")

# What each asks to be practised (common practice of coaches).
PRACTISE = {
    "long pots": "straight and nearly straight balls over more than five diamonds, ten at a time, counted",
    "thin cuts": "cuts of forty degrees and more into one pocket, from both sides",
    "pots": "the pots of this match from their set-up cards, until eight of ten fall",
    "position": "stopping in a hand's breadth: the same pot with a target, softer and firmer than it wants to go",
    "safeties": "hiding the white behind a ball from a metre away, and where it leaves the other ball",
    DECISIONS: "naming the best choice and its chance before each shot of the rack, then looking them up",
    "break": "the break from one spot, counting balls, dry ones and where the white comes to rest",
}


@dataclass(frozen=True)
class Sort:
    """Strokes of one family that came off, or that failed (`good`; None: neither, a decision): how many, the sum
    and the sum of squares of what the ledger booked for them, and of `known` ones what a league hand makes.
    """

    family: str
    good: bool | None
    n: int
    total: float
    squares: float
    likely: float = 0.0
    known: int = 0


@dataclass(frozen=True)
class Gain:
    """What practising a family may bring, in racks won for each rack played: `gain` with its standard error.
    `often` a rack; `rate` of success and the share `could` that is aimed at (None of decisions); `swing`: between
    success and failure.
    """

    family: str
    words: str
    n: int
    often: float
    rate: Rate | None
    could: float | None
    swing: float
    gain: float
    error: float


def gains(sorts: Iterable[Sort], racks: int) -> list[Gain]:
    """The families that would bring most first, without those that bring nothing or of which little is known."""
    families: dict[str, list[Sort]] = {}
    for one in sorts:
        families.setdefault(one.family, []).append(one)
    found = [_gain(family, own, racks) for family, own in families.items() if racks > 0]
    return sorted((one for one in found if one is not None and one.gain > 0.0), key=lambda one: -one.gain)


def _gain(family: str, own: list[Sort], racks: int) -> Gain | None:
    n = sum(one.n for one in own)
    often = n / racks
    if family == DECISIONS:
        if n < FEWEST:
            return None
        total, spread = sum(one.total for one in own), math.sqrt(sum(one.squares for one in own))
        return Gain(
            family, PRACTISE[family], n, often, None, None, total / n, -OF_DECISIONS * total / racks,
            OF_DECISIONS * spread / racks,
        )  # fmt: skip
    good, bad = (_of(own, sort) for sort in (True, False))
    if good is None or bad is None or min(good.n, bad.n) < FEWEST:
        return None
    swing = good.total / good.n - bad.total / bad.n
    spread = math.sqrt(_squared_error(good) + _squared_error(bad))
    share = good.n / n
    known = good.known + bad.known if family in POTS else 0
    league = (good.likely + bad.likely) / known if 2 * known > n else 0.0
    could = max(league, share + OF_FAILURES * (1.0 - share))
    gap, off = could - share, math.sqrt(share * (1.0 - share) / n)
    return Gain(
        family, PRACTISE[family], n, often, wilson(good.n, n), could, swing, often * gap * swing,
        often * math.hypot(gap * spread, off * swing),
    )  # fmt: skip


def _of(own: list[Sort], good: bool) -> Sort | None:
    return next((one for one in own if one.good is good), None)


def _squared_error(one: Sort) -> float:
    mean = one.total / one.n
    return max(0.0, one.squares / one.n - mean * mean) / max(1, one.n - 1)


def interval(one: Gain) -> tuple[float, float]:
    return one.gain - Z95 * one.error, one.gain + Z95 * one.error
