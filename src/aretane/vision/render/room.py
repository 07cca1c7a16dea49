"""The room behind the table: floor, wall, furniture, people who watch, a second table; all out of focus."""

from __future__ import annotations

import cv2
import numpy as np

from aretane.core.table import Table
from aretane.vision.balls.ball_sets import IVORY, colour_of
from aretane.vision.render.brush import Image, blot, dim, fill, limb, rectangle
from aretane.vision.render.look import Look
from aretane.vision.table.camera import Camera

FLOOR = -0.78  # m, below the bed


def paint_room(table: Table, camera: Camera, size: tuple[int, int], look: Look) -> Image:
    """The picture before the table is in it."""
    width, height = size
    dice = np.random.default_rng(look.seed)
    picture = np.full((height, width, 3), look.room, np.uint8)
    L, W = table.length, table.width
    x0, x1, y0, y1 = -2.6, L + 3.0, -3.5, W + 3.5
    fill(picture, camera, rectangle(x0 + 1.2, y0, x1, y1, FLOOR), dim((62, 70, 84), 0.8))
    for n in range(10):  # boards of the floor
        x = x0 + 1.2 + n * (x1 - x0 - 1.2) / 10
        fill(picture, camera, rectangle(x, y0, x + 0.26, y1, FLOOR), dim((58, 66, 80), dice.uniform(0.7, 0.95)))
    for wall in (
        [(x1, y0, FLOOR), (x1, y1, FLOOR), (x1, y1, 2.2), (x1, y0, 2.2)],
        [(x0, y1, FLOOR), (x1, y1, FLOOR), (x1, y1, 2.2), (x0, y1, 2.2)],
    ):
        fill(picture, camera, wall, dim((104, 112, 120), dice.uniform(0.5, 0.9)))
    for _ in range(7):  # pictures, a bar, a screen
        y, z, w, h = (
            dice.uniform(y0, y1 - 1),
            dice.uniform(-0.3, 1.3),
            dice.uniform(0.3, 1.2),
            dice.uniform(0.2, 0.8),
        )
        colour = tuple(int(v) for v in dice.uniform(20, 210, 3))
        fill(picture, camera, [(x1, y, z), (x1, y + w, z), (x1, y + w, z + h), (x1, y, z + h)], colour)
    for _ in range(4):  # people who watch
        x, y = dice.uniform(L + 0.9, L + 2.2), dice.uniform(y0 + 0.5, y1 - 0.5)
        shirt = tuple(int(v) for v in dice.uniform(20, 150, 3))
        limb(picture, camera, (x, y, -0.7), (x, y, 0.1), (0.14, 0.16), (50, 42, 40))
        limb(picture, camera, (x, y, 0.15), (x, y, 0.55), (0.2, 0.17), shirt)
        limb(picture, camera, (x, y, 0.8), (x, y, 0.86), (0.09, 0.1), (120, 150, 190))
    if look.second_table:
        _other_table(picture, table, camera, look)
    blurred = cv2.GaussianBlur(picture, (0, 0), 0.0018 * width)
    return np.asarray(blurred, np.uint8)


def _other_table(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """A second table behind and one beside, with balls on them."""
    L, W = table.length, table.width
    for x, y in ((0.0, W + 1.25), (L + 1.3, -0.2)):
        rails = rectangle(x - 0.13, y - 0.13, x + L + 0.13, y + W + 0.13, 0.04)
        fill(picture, camera, rails, dim(look.wood, 0.8))
        fill(picture, camera, rectangle(x, y, x + L, y + W, 0.0), dim(look.cloth, 0.85))
        for n, colour in enumerate((IVORY, colour_of("3"), colour_of("1"), colour_of("2"), colour_of("8"))):
            place = (x + 0.3 + 0.43 * n, y + 0.2 + 0.31 * ((n * 2) % 3))
            blot(picture, camera, place, table.radius, colour, table.radius)
