"""What breaks bring: balls, dry and scratch rates, whether the next ball can be seen, racks won."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from aretane.core.statistics.rates import Mean, Rate, Sums, mean_of, wilson


@dataclass(frozen=True)
class BreakTally:
    """`n` breaks that have all of this in common; `seen` tells whether the next ball was, None is unknown."""

    discipline: str
    player: str | None
    place: str | None
    power: str | None
    fullness: str | None
    type: str | None
    opened: str | None
    leaves: str | None
    balls: int
    scratch: bool
    seen: str | None
    won: bool | None
    n: int


@dataclass(frozen=True)
class BreakFamily:
    """Breaks that have something in common. Every rate has its own n: what is unknown is left out of it."""

    name: str
    balls: Mean
    dry: Rate
    scratch: Rate
    next_visible: Rate
    won: Rate


def families(tallies: Sequence[BreakTally], key: Callable[[BreakTally], str | None]) -> list[BreakFamily]:
    """One family for each value of `key`, the largest first; breaks without a value are left out."""
    groups: dict[str, list[BreakTally]] = {}
    for tally in tallies:
        name = key(tally)
        if name is not None:
            groups.setdefault(name, []).append(tally)
    found = [_family(name, own) for name, own in groups.items()]
    return sorted(found, key=lambda family: -family.balls.n)


def _family(name: str, own: Sequence[BreakTally]) -> BreakFamily:
    def rate(value: Callable[[BreakTally], bool | None]) -> Rate:
        known = [(said, one.n) for one in own if (said := value(one)) is not None]
        return wilson(sum(n for said, n in known if said), sum(n for _, n in known))

    return BreakFamily(
        name=name,
        balls=mean_of(Sums(one.n, one.n * one.balls, one.n * one.balls**2) for one in own),
        dry=rate(lambda one: one.balls == 0),
        scratch=rate(lambda one: one.scratch),
        next_visible=rate(lambda one: None if one.seen is None else one.seen != "no"),
        won=rate(lambda one: one.won),
    )
