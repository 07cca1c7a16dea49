"""Balls at a still moment: where the picture has outlines of the right size around something that is not cloth.

The camera tells how large a ball is at every pixel. Where colours change, a ball's outline may pass: each such
pixel votes for the two centres a radius away from it across the edge (the circle transform of Duda and Hart 1972,
with the direction of the edge and the known radius). The best centres are moved until the outline of a sphere there
fits, judged, and taken one after the other; two balls are never nearer than a diameter.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.layout import on_table
from aretane.core.table import Point, Table
from aretane.vision.camera import Camera, place_at, place_sigma, places_at, project
from aretane.vision.cloth import Array, ball_radius
from aretane.vision.outline import Agreement, agreement, outline, outlines, polished, settled
from aretane.vision.sight import Still

SMALLEST = 3.0  # pixels of radius below which nothing can be told
VOTES = (0.88, 1.0, 1.12)  # of the radius: where an edge votes
LEAST_VOTES = 0.16  # of a full outline
MOST = 160  # centres looked at
LEAST = 0.4  # of the disc unlike cloth, that a ball may be there at all
VISIBLE = 0.25  # of the outline, that anything can be said
ENOUGH = 0.5  # of the score
POSSIBLE = 0.004  # of it, before a centre is moved to where it fits
LAYERS = 6  # times that balls just found are taken away from the picture
REACH = 2.0  # ball diameters from a ball just found
GAP = 0.3  # of a disc, that is unexplained between other balls
CLOSE, BESIDE = 0.9, 1.3  # ball diameters: how near and how far the balls round such a gap are
GROWN = 1.06  # ball radii that a known ball explains
APART = 0.86  # ball diameters: nearer finds are one ball
SCORE = np.array([
    -13.17, 3.61, 2.40, 0.31, 4.71, -3.96, 0.35, -5.05, 3.55,
    -0.90, 2.84, -0.08, 1.89, 2.66, 2.24, 1.76, 3.77, -2.41,
    1.31, 0.34, 1.09, -0.22, -1.70, 4.99, 4.18, 1.68, -6.91,
])  # fmt: skip
AT_RAIL = 0.7  # ball radii: so far into a cushion a rail-frozen ball may be measured
FIT_SIGMA = 0.6  # pixels, one standard deviation of a fitted centre (from the synthetic recordings)
STEPS = (1.5, 0.5)


@dataclass(frozen=True)
class Candidate:
    """A ball found: its centre on the table in metres with its standard deviation, its pixel and its score."""

    place: Point
    sigma: float
    pixel: Point
    radius: float
    score: float


def find_balls(still: Still, table: Table, camera: Camera) -> list[Candidate]:
    """Every ball that can be told from the cloth, the surest first.

    Balls that are sure explain their part of the picture; what is left is judged again without it, so that a
    cluster is taken apart from its outside.
    """
    known = still.known.copy()
    pool = tried(centres_in(still), still, table, camera)
    found: list[Candidate] = []
    fresh = _chosen(pool, still, known, table, camera, found)
    for _ in range(LAYERS):
        found += fresh
        if not fresh:
            break
        for ball in fresh:
            explain(known, ball, still, table, camera)
        beside = tried(neighbours(fresh, still, table, camera), still, table, camera)
        left = [
            one for one in (*pool, *beside) if _near(one.place, fresh, table) and _clear(one.place, found, table)
        ]
        fresh = _chosen(left, still, known, table, camera, found)
    return sorted(found, key=lambda one: -one.score)


@dataclass(frozen=True)
class Try:
    """A place where a ball may be: its pixel in the box, and the outline about it."""

    place: Point
    centre: NDArray[np.float64]
    ring: Array


def _chosen(
    pool: list[Try], still: Still, known: Array, table: Table, camera: Camera, found: list[Candidate]
) -> list[Candidate]:
    """The balls of the pool that the picture bears out beside those already found."""
    if not pool:
        return []
    centres, rings = np.array([one.centre for one in pool]), np.array([one.ring for one in pool])
    first = agreement(still, known, centres, rings)
    seen = (first.visible > VISIBLE) & (score(first) > POSSIBLE)
    gap = (first.visible <= VISIBLE) & (first.rest > GAP)
    likely = np.nonzero((first.unlike > LEAST) & (seen | gap))[0]
    if not len(likely):
        return []
    moved = settled(still, known, centres[likely], rings[likely], STEPS)
    judged = agreement(still, known, moved, rings[likely])
    scores = np.where(judged.visible > VISIBLE, score(judged), 0.0)
    if found:
        scores = np.maximum(scores, _gaps(judged, moved, found, still, table, camera))
    moved = polished(still, known, moved, rings[likely])
    chosen: list[Candidate] = []
    for index in np.argsort(-scores):
        if scores[index] < ENOUGH:
            break
        pixel = moved[index] + still.bed.corner
        at = place_at(camera, (float(pixel[0]), float(pixel[1])), table.radius)
        place = _inside(table, at) if at else None
        if place is not None and _clear(place, found + chosen, table):
            chosen.append(candidate_at(place, float(scores[index]), table, camera))
    return chosen


def _gaps(
    judged: Agreement,
    moved: NDArray[np.float64],
    found: list[Candidate],
    still: Still,
    table: Table,
    camera: Camera,
) -> Array:
    """A ball in the middle of others shows little outline; what fills a gap of its size between them is one."""
    scores = np.zeros(len(moved), np.float32)
    for index in np.nonzero((judged.rest > GAP) & (judged.full > 0.8) & (judged.person < 0.5))[0]:
        pixel = moved[index] + still.bed.corner
        place = place_at(camera, (float(pixel[0]), float(pixel[1])), table.radius)
        if place is None or not _clear(place, found, table, CLOSE):
            continue
        beside = sum(math.dist(place, other.place) < BESIDE * table.ball_diameter for other in found)
        if beside >= 3:
            scores[index] = ENOUGH + 0.4 * judged.rest[index]
    return scores


def _clear(place: Point, found: list[Candidate], table: Table, apart: float = APART) -> bool:
    """Whether a ball has room there beside the others."""
    return all(math.dist(place, other.place) >= apart * table.ball_diameter for other in found)


def _near(place: Point, fresh: list[Candidate], table: Table) -> bool:
    """Whether what is known about it may be different now."""
    return any(math.dist(place, other.place) < REACH * table.ball_diameter for other in fresh)


def explain(known: Array, ball: Candidate, still: Still, table: Table, camera: Camera) -> None:
    """Nothing more is to be learnt from the pixels of a ball that is known, and of its rim."""
    centre = np.array(ball.pixel)
    ring = (outline(camera, ball.place, table.radius) - centre) * GROWN + centre - still.bed.corner
    cv2.fillPoly(known, [np.round(ring * 16).astype(np.int32)], 0.0, shift=4)


def neighbours(fresh: list[Candidate], still: Still, table: Table, camera: Camera) -> NDArray[np.float64]:
    """Pixels of the box where balls would touch the ones just found, if there is something."""
    angles = np.arange(12) * math.pi / 6
    d = table.ball_diameter
    places = [
        (ball.place[0] + d * math.cos(a), ball.place[1] + d * math.sin(a), table.radius)
        for ball in fresh
        for a in angles
    ]
    pixels = project(camera, np.array(places)) - still.bed.corner
    height, width = still.foreground.shape
    u, v = np.round(np.nan_to_num(pixels, nan=-1)).astype(int).T
    inside = (u >= 0) & (u < width) & (v >= 0) & (v < height)
    full = np.zeros(len(pixels), bool)
    full[inside] = still.unlike[v[inside], u[inside]] > 0.5
    return np.asarray(pixels[full])


def score(seen: Agreement) -> Array:
    """The chance that a ball stands there, by what the picture shows of it."""
    return np.asarray(1 / (1 + np.exp(-(SCORE @ terms(seen)))), np.float32)


def terms(seen: Agreement) -> Array:
    """What the score weighs (terms x n); `learning` finds the weights."""
    low = np.clip((0.6 - seen.full) / 0.3, 0.0, 1.0)  # a ball of the cloth's own hue
    return np.stack(
        [
            np.ones_like(low), seen.full, seen.dimmest, seen.edged, seen.free, seen.around, seen.inner, seen.person,
            seen.visible, seen.unlike, seen.faint, seen.shine, seen.edged**2, seen.full * seen.edged,
            seen.edged * seen.free, seen.person * seen.edged, seen.around * seen.edged, seen.inner * seen.edged,
            seen.unlike * seen.faint, seen.shine * seen.faint, seen.free * seen.shine, low, low * seen.unlike,
            low * seen.faint, low * seen.shine, low * seen.edged, low * seen.inner,
        ]
    )  # fmt: skip


def centres_in(still: Still) -> NDArray[np.float64]:
    """Pixels of the box where many edges agree that a ball's centre is, the best first."""
    across, down = still.edges
    height, width = across.shape
    weight = np.hypot(across, down)
    rows, columns = np.nonzero((weight > 0) & still.bed.seen & (still.bed.radii >= SMALLEST))
    w = weight[rows, columns]
    du, dv = across[rows, columns] / w, down[rows, columns] / w
    radii = still.bed.radii[rows, columns]
    votes = np.zeros(height * width)
    for share in VOTES:
        for side in (-1.0, 1.0):
            u = np.round(columns + side * share * radii * du).astype(int)
            v = np.round(rows + side * share * radii * dv).astype(int)
            inside = (u >= 0) & (u < width) & (v >= 0) & (v < height)
            votes += np.bincount(v[inside] * width + u[inside], w[inside], minlength=height * width)
    radius = np.maximum(still.bed.radii, SMALLEST)
    blurred = _blurred(votes.reshape(height, width).astype(np.float32), float(np.median(radius)))
    likely = blurred / (2 * math.pi * radius) * np.where(still.bed.seen, 1.0, 0.0)
    kernel = np.ones((3, 3), np.uint8)
    tops = (likely >= cv2.dilate(likely, kernel)) & (likely > LEAST_VOTES)
    rows, columns = np.nonzero(tops)
    order = np.argsort(-likely[rows, columns])[:MOST]
    return np.column_stack([columns[order], rows[order]]).astype(float)


