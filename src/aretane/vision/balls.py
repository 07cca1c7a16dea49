"""Balls at a still moment: where discs of the right size stand out from the cloth.

The camera tells how large a ball is at every pixel. At each size the foreground inside a disc, less a part of that
in the ring around it, is a score; its peaks are candidates. Each is then moved until the outline that a sphere
standing there would have fits best.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.layout import on_table
from aretane.core.table import Point, Table
from aretane.vision.camera import Camera, place_at, place_sigma, project
from aretane.vision.cloth import Array, Bed, Image, Mask, ball_radius, bed_of, cloth_colour, foreground, lab

STEP = 1.09  # from one size of disc to the next
RING = 0.45  # how much of the ring's foreground is taken off the disc's
INNER, OUTER = 1.12, 1.6  # the ring in ball radii
LEAST = 0.55  # of the score
APART = 0.8  # ball diameters: nearer peaks are one ball
AT_RAIL = 0.7  # ball radii: so far into a cushion a rail-frozen ball may be measured
SMALLEST = 3.0  # pixels of radius below which nothing can be told
CROWD = 3.5  # balls' areas: a larger blob that leaves the bed is a person
FIT_SIGMA = 0.6  # pixels, one standard deviation of a fitted centre (from the synthetic recordings)


@dataclass(frozen=True)
class Candidate:
    """A ball found: its centre on the table in metres with its standard deviation, its pixel and its score."""

    place: Point
    sigma: float
    pixel: Point
    radius: float
    score: float


@dataclass(frozen=True)
class Still:
    """A picture prepared for looking: its colours, the cloth's, and what is neither."""

    picture: Image
    colours: Array
    cloth: Array
    foreground: Array
    bed: Bed


def prepare(picture: Image, table: Table, camera: Camera, bed: Bed | None = None) -> Still:
    bed = bed or bed_of(table, camera, (picture.shape[1], picture.shape[0]))
    colours = lab(picture)
    cloth, threshold = cloth_colour(colours, bed)
    shown = np.where(bed.seen, foreground(colours, cloth, threshold), 0.0).astype(np.float32)
    return Still(picture, colours, cloth, shown, bed)


def find_balls(still: Still, table: Table, camera: Camera) -> list[Candidate]:
    """Every ball that can be told from the cloth, the surest first."""
    radii = still.bed.radii
    shown = still.foreground * ~_people(still, radii)
    peaks = _peaks(shown, still.bed, radii)
    found: list[Candidate] = []
    for u, v, _ in peaks:
        place = place_at(camera, (u, v), table.radius)
        place = _inside(table, place) if place else None
        if place is None:
            continue
        moved, score, whole = _fit(shown, still.bed.seen, table, camera, place)
        fitted = _inside(table, moved)
        if score < LEAST or not whole or fitted is None:
            continue
        if any(math.dist(fitted, other.place) < APART * table.ball_diameter for other in found):
            continue
        found.append(_candidate(fitted, score, table, camera))
    return sorted(found, key=lambda one: -one.score)


def _inside(table: Table, place: Point) -> Point | None:
    """The place itself; of a ball at a rail, which may be measured a little inside the cushion, the nearest that
    can be; None if it is off the table."""
    if on_table(table, place, table.radius):
        return place
    r = table.radius
    at_rail = (min(max(place[0], r), table.length - r), min(max(place[1], r), table.width - r))
    return at_rail if math.dist(at_rail, place) < AT_RAIL * r else None


def _candidate(place: Point, score: float, table: Table, camera: Camera) -> Candidate:
    pixel = project(camera, np.array([[*place, table.radius]]))[0]
    at = (float(pixel[0]), float(pixel[1]))
    sigma = place_sigma(camera, at, table.radius, FIT_SIGMA)
    return Candidate(place, sigma, at, ball_radius(camera, place, table.radius), score)


def _people(still: Still, radii: Array) -> Mask:
    """Blobs that leave the bed and are larger than some balls together."""
    solid = (still.foreground > 0.5).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(solid, connectivity=4)
    inner = cv2.erode(still.bed.seen.astype(np.uint8), np.ones((5, 5), np.uint8)).astype(bool)
    border = still.bed.seen & ~inner
    x0, y0, width, height = still.bed.box
    found = np.zeros(solid.shape, bool)
    for label in range(1, count):
        area = stats[label, cv2.CC_STAT_AREA]
        middle_y = int(
            np.clip(stats[label, cv2.CC_STAT_TOP] + stats[label, cv2.CC_STAT_HEIGHT] / 2 - y0, 0, height - 1)
        )
        middle_x = int(
            np.clip(stats[label, cv2.CC_STAT_LEFT] + stats[label, cv2.CC_STAT_WIDTH] / 2 - x0, 0, width - 1)
        )
        radius = float(radii[middle_y, middle_x])
        if area > CROWD * math.pi * radius * radius:
            blob = labels == label
            if (blob & border).sum() > 2 * radius:
                found |= blob
    return found


