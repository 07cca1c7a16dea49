"""The record of a break, a break-off or a straight-pool break shot: what was logged, and what layouts tell."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout
from aretane.core.review.replay import ReplayedShot
from aretane.core.rules.traits import traits_of
from aretane.core.words import break_lines

Data = Mapping[str, Any]

PLACES = ("right rail", "right", "centre", "left", "left rail")  # of the cue ball, seen from the head
NEAR_RAIL = 3.0  # in ball radii: a cue ball this near is played off the rail
IN_FULL = 0.95  # of a ball's width


@dataclass(frozen=True)
class BreakFigures:
    """`place` is where the cue ball lay, `rail_distance` its distance from the nearer long rail in metres, `balls`
    how many object balls fell, `next_visible` "yes", "partly" or "no". None is unknown."""

    discipline: str
    place: str | None
    rail_distance: float | None
    power: str | None
    fullness: str | None
    type: str | None
    balls: int
    dry: bool
    scratch: bool
    legal: bool
    next_visible: str | None
    opened: str | None
    next_shot: str | None
    leaves: str | None
    won: bool | None


def break_figures(discipline: str, shot: ReplayedShot, winner: str | None) -> BreakFigures | None:
    """The record of this entry, if it opened a rack or has a break record of its own."""
    data = shot.data
    record: Data = data.get("break_record") or {}
    if data.get("kind") != "break" and not record:
        return None
    balls = sum(entry["ball"] != CUE for entry in data.get("potted") or ())
    cue, distance = cue_place(shot.before)
    words = ((data.get("stroke") or {}).get("words")) or ()
    powers = [word for word in words if word in ("soft", "medium", "firm")]
    return BreakFigures(
        discipline=discipline,
        place=cue or record.get("from"),
        rail_distance=distance,
        power=record.get("power") or next(iter(powers), None),
        fullness=record.get("fullness"),
        type=record.get("type"),
        balls=balls,
        dry=balls == 0,
        scratch=bool(data.get("scratch")),
        legal=shot.ruling is not None and not shot.ruling.fouls,
        next_visible=_next_visible(discipline, shot) or record.get("next_visible"),
        opened=record.get("opened"),
        next_shot=record.get("next_shot"),
        leaves=record.get("leaves"),
        won=None if winner is None else winner == data.get("player"),
    )


def cue_place(before: Layout | None) -> tuple[str | None, float | None]:
    """The part of the width that the cue ball lay in: at a long rail, or in a third of the rest."""
    if before is None or before.cue is None:
        return None, None
    y, width = before.cue[1], before.table.width
    distance = min(y, width - y)
    if distance <= NEAR_RAIL * before.table.radius:
        return PLACES[0] if y < width / 2 else PLACES[-1], distance
    return PLACES[1 + min(2, int(3 * y / width))], distance


def cue_rests(after: Layout) -> str | None:
    """Where a break left the cue ball, in the words of the record of this game; None where it has none."""
    if after.cue is None:
        return None
    words = next((words for _, key, words in break_lines(traits_of(after.discipline)) if key == "rests"), ())
    (x, y), length, width = after.cue, after.table.length, after.table.width
    near = NEAR_RAIL * after.table.radius
    if "in baulk" in words:
        return "baulk cushion" if x < near else "in baulk" if x < after.table.head_line else "in the open"
    side = "right rail" if y < near else "left rail" if y > width - near else None
    third = ("head", "centre", "foot")[min(2, int(3 * x / length))]
    return side or third if (side or third) in words else None


def _next_visible(discipline: str, shot: ReplayedShot) -> str | None:
    """How much of the ball that is on can be seen after the break, in rotation games."""
    after, ruling = shot.after, shot.ruling
    if not traits_of(discipline).rotation or after is None or after.cue is None or ruling is None:
        return None
    lowest = min(after.object_balls, key=int, default=None)
    if lowest is None:
        return None
    reach = after.table.radius + after.table.cue_radius
    part = visible_part(after.cue, lowest, after.object_balls, reach)
    return "yes" if part >= IN_FULL else "partly" if part > 0 else "no"
