"""The cloth as this picture shows it, and what is not cloth.

Over the bed the cloth's colour changes slowly with the light: a cubic polynomial in each Lab channel, fitted
robustly to the pixels that agree with it. What differs from it in colour, or in lightness by more than a shadow
does, is foreground: balls, hands, cues, chalk. All pictures here are the part of the frame that holds the bed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.table.camera import HALF, Camera, place_at, project

Image = NDArray[np.uint8]
Array = NDArray[np.float32]
Mask = NDArray[np.bool_]

SMALLEST = 3.0  # pixels of radius below which no ball can be told
THRESHOLDS = (11.0, 16.0)  # of the colour distance, in units of Lab: in a clean picture, in a noisy one
NOISES = 5.0  # standard deviations of the cloth's own noise that make the threshold
SHADOW = 0.45  # how much a darker pixel of the cloth's own hue counts
DEEPEST = 0.5  # of the cloth's lightness is gone in its deepest shadow
FACES = 0.8  # of it on the face of a cushion and where the cloth meets it
BIN = 6.0  # units of Lab: colours that differ by less are looked at as one, for a first guess
ROUNDS = 6  # of the robust fit
SAMPLES = 4_000  # pixels that the fit looks at
LOCAL = (18.0, 9.0, 9.0)  # units of Lab: what differs by less may be cloth in other light
WIDE, COARSE = 2.0, 4  # ball radii over which that light changes; pixels of the grid it is computed on
KEPT = 2.2  # robust standard deviations
MARGIN = 2.2  # ball radii kept round the bed
HOLE = 0.92  # of the hole's radius: what lies in there is no cloth
ENOUGH, LARGEST_STEP = (
    4.0,
    3,
)  # pixels of radius that balls keep in a coarse bed; of how many pixels it has one at least
CLEAN = 0.08  # of the bed may look otherwise than its cloth a moment ago
UNITS = np.array([[100 / 255, 0, 0, 0], [0, 1, 0, -128], [0, 0, 1, -128]])  # from OpenCV's bytes to units of Lab
GRID = 65  # points of the grid on which the cubic is computed, each way


@dataclass(frozen=True)
class Bed:
    """Which pixels can show the playing surface or a ball on it; of the part of the picture that is `box`.

    `seen` holds cushion faces and noses beside the `cloth`. `radii` is a ball's radius in pixels at each pixel.
    """

    box: tuple[int, int, int, int]  # x, y, width, height in the whole picture
    cloth: Mask
    seen: Mask
    radii: Array

    @property
    def corner(self) -> NDArray[np.float64]:
        """The middle of the box's top left pixel: what is told from there can be read in arrays."""
        return np.array(self.box[:2], float) + HALF

    def crop(self, picture: Image) -> Image:
        x, y, width, height = self.box
        return picture[y : y + height, x : x + width]

    def part(self, left: int, top: int, right: int, bottom: int) -> Bed:
        """The part of it between these pixels of the box."""
        rows, columns = slice(max(0, top), max(0, bottom)), slice(max(0, left), max(0, right))
        cloth = self.cloth[rows, columns]
        box = (self.box[0] + columns.start, self.box[1] + rows.start, cloth.shape[1], cloth.shape[0])
        return Bed(box, cloth, self.seen[rows, columns], self.radii[rows, columns])

    @cached_property
    def radius(self) -> float:
        """A ball's radius in pixels, as it is on the whole."""
        return float(np.median(self.radii))

    @cached_property
    def cloth_share(self) -> Array:
        return self.cloth.astype(np.float32)

    @cached_property
    def per_outline(self) -> Array:
        """One over the length of a ball's outline in pixels; 0 where none can be seen or told."""
        told = self.seen & (self.radii >= SMALLEST)
        return np.where(told, 1 / (2 * np.pi * np.maximum(self.radii, SMALLEST)), 0.0).astype(np.float32)

    @cached_property
    def coarse(self) -> tuple[int, Bed]:
        """Every so many pixels, and the bed of only these: enough for what is as long or broad as balls are."""
        step = int(np.clip(self.radius / ENOUGH, 1, LARGEST_STEP))
        some = (slice(None, None, step),) * 2
        box = (self.box[0], self.box[1], *self.cloth[some].shape[::-1])
        return step, Bed(box, self.cloth[some], self.seen[some], np.asarray(self.radii[some] / step, np.float32))

    @cached_property
    def deepest(self) -> Array:
        """How much of the cloth's lightness a shadow may take away at each pixel."""
        inner = cv2.erode(self.cloth.astype(np.uint8), np.ones((3, 3), np.uint8), borderValue=0)
        soft = cv2.GaussianBlur(inner.astype(np.float32), (0, 0), 1.0)
        return np.asarray(FACES + (DEEPEST - FACES) * soft, np.float32)

    @cached_property
    def samples(self) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """Rows and columns of the cloth that a fit looks at."""
        rows, columns = np.nonzero(self.cloth)
        pick = np.linspace(0, len(rows) - 1, min(SAMPLES, len(rows))).astype(int)
        return rows[pick], columns[pick]

    @cached_property
    def terms(self) -> NDArray[np.float64]:
        rows, columns = self.samples
        height, width = self.cloth.shape
        return _terms(columns / width, rows / height)


