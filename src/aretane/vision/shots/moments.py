"""The moment of the stroke to a picture: when the places of the balls that left begin to change."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.vision.files.frames import every_picture
from aretane.vision.shots.watch import Shot
from aretane.vision.table.camera import HALF, Camera, project
from aretane.vision.table.cloth import Image, ball_radius

EARLIER = 0.7  # seconds before the look in which a ball was gone
INNER = 0.7  # ball radii that are looked at
CHANGED = 16.0  # of 255: mean change of a ball's pixels when it has begun to move
MOST = 60  # pictures looked at


def with_contact(path: Path, shot: Shot, camera: Camera, radius: float) -> Shot:
    """The shot with its contact moved to the first picture in which a ball that left looks otherwise than before.

    A picture of another size or a part that cannot be decoded leaves the contact as it was.
    """
    places = [one.place for one in shot.before if one.track in shot.left]
    begin = max(shot.start - 0.05, shot.contact - EARLIER)
    if not places:
        return shot
    discs = [_disc(camera, place, radius) for place in places]
    first: list[NDArray[np.float32]] | None = None
    for time, picture in every_picture(path, begin, shot.contact, MOST):
        now = [_seen(picture, disc) for disc in discs]
        if first is None:
            first = now
        elif any(_differ(a, b) > CHANGED for a, b in zip(first, now, strict=True)):
            return replace(shot, contact=max(shot.start, min(time, shot.contact)))
    return shot


def _disc(camera: Camera, place: tuple[float, float], radius: float) -> tuple[int, int, int]:
    u, v = project(camera, np.array([[*place, radius]]))[0] - HALF
    return round(float(u)), round(float(v)), max(1, round(INNER * ball_radius(camera, place, radius)))


def _seen(picture: Image, disc: tuple[int, int, int]) -> NDArray[np.float32]:
    """The grey values in the square round a ball's middle."""
    u, v, half = disc
    part = picture[max(0, v - half) : v + half + 1, max(0, u - half) : u + half + 1]
    if part.size == 0:
        return np.zeros((1, 1), np.float32)
    return np.asarray(cv2.cvtColor(part, cv2.COLOR_BGR2GRAY), np.float32)


def _differ(one: NDArray[np.float32], other: NDArray[np.float32]) -> float:
    return float(np.abs(one - other).mean()) if one.shape == other.shape else 0.0
