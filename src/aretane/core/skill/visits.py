"""How long players of a level stay at the table, where nobody knows how the balls lie."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from aretane.core.skill.hand import LEVELS, LONG_TABLE, PRESETS, Hand
from aretane.core.table import Table

# Chance of the next ball too, with position: what leaves 0.7, 2, 4 and 10 balls a visit (common practice).
GOES_ON = {"beginner": 0.40, "club": 0.66, "league": 0.80, "professional": 0.91}
# Balls that a run of straight pool brings from the cue ball in hand on an open table of fourteen, with its break
# shots (common practice: 1 to 3, 3 to 9, 8 to 25, 25 to 70).
RUNS = {"beginner": 2.0, "club": 5.0, "league": 12.0, "professional": 40.0}
SNOOKER_AIM = 0.66  # of the errors in pool, for the same level of player


def goes_on(hand: Hand, table: Table) -> float:
    """The chance of the next ball too, once a visit has begun."""
    return between(hand, table, GOES_ON)


def usual_run(hand: Hand, table: Table) -> float:
    """Balls that a run of straight pool brings from an open table on."""
    return math.exp(between(hand, table, {level: math.log(run) for level, run in RUNS.items()}))


def between(hand: Hand, table: Table, levels: Mapping[str, float]) -> float:
    """Between the levels in proportion of ln(aim); of two partners in alternation the middle."""
    finer = SNOOKER_AIM if table.length > LONG_TABLE else 1.0
    aims = [math.log(PRESETS[level].aim * finer) for level in reversed(LEVELS)]
    mine = [math.log(max(one.aim, 1e-6)) for one in hand.people]
    return float(np.interp(mine, aims, [levels[level] for level in reversed(LEVELS)]).mean())
