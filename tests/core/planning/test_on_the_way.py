"""What else a pot of the plan may do: single balls nudged where nothing is risked, and secondary break shots."""

from __future__ import annotations

import math

import numpy as np
import pytest

from aretane.core.layout import Layout, State
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.planning.orders.break_ball import break_map
from aretane.core.planning.plans.nudges import BETTER, HARD, POT_RISKED, WORTH, nudges_on
from aretane.core.planning.plans.on_the_way import moments, struck_in
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.plans.trouble import trouble_on
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import PRESETS
from tests.core.planning.tables import TABLE, nine_ball, outlook

LEAGUE, PROFESSIONAL = PRESETS["league"], PRESETS["professional"]
# The 3 lies on the long rail half-way between the pockets; the 4 goes first and can touch it.
RAILED = {
    "cue": (1.225, 0.445), "1": (0.679, 0.722), "2": (0.818, 0.779), "3": (1.474, 0.03), "4": (1.127, 0.502),
    "8": (1.782, 0.137), "9": (0.449, 0.65), "10": (1.033, 0.835), "11": (0.855, 0.269),
}  # fmt: skip
TIED = {"1": (2.0, 0.62), "2": (2.035, 0.6655), "3": (2.055, 0.61)}  # three in the middle of the foot end


def eight_ball(balls):
    return Layout(TABLE, "eight-ball", balls, State(group="solids"))


def straight_pool(**balls):
    return Layout(TABLE, "straight-pool", {name.removeprefix("b"): place for name, place in balls.items()} | TIED)


def planned(layout, hand=LEAGUE, **more):
    view = outlook(layout, hand)
    return view, plan_for(view, GLANCE, 0, 2, 5, **more)


@pytest.fixture(scope="module")
def railed():
    view, plan = planned(eight_ball(RAILED))
    return view, plan, nudges_on(view, plan)


def test_a_ball_on_the_rail_is_nudged_with_an_earlier_pot(railed):
    _, plan, nudges = railed
    order = [entry.ball for entry in plan.order]
    (nudge,) = nudges
    assert nudge.moved == "3"
    assert order.index(nudge.ball) < order.index("3")
    assert nudge.goes[0] < HARD
    assert nudge.goes[1] > nudge.goes[0] + BETTER
    assert nudge.chance.p >= WORTH
    assert nudge.pot.p >= nudge.surest.p - POT_RISKED - 1e-9, "the pot is not given up for it"
    assert nudge.next.p > 0.5
    assert nudge.met is not None


def test_what_a_nudge_promises_comes_when_it_is_played_again(railed):
    """Other errors than those it was found with; and the moved ball held against the simulated map of it alone,
    which the nudge never saw.
    """
    view, plan, (nudge,) = railed
    moment = next(one for one in moments(view, plan, ("3",)) if one.ball == nudge.ball)
    tries = tries_of(moment.table, nudge.stroke, LEAGUE, 200, 77, ball=nudge.ball)
    played = play_all(moment.table, start_of(moment.table), tries.strokes, lucks=tries.lucks)
    fell = played.fates[:, played.names.index(nudge.ball)] >= 0
    assert fell.mean() > nudge.pot.low - 0.05
    stopped = played.places[fell & (played.fates[:, played.names.index("3")] == -1), played.names.index("3")]

    def goes(place):
        layout = nine_ball(cue=(1.2, 0.6), b9=(float(place[0]), float(place[1])))
        one = outlook(layout, LEAGUE)
        return one.usual(0, one.game.state)

    assert np.mean([goes(place) for place in stopped[:6]]) > goes(RAILED["3"]) + BETTER


def test_nothing_is_nudged_where_all_goes_well_or_for_what_comes_back():
    view, plan = planned(nine_ball(cue=(1.4, 0.5), b7=(2.2, 1.0), b8=(0.4, 1.0), b9=(2.3, 0.3)), PROFESSIONAL)
    assert nudges_on(view, plan) == ()
    assert trouble_on(view, plan, closely=False).nudges == ()


def test_a_cluster_is_opened_and_not_nudged():
    layout = nine_ball(
        cue=(1.55, 0.45), b1=(1.9, 0.8), b2=(0.8, 0.9), b6=(1.35, 1.22), b7=(1.41, 1.2), b9=(2.2, 0.3)
    )
    view, plan = planned(layout)
    assert {nudge.moved for nudge in nudges_on(view, plan)}.isdisjoint({"6", "7"})


def test_a_moment_is_the_table_at_its_turn(railed):
    view, plan, _ = railed
    order = [entry.ball for entry in plan.order]
    for at, moment in enumerate(moments(view, plan, ("3",))):
        assert moment.ball == order[at]
        assert set(moment.table.object_balls) == set(RAILED) - {"cue", *order[:at]}
        assert moment.table.cue == plan.order[at].place
        assert order[at + 1] in moment.following


def test_what_the_white_meets_first_is_told():
    layout = nine_ball(cue=(0.5, 0.6), b8=(1.0, 0.6), b9=(1.3, 0.6))
    from aretane.core.physics.stroke import Stroke

    assert struck_in(layout, Stroke(2.0, 0.0), ("8",))[0] == "8"
    assert struck_in(layout, Stroke(2.0, 0.0), ("9",)) == (None, None), "the 8 drives it"
    assert struck_in(layout, Stroke(2.0, math.pi), ("9",)) == (None, None)


# Secondary break shots


def test_what_the_break_has_left_tied_up_has_its_own_break_shots():
    """Common practice: a ball above a cluster and beside its pocket's line opens it from a small angle on."""
    view, plan = planned(
        straight_pool(cue=(1.3, 0.5), b4=(1.75, 0.35), b5=(0.6, 0.4), b6=(1.85, 0.95), b7=(0.9, 1.1))
    )
    (cluster,) = trouble_on(view, plan, 0, 2).clusters
    assert set(cluster.balls) == {"1", "2", "3"}
    assert cluster.breaks
    for one in cluster.breaks:
        place, pot, opened, follows, _ = one.best()
        assert one.ball in cluster.insurance
        assert set(one.into) == set(cluster.balls)
        assert 0.6 < pot <= 1.0
        assert 1.5 < opened <= 3.0, "no more than the balls of the cluster are counted"
        assert follows > 0.5
        assert one.least_angle is None or 0.0 < one.least_angle < math.radians(45)
        assert 0 < place[0] < TABLE.length
    assert trouble_on(view, plan, 0, 2, closely=False).clusters[0].breaks == ()


def test_a_ball_far_from_the_cluster_opens_it_less():
    near = straight_pool(b6=(1.85, 0.95))
    far = straight_pool(b5=(0.35, 0.2))
    maps = [break_map(layout, ball, LEAGUE, 0, 2, into=tuple(TIED)) for layout, ball in ((near, "6"), (far, "5"))]
    worth = [float((one.pot * one.opened).mean()) for one in maps]
    assert worth[0] > 2 * worth[1]


def test_other_games_have_openings_and_no_break_shots():
    layout = nine_ball(cue=(1.3, 0.5), b4=(1.75, 0.35), b6=(2.0, 0.62), b7=(2.035, 0.6655), b9=(0.5, 0.9))
    view, plan = planned(layout)
    assert [one.breaks for one in trouble_on(view, plan, 0, 2).clusters] == [()]