def _peaks(shown: Array, bed: Bed, radii: Array) -> list[tuple[float, float, float]]:
    """Pixels where a disc of the local ball size stands out, the best first."""
    x0, y0, width, height = bed.box
    margin = int(2 * radii.max()) + 3
    padded = cv2.copyMakeBorder(_crop(shown, bed.box), *[margin] * 4, cv2.BORDER_CONSTANT, value=0.0)
    known = cv2.copyMakeBorder(
        _crop(bed.seen.astype(np.float32), bed.box), *[margin] * 4, cv2.BORDER_CONSTANT, value=0.0
    )
    score = np.full((height, width), -1.0, np.float32)
    size = max(SMALLEST, float(radii[radii > 0].min(initial=SMALLEST)))
    largest = float(radii.max())
    while size < largest * STEP:
        band = (radii >= size / math.sqrt(STEP)) & (radii < size * math.sqrt(STEP))
        if band.any():
            rows, columns = np.nonzero(band)
            top, left, bottom, right = rows.min(), columns.min(), rows.max() + 1, columns.max() + 1
            part = (slice(top, bottom + 2 * margin), slice(left, right + 2 * margin))
            here = score[top:bottom, left:right]
            inside = band[top:bottom, left:right]
            here[inside] = _stands_out(padded[part], known[part], size, margin)[inside]
        size *= STEP
    kernel = np.ones((3, 3), np.uint8)
    tops = (score >= cv2.dilate(score, kernel)) & (score > 0.45 * LEAST)
    rows, columns = np.nonzero(tops)
    order = np.argsort(-score[rows, columns])
    taken: list[tuple[float, float, float]] = []
    for index in order:
        v, u = rows[index], columns[index]
        near = 2 * APART * radii[v, u]
        if all(math.hypot(u + x0 - a, v + y0 - b) > 0.55 * near for a, b, _ in taken):
            taken.append((float(u + x0), float(v + y0), float(score[v, u])))
    return taken


def _crop(image: Array, box: tuple[int, int, int, int]) -> Array:
    x, y, width, height = box
    return image[y : y + height, x : x + width]


def _stands_out(shown: Array, known: Array, radius: float, margin: int) -> Array:
    inner, outer = _disc(0.95 * radius), _disc(OUTER * radius)
    ring = outer - _padded(_disc(INNER * radius), outer.shape)
    inside = cv2.filter2D(shown, cv2.CV_32F, inner, borderType=cv2.BORDER_CONSTANT)
    inside /= np.maximum(cv2.filter2D(known, cv2.CV_32F, inner, borderType=cv2.BORDER_CONSTANT), 0.45 * inner.sum())
    around = cv2.filter2D(shown, cv2.CV_32F, ring, borderType=cv2.BORDER_CONSTANT)
    around /= np.maximum(cv2.filter2D(known, cv2.CV_32F, ring, borderType=cv2.BORDER_CONSTANT), 0.3 * ring.sum())
    found: Array = (inside - RING * around)[margin:-margin, margin:-margin]
    return found


def _disc(radius: float) -> Array:
    """A disc with soft edges."""
    half = math.ceil(radius + 0.5)
    y, x = np.mgrid[-half : half + 1, -half : half + 1]
    disc: Array = np.clip(radius + 0.5 - np.hypot(x, y), 0.0, 1.0).astype(np.float32)
    return disc


def _padded(small: Array, shape: tuple[int, ...]) -> Array:
    off = (shape[0] - small.shape[0]) // 2
    return np.pad(small, off)


# The outline of a sphere

ANGLES = np.linspace(0, 2 * np.pi, 48, endpoint=False)


def outline(camera: Camera, place: Point, radius: float) -> NDArray[np.float64]:
    """Pixels of the outline of a ball that stands at `place`, 48 points.

    The outline is the circle in which the cone of sight touches the sphere; point 12 is the lowest in the picture.
    """
    centre = np.array([*place, radius])
    to_eye = camera.position - centre
    away = float(np.linalg.norm(to_eye))
    axis = to_eye / away
    ahead, wide = radius * radius / away, radius * math.sqrt(max(0.0, 1 - (radius / away) ** 2))
    right = camera.rotation[0] - (camera.rotation[0] @ axis) * axis
    right /= np.linalg.norm(right)
    down = np.cross(axis, right) * -1.0
    ring = centre + ahead * axis + wide * (np.cos(ANGLES)[:, None] * right + np.sin(ANGLES)[:, None] * down)
    return project(camera, ring)


