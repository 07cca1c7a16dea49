"""What is found at a pocket in all parts of a recording is the pocket: no ball hangs there that long."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table
from aretane.vision.balls.candidates import Candidate
from aretane.vision.balls.finding import find_balls
from aretane.vision.balls.hands import about
from aretane.vision.table.camera import Camera
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still

NEAR = 0.15  # of `at_mouth`: so near to a pocket
SAME = 0.012  # m: found again at one place
OFTEN = 4  # pictures from all parts of the recording in which it must be there


def without_fixtures(
    found: Sequence[Candidate], table: Table, camera: Camera, others: Iterable[Still]
) -> list[Candidate]:
    """The finds without those at a pocket that all other pictures show too. These are pictures from all parts of a
    long recording, and asked for only if there is such a find."""
    mouths = at_mouth(np.array([one.place for one in found]).reshape(-1, 2), table)
    suspects = [one for one, mouth in zip(found, mouths, strict=True) if mouth > NEAR]
    pictures = 0
    for still in others if suspects else ():
        seen = find_balls(still, table, camera, where=about(suspects, still))
        suspects = [one for one in suspects if any(math.dist(one.place, it.place) < SAME for it in seen)]
        pictures += 1
        if not suspects:
            break
    return [one for one in found if one not in suspects] if pictures >= OFTEN else list(found)


def at_mouth(places: NDArray[np.float64], table: Table) -> Array:
    """How near to a pocket places (n x 2) are: 1 at the hole's edge, 0 from a ball's diameter away on."""
    away = np.full(len(places), np.inf)
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        middle = np.array(pocket.drop) + half * np.array(pocket.axis)
        away = np.minimum(away, np.linalg.norm(places - middle, axis=1) - half)
    return np.asarray(np.clip(1 - away / table.ball_diameter, 0.0, 1.0), np.float32)
