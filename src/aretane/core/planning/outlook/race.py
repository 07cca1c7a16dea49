"""A race at straight pool beyond the visit at hand: by how much it will end, from what both players usually run.

A visit brings a player each further ball with the same chance, whatever lies there; he who comes to the end of the
race first has won it, and the margin stands. So a lead is worth less than its balls, and more where the other one
runs little; what nobody knows yet, the racks to come, does not hang on how this rack lies.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from aretane.core.physics.compiled import Floats

FURTHER = 50.0  # balls: a game without an end is taken to go on so far
MOST = 240  # balls that a player may still need; beyond them nothing changes that anybody could tell


def margin(need: Floats, other_need: float, run: float, other_run: float) -> Floats:
    """By how many balls the player will be ahead at the end who does *not* come to the table next, where he still
    needs so many (any shape) and the other so many, and both usually run so much in a visit.
    """
    table = _margins(round(run, 2), round(other_run, 2))
    at = np.clip(np.asarray(need, dtype=float), 0.0, MOST - 1.0)
    row = table[int(np.clip(round(other_need), 0, MOST))]
    low = at.astype(np.int64)
    return np.asarray(row[low] + (at - low) * (row[low + 1] - row[low]))


@lru_cache(maxsize=32)
def _margins(run: float, other_run: float) -> Floats:
    """The margin for the player of `run` with the other at the table: (needs of the other) x (his own), by
    W = q W' + (1 - q) V and V = p V' + (1 - p) W, where a dash is one ball less for whoever is at the table.
    """
    p, q = run / (1.0 + run), other_run / (1.0 + other_run)
    size = MOST + 1
    mine, theirs = np.zeros((size, size)), np.zeros((size, size))
    mine[:, 0] = theirs[:, 0] = np.arange(size)
    mine[0, 1:] = theirs[0, 1:] = -np.arange(1, size)
    lap = 1.0 - (1.0 - p) * (1.0 - q)
    for needs in range(2, 2 * size - 1):  # both together: each such diagonal hangs on the one before it
        own = np.arange(max(1, needs - MOST), min(MOST, needs - 1) + 1)
        other = needs - own
        scored, gave = mine[other, own - 1], theirs[other - 1, own]
        theirs[other, own] = (q * gave + (1.0 - q) * p * scored) / lap
        mine[other, own] = p * scored + (1.0 - p) * theirs[other, own]
    return theirs
