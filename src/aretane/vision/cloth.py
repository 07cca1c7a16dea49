"""The cloth as this picture shows it, and what is not cloth.

Over the bed the cloth's colour changes slowly with the light: a cubic polynomial in each Lab channel, fitted
robustly to the pixels that agree with it. What differs from it in colour, or in lightness by more than a shadow
does, is foreground: balls, hands, cues, chalk.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.camera import Camera, place_at, project

Image = NDArray[np.uint8]
Array = NDArray[np.float32]
Mask = NDArray[np.bool_]

THRESHOLDS = (13.0, 16.0)  # of the colour distance, in units of Lab: in a clean picture, in a noisy one
NOISES = 5.0  # standard deviations of the cloth's own noise that make the threshold
SHADOW = 0.45  # how much a darker pixel of the cloth's own hue counts
DEEPEST = 0.5  # of the cloth's lightness: no shadow on it is darker
ROUNDS = 6  # of the robust fit
SAMPLES = 12_000  # pixels that the fit looks at
KEPT = 2.2  # robust standard deviations


@dataclass(frozen=True)
class Bed:
    """Which pixels can show the playing surface or a ball on it. `seen` also holds cushion faces and noses."""

    cloth: Mask
    seen: Mask
    box: tuple[int, int, int, int]  # x, y, width, height of the part of the picture that matters
    radii: Array  # of a ball at each pixel of the box, in pixels


def bed_of(table: Table, camera: Camera, size: tuple[int, int]) -> Bed:
    """The bed as the camera sees it: between the nose lines, and not behind the near ones."""
    width, height = size
    floor = _polygon(table, camera, 0.0, -0.01, size)
    noses = _polygon(table, camera, table.nose_height, 0.0, size)
    seen = _hull(table, camera, size)
    rows, columns = np.nonzero(seen)
    box = (0, 0, width, height)
    if len(rows):
        x0, y0 = int(columns.min()), int(rows.min())
        box = (x0, y0, int(columns.max()) - x0 + 1, int(rows.max()) - y0 + 1)
    return Bed(floor & noses, seen, box, _radii(table, camera, box))


def ball_radius(camera: Camera, place: Point, radius: float) -> float:
    """Radius in pixels of a ball that stands there."""
    depth = float((camera.rotation @ np.array([*place, radius]) + camera.translation)[2])
    return camera.focal * radius / depth if depth > 0 else 0.0


def _radii(table: Table, camera: Camera, box: tuple[int, int, int, int]) -> Array:
    """A ball's radius in pixels at every pixel of the box, by bilinear interpolation of a coarse grid."""
    x0, y0, width, height = box
    grid = np.zeros((17, 17), np.float32)
    for row, v in enumerate(np.linspace(y0, y0 + height - 1, 17)):
        for column, u in enumerate(np.linspace(x0, x0 + width - 1, 17)):
            place = place_at(camera, (u, v), table.radius)
            grid[row, column] = ball_radius(camera, place, table.radius) if place else 0.0
    radii: Array = cv2.resize(grid, (width, height), interpolation=cv2.INTER_LINEAR)
    return radii


def _rectangle(table: Table, camera: Camera, z: float, out: float) -> NDArray[np.float64]:
    L, W = table.length, table.width
    corners = [(-out, -out, z), (L + out, -out, z), (L + out, W + out, z), (-out, W + out, z)]
    steps = np.linspace(0, 1, 9)[:-1, None]
    edge = [
        np.array(a) + steps * (np.array(b) - np.array(a))
        for a, b in zip(corners, corners[1:] + corners[:1], strict=True)
    ]
    return project(camera, np.concatenate(edge))


def _polygon(table: Table, camera: Camera, z: float, out: float, size: tuple[int, int]) -> Mask:
    pixels = _rectangle(table, camera, z, out)
    return _filled(pixels, size)


def _hull(table: Table, camera: Camera, size: tuple[int, int]) -> Mask:
    """Everything that a ball on the bed can cover."""
    both = np.concatenate(
        [_rectangle(table, camera, 0.0, 0.0), _rectangle(table, camera, table.nose_height, 0.005)]
    )
    return _filled(cv2.convexHull(both.astype(np.float32))[:, 0], size)


