"""The same shot many times with a player's hand on a table with its own chance (Monte Carlo).

The errors of sample s and its luck depend on the seed and on s alone, so two variants of a shot are compared
under the same errors (common random numbers), and the answer does not depend on how many threads worked on it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.chance import MOST_LUCK
from aretane.core.physics.compiled import R_CAPPED, RESULTS, ROW, Floats, Ints
from aretane.core.physics.cue import TIP_LIMIT, squirt_of
from aretane.core.parameters import physics_of
from aretane.core.physics.play import AIM, ELEVATION, EVENT_CAP, HEIGHT, SIDE, SPEED, play
from aretane.core.physics.start import Start, start_of
from aretane.core.physics.stroke import STEEPEST, Stroke
from aretane.core.physics.table_shape import table_shape
from aretane.core.skill.demand import demand_of
from aretane.core.skill.effort import PLAIN, Demand, spread_of
from aretane.core.skill.reach import UNKNOWN, Arm
from aretane.core.skill.hand import Hand

CHUNKS = (250, 2000)  # samples between two looks at progress and cancel: at least, at most
_SLOWEST = 0.02  # m/s


class Cancelled(Exception):
    """Somebody no longer wants the answer."""


@dataclass(frozen=True)
class Samples:
    """Outcomes of n strokes. `names`: the balls, cue ball first. `places` (n x balls x 2) in metres; `fates` (n
    x balls):
    -1 on the table, 0 to 5 the pocket in the order of `POCKETS`, 6 off the table; `results` (n x RESULTS): columns
    R_... of
    `compiled`; `durations` (n) in seconds.
    """

    names: tuple[str, ...]
    places: Floats
    fates: Ints
    results: Ints
    durations: Floats

    @property
    def capped(self) -> bool:
        return bool(self.results[:, R_CAPPED].any())


@dataclass(frozen=True)
class Tries:
    """The strokes that are made when one is meant (n x 5), and the luck of each (n; 0: a table without chance)."""

    strokes: Floats
    lucks: Ints


def tries_of(
    layout: Layout, stroke: Stroke, hand: Hand, samples: int, seed: int = 0, demand: Demand | None = None,
    arm: Arm = UNKNOWN, ball: str | None = None,
) -> Tries:  # fmt: skip
    """`samples` tries at an aimed stroke. A longer draw begins like a shorter one. `demand`: what the stroke
    asks, if that is known already; else it is read from its course, `ball` being meant to fall.
    """
    if demand is None:
        demand = PLAIN if hand.plain else demand_of(layout, stroke, ball, arm)
    end_mass = physics_of(layout.table).end_mass_ratio
    spread = spread_of(hand, stroke.speed, stroke.side, stroke.height, stroke.elevation, demand, end_mass)
    dice = np.random.Generator(np.random.Philox(seed))
    wrong = spread.scaled(dice.standard_normal((samples, 5)))
    return Tries(with_errors(stroke, wrong, end_mass), no_luck(samples) if hand.plain else lucks_of(samples, seed))


def with_errors(stroke: Stroke, wrong: Floats, end_mass_ratio: float) -> Floats:
    """The strokes (n x 5) that are made under errors (n x 5) of the cue ball's direction, of speed, side,
    height and elevation. `stroke` is aimed. An unintended offset's squirt is part of the first: the cue is
    turned so that the ball goes where that error says, and the offset only turns the ball.
    """
    rows = np.empty((len(wrong), 5))
    rows[:, SPEED] = np.maximum(stroke.speed * (1.0 + wrong[:, 1]), _SLOWEST)
    rows[:, SIDE] = stroke.side + wrong[:, 2]
    rows[:, HEIGHT] = stroke.height + wrong[:, 3]
    rows[:, ELEVATION] = np.clip(stroke.elevation + wrong[:, 4], 0.0, STEEPEST)
    beyond = np.maximum(np.hypot(rows[:, SIDE], rows[:, HEIGHT]) / 0.99, 1.0)
    rows[:, SIDE] /= beyond
    rows[:, HEIGHT] /= beyond
    held = np.minimum(TIP_LIMIT / np.maximum(np.hypot(rows[:, SIDE], rows[:, HEIGHT]), TIP_LIMIT), 1.0)
    unmeant = squirt_of(rows[:, SIDE] * held, end_mass_ratio) - _meant_squirt(stroke, end_mass_ratio)
    rows[:, AIM] = (stroke.aim or 0.0) + wrong[:, 0] - unmeant
    return rows


def _meant_squirt(stroke: Stroke, end_mass_ratio: float) -> float:
    offset = math.hypot(stroke.side, stroke.height)
    return float(squirt_of(stroke.side * min(1.0, TIP_LIMIT / max(offset, TIP_LIMIT)), end_mass_ratio))


def lucks_of(samples: int, seed: int) -> Ints:
    """A luck for each sample, from the seed and its number alone."""
    return np.random.Generator(np.random.Philox(key=seed + 1)).integers(1, MOST_LUCK, samples)


def no_luck(samples: int) -> Ints:
    return np.zeros(samples, dtype=np.int64)


def sample(
    layout: Layout,
    stroke: Stroke,
    hand: Hand,
    samples: int,
    seed: int = 0,
    threads: int = 1,
    progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
    arm: Arm = UNKNOWN,
    ball: str | None = None,
) -> Samples:
    """Play an aimed stroke `samples` times, `ball` being meant to fall (None: what falls without error).
    `progress` hears how many are done; raises `Cancelled`.
    """
    tries = tries_of(layout, stroke, hand, samples, seed, arm=arm, ball=ball)
    return play_all(layout, start_of(layout), tries.strokes, threads, progress, cancelled, tries.lucks)


def play_all(
    layout: Layout,
    start: Start,
    strokes: Floats,
    threads: int = 1,
    progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
    lucks: Ints | None = None,
) -> Samples:
    """Play each row of `strokes` (n x 5) from the same start, each with its luck (None: a table without chance)."""
    fortune = no_luck(len(strokes)) if lucks is None else np.ascontiguousarray(lucks)
    n, balls = len(strokes), len(start.names)
    filled = Samples(
        start.names,
        np.zeros((n, balls, 2)),
        np.zeros((n, balls), dtype=np.int64),
        np.zeros((n, RESULTS), dtype=np.int64),
        np.zeros(n),
    )
    physics = physics_of(layout.table)
    fixed = (
        start.numbers,
        start.integers,
        np.array(physics.numbers()),
        physics.end_mass_ratio,
        *table_shape(layout.table),
    )

    size = min(max(n // (4 * threads), CHUNKS[0]), CHUNKS[1])

    def chunk(begin: int) -> int:
        if cancelled is not None and cancelled():
            raise Cancelled
        part = slice(begin, min(begin + size, n))
        space = (start.numbers.copy(), start.integers.copy(), np.zeros((balls, balls)), np.zeros((0, ROW)))
        play(
            *fixed, np.ascontiguousarray(strokes[part]), fortune[part], *space, EVENT_CAP,
            filled.places[part], filled.fates[part], filled.results[part], filled.durations[part],
        )  # fmt: skip
        return part.stop

    begins = range(0, n, size)
    if threads == 1 or n <= size:
        for begin in begins:
            done = chunk(begin)
            if progress is not None:
                progress(done)
        return filled
    with ThreadPoolExecutor(threads) as pool:
        for done, _ in enumerate(pool.map(chunk, begins), start=1):
            if progress is not None:
                progress(min(done * size, n))
    return filled
