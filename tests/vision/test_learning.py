"""The network that weighs a ball's score. Oracle: statsmodels' logistic regression on cases made up here."""

from __future__ import annotations

import numpy as np
import pytest
import statsmodels.api as sm

from aretane.core.table import PRESETS
from aretane.vision.balls.learning import network, roughened
from aretane.vision.balls.outline import Agreement
from aretane.vision.balls.score import INPUTS, Network, _network, at_mouth, inputs_of, score

POOL = PRESETS["pool-9ft"]


def test_where_a_line_is_enough_it_says_what_a_logistic_regression_says():
    dice = np.random.default_rng(4)
    x = dice.normal(size=(6000, 3))
    chance = 1 / (1 + np.exp(-(0.3 + x @ [1.2, -0.8, 0.5])))
    y = dice.random(6000) < chance
    even = np.where(y, 3000 / y.sum(), 3000 / (~y).sum())
    oracle = sm.GLM(y.astype(float), sm.add_constant(x), family=sm.families.Binomial(), freq_weights=even).fit()
    found = network(x, y, dice).chances(x)
    assert np.abs(found - oracle.predict(sm.add_constant(x))).mean() < 0.05


def test_it_learns_what_no_line_can_tell():
    """A ball if both or neither: exclusive or."""
    dice = np.random.default_rng(6)
    x = dice.uniform(-1, 1, (1500, 2))
    y = (x[:, 0] > 0) == (x[:, 1] > 0)
    assert ((network(x, y, dice).chances(x) > 0.5) == y).mean() > 0.95


def test_a_network_by_hand():
    """tanh(1 + 2 x) - 0.5 into the logistic function."""
    made = Network(np.array([[1.0, 2.0]]), np.array([-0.5, 1.0]))
    assert made.chances(np.array([[0.25]]))[0] == pytest.approx(1 / (1 + np.exp(0.5 - np.tanh(1.5))))


def agreement(**seen):
    none = dict.fromkeys(Agreement.__dataclass_fields__, 0.0) | {"visible": 1.0, "rest": 1.0}
    return Agreement(**{name: np.full(1, value, np.float32) for name, value in (none | seen).items()})


def test_the_weights_that_are_kept_fit_the_inputs_and_tell_a_ball_from_cloth():
    ball = agreement(full=1.0, dimmest=1.0, edged=0.95, free=0.8, inner=0.4, unlike=1.0, faint=1.0, stepped=1.0,
                     shine=0.5, under=0.4)  # fmt: skip
    half, open_cloth = np.full(1, 0.5, np.float32), np.zeros(1, np.float32)
    assert _network().hidden.shape[1] == 1 + len(INPUTS) + 2 == 1 + inputs_of(ball, half, open_cloth).shape[1]
    assert score(ball, half, open_cloth)[0] > 0.95
    assert score(agreement(), -half, open_cloth)[0] < 0.02
    sleeve = agreement(full=1.0, around=1.0, unlike=1.0, person=1.0, limb=1.0)
    assert score(sleeve, -half, open_cloth)[0] < 0.05


def test_a_pocket_is_near_at_its_hole_and_a_ball_farther_no_more():
    pocket = POOL.pockets["foot-left"]
    out = np.array(pocket.axis)
    places = np.array([np.array(pocket.drop) - away * out for away in (0.0, POOL.ball_diameter / 2, 0.1)])
    assert at_mouth(places, POOL) == pytest.approx([1.0, 0.5, 0.0], abs=1e-6)
    assert at_mouth(np.array([[POOL.length / 2, POOL.width / 2]]), POOL)[0] == 0.0


def test_other_cameras_film_otherwise_but_the_same():
    dice = np.random.default_rng(5)
    picture = np.full((90, 160, 3), (150, 90, 40), np.uint8)
    picture[30:60, 60:90] = 230
    taken = [roughened(picture, dice) for _ in range(30)]
    assert sum(np.array_equal(one, picture) for one in taken) < 15
    for one in taken:
        assert one.shape == picture.shape
        assert one[35:55, 65:85].mean() > one[:20].mean() + 60  # the white square stays where it is
