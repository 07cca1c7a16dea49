"""The hand from the record: the exact posterior, bad records, and simulated players whose errors are known."""

import math

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.stats import beta, norm

from aretane.core.skill.effort import thrown_off
from aretane.core.skill.estimate import (
    AIM_SPREAD,
    JAW_SPREAD,
    LOST,
    LUCKY,
    POTS_COUNT,
    Lagged,
    Record,
    Stopped,
    Tried,
    estimate_hand,
    level_of,
    pot_chance,
)  # fmt: skip
from aretane.core.skill.hand import PRESETS, SNOOKER, Hand, usual_hand
from aretane.core.skill.success import STRENGTH, success_of
from aretane.estimate_bench import coverage, player, record_of, shots


@pytest.fixture(scope="module")
def pool():
    return shots(120)


@pytest.mark.parametrize("name", ["beginner", "club", "league", "professional"])
def test_a_simulated_players_aim_lies_in_its_interval(name, pool):
    """Played on the simulator with effort and the table's chance; a player at either end is not called average."""
    hand = PRESETS[name]
    found = estimate_hand(record_of(hand, pool, 250, np.random.default_rng(len(name))))
    assert found.aim.low * 0.95 < hand.aim < found.aim.high * 1.05
    assert found.aim.speaks
    assert not found.side.speaks
    assert name in found.says


def test_intervals_hold_the_truth_of_most_players():
    """A small one of the bench's check: of 40 players drawn from the prior the 95 % interval of the aim misses
    few.
    """
    for one in coverage(40, 60):
        assert one["spoke"] >= 20
        assert one["held"]["high"] > 0.95


def test_without_a_record_the_prior_speaks():
    for name, hand in PRESETS.items():
        found = estimate_hand(Record(), name)
        assert found.aim.value == pytest.approx(hand.aim, rel=0.03)
        assert not found.aim.speaks
        assert found.needs
        assert "nothing is on record" in found.says
        assert found.aim.high / found.aim.low == pytest.approx(math.exp(2 * 1.96 * AIM_SPREAD), rel=0.3)


@pytest.mark.parametrize("made", [(True,), (False,), (True,) * 60, (False,) * 60])
def test_a_record_of_one_shot_or_of_one_kind_is_no_certainty(made):
    found = estimate_hand(Record([Tried(math.radians(0.2), one) for one in made]))
    assert 0 < found.aim.low < found.aim.value < found.aim.high
    assert found.aim.high / found.aim.low > 1.5


def test_chosen_easy_shots_do_not_make_a_better_hand():
    """The same nine of ten: on easy shots it is a worse hand than on hard ones."""
    easy, hard = (
        estimate_hand(Record([Tried(math.radians(half), i % 10 > 0) for i in range(100)])) for half in (0.8, 0.15)
    )
    assert easy.aim.value > 3 * hard.aim.value


def test_a_stroke_that_asks_more_excuses_its_misses():
    plain, hard = (
        estimate_hand(Record([Tried(math.radians(0.2), i % 2 > 0, effort) for i in range(60)]))
        for effort in (1.0, 1.6)
    )
    assert hard.aim.value < 0.8 * plain.aim.value


def test_kicks_speak_of_rails_and_not_of_aim():
    kicks = [Tried(math.radians(1.3), i % 5 > 0, gain=1.0, rails=1) for i in range(40)]
    found = estimate_hand(Record(kicks))
    assert found.rail.speaks
    assert not found.aim.speaks
    hit = 2 * norm.cdf(math.radians(1.3) / found.rail.value) - 1
    assert hit == pytest.approx(0.8, abs=0.1)


def test_lags_speak_of_speed():
    """5.9 m for each whole of speed on a 9-ft table: lags 15 cm off on average (one deviation) are a
    professional's.
    """
    offs = [0.15 * z for z in norm.ppf(np.linspace(0.02, 0.98, 30))]
    found = estimate_hand(Record(lagged=[Lagged(abs(off), 2.54) for off in offs]))
    assert found.speed.speaks
    assert found.speed.value == pytest.approx(0.025, rel=0.35)


