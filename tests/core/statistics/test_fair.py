"""Comparisons against statsmodels, and against simulated players whose truth is known."""

import numpy as np
import pytest
import statsmodels.api as sm
from scipy.stats import ttest_ind
from statsmodels.stats.proportion import confint_proportions_2indep

from aretane.core.statistics.curve import Day, curve
from aretane.core.statistics.fair import Mix, apart, fairly, means_apart, more_tries, shift_of, sure
from aretane.core.statistics.rates import mean_interval, wilson

CHANCES = np.linspace(0.05, 0.97, 24)


def played(shift, tries, easy, dice):
    """Tries of a player whose log odds are so much above the league hand's; `easy`: he has the easier shots."""
    weights = CHANCES ** (3 if easy else 0.3)
    n = dice.multinomial(tries, weights / weights.sum())
    odds = np.log(CHANCES / (1 - CHANCES)) + shift
    return Mix(CHANCES, n.astype(float), dice.binomial(n, 1 / (1 + np.exp(-odds))).astype(float))


def test_a_players_shift_is_that_of_logistic_regression():
    """Oracle: statsmodels' binomial model with an offset. What is assumed beforehand hardly moves it."""
    mix = played(0.4, 900, False, np.random.default_rng(3))
    told = mix.n > 0
    model = sm.GLM(
        np.column_stack([mix.made, mix.n - mix.made])[told], np.ones(told.sum()), family=sm.families.Binomial(),
        offset=mix.odds[told],
    ).fit()  # fmt: skip
    shift, error = shift_of(mix)
    assert shift == pytest.approx(model.params[0], abs=0.01)
    assert error == pytest.approx(model.bse[0], rel=0.01)


def test_the_interval_holds_the_truth_as_often_as_it_says():
    """1,000 pairs of which one has easier shots: held 930 to 970 times; equals told apart at most 70 times."""
    dice, held, called = np.random.default_rng(11), 0, 0
    for _ in range(1000):
        one, other = played(0.5, 160, True, dice), played(0.0, 220, False, dice)
        found = fairly(one, other)
        odds, weights = np.log(CHANCES / (1 - CHANCES)), (one.n / one.n.sum() + other.n / other.n.sum()) / 2
        rates = [float(np.sum(weights / (1 + np.exp(-(odds + shift))))) for shift in (0.5, 0.0)]
        held += found.low <= rates[0] - rates[1] <= found.high
        equal = fairly(played(0.2, 160, True, dice), played(0.2, 220, False, dice))
        called += equal.low > 0 or equal.high < 0
    assert 930 <= held <= 970
    assert called <= 70


def test_the_easier_shots_do_not_make_the_better_player():
    dice = np.random.default_rng(2)
    one, other = played(0.0, 4000, True, dice), played(0.3, 4000, False, dice)
    raw = one.made.sum() / one.n.sum() - other.made.sum() / other.n.sum()
    found = fairly(one, other)
    assert raw > 0 > found.high
    assert found.more == 0
    assert found.one < found.other


def test_without_tries_there_is_nothing_to_compare():
    nobody = Mix(np.array([]), np.array([]), np.array([]))
    assert fairly(nobody, played(0, 50, True, np.random.default_rng(0))) is None
    assert apart(wilson(0, 0), wilson(3, 5)) is None


@pytest.mark.parametrize(("one", "other"), [((56, 70), (48, 80)), ((9, 10), (3, 10)), ((5, 5), (0, 4))])
def test_rates_apart_as_newcombe_has_it(one, other):
    """Oracle: statsmodels' Newcombe interval; the first case is the paper's own (0.2: 0.0524 to 0.3339)."""
    low, high = confint_proportions_2indep(*one, *other, method="newcomb")
    found = apart(wilson(*one), wilson(*other))
    assert (found.low, found.high) == pytest.approx((low, high), abs=2e-4)


def test_means_apart_as_welch_has_it():
    """Oracle: SciPy's test of two means with unequal variances."""
    dice = np.random.default_rng(4)
    one, other = dice.normal(0.02, 0.1, 40), dice.normal(-0.03, 0.2, 25)
    interval = ttest_ind(one, other, equal_var=False).confidence_interval()
    found = means_apart(mean_interval(list(one)), mean_interval(list(other)))
    assert (found.low, found.high) == pytest.approx((interval.low, interval.high), rel=1e-9)


def test_how_many_more_tries_would_tell():
    assert more_tries(0.1, 0.02, 100) == 0
    assert more_tries(0.05, 0.05, 100) == 285  # 1.96 squared is 3.84 times as many
    assert more_tries(0.0001, 0.05, 100) is None
    assert sure(0.0, 1.0) == 0.5


def test_a_smooth_curve_follows_a_step_and_says_how_sure_it_is():
    days = [Day(day, 10, 4 if day < 100 else 8) for day in range(0, 200, 2)]
    found = curve(days)
    assert found[0][1].p == pytest.approx(0.4, abs=0.02)
    assert found[-1][1].p == pytest.approx(0.8, abs=0.02)
    assert all(rate.low < rate.p < rate.high for _, rate in found)
    assert all(rate.n < 1000 for _, rate in found), "a day is told by the days around it alone"
    assert curve([Day(3, 10, 5)]) == [(3.0, wilson(5, 10))]
    assert curve([]) == []
