"""Snooker: from points ahead to the chance to win the frame."""

from __future__ import annotations

import math

from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.snooker import remaining

SPREAD = 0.45  # of the points that are left: how far a frame's end strays from what is expected (assumed)
LEAST = 4.0


def frame_chance(state: RackState, ahead: float) -> float:
    """Chance that the player of `state` wins, if he is expected to gain `ahead` points on the other from here.

    The final margin is taken as normal; its spread shrinks with the points that are left on the table.
    """
    lead = state.points[state.player] - state.points[opponent(state.player)]
    spread = max(LEAST, SPREAD * remaining(state))
    return 0.5 * (1.0 + math.erf((lead + ahead) / spread / math.sqrt(2.0)))
