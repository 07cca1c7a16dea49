"""How far the cue ball's direction may be off for the ball still to fall: what the jaws really take.

The clear way between the jaw tips, carried back to the cue ball, is a bound. The jaws of a corner take away
some of it from straight on, where a ball rattles, and give some back to a ball that comes along a rail: in the
simulator the free width of a pocket stays nearly the same from wherever a ball comes. The shares are medians
over random pots at usual speeds (tests/core/geometry hold them).
"""

from __future__ import annotations

import math

from aretane.core.table import Table

CORNER, SIDE = 1.0, 0.95  # of the free width of a straight ball
BOUND = 1.9  # of the clear way between the tips: no more than this goes in


def potting_window(
    table: Table, pocket: str, cut_angle: float, cue_distance: float, pocket_distance: float, tolerance: float,
    opening: float,
) -> float:  # fmt: skip
    """Half-angle (radians) of the cue ball's direction that pots, from a shot's reading: `tolerance` as the
    clear way between the tips gives it, `opening` the part that balls leave of it (0 to 1).
    """
    straight = table.pockets[pocket].mouth_width / 2 - table.radius
    share = (SIDE if pocket.startswith("side") else CORNER) * opening
    gain = aim_gain(table, cut_angle, cue_distance)
    return min(share * straight / (gain * max(pocket_distance, 0.02)), BOUND * tolerance)


def aim_gain(table: Table, cut_angle: float, cue_distance: float) -> float:
    """By how much the object ball's direction turns for each radian of the cue ball's: D / (2R cos(cut)), at
    least 1.
    """
    return max(cue_distance / ((table.radius + table.cue_radius) * max(math.cos(cut_angle), 0.05)), 1.0)
