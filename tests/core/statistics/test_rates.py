"""Intervals against statsmodels and SciPy; figures against counts made by hand."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy import stats
from statsmodels.stats.proportion import proportion_confint

from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.statistics.potting import bias, by, cut_and_distance_map, potting_rate, tries
from aretane.core.statistics.rates import mean_interval, wilson


@pytest.mark.parametrize(("made", "tried"), [(0, 1), (1, 1), (3, 7), (12, 15), (80, 100), (0, 40), (999, 1000)])
def test_wilson_is_statsmodels(made, tried):
    low, high = proportion_confint(made, tried, alpha=0.05, method="wilson")
    rate = wilson(made, tried)
    assert (rate.p, rate.n) == (made / tried, tried)
    assert (rate.low, rate.high) == pytest.approx((low, high), abs=1e-9)


def test_eighty_percent_from_fifteen_tries_says_little():
    rate = wilson(12, 15)
    assert rate.low < 0.55
    assert rate.high > 0.92


def test_no_tries_say_nothing():
    assert wilson(0, 0) == wilson(0, 0).__class__(None, 0.0, 1.0, 0)


def test_the_mean_has_students_interval():
    values = [0.03, -0.02, 0.11, 0.05, 0.0]
    low, high = stats.t.interval(0.95, len(values) - 1, np.mean(values), stats.sem(values))
    found = mean_interval(values)
    assert (found.mean, found.low, found.high) == pytest.approx((np.mean(values), low, high))
    assert (mean_interval([0.2]).low, mean_interval([]).mean) == (None, None)


@pytest.fixture(scope="module")
def facts(demo_match):
    return shot_figures(replay(demo_match))


def test_the_map_counts_every_try_with_places_once(facts):
    cells = cut_and_distance_map(facts)
    members = [index for cell in cells for index in cell.members]
    assert len(members) == len(set(members))
    assert set(members) == {index for index in tries(facts) if facts[index].cut_angle is not None}
    for cell in cells:
        assert cell.rate.n == len(cell.members)
        for index in cell.members:
            assert cell.cut[0] <= math.degrees(facts[index].cut_angle) <= cell.cut[1]


def test_a_cut_of_exactly_ninety_has_a_field(facts):
    steep = replace(facts[1], tried=True, cut_angle=math.pi / 2, cue_distance=0.5, pocket_distance=0.5)
    assert [cell.cut for cell in cut_and_distance_map([steep]) if cell.members] == [(60.0, 90.0)]


def test_families_split_the_tries(facts):
    families = by(facts, lambda fact: fact.player)
    assert sum(family.rate.n for family in families) == len(tries(facts))
    for family in families:
        mine = [facts[index] for index in tries(facts) if facts[index].player == family.name]
        assert family.rate.p == pytest.approx(sum(fact.made for fact in mine) / len(mine))
    assert potting_rate(facts, tries(facts)).n == len(tries(facts))


def test_bias_leaves_assumed_directions_out_of_along_and_across(facts):
    errors = [fact.error for fact in facts if fact.error]
    found = bias(facts)
    assert found.distance.n == len(errors)
    assert found.along.n == sum(not error.assumed for error in errors) < len(errors)
    assert found.along.mean == pytest.approx(np.mean([e.along for e in errors if not e.assumed]))
