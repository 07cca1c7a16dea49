"""A player's hand and success percentages from the figures of his shots."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from aretane.core.parameters import POOL
from aretane.core.review.shot_figures import ShotFigures
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
from aretane.core.statistics.cells import CELLS
from aretane.core.table import Table

MOUTH = 0.0286  # m: half of what a usual corner leaves a ball, for families without a try (5 in less a ball)
BALL = 0.05715


FEWEST = 12  # tries of a family before it is worth a word
FAMILIES: dict[str, Callable[[ShotFigures], bool]] = {
    "straight balls": lambda shot: shot.cut_angle is not None and shot.cut_angle < math.radians(15),
    "long balls": lambda shot: (shot.cue_distance or 0.0) + (shot.pocket_distance or 0.0) > 1.8,
    "thin cuts": lambda shot: shot.cut_angle is not None and shot.cut_angle > math.radians(40),
}


@dataclass(frozen=True)
class Field:
    """One family of pots: cut in degrees, distance in metres."""

    cut: tuple[float, float]
    distance: tuple[float, float]
    success: Success


def hand_of(shots: Sequence[ShotFigures], table: Table, prior: str = "club") -> Estimate:
    """The hand behind these shots, all of one player and on tables of one kind."""
    stopped = [
        Stopped(shot.travel, shot.error.along, _pace(shot))
        for shot in shots
        if shot.error is not None and shot.travel is not None and shot.made
    ]
    lagged = [Lagged(shot.skill.lag, table.length) for shot in shots if shot.skill.lag is not None]
    tried = [one for shot in shots if (one := _tried(shot))]
    found = estimate_hand(Record(tried, stopped, lagged), prior, presets_for(table))
    return replace(found, says="; ".join([found.says, *_families(shots, found, table)]))


def _families(shots: Sequence[ShotFigures], found: Estimate, table: Table) -> list[str]:
    """Kinds of pots at which the player is clearly better or worse than at all together, in words."""
    presets, words = presets_for(table), []
    for name, belongs in FAMILIES.items():
        tried = [one for shot in shots if belongs(shot) and (one := _tried(shot))]
        own = estimate_hand(Record(tried), presets=presets).aim
        if len(tried) >= FEWEST and (own.high < found.aim.value or own.low > found.aim.value):
            words.append(f"{name} {level_of(own.value, presets)}")
    return words


def same_kind(discipline: str, table: Table) -> bool:
    """Whether a discipline is played on this kind of table: hands are finer on a snooker table."""
    return (usual_table(discipline).length > LONG_TABLE) == (table.length > LONG_TABLE)


def success_map(shots: Sequence[ShotFigures], hand: Hand) -> list[Field]:
    """Every family by cut and distance; without a try the hand's prediction for a shot in its middle."""
    found = []
    for number, (cut, distance) in enumerate(CELLS):
        tried = [one for shot in shots if shot.tried and shot.cell == number and (one := _tried(shot))]
        middle = _usual(sum(cut) / 2, distance)
        found.append(Field(cut, distance, success_of(tried, hand, pot_chance(middle, hand))))
    return found


def _tried(shot: ShotFigures) -> Tried | None:
    skill = shot.skill
    if skill.window is None or skill.made is None:
        return None
    effort = USUAL_EFFORT
    if skill.speed is not None:
        effort = aim_effort(
            skill.speed, skill.side or 0.0, skill.height or 0.0, skill.elevation or 0.0, shot.cue_distance or 1.0,
            POOL.end_mass_ratio,
        )  # fmt: skip
    return Tried(skill.window, skill.made, effort, skill.gain or 1.0, skill.rails)


def _pace(shot: ShotFigures) -> float:
    """By how much the stroke widened the speed's error; a usual one where it is not logged."""
    skill = shot.skill
    if skill.speed is None:
        return USUAL_EFFORT
    return speed_effort(skill.speed, skill.height or 0.0, skill.elevation or 0.0, shot.cue_distance or 1.0)


def _usual(cut_degrees: float, distance: tuple[float, float]) -> float:
    """Tolerance of a shot in the middle of a family, half of the way before the contact and half after it."""
    low, high = distance
    leg = (low + min(high, low + 0.75)) / 4
    return MOUTH / leg * BALL * math.cos(math.radians(min(cut_degrees, 80.0))) / (leg + 0.02)
