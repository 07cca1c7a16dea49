"""What touches somebody is believed to be a ball when it is also seen without them, a little earlier or later.

In one picture a fist, a glove or the top of a head can look like a ball. They do not stay; balls do.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table
from aretane.vision.balls.candidates import Candidate
from aretane.vision.balls.finding import find_balls
from aretane.vision.shots.watch import SAME
from aretane.vision.table.camera import Camera
from aretane.vision.table.cloth import Mask
from aretane.vision.table.gaps import Gaps
from aretane.vision.table.sight import Still, on_disc

TOUCHED = 0.1  # of a disc that is somebody, or hangs on them
PLAIN = 0.999  # chance of a ball: beside something no larger than one it is no hand
ABOUT = 4.0  # ball radii that are looked at in another picture


def borne_out(
    found: Sequence[Candidate], still: Still, table: Table, camera: Camera, others: Iterable[tuple[bool, Still]]
) -> list[Candidate]:
    """The finds without those that touch somebody, show cloth both earlier and later, and are not there without
    them in any other picture. The other pictures (whether it is a later one, and the picture) are asked for only if
    some find touches somebody."""
    suspects = [one for one, near in zip(found, touching(found, still), strict=True) if near]
    gone: dict[bool, list[Candidate]] = {False: [], True: []}
    for later, other in others if suspects else ():
        seen = find_balls(other, table, camera, where=about(suspects, other))
        clear = [one for one, near in zip(seen, touching(seen, other), strict=True) if not near]
        suspects = [one for one in suspects if not any(math.dist(one.place, it.place) < SAME for it in clear)]
        empty = Gaps(other, table, camera, seen)
        gone[later] += [one for one in suspects if empty(one.place)]
        if not suspects:
            break
    return [one for one in found if not (one in suspects and one in gone[False] and one in gone[True])]


def touching(found: Sequence[Candidate], still: Still) -> NDArray[np.bool_]:
    """Which of the finds touch somebody, or what may be somebody where it is not plainly a ball."""
    near = []
    for one in found:
        somebody = still.perhaps if one.score < PLAIN else still.somebody
        near.append(on_disc(somebody, np.array(one.pixel) - still.bed.corner, one.radius) > TOUCHED)
    return np.array(near, bool)


def about(suspects: Sequence[Candidate], still: Still) -> Mask:
    """The pixels of the box around these finds."""
    mask = np.zeros(still.known.shape, np.uint8)
    for one in suspects:
        u, v = np.round(np.array(one.pixel) - still.bed.corner).astype(int)
        cv2.circle(mask, (int(u), int(v)), round(ABOUT * one.radius), 1, -1)
    return mask.astype(bool)
