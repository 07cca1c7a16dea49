"""Options found and valued: judgements of the trade ("common practice"), arithmetic, convergence."""

from dataclasses import replace

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.layout import State
from aretane.core.planning.choices.option import ATTACK, SAFE
from aretane.core.planning.choices.options import Task, arranged, options_for, tasks_for, valued
from aretane.core.planning.choices.plain import told_apart
from aretane.core.planning.choices.push_out import answer_to_push
from aretane.core.planning.choices.schools import SCHOOLS, order_for
from aretane.core.planning.choices.search import Idea, in_hand_layouts
from aretane.core.planning.choices.sensitivity import against, for_match, over_pot, ten_points_better
from aretane.core.planning.choices.value import mean_rate
from aretane.core.planning.outlook.equity import attack_value, break_even
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import PRESETS
from aretane.core.statistics.rates import wilson
from tests.core.planning.tables import SURE, nine_ball, outlook

CLUB, PROFESSIONAL = PRESETS["club"], PRESETS["professional"]
OPEN = nine_ball(cue=(1.5, 0.55), b7=(1.9, 0.9), b8=(1.4, 1.05), b9=(0.6, 0.9))
HARD = nine_ball(cue=(0.99, 0.67), b7=(2.48, 0.89), b8=(2.13, 0.33), b9=(1.73, 0.77))


@pytest.fixture(scope="module")
def easy():
    return options_for(OPEN, (SURE, SURE), GLANCE, 0, 2)


@pytest.fixture(scope="module")
def hopeless():
    return options_for(HARD, (CLUB, PROFESSIONAL), GLANCE, 0, 2)


@pytest.fixture(scope="module")
def usual():
    return options_for(OPEN, (CLUB, CLUB), GLANCE, 0, 2)


def test_a_hanger_beats_a_bank():
    found = options_for(nine_ball(cue=(1.6, 0.8), b9=(2.47, 1.2)), (CLUB, CLUB), GLANCE, 0, 2)
    best = found.options[0]
    assert (best.kind, best.ball, best.pocket) == ("pot", "9", "foot-left")
    assert best.value.pot.p > 0.95
    assert all(one.win < best.win for one in found.options if one.kind == "bank")


def test_with_a_sure_hand_on_an_open_table_attack_wins(easy):
    assert easy.options[0].intent in ATTACK
    assert easy.best_attack == 0
    assert easy.options[0].win > 0.8
    assert easy.options[0].value.run > 0.6


def test_a_hopeless_run_out_favours_safety(hopeless):
    """A long thin pot for a club player against a professional: anything but attack."""
    assert hopeless.options[0].intent in SAFE
    assert hopeless.best_safety == 0


def test_a_stronger_opponent_lowers_every_option():
    views = [outlook(OPEN, PROFESSIONAL, rival) for rival in (PRESETS["beginner"], SURE)]
    tasks = tasks_for(views[0], GLANCE, 2)[:12]
    wins = [[valued(view, task, GLANCE, 0, 2).win for task in tasks] for view in views]
    assert all(strong <= weak + 0.02 for weak, strong in zip(*wins, strict=True))
    assert np.mean(wins[1]) < np.mean(wins[0])


def test_the_break_even_is_where_both_are_worth_the_same(hopeless, usual, easy):
    with_one = [found for found in (hopeless, usual, easy) if found.break_even_pot is not None]
    assert with_one
    for found in with_one:
        value = found.options[found.best_attack].value
        at_even = attack_value(found.break_even_pot, value.after_pot, value.after_miss)
        assert at_even == pytest.approx(found.options[found.best_safety].win)
    assert break_even(0.8, 0.3, 0.5) == pytest.approx(0.4)
    assert break_even(0.8, 0.3, 0.9) is None
    assert break_even(None, 0.3, 0.5) is None


def test_win_is_made_of_what_follows_pot_and_miss(easy):
    """win = pot x after_pot + (1 - pot) x after_miss, exactly: they are means over the same samples."""
    for option in easy.options:
        value = option.value
        if value.after_pot is not None and value.after_miss is not None:
            assert value.win.p == pytest.approx(attack_value(value.pot.p, value.after_pot, value.after_miss))


def test_options_come_best_first_with_intervals_and_a_sentence(easy):
    best = max(easy.options, key=lambda one: one.win)
    wins = [option.win for option in easy.options if told_apart(best, option)]
    assert wins == sorted(wins, reverse=True)
    assert not told_apart(best, easy.options[0])
    for option in easy.options:
        for rate in (option.value.pot, option.value.foul, option.value.win):
            assert rate.low <= rate.p <= rate.high
            assert rate.n == GLANCE.samples
        assert option.why.endswith((".", "times."))


def test_pots_banks_kicks_and_safeties_are_found(hopeless, easy):
    kinds = {option.kind for found in (hopeless, easy) for option in found.options}
    assert {"pot", "bank", "kick"} <= kinds
    assert any(option.ball is None for option in easy.options)


