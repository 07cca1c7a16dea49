"""Hand and success percentages from a player's facts."""

from dataclasses import replace

import pytest

from aretane.core.review.replay import replay
from aretane.core.review.shot_facts import shot_facts
from aretane.core.statistics.success_map import hand_of, success_map


@pytest.fixture(scope="module")
def facts(demo_match):
    return [fact for fact in shot_facts(replay(demo_match)) if fact.player == "A"]


def test_every_try_with_known_places_speaks(facts):
    tried = [fact for fact in facts if fact.tried and fact.tolerance is not None]
    found = hand_of(facts)
    assert found.aim.n == len(tried) > 20
    assert found.speed.n == sum(bool(fact.error and fact.travel is not None and fact.made) for fact in facts)


def test_a_player_who_misses_the_same_shots_has_the_worse_hand(facts):
    missed = [replace(fact, made=fact.made and index % 2 == 0) for index, fact in enumerate(facts)]
    assert hand_of(missed).aim.value > 1.3 * hand_of(facts).aim.value


def test_fields_without_a_try_are_the_hands_prediction(facts):
    hand = hand_of(facts).hand
    for field in success_map(facts, hand):
        if field.success.record.n == 0:
            assert field.success.shrunk.p == pytest.approx(field.success.predicted, abs=0.002)
        assert 0 <= field.success.shrunk.low <= field.success.shrunk.p <= field.success.shrunk.high <= 1


def test_longer_and_thinner_is_predicted_harder():
    hand = hand_of(()).hand
    fields = {(field.cut[0], field.distance[0]): field.success.predicted for field in success_map((), hand)}
    assert fields[(0.0, 0.0)] > fields[(0.0, 1.75)]
    assert fields[(0.0, 1.25)] > fields[(60.0, 1.25)]


def test_the_way_after_the_contact_is_measured_along_the_logged_route(facts):
    for fact in facts:
        if fact.travel is not None:
            assert 0 <= fact.travel < 12
