"""How the player stood to a stroke: whether he reached the cue ball, and what was under the cue.

What the log says in words stands; else the layout tells it: the reach where the player's hand is known
(`skill.reach`), what lies behind the cue ball from the line of the cue.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from aretane.core.geometry.measured import MeasuredShot
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout
from aretane.core.skill.reach import Arm, reach_for
from aretane.core.words import REACHES

Data = Mapping[str, Any]

COMFORTABLE = REACHES[0]
FREE, OFF_THE_RAIL, OVER_A_BALL = "free", "off the rail", "over a ball"
HAND = 0.15  # m behind the cue ball that a bridge hand wants free (common practice: a hand's breadth and a half)
NEAR_RAIL = 2.0  # balls' widths: a cue ball as near as that to the rail behind it is played off the rail
BESIDE = 1.5  # radii from the cue's line: a ball farther aside leaves the cue level


def reach_of(stroke: Data, layout: Layout | None, measured: MeasuredShot | None, handed: str | None) -> str | None:
    """Comfortable, stretched, rest or off hand."""
    told = next((word for word in stroke.get("words") or () if word in REACHES), None)
    if told is not None:
        return str(told)
    aim = _aim(layout, measured)
    if layout is None or layout.cue is None or aim is None or handed not in ("left", "right", "both"):
        return None
    words = reach_for(layout.table, layout.cue, aim, Arm(handed)).words
    return words[0] if words else COMFORTABLE


def cueing_of(layout: Layout | None, measured: MeasuredShot | None) -> str | None:
    """What the cue has to go over: nothing, the rail, a ball."""
    aim = _aim(layout, measured)
    if layout is None or layout.cue is None or aim is None:
        return None
    (x, y), table = layout.cue, layout.table
    back = (-math.cos(aim), -math.sin(aim))
    for bx, by in layout.object_balls.values():
        along = (bx - x) * back[0] + (by - y) * back[1]
        aside = abs((bx - x) * back[1] - (by - y) * back[0])
        if 0.0 < along < HAND and aside < BESIDE * table.radius:
            return OVER_A_BALL
    ways = [
        (limit - at) / turn
        for at, turn, size in ((x, back[0], table.length), (y, back[1], table.width))
        if abs(turn) > 1e-9
        for limit in (size if turn > 0 else 0.0,)
    ]
    return OFF_THE_RAIL if min(ways) - table.cue_radius < NEAR_RAIL * table.cue_ball_diameter else FREE


def _aim(layout: Layout | None, measured: MeasuredShot | None) -> float | None:
    if layout is None or layout.cue is None or measured is None or measured.cut is None:
        return None
    return bearing(layout.cue, measured.ghost)
