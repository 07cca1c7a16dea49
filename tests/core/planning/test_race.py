"""The race beyond a visit of straight pool, against games played out ball by ball."""

import numpy as np
import pytest

from aretane.core.planning.outlook.race import MOST, margin


def played_out(need, other_need, run, other_run, games=4000):
    """The mean margin of games in which the other one comes to the table first, and its standard error."""
    dice, ends = np.random.default_rng(5), []
    goes_on = run / (1 + run), other_run / (1 + other_run)
    for _ in range(games):
        left, turn = [need, other_need], 1
        while min(left) > 0:
            if dice.random() < goes_on[turn]:
                left[turn] -= 1
            else:
                turn = 1 - turn
        ends.append(left[1] if left[0] <= 0 else -left[0])
    return np.mean(ends), np.std(ends) / len(ends) ** 0.5


@pytest.mark.parametrize(
    ("need", "other_need", "run", "other_run"), [(24, 29, 12, 5), (10, 10, 2, 2), (6, 20, 1, 8)]
)
def test_a_race_is_what_played_games_come_to(need, other_need, run, other_run):
    mean, error = played_out(need, other_need, run, other_run)
    assert float(margin(np.array(float(need)), other_need, run, other_run)) == pytest.approx(mean, abs=3 * error)


def test_one_ball_each_worked_by_hand():
    """Both need one and make it every second time: the other wins 2/3 of it, 1/2 + 1/4 * 1/2 + ..."""
    assert float(margin(np.array(1.0), 1, 1.0, 1.0)) == pytest.approx(1 / 3 - 2 / 3)


def test_the_end_of_the_race_bounds_it():
    ends = margin(np.array([0.0, -4.0, 2.0 * MOST]), 30, 9.0, 9.0)
    assert ends[0] == ends[1] == 30, "further than the race nobody comes"
    assert ends[2] > -MOST


def test_a_lead_is_worth_less_than_its_balls_to_the_better_player():
    """Common practice: who will win the race anyway does not win it by a ball more for every ball he makes now."""
    need = np.array([60.0, 50.0])
    better, equal = margin(need, 60, 30.0, 4.0), margin(need, 60, 10.0, 10.0)
    assert 0 < better[1] - better[0] < equal[1] - equal[0] < 10
