"""Where no ball is to be seen, and nobody stands before it."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from aretane.core.table import Point, Table
from aretane.vision.balls.candidates import APART, Candidate, explained
from aretane.vision.balls.patches import judged
from aretane.vision.shots.watch import SAME
from aretane.vision.table.camera import Camera, project
from aretane.vision.table.cloth import ball_radius
from aretane.vision.table.sight import Still, on_disc

VISIBLE, SOMEBODY = 0.3, 0.1  # of a disc: at least to be seen, at most covered by somebody
NONE = 0.2  # the chance that a ball is there, where there is none


class Gaps:
    """Answers whether a place is seen to be empty."""

    def __init__(self, still: Still, table: Table, camera: Camera, found: Sequence[Candidate]) -> None:
        self.still, self.table, self.camera, self.found = still, table, camera, found
        self.known = explained(still.known, found, still, table, camera)

    def __call__(self, place: Point) -> bool:
        apart = APART * self.table.ball_diameter
        if any(SAME < math.dist(place, one.place) < apart for one in self.found):
            return True  # no room there for another ball
        pixel = project(self.camera, np.array([[*place, self.table.radius]]))[0] - self.still.bed.corner
        radius = ball_radius(self.camera, place, self.table.radius)
        if on_disc(self.known, pixel, radius) < VISIBLE:
            return False
        if on_disc(self.still.perhaps, pixel, radius) > SOMEBODY:
            return False
        told = judged(self.still, self.known, pixel[None], np.array([radius], np.float32))
        return bool(told.chance[0] < NONE)
