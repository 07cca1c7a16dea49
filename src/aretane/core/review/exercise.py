"""An exercise from a shot: the shot as it lay, and easier and harder ones of the same kind for a hand.

The cut stays, the cue ball is moved along the line to the ghost ball: nearer is easier. What is worth practising
comes off six to eight times in ten (common practice: fewer teach missing, more teach nothing).
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot, measure_shot
from aretane.core.geometry.plane import ahead
from aretane.core.geometry.potting_window import aim_gain, potting_window
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.skill.effort import USUAL_EFFORT
from aretane.core.skill.estimate import pot_chance
from aretane.core.skill.hand import Hand

WORTH = 0.6, 0.8  # of the tries come off where practice is worth most
NEAREST, STEP = 0.15, 0.05  # m from the ghost ball, and between the places that are looked at
LEAST = 0.05  # of the chance: less is no other level
AS_IT_WAS, EASIER, HARDER = "as it was", "easier", "harder"


@dataclass(frozen=True)
class Level:
    """A layout to practise from, and the chance of its pot for a hand (None: nothing tells it)."""

    name: str
    layout: Layout
    chance: float | None


def levels(layout: Layout, ball: str, pocket: str, hand: Hand) -> list[Level]:
    """The shot as it was, and where there are any an easier and a harder one, as near as can be to eight and six
    times in ten.
    """
    shot = measure_shot(layout, ball, pocket)
    own = chance_of(layout, shot, hand)
    found = [Level(AS_IT_WAS, layout, own)]
    if shot.cut is None or own is None:
        return found
    others = [(place, chance) for place, chance in _nearer_and_farther(layout, shot, hand) if chance is not None]
    for name, wanted, sign in ((EASIER, WORTH[1], 1), (HARDER, WORTH[0], -1)):
        fitting = [(place, chance) for place, chance in others if sign * (chance - own) > LEAST]
        if fitting:
            place, chance = min(fitting, key=lambda one: abs(one[1] - wanted))
            found.append(Level(name, layout.placed(CUE, place), chance))
    return found


def chance_of(layout: Layout, shot: MeasuredShot, hand: Hand) -> float | None:
    """How often a hand makes a plain pot, in closed form; None where it is none."""
    if not shot.playable or shot.cut is None or shot.tolerance is None:
        return None
    cut, table = shot.cut, layout.table
    window = potting_window(
        table, shot.pocket, cut.angle, cut.cue_distance, shot.pocket_distance, shot.tolerance, shot.open
    )
    return pot_chance(window, hand, USUAL_EFFORT, aim_gain(table, cut.angle, cut.cue_distance))


def _nearer_and_farther(
    layout: Layout, shot: MeasuredShot, hand: Hand
) -> Iterable[tuple[tuple[float, float], float | None]]:
    assert shot.cut is not None
    for away in np.arange(NEAREST, layout.table.length, STEP).tolist():
        place = ahead(shot.cut.ghost, shot.cut.aim + math.pi, away)
        placed = layout.placed(CUE, place)
        if on_table(layout.table, place, layout.table.cue_radius) and first_overlap(placed) is None:
            yield place, chance_of(placed, measure_shot(placed, shot.ball, shot.pocket), hand)