def _filled(pixels: NDArray[np.float64], size: tuple[int, int]) -> Mask:
    mask = np.zeros((size[1], size[0]), np.uint8)
    if np.all(np.isfinite(pixels)):
        cv2.fillPoly(mask, [np.round(pixels * 16).astype(np.int32)], 1, shift=4)
    return mask.astype(bool)


def lab(picture: Image) -> Array:
    """The picture in Lab, lightness 0 to 100."""
    converted: Array = cv2.cvtColor(picture.astype(np.float32) / 255.0, cv2.COLOR_BGR2LAB)
    return converted


def cloth_colour(colours: Array, bed: Bed) -> tuple[Array, float]:
    """The cloth's Lab colour at every pixel of the picture, and the distance beyond which a pixel is none of it."""
    rows, columns = np.nonzero(bed.cloth)
    pick = np.linspace(0, len(rows) - 1, min(SAMPLES, len(rows))).astype(int)
    rows, columns = rows[pick], columns[pick]
    values = colours[rows, columns].astype(np.float64)
    height, width = bed.cloth.shape
    terms = _terms(columns / width, rows / height)
    kept = _main_hue(values)
    fitted, spread = np.zeros((terms.shape[1], 3)), np.full(3, 3.0)
    for _ in range(ROUNDS):
        if kept.sum() < 50:
            break
        fitted = np.linalg.lstsq(terms[kept], values[kept], rcond=None)[0]
        off = np.abs(values - terms @ fitted)
        spread = np.maximum(1.4826 * np.median(off[kept], axis=0), [1.0, 0.6, 0.6])
        kept = np.all(off < KEPT * spread, axis=1)
    across, down = np.meshgrid(np.linspace(0, 1, 65), np.linspace(0, 1, 65))  # a cubic is smooth: a grid will do
    coarse = (_terms(across.ravel(), down.ravel()) @ fitted).reshape(65, 65, 3).astype(np.float32)
    rows_of = np.arange(height, dtype=np.float32) / height * 64
    columns_of = np.arange(width, dtype=np.float32) / width * 64
    model: Array = cv2.remap(coarse, *np.meshgrid(columns_of, rows_of), cv2.INTER_LINEAR)
    noise = float(np.sqrt((SHADOW * spread[0]) ** 2 + spread[1] ** 2 + spread[2] ** 2))
    return model, float(np.clip(NOISES * noise, *THRESHOLDS))


def _main_hue(values: NDArray[np.float64]) -> Mask:
    """The pixels near the commonest colour of the bed: a first guess of what is cloth."""
    bins = np.round(values[:, 1:] / 6.0).astype(int)
    _, which, counts = np.unique(bins, axis=0, return_inverse=True, return_counts=True)
    centre = np.median(values[which.ravel() == counts.argmax()], axis=0)
    near: Mask = np.linalg.norm((values - centre) * [0.4, 1.0, 1.0], axis=1) < 14.0
    return near


def _terms(x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
    x, y = 2 * x - 1, 2 * y - 1
    return np.stack([x**i * y**j for i in range(4) for j in range(4 - i)], axis=1)


def foreground(colours: Array, model: Array, threshold: float) -> Array:
    """How surely a pixel is no cloth, 0 to 1. A shadow on the cloth is cloth."""
    off = colours - model
    darker = np.minimum(off[..., 0], 0.0)
    beyond = np.minimum(darker + DEEPEST * model[..., 0], 0.0)
    lightness = np.maximum(off[..., 0], 0.0) + SHADOW * (darker - beyond) + 1.5 * beyond
    # a shadow takes colour away in proportion to light; what it has left of the cloth's hue is forgiven
    dim = np.clip(colours[..., 0] / np.maximum(model[..., 0], 1.0), 0.0, 1.0)[..., None]
    chroma = np.linalg.norm(colours[..., 1:] - dim * model[..., 1:], axis=-1)
    distance = np.sqrt(lightness**2 + chroma**2)
    found: Array = np.clip((distance - 0.5 * threshold) / threshold, 0.0, 1.0).astype(np.float32)
    return found
