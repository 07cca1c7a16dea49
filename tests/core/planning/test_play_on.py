"""Racks played on, the compiled windows against the textbook's, and the plain stroke first."""

import math
import random
from dataclasses import replace

import numpy as np
import pytest

from aretane.core.geometry.pocket_window import pocket_window
from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import options_for, outlook_for
from aretane.core.planning.choices.plain import plain_first, plainness, told_apart
from aretane.core.planning.choices.played import played_on, racks_from
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.outlook.play_on import Racks, seeds_of
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.pots import NARROWEST, all_windows
from aretane.core.planning.pots.strokes import COARSE, GLANCE
from aretane.core.skill.hand import PRESETS
from aretane.core.table import POCKETS
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import NO_ERROR, TABLE, nine_ball, outlook

PROFESSIONAL, CLUB = PRESETS["professional"], PRESETS["club"]
THREE = {"cue": (1.5, 0.5), "b7": (0.6, 0.3), "b8": (2.0, 0.9), "b9": (1.2, 1.05)}


@pytest.mark.parametrize("seed", range(12))
def test_compiled_windows_are_the_textbooks(seed):
    dice = random.Random(seed)
    balls = {str(n): (dice.uniform(0.05, 2.49), dice.uniform(0.05, 1.22)) for n in range(1, 10)}
    layout = Layout(TABLE, "nine-ball", {"cue": (1.0, 0.6), **balls})
    for ball, windows in all_windows(layout).items():
        others = {name: place for name, place in balls.items() if name != ball}
        reach = dict.fromkeys(others, 2 * TABLE.radius)
        for name in POCKETS:
            slow = pocket_window(balls[ball], TABLE.pockets[name], others, TABLE.radius, reach)
            fast = next((one for one in windows if one.pocket == name), None)
            if slow.widest is None or slow.widest[1] - slow.widest[0] <= NARROWEST:
                assert fast is None
            else:
                assert fast is not None
                assert math.remainder(fast.low - slow.widest[0], 2 * math.pi) == pytest.approx(0, abs=1e-9)
                assert fast.high - fast.low == pytest.approx(slow.widest[1] - slow.widest[0], abs=1e-9)
                assert fast.open == pytest.approx(slow.open, abs=1e-9)


def test_the_same_seed_plays_the_same_racks_on_any_number_of_threads():
    layout = nine_ball(**THREE)
    racks = Racks(outlook(layout, CLUB), layout)
    one, two, other = racks.wins_of(48, 5, 1), racks.wins_of(48, 5, 2), racks.wins_of(48, 6, 2)
    assert one == two
    assert one.n == other.n == 48
    assert len(set(seeds_of(48, 5)) & set(seeds_of(48, 6))) == 0


def test_a_hand_without_error_clears_what_lies_open():
    layout = nine_ball(**THREE)
    assert Racks(outlook(layout, NO_ERROR), layout).run_outs(4).p == 1.0


def test_a_better_hand_runs_out_and_wins_more():
    layout = nine_ball(**THREE)
    good, weak = (Racks(outlook(layout, hand, PROFESSIONAL), layout) for hand in (PROFESSIONAL, CLUB))
    assert good.run_outs(200, 0, 2).low > weak.run_outs(200, 0, 2).high
    assert good.wins_of(150, 0, 2).low > weak.wins_of(150, 0, 2).p


def test_nobody_runs_out_from_behind_a_ball():
    layout = nine_ball(cue=(0.4, 0.4), b9=(0.46, 0.43), b8=(2.2, 1.2))
    racks = Racks(outlook(layout, PROFESSIONAL), layout)
    assert racks.run_outs(40).p == 0.0
    assert 0.0 < racks.wins_of(60, 0, 2).p < 1.0


