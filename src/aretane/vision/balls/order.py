"""What the games that are played with a set of balls say of them: which fall first, and which one the rack has in
its middle."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.rules.traits import TRAITS, Traits

SURELY = 3.0  # balls: what should have fallen before so many that have is as odd as it gets


def money_ball(balls: Sequence[str]) -> str | None:
    """The ball that stands in the middle of the rack, where all games with these balls have one there."""
    moneys = {None if one.returns else one.money for one in _games(balls)}
    return moneys.pop() if len(moneys) == 1 else None


def in_order(balls: Sequence[str]) -> bool:
    """Whether a game with these balls is one in which the lowest is struck first."""
    return any(one.rotation for one in _games(balls))


def out_of_turn(gone: NDArray[np.float64], balls: Sequence[str]) -> NDArray[np.float64]:
    """How many balls should not have fallen yet where each of the balls (columns) still is there: at least so many
    are `gone` (rows). None where balls fall in any order; the cue ball has no turn."""
    lower = np.array([float(int(ball) - 1) if in_order(balls) and ball != CUE else math.inf for ball in balls])
    return np.asarray(np.clip(gone[:, None] - lower, 0.0, SURELY))


def _games(balls: Sequence[str]) -> list[Traits]:
    """The games with these balls."""
    return [one for one in TRAITS.values() if set(OBJECT_BALLS[one.name]) == {*balls} - {CUE}]