def _blurred(votes: Array, radius: float) -> Array:
    """Votes of one centre gathered: a sum over its surroundings of about a seventh of the radius."""
    spread = max(0.8, 0.16 * radius)
    gathered: Array = cv2.GaussianBlur(votes, (0, 0), spread) * (2 * math.pi * spread**2)
    return gathered


def tried(starts: NDArray[np.float64], still: Still, table: Table, camera: Camera) -> list[Try]:
    """What pixels of the box would be as balls; without those that are off the table."""
    if not len(starts):
        return []
    seen = places_at(camera, starts + still.bed.corner, table.radius)
    inside = [_inside(table, (float(x), float(y))) for x, y in seen if math.isfinite(x)]
    places = [place for place in inside if place is not None]
    if not places:
        return []
    centres = project(camera, np.column_stack([places, np.full(len(places), table.radius)]))
    rings = (outlines(camera, np.array(places), table.radius) - centres[:, None]).astype(np.float32)
    return [
        Try(place, centre - still.bed.corner, ring)
        for place, centre, ring in zip(places, centres, rings, strict=True)
    ]


def _inside(table: Table, place: Point) -> Point | None:
    """The place itself; of a ball at a rail, which may be measured a little inside the cushion, the nearest that
    can be; None if it is off the table."""
    if on_table(table, place, table.radius):
        return place
    r = table.radius
    at_rail = (min(max(place[0], r), table.length - r), min(max(place[1], r), table.width - r))
    return at_rail if math.dist(at_rail, place) < AT_RAIL * r else None


def candidate_at(place: Point, score: float, table: Table, camera: Camera) -> Candidate:
    """A ball at a place that is known."""
    pixel = project(camera, np.array([[*place, table.radius]]))[0]
    at = (float(pixel[0]), float(pixel[1]))
    sigma = place_sigma(camera, at, table.radius, FIT_SIGMA)
    return Candidate(place, sigma, at, ball_radius(camera, place, table.radius), score)