def bed_of(table: Table, camera: Camera, size: tuple[int, int]) -> Bed:
    """The bed as the camera sees it: between the nose lines, and not behind the near ones."""
    both = np.concatenate([_edge(table, camera, 0.0, 0.0), _edge(table, camera, table.nose_height, 0.005)]).astype(
        np.float32
    )
    if not np.all(np.isfinite(both)):
        return _nothing()
    margin = MARGIN * ball_radius(camera, (table.length / 2, table.width / 2), table.radius) + 4
    low = np.maximum(np.floor(both.min(axis=0) - margin), 0).astype(int)
    high = np.minimum(np.ceil(both.max(axis=0) + margin), size).astype(int)
    if np.any(high - low < 16):
        return _nothing()
    width, height = (int(v) for v in high - low)
    corner = low + HALF
    floor = _filled(_edge(table, camera, 0.0, -0.01) - corner, (width, height))
    noses = _filled(_edge(table, camera, table.nose_height, 0.0) - corner, (width, height))
    seen = _filled(cv2.convexHull(both)[:, 0] - corner, (width, height))
    for hole in _holes(table, camera):
        seen &= ~_filled(hole - corner, (width, height))
    box = (int(low[0]), int(low[1]), width, height)
    return Bed(box, floor & noses, seen, _radii(table, camera, box))


def _nothing() -> Bed:
    empty = np.zeros((16, 16), bool)
    return Bed((0, 0, 16, 16), empty, empty, np.zeros((16, 16), np.float32))


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
            place = place_at(camera, (u + HALF, v + HALF), table.radius)
            grid[row, column] = ball_radius(camera, place, table.radius) if place else 0.0
    return np.asarray(cv2.resize(grid, (width, height), interpolation=cv2.INTER_LINEAR), np.float32)


def _edge(table: Table, camera: Camera, z: float, out: float) -> NDArray[np.float64]:
    """Pixels along the edge of the bed, `out` metres beyond the noses and `z` above the cloth."""
    L, W = table.length, table.width
    corners = np.array([(-out, -out, z), (L + out, -out, z), (L + out, W + out, z), (-out, W + out, z)])
    steps = np.linspace(0, 1, 9)[:-1, None]
    edge = [a + steps * (b - a) for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True)]
    return project(camera, np.concatenate(edge))


