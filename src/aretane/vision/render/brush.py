"""The few strokes that everything is painted with. Colours are blue, green, red; places in metres."""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.table.camera import Camera, project

Image = NDArray[np.uint8]
Colour = tuple[int, ...]
Place3 = tuple[float, float, float]

FAR = 1e5  # pixels: a projection further out than this is not painted
NEAR = 0.15  # m before the camera


def dim(colour: Sequence[float], by: float) -> Colour:
    return tuple(min(255, int(c * by)) for c in colour)


def fill(picture: Image, camera: Camera, places: Sequence[Place3], colour: Colour) -> None:
    """A filled polygon of places in space."""
    pixels = project(camera, np.array(places)) * 16
    if np.all(np.isfinite(pixels)) and np.abs(pixels).max() < 16 * FAR:
        cv2.fillPoly(picture, [np.round(pixels).astype(np.int32)], colour, lineType=cv2.LINE_AA, shift=4)


def blot(picture: Image, camera: Camera, place: Point, radius: float, colour: Colour, z: float = 0.0) -> None:
    """A disc that lies flat."""
    angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    x, y = place
    fill(picture, camera, [(x + radius * math.cos(a), y + radius * math.sin(a), z) for a in angles], colour)


def rectangle(x0: float, y0: float, x1: float, y1: float, z: float) -> list[Place3]:
    return [(x0, y0, z), (x1, y0, z), (x1, y1, z), (x0, y1, z)]


def limb(picture: Image, camera: Camera, a: Place3, b: Place3, radii: tuple[float, float], colour: Colour) -> None:
    """A rounded, tapering rod from `a` to `b`, a little lighter along its middle."""
    ends = np.array([a, b])
    depths = (ends @ camera.rotation.T + camera.translation)[:, 2]
    if depths.min() < NEAR:
        return
    pixels = project(camera, ends)
    if np.abs(pixels).max() > FAR:
        return
    sizes = camera.focal * np.array(radii) / depths
    for share, bright in ((1.0, 0.8), (0.72, 1.0), (0.35, 1.12)):
        _rod(picture, pixels, np.maximum(sizes * share, 0.6), dim(colour, bright))


def _rod(picture: Image, ends: NDArray[np.float64], sizes: NDArray[np.float64], colour: Colour) -> None:
    angles = np.linspace(0, 2 * np.pi, 16, endpoint=False)
    circle = np.column_stack([np.cos(angles), np.sin(angles)])
    points = np.concatenate([ends[0] + sizes[0] * circle, ends[1] + sizes[1] * circle])
    hull = cv2.convexHull(np.round(points * 16).astype(np.int32))
    cv2.fillPoly(picture, [hull], colour, lineType=cv2.LINE_AA, shift=4)
