"""A recording cut into shots: a shot is a change between two settled layouts.

Pictures are looked at a few times a second. A ball *stands* when some looks in a row find it at the same place;
a layout is settled when nothing else is on its way. A settled layout in which a ball stands elsewhere than before
ends a shot. Hidden is not gone: a ball that only is missing may be behind somebody, and one that only appears was;
neither makes a shot, because a shot moves the cue ball.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np

from aretane.core.table import Point, Table
from aretane.vision.balls import find_balls, prepare
from aretane.vision.camera import Camera
from aretane.vision.cloth import Array, Image, Mask, bed_of
from aretane.vision.frames import frame_rate, pictures

EVERY = 0.5  # seconds between two looks
WIDEST = 800  # pixels: larger pictures are made smaller first
CHANGED = 12.0  # of 255: a pixel that differs more from the look before
STILL = 1.5e-4  # of the bed's pixels may have changed in a picture that is the same
STANDS = 0.03  # m: two looks this near are one place
SAME = 0.04  # m: a ball this near to where it was has not moved
SPARSE = 1.5  # seconds between looks from which on each picture has to stand for itself
PATIENCE = 16  # looks that a ball may be hidden before it is gone
LONGEST_WAIT = 14  # looks for everything to come to rest: after that what moves is a person

Places = list[Point]


@dataclass(frozen=True)
class ShotSpan:
    """One shot: the last moment of the old layout, the first movement, the first of the new one; how many balls
    moved and how many are gone. `confidence` is 0 to 1."""

    start: float
    contact: float
    still: float
    confidence: float
    moved: int
    gone: int


@dataclass(frozen=True)
class Look:
    """What one picture showed: the places of balls, whatever they are called."""

    time: float
    places: Places


def find_shots(
    path: Path,
    table: Table,
    camera_of: Callable[[tuple[int, int]], Camera],
    progress: Callable[[float], None] | None = None,
) -> tuple[list[ShotSpan], int, float]:
    """The shots of a recording, how many pictures were looked at, and its pictures a second.

    `camera_of` gives the camera for a picture of that size.
    """
    looks = list(look_through(path, table, camera_of, progress))
    return cut(looks), len(looks), frame_rate(path)


def look_through(
    path: Path,
    table: Table,
    camera_of: Callable[[tuple[int, int]], Camera],
    progress: Callable[[float], None] | None = None,
) -> Iterator[Look]:
    """Every look at a recording, one after the other."""
    camera, bed, size = None, None, (0, 0)
    before, places = None, []
    for time, picture in pictures(path, EVERY):
        small, scale = _smaller(picture)
        now = (small.shape[1], small.shape[0])
        if camera is None or now != size:
            size, camera = now, _scaled(camera_of((picture.shape[1], picture.shape[0])), scale)
            bed = bed_of(table, camera, size)
            before = None
        assert bed is not None
        grey = np.asarray(cv2.GaussianBlur(cv2.cvtColor(small, cv2.COLOR_BGR2GRAY), (5, 5), 0), np.float32)
        if before is None or _changed(before, grey, bed.seen) > STILL:
            before = grey
            places = [one.place for one in find_balls(prepare(small, table, camera, bed), table, camera)]
        if progress is not None:
            progress(time)
        yield Look(time, places)


def _changed(before: Array, now: Array, bed: Mask) -> float:
    """The share of the bed's pixels that are not as they were."""
    return float((np.abs(now - before)[bed] > CHANGED).mean())


def _smaller(picture: Image) -> tuple[Image, float]:
    width = picture.shape[1]
    if width <= WIDEST:
        return picture, 1.0
    scale = WIDEST / width
    size = (WIDEST, round(picture.shape[0] * scale))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.uint8), scale


def _scaled(camera: Camera, scale: float) -> Camera:
    return camera if scale == 1.0 else camera.scaled(scale)


def cut(looks: Sequence[Look]) -> list[ShotSpan]:
    """The shots between settled layouts."""
    sparse = len(looks) > 1 and (looks[-1].time - looks[0].time) / (len(looks) - 1) > SPARSE
    shots: list[ShotSpan] = []
    layout: Places = []
    last_time, first_change, waited, absent = 0.0, None, 0, 0
    for index, one in enumerate(looks):
        later = looks[index + 1 : index + (2 if sparse else 3)] or looks[index - 1 : index]  # at the end, look back
        standing, moving = (one.places, False) if sparse else _standing(one, later)
        if not layout:
            layout, last_time = ([] if moving else standing), one.time
            continue
        new = [place for place in standing if _nearest(place, layout) > SAME]
        missing = [place for place in layout if _nearest(place, one.places) > SAME]
        if not missing:
            last_time, first_change, waited, absent = one.time, None, 0, 0
            layout = layout + new  # what only appears was hidden
            continue
        first_change = one.time if first_change is None else first_change
        absent += 1
        if not new:
            if absent > PATIENCE:
                layout, last_time = standing, one.time
            continue
        waited += 1
        at_end = index == len(looks) - 1
        if (moving and waited < LONGEST_WAIT and not at_end) or (sparse and not _stays(new, later)):
            continue
        gone, moved = max(0, len(missing) - len(new)), min(len(new), len(missing))
        shots.append(ShotSpan(last_time, first_change, one.time, _confidence(standing, layout, new), moved, gone))
        layout, last_time, first_change, waited, absent = standing, one.time, None, 0, 0
    return shots


def _standing(one: Look, later: Sequence[Look]) -> tuple[Places, bool]:
    """The places that the next looks have too, and whether something else is on its way."""
    standing = [place for place in one.places if all(_nearest(place, other.places) < STANDS for other in later)]
    moving = False
    for other in later:
        left = sum(_nearest(place, other.places) >= STANDS for place in one.places)
        arrived = sum(_nearest(place, one.places) >= STANDS for place in other.places)
        moving = moving or min(left, arrived) > 0
    return standing, moving


def _stays(new: Places, later: Sequence[Look]) -> bool:
    """Few pictures: what is new has to be there in the next one too, unless several balls are elsewhere."""
    return len(new) > 1 or not later or _nearest(new[0], later[0].places) < SAME


def _nearest(place: Point, others: Sequence[Point]) -> float:
    return min((math.dist(place, other) for other in others), default=math.inf)


def _confidence(standing: Places, layout: Places, new: Places) -> float:
    """Most balls usually stay: a layout in which everything is elsewhere may be a bumped camera or a new rack."""
    stayed = 1 - len(new) / max(1, len(standing))
    kept = min(1.0, len(standing) / max(1, len(layout)))
    return round(0.5 + 0.3 * stayed + 0.2 * kept, 2)
