"""A player's hand and success percentages from the facts of his shots."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from aretane.core.parameters import POOL
from aretane.core.review.shot_facts import ShotFact
from aretane.core.rules.traits import usual_table
from aretane.core.skill.effort import USUAL_EFFORT, aim_effort, speed_effort
from aretane.core.skill.estimate import (
    Estimate,
    Lagged,
    Record,
    Stopped,
    Tried,
    estimate_hand,
    level_of,
    pot_chance,
)
from aretane.core.skill.hand import LONG_TABLE, Hand, presets_for
from aretane.core.skill.success import Success, success_of
from aretane.core.statistics.potting import cut_and_distance_map
from aretane.core.table import Table

MOUTH = 0.0286  # m: half of what a usual corner leaves a ball, for families without a try (5 in less a ball)
BALL = 0.05715


FEWEST = 12  # tries of a family before it is worth a word
FAMILIES: dict[str, Callable[[ShotFact], bool]] = {
    "straight balls": lambda fact: fact.cut_angle is not None and fact.cut_angle < math.radians(15),
    "long balls": lambda fact: (fact.cue_distance or 0.0) + (fact.pocket_distance or 0.0) > 1.8,
    "thin cuts": lambda fact: fact.cut_angle is not None and fact.cut_angle > math.radians(40),
}


@dataclass(frozen=True)
class Field:
    """One family of pots: cut in degrees, distance in metres."""

    cut: tuple[float, float]
    distance: tuple[float, float]
    success: Success


def hand_of(facts: Sequence[ShotFact], table: Table, prior: str = "club") -> Estimate:
    """The hand behind these facts, all of one player and on tables of one kind."""
    stopped = [
        Stopped(fact.travel, fact.error.along, _pace(fact))
        for fact in facts
        if fact.error is not None and fact.travel is not None and fact.made
    ]
    lagged = [Lagged(fact.skill.lag, table.length) for fact in facts if fact.skill.lag is not None]
    tried = [one for fact in facts if (one := _tried(fact))]
    found = estimate_hand(Record(tried, stopped, lagged), prior, presets_for(table))
    return replace(found, says="; ".join([found.says, *_families(facts, found, table)]))


def _families(facts: Sequence[ShotFact], found: Estimate, table: Table) -> list[str]:
    """Kinds of pots at which the player is clearly better or worse than at all together, in words."""
    presets, words = presets_for(table), []
    for name, belongs in FAMILIES.items():
        tried = [one for fact in facts if belongs(fact) and (one := _tried(fact))]
        own = estimate_hand(Record(tried), presets=presets).aim
        if len(tried) >= FEWEST and (own.high < found.aim.value or own.low > found.aim.value):
            words.append(f"{name} {level_of(own.value, presets)}")
    return words


def same_kind(discipline: str, table: Table) -> bool:
    """Whether a discipline is played on this kind of table: hands are finer on a snooker table."""
    return (usual_table(discipline).length > LONG_TABLE) == (table.length > LONG_TABLE)


def success_map(facts: Sequence[ShotFact], hand: Hand) -> list[Field]:
    """Every family by cut and distance; without a try the hand's prediction for a shot in its middle."""
    found = []
    for cell in cut_and_distance_map(facts):
        tried = [one for member in cell.members if (one := _tried(facts[member]))]
        middle = _usual(sum(cell.cut) / 2, cell.distance)
        found.append(Field(cell.cut, cell.distance, success_of(tried, hand, pot_chance(middle, hand))))
    return found


def _tried(fact: ShotFact) -> Tried | None:
    skill = fact.skill
    if skill.window is None or skill.made is None:
        return None
    effort = USUAL_EFFORT
    if skill.speed is not None:
        effort = aim_effort(
            skill.speed, skill.side or 0.0, skill.height or 0.0, skill.elevation or 0.0, fact.cue_distance or 1.0,
            POOL.end_mass_ratio,
        )  # fmt: skip
    return Tried(skill.window, skill.made, effort, skill.gain or 1.0, skill.rails)


def _pace(fact: ShotFact) -> float:
    """By how much the stroke widened the speed's error; a usual one where it is not logged."""
    skill = fact.skill
    if skill.speed is None:
        return USUAL_EFFORT
    return speed_effort(skill.speed, skill.height or 0.0, skill.elevation or 0.0, fact.cue_distance or 1.0)


def _usual(cut_degrees: float, distance: tuple[float, float]) -> float:
    """Tolerance of a shot in the middle of a family, half of the way before the contact and half after it."""
    low, high = distance
    leg = (low + min(high, low + 0.75)) / 4
    return MOUTH / leg * BALL * math.cos(math.radians(min(cut_degrees, 80.0))) / (leg + 0.02)
