"""The two questions asked of a recording: which balls are there at a moment, and which shots does it hold."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError
from aretane.core.table import Point, Table
from aretane.vision.balls import SMALLEST, find_balls, prepare
from aretane.vision.camera import Camera, solve_camera
from aretane.vision.cloth import ball_radius
from aretane.vision.frames import picture_at
from aretane.vision.identity import name_balls
from aretane.vision.shots import find_shots

Rectangle = tuple[float, float, float, float]

LEAST_BED = 0.015  # of the picture: a smaller bed is no table in view


def balls_at(
    path: Path, at: float, table: Table, marks: Mapping[str, Point], picture: Rectangle | None, ball_set: str
) -> dict[str, Any]:
    """The answer of `video balls`."""
    if not at >= 0:
        raise InputError("at", "must be a time of the recording in seconds")
    _, shown = picture_at(path, at)
    size = (shown.shape[1], shown.shape[0])
    camera = _camera(table, marks, size, picture)
    still = prepare(shown, table, camera)
    _refuse_nonsense(float(still.bed.cloth.mean()), table, camera)
    named = name_balls(still, find_balls(still, table, camera), ball_set)
    return {
        "balls": [
            {
                "id": one.ball,
                "confidence": round(one.confidence, 3),
                "x": round(one.candidate.place[0], 4),
                "y": round(one.candidate.place[1], 4),
                "sigma": round(one.candidate.sigma, 4),
                "pixel": [round(one.candidate.pixel[0], 1), round(one.candidate.pixel[1], 1)],
            }
            for one in named
        ],
        "camera": {"error_px": round(camera.error_px, 3), "focal_px": round(camera.focal, 1)},
    }


def shots_of(
    path: Path,
    table: Table,
    marks: Mapping[str, Point],
    picture: Rectangle | None,
    progress: Callable[[float], None] | None = None,
) -> dict[str, Any]:
    """The answer of `video shots`."""
    shots, looked, rate = find_shots(path, table, lambda size: _camera(table, marks, size, picture), progress)
    if looked == 0:
        raise InputError("recording", "the recording has no picture")
    return {
        "frames_per_second": round(rate, 3),
        "shots": [
            {
                "start": round(shot.start, 3),
                "contact": round(shot.contact, 3),
                "still": round(shot.still, 3),
                "confidence": shot.confidence,
                "moved": shot.moved,
                "gone": shot.gone,
            }
            for shot in shots
        ],
    }


def _camera(table: Table, marks: Mapping[str, Point], size: tuple[int, int], picture: Rectangle | None) -> Camera:
    for name, (u, v) in marks.items():
        if not (-0.5 * size[0] <= u <= 1.5 * size[0] and -0.5 * size[1] <= v <= 1.5 * size[1]):
            raise InputError(
                name.replace("corner:", "corners: "), f"lies far outside of the picture of {size[0]} x {size[1]}"
            )
    try:
        return solve_camera(table, marks, size, picture=picture)
    except InputError as problem:
        raise InputError(problem.field.replace("marks", "corners"), problem.message) from None


def _refuse_nonsense(bed: float, table: Table, camera: Camera) -> None:
    if bed < LEAST_BED:
        raise InputError("corners", "the table they mark is too small in this picture to see its balls")
    middle = (table.length / 2, table.width / 2)
    if ball_radius(camera, middle, table.radius) < SMALLEST:
        raise InputError("corners", "the balls are smaller than six pixels: film from nearer, or larger")
