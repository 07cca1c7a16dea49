"""Measured places made possible. Oracle: the distances themselves."""

from __future__ import annotations

import math
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from aretane.core.layout import on_table
from aretane.core.rack import racked
from aretane.core.table import PRESETS
from aretane.vision.balls.spacing import apart

POOL = PRESETS["pool-9ft"]


def test_what_is_possible_is_left_alone():
    places = [(0.5, 0.5), (0.5 + POOL.ball_diameter, 0.5), (2.0, 0.3)]
    assert apart(places, POOL) == places


def test_two_that_overlap_are_moved_apart_along_their_line():
    (ax, ay), (bx, by) = apart([(1.0, 0.6), (1.05, 0.6)], POOL)
    assert bx - ax == pytest.approx(POOL.ball_diameter, abs=1e-4)
    assert (ay, by) == (0.6, 0.6)
    assert (ax + bx) / 2 == pytest.approx(1.025)


def test_a_ball_measured_in_a_cushion_lies_at_it():
    assert apart([(1.0, 0.01)], POOL) == [(1.0, POOL.radius)]


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 10_000))
def test_a_rack_measured_with_errors_becomes_one_that_can_be(seed):
    dice = np.random.default_rng(seed)
    true = list(racked(POOL, "nine-ball").balls.values())
    seen = [(x + dice.normal(0, 0.004), y + dice.normal(0, 0.004)) for x, y in true]
    found = apart(seen, POOL)
    assert min(math.dist(a, b) for a, b in combinations(found, 2)) > POOL.ball_diameter - 5e-4
    assert all(on_table(POOL, place, POOL.radius) for place in found)
    assert max(math.dist(a, b) for a, b in zip(found, true, strict=True)) < 0.025
