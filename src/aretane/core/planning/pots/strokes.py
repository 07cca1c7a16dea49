"""The strokes that are tried for a pot, and how much care is taken: the dials of every search."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import product

import numpy as np

from aretane.core.physics.compiled import Floats, Ints
from aretane.core.physics.sampling import lucks_of

# Tip places as (side, height): follow, stun, draw in grades, running and check side with each.
_FEW = ((0.0, -0.4), (0.0, 0.0), (0.0, 0.4), (0.35, 0.1), (-0.35, 0.1))
_MORE = (*_FEW, (0.0, -0.2), (0.0, 0.2), (0.35, -0.25), (-0.35, -0.25))
_QUICK = (*_FEW, (0.0, -0.2), (0.0, 0.2))
_MANY = (*_MORE, (0.25, 0.35), (-0.25, 0.35), (0.4, 0.0), (-0.4, 0.0), (0.2, -0.4), (-0.2, -0.4))
BLOCKS = 64
_SPEEDS = ((1.0, 1.6, 2.4, 3.6), (0.9, 1.3, 1.8, 2.5, 3.5), (0.7, 0.95, 1.25, 1.6, 2.05, 2.6, 3.3, 4.2))


@dataclass(frozen=True)
class Effort:
    """How fine a search is. `columns` x `rows` of the maps, `strokes` (n x 3: speed m/s, side, height), how many
    strokes of a place are looked at with the hand's errors (`kept`), how often each to choose (`draws`) and to
    value the chosen one (`again`), samples of an option, and how many racks are played on for the best of them.
    `kept_each`: strokes at each ball of a place where the order is free.
    """

    name: str
    columns: int
    rows: int
    kept: int
    draws: int
    again: int
    samples: int
    level: int
    played: int = 0
    kept_each: int = 6

    @property
    def strokes(self) -> Floats:
        tips = _QUICK if self.name == "quick" else (_FEW, _MORE, _MANY)[self.level]
        return np.array([(speed, *tip) for tip, speed in product(tips, _SPEEDS[self.level])])


GLANCE = Effort("glance", 11, 6, 2, 8, 8, 100, 0)
QUICK = Effort("quick", 13, 7, 5, 16, 16, 100, 1)
COARSE = Effort("coarse", 19, 10, 3, 8, 16, 400, 0, 64, 8)
FINE = Effort("fine", 33, 17, 4, 16, 32, 1000, 1, 400, 10)
FINEST = Effort("finest", 49, 25, 5, 16, 64, 2000, 2, 1000, 12)
EFFORTS = {effort.name: effort for effort in (GLANCE, COARSE, FINE, FINEST)}


@dataclass(frozen=True)
class Draws:
    """What goes wrong: `errors` (blocks x draws x 5) are a share of the aim's range and standard normal errors
    of speed, side, height and elevation; `lucks` (blocks x draws) what the table does.
    """

    errors: Floats
    lucks: Ints


@lru_cache(maxsize=32)
def draws_of(draws: int, seed: int) -> Draws:
    """Errors spread evenly over their whole range. `draws` is a power of two.

    Sobol' points, scrambled (A. B. Owen, Journal of Complexity 14 (1998) 466): each block of a power of two of them
    is balanced in itself. Places use different blocks, so that what is uneven in one evens out over the table.
    """
    from scipy.special import ndtri
    from scipy.stats.qmc import Sobol  # takes a second to load

    even = Sobol(5, seed=seed).random(BLOCKS * draws).reshape(BLOCKS, draws, 5)
    even[..., 0] = (np.argsort(np.argsort(even[..., 0], axis=1), axis=1) + 0.5) / draws
    errors = np.concatenate([even[..., :1], ndtri(even[..., 1:])], axis=2)
    return Draws(errors, lucks_of(BLOCKS * draws, seed).reshape(BLOCKS, draws))
