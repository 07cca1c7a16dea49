"""Who needs snookers, and what a snooker costs him who is in it."""

from dataclasses import replace

import pytest

from aretane.core.geometry.measured import visible_ball
from aretane.core.layout import Layout, State
from aretane.core.planning.choices.frames import with_points
from aretane.core.planning.choices.option import ATTACK, SAFE
from aretane.core.planning.choices.options import _two_way, options_for, outlook_for
from aretane.core.planning.choices.search import struck_first
from aretane.core.planning.outlook.frame import foul_of, turn_chances
from aretane.core.planning.outlook.outlook import EVEN, LEVEL, game_of, hidden_value
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import colour_spots, racked
from aretane.core.skill.hand import PRESETS, presets_for
from aretane.core.skill.visits import GOES_ON
from aretane.core.statistics.rates import Rate
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import TABLE, nine_ball, outlook

SNOOKER = TABLES["snooker-12ft"]
SPOTS = colour_spots(SNOOKER)
COLOURS = (2, 3, 4, 5, 6, 7)
LEAGUE = presets_for(SNOOKER)["league"]


def behind(points, *names, on):
    balls = {name: SPOTS[name] for name in names or SPOTS}
    state = State(on=on, points={"A": 20, "B": 20 + points})
    return Layout(SNOOKER, "snooker", {"cue": (1.3, 0.5), **balls}, state)


@pytest.fixture(scope="module")
def one_needed():
    return options_for(behind(30, on="yellow"), (LEAGUE, LEAGUE), GLANCE, 0, 2)


def test_who_needs_a_snooker_lays_one_and_leaves_the_balls_on(one_needed):
    """All choices stood at 0.0 % and a soft pot led."""
    best = one_needed.options[0]
    assert best.intent in SAFE
    assert best.value.leaves.hidden.p > 0.3
    sure = [one for one in one_needed.options if one.intent in ATTACK and one.value.pot.p > 0.6]
    assert sure, "the yellow goes"
    assert all(one.win < best.win for one in sure)


def test_a_frame_that_needs_one_snooker_is_still_won_now_and_then(one_needed):
    """Common practice: with one snooker needed on the colours about one frame in ten to thirty; where the yellow
    can be hidden at once more often, never one in four."""
    assert 0.01 < one_needed.options[0].win < 0.25


def test_the_parts_of_a_choice_add_up_where_a_snooker_is_needed(one_needed):
    for one in one_needed.options:
        made, missed, pot = one.value.after_pot, one.value.after_miss, one.value.pot.p
        mixed = pot * (made or 0.0) + (1.0 - pot) * (missed or 0.0)
        assert one.win == pytest.approx(mixed, abs=1e-9)
        assert one.value.win.low <= one.win <= one.value.win.high


def test_each_further_snooker_makes_it_rarer():
    """Behind by 27 with 27 on the table the black is spotted again; then one foul, two, three."""
    for pots in ((GOES_ON["professional"],) * 2, (GOES_ON["club"],) * 2):
        chances = [turn_chances((0, COLOURS, False), lead, pots)[0] for lead in (-26, -27, -31, -35, -39)]
        assert chances == sorted(chances, reverse=True)
        assert chances[2] < 0.15
        assert chances[-1] < 0.02
        mine, theirs = turn_chances((0, COLOURS, False), 0, pots)
        assert mine + turn_chances((0, COLOURS, False), 0, pots)[1] == pytest.approx(1.0, abs=1e-6)
        assert mine > theirs


@pytest.mark.parametrize(
    ("left", "points"),
    [((3, COLOURS, False), 4), ((0, COLOURS, False), 4), ((0, (5, 6, 7), False), 5), ((0, (7,), False), 7)],
)
def test_a_foul_gives_away_the_ball_on_and_four_at_least(left, points):
    """Rule 12."""
    assert foul_of(left) == points


def test_points_of_ones_own_change_nothing_where_snookers_are_needed():
    layout = behind(30, on="yellow")
    view = outlook_for(game_of(layout), (LEAGUE, LEAGUE), GLANCE, 0, 2)
    assert with_points(view, 0.06, 5.0) == 0.06


