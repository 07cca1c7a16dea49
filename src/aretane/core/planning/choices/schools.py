"""Schools of play: the same numbers, weighed differently. None of them is the truth."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.planning.choices.option import Option, Options


@dataclass(frozen=True)
class School:
    """`win` counts whole; the run-out a choice keeps alive and the good pots it may leave count with these
    weights.
    """

    name: str
    says: str
    run: float
    left: float


SCHOOLS = (
    School("by the numbers", "the chance to win the rack, nothing else", 0.0, 0.0),
    School("attack", "keep the run-out alive: the opponent would return anyway", 0.25, 0.0),
    School("control", "leave nothing: a good pot left to the opponent counts double", 0.0, -0.25),
)


def order_for(found: Options, school: School) -> list[int]:
    """Positions of the options in this school's order."""
    if school.run == school.left == 0.0:  # the list's own order, the plain stroke first
        return list(range(len(found.options)))
    return sorted(
        range(len(found.options)), key=lambda index: liking(found, found.options[index], school), reverse=True
    )


def liking(found: Options, option: Option, school: School) -> float:
    """What a choice is worth to this school, in the unit of the options' values."""
    left = option.value.opponent_next.p or 0.0
    return option.win + school.run * option.value.run + _scale(found) * school.left * left


def _scale(found: Options) -> float:
    """Values in points are larger than chances: what a left pot weighs is in proportion to the best of them."""
    return max(1.0, max((abs(option.win) for option in found.options), default=1.0)) if found.points else 1.0
