"""Where cloth is seen: no ball is there, and nobody before it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.balls.finding import APART, Candidate
from aretane.vision.balls.outline import FINE, outlines, to_fill
from aretane.vision.shots.watch import SAME
from aretane.vision.table.camera import Camera
from aretane.vision.table.sight import Still

EMPTY, SHADED = 0.2, 0.5  # of a disc that may differ from cloth where no ball is, without and with shadows
CORE, COVERED = 0.8, 1.1  # ball radii: what is looked at there, and what another ball hides
VISIBLE = 0.3  # of that must be to be seen


class Gaps:
    """Answers whether cloth is seen where a ball would stand: no ball, and nobody before it."""

    def __init__(self, still: Still, table: Table, camera: Camera, found: Sequence[Candidate]) -> None:
        self.still, self.table, self.camera, self.found = still, table, camera, found
        self.known = still.known.copy()
        for ring in self._rings([one.place for one in found], COVERED):
            cv2.fillPoly(self.known, [ring], 0.0, shift=FINE)

    def __call__(self, place: Point) -> bool:
        apart = APART * self.table.ball_diameter
        if any(SAME < math.dist(place, one.place) < apart for one in self.found):
            return True  # no room there for another ball
        ring = self._rings([place], CORE)[0]
        low = np.maximum(ring.min(axis=0) >> FINE, 0)
        high = np.maximum((ring.max(axis=0) >> FINE) + 2, low)
        part = (slice(low[1], high[1]), slice(low[0], high[0]))
        disc = np.zeros(self.known[part].shape, np.uint8)
        if not disc.size:
            return False
        cv2.fillPoly(disc, [ring - (low << FINE).astype(np.int32)], 1, shift=FINE)
        inside = (disc > 0) & (self.known[part] > 0)
        if inside.sum() < VISIBLE * max(1, disc.sum()):
            return False
        plain = self.still.foreground[part][inside].mean() < EMPTY
        return bool(plain and self.still.unlike[part][inside].mean() < SHADED)

    def _rings(self, places: Sequence[Point], grown: float) -> NDArray[np.int32]:
        """Outlines of balls at these places, grown, to be filled in the box."""
        if not places:
            return np.zeros((0, 0, 2), np.int32)
        rings = outlines(self.camera, np.array(places), self.table.radius)
        return to_fill(rings, grown, self.still.bed.corner)
