"""Where the lamp hangs, by its image on the balls; and so where it should shine on a ball that nobody is sure of.

A polished ball mirrors the lamp where its normal halves the angle between lamp and eye (the law of reflection on a
sphere). Balls that are sure each give a line on which the lamp lies; where most of these lines meet, it hangs.
In a cluster of one colour, and of a green ball on green cloth, its image is the plainest thing to be seen.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.balls.outline import Lights
from aretane.vision.table.camera import Camera, places_at, project
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still

Places = NDArray[np.float64]

FEWEST, MOST, FOR_PAIRS = 4, 16, 9  # sure balls that must agree, that are asked, and that make guesses
IMAGES, NEXT = 3, 0.5  # spots on a ball that may be the lamp's image, and how bright beside the brightest
SHARE = 0.45  # of the asked must agree: a wrong lamp does more harm than none
NEAR = 0.2  # ball radii: an image this near to where it should be agrees
HEIGHT = (0.4, 4.0)  # m above the bed
INSIDE = 0.82  # ball radii in which a lamp's image is looked for
AROUND = 0.14  # ball radii round the place where it should be
FAINT = 6.0  # of lightness above the surroundings: a weaker light is none
WHITE = (70.0, 92.0)  # lightness of a disc on which a lamp is seen well, and not at all
USUAL = 0.6  # of the usual light is enough
WEAKEST, SHINING = 0.35, 80  # of it, that may be the lamp's image, and how many of those are tried
ROUNDS = 3  # of finding the mirroring point


@dataclass(frozen=True)
class Lamp:
    """`place` in metres of the table, z upwards; `light` is how bright its image usually is."""

    place: Places
    light: float


def lamp_of(still: Still, places: Sequence[Point], table: Table, camera: Camera) -> Lamp | None:
    """The lamp that these sure balls mirror; None if they do not agree on one.

    Of several lamps every ball mirrors each: the one on which most agree is taken.
    """
    asked = np.array(list(places)[:MOST]).reshape(-1, 2)
    if len(asked) < FEWEST:
        return None
    centres, radii = _discs(asked, table, camera)
    seen = [_images(still, c - still.bed.corner, r) for c, r in zip(centres, radii, strict=True)]
    whose = np.array([n for n, images in enumerate(seen) for _ in images], int)
    if len(set(whose)) < FEWEST:
        return None
    images = np.array([at for own in seen for at, _ in own]) + still.bed.corner
    lights = np.array([light for own in seen for _, light in own])
    origins, rays = _mirrored(images, asked[whose], table, camera)
    some = np.nonzero(whose < FOR_PAIRS)[0]
    pairs = np.array([(i, j) for i, j in combinations(some, 2) if whose[i] != whose[j]])
    lamps = _meetings(origins[pairs], rays[pairs])
    if not len(lamps):
        return None
    off = np.linalg.norm(images_of(lamps, asked[whose], table, camera) - images, axis=2)
    agree = off < NEAR * radii[whose]
    counts = np.array([len(set(whose[one])) for one in agree])
    best = agree[counts.argmax()]
    if counts.max() < max(FEWEST, SHARE * len(set(whose))):
        return None
    truer = _meetings(origins[best][None], rays[best][None])
    return Lamp(truer[0] if len(truer) else lamps[counts.argmax()], float(np.median(lights[best])))


def _discs(places: Places, table: Table, camera: Camera) -> tuple[Places, NDArray[np.float64]]:
    """Pixels and radii in pixels of balls at these places."""
    centres = np.column_stack([places, np.full(len(places), table.radius)])
    depth = (centres @ camera.rotation.T + camera.translation)[:, 2]
    return project(camera, centres), camera.focal * table.radius / depth


def _images(still: Still, centre: Places, radius: float) -> list[tuple[Places, float]]:
    """The brightest spots on a disc (pixels of the box), and how bright they are beside what is round them."""
    (u, v), reach = centre, max(2, int(np.ceil(radius)))
    x0, y0 = max(0, int(u) - reach), max(0, int(v) - reach)
    part = still.glints[y0 : int(v) + reach + 2, x0 : int(u) + reach + 2]
    rows, columns = np.mgrid[y0 : y0 + part.shape[0], x0 : x0 + part.shape[1]]
    light = np.where(np.hypot(columns - u, rows - v) < INSIDE * radius, part, 0.0)
    found: list[tuple[Places, float]] = []
    for _ in range(IMAGES):
        most = float(light.max()) if light.size else 0.0
        if most <= FAINT or (found and most < NEXT * found[0][1]):
            break
        row, column = np.unravel_index(light.argmax(), light.shape)
        close = np.hypot(rows - rows[row, column], columns - columns[row, column]) < max(1.5, 0.25 * radius)
        near = light * close
        found.append((np.array([(near * columns).sum(), (near * rows).sum()]) / near.sum(), most))
        light = np.where(close, 0.0, light)
    return found


def _mirrored(images: Places, places: Places, table: Table, camera: Camera) -> tuple[Places, Places]:
    """The lines on which the lamp lies: from the mirroring points of the balls (n x 3), along unit vectors."""
    eye, r = camera.position, table.radius
    flat = np.column_stack([(images - camera.centre) / camera.focal, np.ones(len(images))])
    sight = flat @ camera.rotation
    sight /= np.linalg.norm(sight, axis=1, keepdims=True)
    centres = np.column_stack([places, np.full(len(places), r)])
    along = np.sum(sight * (centres - eye), axis=1)
    missed = np.sum((centres - eye) ** 2, axis=1) - along**2
    points = eye + (along - np.sqrt(np.maximum(0.0, r * r - missed)))[:, None] * sight
    normals = (points - centres) / np.linalg.norm(points - centres, axis=1, keepdims=True)
    rays = sight - 2 * np.sum(sight * normals, axis=1, keepdims=True) * normals
    return points, rays


def _meetings(origins: Places, rays: Places) -> Places:
    """The points (n x 3) nearest to the lines of each set (n x lines x 3); without those where no lamp hangs."""
    across = np.eye(3) - rays[..., :, None] * rays[..., None, :]
    matrix = across.sum(axis=-3) + 1e-9 * np.eye(3)
    places = np.linalg.solve(matrix, np.einsum("...nij,...nj->...i", across, origins)[..., None])[..., 0]
    return np.asarray(places[(HEIGHT[0] < places[:, 2]) & (places[:, 2] < HEIGHT[1])])


def images_of(lamps: Places, places: Places, table: Table, camera: Camera) -> Places:
    """Pixels (lamps x balls x 2) at which balls at these places mirror the lamps (n x 3)."""
    centres = np.column_stack([places, np.full(len(places), table.radius)])[None]
    points = np.repeat(centres, len(lamps), axis=0)
    for _ in range(ROUNDS):
        to_eye, to_lamp = camera.position - points, lamps[:, None] - points
        half = to_eye / np.linalg.norm(to_eye, axis=2, keepdims=True)
        half += to_lamp / np.linalg.norm(to_lamp, axis=2, keepdims=True)
        points = centres + table.radius * half / np.linalg.norm(half, axis=2, keepdims=True)
    return project(camera, points.reshape(-1, 3)).reshape(len(lamps), len(places), 2)


def lights_for(lamp: Lamp, places: Places, table: Table, camera: Camera) -> Lights:
    """Where the lamp should shine on balls at these places."""
    centres, _ = _discs(places, table, camera)
    return Lights(images_of(lamp.place[None], places, table, camera)[0] - centres, USUAL * lamp.light)


def shining(still: Still, lamp: Lamp, table: Table, camera: Camera) -> Places:
    """Pixels of the box that would be centres of balls, if all that shines like the lamp were its image."""
    glints = np.where(still.bed.seen, still.glints, 0.0)
    tops = (glints >= cv2.dilate(glints, np.ones((3, 3), np.uint8))) & (glints > WEAKEST * lamp.light)
    rows, columns = np.nonzero(tops)
    order = np.argsort(-glints[rows, columns])[:SHINING]
    images = np.column_stack([columns[order], rows[order]]).astype(float)
    at = images
    for _ in range(2):  # the offset changes little over a ball
        places = places_at(camera, at + still.bed.corner, table.radius)
        known = np.all(np.isfinite(places), axis=1)
        images, places = images[known], places[known]
        if not len(images):
            return images
        at = images - lights_for(lamp, places, table, camera).beside
    return np.asarray(at)


def lit(still: Still, lamp: Lamp | None, places: Places, moved: Places, table: Table, camera: Camera) -> Array:
    """Whether the lamp shines where it should on discs tried for `places` and moved to pixels `moved` of the box:
    from -0.5 to 0.5, and 0 where nobody can tell."""
    if lamp is None or not len(places):
        return np.zeros(len(places), np.float32)
    lights = lights_for(lamp, places, table, camera)
    _, radii = _discs(places, table, camera)
    angles = np.arange(6) * np.pi / 3
    round_it = np.vstack([np.zeros(2), np.column_stack([np.cos(angles), np.sin(angles)])])
    share = np.max([lights.seen(still, moved + AROUND * radii[:, None] * step) for step in round_it], axis=0)
    at = np.ascontiguousarray(moved, np.float32)[:, None]
    base = cv2.remap(still.colours[..., 0], at[..., 0], at[..., 1], cv2.INTER_LINEAR)[:, 0]
    white = np.clip((base - WHITE[0]) / (WHITE[1] - WHITE[0]), 0.0, 1.0)
    return np.asarray((share - 0.5) * (1 - white), np.float32)
