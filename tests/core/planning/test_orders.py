"""Free order: one simulation for many tables, every order at once, two players' exchange, racks played on."""

import itertools
import math

import numpy as np
import pytest

from aretane.core.layout import Layout, State
from aretane.core.physics.shot import simulate
from aretane.core.planning.choices.options import options_for, outlook_for
from aretane.core.planning.choices.search import pot_ideas
from aretane.core.planning.orders.exchange import SHARES, Side, exchange, side_of
from aretane.core.planning.orders.pattern import pattern_of
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import COARSE, GLANCE, draws_of
from aretane.core.planning.pots.touch_kernel import BLOCKED
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import SURE, TABLE, nine_ball, outlook

CLUB, PROFESSIONAL = PRESETS["club"], PRESETS["professional"]
SOLIDS = State(group="solids")


def eight_ball(state=SOLIDS, **balls):
    places = {name.removeprefix("b"): place for name, place in balls.items() if name != "cue"}
    return Layout(TABLE, "eight-ball", {"cue": balls.get("cue", (1.3, 0.5)), **places}, state)


def view_of(layout, hand=SURE, other=None, effort=GLANCE):
    return outlook_for(game_of(layout), (hand, other or hand), effort, 0, 2)


def planned(layout, hand=SURE, effort=GLANCE, tries=20):
    return plan_for(view_of(layout, hand, effort=effort), effort, 0, 2, tries)


def test_a_ball_that_is_not_there_is_met_where_it_would_have_been_moved():
    """The simulator with the ball on the table is the oracle, over some thousand strokes with errors."""
    away = eight_ball(b2=(1.9, 0.9))
    there = away.placed("5", (1.62, 0.66))
    places = np.random.default_rng(1).uniform((0.2, 0.2), (1.5, 1.1), (120, 2))
    places = places[np.hypot(*(places - (1.62, 0.66)).T) > 0.1]
    ground, full = Ground(away), Ground(there)
    pots = ground.pots("2", places, GLANCE.strokes)
    draws = draws_of(16, 3)
    absent = np.array([[1.62, 0.66, TABLE.radius]])
    told = ground.sampled(pots, PROFESSIONAL, draws, absent).touched
    seen = full.sampled(pots, PROFESSIONAL, draws).disturbed
    assert len(told) > 300
    assert ((told & 1).astype(bool) == seen).mean() > 0.97
    blocked = (told >> BLOCKED).astype(bool)
    made = full.sampled(pots, PROFESSIONAL, draws).weights > 0
    assert made[blocked].mean() < 0.05, "a ball in the way of the pot spoils it"
    assert made[~blocked].mean() > 0.4
    assert 0.02 < seen.mean() < 0.9


def test_two_balls_are_worth_what_the_same_two_are_in_rotation():
    """One own ball and the eight: there is one order, and rotation's maps are the oracle. Here strokes are chosen
    by half as many samples, which costs two points.
    """
    pattern = pattern_of(eight_ball(b2=(1.9, 0.9), b8=(0.7, 1.0)), ["2"], "8", PROFESSIONAL, COARSE, 0, 2)
    stage = outlook(nine_ball(b8=(1.9, 0.9), b9=(0.7, 1.0)), PROFESSIONAL, effort=COARSE).stages["8"]
    off = pattern.run[1] - stage.run[0].value
    assert abs(off.mean()) < 0.03
    assert np.abs(pattern.grid.blurred(off, 0.25)).mean() < 0.06


