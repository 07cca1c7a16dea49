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

WOOD = (40, 52, 74)
ROOM = (30, 30, 33)
LIGHT = np.array([0.25, -0.2, 0.95]) / np.linalg.norm([0.25, -0.2, 0.95])
IVORY = (225, 236, 240)
HOLE = (12, 12, 12)
RAIL = 0.13  # m, from the nose to the outer edge of the wood
FACE = 0.55  # how bright a cushion's face is beside the cloth

CLOTHS = {  # BGR
    "petrol": (122, 96, 46),
    "blue": (160, 92, 30),
    "light blue": (190, 150, 88),
    "green": (60, 104, 28),
    "grey": (118, 112, 108),
}

_HUES = {  # BGR, the trade's standard sets (common practice)
    "1": (30, 190, 240), "2": (160, 70, 20), "3": (40, 40, 205), "4": (120, 40, 90), "5": (30, 110, 235),
    "6": (60, 120, 20), "7": (40, 30, 120), "8": (28, 28, 28),
}  # fmt: skip
_SNOOKER = {
    "red": (40, 36, 178), "yellow": (40, 200, 235), "green": (62, 118, 24), "brown": (38, 66, 112),
    "blue": (168, 92, 24), "pink": (172, 150, 238), "black": (26, 26, 26),
}  # fmt: skip
CUE_COLOUR = (232, 240, 242)


def colour_of(ball: str) -> tuple[int, int, int]:
    """The ball's own colour, of a striped one the stripe's."""
    if ball == "cue":
        return CUE_COLOUR
    if ball.isdigit():
        return _HUES[str((int(ball) - 1) % 8 + 1)]
    return _SNOOKER[ball.split("-")[0]]


def is_striped(ball: str) -> bool:
    return ball.isdigit() and int(ball) > 8


@dataclass(frozen=True)
class Look:
    """What the room and the cloth look like. `marks` are places of chalk; `template` shows one where balls rack."""

    cloth: tuple[int, int, int] = CLOTHS["petrol"]
    wood: tuple[int, int, int] = WOOD
    room: tuple[int, int, int] = ROOM
    marks: tuple[Point, ...] = ()
    spots: tuple[Point, ...] = ()
    second_table: bool = False


@dataclass
class Scene:
    """A table seen by a camera. What does not move is painted once: a layer behind the balls, one before them."""

    table: Table
    camera: Camera
    size: tuple[int, int]
    look: Look = Look()
    _behind: Image | None = field(default=None, repr=False)
    _before: tuple[Image, NDArray[np.float32]] | None = field(default=None, repr=False)

    def paint(self, balls: Mapping[str, Point], turned: Mapping[str, NDArray[np.float64]]) -> Image:
        """The picture with balls at their places; `turned` gives each ball's rotation matrix."""
        if self._behind is None or self._before is None:
            self._behind, self._before = _layers(self.table, self.camera, self.size, self.look)
        picture = self._behind.copy()
        for ball, place in balls.items():
            _shadow(picture, self.camera, place, self.table.radius_of(ball), self.look.cloth)
        eye = self.camera.position
        far_first = sorted(balls, key=lambda ball: -math.dist(balls[ball], (eye[0], eye[1])))
        for ball in far_first:
            radius = self.table.radius_of(ball)
            _sphere(picture, self.camera, balls[ball], radius, ball, turned.get(ball, np.eye(3)))
        rail, cover = self._before
        return (cover * rail + (1 - cover) * picture).astype(np.uint8)


def _layers(
    table: Table, camera: Camera, size: tuple[int, int], look: Look
) -> tuple[Image, tuple[Image, NDArray[np.float32]]]:
    """What lies behind the balls, and the near rails that cover some of the bed, with their coverage."""
    width, height = size
    picture = np.full((height, width, 3), look.room, np.uint8)
    if look.second_table:
        _other_table(picture, table, camera, look)
    L, W, nose = table.length, table.width, table.nose_height
    _fill(picture, camera, _rectangle(-RAIL, -RAIL, L + RAIL, W + RAIL, 0.0), _dim(look.wood, 0.5))
    _fill(picture, camera, _rectangle(-0.03, -0.03, L + 0.03, W + 0.03, 0.0), _dim(look.cloth, FACE))
    _fill(picture, camera, _rectangle(0, 0, L, W, 0.0), look.cloth)
    _light(picture, table, camera, look)
    for x, y in look.marks:
        _blot(picture, camera, (x, y), 0.006, (150, 140, 120))
    for x, y in look.spots:
        _blot(picture, camera, (x, y), 0.009, _dim(look.cloth, 0.45))
    near = [side for side in _SIDES if _is_near(side, table, camera)]
    for side in _SIDES:
        if side not in near:
            _rail(picture, table, camera, look, side)
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        x, y = pocket.drop[0] + half * pocket.axis[0], pocket.drop[1] + half * pocket.axis[1]
        angles = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        _fill(picture, camera, [(x + half * math.cos(a), y + half * math.sin(a), nose * 0.5) for a in angles], HOLE)
    front = picture.copy()
    mask = np.zeros((height, width, 3), np.uint8)
    for side in near:
        _rail(front, table, camera, look, side)
        _rail(mask, table, camera, Look(cloth=(255, 255, 255), wood=(255, 255, 255)), side, plain=True)
    soft = cv2.GaussianBlur(mask, (3, 3), 0.7).astype(np.float32) / 255.0
    return _grainy(picture), (_grainy(front), soft)


