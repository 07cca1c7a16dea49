"""Questions to figures: what is measured, what it is told apart by, and the answer with its uncertainty."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from aretane.core.statistics.curve import Day, curve
from aretane.core.statistics.fair import Difference, Mix, apart, fairly, means_apart
from aretane.core.statistics.measures import DAY, ESTIMATES, NOTHING, ORDER, RATE, SHARE, Measure
from aretane.core.statistics.rates import Mean, Rate, Sums, mean_of, wilson
from aretane.core.statistics.streaks import SIGNED

MOST_OF = 0.9  # of the strokes have an expectation, else it is not held against what happened


@dataclass(frozen=True)
class Row:
    """Strokes that have `key` and `series` in common, and a chance (`likely`, per cent; None: not known) where it
    is asked for: `n`, of them `good`; of a mean the sum and the sum of squares. `expected`: the sum of the chances
    that somebody gave `expecting` of them.
    """

    key: str | None
    series: int
    n: int
    good: int = 0
    total: float = 0.0
    squares: float = 0.0
    likely: int | None = None
    expected: float = 0.0
    expecting: int = 0


@dataclass(frozen=True)
class Asked:
    """A question: what, told apart by what, of which strokes. `player` against `versus`, or before a day against
    from it on (`parted`). `where`: what further the strokes have in common, by column. Days as 2026-11-28.
    """

    measure: str
    by: str = NOTHING
    player: int | None = None
    versus: int | None = None
    parted: str | None = None
    since: str | None = None
    until: str | None = None
    where: Mapping[str, Any] = field(default_factory=dict)

    @property
    def series(self) -> int:
        return 2 if self.versus is not None or self.parted is not None else 1


@dataclass(frozen=True)
class Count:
    """From a sheet of paper: so many `good` of `n` of a measure, on one day of one player."""

    player: str
    opponent: str | None
    day: str
    discipline: str
    session: str
    measure: str
    n: int
    good: int


@dataclass(frozen=True)
class Group:
    """One field of the answer: by series what was measured, and what was expected of it."""

    key: str | None
    values: tuple[Rate | Mean, ...]
    expected: tuple[float | None, ...]


@dataclass(frozen=True)
class Answer:
    """`groups` in their order; `whole`: all of them together, by series; `difference` of the first series and the
    second; `curves` by series where days were asked for. `left_out`: strokes of which the key is not known.
    """

    groups: tuple[Group, ...]
    whole: tuple[Rate | Mean, ...]
    expected: tuple[float | None, ...]
    difference: Difference | None
    curves: tuple[list[tuple[float, Rate]], ...]
    left_out: int


def answer(measure: Measure, by: str, rows: Sequence[Row], series: int = 1) -> Answer:
    """What the rows come to."""
    keys = sorted({row.key for row in rows if row.key is not None}, key=_in_order)
    told = [row for row in rows if row.key is not None]
    own = {key: [row for row in told if row.key == key] for key in keys}
    every = [sum(row.n for row in told if row.series == at) for at in range(series)]
    groups = tuple(
        Group(key, _by_series(measure, own[key], series, every), _expected(own[key], series)) for key in keys
    )
    whole = _by_series(measure, told, series, every)
    difference = _difference(measure, told, whole) if series == 2 and measure.kind != SHARE else None
    curves = tuple(_curve(told, at) for at in range(series)) if by == DAY and measure.kind == RATE else ()
    out = sum(row.n for row in rows if row.key is None)
    return Answer(groups, whole, _expected(told, series), difference, curves, out)


def _by_series(measure: Measure, rows: Sequence[Row], series: int, every: Sequence[int]) -> tuple[Rate | Mean, ...]:
    """By series what the rows come to; a share is one of `every` stroke of its series."""
    found = [[row for row in rows if row.series == at] for at in range(series)]
    if measure.kind == SHARE:
        return tuple(wilson(sum(row.n for row in own), every[at]) for at, own in enumerate(found))
    return tuple(_value(measure, own) for own in found)


def _expected(rows: Sequence[Row], series: int) -> tuple[float | None, ...]:
    """What was expected in the mean, where somebody had a word for all the strokes."""
    found: list[float | None] = []
    for at in range(series):
        own = [row for row in rows if row.series == at]
        n, told = sum(row.n for row in own), sum(row.expecting for row in own)
        found.append(sum(row.expected for row in own) / told if told and told >= MOST_OF * n else None)
    return tuple(found)


def _value(measure: Measure, rows: Sequence[Row]) -> Rate | Mean:
    if measure.kind == RATE:
        return wilson(sum(row.good for row in rows), sum(row.n for row in rows))
    return mean_of(Sums(row.n, row.total, row.squares) for row in rows)


def _difference(measure: Measure, rows: Sequence[Row], whole: Sequence[Rate | Mean]) -> Difference | None:
    if measure.fair:
        known = [[r for r in rows if r.series == at and r.likely is not None] for at in (0, 1)]
        fair = fairly(*(_mix(one) for one in known))
        if fair is not None:
            return fair
    one, other = whole
    if isinstance(one, Rate) and isinstance(other, Rate):
        return apart(one, other)
    assert isinstance(one, Mean)
    assert isinstance(other, Mean)
    return means_apart(one, other)


def _mix(rows: Sequence[Row]) -> Mix:
    return Mix(
        np.array([(row.likely or 0) / 100.0 for row in rows]),
        np.array([float(row.n) for row in rows]),
        np.array([float(row.good) for row in rows]),
    )


def _curve(rows: Sequence[Row], series: int) -> list[tuple[float, Rate]]:
    days: dict[int, list[Row]] = {}
    for row in rows:
        if row.series == series:
            days.setdefault(int(row.key or 0), []).append(row)
    return curve([Day(day, sum(r.n for r in own), sum(r.good for r in own)) for day, own in sorted(days.items())])


def _in_order(key: str) -> tuple[int, float, str]:
    """Numbers by their size, words in the trade's order, the rest by the alphabet."""
    try:
        return 0, float(key), ""
    except ValueError:
        return 1, float(ORDER.get(key, 50)), key