def _holes(table: Table, camera: Camera) -> list[NDArray[np.float64]]:
    """Outlines of the pockets' holes, from the bed up to the noses."""
    angles = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    found = []
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        middle = np.array(pocket.drop) + half * np.array(pocket.axis)
        rim = middle + HOLE * half * np.column_stack([np.cos(angles), np.sin(angles)])
        both = np.concatenate([np.column_stack([rim, np.full(24, z)]) for z in (0.0, table.nose_height)])
        pixels = project(camera, both).astype(np.float32)
        if np.all(np.isfinite(pixels)):
            found.append(np.asarray(cv2.convexHull(pixels)[:, 0], np.float64))
    return found


def _filled(pixels: NDArray[np.float64], size: tuple[int, int]) -> Mask:
    mask = np.zeros((size[1], size[0]), np.uint8)
    cv2.fillPoly(mask, [np.round(pixels * 16).astype(np.int32)], 1, shift=4)
    return mask.astype(bool)


def lab(picture: Image) -> Array:
    """The picture in Lab, lightness 0 to 100, to one unit."""
    whole = cv2.cvtColor(picture, cv2.COLOR_BGR2LAB).astype(np.float32)
    return np.asarray(cv2.transform(whole, UNITS), np.float32)


@dataclass(frozen=True)
class Cloth:
    """The cloth's Lab colour at every pixel, and the distance beyond which a pixel is none of it."""

    colour: Array
    threshold: float


def relit(cloth: Cloth, picture: Image, bed: Bed) -> Cloth | None:
    """The same cloth in a picture a moment later: the light may flicker a little, the same everywhere. None if too
    much of the bed looks otherwise: then somebody has come before it, or has gone. `picture` is the bed's box."""
    rows, columns = bed.samples
    if not len(rows):
        return None
    off = lab(picture[rows, columns][None])[0] - cloth.colour[rows, columns]
    offset = np.median(off, axis=0)
    if float((np.linalg.norm(off - offset, axis=1) > cloth.threshold).mean()) > CLEAN:
        return None
    return Cloth(cloth.colour + offset.astype(np.float32), cloth.threshold)


