"""Synthetic pictures of a table with numbered balls, seen by a known camera.

A simple painter: cloth, rails, pockets and sights as projected polygons, balls as shaded spheres with
their numbers and stripes. Colours are those of the trade's standard ball set (common practice).
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.camera import Camera, project
from aretane.vision.marks import SIGHT_FROM_NOSE, SIGHT_HEIGHT, mark_places

Image = NDArray[np.uint8]

CLOTH = (122, 96, 46)  # BGR
CUSHION = (96, 74, 34)
WOOD = (40, 52, 74)
ROOM = (30, 30, 33)
LIGHT = np.array([0.25, -0.2, 0.95]) / np.linalg.norm([0.25, -0.2, 0.95])

BALL_COLOURS = {  # BGR
    "cue": (232, 240, 242), "1": (30, 190, 240), "2": (160, 70, 20), "3": (40, 40, 205), "4": (120, 40, 90),
    "5": (30, 110, 235), "6": (60, 120, 20), "7": (40, 30, 120), "8": (28, 28, 28), "9": (30, 190, 240),
}  # fmt: skip
STRIPED = {"9"}
IVORY = (225, 236, 240)


@dataclass
class Scene:
    """A table seen by a camera; the empty table is painted once."""

    table: Table
    camera: Camera
    size: tuple[int, int]
    _empty: Image | None = field(default=None, repr=False)

    def paint(self, balls: Mapping[str, Point], turned: Mapping[str, NDArray[np.float64]]) -> Image:
        """The picture with balls at their places; `turned` gives each ball's rotation matrix."""
        if self._empty is None:
            self._empty = _empty_table(self.table, self.camera, self.size)
        picture = self._empty.copy()
        for ball, place in balls.items():
            _shadow(picture, self.camera, place, self.table.radius_of(ball))
        eye = self.camera.position
        far_first = sorted(balls, key=lambda ball: -math.dist(balls[ball], (eye[0], eye[1])))
        for ball in far_first:
            radius = self.table.radius_of(ball)
            _sphere(picture, self.camera, balls[ball], radius, ball, turned.get(ball, np.eye(3)))
        return picture


def _empty_table(table: Table, camera: Camera, size: tuple[int, int]) -> Image:
    width, height = size
    picture = np.full((height, width, 3), ROOM, np.uint8)
    L, W, rail, nose = table.length, table.width, 0.13, table.nose_height
    _fill(picture, camera, _rectangle(-rail, -rail, L + rail, W + rail, SIGHT_HEIGHT), WOOD)
    _fill(picture, camera, _rectangle(-0.05, -0.05, L + 0.05, W + 0.05, nose), CUSHION)
    _fill(picture, camera, _rectangle(0, 0, L, W, nose), tuple(int(c * 0.6) for c in CLOTH))
    _fill(picture, camera, _rectangle(0.01, 0.01, L - 0.01, W - 0.01, 0.0), CLOTH)
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        x, y = pocket.drop[0] + half * pocket.axis[0], pocket.drop[1] + half * pocket.axis[1]
        angles = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        ring = [(x + half * math.cos(a), y + half * math.sin(a), nose * 0.5) for a in angles]
        _fill(picture, camera, ring, (12, 12, 12))
    for name, (x, y, z) in mark_places(table).items():
        if name.startswith("sight"):
            s = SIGHT_FROM_NOSE / 12
            _fill(picture, camera, [(x - s, y, z), (x, y - s, z), (x + s, y, z), (x, y + s, z)], IVORY)
    grain = np.random.default_rng(7).normal(0, 2.0, picture.shape)
    return np.clip(cv2.GaussianBlur(picture, (3, 3), 0.8) + grain, 0, 255).astype(np.uint8)


def _rectangle(x0: float, y0: float, x1: float, y1: float, z: float) -> list[tuple[float, float, float]]:
    return [(x0, y0, z), (x1, y0, z), (x1, y1, z), (x0, y1, z)]


def _fill(
    picture: Image, camera: Camera, places: list[tuple[float, float, float]], colour: tuple[int, ...]
) -> None:
    pixels = np.round(project(camera, np.array(places)) * 16).astype(np.int32)
    cv2.fillPoly(picture, [pixels], colour, lineType=cv2.LINE_AA, shift=4)


