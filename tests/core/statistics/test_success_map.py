"""Hand and success percentages from a player's facts."""

from dataclasses import replace

import pytest

from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.review.skill_figures import SkillFigures
from aretane.core.skill.success import SUREST
from aretane.core.statistics.success_map import hand_of, same_kind, success_map
from aretane.core.table import PRESETS

POOL = PRESETS["pool-9ft"]


@pytest.fixture(scope="module")
def facts(demo_match):
    return [fact for fact in shot_figures(replay(demo_match)) if fact.player == "A"]


def test_every_try_with_known_places_speaks(facts):
    tried = [fact for fact in facts if fact.skill.window is not None and fact.skill.rails == 0]
    found = hand_of(facts, POOL)
    assert found.aim.n == len(tried) > 20
    assert found.speed.n == sum(bool(fact.error and fact.travel is not None and fact.made) for fact in facts)


def test_a_player_who_misses_the_same_shots_has_the_worse_hand(facts):
    def half(fact, index):
        return replace(fact, skill=replace(fact.skill, made=bool(fact.skill.made and index % 2 == 0)))

    missed = [half(fact, index) if fact.skill.made is not None else fact for index, fact in enumerate(facts)]
    assert hand_of(missed, POOL).aim.value > 1.3 * hand_of(facts, POOL).aim.value


def test_a_lag_speaks_of_speed(facts):
    """A lag of two lengths ends 5.9 m x the relative error from the nose: four within a hand's breadth are
    good ones.
    """
    close = [replace(fact, error=None, skill=SkillFigures(lag=0.08)) for fact in facts[:6]]
    far = [replace(fact, error=None, skill=SkillFigures(lag=0.9)) for fact in facts[:6]]
    assert hand_of(close, POOL).speed.value < 0.7 * hand_of(far, POOL).speed.value


def test_snooker_is_another_table():
    assert same_kind("snooker", PRESETS["snooker-12ft"])
    assert not same_kind("snooker", POOL)
    assert same_kind("blackball", PRESETS["blackball-7ft"])


def test_fields_without_a_try_are_the_hands_prediction(facts):
    hand = hand_of(facts, POOL).hand
    for field in success_map(facts, hand):
        if field.success.record.n == 0:
            assert field.success.shrunk.p == pytest.approx(min(field.success.predicted, SUREST), abs=0.002)
        assert 0 <= field.success.shrunk.low <= field.success.shrunk.p <= field.success.shrunk.high <= 1


def test_longer_and_thinner_is_predicted_harder():
    hand = hand_of((), POOL).hand
    fields = {(field.cut[0], field.distance[0]): field.success.predicted for field in success_map((), hand)}
    assert fields[(0.0, 0.0)] > fields[(0.0, 1.75)]
    assert fields[(0.0, 1.25)] > fields[(60.0, 1.25)]


def test_the_way_after_the_contact_is_measured_along_the_logged_route(facts):
    for fact in facts:
        if fact.travel is not None:
            assert 0 <= fact.travel < 12
