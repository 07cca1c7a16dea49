"""What touches somebody is believed to be a ball when it is also seen without them, a little earlier or later.

In one picture a fist, a glove or the top of a head can look like a ball. They do not stay; balls do.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.vision.balls.finding import Candidate, Search, find_balls
from aretane.vision.balls.outline import agreement, outline
from aretane.vision.shots.watch import SAME
from aretane.vision.table.cloth import Mask
from aretane.vision.table.gaps import Gaps
from aretane.vision.table.sight import Still

TOUCHED = 0.1  # of a disc that is somebody, or hangs on them
ABOUT = 4.0  # ball radii that are looked at in another picture


def borne_out(found: Sequence[Candidate], search: Search, others: Iterable[tuple[bool, Still]]) -> list[Candidate]:
    """The finds without those that touch somebody, show cloth both earlier and later, and are not there without
    them in any other picture. The other pictures (whether it is a later one, and the picture) are asked for only if
    some find touches somebody."""
    touched = touching(found, search)
    suspects = [one for one, near in zip(found, touched, strict=True) if near]
    gone: dict[bool, list[Candidate]] = {False: [], True: []}
    for later, still in others if suspects else ():
        there = Search(still, search.table, search.camera, search.lamp)
        seen = find_balls(still, search.table, search.camera, search.lamp, where=about(suspects, still))
        clear = [one for one, near in zip(seen, touching(seen, there), strict=True) if not near]
        suspects = [one for one in suspects if not any(math.dist(one.place, it.place) < SAME for it in clear)]
        empty = Gaps(still, search.table, search.camera, seen)
        gone[later] += [one for one in suspects if empty(one.place)]
        if not suspects:
            break
    return [one for one in found if not (one in suspects and one in gone[False] and one in gone[True])]


def touching(found: Sequence[Candidate], search: Search) -> NDArray[np.bool_]:
    """Which of the finds touch somebody."""
    if not found:
        return np.zeros(0, bool)
    still, radius = search.still, search.table.radius
    centres = np.array([one.pixel for one in found])
    rings = np.array([outline(search.camera, one.place, radius) for one in found]) - centres[:, None]
    seen = agreement(still, still.known, centres - still.bed.corner, rings.astype(np.float32))
    return np.asarray(np.maximum(seen.person, seen.limb) > TOUCHED)


def about(suspects: Sequence[Candidate], still: Still) -> Mask:
    """The pixels of the box around these finds."""
    mask = np.zeros(still.known.shape, np.uint8)
    for one in suspects:
        u, v = np.round(np.array(one.pixel) - still.bed.corner).astype(int)
        cv2.circle(mask, (int(u), int(v)), round(ABOUT * one.radius), 1, -1)
    return mask.astype(bool)