def test_a_full_table_is_worth_what_is_played_and_not_what_the_map_promises():
    """The map of a full rack promised .96 where racks played to the end gave .63: balls that a shot moves are
    the cause.
    """
    dice = random.Random(100)
    places = {}
    while len(places) < 9:
        place = dice.uniform(0.06, 2.48), dice.uniform(0.06, 1.21)
        if all(math.dist(place, other) > 0.08 for other in places.values()):
            places[str(len(places) + 1)] = place
    layout = Layout(TABLE, "nine-ball", {"cue": (1.3, 0.62), **places})
    view = outlook(layout, PROFESSIONAL)
    plan = plan_for(view, GLANCE, tries=200, threads=2)
    played = Racks(view, layout).run_outs(300, 99, 2)
    assert abs(plan.run_out.p - played.p) < 0.12
    if plan.order[0].value.p:
        assert plan.order[0].value.p == pytest.approx(max(plan.run_out.p, 0.0025), abs=0.02)


@pytest.fixture(scope="module")
def found():
    return options_for(nine_ball(**THREE), (PROFESSIONAL, PROFESSIONAL), GLANCE, 0, 2)


def test_one_entry_for_each_idea(found):
    keys = [(o.struck, o.ball, o.pocket, o.kind, o.route, o.intent in ("attack", "two-way")) for o in found.options]
    assert len(keys) == len(set(keys))


def test_what_is_worth_the_same_stands_first_and_the_plainest_leads(found):
    best = max(found.options, key=lambda one: one.win)
    level = [one for one in found.options if not told_apart(best, one)]
    assert list(found.options[: len(level)]) == sorted(level, key=plainness)
    rest = [one.win for one in found.options[len(level) :]]
    assert rest == sorted(rest, reverse=True)


def test_side_for_nothing_never_leads(found):
    """Of strokes that are worth the same the list put one with needless side first."""
    leading = found.options[0]
    best = max(found.options, key=lambda one: one.win)
    for other in found.options:
        if not told_apart(best, other):
            assert abs(leading.stroke.side) <= abs(other.stroke.side) + 0.05
    assert plain_first([]) == []


def test_side_says_what_it_buys(found):
    strokes = [one for one in found.options if abs(one.stroke.side) >= 0.15 and one.ball is not None]
    for one in strokes:
        assert "-hand side:" in one.why


def test_played_values_say_so_and_carry_the_maps_error():
    layout = nine_ball(**THREE)
    view = outlook(layout, PROFESSIONAL)
    options = options_for(layout, view.hands, GLANCE, 0, 2).options
    played = played_on(view, options, lambda one: racks_from(view, one, 64, 1, 2))
    assert all(one.value.played == 0 for one in options)
    best = max(range(len(options)), key=lambda i: options[i].win)
    assert played[best].value.played == 64
    assert played[best].value.win.high - played[best].value.win.low > 0.02
    assert COARSE.played > 0


def test_a_cue_ball_on_the_rail_is_offered_only_what_can_be_reached():
    layout = nine_ball(cue=(0.0286, 0.6), b9=(1.2, 0.7))
    options = options_for(layout, (CLUB, CLUB), GLANCE, 0, 2).options
    raised = [one for one in options if math.cos(one.stroke.aim) > 0.5]
    assert raised
    assert all(one.stroke.elevation > 0.0 for one in raised)
    assert any("cue raised" in one.why for one in raised)
    assert np.isfinite([one.win for one in options]).all()


def test_a_free_shot_at_any_ball_is_not_played_at_the_black():
    """Two own balls are left and the black hangs: to pot it now would lose the frame at once (blackball rules)."""
    layout = Layout(
        TABLES["blackball-7ft"], "blackball",
        {
            "cue": (0.9, 0.5), "red-1": (1.6, 0.25), "red-2": (0.4, 0.7), "yellow-1": (1.2, 0.85),
            "black": (1.76, 0.08),
        },
        State(group="reds"),
    )  # fmt: skip
    game = game_of(layout)
    free = replace(game, state=replace(game.state, free_shot=True))
    won = outlook_for(free, (PROFESSIONAL, PROFESSIONAL), GLANCE).racks(layout).wins_of(40)
    assert won.p > 0.6
