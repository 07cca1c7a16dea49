"""What practice would bring, worked out by hand."""

from __future__ import annotations

import math

import pytest

from aretane.core.review.to_practise import FEWEST, Sort, gains, interval


def test_by_hand():
    """Forty long pots in twenty racks, thirty made: a miss costs .4 more than a make brings, a league hand makes
    nine in ten. .15 more come off, two a rack: .15 x .4 x 2 racks won for each that is played.
    """
    made = Sort("long pots", True, 30, 3.0, 0.3, 27.0, 30)
    missed = Sort("long pots", False, 10, -3.0, 0.9, 9.0, 10)
    (one,) = gains([made, missed], 20)
    assert (one.n, one.often, one.rate.p) == (40, 2.0, 0.75)
    assert one.swing == pytest.approx(0.4)
    assert one.could == pytest.approx(0.9)
    assert one.gain == pytest.approx(2.0 * 0.15 * 0.4)
    share = math.sqrt(0.75 * 0.25 / 40) * 0.4
    assert one.error == pytest.approx(2.0 * share)
    assert interval(one)[0] == pytest.approx(one.gain - 1.96 * one.error, abs=1e-4)


def test_whoever_is_above_the_league_hand_can_still_turn_a_quarter_of_the_misses():
    sorts = [Sort("pots", True, 90, 0.9, 0.1, 63.0, 90), Sort("pots", False, 10, -2.0, 0.6, 7.0, 10)]
    assert gains(sorts, 10)[0].could == pytest.approx(0.925)


def test_a_place_has_no_league_hand():
    sorts = [Sort("position", True, 20, 0.4, 0.1, 19.0, 20), Sort("position", False, 20, -0.6, 0.2, 19.0, 20)]
    assert gains(sorts, 10)[0].could == pytest.approx(0.625)


def test_half_of_what_decisions_cost():
    (one,) = gains([Sort("decisions", None, 50, -2.0, 0.5)], 10)
    assert (one.rate, one.could) == (None, None)
    assert one.gain == pytest.approx(0.1)
    assert one.error == pytest.approx(0.5 * math.sqrt(0.5) / 10)


def test_too_few_tell_nothing_and_the_most_comes_first():
    few = [Sort("break", True, 30, 1.0, 0.2), Sort("break", False, FEWEST - 1, -1.0, 0.4)]
    both = [Sort("position", True, 20, 0.4, 0.1), Sort("position", False, 20, -0.6, 0.2)]
    found = gains([*few, *both, Sort("decisions", None, 50, -20.0, 9.0)], 10)
    assert [one.family for one in found] == ["decisions", "position"]
    assert gains(both, 0) == []
