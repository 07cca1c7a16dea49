"""Where every ball is at every moment of a shot, and how it has turned."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.shot import Event, place_on, simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import Point, Table

Places = dict[str, Point]
Track = Callable[[float], Point | None]

STROKE_KEYS = ("aim", "speed", "side", "height", "elevation")


@dataclass(frozen=True)
class Course:
    """Where every ball is at a time after the stroke, when the last one stops, and what happens until then."""

    tracks: dict[str, Track]
    length: float
    events: tuple[Event, ...] = ()


def course_of(shot: Mapping[str, Any], table: Table, discipline: str) -> Course:
    """A stroke is simulated; without one the balls are moved when nobody looks."""
    before = {ball: (float(at[0]), float(at[1])) for ball, at in shot["layout_before"]["balls"].items()}
    stroke = shot.get("stroke") or {}
    if stroke.get("aim") is not None and CUE in before:
        numbers = {key: stroke[key] for key in STROKE_KEYS if stroke.get(key) is not None}
        result = simulate(Layout(table, discipline, before), Stroke(**numbers))
        return Course(
            {ball: partial(place_on, legs) for ball, legs in result.legs.items()}, result.duration, result.events
        )
    after = {
        ball: (float(at[0]), float(at[1]))
        for ball, at in ((shot.get("layout_after") or {}).get("balls") or before).items()
    }
    balls = {*before, *after}
    return Course({ball: _jump(before.get(ball), after.get(ball)) for ball in balls}, 1.0)


def _jump(before: Point | None, after: Point | None) -> Track:
    return lambda t: before if t < 0.5 else after


def at_time(tracks: Mapping[str, Track], t: float) -> Places:
    found = {ball: track(t) for ball, track in tracks.items()}
    return {ball: place for ball, place in found.items() if place is not None}


def roll(
    turned: dict[str, NDArray[np.float64]], tracks: Mapping[str, Track], t: float, step: float, radius: float
) -> None:
    """Turn each ball by as much as it has run since the frame before."""
    now, past = at_time(tracks, t), at_time(tracks, t - step)
    for ball, place in now.items():
        dx, dy = place[0] - past.get(ball, place)[0], place[1] - past.get(ball, place)[1]
        run = math.hypot(dx, dy)
        if run > 1e-6 and ball in turned:
            turned[ball] = _rotation(np.array([-dy / run, dx / run, 0.0]), run / radius) @ turned[ball]


def random_turn(dice: np.random.Generator) -> NDArray[np.float64]:
    axis = dice.normal(size=3)
    return _rotation(axis / np.linalg.norm(axis), float(dice.uniform(0, math.pi)))


def _rotation(axis: NDArray[np.float64], angle: float) -> NDArray[np.float64]:
    x, y, z = axis
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return np.asarray(np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * (cross @ cross))
