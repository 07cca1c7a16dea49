"""One ball: its colours and number; and its shadow."""

from __future__ import annotations

import math
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.table import Point, Table
from aretane.vision.balls.ball_sets import IVORY, colour_of, is_striped
from aretane.vision.render.brush import Image
from aretane.vision.render.light import shaded
from aretane.vision.render.look import Look
from aretane.vision.table.camera import Camera, project

Array = NDArray[np.float64]

STRIPE = 0.55  # of the radius: half the stripe's width
MEASLE, RED = 0.97, (50, 40, 190)  # how far out a spot of the cue ball begins, and its colour
CREAM, YELLOWED = (150, 205, 226), np.array((0.66, 0.88, 0.96))
PLATE = 27.0  # degrees: half the angle that the number's white field takes


def paint_ball(
    picture: Image, camera: Camera, table: Table, place: Point, ball: str, turned: Array, look: Look
) -> None:
    """Paint one ball by meeting each pixel's ray with the sphere."""
    radius = table.radius_of(ball)
    centre = np.array([place[0], place[1], radius])
    u, v = project(camera, centre[None])[0]
    depth = (camera.rotation @ centre + camera.translation)[2]
    reach = camera.focal * radius / depth * 1.15 + 2
    height, width = picture.shape[:2]
    x0, x1 = max(0, int(u - reach)), min(width, int(u + reach) + 1)
    y0, y1 = max(0, int(v - reach)), min(height, int(v + reach) + 1)
    if x0 >= x1 or y0 >= y1:
        return
    rays = _rays(camera, np.arange(x0, x1), np.arange(y0, y1))
    towards = centre - camera.position
    along = rays @ towards
    missed = np.maximum(0.0, towards @ towards - along**2)
    cover = np.clip(camera.focal * (radius - np.sqrt(missed)) / depth + 0.5, 0, 1)[..., None]
    normal = (rays * (along - np.sqrt(np.maximum(0, radius**2 - missed)))[..., None] - towards) / radius
    texture = _texture(ball, normal @ turned, look)
    painted = shaded(table, look.lamps, centre, normal, rays, texture, np.array(look.cloth, float))
    under = picture[y0:y1, x0:x1]
    picture[y0:y1, x0:x1] = (cover * painted + (1 - cover) * under).astype(np.uint8)


def _rays(camera: Camera, columns: NDArray[np.int64], rows: NDArray[np.int64]) -> Array:
    across, down = np.meshgrid(columns, rows)
    flat = np.stack(
        [
            (across - camera.centre[0]) / camera.focal,
            (down - camera.centre[1]) / camera.focal,
            np.ones(across.shape),
        ],
        axis=-1,
    )
    rays = flat @ camera.rotation
    return np.asarray(rays / np.linalg.norm(rays, axis=-1, keepdims=True))


def _texture(ball: str, point: Array, look: Look) -> Array:
    """Colour at points of the unit sphere in the ball's own frame: stripe round z, numbers at +-x."""
    colour = np.broadcast_to(_paint(ball, look), point.shape).copy()
    ivory = _aged(np.array(IVORY, float), look)
    if ball == CUE and look.measles:
        for axis in range(3):
            colour[np.abs(point[..., axis]) > MEASLE] = RED
    if is_striped(ball):
        colour[np.abs(point[..., 2]) > STRIPE] = ivory
    if not ball.isdigit():
        return colour
    inside = np.abs(point[..., 0]) > math.cos(math.radians(PLATE))
    size = 64
    scale = size / 2 / math.sin(math.radians(PLATE))
    side = np.sign(point[..., 0])
    i = np.clip((size / 2 - point[..., 2] * scale).astype(int), 0, size - 1)
    j = np.clip((size / 2 + side * point[..., 1] * scale).astype(int), 0, size - 1)
    ink = _number(ball)[i, j][..., None]
    plate = ivory * (1 - ink) + np.array((20, 20, 20)) * ink
    return np.where(inside[..., None], plate, colour)


def _paint(ball: str, look: Look) -> Array:
    """The ball's colour as its maker mixed it."""
    if ball == CUE:
        return (1 - look.cream) * _aged(np.array(colour_of(ball), float), look) + look.cream * np.array(CREAM)
    plain = np.array(colour_of(ball, look.make), float)
    if not look.other_make:
        return _aged(plain, look)
    dice = np.random.default_rng([look.seed, *ball.split("-")[0].encode()])
    lighter, mixed = dice.normal(1.0, 0.12), dice.normal(1.0, 0.1, 3)
    return _aged(np.clip(plain * lighter * mixed + 6, 0, 245), look)


def _aged(colour: Array, look: Look) -> Array:
    """As it is after years of smoke, chalk and light."""
    dull = 0.72 * colour + 0.28 * np.mean(colour)
    return np.asarray((1 - look.aged) * colour + look.aged * dull * YELLOWED)


@lru_cache(maxsize=32)
def _number(ball: str) -> Array:
    plate = np.zeros((64, 64), np.uint8)
    (w, h), _ = cv2.getTextSize(ball, cv2.FONT_HERSHEY_SIMPLEX, 1.3, 4)
    cv2.putText(plate, ball, (32 - w // 2, 32 + h // 2), cv2.FONT_HERSHEY_SIMPLEX, 1.3, 255, 4, cv2.LINE_AA)
    return plate / 255.0


def paint_shadow(picture: Image, camera: Camera, table: Table, place: Point, radius: float) -> None:
    """The soft shadow away from the lamps, and the dark spot where the ball touches the cloth."""
    away = np.array([place[0] - table.length / 2, place[1] - table.width / 2]) * [0.35, 1.0]
    off = 0.35 * radius * away / max(0.3, float(np.linalg.norm(away)))
    angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    ring = np.column_stack([np.cos(angles), np.sin(angles), np.zeros(24)])
    outer = project(camera, np.array([*place, 0.0]) + 2.4 * radius * ring)
    x0, y0 = np.floor(outer.min(axis=0)).astype(int)
    x1, y1 = np.ceil(outer.max(axis=0)).astype(int) + 1
    height, width = picture.shape[:2]
    x0, y0, x1, y1 = max(0, x0), max(0, y0), min(width, x1), min(height, y1)
    if x0 >= x1 or y0 >= y1:
        return
    light = np.ones((y1 - y0, x1 - x0), np.float32)
    for grown, shift, dark in ((1.35, 1.0, 0.86), (0.95, 0.7, 0.72), (0.55, 0.2, 0.5)):
        places = np.array([place[0] + shift * off[0], place[1] + shift * off[1], 0.0]) + grown * radius * ring
        pixels = (project(camera, places) - (x0, y0)) * 16
        cv2.fillPoly(light, [np.round(pixels).astype(np.int32)], dark, lineType=cv2.LINE_AA, shift=4)
    light = cv2.GaussianBlur(light, (0, 0), max(0.6, 0.012 * (x1 - x0) * 2.4))
    part = picture[y0:y1, x0:x1]
    picture[y0:y1, x0:x1] = (part * light[..., None]).astype(np.uint8)