SCALES = np.array([0.45, 0.72, 0.9, 1.14, 1.35])  # rings: three inside the outline, two outside it
UPPER = np.sin(ANGLES) < math.sin(math.radians(30))  # the top 240 degrees: below lies the contact shadow
WEIGHTS = np.where(UPPER, 1.0, 0.25).astype(np.float32)


@dataclass(frozen=True)
class _Sight:
    """What a fit looks at: foreground and whether it is known, as one picture of two channels."""

    both: Array
    rings: Array  # pixels of the rings about the ball's centre (5 x 48 x 2)

    def at(self, centre: NDArray[np.float64]) -> tuple[float, float]:
        """How well a sphere there fits: foreground just inside less just outside its outline; the disc's score."""
        maps = (self.rings + centre).astype(np.float32)
        seen = cv2.remap(self.both, maps[..., 0], maps[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        values, weights = seen[..., 0], seen[..., 1] * WEIGHTS
        totals = weights.sum(axis=1)
        mean = (values * weights).sum(axis=1) / np.maximum(totals, 1e-6)
        edge = float((values[2] * weights[2] - values[3] * weights[3]).sum() / max(float(totals[2]), 1e-6))
        around = mean[4] if totals[4] > 0.2 * WEIGHTS.sum() else 0.0
        fit = edge + 0.3 * float(mean[0] + mean[1])
        return fit, float(0.25 * mean[0] + 0.4 * mean[1] + 0.35 * mean[2] - RING * around)

    def is_ball(self, centre: NDArray[np.float64]) -> bool:
        """Full in every quarter that can be seen, and free of its surroundings for some part of its outline."""
        maps = (self.rings + centre).astype(np.float32)
        seen = cv2.remap(self.both, maps[..., 0], maps[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        inside, known = seen[:2, :, 0].reshape(2, 4, -1), seen[:2, :, 1].reshape(2, 4, -1)
        weight = known.sum(axis=(0, 2))
        quarters = (inside * known).sum(axis=(0, 2)) / np.maximum(weight, 1e-6)
        full = quarters[weight > 4]
        free = (seen[2, :, 0] > 0.5) & (seen[3, :, 0] < 0.5) & (seen[3, :, 1] > 0.5)
        share = float(free.sum() / max((seen[3, :, 1] > 0.5).sum(), 1))
        return bool(len(full) > 1 and np.sort(full)[1] > DIMMEST * FULL and full.mean() > FULL and share > FREE)


FULL = 0.45  # of the foreground inside, over the quarters of the disc: a line or a cue fills less
DIMMEST = 0.5  # of that, in all quarters but one: a ball's shaded side may be like a grey cloth
FREE = 0.14  # of the outline must border on cloth: an arm has two sides only


def _fit(shown: Array, known: Mask, table: Table, camera: Camera, start: Point) -> tuple[Point, float, bool]:
    """Move the ball until its outline fits best, coarse to fine; over a few pixels the outline keeps its shape.

    Returns the place, the disc's score, and whether it looks like a ball.
    """
    centre = project(camera, np.array([[*start, table.radius]]))[0]
    around = outline(camera, start, table.radius) - centre
    u, v = int(centre[0]), int(centre[1])
    reach = int(np.abs(around).max() * SCALES[-1]) + 14
    x0, y0 = max(0, u - reach), max(0, v - reach)
    part = (slice(y0, v + reach + 1), slice(x0, u + reach + 1))
    both = np.dstack([shown[part], known[part].astype(np.float32)])
    sight = _Sight(both, (SCALES[:, None, None] * around).astype(np.float32))
    at, corner = centre - (x0, y0), np.array((x0, y0))
    best = sight.at(at)[0]
    for step in (2.0, 1.0, 0.5, 0.25):
        for _ in range(4):
            tried = [at + np.array((i * step, j * step)) for i in (-1, 0, 1) for j in (-1, 0, 1) if i or j]
            fits = [sight.at(one)[0] for one in tried]
            if max(fits) <= best:
                break
            at, best = tried[int(np.argmax(fits))], max(fits)
    pixel = at + corner
    place = place_at(camera, (float(pixel[0]), float(pixel[1])), table.radius)
    return (place or start), sight.at(at)[1], sight.is_ball(at)