def test_no_order_is_better_than_all_of_them():
    """Brute force: each order of three balls and the last as a rotation game of its own. At every place the whole
    search comes up to the best of the six, and is hardly above it (it may go on differently after each stop).
    """
    places = {"a": (1.9, 0.9), "b": (0.6, 0.35), "c": (1.3, 1.1)}
    layout = eight_ball(b1=places["a"], b2=places["b"], b3=places["c"], b8=(2.2, 0.4))
    pattern = pattern_of(layout, ["1", "2", "3"], "8", PROFESSIONAL, COARSE, 0, 2)
    orders = [
        outlook(
            nine_ball(**dict(zip(("b6", "b7", "b8"), (places[one] for one in order), strict=True)), b9=(2.2, 0.4)),
            PROFESSIONAL, effort=GLANCE,
        ).stages["6"].run[0].value.max()
        for order in itertools.permutations(places)
    ]  # fmt: skip
    assert pattern.run[-1].max() > max(orders) - 0.06
    assert pattern.run[-1].mean() <= 1.0
    assert pattern.run[-1].max() < max(orders) + 0.1


def test_fewer_balls_are_never_harder_when_none_is_in_the_way():
    pattern = pattern_of(
        eight_ball(b1=(1.9, 0.9), b2=(0.6, 0.35), b3=(1.3, 1.1), b8=(2.2, 0.4)), ["1", "2", "3"], "8", CLUB, GLANCE
    )
    for left in range(1, 8):
        for ball in range(3):
            if left >> ball & 1:
                assert pattern.run[left].max() <= pattern.run[left ^ (1 << ball)].max() + 0.05


def test_each_stage_of_a_pattern_is_the_best_of_its_balls():
    pattern = pattern_of(
        eight_ball(b1=(1.9, 0.9), b2=(0.6, 0.35), b8=(2.2, 0.4)), ["1", "2"], "8", PROFESSIONAL, GLANCE
    )
    by_ball = [pattern.run_by(ball, ("1", "2")) for ball in ("1", "2")]
    best = np.maximum(*by_ball)
    assert (pattern.run[3] <= best + 0.08).all()
    assert np.abs(pattern.run[3] - best).mean() < 0.03
    assert np.array_equal(pattern.run_by("8", ()), pattern.run[0])


def test_a_ball_that_blocks_is_played_first():
    """Proved by hand: the 2 stands behind the 5 in the jaws of the only pocket it goes to from there; the other
    five are shut by balls of the opponent's.
    """
    x, y = TABLE.length, TABLE.width
    guards = {
        "b9": (0.06, 0.06), "b10": (0.06, y - 0.06), "b11": (x - 0.06, 0.06), "b12": (x / 2, 0.03),
        "b13": (x / 2, y - 0.03),
    }  # fmt: skip
    layout = eight_ball(cue=(1.6, 0.5), b2=(2.2, 0.95), b5=(2.44, 1.17), b8=(2.0, 0.6), **guards)
    plan = planned(layout)
    assert [entry.ball for entry in plan.order] == ["5", "2", "8"]


def test_a_chain_that_works_in_one_order_only():
    """Proved by hand: both own balls sit one behind the other in a row before one open pocket, all
    others are shut.
    """
    x, y = TABLE.length, TABLE.width
    guards = {
        "b9": (0.06, 0.06), "b10": (0.06, y - 0.06), "b11": (x - 0.06, 0.06), "b12": (x / 2, 0.03),
        "b13": (x / 2, y - 0.03),
    }  # fmt: skip
    layout = eight_ball(cue=(1.3, 0.4), b1=(2.0, 0.75), b3=(2.2, 0.95), b6=(2.35, 1.09), b8=(1.7, 0.45), **guards)
    plan = planned(layout)
    assert [entry.ball for entry in plan.order] == ["6", "3", "1", "8"]


def test_an_exchange_of_two_alike_worked_by_hand():
    """One ball each, the same chance r from everywhere: g = r + (1 - r)(1 - g), so g = 1 / (2 - r)."""
    for r in (0.2, 0.6, 0.9):
        run = np.full((2, SHARES), r)
        run[0] = 1.0
        side = Side(run, np.array([[0.0, 0.0], [0.0, 1.0]]))
        mine, theirs = exchange(side, side)
        assert mine.open[1, 1] == pytest.approx(1 / (2 - r), abs=1e-3)
        assert theirs.open[1, 1] == pytest.approx(mine.open[1, 1])
        assert mine.broken[1, 1] == pytest.approx(1 - mine.open[1, 1], abs=1e-3)


