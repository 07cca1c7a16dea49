"""Snooker's breaks: reds in every order with any colour, the colours in turn, the pack."""

import itertools

import numpy as np
import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.orders.breaks import LOOSE, breaks_of, usual_points
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import colour_spots, racked
from aretane.core.skill.hand import presets_for
from aretane.core.table import PRESETS

TABLE = PRESETS["snooker-12ft"]
HANDS = presets_for(TABLE)
SPOTS = colour_spots(TABLE)
OPEN = {"red-1": (2.9, 0.6), "red-2": (2.5, 1.2), "red-3": (3.1, 1.3), "red-4": (2.3, 0.5)}


def frame(reds, cue=(2.75, 0.75), **state):
    return Layout(TABLE, "snooker", {"cue": cue, **reds, **SPOTS}, State(**state))


def view_of(layout, level):
    return outlook_for(game_of(layout), (HANDS[level], HANDS[level]), GLANCE, 0, 2)


@pytest.fixture(scope="module")
def open_frame():
    return view_of(frame(OPEN), "professional")


def test_a_break_scores_no_more_than_there_is(open_frame):
    run = open_frame.turn(open_frame.game.state).run
    assert run.max() <= 4 * 8 + 27
    assert run.max() > 20, "a professional on four open reds"


def test_breaks_are_what_such_players_make(open_frame):
    """Common practice: with four open reds and the colours on their spots a club player scores a handful, a
    professional mostly clears them."""
    means = {
        level: view_of(frame(OPEN), level).turn(open_frame.game.state).run.mean() for level in ("beginner", "club")
    }
    professional = open_frame.turn(open_frame.game.state).run.mean()
    assert 0.5 < means["beginner"] < 4
    assert means["beginner"] < means["club"] < 14
    assert 15 < professional < 50


def test_each_further_red_is_worth_something(open_frame):
    breaks = open_frame.breaks[0]
    values = [breaks.reds[(1 << n) - 1].mean() for n in range(1, len(breaks.loose) + 1)]
    assert all(more > less + 1 for less, more in itertools.pairwise(values))


def test_the_colours_in_turn_are_the_sum_of_what_can_still_fall():
    """No red is left: yellow to black; from the black on no more than seven, and with a sure hand nearly that."""
    breaks = breaks_of(frame({}), HANDS["professional"], GLANCE, 0, 2)
    assert list(breaks.turn) == ["yellow", "green", "brown", "blue", "pink", "black"]
    left = {"yellow": 27, "green": 25, "brown": 22, "blue": 18, "pink": 13, "black": 7}
    for colour, points in left.items():
        assert points * 0.5 < breaks.turn[colour].max() <= points + 1e-9


def test_near_the_black_the_black_follows_a_red():
    """Common practice: what pays most of those that go."""
    breaks = breaks_of(frame(OPEN), HANDS["professional"], GLANCE, 0, 2)
    near = np.array([2.9, 0.65])
    at = {colour: float(breaks.grid.at(breaks.by(colour, OPEN), near)) for colour in ("black", "yellow")}
    assert at["black"] > at["yellow"] + 4


def test_a_pack_counts_as_far_as_it_is_struck():
    """Ten reds racked and three apart. Common practice: a professional makes some twenty to forty of it, less than
    of as many lying open, and nothing is sure of the colours, which the three alone would lead to.
    """
    pack = {b: p for b, p in racked(TABLE, "snooker", reds=10).object_balls.items() if b.startswith("red-")}
    apart = {
        f"red-{n}": place for n, place in zip((11, 12, 13), [(2.2, 0.4), (2.9, 1.45), (2.3, 1.35)], strict=True)
    }
    hand = HANDS["professional"]
    packed = breaks_of(frame({**pack, **apart}, (2.0, 0.6)), hand, GLANCE, 0, 2)
    assert set(packed.loose) >= set(apart)
    assert packed.pack == 13 - LOOSE
    points = packed.on_red({**pack, **apart})
    assert 10 < points.mean() < points.max() < usual_points(13, packed.usual, red=True)
    assert packed.stirred({**pack, **apart}, red=True) > packed.stirred(pack, red=True) > 0
    assert packed.stirred(apart, red=True) == 0, "without a pack there is nothing to strike"


def test_points_that_follow_worked_by_hand():
    assert usual_points(0, 1.0, red=True) == 27
    assert usual_points(1, 1.0, red=True) == 1 + 5 + 27
    assert usual_points(1, 1.0, red=False) == 5 + 1 + 5 + 27
    assert usual_points(0, 0.5, red=True) == pytest.approx(
        sum(v * 0.5 ** (k + 1) for k, v in enumerate(range(2, 8)))
    )


def test_a_plan_goes_from_red_to_colour_to_the_black(open_frame):
    plan = plan_for(open_frame, GLANCE, 0, 2, 5)
    balls = [entry.ball for entry in plan.order]
    assert len(balls) == 4 * 2 + 6
    assert all(ball.startswith("red-") for ball in balls[0:8:2])
    assert not any(ball.startswith("red-") for ball in balls[1:8:2])
    assert balls[8:] == ["yellow", "green", "brown", "blue", "pink", "black"]
    assert (plan.break_ball, plan.key_ball, plan.key_chain) == (None, None, ())
    assert plan.instead[0].ball == balls[0]


def test_the_colour_after_the_last_red_leads_to_the_yellow():
    layout = frame({}, on="colour")
    view = view_of(layout, "professional")
    assert set(view.game.on(view.game.state)) == set(SPOTS)
    assert 5 < view.turn(view.game.state).run.max() <= 34