def test_positions_that_are_all_in_the_zone_do_not_make_speed_perfect():
    found = estimate_hand(Record(stopped=[Stopped(0.8, 0.0)] * 20))
    assert found.speed.value > 0.01


def test_the_posterior_is_the_integral():
    """The median of ln(aim) by the grid against SciPy's quadrature of likelihood times prior."""
    window, gain = math.radians(0.2), 15.0
    tried = [Tried(window, made, 1.0, gain) for made in (True, True, False, True, False)]

    def weight(log):
        spread = math.hypot(math.exp(log), thrown_off(usual_hand(math.exp(log))) / gain)
        factors = ((math.exp(-1.732 * JAW_SPREAD), 1 / 6), (1.0, 2 / 3), (math.exp(1.732 * JAW_SPREAD), 1 / 6))
        inside = sum(share * (2 * norm.cdf(factor * window / spread) - 1) for factor, share in factors)
        chance = LUCKY + (1 - LUCKY - LOST) * inside
        return (
            norm.pdf(log, math.log(PRESETS["club"].aim), AIM_SPREAD) * (chance**3 * (1 - chance) ** 2) ** POTS_COUNT
        )

    low, high = math.log(math.radians(0.008)), math.log(math.radians(4))
    whole = quad(weight, low, high)[0]
    median = estimate_hand(Record(tried)).aim.value
    assert quad(weight, low, math.log(median))[0] / whole == pytest.approx(0.5, abs=0.015)


def test_pot_chance_falls_with_the_window_and_grows_with_the_hand():
    chances = [pot_chance(math.radians(w), PRESETS["league"]) for w in (0.05, 0.1, 0.2, 0.4)]
    assert chances == sorted(chances)
    assert pot_chance(0.01, Hand(0.0, 0.0, 0.0, 0.0, plain=True)) == pytest.approx(1.0)
    assert pot_chance(0.002, PRESETS["professional"]) > pot_chance(0.002, PRESETS["beginner"])


def test_levels_have_words():
    for name, hand in PRESETS.items():
        assert name in level_of(hand.aim)
        assert name in level_of(SNOOKER[name].aim, SNOOKER)
    assert (
        level_of(math.sqrt(PRESETS["league"].aim * PRESETS["professional"].aim))
        == "between league and professional"
    )
    assert level_of(1.0) == "below beginner"


def test_hands_between_the_presets_are_between_them():
    for name, hand in PRESETS.items():
        again = usual_hand(hand.aim)
        assert again.speed == pytest.approx(hand.speed), name
        assert again.rail == pytest.approx(hand.rail), name
    between = usual_hand(math.radians(0.12))
    assert PRESETS["league"].speed < between.speed < PRESETS["club"].speed


def test_players_are_drawn_from_the_prior():
    rng = np.random.default_rng(3)
    logs = [math.log(player(rng).aim) for _ in range(400)]
    assert np.mean(logs) == pytest.approx(math.log(PRESETS["club"].aim), abs=0.12)
    assert np.std(logs) == pytest.approx(AIM_SPREAD, rel=0.1)


def test_success_is_drawn_to_the_hand_and_gives_way_to_the_record():
    hand, half = PRESETS["club"], math.radians(0.15)
    predicted = pot_chance(half, hand)
    none = success_of([], hand, predicted)
    assert none.shrunk.p == pytest.approx(predicted)
    tried = [Tried(half, i % 10 > 0) for i in range(10)]
    few, many = success_of(tried, hand), success_of(tried * 40, hand)
    assert predicted < few.shrunk.p < many.shrunk.p
    assert many.shrunk.p == pytest.approx(0.9, abs=0.03)
    assert many.record.n == 400


def test_the_interval_is_the_betas():
    hand, half = PRESETS["club"], math.radians(0.15)
    found = success_of([Tried(half, True)] * 7 + [Tried(half, False)] * 3, hand)
    a, b = STRENGTH * found.predicted + 7, STRENGTH * (1 - found.predicted) + 3
    assert (found.shrunk.low, found.shrunk.high) == pytest.approx(beta.interval(0.95, a, b))
