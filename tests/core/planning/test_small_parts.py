"""Equity, reach, kinds, first glances: closed forms and words, each against something worked out apart."""

import math
import random
from math import comb

import numpy as np
import pytest

from aretane.core.geometry.sight import visible_part
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.kinds import kind_of
from aretane.core.planning.choices.push_out import speed_to
from aretane.core.planning.outlook.equity import in_match, match_chance
from aretane.core.planning.outlook.quick import quick_pot, quick_seen
from aretane.core.skill.hand import PRESETS
from aretane.core.skill.reach import UNKNOWN, Arm, reach_for
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import TABLE, nine_ball


@pytest.mark.parametrize(("needs", "other"), [(1, 1), (3, 2), (5, 5), (1, 4)])
def test_a_race_is_the_binomial_sum(needs, other):
    """To win `needs` of at most needs + other - 1 racks (the problem of points, Pascal and Fermat 1654)."""
    p, racks = 0.57, needs + other - 1
    by_sum = sum(comb(racks, k) * p**k * (1 - p) ** (racks - k) for k in range(needs, racks + 1))
    assert match_chance(needs, other, p) == pytest.approx(by_sum)


def test_the_rack_counts_most_when_both_need_one():
    swing = [in_match(1, n, n, 0.5) - in_match(0, n, n, 0.5) for n in (1, 3, 6)]
    assert swing[0] == 1
    assert swing[0] > swing[1] > swing[2]


def test_reach_says_what_hinders_and_by_how_much():
    middle, snooker = (1.27, 0.635), TABLES["snooker-12ft"]
    assert reach_for(TABLE, (0.4, 0.6), 0.0).words == ()
    far = reach_for(snooker, (1.8, 1.3), math.pi / 2)
    assert far.words in (("stretched",), ("rest",), ("off hand",))
    assert far.wider > 1.0
    assert reach_for(snooker, (1.8, 1.3), math.pi / 2, UNKNOWN).wider == 1.0
    assert reach_for(TABLE, middle, 0.0, Arm("both")).wider <= reach_for(TABLE, middle, 0.0).wider


def test_right_and_left_handers_reach_mirror_images_alike():
    cue, mirrored = (1.5, 0.2), (1.5, TABLE.width - 0.2)
    for aim in (0.0, 0.6, -0.6):
        right, left = reach_for(TABLE, cue, aim, Arm("right")), reach_for(TABLE, mirrored, -aim, Arm("left"))
        assert right == left


@pytest.mark.parametrize(
    ("balls", "stroke", "ball", "kind"),
    [
        ({"cue": (1.6, 0.635), "9": (2.0, 0.9)}, {"at": "9", "pocket": "foot-left"}, "9", "pot"),
        ({"cue": (1.0, 0.4), "9": (1.6, 0.8)}, {"aim": math.atan2(-0.75, 0.6)}, None, "kick"),
    ],
)
def test_a_shots_kind_is_named_from_what_touched_what(balls, stroke, ball, kind):
    from aretane.core.physics.aim import aimed

    layout = nine_ball(**{name if name == "cue" else f"b{name}": place for name, place in balls.items()})
    shot = simulate(layout, aimed(layout, Stroke(speed=2.4, **stroke)))
    if shot.first_contact is not None:
        assert kind_of(layout, shot, ball).kind == kind


def test_a_touching_ball_that_is_struck_at_once_has_a_kind():
    """It is hit at the very instant of the stroke: the cue ball has run nowhere before."""
    layout = nine_ball(cue=(2.2, 0.635), b9=(2.2 + 2 * TABLE.radius, 0.635))
    shot = simulate(layout, Stroke(speed=2.0, aim=0.4))
    assert shot.first_contact == "9"
    assert kind_of(layout, shot, None).kind != "jump"


def test_a_combination_is_one_ball_by_another():
    layout = nine_ball(cue=(1.2, 0.635 - 0.8 * 0.16), b8=(2.0, 0.97), b9=(2.2, 1.07))
    along = math.atan2(0.97 - layout.cue[1], 2.0 - 1.2)
    shots = [simulate(layout, Stroke(speed=2.5, aim=along + off)) for off in np.linspace(-0.01, 0.01, 41)]
    found = {kind_of(layout, shot, "9").kind for shot in shots if any(ball == "9" for ball, _, _ in shot.potted)}
    assert found <= {"combination", "cannon"}
    assert "combination" in found


def test_first_glances_agree_with_what_is_seen():
    """Three ways to the ball against the exact share of it that can be hit."""
    dice, agree = random.Random(3), 0
    for _ in range(200):
        balls = {name: (dice.uniform(0.1, 2.4), dice.uniform(0.1, 1.1)) for name in ("cue", "3", "4", "5")}
        part = visible_part(balls["cue"], "3", {n: p for n, p in balls.items() if n != "cue"}, 2 * TABLE.radius)
        others = np.array([[balls["4"], balls["5"]]])
        agree += bool(quick_seen(TABLE, np.array([balls["cue"]]), np.array([balls["3"]]), others)[0]) == (part > 0)
    assert agree >= 196


def test_first_glances_rank_pots_as_sampling_does():
    from aretane.core.planning.pots.pots import Ground
    from aretane.core.planning.pots.strokes import COARSE, draws_of

    dice, hand = random.Random(4), PRESETS["professional"]
    quick, sampled = [], []
    for _ in range(25):
        layout = nine_ball(cue=(dice.uniform(0.3, 2.2), dice.uniform(0.3, 1.0)), b9=(dice.uniform(0.3, 2.2), 0.7))
        ground = Ground(layout)
        pots = ground.pots("9", np.array([layout.cue]), COARSE.strokes)
        if not len(pots):
            continue
        sampled.append(ground.sampled(pots, hand, draws_of(32, 0)).weights.sum(axis=1).max())
        place = np.array([layout.balls["9"]])
        quick.append(quick_pot(TABLE, np.array([layout.cue]), place, np.zeros((1, 0, 2)), hand)[0])
    ranks = [np.argsort(np.argsort(values)) for values in (quick, sampled)]
    assert np.corrcoef(*ranks)[0, 1] > 0.7


def test_a_pushed_cue_ball_stops_where_it_is_sent():
    """The closed form of slide and roll against the simulator."""
    layout = nine_ball(cue=(0.3, 0.3), b9=(2.3, 1.1))
    for distance in (0.3, 0.8, 1.5):
        shot = simulate(layout, Stroke(speed=speed_to(layout, distance), aim=0.2))
        stop = shot.final.balls["cue"]
        assert math.dist(stop, (0.3, 0.3)) == pytest.approx(distance, abs=0.01)
