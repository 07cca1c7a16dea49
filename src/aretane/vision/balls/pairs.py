"""Two balls that were taken for one: of two that touch in the line of sight the network that judges balls may see
one that stands between them.

A second network of the same build looks at what was found, all other balls explained, and says whether that is two,
and where each of them is. `learning_pairs` finds its weights.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from pathlib import Path

import numpy as np

from aretane.core.table import Table
from aretane.vision.balls.candidates import Candidate, beside, candidates_at, clear, explained, inside
from aretane.vision.balls.patches import asked, patches, share
from aretane.vision.table.camera import Camera, places_at
from aretane.vision.table.sight import Still

PAIRS = Path(__file__).with_name("pairs.onnx")
TWO = 0.9  # chance
NEAR = 5.0  # radii in the picture: what stands farther away is not in the patch


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
    places = places_at(camera, np.array(one.pixel) + one.radius * told[1:].reshape(2, 2), table.radius)
    taken = [other.place for other in near]
    for x, y in places:
        place = inside(table, (float(x), float(y)))
        if place is not None and not clear(place, taken, table):
            place = beside(place, taken, table, camera)
        if place is None or not clear(place, taken, table):
            return []
        taken.append(place)
    return candidates_at(taken[-2:], [one.score] * 2, table, camera)
