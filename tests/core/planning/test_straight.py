"""Straight pool: the break shot from every place, orders down to it, expected runs."""

import math
import random
from dataclasses import replace

import numpy as np
import pytest

from aretane.core.layout import Layout, first_overlap
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.orders.break_ball import break_map, racked_again
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import PRESETS
from aretane.core.skill.visits import usual_run
from tests.core.planning.tables import TABLE

MIDDLE = TABLE.width / 2
BESIDE = (TABLE.foot_spot + 0.08, MIDDLE + 0.24)  # a hand's breadth beside the triangle


def strewn(balls, seed):
    dice, places = random.Random(seed), {}
    for name in ["cue", *(str(n) for n in range(1, balls + 1))]:
        while name not in places or first_overlap(Layout(TABLE, "straight-pool", places)):
            places[name] = (dice.uniform(0.1, TABLE.length - 0.1), dice.uniform(0.1, TABLE.width - 0.1))
    return Layout(TABLE, "straight-pool", places)


def view_of(layout, hand):
    return outlook_for(game_of(layout), (hand, hand), GLANCE, 0, 2)


@pytest.fixture(scope="module")
def beside():
    return break_map(racked_again(TABLE, "5", BESIDE), "5", PRESETS["league"], 0, 2)


def test_fourteen_are_racked_without_the_ball_that_opens_them():
    layout = racked_again(TABLE, "5", BESIDE)
    assert layout is not None
    assert len(layout.object_balls) == 15
    nearest = min(
        math.dist(at, (TABLE.foot_spot, MIDDLE)) for ball, at in layout.object_balls.items() if ball != "5"
    )
    assert nearest > TABLE.radius, "the apex stays empty"
    assert racked_again(TABLE, "5", (TABLE.foot_spot + 0.1, MIDDLE)) is None


def test_a_break_ball_needs_an_angle(beside):
    """Common practice: straight on the break ball is useless, from some thirty degrees on the rack opens."""
    corner = np.array(TABLE.pockets["foot-left"].mouth)
    way = (corner - BESIDE) / np.hypot(*(corner - BESIDE))
    worth = beside.pot * np.minimum(beside.opened, 6)
    straight = np.array(BESIDE) - 0.55 * way
    turned = -0.55 * np.array(
        [math.cos(0.6) * way[0] - math.sin(0.6) * way[1], math.sin(0.6) * way[0] + math.cos(0.6) * way[1]]
    )
    back = -0.55 * np.array(
        [math.cos(-0.6) * way[0] - math.sin(-0.6) * way[1], math.sin(-0.6) * way[0] + math.cos(-0.6) * way[1]]
    )
    angled = max(float(beside.grid.at(worth, np.array(BESIDE) + one)) for one in (turned, back))
    assert angled > float(beside.grid.at(worth, straight)) + 0.5
    assert beside.least_angle is not None
    assert beside.least_angle < math.radians(50)


def test_chances_of_a_break_shot_are_chances(beside):
    for values in (beside.pot, beside.follows, beside.scratch):
        assert ((values >= 0) & (values <= 1)).all()
    assert beside.worth(10.0).max() <= 11.0
    assert beside.opened.max() > 5


@pytest.mark.parametrize(
    ("level", "low", "high"), [("beginner", 1, 3), ("club", 3, 9), ("league", 8, 25), ("professional", 25, 70)]
)
def test_runs_from_ball_in_hand_are_what_such_players_do(level, low, high):
    """Common practice: the mean run from ball in hand on an open table of fourteen, with its break shots. The table
    here is smaller (ten balls), which hardly changes it."""
    view = view_of(strewn(10, 3), PRESETS[level])
    turn = view.turn(view.game.state)
    assert low * 0.9 <= np.sort(turn.run, axis=None)[-2:].mean() <= high


def test_the_racks_to_come_bring_what_such_players_run():
    """Common practice; between two levels in proportion, for no hand more than a professional runs."""
    between = replace(PRESETS["league"], aim=math.sqrt(PRESETS["league"].aim * PRESETS["professional"].aim))
    runs = [
        usual_run(hand, TABLE) for hand in (PRESETS["club"], PRESETS["league"], between, PRESETS["professional"])
    ]
    assert runs == pytest.approx([5.0, 12.0, math.sqrt(12.0 * 40.0), 40.0])
    assert usual_run(replace(between, aim=1e-9), TABLE) == pytest.approx(40.0)


def test_the_ball_beside_the_rack_is_kept_for_the_break_shot():
    """Common practice. The others lie in the open, the 4 where the triangle will stand."""
    balls = {"cue": (1.2, 0.4), "4": (TABLE.foot_spot + 0.1, MIDDLE), "5": BESIDE, "6": (0.5, 0.4), "7": (0.9, 1.0)}
    layout = Layout(TABLE, "straight-pool", balls)
    view = view_of(layout, PRESETS["professional"])
    plan = plan_for(view, GLANCE, 0, 2, 10)
    assert plan.break_ball == "5"
    at_best = {one.ball: one.best() for one in plan.break_shots}
    assert at_best["5"][1] > 0.8, "potted from its best place"
    assert at_best["5"][2] > 3, "and the rack is driven apart"
    assert "4" not in at_best, "it lies where the rack will stand"
    assert plan.order[-1].ball == "5"
    assert len(plan.order) == 4
    assert plan.key_ball == plan.order[-2].ball
    assert list(plan.key_chain) == [entry.ball for entry in reversed(plan.order[:-1])]
    assert plan.key_chain[0] == plan.key_ball
    run = {ball: view.run_map(0, ball, view.game.state).mean() for ball in layout.object_balls}
    assert run["5"] == min(run.values()), "to play it now costs most"


def test_the_second_last_ball_is_worth_what_its_stop_is_for_the_break_shot():
    layout = Layout(TABLE, "straight-pool", {"cue": (1.2, 0.4), "5": BESIDE, "6": (0.5, 0.4)})
    view = view_of(layout, PRESETS["league"])
    after = view.game.after_pot(view.game.state, "6")
    assert after.balls == ("5",)
    run = view.turn(after).run
    assert run.max() > run.min() + 3, "from some places the rack is opened, from others it is not"


def test_a_new_rack_is_worth_the_usual_run():
    layout = Layout(TABLE, "straight-pool", {"cue": (1.2, 0.4), "5": BESIDE})
    view = view_of(layout, PRESETS["league"])
    after = view.game.after_pot(view.game.state, "5")
    assert len(after.balls) > 10
    turn = view.turn(after)
    assert turn.run.min() == turn.run.max()
    assert 3 < turn.run.mean() < 30
