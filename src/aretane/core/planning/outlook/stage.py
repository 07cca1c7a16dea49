"""One ball of a rotation game: its maps for both players, from the next ball's.

The run-out value of the last ball is the chance to pot it; that of a ball at a place is the best, over pockets and
strokes, of the chance to pot it times the mean value of the next ball over where the cue ball then stops.
The win value adds what happens otherwise: after a miss the opponent is at the table, and a player who has no good
pot plays safe. The other balls are taken to stay where they are.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.planning.outlook.maps import Map, Tried, tried
from aretane.core.planning.outlook.outlook import (
    EVEN,
    ROUNDS,
    WIN,
    Standing,
    between,
    hidden_value,
    standing_of,
)
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import Effort
from aretane.core.skill.hand import Hand


@dataclass(frozen=True)
class Stage:
    """One ball's maps for the two players: chance to run out, chance to win, and the turn in general."""

    ball: str
    left: tuple[str, ...]
    run: tuple[Map, Map]
    win: tuple[Map, Map]
    standing: tuple[Standing, Standing]


def stage_of(
    ground: Ground, grid: Grid, on: tuple[str, ...], following: Stage | None, hands: tuple[Hand, Hand],
    effort: Effort, seed: int,
) -> Stage:  # fmt: skip
    """One ball's stage, given the next ball's (None: this is the last one)."""
    places = grid.free_places(ground.balls(), ground.reach)
    pots = ground.pots(on[0], places, effort.strokes)
    looks, runs = [], []
    for player in (0,) if hands[0] == hands[1] else (0, 1):
        run_worth = following.run[player].value if following else None
        win_worth = following.win[player].value if following else None
        look = tried(ground, grid, pots, hands[player], effort, [run_worth, win_worth], seed)
        chosen, pot, value = look.best(look.expected(run_worth)[1], run_worth)
        runs.append(look.map(chosen, value, pot))
        looks.append((look, win_worth))
    wins, standings = _exchange([looks[0], looks[-1]])
    return Stage(on[0], on, (runs[0], runs[-1]), wins, standings)


def _exchange(
    looks: list[tuple[Tried, Floats | None]],
) -> tuple[tuple[Map, Map], tuple[Standing, Standing]]:
    """Both players' win values of one ball, each with the other's turn as what follows a miss."""
    parts = [look.expected(worth) for look, worth in looks]
    standing = [EVEN, EVEN]
    for _ in range(ROUNDS):
        standing = [between(standing[me], _general(looks[me][0], *parts[me], standing[1 - me])) for me in (0, 1)]
    maps = []
    for me in (0, 1):
        other, (look, worth) = standing[1 - me], looks[me]
        pot, value = parts[me]
        chosen, pot, value = look.best(value + (1.0 - pot) * WIN.flip(other.open), worth)
        score = np.maximum(value + (1.0 - pot) * WIN.flip(other.open), WIN.flip(other.guarded))
        maps.append(look.map(chosen, score, pot, hidden_value(WIN, other)))
    return (maps[0], maps[1]), (standing[0], standing[1])


def _general(look: Tried, pot: Floats, worth: Floats, other: Standing) -> Standing:
    hidden = hidden_value(WIN, other)
    best = np.full(look.grid.columns * look.grid.rows, hidden)
    score = worth + (1.0 - pot) * WIN.flip(other.open)
    np.maximum.at(best, look.pots.origin, np.maximum(score, WIN.flip(other.guarded)))
    return standing_of(best, hidden)
