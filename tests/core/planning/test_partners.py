"""Two partners who take every second stroke, and players whom nobody plays against."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.layout import Layout, State
from aretane.core.planning.choices.option import ATTACK
from aretane.core.planning.choices.options import options_for, outlook_for
from aretane.core.planning.choices.played import racks_from
from aretane.core.planning.orders.breaks import breaks_of
from aretane.core.planning.orders.pattern import pattern_of, run_of_all
from aretane.core.planning.outlook.outlook import game_of, shown_maps
from aretane.core.planning.outlook.play_on import Racks
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rules.snooker import is_red
from aretane.core.skill.hand import PRESETS, hand_as_data, hand_from, presets_for
from aretane.core.skill.visits import GOES_ON, goes_on
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import TABLE, nine_ball, outlook

SURE, SHAKY = PRESETS["professional"], PRESETS["beginner"]
BOTH, TURNED = replace(SURE, partner=SHAKY), replace(SHAKY, partner=SURE)
TWO = {"cue": (0.7, 0.5), "b6": (0.6, 1.0), "b9": (2.2, 0.4)}
THREE = {**TWO, "b4": (1.9, 0.9)}
EIGHT = {"cue": (0.7, 0.5), "1": (1.9, 0.9), "2": (0.6, 1.0), "8": (2.2, 0.4)}
SPOTS = {"black": (3.245, 0.889), "pink": (2.6795, 0.889), "blue": (1.7845, 0.889)}


def eight_ball():
    return Layout(TABLE, "eight-ball", EIGHT, State(group="solids"))


def snooker(on, **reds):
    places = {name.replace("_", "-"): place for name, place in reds.items()}
    return Layout(TABLES["snooker-12ft"], "snooker", {"cue": (2.2, 0.6), **places, **SPOTS}, State(on=on))


# Hands


def test_partners_take_turns():
    assert [BOTH.turn(n).aim for n in range(4)] == [SURE.aim, SHAKY.aim, SURE.aim, SHAKY.aim]
    assert BOTH.turn(1) == TURNED
    assert SURE.turn(1) is SURE


def test_two_names_are_two_hands_and_are_written_as_such():
    both = hand_from("professional+beginner", TABLE)
    assert both == BOTH
    again = hand_from(hand_as_data(both), TABLE)
    assert (again.aim, again.partner.aim) == (pytest.approx(SURE.aim), pytest.approx(SHAKY.aim))
    assert "partner" not in hand_as_data(SURE)
    assert hand_from({**hand_as_data(SURE), "partner": "club"}, TABLE).partner == PRESETS["club"]


@pytest.mark.parametrize(
    ("said", "field"),
    [("club+club+club", "player"), ("club+", "player"), ({**hand_as_data(SURE), "partner": 3}, "player.partner")],
)
def test_more_than_two_or_nobody_is_refused(said, field):
    with pytest.raises(InputError) as refused:
        hand_from(said, TABLE)
    assert refused.value.field == field


def test_of_two_partners_a_visit_is_as_long_as_in_the_middle():
    between = goes_on(BOTH, TABLE)
    assert between == goes_on(TURNED, TABLE) == (GOES_ON["professional"] + GOES_ON["beginner"]) / 2


# Values


def test_the_next_ball_is_valued_for_whoever_plays_it():
    layout = nine_ball(**TWO)
    pair, turned, alone = (outlook(layout, hand) for hand in (BOTH, TURNED, SURE))
    last = [one.stages["9"].run[0].value for one in (pair, turned, alone)]
    assert np.array_equal(last[1], last[2]), "the sure hand plays the last ball of two when the other begins"
    assert last[0].max() < last[2].max()
    mean = [one.stages["6"].run[0].value.mean() for one in (pair, turned, alone)]
    assert max(mean[:2]) < mean[2]


def test_every_order_alternates():
    layout = eight_ball()
    of = {hand: pattern_of(layout, ("1", "2"), "8", hand, GLANCE, 0, 2) for hand in (BOTH, TURNED, SURE)}
    assert np.array_equal(of[BOTH].run[0], of[SURE].run[0]), "two own balls on, the eight is the first one's again"
    assert of[TURNED].run[0].max() < of[SURE].run[0].max()
    assert of[BOTH].run[3].mean() < of[SURE].run[3].mean()
    left = of[TURNED].run_by("1", ("1",))
    assert np.all(left <= of[SURE].run_by("1", ("1",)).max() + 1e-9)
    assert left.max() == pytest.approx(of[TURNED].run[1].max(), abs=0.1), "a ball by itself as in the whole set"


def test_a_pair_of_equals_is_one_player():
    layout, same = eight_ball(), replace(SURE, partner=SURE)
    one, two = (pattern_of(layout, ("1", "2"), "8", hand, GLANCE, 0, 2) for hand in (SURE, same))
    assert np.array_equal(one.run, two.run)
    racks = [Racks(outlook(nine_ball(**THREE), hand), nine_ball(**THREE)) for hand in (SURE, same)]
    assert racks[0].wins_of(32, 3) == racks[1].wins_of(32, 3)


def test_a_run_in_straight_pool_alternates():
    layout = Layout(TABLE, "straight-pool", {"cue": (0.7, 0.5), "1": (1.9, 0.9), "2": (0.6, 1.0)}, State())
    given = {}

    def worths(pots):
        given.update(pots)
        return pots, 0.0

    pair = run_of_all(layout, worths, BOTH, GLANCE, 0, 2)
    last = given["1"].mean()
    turned = run_of_all(layout, worths, TURNED, GLANCE, 0, 2)
    assert last < given["1"].mean(), "of two balls the second is the other one's"
    assert pair.pot[3].mean() > turned.pot[3].mean()


def test_in_snooker_one_has_the_reds_and_the_other_the_colours():
    layout, hands = snooker("red", red_1=(2.5, 0.5)), presets_for(TABLES["snooker-12ft"])
    sure, shaky = hands["professional"], hands["beginner"]
    pair = replace(sure, partner=shaky)
    alone = {hand: breaks_of(layout, hand, GLANCE, 0, 2) for hand in (sure, shaky)}
    on_red, on_colour = (breaks_of(layout, pair, GLANCE, 0, 2, on_colour=colour) for colour in (False, True))
    at = np.array([2.2, 0.6])

    def pot_of(breaks, ball):
        """What a ball by itself brings there, with nothing after it."""
        return float(breaks.known[ball].weights.sum(axis=1).max())

    for ball in ("red-1", "black"):
        mine = (sure, shaky) if is_red(ball) else (shaky, sure)
        assert pot_of(on_red, ball) == pot_of(alone[mine[0]], ball)
        assert pot_of(on_colour, ball) == pot_of(alone[mine[1]], ball)
    blue = [float(one.grid.at(one.turn["black"], at)) for one in (on_red, on_colour, alone[sure])]
    assert blue[0] == pytest.approx(blue[2]), "blue, pink, black: the black is the first one's"
    assert blue[1] < blue[2]


def test_racks_are_played_on_by_turns():
    """Of one ball the first partner has all; of two the weaker one has his share."""

    def outs(hand, **balls):
        layout = nine_ball(**balls)
        return Racks(outlook(layout, hand), layout).run_outs(150, 1, 2).p

    assert outs(BOTH, cue=(0.7, 0.5), b9=(2.2, 0.4)) == outs(SURE, cue=(0.7, 0.5), b9=(2.2, 0.4))
    assert outs(SHAKY, **TWO) + 0.1 < outs(BOTH, **TWO) < outs(SURE, **TWO) - 0.1


def test_a_plan_of_partners_has_each_ones_pots():
    layout = nine_ball(**TWO)
    plan = plan_for(outlook(layout, TURNED), GLANCE, 0, 2, 100)
    sure = plan_for(outlook(layout, SURE), GLANCE, 0, 2, 100)
    shaky = plan_for(outlook(layout, SHAKY), GLANCE, 0, 2, 100)
    assert plan.order[0].pot < sure.order[0].pot - 0.2, "the beginner begins"
    assert plan.order[1].pot > shaky.order[1].pot, "and the professional plays the nine"


# Nobody plays after a miss


@pytest.mark.parametrize("layout", [nine_ball(**THREE), eight_ball()], ids=["nine-ball", "eight-ball"])
def test_alone_a_choice_is_worth_its_run(layout):
    hand = PRESETS["league"]
    found = options_for(layout, (hand, hand), GLANCE, 0, 2, alone=True)
    best = found.options[found.best_attack]
    assert found.best_safety is None
    assert {one.intent for one in found.options} <= set(ATTACK)
    view = outlook_for(game_of(layout, alone=True), (hand, hand), GLANCE, 0, 2)
    outs = view.racks(layout).run_outs(200, 9, 2)
    assert outs.low - 0.1 < best.win < outs.high + 0.1
    against = options_for(layout, (hand, hand), GLANCE, 0, 2)
    assert best.win < against.options[against.best_attack].win, "a miss does not lose a match, but it ends a run"
    assert all(np.array_equal(run, worth) for _, run, worth in shown_maps(view))
    whole, pieces = (
        racks_from(view, best, 24, 5),
        [racks_from(view, best, 24, 5, piece=slice(a, a + 8)) for a in (0, 8, 16)],
    )
    assert round(24 * whole.p) == sum(round(8 * one.p) for one in pieces)


def test_alone_in_games_of_points_the_run_is_counted():
    hand = presets_for(TABLES["snooker-12ft"])["league"]
    layout = snooker("red", red_1=(2.5, 0.5), red_2=(2.9, 1.2))
    found = options_for(layout, (hand, hand), GLANCE, 0, 2, alone=True)
    assert found.points
    assert found.alone
    for one in found.options:
        assert one.win == pytest.approx(one.value.run, abs=1e-6)
    assert 1.0 < found.options[0].win < 2 * 8 + 18 + 0.1


def test_alone_with_nothing_to_pot_a_lawful_stroke_is_still_found():
    layout = nine_ball(cue=(0.1, 0.1), b9=(2.5, 1.23), b1=(0.16, 0.12), b5=(0.12, 0.16))
    found = options_for(layout, (SHAKY, SHAKY), GLANCE, 0, 2, alone=True)
    assert found.options
