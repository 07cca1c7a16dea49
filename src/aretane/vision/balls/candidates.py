"""A ball found in a picture, and what of the table and of the picture it takes for itself: two balls are never
nearer than a diameter."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from aretane.core.layout import on_table
from aretane.core.table import Point, Table
from aretane.vision.balls.outline import FINE, outlines, to_fill
from aretane.vision.table.camera import Camera, places_sigma, project
from aretane.vision.table.cloth import Array, ball_radius
from aretane.vision.table.sight import Still

GROWN = 1.06  # ball radii that a known ball explains
APART = 0.86  # ball diameters: nearer finds are one ball
AT_RAIL = 0.7  # ball radii: so far into a cushion a rail-frozen ball may be measured
FIT_SIGMA = 0.6  # pixels, one standard deviation of a fitted centre (from the synthetic recordings)


@dataclass(frozen=True)
class Candidate:
    """A ball found: its centre on the table in metres with its standard deviation, its pixel and its score."""

    place: Point
    sigma: float
    pixel: Point
    radius: float
    score: float


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


def clear(place: Point, others: Sequence[Point], table: Table) -> bool:
    """Whether a ball has room there beside the others."""
    return all(math.dist(place, other) >= APART * table.ball_diameter for other in others)


def beside(place: Point, others: Sequence[Point], table: Table, camera: Camera) -> Point | None:
    """The place of a ball behind the nearest of the others, moved away from it until both would touch: in the line
    of sight a picture tells it less well than that. None of one before it, which would be seen whole: what is taken
    for that is the other's shadow.
    """
    nearest = min(others, key=lambda other: math.dist(place, other))
    apart, eye = math.dist(place, nearest), camera.position[:2]
    if apart < 1e-6 or math.dist(place, eye) < math.dist(nearest, eye):
        return None
    share = table.ball_diameter / apart
    return inside(
        table, (nearest[0] + share * (place[0] - nearest[0]), nearest[1] + share * (place[1] - nearest[1]))
    )


def inside(table: Table, place: Point) -> Point | None:
    """The place itself; of a ball at a rail, which may be measured a little inside the cushion, the nearest that
    can be; None if it is off the table."""
    if on_table(table, place, table.radius):
        return place
    r = table.radius
    at_rail = (min(max(place[0], r), table.length - r), min(max(place[1], r), table.width - r))
    return at_rail if math.dist(at_rail, place) < AT_RAIL * r else None


def explained(known: Array, balls: Sequence[Candidate], still: Still, table: Table, camera: Camera) -> Array:
    """What is known, but for the pixels of these balls and their rims: nothing more is to be learnt from them."""
    left = known.copy()
    if balls:
        rings = outlines(camera, np.array([ball.place for ball in balls]), table.radius)
        for ring in to_fill(rings, GROWN, still.bed.corner):
            cv2.fillPoly(left, [ring], 0.0, shift=FINE)
    return left
