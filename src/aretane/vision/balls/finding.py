"""Balls at a still moment: where the picture has outlines of the right size around something that is not cloth.

The camera tells how large a ball is at every pixel. Where colours change, a ball's outline may pass: each such
pixel votes for the two centres a radius away from it across the edge (the circle transform of Duda and Hart 1972,
with the direction of the edge and the known radius). A network judges the best centres and says where the middle of
a ball there would be (`patches`). The surest are taken first and explain their part of the picture; what is left is
judged again without it, so that a cluster is taken apart from its outside. Two balls are never nearer than a
diameter.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.balls.candidates import (
    AT_RAIL,
    Candidate,
    beside,
    candidates_at,
    clear,
    explained,
    inside,
)
from aretane.vision.balls.pairs import parted
from aretane.vision.balls.patches import judged
from aretane.vision.table.camera import Camera, places_at, project
from aretane.vision.table.cloth import Array, Mask
from aretane.vision.table.sight import Still

Pixels = NDArray[np.float64]

VOTES = (0.88, 1.0, 1.12)  # of the radius: where an edge votes
LEAST_VOTES = 0.16  # of a full outline
MOST = 120  # centres looked at
POSSIBLE, ENOUGH, SURE = (
    0.03,
    0.5,
    0.9,
)  # chances: of what is moved and judged again, of a ball, of one that explains
LEAST_SEEN = 0.2  # of a disc: a ball of which less is to be seen is not told from what hides it
MOVES = 2  # times that a centre is moved to where the network puts it
REACH = 2.2  # ball diameters from a ball just found
BESIDE = 0.25  # ball radii: farther no find is moved to make room for it


def find_balls(
    still: Still, table: Table, camera: Camera, kept: Sequence[Candidate] = (), where: Mask | None = None
) -> list[Candidate]:
    """Every ball that can be told from the cloth, the surest first: those that are `kept`, and others `where` it is
    looked for them (pixels of the box; None: everywhere)."""
    starts = centres_in(still)
    pool = starts if where is None else starts[[holds(where, pixel) for pixel in starts]]
    known, found = explained(still.known, kept, still, table, camera), list(kept)
    fresh, tries = _chosen(pool, still, known, table, camera, found)
    while fresh:
        found += fresh
        known = explained(known, fresh, still, table, camera)
        about = np.vstack([tries, neighbours(fresh, still, table, camera)])
        middles = np.array([one.pixel for one in fresh]) - still.bed.corner
        reach = REACH * 2 * max(one.radius for one in fresh)
        near = np.linalg.norm(about[:, None] - middles, axis=2).min(axis=1) < reach
        fresh, left = _chosen(about[near], still, known, table, camera, found)
        tries = np.vstack([about[~near], left])
    told = [*kept, *parted(found[len(kept) :], kept, still, table, camera)]
    return sorted(told, key=lambda one: -one.score)


def _chosen(
    starts: Pixels, still: Still, known: Array, table: Table, camera: Camera, found: Sequence[Candidate]
) -> tuple[list[Candidate], Pixels]:
    """The surest balls about these centres beside those found already, and the centres that may still be others."""
    starts, radii = _on_bed(starts, still, table, camera)
    told = judged(still, known, starts, radii)
    for _ in range(MOVES):
        likely = told.chance > POSSIBLE
        starts, radii = _on_bed(
            _once(told.centre[likely], told.chance[likely], radii[likely]), still, table, camera
        )
        told = judged(still, known, starts, radii)
    places = places_at(camera, told.centre + still.bed.corner, table.radius)
    taken = [one.place for one in found]
    chosen: list[Point] = []
    scores: list[float] = []
    for index in np.argsort(-told.chance):
        chance = float(told.chance[index])
        if chance < ENOUGH or (chosen and chance < SURE):
            break
        place = inside(table, (float(places[index, 0]), float(places[index, 1])))
        if place is None or told.visible[index] < LEAST_SEEN:
            continue
        if not clear(place, taken + chosen, table):
            place = beside(place, taken + chosen, table, camera)
            if (
                place is None
                or _pixels_off(place, told.centre[index], still, table, camera) > BESIDE * radii[index]
            ):
                continue
        if clear(place, taken + chosen, table):
            chosen.append(place)
            scores.append(chance)
    return candidates_at(chosen, scores, table, camera), starts


def _on_bed(pixels: Pixels, still: Still, table: Table, camera: Camera) -> tuple[Pixels, Array]:
    """Those pixels of the box that can be middles of balls on the table, and the radius that balls have there."""
    places = places_at(camera, pixels + still.bed.corner, table.radius) if len(pixels) else np.zeros((0, 2))
    margin = AT_RAIL * table.radius
    with np.errstate(invalid="ignore"):
        fine = np.all((places > -margin) & (places < np.array([table.length, table.width]) + margin), axis=1)
    at = np.column_stack([places[fine], np.full(int(fine.sum()), table.radius)])
    depth = at @ camera.rotation[2] + camera.translation[2]
    return pixels[fine], np.asarray(camera.focal * table.radius / depth, np.float32)


def _once(centres: Pixels, chances: Array, radii: Array) -> Pixels:
    """Centres that have come to lie together, once each: the likeliest."""
    kept: list[int] = []
    for index in np.argsort(-chances):
        if all(math.dist(centres[index], centres[other]) > 0.25 * radii[index] for other in kept):
            kept.append(int(index))
    return centres[kept]


def holds(where: Mask, pixel: NDArray[np.float64]) -> bool:
    """Whether a pixel of the box is one of these."""
    u, v = np.round(pixel).astype(int)
    return 0 <= u < where.shape[1] and 0 <= v < where.shape[0] and bool(where[v, u])


def _pixels_off(place: Point, centre: Pixels, still: Still, table: Table, camera: Camera) -> float:
    """How far from a pixel of the box a ball at a place would be seen."""
    seen = project(camera, np.array([[*place, table.radius]]))[0] - still.bed.corner
    return math.dist(seen, centre)


def neighbours(balls: Sequence[Candidate], still: Still, table: Table, camera: Camera) -> Pixels:
    """Pixels of the box where balls would touch these, if there is something."""
    angles, d = np.arange(12) * math.pi / 6, table.ball_diameter
    places = [
        (ball.place[0] + d * math.cos(a), ball.place[1] + d * math.sin(a), table.radius)
        for ball in balls
        for a in angles
    ]
    pixels = project(camera, np.array(places)) - still.bed.corner
    height, width = still.foreground.shape
    u, v = np.round(np.nan_to_num(pixels, nan=-1)).astype(int).T
    inside = (u >= 0) & (u < width) & (v >= 0) & (v < height)
    full = np.zeros(len(pixels), bool)
    full[inside] = still.unlike[v[inside], u[inside]] > 0.5
    return np.asarray(pixels[full])


def centres_in(still: Still) -> NDArray[np.float64]:
    """Pixels of the box where many edges agree that a ball's centre is, the best first."""
    across, down = still.edges
    height, width = across.shape
    weight = cv2.magnitude(across, down)
    edge = np.flatnonzero((weight > 0) & (still.bed.per_outline > 0))
    w, radii = weight.ravel()[edge], still.bed.radii.ravel()[edge]
    du, dv = across.ravel()[edge] / w, down.ravel()[edge] / w
    rows, columns = (axis.astype(np.float32) for axis in np.divmod(edge, width))
    reach = np.array([[side * share] for share in VOTES for side in (-1.0, 1.0)], np.float32)
    u = np.round(columns + reach * (radii * du)).astype(np.int32)
    v = np.round(rows + reach * (radii * dv)).astype(np.int32)
    inside = (u >= 0) & (u < width) & (v >= 0) & (v < height)
    votes = np.bincount((v * width + u)[inside], np.broadcast_to(w, u.shape)[inside], height * width)
    gathered = _blurred(votes.reshape(height, width).astype(np.float32), still.bed.radius)
    likely = gathered * still.bed.per_outline
    kernel = np.ones((3, 3), np.uint8)
    tops = (likely >= cv2.dilate(likely, kernel)) & (likely > LEAST_VOTES)
    down_at, along_at = np.nonzero(tops)
    order = np.argsort(-likely[down_at, along_at])[:MOST]
    return np.column_stack([along_at[order], down_at[order]]).astype(float)


def _blurred(votes: Array, radius: float) -> Array:
    """Votes of one centre gathered: a sum over its surroundings of about a seventh of the radius."""
    spread = max(0.8, 0.16 * radius)
    gathered: Array = cv2.GaussianBlur(votes, (0, 0), spread) * (2 * math.pi * spread**2)
    return gathered
