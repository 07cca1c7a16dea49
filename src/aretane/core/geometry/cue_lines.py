"""Where the cue ball runs after the contact: stun and natural roll, and whether that line scratches."""

from __future__ import annotations

import math
from collections.abc import Mapping

from aretane.core.geometry.cut import STRAIGHT, Cut
from aretane.core.geometry.plane import run_to_contact, run_to_line, turn
from aretane.core.geometry.pocket_window import jaw_window
from aretane.core.table import Point, Table


def rolling_deflection(cut_angle: float) -> float:
    """Angle between a rolling cue ball's path before and after it hits a ball at `cut_angle` (radians).

    tan(deflection) = sin(cut) cos(cut) / (sin²(cut) + 2/5): Coriolis, Théorie mathématique des effets
    du jeu de billard (1835); also Alciatore, TP 3.3 and A.4. Equal masses, no friction between the balls.
    Its maximum is 33.749 degrees at a cut of 28.126; between quarter- and three-quarter-ball hits it
    stays within 27 to 34 degrees (the 30-degree rule).
    """
    s, c = math.sin(abs(cut_angle)), math.cos(cut_angle)
    return math.atan2(s * c, s * s + 0.4)


def stun_direction(cut: Cut) -> float | None:
    """The tangent line: at right angles to the object ball's line, away from it. None when straight."""
    if abs(cut.angle) < STRAIGHT:
        return None
    return cut.object_direction - math.copysign(math.pi / 2, cut.angle)


def roll_direction(cut: Cut) -> float:
    """Direction of a rolling cue ball once its path after the contact is straight again."""
    return cut.aim - math.copysign(rolling_deflection(cut.angle), cut.angle)


def scratches_in(table: Table, start: Point, direction: float | None, others: Mapping[str, Point]) -> str | None:
    """The pocket that a cue ball running straight from `start` goes into, if no ball is in the way."""
    if direction is None:
        return None
    for pocket in table.pockets.values():
        window = jaw_window(start, pocket, table.cue_radius)
        if window is None or not 0.0 <= turn(window[0], direction) <= window[1] - window[0]:
            continue
        run = run_to_line(start, direction, *pocket.tips)
        if run is None:
            continue
        reach = table.radius + table.cue_radius
        stops = (run_to_contact(start, direction, place, reach) for place in others.values())
        if not any(stop is not None and stop < run for stop in stops):
            return pocket.name
    return None
