"""What follows a pot that moves other balls: a map holds for balls that stay where they are."""

from __future__ import annotations

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.rules.masks import Flags

OPENED = 0.5  # chance that a cluster that is struck opens and leaves a next shot (common practice)
BUMPED = 0.75  # of a rack's promise, once a ball that was to stay has been moved (assumed)


def with_moved(follows: Floats, moved: Flags, stirred: float) -> Floats:
    """`follows`, what places promise, where a shot moved other balls: a cluster among them may open, and the set is
    then worth `stirred`. 0: there is no cluster, and the maps are taken to hold.
    """
    if stirred <= 0.0:
        return follows
    return np.asarray(np.where(moved, OPENED * stirred + (1.0 - OPENED) * BUMPED * follows, follows))
