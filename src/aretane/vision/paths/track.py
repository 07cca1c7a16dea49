"""The paths of all balls in a stretch of a recording, and what happened on them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.table import Point
from aretane.vision.files.frames import rhythm_of
from aretane.vision.paths.course import SLOWEST, Course, paths_in, view_for
from aretane.vision.paths.fitted import fitted
from aretane.vision.paths.told import event_as_data, marks_as_data
from aretane.vision.shots.looking import ANY_GAME, balls_in, balls_of
from aretane.vision.shots.wanted import Wanted

EARLIER = (0.7, 1.4)  # seconds before, at which is looked for balls that somebody hides


def standing_at(wanted: Wanted, at: float, balls: Sequence[str]) -> dict[str, Point]:
    """The balls that stand at a moment. Whoever is about to strike may hide some: these are taken from a little
    earlier."""
    found: dict[str, Point] = {}
    for time in (at, *(at - earlier for earlier in EARLIER)):
        if time < 0:
            continue
        told, _, _ = balls_in(wanted, time, balls)
        for one in told:
            place, room = one.candidate.place, wanted.table.ball_diameter
            if one.name not in found and all(math.dist(place, other) > room / 2 for other in found.values()):
                found[one.name] = place
    return found


def track_of(wanted: Wanted, discipline: str | None, begin: float, end: float) -> dict[str, Any]:
    """The answer of `video track`. Raises `InputError` where nothing can be followed."""
    rhythm = rhythm_of(Path(wanted.path))
    if not 0 <= begin < end:
        raise InputError("from", "must be a time of the recording in seconds, and before --to")
    if rhythm.rate < SLOWEST:
        words = f"it has {rhythm.rate:.1f} pictures a second; balls are followed from {SLOWEST:.0f} on"
        raise InputError("recording", words)
    balls = standing_at(wanted, begin, balls_of(wanted.ball_set, discipline))
    if not balls:
        raise InputError("from", "no ball stands there")
    course = paths_in(Path(wanted.path), view_for(wanted, begin), begin, end, balls)
    return {
        "paths": [{"ball": ball, "points": marks_as_data(marks)} for ball, marks in course.paths.items()],
        "events": [event_as_data(one) for one in course.events],
        "stroke": _stroke(Layout(wanted.table, discipline or ANY_GAME, balls), course),
    }


def _stroke(before: Layout, course: Course) -> dict[str, Any] | None:
    """The stroke that explains the ways, with what others say that explain them as well, and by how many metres it
    misses the balls on the whole; None if none does."""
    struck = next((one.t for one in course.events if one.kind == "strike"), None)
    fit = fitted(before, course.paths, struck) if struck is not None else None
    if fit is None or not fit.explains:
        return None
    told = (fit.stroke.aim or 0.0, fit.stroke.speed, fit.stroke.side, fit.stroke.height)
    spans = zip(("aim", "speed", "side", "height"), told, fit.low, fit.high, strict=True)
    return {
        name: {"value": round(v, 4), "low": round(low, 4), "high": round(high, 4)} for name, v, low, high in spans
    } | {"off": round(fit.off, 4)}
