"""A tight rack is one object: seen as a whole it is plain, ball by ball it is not.

A pack that the rules know is laid where it may stand, a little shifted, and compared with the foreground: its balls
must be full, and a ring around the whole pack must be cloth.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from aretane.core.rack import racked
from aretane.core.table import Point, Table
from aretane.vision.balls.candidates import Candidate, candidates_at
from aretane.vision.balls.outline import FINE, outlines, to_fill
from aretane.vision.table.camera import Camera
from aretane.vision.table.sight import Still

PACKS = {
    "pool": ("eight-ball", "ten-ball", "nine-ball"),
    "snooker": ("snooker",),
    "blackball": ("blackball",),
}
SHIFT, FARTHEST = 0.004, 6  # m, and how often along or across: racks are set by hand
FULL, CLEAN = 0.88, 0.28  # of the pack that must be foreground, and of the ring round it that may be
LOOSE = 0.35  # ball diameters within which the finds agree with a place of the pack
AGREED = 0.5  # of the places must have a find of their own
TOLD = 0.8  # score of a find that can speak against a pack
INSIDE = 0.7  # ball diameters from a place of the pack: a find farther away does not belong to it
MOST, OFF = 0.8, (0.22, 0.42)  # how far off the pack's places half, and most, of such finds may be
RING = 1.12, 1.5  # ball radii: the ring round the pack
SURE = 0.9  # score of a ball that was told by its pack
LONE = {"pool": 1, "snooker": 7, "blackball": 1}  # balls that are not in a full pack
SPARE = 2  # finds that may be no balls


def with_rack(
    found: Sequence[Candidate], still: Still, table: Table, camera: Camera, ball_set: str
) -> tuple[list[Candidate], bool]:
    """The balls found; those of a rack, if there is one, at the places that its shape gives them. And whether."""
    for discipline in PACKS[ball_set]:
        pack = [at for ball, at in racked(table, discipline).balls.items() if ball.startswith(_PACKED[ball_set])]
        for places in (pack, [(table.length - x, table.width - y) for x, y in pack]):
            if _agreed(places, found, table) < AGREED or not _tight(_aligned(places, found, table), found, table):
                continue
            placed = _best(places, still, table, camera)
            if placed is None or not _tight(placed, found, table):
                continue
            outside = _outside(placed, found, table)
            if sum(one.score > TOLD for one in outside) > LONE[ball_set] + SPARE:
                continue  # balls of it have left already
            return outside + candidates_at(placed, [SURE] * len(placed), table, camera), True
    return list(found), False


_PACKED = {"pool": ("1", "2", "3", "4", "5", "6", "7", "8", "9"), "snooker": ("red",), "blackball": ("r", "y", "b")}


def _agreed(places: Sequence[Point], found: Sequence[Candidate], table: Table) -> float:
    """The share of the pack's places near which something was found."""
    reach = (LOOSE + 0.5) * table.ball_diameter
    near = [any(math.dist(one.place, at) < reach for one in found) for at in places]
    return sum(near) / len(places)


def _aligned(places: Sequence[Point], found: Sequence[Candidate], table: Table) -> list[Point]:
    """The pack shifted as far as most finds in it lie beside its places."""
    reach = (LOOSE + 0.5) * table.ball_diameter
    nearest = [(one.place, min(places, key=lambda at: math.dist(at, one.place))) for one in found]
    beside = [(x - u, y - v) for (x, y), (u, v) in nearest if math.dist((x, y), (u, v)) < reach]
    across, along = np.median(beside, axis=0)
    return [(x + float(across), y + float(along)) for x, y in places]


def _tight(placed: Sequence[Point], found: Sequence[Candidate], table: Table) -> bool:
    """Whether the sure finds among the pack lie at its places, one at each: a pack that has been hit does not."""
    D = table.ball_diameter
    apart = [[math.dist(one.place, at) / D for at in placed] for one in found if one.score > TOLD]
    apart = [row for row in apart if min(row) < INSIDE]
    if not apart:
        return False
    rows, columns = linear_sum_assignment(apart)
    off = np.array(apart)[rows, columns]
    return float(np.median(off)) < OFF[0] and float(np.quantile(off, MOST)) < OFF[1]


def _best(places: Sequence[Point], still: Still, table: Table, camera: Camera) -> list[Point] | None:
    """The pack shifted step by step to where it fits best; None where it does not fit."""
    rings = outlines(camera, np.array(places), table.radius)

    def fit(at: tuple[int, int]) -> tuple[float, float]:
        shift = SHIFT * np.array(at)
        moved = outlines(camera, np.array(places[:1]) + shift, table.radius)[0].mean(axis=0) - rings[0].mean(axis=0)
        return _filled(rings + moved, still)

    at, (full, around) = (0, 0), fit((0, 0))
    for _ in range(FARTHEST):
        steps = [(at[0] + i, at[1] + j) for i, j in ((-1, 0), (1, 0), (0, -1), (0, 1))]
        tried = {step: fit(step) for step in steps}
        step = max(steps, key=lambda one: tried[one][0] - tried[one][1])
        if tried[step][0] - tried[step][1] <= full - around:
            break
        at, (full, around) = step, tried[step]
    if full < FULL or around > CLEAN:
        return None
    return [(x + SHIFT * at[0], y + SHIFT * at[1]) for x, y in places]


def _filled(rings: NDArray[np.float64], still: Still) -> tuple[float, float]:
    """Foreground in the pack, and in the ring round it."""
    whole = to_fill(rings, RING[1], still.bed.corner)
    low = np.maximum(whole.min(axis=(0, 1)) >> FINE, 0)
    high = (whole.max(axis=(0, 1)) >> FINE) + 2
    part = (slice(low[1], max(low[1], high[1])), slice(low[0], max(low[0], high[0])))
    known = still.known[part] > 0
    if not known.any():
        return 0.0, 1.0
    inside, near, far = (np.zeros(known.shape, np.uint8) for _ in range(3))
    for mask, grown in ((inside, 1.0), (near, RING[0]), (far, RING[1])):
        for outline in to_fill(rings, grown, still.bed.corner + low):
            cv2.fillPoly(mask, [outline], 1, shift=FINE)
    pack, around = (inside > 0) & known, (far > 0) & (near == 0) & known
    if not pack.any() or not around.any():
        return 0.0, 1.0
    return float(still.unlike[part][pack].mean()), float(still.foreground[part][around].mean())


def _outside(places: Sequence[Point], found: Sequence[Candidate], table: Table) -> list[Candidate]:
    """What was found outside of the pack."""
    beyond = INSIDE * table.ball_diameter
    return [one for one in found if all(math.dist(one.place, at) > beyond for at in places)]
