"""The outline of a ball in the picture, and how well a picture agrees with balls standing at given places."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.camera import Camera, project
from aretane.vision.cloth import Array
from aretane.vision.sight import Still

Pixels = NDArray[np.float64]

ANGLES = np.linspace(0, 2 * np.pi, 48, endpoint=False)
SCALES = np.array([0.4, 0.68, 0.88, 1.0, 1.14, 1.35])  # rings: three inside the outline, on it, two outside
INSIDE, RIM, ON, BEYOND, AROUND = slice(0, 3), 2, 3, 4, 5
UPPER = np.sin(ANGLES) < math.sin(math.radians(30))  # the top 240 degrees: below lies the contact shadow
WEIGHTS = np.where(UPPER, 1.0, 0.25).astype(np.float32)
PLAIN, FAINT = 0.35, 0.15  # of a full edge
SHINING = 8  # points of the inner rings, of 96
DISC = np.array([0.25, 0.4, 0.35], np.float32)  # shares of the three inner rings in the disc


def outline(camera: Camera, place: Point, radius: float) -> Pixels:
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


@dataclass(frozen=True)
class Agreement:
    """How n places agree with what the picture shows beside balls that are known already, each number 0 to 1.

    `fit` is what a place is moved by; `full` the foreground inside, `dimmest` in the second emptiest quarter;
    `edged` the share of the visible outline where colours change across it, `free` the share that borders on
    cloth, `around` the foreground round it, `inner` how much colours change inside, `person` the share of the disc
    that belongs to somebody, `visible` the share of the outline that is to be seen. `unlike` is as `full`
    and `faint` as `edged`, with shadows and weak edges counting too; `shine`
    is the light of the brightest part, `rest` the share of the disc that no known ball explains.
    """

    fit: Array
    full: Array
    dimmest: Array
    edged: Array
    free: Array
    around: Array
    inner: Array
    person: Array
    visible: Array
    unlike: Array
    faint: Array
    shine: Array
    rest: Array


def agreement(still: Still, known: Array, centres: Pixels, rings: Array) -> Agreement:
    """`centres` (n x 2) in pixels of the box, `rings` (n x 48 x 2) the outlines about them.

    `known` is 1 where the picture says something, 0 outside of the bed and where a ball is known already.
    """
    maps = centres[:, None, None] + SCALES[None, :, None, None] * rings[:, None]
    count = len(maps)
    across, down = (np.ascontiguousarray(maps[..., axis], np.float32).reshape(-1, len(ANGLES)) for axis in (0, 1))

    def seen(picture: Array) -> Array:
        taken = cv2.remap(picture, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        return np.asarray(taken).reshape(count, len(SCALES), -1)

    shown, known = seen(still.foreground), seen(known)
    weights = known * WEIGHTS
    totals = np.maximum(weights.sum(axis=2), 1e-6)
    mean = (shown * weights).sum(axis=2) / totals
    step = ((shown[:, RIM] - shown[:, BEYOND]) * weights[:, RIM]).sum(axis=1) / totals[:, RIM]
    normal = rings / np.linalg.norm(rings, axis=2, keepdims=True)
    across_edge, down_edge = seen(still.edges[0]), seen(still.edges[1])
    flank = np.abs(across_edge[:, ON] * normal[..., 0] + down_edge[:, ON] * normal[..., 1])
    edge = (flank * weights[:, ON]).sum(axis=1) / totals[:, ON]
    on = known[:, ON] > 0.5
    beyond = known[:, BEYOND] > 0.5
    inside = known[:, :2]
    inner = (np.hypot(across_edge[:, :2], down_edge[:, :2]) * inside).sum(axis=(1, 2))
    person = (seen(still.people)[:, INSIDE] * known[:, INSIDE]).sum(axis=(1, 2))
    border = (shown[:, RIM] > 0.5) & (shown[:, BEYOND] < 0.5) & beyond
    around = np.where(totals[:, AROUND] > 0.2 * WEIGHTS.sum(), mean[:, AROUND], 0.0)
    return Agreement(
        step + 0.3 * (mean[:, 0] + mean[:, 1]) + 0.5 * edge,
        mean[:, INSIDE] @ DISC,
        _dimmest(shown, known),
        ((flank > PLAIN) & on).sum(axis=1) / np.maximum(on.sum(axis=1), 1),
        border.sum(axis=1) / np.maximum(beyond.sum(axis=1), 1),
        around,
        inner / np.maximum(inside.sum(axis=(1, 2)), 1.0),
        person / np.maximum(known[:, INSIDE].sum(axis=(1, 2)), 1.0),
        on.mean(axis=1),
        (seen(still.unlike)[:, INSIDE] * weights[:, INSIDE]).sum(axis=2) / totals[:, INSIDE] @ DISC,
        ((flank > FAINT) & on).sum(axis=1) / np.maximum(on.sum(axis=1), 1),
        np.sort(seen(still.brighter)[:, :2].reshape(count, -1), axis=1)[:, -SHINING:].mean(axis=1),
        known[:, INSIDE].mean(axis=2) @ DISC,
    )


def _dimmest(shown: Array, known: Array) -> Array:
    """Foreground of the second emptiest quarter of the disc that can be seen."""
    count = len(shown)
    inside = (shown[:, :2] * known[:, :2]).reshape(count, 2, 4, -1).sum(axis=(1, 3))
    weight = known[:, :2].reshape(count, 2, 4, -1).sum(axis=(1, 3))
    quarters = np.where(weight > 4, inside / np.maximum(weight, 1e-6), np.inf)
    ordered = np.sort(quarters, axis=1)
    return np.asarray(np.where(np.isfinite(ordered[:, 1]), ordered[:, 1], 0.0), np.float32)


def settled(still: Still, known: Array, centres: Pixels, rings: Array, steps: tuple[float, ...]) -> Pixels:
    """Move every centre until its outline fits best, coarse to fine; over a few pixels outlines keep their shape."""
    at = centres.copy()
    best = agreement(still, known, at, rings).fit
    around = np.array([(i, j) for i in (-1, 0, 1) for j in (-1, 0, 1) if i or j], float)
    for step in steps:
        active = np.arange(len(at))
        for _ in range(4):
            if not len(active):
                break
            tried = at[active, None] + step * around
            fits = agreement(still, known, tried.reshape(-1, 2), np.repeat(rings[active], len(around), axis=0)).fit
            fits = fits.reshape(len(active), -1)
            choice = fits.argmax(axis=1)
            better = fits.max(axis=1) > best[active] + 1e-6
            moved = active[better]
            at[moved] = tried[better, choice[better]]
            best[moved] = fits.max(axis=1)[better]
            active = moved
    return at


RADII = np.linspace(0.6, 1.4, 33)  # of the outline's: where the profile across it is read
CORE, CLOTH = slice(0, 9), slice(25, 33)  # of these: inside the ball, and outside
CLEAR = 0.8  # of contrast between both, for an edge to be used
ENOUGH = 12.0  # weighted directions
FARTHEST = 0.3  # ball radii that a place is moved at most
TWICE = 2


def polished(still: Still, known: Array, centres: Pixels, rings: Array) -> Pixels:
    """Centres to a fraction of a pixel: in each direction the edge lies where the contrast to the cloth is half way
    between inside and outside; the centre that these edges have in common is found by least squares."""
    at = centres.copy()
    normal = rings / np.linalg.norm(rings, axis=2, keepdims=True)
    size = np.linalg.norm(rings, axis=2)
    for _ in range(TWICE):
        edge, good = _edges_along(still, known, at, rings)
        off = (edge - 1.0) * size
        weight = np.where(good, WEIGHTS, 0.0)
        for _ in range(3):
            a = np.einsum("nk,nki,nkj->nij", weight, normal, normal) + 1e-9 * np.eye(2)
            b = np.einsum("nk,nki,nk->ni", weight, normal, off)
            step = np.linalg.solve(a, b[..., None])[..., 0]
            left = np.abs(off - np.einsum("nki,ni->nk", normal, step))
            weight = np.where(good, WEIGHTS, 0.0) / np.maximum(1.0, left / 0.5) ** 2
        usable = (weight.sum(axis=1) > ENOUGH) & (
            np.linalg.norm(at + step - centres, axis=1) < FARTHEST * size.mean(axis=1)
        )
        at = np.where(usable[:, None], at + step, at)
    return at


def size_ratio(still: Still, known: Array, centres: Pixels, rings: Array) -> float:
    """The size of a ball in the picture beside that of its outline; 0 where too little of its edge is clear."""
    edge, good = _edges_along(still, known, centres, rings)
    upper = good & UPPER
    return float(np.median(edge[upper])) if upper.sum() >= len(ANGLES) // 2 else 0.0


def _edges_along(still: Still, known: Array, centres: Pixels, rings: Array) -> tuple[Pixels, NDArray[np.bool_]]:
    """Where along each direction the edge lies, in outline radii, and whether it is a clear one."""
    maps = centres[:, None, None] + RADII[None, :, None, None] * rings[:, None]
    count, directions = len(centres), len(ANGLES)
    across, down = (np.ascontiguousarray(maps[..., axis], np.float32).reshape(-1, directions) for axis in (0, 1))

    def seen(picture: Array) -> Pixels:
        taken = cv2.remap(picture, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        return np.asarray(taken, float).reshape(count, len(RADII), directions)

    profile = np.minimum(seen(still.contrast), 4.0)
    inside, outside = np.median(profile[:, CORE], axis=1), np.median(profile[:, CLOTH], axis=1)
    level = (inside + outside) / 2
    beyond = profile < level[:, None]
    # the first sample beyond the core that is nearer to the cloth's level
    first = np.argmax(beyond[:, CORE.stop :], axis=1) + CORE.stop
    n, k = np.indices(first.shape)
    high, low = profile[n, first - 1, k], profile[n, first, k]
    share = np.clip((high - level) / np.maximum(high - low, 1e-6), 0.0, 1.0)
    edge = RADII[first - 1] + share * (RADII[1] - RADII[0])
    clear = (inside - outside > CLEAR) & beyond[:, CORE.stop :].any(axis=1)
    return edge, clear & (seen(known)[:, CORE.stop :].min(axis=1) > 0.5)
