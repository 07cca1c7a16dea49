"""A camera that was moved, or is worn: the table is found anew by its edges, and which end is which by the balls
that stand where they stood."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence

import cv2
import numpy as np

from aretane.core.errors import InputError
from aretane.core.table import Point
from aretane.vision.balls.finding import SURE, find_balls
from aretane.vision.shots.following import Sight
from aretane.vision.shots.wanted import Wanted
from aretane.vision.table.camera import Camera, solve_camera
from aretane.vision.table.cloth import Cloth, Image, lab
from aretane.vision.table.corners import suggest_marks
from aretane.vision.table.sight import prepare

GREY, STEADY = (64, 36), 2.5  # pixels of a small picture, and of 255: two that differ by less show the same
NEAR, FEWEST, MOST = 0.06, 3, 0.6  # m: a ball stands where it stood; so many of them must, and such a share
CLOTH, ALIKE = 0.12, 14.0  # of the picture must look like the cloth that is known; units of colour
IN_VAIN = 4  # tries one after the other, after which no more are made
TURNED = {  # half a turn
    "head-left": "foot-right", "foot-right": "head-left", "head-right": "foot-left", "foot-left": "head-right",
    "side-left": "side-right", "side-right": "side-left",
}  # fmt: skip


class Wanderer:
    """Looks for the table anew wherever the picture has come to rest in a view that nobody marked."""

    def __init__(self, wanted: Wanted) -> None:
        self.wanted = wanted
        self.before: Image | None = None
        self.rested = self.in_vain = 0

    def found(self, picture: Image, cloth: Cloth | None, standing: Sequence[Point]) -> Sight | None:
        """This view, if it is the table with these balls on it."""
        if not self._has_come_to_rest(picture) or len(standing) < FEWEST or self.in_vain >= IN_VAIN:
            return None
        if cloth is not None and _share_of(picture, cloth) < CLOTH:
            return None
        camera = _camera_by(self.wanted, picture, standing)
        self.in_vain = self.in_vain + 1 if camera is None else 0
        if camera is None:
            return None
        return Sight(self.wanted.table, self.wanted.ball_set, lambda size: camera, picture)

    def _has_come_to_rest(self, picture: Image) -> bool:
        """Whether this is the second picture that shows the same; each rest is told once."""
        small = cv2.resize(cv2.cvtColor(picture, cv2.COLOR_BGR2GRAY), GREY, interpolation=cv2.INTER_AREA)
        same = self.before is not None and float(cv2.absdiff(small, self.before).mean()) < STEADY
        self.before = np.asarray(small, np.uint8)
        self.rested = self.rested + 1 if same else 0
        return self.rested == 1


def _share_of(picture: Image, cloth: Cloth) -> float:
    small = lab(np.asarray(cv2.resize(picture, GREY, interpolation=cv2.INTER_AREA)))
    colour = np.median(cloth.colour.reshape(-1, 3), axis=0)
    off = (small - colour) * np.array([0.4, 1.0, 1.0], np.float32)
    return float((np.linalg.norm(off, axis=2) < ALIKE).mean())


def _camera_by(wanted: Wanted, picture: Image, standing: Sequence[Point]) -> Camera | None:
    """The camera under which most balls stand where they stood; None where that is not clear."""
    try:
        marks = suggest_marks(picture, wanted.table)
    except InputError:
        return None
    told = sorted(_tried(wanted, picture, marks, standing), key=lambda one: -one[0])
    if not told or told[0][0] < max(FEWEST, MOST * len(standing)):
        return None
    return told[0][1] if len(told) < 2 or told[0][0] > told[1][0] else None


def _tried(
    wanted: Wanted, picture: Image, marks: Mapping[str, Point], standing: Sequence[Point]
) -> Iterator[tuple[int, Camera]]:
    """How many balls stand where they stood, with the table either way round."""
    size = (picture.shape[1], picture.shape[0])
    for own in (marks, {_turned(name): at for name, at in marks.items()}):
        try:
            camera = solve_camera(wanted.table, own, size, pixel_aspect=wanted.pixel_aspect)
        except InputError:
            continue
        still = prepare(picture, wanted.table, camera)
        found = [one.place for one in find_balls(still, wanted.table, camera) if one.score > SURE]
        yield sum(min((math.dist(at, one) for one in found), default=1.0) < NEAR for at in standing), camera


def _turned(name: str) -> str:
    kind, _, place = name.partition(":")
    return f"{kind}:{TURNED[place]}"
