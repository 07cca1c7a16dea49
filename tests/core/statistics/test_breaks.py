"""What breaks bring, held against counts by hand; intervals are those of `rates`, which statsmodels checks."""

from __future__ import annotations

from dataclasses import replace

from aretane.core.review.break_figures import BreakFigures
from aretane.core.statistics.breaks import families
from aretane.core.statistics.rates import mean_interval, wilson
from tests.core.statistics.tallies import break_tally_of

PLAIN = BreakFigures(
    discipline="nine-ball", place="left", rail_distance=0.2, power="firm", fullness="full", type=None, balls=1,
    dry=False, scratch=False, legal=True, next_visible="yes", opened=None, next_shot=None, leaves=None, won=True,
)  # fmt: skip
DRY = replace(PLAIN, balls=0, dry=True, next_visible="no", won=False)
FACTS = [PLAIN, replace(PLAIN, balls=3, next_visible="partly"), DRY, replace(DRY, place="right rail", won=None)]
TALLIES = [break_tally_of(fact) for fact in FACTS]


def test_each_family_counts_its_own_breaks():
    left, rail = families(TALLIES, lambda fact: fact.place)
    assert (left.name, left.balls.n) == ("left", 3)
    assert left.balls == mean_interval([1.0, 3.0, 0.0])
    assert left.dry == wilson(1, 3)
    assert left.next_visible == wilson(2, 3), "partly seen is seen"
    assert left.won == wilson(2, 3)
    assert (rail.name, rail.balls.n, rail.dry) == ("right rail", 1, wilson(1, 1))


def test_what_is_not_known_is_in_no_rate():
    rail = families(TALLIES, lambda fact: fact.place)[1]
    assert (rail.won.n, rail.won.p) == (0, None)
    assert families([break_tally_of(replace(PLAIN, power=None))], lambda fact: fact.power) == []