def test_an_interval_narrows_with_the_samples_and_keeps_the_value():
    view = outlook(OPEN, CLUB)
    task = tasks_for(view, GLANCE)[0]
    few, many = (valued(view, task, replace(GLANCE, samples=n)).value for n in (100, 1600))
    assert many.win.high - many.win.low < (few.win.high - few.win.low) / 2
    assert abs(few.win.p - many.win.p) < 2 * (few.win.high - few.win.low)
    assert many.pot.low - 0.05 < few.pot.p < many.pot.high + 0.05


def test_values_that_are_all_alike_have_no_spread():
    rate = mean_rate(np.full(50, 0.3), points=False)
    assert (rate.p, rate.low, rate.high) == pytest.approx((0.3, 0.3, 0.3))


def test_what_is_won_every_time_may_still_be_lost():
    """All of a hundred: Wilson's interval, not certainty."""
    assert mean_rate(np.ones(100), points=False) == wilson(100, 100)


def test_the_same_seed_repeats_exactly():
    one, two = (options_for(OPEN, (CLUB, CLUB), GLANCE, 7, threads) for threads in (1, 2))
    assert [o.value.win for o in one.options] == [o.value.win for o in two.options]


def test_ball_in_hand_is_put_where_it_is_allowed():
    for where, allowed in (("anywhere", 2.6), ("behind-line", 0.635 + 1e-9)):
        layout = nine_ball(State(ball_in_hand=where), b8=(1.9, 0.4), b9=(2.1, 0.9))
        view = outlook(layout, CLUB)
        for placed in in_hand_layouts(view.game, view, 3):
            assert placed.cue[0] <= allowed
        found = options_for(layout, (CLUB, CLUB), GLANCE, 0, 2)
        assert found.options[0].stroke.place is not None


def test_a_push_out_is_offered_only_when_it_is_allowed():
    balls = {"cue": (0.3, 0.3), "b1": (2.3, 1.0), "b2": (0.5, 0.35), "b9": (1.6, 0.55)}
    allowed = options_for(nine_ball(State(push_out_allowed=True), **balls), (CLUB, CLUB), GLANCE, 0, 2)
    plain = options_for(nine_ball(**balls), (CLUB, CLUB), GLANCE, 0, 2)
    assert any(option.intent == "push-out" for option in allowed.options)
    assert not any(option.intent == "push-out" for option in plain.options)
    pushes = [option.win for option in allowed.options if option.intent == "push-out"]
    assert max(pushes) <= 0.6  # the opponent takes the better for himself


def test_the_answer_to_a_push_out_is_the_better_of_two():
    """With the same hands one of the two is worth at least as much as it is to the other player."""
    layout = nine_ball(cue=(1.0, 0.5), b1=(2.3, 1.0), b2=(0.5, 0.35), b9=(1.6, 0.55))
    play, back = answer_to_push(outlook(layout, PROFESSIONAL))
    assert play + back == pytest.approx(1.0)
    assert 0 <= play <= 1


def test_a_coachs_own_stroke_is_valued_among_the_others(easy):
    view = outlook(OPEN, SURE)
    best = easy.options[0]
    drawn = valued(view, Task(OPEN, Idea(best.stroke, best.ball, best.pocket), "drawn"), GLANCE)
    assert "drawn" in drawn.also
    assert drawn.win == pytest.approx(easy.options[0].win)
    assert arranged(view, [drawn]).best_attack == 0


def test_nothing_to_play_is_said():
    with pytest.raises(InputError):
        options_for(nine_ball(cue=(0.5, 0.5)), (CLUB, CLUB), GLANCE)


def test_sensitivity_is_read_from_the_same_options(usual):
    curve, best = over_pot(usual), usual.options[usual.best_attack]
    assert curve.attack[0] == pytest.approx(best.value.after_miss)
    assert curve.attack[-1] == pytest.approx(best.value.after_pot)
    assert ten_points_better(usual) >= best.win
    assert against("club", usual).attack == best.win
    assert for_match(usual, 1, 1).attack == pytest.approx(best.win)
    assert abs(for_match(usual, 5, 5).attack - 0.5) < abs(best.win - 0.5)


def test_schools_reorder_and_none_changes_a_number(easy):
    plain = next(school for school in SCHOOLS if school.run == school.left == 0)
    assert order_for(easy, plain) == list(range(len(easy.options)))
    for school in SCHOOLS:
        assert sorted(order_for(easy, school)) == list(range(len(easy.options)))


@pytest.mark.parametrize(("name", "first"), [("by the numbers", 0), ("attack", 1), ("control", 2)])
def test_each_school_prefers_what_it_says(easy, name, first):
    """Of three that are nearly as good one wins most, one keeps more of the run-out alive, one leaves no pot."""
    plain = replace(easy.options[0].value, opponent_next=wilson(50, 100), run=0.2, win=wilson(50, 100))
    values = (
        plain,
        replace(plain, win=wilson(49, 100), run=0.6),
        replace(plain, win=wilson(49, 100), opponent_next=wilson(0, 100)),
    )
    found = replace(easy, options=tuple(replace(easy.options[0], value=value) for value in values))
    assert order_for(found, next(school for school in SCHOOLS if school.name == name))[0] == first
