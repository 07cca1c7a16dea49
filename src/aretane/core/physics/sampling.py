"""The same shot many times with a player's hand (Monte Carlo).

The errors of sample s depend on the seed and on s alone, so two variants of a shot are compared under the same
errors (common random numbers), and the answer does not depend on how many threads worked on it.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_CAPPED, RESULTS, ROW, Floats, Ints
from aretane.core.physics.parameters import physics_of
from aretane.core.physics.play import AIM, ELEVATION, HEIGHT, SIDE, SPEED, play
from aretane.core.physics.start import Start, start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.physics.table_shape import table_shape
from aretane.core.skill.hand import Hand

EVENT_CAP = 10_000
CHUNKS = (250, 2000)  # samples between two looks at progress and cancel: at least, at most
_SLOWEST = 0.02  # m/s


class Cancelled(Exception):
    """Somebody no longer wants the answer."""


@dataclass(frozen=True)
class Samples:
    """Outcomes of n strokes. `names`: the balls, cue ball first. `places` (n x balls x 2) in metres; `fates` (n
    x balls):
    -1 on the table, 0 to 5 the pocket in the order of `POCKETS`, 6 off the table; `results` (n x 7): columns
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


def errors(hand: Hand, samples: int, seed: int) -> Floats:
    """Errors of aim, speed (relative), side, height (n x 4). A longer draw begins like a shorter one."""
    dice = np.random.Generator(np.random.Philox(seed))
    spread = np.array([hand.aim, hand.speed, hand.side, hand.height])
    return np.asarray(dice.standard_normal((samples, 4)) * spread)


def with_errors(stroke: Stroke, wrong: Floats) -> Floats:
    """The strokes (n x 5) that are made when `stroke` is meant. `stroke` is aimed."""
    rows = np.empty((len(wrong), 5))
    rows[:, AIM] = (stroke.aim or 0.0) + wrong[:, 0]
    rows[:, SPEED] = np.maximum(stroke.speed * (1.0 + wrong[:, 1]), _SLOWEST)
    rows[:, SIDE] = stroke.side + wrong[:, 2]
    rows[:, HEIGHT] = stroke.height + wrong[:, 3]
    rows[:, ELEVATION] = stroke.elevation
    beyond = np.maximum(np.hypot(rows[:, SIDE], rows[:, HEIGHT]) / 0.99, 1.0)
    rows[:, SIDE] /= beyond
    rows[:, HEIGHT] /= beyond
    return rows


def sample(
    layout: Layout,
    stroke: Stroke,
    hand: Hand,
    samples: int,
    seed: int = 0,
    threads: int = 1,
    progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> Samples:
    """Play an aimed stroke `samples` times. `progress` hears how many are done; raises `Cancelled`."""
    strokes = with_errors(stroke, errors(hand, samples, seed))
    return play_all(layout, start_of(layout), strokes, threads, progress, cancelled)


def play_all(
    layout: Layout,
    start: Start,
    strokes: Floats,
    threads: int = 1,
    progress: Callable[[int], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> Samples:
    """Play each row of `strokes` (n x 5) from the same start."""
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
            *fixed, np.ascontiguousarray(strokes[part]), *space, EVENT_CAP,
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
