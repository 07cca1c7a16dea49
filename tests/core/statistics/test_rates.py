"""Intervals against statsmodels and SciPy; figures against counts made by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import stats
from statsmodels.stats.proportion import proportion_confint

from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.statistics.cells import cell_of
from aretane.core.statistics.potting import bias, by, cut_and_distance_map, potting_rate, without_place
from aretane.core.statistics.rates import mean_interval, wilson
from tests.core.statistics.tallies import tally_of


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
    cells = cut_and_distance_map([tally_of(fact) for fact in facts])
    placed = [fact for fact in facts if fact.tried and fact.cut_angle is not None]
    assert sum(cell.rate.n for cell in cells) == len(placed)
    for cell in cells:
        own = [
            fact
            for fact in placed
            if cell.cut[0] <= math.degrees(fact.cut_angle) < cell.cut[1]
            and cell.distance[0] <= fact.cue_distance + fact.pocket_distance < cell.distance[1]
        ]
        assert cell.rate == wilson(sum(fact.made for fact in own), len(own))
    assert without_place([tally_of(fact) for fact in facts]) == sum(f.tried and f.cut_angle is None for f in facts)


def test_every_cut_and_distance_has_one_field():
    assert cell_of(math.pi / 2, 1.0) == cell_of(math.radians(61), 1.0), "90 degrees are in the last band"
    assert cell_of(math.radians(31), 0.0) == cell_of(math.radians(44.9), 0.74)
    assert cell_of(math.radians(29.9), 0.0) != cell_of(math.radians(30.1), 0.0)
    assert cell_of(1.0, 1e6) is not None
    assert cell_of(math.radians(91), 1.0) is None


def test_families_split_the_tries(facts):
    tallies = [tally_of(fact) for fact in facts]
    tried = [fact for fact in facts if fact.tried]
    families = by(tallies, lambda tally: tally.player)
    assert sum(family.rate.n for family in families) == len(tried)
    for family in families:
        mine = [fact for fact in tried if fact.player == family.name]
        assert family.rate.p == pytest.approx(sum(fact.made for fact in mine) / len(mine))
    assert potting_rate(tallies).n == len(tried)


def test_bias_leaves_assumed_directions_out_of_along_and_across(facts):
    errors = [fact.error for fact in facts if fact.error]
    found = bias([tally_of(fact) for fact in facts])
    assert found.distance.n == len(errors)
    assert found.along.n == sum(not error.assumed for error in errors) < len(errors)
    known = [e.along for e in errors if not e.assumed]
    low, high = stats.t.interval(0.95, len(known) - 1, np.mean(known), stats.sem(known))
    assert (found.along.mean, found.along.low, found.along.high) == pytest.approx((np.mean(known), low, high))
