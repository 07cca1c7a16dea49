"""Plans: the order, its key shot, what stands in the way; every discipline."""

import pytest

from aretane.core.layout import Layout, State
from aretane.core.physics.hit import met_at
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.options import options_for
from aretane.core.planning.outlook.equity import attack_value
from aretane.core.planning.outlook.strength import freedom
from aretane.core.planning.plans.plan import key_shot, plan_for, who_could_run
from aretane.core.planning.plans.trouble import trouble_on
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import SURE, TABLE, nine_ball, outlook


def planned(layout, hand=SURE, tries=20):
    view = outlook(layout, hand)
    return view, plan_for(view, GLANCE, 0, 2, tries)


def test_a_rotation_plan_names_every_ball_in_order():
    _, plan = planned(nine_ball(cue=(1.2, 0.5), b3=(1.9, 0.9), b7=(0.7, 0.95), b9=(2.1, 0.4)))
    assert [entry.ball for entry in plan.order] == ["3", "7", "9"]
    assert plan.key_ball is None, "the order is given: no ball is kept"
    assert plan.key_chain == ()
    values = [entry.value.p for entry in plan.order]
    assert values[0] <= values[1] + 0.1
    assert all(entry.zone is None or entry.zone.area > 0 for entry in plan.order)
    assert plan.order[0].place == (1.2, 0.5)
    assert plan.key_shot == key_shot(list(plan.order))
    assert plan.run_out.n == 20
    assert all(entry.value.p <= entry.pot for entry in plan.order), "nobody finishes more often than he pots"
    assert values[0] == pytest.approx(plan.run_out.p, abs=0.03)


EIGHT = {"cue": (1.2, 0.5), "2": (1.9, 0.9), "8": (0.6, 0.9), "12": (1.2, 1.1)}
BLACK = {"cue": (0.9, 0.4), "red-1": (1.4, 0.6), "black": (0.5, 0.6)}
COLOURS = {"cue": (2.6, 0.7), "red-1": (3.0, 0.6), "pink": (2.676, 0.889), "black": (3.245, 0.889)}
THREE = {"cue": (1.4, 0.4), "1": (1.9, 0.9), "2": (1.1, 1.0), "3": (1.9, 0.42)}
GAMES = {
    "eight-ball": ("pool-9ft", EIGHT, {"group": "solids"}, ["2", "8"]),
    "blackball": ("blackball-7ft", BLACK, {"group": "reds"}, ["red-1", "black"]),
    "snooker": ("snooker-12ft", COLOURS, {}, None),
    "straight-pool": ("pool-9ft", THREE, {}, None),
}


@pytest.mark.parametrize("discipline", GAMES)
def test_every_discipline_has_a_plan_to_its_end(discipline):
    table, balls, state, order = GAMES[discipline]
    layout = Layout(TABLES[table], discipline, balls, State(**state))
    view, plan = planned(layout, tries=10)
    names = [entry.ball for entry in plan.order]
    if order:
        assert names == order
    elif discipline == "snooker":
        assert names[0] == "red-1"
        assert names[1] in ("pink", "black")
        assert names[2:] == ["pink", "black"]
    else:
        assert set(names) == {"1", "2", "3"}
        assert plan.break_ball == names[-1]
    assert view.horizon
    assert plan.horizon == view.horizon


def test_hidden_from_every_ball_there_is_no_way_and_it_is_said():
    _, plan = planned(nine_ball(cue=(0.3, 0.3), b7=(0.37, 0.36), b1=(2.2, 1.1)), tries=10)
    assert plan.order[0].ball == "1"
    assert plan.order[0].stroke is None
    assert plan.run_out.p == 0
    assert plan.key_shot == 0


def test_a_better_hand_runs_out_more_often():
    layout = nine_ball(cue=(1.4, 0.5), b7=(1.9, 0.9), b8=(0.9, 1.0), b9=(0.6, 0.4))
    rates = [who_could_run(outlook(layout, hand), 60, 0, 2).p for hand in (PRESETS["beginner"], SURE)]
    assert rates[0] < rates[1]


def test_break_out_while_there_are_balls_to_do_it_from():
    """Common practice: a cluster is opened from an earlier ball; the plan counts the chances and what they are
    worth.
    """
    layout = nine_ball(
        cue=(1.55, 0.45), b1=(1.9, 0.8), b2=(0.8, 0.9), b6=(1.35, 1.22), b7=(1.41, 1.2), b9=(2.2, 0.3)
    )
    view, plan = planned(layout, tries=5)
    trouble = trouble_on(view, plan, 0)
    (cluster,) = trouble.clusters
    assert set(cluster.balls) == {"6", "7"}
    assert cluster.needed == "6"
    assert {opening.ball for opening in cluster.openings} <= {"1", "2"}
    fails = 1.0
    for opening in cluster.openings:
        assert 0 < opening.chance.p <= 1
        assert opening.struck in (None, "6", "7")
        assert opening.met is None or 0 <= opening.met.fullness <= 1
        assert opening.next.n == round(opening.chance.p * opening.chance.n)
        fails *= 1 - opening.chance.p
    assert cluster.any_works == pytest.approx(1 - fails)


def test_how_a_ball_of_the_cluster_is_met():
    """The cue ball comes along x: a ball left of its way is met on its right; half a ball off is half full."""
    layout = nine_ball(cue=(0.5, 0.6), b9=(1.5, 0.6 + TABLE.radius))
    shot = simulate(layout, Stroke(aim=0.0, speed=2.0))
    contact = next(event for event in shot.events if event.kind == "contact")
    met = met_at(layout, shot, contact.t, "9")
    assert met.side == "right"
    assert met.fullness == pytest.approx(0.5, abs=0.01)


def test_freedom_falls_when_a_ball_is_shut_in():
    free = freedom(nine_ball(b9=(2.2, 1.0)), "9")
    shut = freedom(nine_ball(b9=(2.2, 1.0), b3=(2.27, 1.07), b4=(2.1, 1.0), b5=(2.25, 0.9)), "9")
    assert shut < free <= 1


def test_a_frames_chances_are_made_of_what_follows_too():
    layout = Layout(TABLES["snooker-12ft"], "snooker", COLOURS)
    for option in options_for(layout, (PRESETS["league"], PRESETS["league"]), GLANCE, 0, 2).options:
        value = option.value
        assert 0 <= value.win.low <= value.win.p <= value.win.high <= 1
        if value.after_pot is not None and value.after_miss is not None:
            mixed = attack_value(value.pot.p, value.after_pot, value.after_miss)
            assert value.win.p == pytest.approx(mixed)
