"""Streaks of one sign against statsmodels and by hand."""

from __future__ import annotations

import numpy as np
import pytest
from statsmodels.sandbox.stats.runs import runstest_1samp

from aretane.core.statistics.rates import Mean, mean_interval
from aretane.core.statistics.streaks import may_be_pace, pace_words, streak_words, streaks

LONG = ("long", "short")


def test_by_hand():
    """Long three times, short twice, long once: three runs; 2 x 4 x 2 / 6 + 1 are to be expected."""
    found = streaks([[1.0, 2.0, 1.0, -1.0, -3.0, 2.0]])
    assert (found.n, found.longest, found.positive, found.runs) == (6, 3, True, 3)
    assert found.expected == pytest.approx(11 / 3)
    assert found.p is None
    assert streaks([[], [0.0]]) is None


@pytest.mark.parametrize("seed", range(6))
def test_one_series_is_the_runs_test(seed):
    """Oracle: statsmodels' Wald-Wolfowitz test, two-sided and without its correction for continuity."""
    values = np.random.default_rng(seed).normal(size=80)
    z, both = runstest_1samp(values, cutoff=0.0, correction=False)
    one_sided = both / 2 if z < 0 else 1 - both / 2
    assert streaks([list(values)]).p == pytest.approx(one_sided, abs=1e-9)


def test_a_streak_does_not_go_on_over_two_days():
    assert streaks([[1.0] * 4, [1.0] * 3]).longest == 4
    days = [list(np.random.default_rng(seed).normal(size=30)) for seed in range(40)]
    low = sum(streaks([day]).p is not None and streaks([day]).p < 0.05 for day in days)
    assert low <= 6, "chance alone tells about one day in twenty"


def test_what_is_said():
    steady = [[1.0] * 15 + [-1.0] * 15]
    assert "p < 0.001" in streak_words(streaks(steady), LONG)
    assert "Of 30 stops, the newest that were long or short, at most 15 in a row were long" in streak_words(
        streaks(steady), LONG
    )
    assert "tell nothing" in streak_words(streaks([[1.0, 1.0, -1.0]]), LONG)
    assert "no more streaks" in streak_words(streaks([[1.0, -1.0] * 12]), LONG)


def test_the_table_or_the_player():
    long, level = mean_interval([0.1, 0.12, 0.09] * 12), mean_interval([0.1, -0.1] * 20)
    assert "table's pace" in pace_words(long, long)[0]
    assert "the player, not the table" in pace_words(long, level)[0]
    assert "too few" in pace_words(long, mean_interval([0.1, -0.1, 0.0]))[0]
    assert pace_words(long, Mean(None, None, None, 0)) == []
    assert may_be_pace(long, "along")
    assert not may_be_pace(long, "across")
    assert not may_be_pace(level, "along")
