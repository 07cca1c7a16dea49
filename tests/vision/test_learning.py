"""The weights of the score. Oracle: statsmodels' logistic regression on cases made up by hand."""

from __future__ import annotations

import numpy as np
import statsmodels.api as sm

from aretane.vision import learning
from aretane.vision.balls import SCORE, terms
from aretane.vision.outline import Agreement


def test_the_weights_are_those_of_a_logistic_regression(monkeypatch):
    monkeypatch.setattr(learning, "HOLDING", 1e-12)
    dice = np.random.default_rng(4)
    x = np.column_stack([np.ones(800), dice.normal(size=(800, 3))])
    chance = 1 / (1 + np.exp(-(x @ [0.3, 1.2, -0.8, 0.5])))
    y = dice.random(800) < chance
    even = np.where(y, 400 / y.sum(), 400 / (~y).sum())
    oracle = sm.GLM(y.astype(float), x, family=sm.families.Binomial(), freq_weights=even).fit()
    found = learning.weights(list(zip(x, y, strict=True)))
    np.testing.assert_allclose(found, oracle.params, atol=0.02)


def test_every_term_has_its_weight():
    one = np.full(1, 0.5, np.float32)
    assert len(terms(Agreement(*[one] * len(Agreement.__dataclass_fields__)))) == len(SCORE)