def _shadow(picture: Image, camera: Camera, place: Point, radius: float) -> None:
    angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    x, y = place[0] - 0.25 * radius, place[1] + 0.2 * radius
    ring = [(x + radius * math.cos(a), y + radius * math.sin(a), 0.0) for a in angles]
    _fill(picture, camera, ring, tuple(int(c * 0.62) for c in CLOTH))


def _sphere(
    picture: Image, camera: Camera, place: Point, radius: float, ball: str, turned: NDArray[np.float64]
) -> None:
    """Paint one ball by meeting each pixel's ray with the sphere."""
    centre = np.array([place[0], place[1], radius])
    u, v = project(camera, centre[None])[0]
    depth = (camera.rotation @ centre + camera.translation)[2]
    reach = camera.focal * radius / depth * 1.15 + 2
    height, width = picture.shape[:2]
    x0, x1 = max(0, int(u - reach)), min(width, int(u + reach) + 1)
    y0, y1 = max(0, int(v - reach)), min(height, int(v + reach) + 1)
    if x0 >= x1 or y0 >= y1:
        return
    columns, rows = np.meshgrid(np.arange(x0, x1), np.arange(y0, y1))
    seen = np.stack(
        [
            (columns - camera.centre[0]) / camera.focal,
            (rows - camera.centre[1]) / camera.focal,
            np.ones_like(columns, dtype=float),
        ],
        axis=-1,
    )
    rays = seen @ camera.rotation
    rays /= np.linalg.norm(rays, axis=-1, keepdims=True)
    towards = centre - camera.position
    along = rays @ towards
    missed = np.maximum(0.0, towards @ towards - along**2)
    edge = camera.focal * (radius - np.sqrt(missed)) / depth  # pixels inside the outline
    cover = np.clip(edge + 0.5, 0, 1)[..., None]
    normal = (rays * (along - np.sqrt(np.maximum(0, radius**2 - missed)))[..., None] - towards) / radius
    colour = _texture(ball, normal @ turned)
    lit = 0.45 + 0.6 * np.clip(normal @ LIGHT, 0, 1)
    half = LIGHT - rays
    half /= np.linalg.norm(half, axis=-1, keepdims=True)
    shine = 190 * np.clip(np.sum(normal * half, axis=-1), 0, 1) ** 60
    painted = np.clip(colour * lit[..., None] + shine[..., None], 0, 255)
    under = picture[y0:y1, x0:x1]
    picture[y0:y1, x0:x1] = (cover * painted + (1 - cover) * under).astype(np.uint8)


def _texture(ball: str, point: NDArray[np.float64]) -> NDArray[np.float64]:
    """Colour at points of the unit sphere in the ball's own frame: stripe round z, numbers at +-x."""
    colour = np.broadcast_to(np.array(BALL_COLOURS[ball], float), point.shape).copy()
    if ball in STRIPED:
        colour[np.abs(point[..., 2]) > 0.55] = IVORY
    if ball == "cue":
        return colour
    face = np.abs(point[..., 0])
    inside = face > math.cos(math.radians(27))
    size = 64
    scale = size / 2 / math.sin(math.radians(27))
    side = np.sign(point[..., 0])
    i = np.clip((size / 2 - point[..., 2] * scale).astype(int), 0, size - 1)
    j = np.clip((size / 2 + side * point[..., 1] * scale).astype(int), 0, size - 1)
    ink = _number(ball)[i, j][..., None]
    patch = np.array(IVORY) * (1 - ink) + np.array((20, 20, 20)) * ink
    return np.where(inside[..., None], patch, colour)


@lru_cache(maxsize=32)
def _number(ball: str) -> NDArray[np.float64]:
    plate = np.zeros((64, 64), np.uint8)
    (w, h), _ = cv2.getTextSize(ball, cv2.FONT_HERSHEY_SIMPLEX, 1.3, 4)
    cv2.putText(plate, ball, (32 - w // 2, 32 + h // 2), cv2.FONT_HERSHEY_SIMPLEX, 1.3, 255, 4, cv2.LINE_AA)
    return plate / 255.0
