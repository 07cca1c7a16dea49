"""What a shot tells of the player's hand: the window that it left, what it asked, and whether a kick or lag
came off.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.kick import clear, kicks
from aretane.core.geometry.measured import MeasuredShot
from aretane.core.geometry.potting_window import aim_gain, potting_window
from aretane.core.review.replay import ReplayedShot

Data = Mapping[str, Any]

FULL_BREAK = 0.25  # of a ball's width: as far off the centre as coaches still call a full hit (common practice)


@dataclass(frozen=True)
class SkillFigures:
    """`window`: half-angle of the cue ball's direction that makes it (radians), `gain`: turn of the ball for
    each radian of it; `rails` of a kick at a ball, whose `made` is a hit; the stroke as it was logged. `lag`:
    how far from the head nose this player's lag stopped before the rack (m). None is unknown.
    """

    window: float | None = None
    gain: float | None = None
    made: bool | None = None
    rails: int = 0
    speed: float | None = None
    side: float | None = None
    height: float | None = None
    elevation: float | None = None
    lag: float | None = None


NOTHING_KNOWN = SkillFigures()


def skill_figures(
    shot: ReplayedShot, measured: MeasuredShot | None, made: bool | None, lag: float | None
) -> SkillFigures:
    """`made` is None for a stroke that was no try at a pot."""
    data = shot.data
    stroke: Data = data.get("stroke") or {}
    known: dict[str, Any] = {name: _number(stroke.get(name)) for name in ("speed", "side", "height", "elevation")}
    kind = {data.get("kind"), *(data.get("also") or ())}
    if "kick" in kind:
        return SkillFigures(**{**known, **_kick(shot)}, lag=lag)
    if data.get("kind") == "break":
        return SkillFigures(**{**known, **_break(shot)}, lag=lag)
    plain = made is not None and not kind & {"bank", "combination", "cannon", "glance", "jump"}
    if not plain or measured is None or measured.cut is None or measured.tolerance is None or shot.before is None:
        return SkillFigures(**known, lag=lag)
    table, cut = shot.before.table, measured.cut
    window = potting_window(
        table, str((data.get("called") or {}).get("pocket")), cut.angle, cut.cue_distance, measured.pocket_distance,
        measured.tolerance, measured.open,
    )  # fmt: skip
    return SkillFigures(window, aim_gain(table, cut.angle, cut.cue_distance), made, 0, **known, lag=lag)


def _kick(shot: ReplayedShot) -> dict[str, Any]:
    """A kick at one ball: the shortest clear mirror way tells the window; made when that ball was hit first."""
    before, ruling = shot.before, shot.ruling
    if before is None or before.cue is None or ruling is None:
        return {}
    meant = (shot.data.get("called") or {}).get("ball")
    first = shot.data.get("first_contact")
    if meant not in before.object_balls or first is None:
        return {}
    reach = before.table.radius + before.table.cue_radius
    others = {name: place for name, place in before.object_balls.items() if name != meant}
    ways = [
        way for way in kicks(before.table, before.cue, before.balls[meant])
        if clear(way, before.cue, before.balls[meant], others, reach)
    ]  # fmt: skip
    if not ways:
        return {}
    way = min(ways, key=lambda one: (len(one.rails), one.length))
    window = math.asin(min(1.0, reach / way.length))
    return {"window": window, "gain": 1.0, "made": first == meant, "rails": len(way.rails)}


def _break(shot: ReplayedShot) -> dict[str, Any]:
    """A break whose first hit was noted: full, or not."""
    fullness = (shot.data.get("break_record") or {}).get("fullness")
    before, first = shot.before, shot.data.get("first_contact")
    if before is None or before.cue is None or fullness is None or first not in before.object_balls:
        return {}
    away = math.dist(before.balls[CUE], before.balls[first])
    half = FULL_BREAK * (before.table.radius + before.table.cue_radius)
    return {"window": math.asin(min(1.0, half / away)), "gain": 1.0, "made": fullness == "full"}


def _number(value: object) -> float | None:
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None
