"""First contacts against a solver that goes through the chain of derivatives."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest

from aretane.core.physics.roots import crossing, first_contact


def chain_roots(coefficients, horizon):
    """Real roots in (0, horizon) of a polynomial (constant first), by bisection between the derivative's roots."""
    trimmed = np.trim_zeros(np.asarray(coefficients, dtype=float), "b")
    if len(trimmed) < 2:
        return []
    slope = trimmed[1:] * np.arange(1, len(trimmed))
    cuts = [0.0, *chain_roots(slope, horizon), horizon]

    def at(t):
        return float(np.polyval(trimmed[::-1], t))

    roots = []
    for low, high in itertools.pairwise(cuts):
        if at(low) * at(high) > 0 or low == high:
            continue
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (low, middle) if at(low) * at(middle) <= 0 else (middle, high)
        roots.append((low + high) / 2)
    return roots


def oracle(d, v, a, reach, horizon):
    d, v, a = map(np.asarray, (d, v, a))
    quartic = [d @ d - reach**2, 2 * d @ v, v @ v + d @ a, v @ a, a @ a / 4]
    for root in chain_roots(quartic, horizon):
        slope = quartic[1] + 2 * quartic[2] * root + 3 * quartic[3] * root**2 + 4 * quartic[4] * root**3
        if slope < 0:
            return root
    return math.inf


def test_first_contact_finds_the_first_of_all_roots():
    dice = np.random.default_rng(1)
    hits = 0
    for _ in range(1500):
        d = dice.normal(0, 0.4, 3) * [1, 1, dice.random() < 0.2]
        v, a = dice.normal(0, 1.5, 3) * [1, 1, 0], dice.normal(0, 2, 3) * [1, 1, 0]
        if np.linalg.norm(d) < 0.0572:
            continue
        mine, expected = first_contact(*d, *v, *a, 0.05715, 2.0), oracle(d, v, a, 0.05715, 2.0)
        hits += math.isfinite(expected)
        if math.isinf(expected) or math.isinf(mine):
            grazing = oracle(d, v, a, 0.05715 * (1 + 1e-9), 2.0)
            assert mine == expected or math.isinf(grazing)
        else:
            assert mine == pytest.approx(expected, abs=1e-9)
    assert hits > 50


def test_touching_balls_that_separate_are_asked_for_their_next_meeting():
    leaving = first_contact(0.05715, 0, 0, 0.5, 0, 0, -1.0, 0, 0, 0.05715, 5.0)
    assert leaving == pytest.approx(1.0)
    assert first_contact(0.05715, 0, 0, 0.5, 0, 0, 0, 0, 0, 0.05715, 5.0) == math.inf
    assert first_contact(0.05715, 0, 0, -0.5, 0, 0, 0, 0, 0, 0.05715, 5.0) == 0.0
    assert first_contact(0.05715, 0, 0, 0, 0, 0, 0, 0, 0, 0.05715, 5.0) == math.inf
    assert first_contact(0.05715, 0, 0, 0, 0, 0, -1, 0, 0, 0.05715, 5.0) == 0.0


def test_crossing_is_the_smaller_positive_root_from_above():
    dice = np.random.default_rng(2)
    for _ in range(2000):
        c0, c1, c2 = abs(dice.normal()), dice.normal(), dice.normal()
        real = [root.real for root in np.roots([c2, c1, c0]) if abs(root.imag) < 1e-12 and root.real > 0]
        falling = [root for root in real if c1 + 2 * c2 * root < 0]
        assert crossing(c0, c1, c2) == pytest.approx(min(falling, default=math.inf), rel=1e-9)


def test_running_along_a_circle_is_no_meeting():
    """A ball that leans on a rounded jaw has no speed across; what rounding leaves of it must not meet again."""
    assert first_contact(0.1, 0, 0, -1e-18, 0.02, 0, 0, 0, 0, 0.1, 5.0) == math.inf
