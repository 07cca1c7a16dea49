"""A player's hand and success percentages from the facts of his shots."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from aretane.core.review.shot_facts import ShotFact
from aretane.core.skill.estimate import Estimate, Stopped, Tried, estimate_hand, pot_chance
from aretane.core.skill.hand import Hand
from aretane.core.skill.success import Success, success_of
from aretane.core.statistics.potting import cut_and_distance_map

MOUTH = 0.0286  # m: half of what a usual corner leaves a ball, for families without a try (5 in less a ball)
BALL = 0.05715


@dataclass(frozen=True)
class Field:
    """One family of pots: cut in degrees, distance in metres."""

    cut: tuple[float, float]
    distance: tuple[float, float]
    success: Success


def hand_of(facts: Sequence[ShotFact], prior: str = "club") -> Estimate:
    """The hand behind these facts, all of one player."""
    stopped = [
        Stopped(fact.travel, fact.error.along)
        for fact in facts
        if fact.error is not None and fact.travel is not None and fact.made
    ]
    return estimate_hand([one for fact in facts if (one := _tried(fact))], stopped, prior)


def success_map(facts: Sequence[ShotFact], hand: Hand) -> list[Field]:
    """Every family by cut and distance; without a try the hand's prediction for a shot in its middle."""
    found = []
    for cell in cut_and_distance_map(facts):
        tried = [one for member in cell.members if (one := _tried(facts[member]))]
        middle = _usual(sum(cell.cut) / 2, cell.distance)
        found.append(Field(cell.cut, cell.distance, success_of(tried, hand, pot_chance(middle, hand))))
    return found


def _tried(fact: ShotFact) -> Tried | None:
    if not fact.tried or fact.tolerance is None:
        return None
    return Tried(fact.tolerance, fact.made)


def _usual(cut_degrees: float, distance: tuple[float, float]) -> float:
    """Tolerance of a shot in the middle of a family, half of the way before the contact and half after it."""
    low, high = distance
    leg = (low + min(high, low + 0.75)) / 4
    return MOUTH / leg * BALL * math.cos(math.radians(min(cut_degrees, 80.0))) / (leg + 0.02)
