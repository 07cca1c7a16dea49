"""Balls at a still moment: where the picture has outlines of the right size around something that is not cloth.

The camera tells how large a ball is at every pixel. Where colours change, a ball's outline may pass: each such
pixel votes for the two centres a radius away from it across the edge (the circle transform of Duda and Hart 1972,
with the direction of the edge and the known radius). The best centres are moved until the outline of a sphere there
fits, judged, and taken one after the other; two balls are never nearer than a diameter.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.layout import on_table
from aretane.core.table import Point, Table
from aretane.vision.balls.lamps import Lamp, lamp_of, lights_for, lit, shining
from aretane.vision.balls.outline import FINE, Agreement, agreement, outlines, polished, settled, to_fill
from aretane.vision.balls.score import at_mouth, score
from aretane.vision.table.camera import Camera, places_at, places_sigma, project
from aretane.vision.table.cloth import Array, Mask, ball_radius
from aretane.vision.table.sight import Still

VOTES = (0.88, 1.0, 1.12)  # of the radius: where an edge votes
LEAST_VOTES = 0.16  # of a full outline
MOST = 160  # centres looked at
LEAST = 0.4  # of it unlike cloth, that a ball may be in such a gap
VISIBLE = 0.25  # of the outline, that anything can be said
ENOUGH, SURE, CERTAIN = 0.5, 0.9, 0.99  # of the score
HELD = 3.0  # of the fit, for a radius: a centre that a lamp's image tells stays near it
DIM = 0.6  # full: below, a ball is of the cloth's own hue
ASKED = 40  # centres among which the balls are looked for that tell of the lamp
POSSIBLE = 0.002  # of it, before a centre is moved to where it fits
LAYERS = 8  # times that balls just found are taken away from the picture
REACH = 2.0  # ball diameters from a ball just found
GAP = 0.3  # of a disc, that is unexplained between other balls
CLOSE, BESIDE = 0.9, 1.3  # ball diameters: how near and how far the balls round such a gap are
GROWN = 1.06  # ball radii that a known ball explains
OTHER, RIVAL = 0.2, 0.15  # ball diameters, and of the score: places for one ball that rival each other
APART = 0.86  # ball diameters: nearer finds are one ball
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


@dataclass(frozen=True)
class Search:
    """What is searched: a picture made ready, of a table under a lamp (if it is known) by a camera."""

    still: Still
    table: Table
    camera: Camera
    lamp: Lamp | None = None


@dataclass(frozen=True)
class Try:
    """A place where a ball may be: its pixel in the box, the outline about it, and how much it is held there."""

    place: Point
    centre: NDArray[np.float64]
    ring: Array
    held: float = 0.0


def lamp_in(still: Still, table: Table, camera: Camera) -> Lamp | None:
    """The lamp, by the balls that are sure without it."""
    dark = Search(still, table, camera)
    pool = tried(centres_in(still), dark)
    if not pool:
        return None
    centres, rings = np.array([one.centre for one in pool]), np.array([one.ring for one in pool])
    seen = agreement(still, still.known, centres, rings)
    mouth = at_mouth(np.array([one.place for one in pool]), table)
    surest = [pool[index] for index in np.argsort(-score(seen, np.zeros(len(pool), np.float32), mouth))[:ASKED]]
    sure = [one for one in _chosen(surest, dark, still.known, []) if one.score > SURE]
    return lamp_of(still, [one.place for one in sure], table, camera)


def find_balls(
    still: Still,
    table: Table,
    camera: Camera,
    lamp: Lamp | None,
    kept: Sequence[Candidate] = (),
    where: Mask | None = None,
) -> list[Candidate]:
    """Every ball that can be told from the cloth, the surest first: those that are `kept`, and others `where` it is
    looked for them (pixels of the box; None: everywhere).

    Balls that are sure explain their part of the picture; what is left is judged again without it, so that a
    cluster is taken apart from its outside.
    """
    search = Search(still, table, camera, lamp)
    pool = tried(_within(where, centres_in(still)), search)
    if lamp is not None:
        pool += tried(_within(where, shining(still, lamp, table, camera)), search, HELD)
    known = still.known.copy()
    found = list(kept)
    explain(known, kept, search)
    fresh = _chosen(pool, search, known, found)
    for _ in range(LAYERS):
        found += fresh
        if not fresh:
            break
        explain(known, fresh, search)
        places, new = [one.place for one in found], [one.place for one in fresh]
        left = [
            one
            for one in (*pool, *tried(neighbours(fresh, search), search))
            if not _clear(one.place, new, table, REACH) and _clear(one.place, places, table)
        ]
        fresh = _chosen(left, search, known, found)
    return sorted(_with_sigma(found, table, camera), key=lambda one: -one.score)


def _chosen(pool: list[Try], search: Search, known: Array, found: list[Candidate]) -> list[Candidate]:
    """The balls of the pool that the picture bears out beside those already found."""
    if not pool:
        return []
    still, table, camera = search.still, search.table, search.camera
    centres, rings = np.array([one.centre for one in pool]), np.array([one.ring for one in pool])
    first = agreement(still, known, centres, rings)
    mouth = at_mouth(np.array([one.place for one in pool]), table)
    seen = (first.visible > VISIBLE) & (score(first, np.full(len(pool), 0.5), mouth) > POSSIBLE)
    gap = (first.visible <= VISIBLE) & (first.rest > GAP) & (first.unlike > LEAST)
    likely = np.nonzero(seen | gap)[0]
    if not len(likely):
        return []
    places = np.array([pool[index].place for index in likely])
    lights = lights_for(search.lamp, places, table, camera) if search.lamp else None
    held = np.array([pool[index].held for index in likely], np.float32)
    moved = settled(still, known, centres[likely], rings[likely], STEPS, lights, held)
    judged = agreement(still, known, moved, rings[likely])
    shine = lit(still, search.lamp, places, moved, table, camera)
    scores = np.where(judged.visible > VISIBLE, score(judged, shine, mouth[likely]), 0.0)
    if found:
        scores = np.maximum(scores, _gaps(judged, moved, found, search))
    fine = np.nonzero((scores >= ENOUGH) & (judged.full > DIM))[0]
    if len(fine):
        moved[fine] = polished(still, known, moved[fine], rings[likely][fine])
    ends = places_at(camera, moved + still.bed.corner, table.radius)
    at = [_inside(table, (float(x), float(y))) if math.isfinite(x) else None for x, y in ends]
    taken = [one.place for one in found]
    chosen: list[Point] = []
    values: list[float] = []
    for index in np.argsort(-scores):
        place, value = at[index], float(scores[index])
        if value < ENOUGH:
            break
        if place is None or not _clear(place, taken + chosen, table):
            continue
        if _clear(place, chosen, table, BESIDE) or not _rivalled(place, value, at, scores, chosen, table):
            chosen.append(place)
            values.append(value)
    return _standing(chosen, values, table, camera)


def _rivalled(
    place: Point, value: float, places: list[Point | None], scores: Array, chosen: list[Point], table: Table
) -> bool:
    """Whether another place for the same ball is nearly as good, so that it is better to wait until the balls
    beside it are known."""
    low, high = OTHER * table.ball_diameter, APART * table.ball_diameter
    return any(
        rival is not None
        and value - RIVAL < scores[n] < CERTAIN
        and low < math.dist(place, rival) < high
        and _clear(rival, chosen, table)
        for n, rival in enumerate(places)
    )


def _within(where: Mask | None, pixels: NDArray[np.float64]) -> NDArray[np.float64]:
    """Those pixels of the box that are asked for."""
    return pixels if where is None else pixels[[holds(where, pixel) for pixel in pixels]]


def holds(where: Mask, pixel: NDArray[np.float64]) -> bool:
    """Whether a pixel of the box is one of these."""
    u, v = np.round(pixel).astype(int)
    return 0 <= u < where.shape[1] and 0 <= v < where.shape[0] and bool(where[v, u])


def _gaps(judged: Agreement, moved: NDArray[np.float64], found: list[Candidate], search: Search) -> Array:
    """A ball in the middle of others shows little outline; what fills a gap of its size between them is one."""
    scores, table = np.zeros(len(moved), np.float32), search.table
    filled = np.nonzero((judged.rest > GAP) & (judged.full > 0.8) & (judged.person < 0.5))[0]
    taken = [one.place for one in found]
    for index, (x, y) in zip(
        filled, places_at(search.camera, moved[filled] + search.still.bed.corner, table.radius), strict=True
    ):
        place = (float(x), float(y))
        if not math.isfinite(x) or not _clear(place, taken, table, CLOSE):
            continue
        if sum(math.dist(place, other) < BESIDE * table.ball_diameter for other in taken) >= 3:
            scores[index] = ENOUGH + 0.4 * judged.rest[index]
    return scores


def _clear(place: Point, others: list[Point], table: Table, apart: float = APART) -> bool:
    """Whether a ball has room there beside the others."""
    return all(math.dist(place, other) >= apart * table.ball_diameter for other in others)


def explain(known: Array, balls: Sequence[Candidate], search: Search) -> None:
    """Nothing more is to be learnt from the pixels of balls that are known, and of their rims."""
    if balls:
        rings = outlines(search.camera, np.array([ball.place for ball in balls]), search.table.radius)
        for ring in to_fill(rings, GROWN, search.still.bed.corner):
            cv2.fillPoly(known, [ring], 0.0, shift=FINE)


def neighbours(fresh: list[Candidate], search: Search) -> NDArray[np.float64]:
    """Pixels of the box where balls would touch the ones just found, if there is something."""
    still, table = search.still, search.table
    angles = np.arange(12) * math.pi / 6
    d = table.ball_diameter
    places = [
        (ball.place[0] + d * math.cos(a), ball.place[1] + d * math.sin(a), table.radius)
        for ball in fresh
        for a in angles
    ]
    pixels = project(search.camera, np.array(places)) - still.bed.corner
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


def tried(starts: NDArray[np.float64], search: Search, held: float = 0.0) -> list[Try]:
    """What pixels of the box would be as balls; without those that are off the table."""
    still, table, camera = search.still, search.table, search.camera
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
        Try(place, centre - still.bed.corner, ring, held)
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


def candidates_at(
    places: Sequence[Point], scores: Sequence[float], table: Table, camera: Camera
) -> list[Candidate]:
    """Balls at places that are known."""
    return _with_sigma(_standing(places, scores, table, camera), table, camera)


def _standing(places: Sequence[Point], scores: Sequence[float], table: Table, camera: Camera) -> list[Candidate]:
    """Balls at places, their uncertainty not yet told."""
    if not places:
        return []
    pixels = project(camera, np.column_stack([places, np.full(len(places), table.radius)]))
    return [
        Candidate(place, math.inf, (float(u), float(v)), ball_radius(camera, place, table.radius), score)
        for place, (u, v), score in zip(places, pixels, scores, strict=True)
    ]


def _with_sigma(found: Sequence[Candidate], table: Table, camera: Camera) -> list[Candidate]:
    """The same with their uncertainty, for all at once."""
    if not found:
        return []
    sigmas = places_sigma(camera, np.array([one.pixel for one in found]), table.radius, FIT_SIGMA)
    return [replace(one, sigma=float(sigma)) for one, sigma in zip(found, sigmas, strict=True)]
