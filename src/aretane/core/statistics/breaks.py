"""What breaks bring: balls, dry and scratch rates, whether the next ball can be seen, racks won."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from aretane.core.review.break_figures import BreakFigures
from aretane.core.statistics.rates import Mean, Rate, mean_interval, wilson


@dataclass(frozen=True)
class BreakFamily:
    """Breaks that have something in common. Every rate has its own n: what is unknown is left out of it."""

    name: str
    balls: Mean
    dry: Rate
    scratch: Rate
    next_visible: Rate
    won: Rate
    members: tuple[int, ...]


def families(shots: Sequence[BreakFigures], key: Callable[[BreakFigures], str | None]) -> list[BreakFamily]:
    """One family for each value of `key`, the largest first; breaks without a value are left out."""
    groups: dict[str, list[int]] = {}
    for index, shot in enumerate(shots):
        name = key(shot)
        if name is not None:
            groups.setdefault(name, []).append(index)
    found = [_family(name, shots, members) for name, members in groups.items()]
    return sorted(found, key=lambda family: -len(family.members))


def _family(name: str, shots: Sequence[BreakFigures], members: Sequence[int]) -> BreakFamily:
    chosen = [shots[index] for index in members]

    def rate(values: list[bool | None]) -> Rate:
        known = [value for value in values if value is not None]
        return wilson(sum(known), len(known))

    return BreakFamily(
        name=name,
        balls=mean_interval([float(shot.balls) for shot in chosen]),
        dry=rate([shot.dry for shot in chosen]),
        scratch=rate([shot.scratch for shot in chosen]),
        next_visible=rate([None if f.next_visible is None else f.next_visible != "no" for f in chosen]),
        won=rate([shot.won for shot in chosen]),
        members=tuple(members),
    )
