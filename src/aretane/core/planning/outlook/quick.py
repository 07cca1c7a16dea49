"""A first idea of the best pot from very many places at once, in closed form: to sort out what is looked at
closely.

A pocket's window as a ball sees it, carried back to the aim through the cut, against the hand's normal error.
"""

from __future__ import annotations

import math

import numpy as np
from scipy.special import erf

from aretane.core.physics.compiled import Floats, Ints
from aretane.core.skill.effort import USUAL_EFFORT, thrown_off
from aretane.core.skill.hand import Hand
from aretane.core.table import Table

STEEPEST = math.radians(85)


def quick_pot(
    table: Table, cue: Floats, ball: Floats, others: Floats, hand: Hand, known: Floats | None = None
) -> Floats:
    """Chance of the best pot of `ball` (n x 2) from `cue` (n x 2) among `others` (n x m x 2), or the one that is
    `known` (n) already if that is better; NaN places are gone.
    """
    best = np.zeros(len(cue)) if known is None else known.copy()
    usual = 1.0 if hand.plain else USUAL_EFFORT
    reach = table.radius + table.cue_radius
    for pocket in table.pockets.values():
        way = np.array(pocket.mouth) - ball
        far = np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-3)
        unit = way / far[:, None]
        open_ = pocket.mouth_width * np.maximum(unit @ np.array(pocket.axis), 0.0) - 2 * table.radius
        ghost = ball - reach * unit
        run = ghost - cue
        away = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-3)
        cosine = (run * unit).sum(axis=1) / away
        half = np.maximum(open_, 0.0) / 2 / far * reach * np.maximum(cosine, 0.0) / (away + 0.02)
        thrown = thrown_off(hand) * reach * np.maximum(cosine, 0.0) / (away + 0.02)
        chance = erf(half / np.maximum(np.hypot(hand.aim * usual, thrown), 1e-9) / math.sqrt(2))
        chance = np.where(cosine > math.cos(STEEPEST), chance, 0.0)
        better = np.flatnonzero(chance > best)  # only of these it matters what is in the way
        for start, on, reach_of in ((ball, way, 2 * table.radius), (cue, run, 0.97 * reach)):
            better = better[~_blocked(start[better], on[better], others[better], reach_of)]
        best[better] = chance[better]
    return best


def quick_seen(table: Table, cue: Floats, ball: Floats, others: Floats) -> Ints:
    """Whether the middle or either half of `ball` can be met directly, n at once."""
    way = ball - cue
    away = np.maximum(np.hypot(way[:, 0], way[:, 1]), 1e-6)
    side = np.stack([-way[:, 1], way[:, 0]], axis=1) / away[:, None]
    reach = table.radius + table.cue_radius
    seen = np.zeros(len(cue), dtype=bool)
    for part in (0.0, 0.85, -0.85):
        seen |= ~_blocked(cue, way + part * reach * side, others, reach)
    return np.asarray(seen)


def _blocked(start: Floats, way: Floats, others: Floats, reach: float) -> Ints:
    """Whether a ball on its way (n x 2, from `start`) touches any of `others` (n x m x 2)."""
    if others.shape[1] == 0:
        return np.zeros(len(start), dtype=bool)
    to = others - start[:, None]
    length2 = np.maximum((way**2).sum(axis=1), 1e-12)[:, None]
    share = np.clip((to * way[:, None]).sum(axis=2) / length2, 0.0, 1.0)
    gap = to - share[..., None] * way[:, None]
    return np.asarray((np.hypot(gap[..., 0], gap[..., 1]) < reach).any(axis=1))