def test_standings_of_both_sides_are_in_their_order():
    layout = eight_ball(b1=(1.9, 0.9), b2=(0.6, 0.35), b9=(1.3, 1.1), b10=(0.4, 0.9), b8=(2.2, 0.4))
    view = view_of(layout, CLUB, PROFESSIONAL)
    for state in (view.game.state, view.game.passed(view.game.state)):
        one = view.turn(state).standing
        assert one.safe <= one.guarded <= one.open <= one.in_hand
        assert one.hidden <= one.open
    mine, theirs = (view.turn(one).standing.open for one in (view.game.state, view.game.passed(view.game.state)))
    assert theirs > mine, "the better hand has more of the same table"


def test_a_side_knows_where_runs_break_down():
    pattern = pattern_of(eight_ball(b1=(1.9, 0.9), b2=(0.6, 0.35), b8=(2.2, 0.4)), ["1", "2"], "8", CLUB, GLANCE)
    side = side_of(pattern)
    assert side.breaks[1:].sum(axis=1) == pytest.approx(1.0)
    assert (np.triu(side.breaks, 1) == 0).all(), "no run breaks down with more balls than it began with"
    assert (np.diff(side.run, axis=1) >= 0).all()


def test_racks_played_on_are_won_more_often_by_the_better_hand():
    layout = eight_ball(cue=(1.3, 0.5), b1=(1.9, 0.9), b2=(0.6, 0.35), b9=(1.3, 1.1), b10=(0.4, 0.9), b8=(2.2, 0.4))
    won = [view_of(layout, *hands).racks(layout).wins_of(60, 1, 2).p for hands in ((CLUB, SURE), (SURE, CLUB))]
    assert won[0] < won[1]
    ran = view_of(layout, SURE).racks(layout).run_outs(60, 1, 2)
    assert ran.p > 0.7
    assert view_of(layout, CLUB).racks(layout).run_outs(60, 1, 2).p < ran.p


def test_a_rack_played_on_is_the_same_for_one_thread_and_two():
    layout = eight_ball(cue=(1.3, 0.5), b1=(1.9, 0.9), b9=(1.3, 1.1), b8=(2.2, 0.4))
    racks = view_of(layout, CLUB).racks(layout)
    assert racks.wins_of(24, 5, 1) == racks.wins_of(24, 5, 2)
    whole, parts = racks.wins_of(24, 5), [racks.wins_of(24, 5, piece=slice(at, at + 12)) for at in (0, 12)]
    assert whole.p == pytest.approx(sum(part.p for part in parts) / 2)


def test_of_two_groups_the_one_without_a_problem_ball():
    """Common practice, where playing out separates the two by far: the stripes' last two are frozen on a rail."""
    free = {"b1": (2.2, 0.95), "b2": (0.4, 0.9), "b3": (2.1, 0.35), "b4": (0.45, 0.4)}
    shut = {"b9": (1.0, 0.63), "b10": (1.6, 0.9), "b11": (1.27 + 0.35, 0.0286), "b12": (1.27 + 0.407, 0.0286)}
    layout = eight_ball(State(), cue=(1.3, 0.6), b8=(1.9, 0.7), **free, **shut)
    view = view_of(layout, PROFESSIONAL)
    runs = [view.patterns[0][sort].run_of(layout.object_balls).mean() for sort in (0, 1)]
    assert runs[0] > runs[1] + 0.1
    assert planned(layout, PROFESSIONAL).order[0].ball in ("1", "2", "3", "4")
    assert view.turn(view.game.state).run.max() >= runs[0]


