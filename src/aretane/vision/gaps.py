"""Where cloth is seen: no ball is there, and nobody before it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np

from aretane.core.table import Point, Table
from aretane.vision.balls import APART, Candidate
from aretane.vision.camera import Camera
from aretane.vision.cloth import Array
from aretane.vision.outline import outline
from aretane.vision.sight import Still
from aretane.vision.watch import SAME

EMPTY, SHADED = 0.2, 0.5  # of a disc that may differ from cloth where no ball is, without and with shadows
CORE, COVERED = 0.8, 1.1  # ball radii: what is looked at there, and what another ball hides
VISIBLE = 0.3  # of that must be to be seen


class Gaps:
    """Answers whether cloth is seen where a ball would stand: no ball, and nobody before it."""

    def __init__(self, still: Still, table: Table, camera: Camera, found: Sequence[Candidate]) -> None:
        self.still, self.table, self.camera, self.found = still, table, camera, found
        self.known = still.known.copy()
        for one in found:
            self._fill(self.known, one.place, COVERED, 0.0)

    def __call__(self, place: Point) -> bool:
        apart = APART * self.table.ball_diameter
        if any(SAME < math.dist(place, one.place) < apart for one in self.found):
            return True  # no room there for another ball
        disc = np.zeros_like(self.known)
        self._fill(disc, place, CORE, 1.0)
        whole, inside = disc > 0, (disc > 0) & (self.known > 0)
        if inside.sum() < VISIBLE * max(1, whole.sum()):
            return False
        return bool(self.still.foreground[inside].mean() < EMPTY and self.still.unlike[inside].mean() < SHADED)

    def _fill(self, mask: Array, place: Point, grown: float, value: float) -> None:
        ring = outline(self.camera, place, self.table.radius)
        middle = ring.mean(axis=0)
        about = middle + grown * (ring - middle) - self.still.bed.corner
        cv2.fillPoly(mask, [np.round(about * 16).astype(np.int32)], value, shift=4)