def enlarged(cloth: Cloth, bed: Bed, larger: Bed, scale: float) -> Cloth:
    """The cloth at the pixels of a larger picture's bed; it was seen in one `scale` times as large."""
    x, y, width, height = larger.box
    across = (np.arange(x, x + width, dtype=np.float32) + 0.5) * scale - 0.5 - bed.box[0]
    down = (np.arange(y, y + height, dtype=np.float32) + 0.5) * scale - 0.5 - bed.box[1]
    u, v = np.meshgrid(across, down)
    colour = cv2.remap(cloth.colour, u, v, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return Cloth(np.asarray(colour, np.float32), cloth.threshold)


def cloth_colour(colours: Array, bed: Bed) -> Cloth:
    """What the cloth looks like in a picture."""
    rows, columns = bed.samples
    if len(rows) < 50:
        return Cloth(colours, THRESHOLDS[1])
    values = colours[rows, columns].astype(np.float64)
    kept = _main_hue(values)
    fitted: NDArray[Any] = np.zeros((bed.terms.shape[1], 3))
    spread = np.full(3, 3.0)
    for _ in range(ROUNDS):
        if kept.sum() < 50:
            break
        inside = bed.terms[kept]
        fitted = np.linalg.solve(inside.T @ inside + 1e-6 * np.eye(inside.shape[1]), inside.T @ values[kept])
        off = np.abs(values - bed.terms @ fitted)
        spread = np.maximum(1.4826 * np.median(off[kept], axis=0), [1.0, 0.6, 0.6])
        kept = np.all(off < KEPT * spread, axis=1)
    noise = float(np.sqrt((SHADOW * spread[0]) ** 2 + spread[1] ** 2 + spread[2] ** 2))
    model = _spread_out(fitted, bed.cloth.shape)
    return Cloth(model + _local(colours - model, bed), float(np.clip(NOISES * noise, *THRESHOLDS)))


def _local(off: Array, bed: Bed) -> Array:
    """What the cubic leaves over: the mean difference of the cloth around each pixel, over some balls' breadth."""
    near = (np.abs(off) < np.array(LOCAL, np.float32)).all(axis=2) & bed.cloth
    weight = near.astype(np.float32)
    small = (max(1, off.shape[1] // COARSE), max(1, off.shape[0] // COARSE))
    spread = WIDE * max(1.0, bed.radius) / COARSE
    sums = cv2.GaussianBlur(
        cv2.resize(off * weight[..., None], small, interpolation=cv2.INTER_AREA), (0, 0), spread
    )
    share = cv2.GaussianBlur(cv2.resize(weight, small, interpolation=cv2.INTER_AREA), (0, 0), spread)
    mean = sums / np.maximum(share, 0.1)[..., None]
    wide = cv2.resize(mean, (off.shape[1], off.shape[0]), interpolation=cv2.INTER_LINEAR)
    return np.asarray(wide, np.float32)


def _spread_out(fitted: NDArray[np.float64], shape: tuple[int, ...]) -> Array:
    """The cubic at every pixel; it is smooth, so a coarse grid between which is interpolated will do."""
    across, down = np.meshgrid(np.linspace(0, 1, GRID), np.linspace(0, 1, GRID))
    coarse = (_terms(across.ravel(), down.ravel()) @ fitted).reshape(GRID, GRID, 3).astype(np.float32)
    model = cv2.resize(coarse, (shape[1], shape[0]), interpolation=cv2.INTER_LINEAR)
    return np.asarray(model, np.float32)


def _main_hue(values: NDArray[np.float64]) -> Mask:
    """The pixels near the commonest colour of the bed: a first guess of what is cloth. Colours beside one another
    count together: a cloth in uneven light shows more of them than a white shirt."""
    bins = np.round((values[:, 1:] + 128.0) / BIN).astype(int)
    counts = np.zeros((bins.max() + 1,) * 2, np.float32)
    np.add.at(counts, tuple(bins.T), 1.0)
    around = cv2.boxFilter(counts, -1, (3, 3), normalize=False, borderType=cv2.BORDER_CONSTANT)
    commonest = np.array(np.unravel_index(around.argmax(), around.shape))
    centre = np.median(values[np.all(np.abs(bins - commonest) <= 1, axis=1)], axis=0)
    near: Mask = np.linalg.norm((values - centre) * [0.7, 1.0, 1.0], axis=1) < 14.0
    return near


def _terms(x: NDArray[np.float64], y: NDArray[np.float64]) -> NDArray[np.float64]:
    x, y = 2 * x - 1, 2 * y - 1
    return np.stack([x**i * y**j for i in range(4) for j in range(4 - i)], axis=1)


def contrast(colours: Array, model: Array, bed: Bed) -> tuple[Array, Array]:
    """How far a pixel is from cloth, in units of Lab: if a shadow on the cloth and a cushion's dark face are cloth,
    and if nothing darker is."""
    light, a, b = cv2.split(colours)
    own, own_a, own_b = cv2.split(model)
    off = light - own
    darker = np.minimum(off, 0.0)
    beyond = np.minimum(darker + bed.deepest * own, 0.0)
    # a shadow takes colour away in proportion to light; what it has left of the cloth's hue is forgiven
    dim = np.clip(light / np.maximum(own, 1.0), 0.0, 1.0)
    chroma2 = (a - dim * own_a) ** 2 + (b - dim * own_b) ** 2
    lenient = (np.maximum(off, 0.0) + SHADOW * (darker - beyond) + 1.5 * beyond) ** 2 + chroma2
    return np.sqrt(lenient), np.sqrt(off**2 + (a - own_a) ** 2 + (b - own_b) ** 2)


def surely(distance: Array, threshold: float) -> Array:
    """How surely a pixel at that distance is no cloth, 0 to 1."""
    return np.asarray(np.clip(distance / threshold - 0.5, 0.0, 1.0), np.float32)
