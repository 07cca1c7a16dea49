"""What is left out for the sake of speed changes no answer: held against the same worked out in full."""

from __future__ import annotations

import numpy as np
import pytest

from aretane.core.physics.sampling import Cancelled
from aretane.core.physics.threads import in_threads
from aretane.core.planning.orders.known import Known
from aretane.core.planning.orders.pattern import BUMPED
from aretane.core.planning.orders.subsets_kernel import of_one_ball
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.pots.moved import OPENED
from aretane.core.planning.pots.touch_kernel import BLOCKED
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES

COLUMNS, ROWS, DRAWS = 5, 4, 16


def strokes(seed, count):
    """Strokes at one ball, three balls standing that they may touch; some samples do not pot."""
    dice = np.random.default_rng(seed)
    shape = count, DRAWS
    weights = dice.uniform(0, 0.12, shape) * (dice.random(shape) < 0.6)
    touched = dice.integers(0, 8, shape) | (dice.integers(0, 8, shape) & dice.integers(0, 8, shape)) << BLOCKED
    cells = dice.integers(0, COLUMNS - 1, shape) * ROWS + dice.integers(0, ROWS - 1, shape)
    origin = np.sort(dice.integers(0, COLUMNS * ROWS, count))
    return Known(origin, weights, cells, dice.random(shape), dice.random(shape), touched)


def in_full(known, after, worth, gain, tied, stirred):
    """The best strokes' values: each place's chosen by one half of the samples, valued by the other."""
    best = np.zeros((2, 2, COLUMNS * ROWS))
    for i, place in enumerate(known.origin):
        value, total = np.zeros(2), np.zeros(2)
        for s in range(DRAWS):
            weight, touched = known.weights[i, s], int(known.touched[i, s])
            total[s % 2] += weight
            if touched >> BLOCKED & after:
                continue
            at, a, b = known.cells[i, s], known.along[i, s], known.across[i, s]
            low = worth[at] * (1 - b) + worth[at + 1] * b
            follows = low * (1 - a) + (worth[at + ROWS] * (1 - b) + worth[at + ROWS + 1] * b) * a
            follows *= BUMPED if touched & after else 1.0
            if touched & after & tied and stirred > 0:
                follows = OPENED * stirred + (1 - OPENED) * follows
            value[s % 2] += weight * (gain + follows)
        halves = 2 * value / np.maximum(1.0, 2 * total)
        for half in (0, 1):
            if halves[half] > best[half, 0, place]:
                best[half, :, place] = halves[half], halves[1 - half]
    return best[:, 1].mean(axis=0)


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize(("after", "tied", "stirred"), [(0, 0, 0.0), (5, 0, 0.0), (7, 6, 2.5), (3, 1, 0.4)])
def test_what_cannot_be_best_is_left_out_and_nothing_else(seed, after, tied, stirred):
    known, worth = strokes(seed, 60), np.random.default_rng(seed + 50).uniform(0, 4, COLUMNS * ROWS)
    run = np.zeros(COLUMNS * ROWS)
    of_one_ball(after, ROWS, worth, *known.columns, 1.0, BUMPED, tied, stirred, run)
    assert run == pytest.approx(in_full(known, after, worth, 1.0, tied, stirred), abs=1e-12)


def test_a_ball_without_a_stroke_is_worth_nothing():
    run = np.ones(COLUMNS * ROWS)
    of_one_ball(1, ROWS, run.copy(), *strokes(1, 0).columns, 1.0, BUMPED, 0, 0.0, run)
    assert (run == 0.0).all()


def test_a_pot_that_is_known_to_be_better_stands():
    table, dice = TABLES["pool-9ft"], np.random.default_rng(4)
    places = dice.uniform([0.05, 0.05], [table.length - 0.05, table.width - 0.05], (300, 6, 2))
    hand = PRESETS["league"]
    cue, ball, others = places[:, 0], places[:, 1], places[:, 2:]
    alone = quick_pot(table, cue, ball, others, hand)
    known = dice.uniform(0, 0.5, 300)
    assert (quick_pot(table, cue, ball, others, hand, known) == np.maximum(alone, known)).all()
    assert (alone > known).any()
    assert (alone < known).any()


def test_threads_give_what_one_gives_in_its_order_and_pass_on_what_stops_them():
    assert in_threads(lambda n: n * n, range(20), 3) == [n * n for n in range(20)]

    def cancelled(number):
        raise Cancelled

    with pytest.raises(Cancelled):
        in_threads(cancelled, range(4), 2)
