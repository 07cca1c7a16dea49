"""A table in a room, seen by a known camera. What does not move is painted once."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.render.balls import paint_ball, paint_shadow
from aretane.vision.render.brush import Image
from aretane.vision.render.look import Look
from aretane.vision.render.room import paint_room
from aretane.vision.render.table import paint_before, paint_behind
from aretane.vision.table.camera import RADIAL, Camera, indexed

GRAIN = 1.5  # of 255: what a sensor adds where nothing moves
VIGNETTE = 0.16  # how much darker the corners of a picture are
HALO = 1.0  # pixels by which a lens softens


@dataclass
class Scene:
    """`paint` gives the picture of balls at their places."""

    table: Table
    camera: Camera
    size: tuple[int, int]
    look: Look = field(default_factory=Look)
    _layers: tuple[Image, Image, NDArray[np.float32]] | None = field(default=None, repr=False)
    _bend: tuple[NDArray[np.float32], NDArray[np.float32]] | None = field(default=None, repr=False)
    _last: tuple[object, Image] | None = field(default=None, repr=False)

    def paint(self, balls: Mapping[str, Point], turned: Mapping[str, NDArray[np.float64]]) -> Image:
        """The picture with balls at their places; `turned` gives each ball's rotation matrix."""
        asked = tuple(sorted(balls.items()))
        if self._last is not None and self._last[0] == asked:
            return self._last[1].copy()
        straight = self.straight
        behind, rail, cover = self._still(straight)
        picture = behind.copy()
        for ball, place in balls.items():
            paint_shadow(picture, straight, self.table, place, self.table.radius_of(ball))
        eye = straight.position
        for ball in sorted(balls, key=lambda ball: -math.dist(balls[ball], (eye[0], eye[1]))):
            paint_ball(picture, straight, self.table, balls[ball], ball, turned.get(ball, np.eye(3)), self.look)
        picture = (cover * rail + (1 - cover) * picture).astype(np.uint8)
        self._last = (asked, picture)
        return picture.copy()

    @property
    def straight(self) -> Camera:
        """The same camera for arrays, with a lens that bends nothing: what is painted is bent at the end."""
        parameters = self.camera._parameters.copy()
        parameters[RADIAL] = 0.0
        return indexed(replace(self.camera, radial=0.0, _parameters=parameters))

    def finished(self, picture: Image) -> Image:
        """As the lens and the sensor give it: softened, bent, darker in the corners."""
        soft = np.asarray(cv2.GaussianBlur(picture, (3, 3), 0.55 * HALO), np.uint8)
        if self.camera.radial:
            self._bend = self._bend or _bent(indexed(self.camera), self.size)
            soft = np.asarray(cv2.remap(soft, *self._bend, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))
        return soft

    def _still(self, straight: Camera) -> tuple[Image, Image, NDArray[np.float32]]:
        if self._layers is None:
            behind = paint_room(self.table, straight, self.size, self.look)
            paint_behind(behind, self.table, straight, self.look)
            front, cover = paint_before(self.table, straight, self.look, behind)
            self._layers = (_vignetted(behind), _vignetted(front), cover)
        return self._layers


def _vignetted(picture: Image) -> Image:
    height, width = picture.shape[:2]
    y, x = np.mgrid[-1 : 1 : height * 1j, -1 : 1 : width * 1j]
    light = 1 - VIGNETTE * (x**2 + y**2) / 2
    grain = np.random.default_rng(7).normal(0, GRAIN, picture.shape)
    return np.asarray(np.clip(picture * light[..., None] + grain, 0, 255), np.uint8)


def _bent(camera: Camera, size: tuple[int, int]) -> tuple[NDArray[np.float32], NDArray[np.float32]]:
    """For every pixel of the bent picture, the one of the straight picture that it shows."""
    u, v = np.meshgrid(np.arange(size[0], dtype=float), np.arange(size[1], dtype=float))
    bx, by = (u - camera.centre[0]) / camera.focal, (v - camera.centre[1]) / camera.focal
    fx, fy = bx.copy(), by.copy()
    for _ in range(10):  # fixed point of flat (1 + k r²) = bent
        grown = 1 + camera.radial * (fx**2 + fy**2)
        fx, fy = bx / grown, by / grown
    x, y = fx * camera.focal + camera.centre[0], fy * camera.focal + camera.centre[1]
    return x.astype(np.float32), y.astype(np.float32)