def test_an_open_table_is_not_won_before_it_is_played():
    """Common practice: fifteen strewn balls and a club player, who may clear one table in ten: the rack is open."""
    dice = np.random.default_rng(3)
    balls = {}
    for name in ["cue", *(str(n) for n in range(1, 16))]:
        while name not in balls or any(
            math.dist(balls[name], at) < 0.12 for other, at in balls.items() if other != name
        ):
            balls[name] = tuple(dice.uniform((0.15, 0.15), (TABLE.length - 0.15, TABLE.width - 0.15)))
    layout = Layout(TABLE, "eight-ball", balls)
    found = options_for(layout, (CLUB, CLUB), GLANCE, 0, 2)
    assert all(0.2 < option.win < 0.85 for option in found.options[:6])


def test_blackball_is_played_with_its_own_rules():
    balls = {"cue": (0.9, 0.4), "red-1": (1.4, 0.6), "yellow-1": (0.5, 0.7), "black": (0.5, 0.5)}
    layout = Layout(TABLES["blackball-7ft"], "blackball", balls, State(group="reds"))
    view = outlook_for(game_of(layout), (SURE, SURE), GLANCE, 0, 2)
    racks = view.racks(layout)
    assert racks.rules[1:3] == [1, 1]
    assert racks.line == pytest.approx(layout.table.head_line)
    assert racks.run_outs(40, 1, 2).p > 0.5


def test_maps_are_blurred_alike_one_by_one_and_all_at_once():
    pattern = pattern_of(eight_ball(b1=(1.9, 0.9), b8=(2.2, 0.4)), ["1"], "8", CLUB, GLANCE)
    every = pattern.grid.all_blurred(pattern.run, 0.06)
    for one, blurred in zip(pattern.run, every, strict=True):
        assert np.allclose(pattern.grid.blurred(one, 0.06), blurred)


def test_every_ball_that_is_on_has_its_own_map():
    layout = eight_ball(b1=(1.9, 0.9), b2=(0.6, 0.35), b9=(1.3, 1.1), b8=(2.2, 0.4))
    view = view_of(layout, CLUB)
    maps = {ball: (run, win) for ball, run, win in view.maps()}
    assert set(maps) == {None, "1", "2"}
    for ball in ("1", "2"):
        run, win = maps[ball]
        assert (run <= maps[None][0] + 0.1).all(), "no ball is better than the best"
        assert (win >= run).all()
        assert win.max() <= 1.0


def test_a_layout_without_its_last_ball_ends_with_the_group():
    layout = eight_ball(cue=(1.3, 0.5), b1=(1.9, 0.9), b9=(1.3, 1.1))
    view = view_of(layout)
    assert view.racks(layout).wins_of(20, 1).p > 0.8
    assert [entry.ball for entry in planned(layout).order] == ["1"]


CLUSTER = {"b3": (1.3, 1.0), "b4": (1.355, 1.0)}  # frozen, in the open, neither with a pocket of its own
EARLY = {"cue": (0.75, 0.85), "b1": (0.35, 1.05), "b2": (2.2, 0.3), "b8": (0.6, 0.3), **CLUSTER}


def test_a_cluster_is_worth_more_once_it_is_struck():
    """Common practice: a cluster that stays is a rack that is lost; struck, it opens about half of the time."""
    open_ = {**EARLY, "b4": (1.6, 0.4)}
    shut, free = (view_of(eight_ball(**balls), PROFESSIONAL) for balls in (EARLY, open_))
    tied, strewn = (one.patterns[0][0].run[-1].mean() for one in (shut, free))
    assert 0.02 < tied < strewn - 0.1
    assert shut.stirred(shut.game.after_pot(shut.game.state, "1")) > tied
    assert shut.stirred(shut.game.after_pot(shut.game.after_pot(shut.game.state, "3"), "4")) == 0.0


def test_a_stroke_into_the_cluster_is_among_the_choices():
    layout = eight_ball(**EARLY)
    strikes = Ground(layout).pots("1", np.array([layout.cue]), COARSE.strokes).moves
    found = pot_ideas(view_of(layout, PROFESSIONAL), layout, COARSE, 9)
    moved = [simulate(layout, idea.stroke).final.balls.get("3") != layout.balls["3"] for idea in found]
    assert strikes.any()
    assert any(moved)