def _grainy(picture: Image) -> Image:
    grain = np.random.default_rng(7).normal(0, 2.0, picture.shape)
    return np.clip(cv2.GaussianBlur(picture, (3, 3), 0.8) + grain, 0, 255).astype(np.uint8)


_SIDES = ("head", "foot", "left", "right")


def _is_near(side: str, table: Table, camera: Camera) -> bool:
    """Whether the camera stands outside of this rail, and so sees it from behind."""
    x, y, _ = camera.position
    return {"head": x < 0, "foot": x > table.length, "right": y < 0, "left": y > table.width}[side]


def _rail(picture: Image, table: Table, camera: Camera, look: Look, side: str, plain: bool = False) -> None:
    """One rail: the cushion's dark face below its nose, its cloth on top, the wood with its sights."""
    L, W, nose = table.length, table.width, table.nose_height
    inner = {
        "head": ((0.0, W), (0.0, 0.0)), "foot": ((L, 0.0), (L, W)),
        "right": ((0.0, 0.0), (L, 0.0)), "left": ((L, W), (0.0, W)),
    }[side]  # fmt: skip
    out = {"head": (-1, 0), "foot": (1, 0), "right": (0, -1), "left": (0, 1)}[side]

    def line(away: float, z: float) -> list[tuple[float, float, float]]:
        return [(x + away * out[0], y + away * out[1], z) for x, y in inner]

    def quad(
        a: list[tuple[float, float, float]], b: list[tuple[float, float, float]], colour: tuple[int, ...]
    ) -> None:
        _fill(picture, camera, [*a, *reversed(b)], colour)

    if not plain and not _is_near(side, table, camera):
        quad(line(0.012, 0.0), line(0.0, nose), _dim(look.cloth, FACE))
    quad(line(0.0, nose), line(0.05, SIGHT_HEIGHT), look.cloth if plain else _dim(look.cloth, 1.08))
    quad(line(0.05, SIGHT_HEIGHT), line(RAIL, SIGHT_HEIGHT), look.wood)
    if plain:
        return
    if _is_near(side, table, camera):
        quad(line(RAIL, SIGHT_HEIGHT), line(RAIL, -0.25), _dim(look.wood, 0.6))
    for name, (x, y, z) in mark_places(table).items():
        if name.startswith(f"sight:{side}"):
            s = SIGHT_FROM_NOSE / 12
            _fill(picture, camera, [(x - s, y, z), (x, y - s, z), (x + s, y, z), (x, y + s, z)], IVORY)


def _light(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """Lamps above the middle: the cloth is darker towards the rails."""
    L, W = table.length, table.width
    for share in np.linspace(1.0, 0.35, 9):
        x, y = 0.5 * L * share, 0.5 * W * share
        bright = 0.86 + 0.2 * (1 - share)
        middle = _rectangle(L / 2 - x, W / 2 - y, L / 2 + x, W / 2 + y, 0.0)
        _fill(picture, camera, middle, _dim(look.cloth, bright))


def _other_table(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """A second table beside or behind, with balls on it."""
    L, W, off = table.length, table.width, table.width + 1.3
    _fill(
        picture, camera, _rectangle(-RAIL, W + 1.17, L + RAIL, W + off + 0.13, SIGHT_HEIGHT), _dim(look.wood, 0.8)
    )
    _fill(picture, camera, _rectangle(0, W + 1.3, L, W + off, 0.0), _dim(look.cloth, 0.8))
    for n, colour in enumerate((IVORY, (40, 40, 205), (30, 190, 240), (160, 70, 20))):
        _blot(picture, camera, (0.3 + 0.5 * n, W + 1.5 + 0.2 * (n % 3)), table.radius, colour)


def _blot(picture: Image, camera: Camera, place: Point, radius: float, colour: tuple[int, ...]) -> None:
    angles = np.linspace(0, 2 * np.pi, 20, endpoint=False)
    _fill(
        picture,
        camera,
        [(place[0] + radius * math.cos(a), place[1] + radius * math.sin(a), 0.0) for a in angles],
        colour,
    )


def _dim(colour: tuple[int, ...], by: float) -> tuple[int, ...]:
    return tuple(min(255, int(c * by)) for c in colour)


def _rectangle(x0: float, y0: float, x1: float, y1: float, z: float) -> list[tuple[float, float, float]]:
    return [(x0, y0, z), (x1, y0, z), (x1, y1, z), (x0, y1, z)]


def _fill(
    picture: Image, camera: Camera, places: list[tuple[float, float, float]], colour: tuple[int, ...]
) -> None:
    pixels = project(camera, np.array(places)) * 16
    if np.all(np.isfinite(pixels)) and np.abs(pixels).max() < 1e6:
        cv2.fillPoly(picture, [np.round(pixels).astype(np.int32)], colour, lineType=cv2.LINE_AA, shift=4)


def _shadow(picture: Image, camera: Camera, place: Point, radius: float, cloth: tuple[int, ...]) -> None:
    """A soft shadow beside the ball, and the dark line where it touches the cloth."""
    for grown, dark in ((1.25, 0.86), (1.0, 0.7), (0.6, 0.45)):
        angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
        x, y = place[0] - 0.22 * grown * radius, place[1] + 0.18 * grown * radius
        r = grown * radius
        ring = [(x + r * math.cos(a), y + r * math.sin(a), 0.0) for a in angles]
        _fill(picture, camera, ring, _dim(cloth, dark))


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
    colour = np.broadcast_to(np.array(colour_of(ball), float), point.shape).copy()
    if is_striped(ball):
        colour[np.abs(point[..., 2]) > 0.55] = IVORY
    if not ball.isdigit():
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
