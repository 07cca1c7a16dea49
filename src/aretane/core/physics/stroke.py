"""A stroke: where the cue points and where, how fast and how steeply it meets the ball."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.table import POCKETS, Point

FASTEST = 15.0  # m/s; the hardest breaks on record are near 14 (from memory)
STEEPEST = math.radians(85)
PARTS = ("centre", "thick", "thin")


@dataclass(frozen=True)
class Stroke:
    """`aim` is the cue's direction in plan (radians); instead of it `at` and `pocket` name a pot that the aim
    solver finds, into this `part` of the pocket. `speed` is the cue ball's horizontal speed just after impact
    (m/s), `side` (> 0 right as the player sees it) and `height` (> 0 above centre) the tip's place in fractions
    of the radius. `place`: where the cue ball is put first.
    """

    speed: float
    aim: float | None = None
    at: str | None = None
    pocket: str | None = None
    part: str = "centre"
    side: float = 0.0
    height: float = 0.0
    elevation: float = 0.0
    place: Point | None = None

    def aimed(self, aim: float) -> Stroke:
        return replace(self, aim=aim, at=None, pocket=None)


def check_numbers(stroke: Stroke) -> None:
    """Raises `InputError` naming the number of a stroke that nobody can play."""
    for name in ("speed", "side", "height", "elevation", "aim"):
        number = getattr(stroke, name)
        if number is not None and not math.isfinite(number):
            raise InputError(name, "must be a finite number")
    if not 0.0 < stroke.speed <= FASTEST:
        raise InputError("speed", f"{stroke.speed:g} m/s is not between 0 and {FASTEST:g} m/s")
    if math.hypot(stroke.side, stroke.height) > 1.0:
        field = "side" if abs(stroke.side) >= abs(stroke.height) else "height"
        raise InputError(field, "side and height together are beyond the edge of the ball")
    if not 0.0 <= stroke.elevation <= STEEPEST:
        raise InputError("elevation", f"must be from 0 to {STEEPEST:.3f} rad")


def check_stroke(layout: Layout, stroke: Stroke) -> Layout:
    """The layout with the cue ball where the stroke puts it. Raises `InputError` naming the field that is wrong."""
    check_numbers(stroke)
    if (stroke.aim is None) == (stroke.at is None):
        raise InputError("aim", "either aim, or at and pocket, must be given")
    if stroke.at is not None:
        if stroke.at == CUE or stroke.at not in layout.balls:
            raise InputError("at", f"ball {stroke.at} is not on the table")
        if stroke.pocket not in POCKETS:
            raise InputError("pocket", f"must be one of {', '.join(POCKETS)}")
        if stroke.part not in PARTS:
            raise InputError("part", f"must be one of {', '.join(PARTS)}")
    if stroke.place is None:
        if layout.cue is None:
            raise InputError("place", "the layout has no cue ball: say where it is put")
        return layout
    placed = layout.placed(CUE, stroke.place)
    if not on_table(layout.table, stroke.place, layout.table.cue_radius):
        raise InputError("place", "the cue ball would be off the table there")
    overlap = first_overlap(placed)
    if overlap is not None:
        raise InputError("place", f"the cue ball would stand in ball {overlap[overlap[0] == CUE]}")
    return placed
