"""Which shots are alike: by cut, distances, window and the way to the next ball; mirrored ones count as the same.

Likeness is a distance: each property counts in units by which coaches would still call two shots the same (common
practice). What is not known of one of two shots counts as one such unit.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, fields

from aretane.core.geometry.measured import measure_shot
from aretane.core.layout import Layout
from aretane.core.review.shot_figures import ShotFigures

UNITS = {"cut_angle": math.radians(7.0), "cue_distance": 0.25, "pocket_distance": 0.2, "open": 0.4, "next_way": 0.5}
FAR = 3.0  # units in cut or distance: further off nothing is looked at
LIKE = 2.0  # so far apart altogether two shots still are alike
MIDDLE = "side"  # a middle pocket is not like a corner


@dataclass(frozen=True)
class Likeness:
    """What of a shot is compared; radians and metres, of `open` a share; None is unknown."""

    cut_angle: float
    cue_distance: float
    pocket_distance: float
    middle: bool
    open: float | None
    next_way: float | None


def likeness_of(shot: ShotFigures) -> Likeness | None:
    """None where nothing can be compared: no pot was meant, or places are not known."""
    if shot.cut_angle is None or shot.cue_distance is None or shot.pocket_distance is None or not shot.pocket:
        return None
    middle = shot.pocket.startswith(MIDDLE)
    return Likeness(
        shot.cut_angle, shot.cue_distance, shot.pocket_distance, middle, shot.open, shot.around.next_way
    )


def likeness_in(layout: Layout, ball: str, pocket: str) -> Likeness | None:
    """Of a pot that lies there, whatever is to be played next; None where it cannot be played directly."""
    measured = measure_shot(layout, ball, pocket)
    if measured.cut is None:
        return None
    middle = pocket.startswith(MIDDLE)
    cut, way = abs(measured.cut.angle), measured.cut.cue_distance
    return Likeness(cut, way, measured.pocket_distance, middle, measured.open, None)


def apart(one: Likeness, other: Likeness) -> float:
    """How unlike two shots are, in units; infinite for a middle pocket and a corner."""
    if one.middle != other.middle:
        return math.inf
    total = 0.0
    for name in (field.name for field in fields(Likeness) if field.name in UNITS):
        mine, theirs = getattr(one, name), getattr(other, name)
        total += 1.0 if mine is None or theirs is None else ((mine - theirs) / UNITS[name]) ** 2
    return math.sqrt(total)
