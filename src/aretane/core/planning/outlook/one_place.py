"""The best stroke from one place, on the table as it stands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.physics.compiled import Floats
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.outlook.maps import expected, top, tried
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pot_kernel import A_AIM, C_ELEVATION, C_HEIGHT, C_SIDE, C_SPEED
from aretane.core.planning.pots.pots import Ground, Pots
from aretane.core.planning.pots.strokes import Effort
from aretane.core.skill.hand import Hand
from aretane.core.table import POCKETS, Point


@dataclass(frozen=True)
class Best:
    """A stroke, its pot's chance and value, and where the cue ball stops when nothing goes wrong."""

    ball: str
    pocket: str
    stroke: Stroke
    pot: float
    value: float
    landing: Point


def best_from(
    ground: Ground, ball: str, grid: Grid, worth: Floats | None, hand: Hand, effort: Effort, seed: int = 0,
    most: int = 1, stirred: float = 0.0,
) -> list[Best]:  # fmt: skip
    """The strokes at `ball` that are worth most from where the cue ball of `ground` is, at most `most`; none where
    none pots it. `stirred`: what is left is worth once its clusters are opened.
    """
    pots = ground.pots(ball, np.array([ground.layout.balls[CUE]]), effort.strokes)
    if not len(pots):
        return []
    look = tried(ground, grid, pots, hand, effort, [worth], seed, stirred)
    chosen = look.pots.only(top(look.pots.origin, look.expected(worth)[1], most))
    chance, value = expected(grid, ground.sampled(chosen, hand, look.again), worth, stirred)
    return [
        Best(
            ball, POCKETS[int(chosen.pocket[i])], stroke_of(chosen, i), float(chance[i]), float(value[i]),
            (float(chosen.landing[i, 0]), float(chosen.landing[i, 1])),
        )
        for i in np.argsort(-value)
    ]  # fmt: skip


def stroke_of(pots: Pots, row: int) -> Stroke:
    """One row of solved pots as an aimed stroke."""
    c = pots.candidates[row]
    return Stroke(
        float(c[C_SPEED]), float(pots.solutions[row, A_AIM]), side=float(c[C_SIDE]), height=float(c[C_HEIGHT]),
        elevation=float(c[C_ELEVATION]),
    )  # fmt: skip
