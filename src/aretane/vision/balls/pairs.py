"""Two balls that were taken for one: of two that touch in the line of sight the network that judges balls may see
one that stands between them.

A second network of the same build looks at what was found, all other balls explained, and says whether that is two,
and where each of them is. They are believed if the first network, with the other one explained, is sure of each.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.balls.candidates import Candidate, beside, candidates_at, clear, explained, inside
from aretane.vision.balls.patches import asked, judged, patches, share
from aretane.vision.table.camera import Camera, places_at
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still

PAIRS = Path(__file__).with_name("pairs.onnx")
TWO, SURE = 0.15, 0.9  # chances: that it may be two, and of each that there is a ball
NEAR = 5.0  # radii in the picture: what stands farther away is not in the patch
STAYS = 0.4  # radii: so near to its place the first network finds each


def parted(
    found: Sequence[Candidate], others: Sequence[Candidate], still: Still, table: Table, camera: Camera
) -> list[Candidate]:
    """The balls `found`, but two where one was taken for both; `others` stand beside them."""
    told: list[Candidate] = []
    for n, one in enumerate(found):
        told += _two(one, [*others, *told, *found[n + 1 :]], still, table, camera) or [one]
    return told


def _two(
    one: Candidate, others: Sequence[Candidate], still: Still, table: Table, camera: Camera
) -> list[Candidate]:
    """The nearer and the farther ball; nothing where it is one alone, or where both have no room."""
    near = [other for other in others if math.dist(other.pixel, one.pixel) < NEAR * one.radius]
    known, middle = explained(still.known, near, still, table, camera), np.array([one.pixel]) - still.bed.corner
    told = asked(PAIRS, patches(still, known, middle, np.array([one.radius], np.float32)))[0]
    if share(told[0]) < TWO:
        return []
    pixels = np.array(one.pixel) + one.radius * told[1:].reshape(2, 2)
    two = _with_room(places_at(camera, pixels, table.radius), [other.place for other in near], table, camera)
    pair = candidates_at(two, [one.score] * len(two), table, camera)
    return pair if pair and _both(pair, known, still, table, camera) else []


def _with_room(places: NDArray[np.float64], taken: Sequence[Point], table: Table, camera: Camera) -> list[Point]:
    """These places, moved apart where balls there would not fit; nothing if they do not fit at all."""
    two: list[Point] = []
    for x, y in places:
        place = inside(table, (float(x), float(y)))
        if place is not None and not clear(place, [*taken, *two], table):
            place = beside(place, [*taken, *two], table, camera)
        if place is None or not clear(place, [*taken, *two], table):
            return []
        two.append(place)
    return two


def _both(pair: Sequence[Candidate], known: Array, still: Still, table: Table, camera: Camera) -> bool:
    """Whether there is a ball at either place, once the other is explained: of the nearer one all is to be seen."""
    nearer, farther = pair
    before = explained(known, [nearer], still, table, camera)
    behind = np.where(before < known, known, explained(known, [farther], still, table, camera))
    for one, left in ((nearer, behind), (farther, before)):
        middle = np.array([one.pixel]) - still.bed.corner
        told = judged(still, left, middle, np.array([one.radius], np.float32))
        if told.chance[0] < SURE or math.dist(told.centre[0], middle[0]) > STAYS * one.radius:
            return False
    return True