def test_where_a_miss_is_called_a_snooker_is_worth_more():
    """Rule 14: put back and played again, so that a ball hit one time in three costs two fouls; three at most."""
    layout = behind(0, "pink", "black", on="pink")
    once, again = (
        outlook_for(game_of(layout, {"miss": miss}), (LEAGUE, LEAGUE), GLANCE, 0, 2) for miss in (False, True)
    )
    assert once.escape(1 / 3, LEVEL) == pytest.approx(-LEVEL.open - 4 * 2 / 3)
    assert again.escape(1 / 3, LEVEL) == pytest.approx(-LEVEL.open - 4 * 2)
    assert again.escape(0.0, LEVEL) == -LEVEL.open - 4 * 3
    assert again.escape(1.0, LEVEL) == once.escape(1.0, LEVEL) == -LEVEL.open


def test_in_pool_a_missed_kick_gives_ball_in_hand():
    layout = nine_ball(cue=(0.5, 0.5), b9=(2.0, 0.9))
    view = outlook(layout, PRESETS["club"])
    assert view.escape(0.25, EVEN) == pytest.approx(0.25 * (1 - EVEN.open) + 0.75 * (1 - EVEN.in_hand))
    assert hidden_value(view.scale, EVEN) == view.escape(0.5, EVEN)


def test_at_straight_pool_few_balls_without_a_break_ball_are_worth_little_to_both():
    """A player who leaves the last two balls leaves next to nothing; he was told to be three balls ahead by it."""
    two = Layout(TABLE, "straight-pool", {"cue": (1.2, 0.6), "6": (0.5, 0.4), "7": (1.7, 0.3)})
    full = {str(n): (0.3 + 0.21 * (n % 7), 0.25 + 0.7 * (n // 7)) for n in range(1, 11)}
    many = Layout(TABLE, "straight-pool", {"cue": (1.2, 0.6), **full})
    hand = PRESETS["league"]
    few, lots = (outlook_for(game_of(one), (hand, hand), GLANCE, 0, 2) for one in (two, many))
    worth = [view.turn(view.game.state).standing for view in (few, lots)]
    assert abs(worth[0].guarded) < 2.0
    assert worth[0].open < worth[1].open


def test_off_the_full_pack_the_white_can_come_back_to_baulk():
    """Common practice: the usual safety hits an end red, and the cue ball returns over two rails or more behind the
    baulk line. It was never among the choices: soft hits only were tried where many balls are on."""
    pack = {ball: at for ball, at in racked(SNOOKER, "snooker").object_balls.items() if ball.startswith("red-")}
    layout = Layout(SNOOKER, "snooker", {"cue": (0.5, 0.4), **pack, **SPOTS}, State(on="red"))
    found = options_for(layout, (LEAGUE, LEAGUE), GLANCE, 0, 2).options
    baulk = [one for one in found if one.intent in SAFE and one.path[-1][0] < SNOOKER.head_line and one.rails >= 2]
    assert baulk
    best = max(baulk, key=lambda one: one.win)
    assert best.value.foul.p < 0.1
    assert best.value.leaves.pot < 0.5, "a long red at best"
    assert best.win > found[0].win - 0.1


def test_of_many_balls_only_those_that_can_be_met_are_struck():
    pack = racked(SNOOKER, "snooker").object_balls
    layout = Layout(SNOOKER, "snooker", {"cue": (0.5, 0.4), **pack}, State(on="red"))
    reds = [ball for ball in pack if ball.startswith("red-")]
    first = struck_first(layout, reds)
    assert 2 <= len(first) < len(reds)
    assert all(visible_ball(layout, ball) > 0.0 for ball in first)
    hidden = layout.placed("cue", (0.05, 1.72))
    assert struck_first(hidden, [reds[-1]]) == (reds[-1],), "kicks and raised cues still find it"


@pytest.mark.parametrize(
    ("pot", "leaves", "intent"), [(0.05, 0.0, "containing"), (0.4, 0.0, "two-way"), (0.05, -0.2, "attack")]
)
def test_a_pot_that_hardly_ever_goes_is_the_safety_that_it_leaves(one_needed, pot, leaves, intent):
    safest = 0.3
    attack = next(one for one in one_needed.options if one.intent in ATTACK)
    value = replace(attack.value, pot=Rate(pot, 0.0, 1.0, 100), after_miss=safest + leaves, leaves=None)
    told = _two_way(replace(attack, intent="attack", value=value), safest)
    assert told.intent == intent
    assert (told.ball is None) == (intent == "containing")
