"""The outline of a ball in the picture, and how large it is there beside what the camera foretells."""

from __future__ import annotations

import math
from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.table.camera import Camera, project
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still

Pixels = NDArray[np.float64]

ANGLES = np.linspace(0, 2 * np.pi, 48, endpoint=False)
UPPER = np.sin(ANGLES) < math.sin(math.radians(30))  # the top 240 degrees: below lies the contact shadow
FINE = 4  # bits of a pixel to which a filled outline is told
RADII = np.linspace(0.6, 1.4, 33)  # of the outline's: where the profile across it is read
CORE, CLOTH = slice(0, 9), slice(25, 33)  # of these: inside the ball, and outside
CLEAR = 0.8  # of contrast between both, for an edge to be used


def outline(camera: Camera, place: Point, radius: float) -> Pixels:
    """Pixels of the outline of a ball that stands at `place`, 48 points; point 12 is the lowest in the picture."""
    return np.asarray(outlines(camera, np.array([place]), radius)[0])


def outlines(camera: Camera, places: Pixels, radius: float) -> Pixels:
    """Outlines (n x 48 x 2) of balls at `places` (n x 2): the circles in which the cones of sight touch them."""
    centres = np.column_stack([places, np.full(len(places), radius)])
    to_eye = camera.position - centres
    away = np.linalg.norm(to_eye, axis=1, keepdims=True)
    axis = to_eye / away
    ahead, wide = radius * radius / away, radius * np.sqrt(np.maximum(0.0, 1 - (radius / away) ** 2))
    right = camera.rotation[0] - (axis @ camera.rotation[0])[:, None] * axis
    right /= np.linalg.norm(right, axis=1, keepdims=True)
    down = -np.cross(axis, right)
    turn = np.cos(ANGLES)[None, :, None] * right[:, None] + np.sin(ANGLES)[None, :, None] * down[:, None]
    rings = (centres + ahead * axis)[:, None] + wide[:, None] * turn
    seen: Pixels = project(camera, rings.reshape(-1, 3)).reshape(len(places), len(ANGLES), 2)
    return seen


def to_fill(rings: Pixels, grown: float, corner: Pixels) -> NDArray[np.int32]:
    """Outlines (n x points x 2) grown about their middles and told from `corner`, as OpenCV fills them: in whole
    numbers, 2 to the power of `FINE` to a pixel."""
    middles = rings.mean(axis=1, keepdims=True)
    return np.asarray(np.round((middles + grown * (rings - middles) - corner) * 2**FINE), np.int32)


def size_ratio(still: Still, known: Array, centres: Pixels, rings: Array) -> float:
    """The size of a ball in the picture beside that of its outline; 0 where too little of its edge is clear."""
    edge, good = _edges_along(still, known, centres, rings)
    upper = good & UPPER
    return float(np.median(edge[upper])) if upper.sum() >= len(ANGLES) // 2 else 0.0


def _edges_along(still: Still, known: Array, centres: Pixels, rings: Array) -> tuple[Pixels, NDArray[np.bool_]]:
    """Where along each direction the edge lies, in outline radii, and whether it is a clear one."""
    seen = _sampler(centres, rings, RADII)
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


def _sampler(centres: Pixels, rings: Array, scales: Pixels) -> Callable[[Array], Array]:
    """Reads a picture along the rings about the centres, at these multiples of the outlines: n x scales x 48
    (x channels)."""
    middles, times = centres.astype(np.float32), scales.astype(np.float32)[:, None]
    across, down = (
        (middles[:, axis, None, None] + times * rings[:, None, :, axis]).reshape(-1, rings.shape[1])
        for axis in (0, 1)
    )

    def seen(picture: Array) -> Array:
        taken = cv2.remap(picture, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        shape = len(centres), len(scales), rings.shape[1], *picture.shape[2:]
        return np.asarray(taken, np.float32).reshape(shape)

    return seen