def said(measure: Measure, by: str, names: Mapping[int, str], found: Answer) -> str:
    """The whole answer in a sentence, with what it does not tell."""
    parts = [f"{names[at]}: {told(measure, value)}" for at, value in enumerate(found.whole)]
    if found.expected[0] is not None and len(parts) == 1:
        parts.append(f"{_percent(found.expected[0])} % expected ({expects(measure, by)})")
    gap = found.difference
    begin = "; ".join(parts)
    begin = begin[0].upper() + begin[1:]
    if gap is None:
        return f"{begin}."
    interval = f"({_size(measure, gap.low)} to {_size(measure, gap.high)})"
    shots = ", on the same shots" if gap.adjusted else ""
    verdict = f"A difference of {_size(measure, gap.difference)}{shots} {interval}"
    if gap.more != 0:
        tries = f"about {gap.more} more {measure.of} of each would tell" if gap.more else "no season would tell it"
        verdict = f"{verdict} may be chance; {tries}"
    return f"{begin}. {verdict}."


def expects(measure: Measure, by: str) -> str:
    """By whose word what happened is held against: of a chance that pots are told apart by, that chance."""
    if measure.name != "pots" or by not in ESTIMATES[1:]:
        return measure.expects
    return "what was felt" if by == "felt" else "what was computed for the player"


def told(measure: Measure, value: Rate | Mean) -> str:
    """A value in words, with its interval and what it is of."""
    if measure.kind == SHARE:
        return f"{value.n} {measure.of}"
    if isinstance(value, Rate):
        if value.p is None:
            return f"no {measure.of}"
        interval = f"{_percent(value.low)} to {_percent(value.high)}"
        return f"{_percent(value.p)} % {measure.what} ({interval}, {value.n} {measure.of})"
    if value.mean is None:
        return f"no {measure.of}"
    interval = f"{_plain(measure, value.low)} to {_plain(measure, value.high)}, " if value.low is not None else ""
    return f"{_plain(measure, value.mean)} {measure.what} ({interval}{value.n} {measure.of})"


def _percent(share: float) -> str:
    return f"{100 * share:.0f}"


def _size(measure: Measure, value: float | None) -> str:
    if value is None:
        return "–"
    if measure.kind == RATE or measure.unit == "points":
        return f"{100 * value:+.1f} points".replace("-", "−")
    if measure.unit == "m":
        return f"{100 * value:+.1f} cm".replace("-", "−")
    return f"{value:.1f} {measure.unit}"


def _plain(measure: Measure, value: float | None) -> str:
    """Of a length that has no direction nobody says plus."""
    words = _size(measure, value)
    return words.removeprefix("+") if measure.unit == "m" and measure.name not in SIGNED else words
