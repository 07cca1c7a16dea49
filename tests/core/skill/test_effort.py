"""What a stroke demands: every factor in the direction that the trade knows, and nothing for a plain stroke."""

import itertools
import math

import numpy as np
import pytest

from aretane.core.layout import Layout
from aretane.core.physics.aim import aimed
from aretane.core.physics.compiled import R_KICKED
from aretane.core.physics.cue import squirt
from aretane.core.physics.sampling import play_all, sample, tries_of
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.skill.demand import demand_of
from aretane.core.skill.effort import SHARE, Demand, aim_effort, speed_effort, spread_of
from aretane.core.skill.hand import LEVELS, PRESETS, SNOOKER, Hand
from aretane.core.table import PRESETS as TABLES

POOL, END_MASS = TABLES["pool-9ft"], 28.0
CLUB = PRESETS["club"]


def test_a_plain_stroke_asks_nothing():
    assert aim_effort(1.8, 0.0, 0.0, 0.0, 1.0, END_MASS) == 1.0
    assert speed_effort(1.8, 0.0, 0.0, 1.0) == 1.0


@pytest.mark.parametrize(
    ("harder", "plain"),
    [
        ((5.0, 0.0, 0.0, 0.0, 1.0), (2.0, 0.0, 0.0, 0.0, 1.0)),  # pace
        ((2.0, 0.4, 0.0, 0.0, 1.0), (2.0, 0.0, 0.0, 0.0, 1.0)),  # side
        ((2.0, 0.0, -0.45, 0.0, 2.0), (2.0, 0.0, -0.45, 0.0, 0.4)),  # draw over distance
        ((2.0, 0.0, 0.0, 0.35, 1.0), (2.0, 0.0, 0.0, 0.0, 1.0)),  # a raised cue
        ((2.0, 0.3, 0.0, 0.35, 1.0), (2.0, 0.0, 0.0, 0.35, 1.0)),  # side with a raised cue: swerve
    ],
)
def test_what_is_harder_misses_more(harder, plain):
    assert aim_effort(*harder, END_MASS) > 1.05 * aim_effort(*plain, END_MASS)


def test_squirt_is_known_to_a_share():
    """Worked out: at a metre the throw counts for nothing, so the factor is the hypotenuse of 1 and the share
    of squirt.
    """
    bent = squirt(0.3, END_MASS)
    throw = 0.05 * 0.6 * 0.0572
    assert aim_effort(2.0, 0.3, 0.0, 0.0, 1.0, END_MASS) == pytest.approx(
        math.sqrt(1 + SHARE**2 * (bent**2 + throw**2))
    )


def test_very_soft_and_very_hard_strokes_are_hard_to_weigh():
    assert speed_effort(0.4, 0.0, 0.0, 0.5) > 1.05 < speed_effort(6.0, 0.0, 0.0, 0.5)


def test_a_kick_asks_for_the_rail_and_a_bank_through_its_gain():
    """A rail judged 1.45 deg wrong turns a kick by that much, and a bank's cue ball by that over the gain."""
    kick = spread_of(CLUB, 2.0, 0.0, 0.0, 0.0, Demand(1.0, kicked=1), END_MASS)
    assert kick.aim == pytest.approx(math.hypot(CLUB.aim, CLUB.rail))
    bank = spread_of(CLUB, 2.0, 0.0, 0.0, 0.0, Demand(1.0, banked=1, gain=10.0), END_MASS)
    assert bank.aim == pytest.approx(math.hypot(CLUB.aim, CLUB.rail / 10))


def test_a_plain_hand_has_exactly_its_four_errors():
    hand = Hand(0.003, 0.08, 0.04, 0.05, 0.02, 0.1, plain=True)
    spread = spread_of(hand, 6.0, 0.4, -0.4, 0.6, Demand(2.0, 1.4, kicked=2), END_MASS)
    assert (spread.aim, spread.speed, spread.side, spread.height) == (0.003, 0.08, 0.04, 0.05)
    assert spread.elevation == 0.0
    layout = Layout(POOL, "nine-ball", {"cue": (0.5, 0.3), "9": (2.0, 0.9)})
    assert not tries_of(layout, Stroke(speed=2.0, aim=0.3), hand, 5).lucks.any()


def test_the_course_tells_what_a_stroke_asks():
    layout = Layout(POOL, "nine-ball", {"cue": (0.35, 0.25), "9": (1.299, 0.25)})
    kick = demand_of(layout, Stroke(speed=2.0, aim=1.1605, height=0.2))
    assert kick.kicked == 1
    assert kick.distance == pytest.approx(2.15, abs=0.05)
    straight = demand_of(layout, Stroke(speed=2.0, aim=0.0))
    assert straight.kicked == 0
    assert straight.gain == pytest.approx((0.949 - 0.05715) / 0.05715, rel=0.02)
    assert demand_of(layout, Stroke(speed=1.0, aim=math.pi)).kicked == 0


def test_a_ball_that_only_runs_along_a_rail_is_no_bank():
    rho = POOL.contact_distance(POOL.radius)
    layout = Layout(POOL, "nine-ball", {"cue": (1.3, 0.25), "9": (1.9, rho + 0.002)})
    stroke = aimed(layout, Stroke(speed=1.8, at="9", pocket="foot-right"))
    assert simulate(layout, stroke).potted[0][:2] == ("9", "foot-right")
    assert demand_of(layout, stroke, "9").banked == 0


def test_presets_are_ordered_and_snooker_players_finer():
    for worse, better in itertools.pairwise(LEVELS):
        for name in ("aim", "speed", "side", "rail", "elevation"):
            assert getattr(PRESETS[worse], name) > getattr(PRESETS[better], name)
    assert all(0.5 < SNOOKER[level].aim / PRESETS[level].aim < 0.8 for level in LEVELS)


def test_kicks_and_banks_no_longer_always_come_off():
    """A kick that pots came out at 99 % for a professional, because rails, throw and cloth had no scatter."""
    layout = Layout(POOL, "nine-ball", {"cue": (0.918, 0.5107), "9": (2.2875, 0.2525)})
    strokes = np.tile([0.0, 1.5, 0.0, 0.2, 0.0], (801, 1))
    strokes[:, 0] = np.linspace(0.7, 1.1, 801)
    played = play_all(layout, start_of(layout), strokes)
    made = strokes[(played.fates[:, 1] == 5) & (played.results[:, R_KICKED] == 1), 0]
    aim = float(np.median(made))
    drawn = sample(layout, Stroke(speed=1.5, aim=aim, height=0.2), PRESETS["professional"], 600, ball="9")
    assert 0.03 < (drawn.fates[:, 1] == 5).mean() < 0.4
