"""The hand from the record: recovered inside its own interval on simulated players, against the exact posterior."""

import math
import random

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.stats import beta, norm

from aretane.core.geometry.reading import read_shot
from aretane.core.physics.sampling import errors, play_all, with_errors
from aretane.core.physics.start import start_of
from aretane.core.planning.one_place import stroke_of
from aretane.core.planning.pots import Ground
from aretane.core.skill.estimate import (
    AIM_SPREAD,
    JAW_GAIN,
    SQUIRT,
    Stopped,
    Tried,
    estimate_hand,
    hand_of_aim,
    pot_chance,
)  # fmt: skip
from aretane.core.skill.hand import PRESETS
from aretane.core.skill.success import STRENGTH, success_of
from aretane.core.table import POCKETS
from tests.core.planning.tables import nine_ball


def simulated_record(hand, shots, seed):
    """Tries of a player with this hand, played on the table itself."""
    dice, found = random.Random(seed), []
    while len(found) < shots:
        layout = nine_ball(
            cue=(dice.uniform(0.2, 2.3), dice.uniform(0.2, 1.0)),
            b9=(dice.uniform(0.2, 2.3), dice.uniform(0.15, 1.1)),
        )
        pots = Ground(layout).pots(
            "9", np.array([layout.cue]), np.array([[1.8, 0.0, dice.choice([-0.3, 0.0, 0.3])]])
        )
        for row in range(len(pots)):
            reading = read_shot(layout, "9", POCKETS[int(pots.pocket[row])])
            if reading.tolerance is None or reading.tolerance < math.radians(0.06):
                continue
            wrong = errors(hand, 1, dice.randrange(10**6))
            played = play_all(layout, start_of(layout), with_errors(stroke_of(pots, row), wrong))
            made = played.fates[0, 1] == pots.pocket[row] and played.fates[0, 0] == -1
            found.append(Tried(reading.tolerance, bool(made)))
    return found


@pytest.mark.parametrize("name", ["club", "league", "professional"])
def test_a_simulated_players_aim_lies_in_its_interval(name):
    hand = PRESETS[name]
    found = estimate_hand(simulated_record(hand, 250, seed=len(name)), [])
    assert found.aim.low * 0.95 < hand.aim < found.aim.high * 1.05
    assert found.aim.speaks
    assert not found.side.speaks
    assert found.aim.high / found.aim.low < 2.2


def test_a_simulated_players_speed_lies_in_its_interval():
    """Rolling distance goes with the square of the speed: the error along is twice the speed's error times the
    way.
    """
    dice = np.random.default_rng(5)
    for true in (0.03, 0.08, 0.15):
        ways = dice.uniform(0.6, 2.5, 120)
        stopped = [Stopped(way, 2 * way * true * dice.standard_normal()) for way in ways]
        found = estimate_hand([], stopped)
        assert found.speed.low * 0.9 < true < found.speed.high * 1.1
        assert found.speed.speaks


def test_without_a_record_the_prior_speaks():
    for name, hand in PRESETS.items():
        found = estimate_hand([], [], name)
        assert found.aim.value == pytest.approx(hand.aim, rel=0.03)
        assert not found.aim.speaks
        assert found.needs
        assert found.aim.high / found.aim.low == pytest.approx(math.exp(2 * 1.96 * AIM_SPREAD), rel=0.3)


def test_ten_shots_leave_a_wide_interval():
    tried = [Tried(math.radians(0.4), made) for made in (True,) * 6 + (False,) * 4]
    found = estimate_hand(tried, [])
    assert found.aim.high > 2 * found.aim.low


def test_chosen_easy_shots_do_not_make_a_better_hand():
    """The same nine of ten: on easy shots it is a worse hand than on hard ones."""
    easy, hard = (
        estimate_hand([Tried(math.radians(half), i % 10 > 0) for i in range(100)], []) for half in (1.5, 0.3)
    )
    assert easy.aim.value > 3 * hard.aim.value


def test_the_posterior_is_the_integral():
    """Mean of ln(aim) by the grid against SciPy's quadrature of likelihood times prior."""
    tried = [Tried(math.radians(0.5), made) for made in (True, True, False, True, False)]
    before = PRESETS["club"]
    widen = math.hypot(1.0, SQUIRT * before.side / before.aim)

    def weight(log):
        spread = math.exp(log) * widen
        chance = math.erf(JAW_GAIN * math.radians(0.5) / spread / math.sqrt(2))
        return norm.pdf(log, math.log(before.aim), AIM_SPREAD) * chance**3 * (1 - chance) ** 2

    low, high = math.log(math.radians(0.01)), math.log(math.radians(6))
    whole = quad(weight, low, high)[0]
    median = estimate_hand(tried, []).aim.value
    assert quad(weight, low, math.log(median))[0] / whole == pytest.approx(0.5, abs=0.01)


def test_pot_chance_is_the_normal_integral():
    hand = PRESETS["league"]
    half = math.radians(0.4)
    spread = hand.aim * math.hypot(1.0, SQUIRT * hand.side / hand.aim)
    assert pot_chance(half, hand) == pytest.approx(1 - 2 * norm.sf(JAW_GAIN * half / spread))


def test_hands_between_the_presets_are_between_them():
    for name, hand in PRESETS.items():
        again = hand_of_aim(hand.aim)
        assert again.speed == pytest.approx(hand.speed), name
        assert again.side == pytest.approx(hand.side), name
    between = hand_of_aim(math.radians(0.4))
    assert PRESETS["league"].speed < between.speed < PRESETS["club"].speed


def test_success_is_drawn_to_the_hand_and_gives_way_to_the_record():
    hand, half = PRESETS["club"], math.radians(0.5)
    predicted = pot_chance(half, hand)
    none = success_of([], hand, predicted)
    assert none.shrunk.p == pytest.approx(predicted)
    tried = [Tried(half, i % 10 > 0) for i in range(10)]
    few, many = success_of(tried, hand), success_of(tried * 40, hand)
    assert predicted < few.shrunk.p < many.shrunk.p
    assert many.shrunk.p == pytest.approx(0.9, abs=0.03)
    assert many.record.n == 400


def test_the_interval_is_the_betas():
    hand, half = PRESETS["club"], math.radians(0.5)
    found = success_of([Tried(half, True)] * 7 + [Tried(half, False)] * 3, hand)
    a, b = STRENGTH * found.predicted + 7, STRENGTH * (1 - found.predicted) + 3
    assert (found.shrunk.low, found.shrunk.high) == pytest.approx(beta.interval(0.95, a, b))
