"""Success percentages that borrow strength: a family of pots, drawn towards what the player's hand predicts.

Beta-binomial: the hand's prediction counts as `STRENGTH` earlier tries. Without a try the model speaks, with
hundreds the record does.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from scipy.special import betaincinv

from aretane.core.skill.estimate import Tried, pot_chance
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson

SUREST = 0.98  # nobody makes more than this of any family: the cue ball's own pocket, a ball that clings (assumed)
STRENGTH = 20.0  # tries that the hand's prediction is worth (assumed)


@dataclass(frozen=True)
class Success:
    """`record`: made and tried as they are; `predicted` by the hand; `shrunk`: both together, its `n` the tries."""

    record: Rate
    predicted: float
    shrunk: Rate


def success_of(tried: Sequence[Tried], hand: Hand, predicted: float | None = None) -> Success:
    """A family's percentages; `predicted` is needed where there is no try to predict."""
    if tried:
        predicted = math.fsum(pot_chance(one.window, hand, one.effort, one.gain) for one in tried) / len(tried)
    assert predicted is not None
    sure = min(max(predicted, 1e-3), SUREST)
    made = sum(one.made for one in tried)
    a, b = STRENGTH * sure + made, STRENGTH * (1.0 - sure) + len(tried) - made
    low, high = float(betaincinv(a, b, 0.025)), float(betaincinv(a, b, 0.975))
    return Success(wilson(made, len(tried)), predicted, Rate(a / (a + b), low, high, len(tried)))
