"""Many pots at once against one at a time: the aim, the chance by importance, and sums worked out by hand."""

import math
import random
from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import norm

from aretane.core.layout import Layout
from aretane.core.physics.aim import aimed
from aretane.core.physics.play import AIM
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.outlook.maps import tried
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pot_kernel import A_HALF, C_WIDER
from aretane.core.planning.pots.pots import Ground, windows_of
from aretane.core.planning.pots.strokes import COARSE, draws_of
from aretane.core.skill.hand import PRESETS, Hand
from aretane.core.table import POCKETS
from tests.core.planning.tables import TABLE, nine_ball

PROFESSIONAL, CLUB = PRESETS["professional"], PRESETS["club"]


def random_pots(seed, count):
    dice = random.Random(seed)
    while count:
        layout = nine_ball(
            cue=(dice.uniform(0.2, 2.3), dice.uniform(0.2, 1.0)),
            b9=(dice.uniform(0.2, 2.3), dice.uniform(0.15, 1.1)),
        )
        strokes = np.array([[dice.choice([1.2, 1.7, 2.4]), 0.0, dice.choice([-0.35, 0.0, 0.35])]])
        pots = Ground(layout).pots("9", np.array([layout.cue]), strokes)
        if len(pots):
            count -= 1
            yield layout, pots


def test_the_aim_is_the_aim_solvers():
    """Two ways to the same aim: the fan of `aimed`, and Newton's steps of the kernel."""
    for layout, pots in random_pots(3, 8):
        stroke = stroke_of(pots, 0)
        meant = Stroke(stroke.speed, at="9", pocket=POCKETS[int(pots.pocket[0])], height=stroke.height)
        half = float(pots.solutions[0, A_HALF])
        assert stroke.aim == pytest.approx(aimed(layout, meant).aim, abs=max(1e-3, half))


def test_chances_by_importance_are_those_of_plain_repetition():
    """Aims outside the window are left out and the rest weighted: the mean must not move."""
    off = []
    for layout, pots in random_pots(5, 12):
        weights = Ground(layout).sampled(pots, CLUB, draws_of(256, 1)).weights
        tries = tries_of(layout, stroke_of(pots, 0), CLUB, 3000, 2, ball="9")
        drawn = play_all(layout, start_of(layout), tries.strokes, lucks=tries.lucks)
        made = (drawn.fates[:, 1] == pots.pocket[0]) & (drawn.fates[:, 0] == -1)
        off.append(weights[0].sum() - made.mean())
    assert abs(np.mean(off)) < 0.012
    assert np.abs(off).max() < 0.05


def test_a_straight_shot_is_the_normal_integral_over_its_window():
    """Worked out: with an error of aim alone the chance is the normal mass of the aims that pot."""
    layout = nine_ball(cue=(1.6, 0.635), b9=(2.0, 0.9))
    pots = Ground(layout).pots("9", np.array([layout.cue]), np.array([[1.7, 0.0, 0.0]]))
    pots = pots.only(np.flatnonzero(pots.pocket == POCKETS.index("foot-left")))
    aim, spread = stroke_of(pots, 0).aim, math.radians(0.7)
    fan = np.zeros((2001, 5))
    fan[:, AIM] = aim + np.linspace(-0.06, 0.06, 2001)
    fan[:, 1] = 1.7
    played = play_all(layout, start_of(layout), fan)
    step = 0.12 / 2000
    pot = played.fates[:, 1] == POCKETS.index("foot-left")
    by_hand = norm.pdf((fan[:, AIM] - aim) / spread)[pot].sum() * step / spread
    hand = Hand(spread, 0.0, 0.0, 0.0, plain=True)
    weights = Ground(layout).sampled(pots, hand, draws_of(128, 0)).weights
    assert weights.sum() == pytest.approx(by_hand, abs=0.02)


def test_independent_shots_multiply():
    """A next shot that comes off half of the time wherever the cue ball is halves the chance."""
    layout = nine_ball(cue=(1.2, 0.6), b9=(2.0, 0.9))
    ground, grid = Ground(layout), Grid(TABLE, 9, 5)
    pots = ground.pots("9", np.array([layout.cue]), COARSE.strokes)
    half = np.full((9, 5), 0.5)
    pot, value = tried(ground, grid, pots, PROFESSIONAL, COARSE, [half], 0).expected(half)
    assert value == pytest.approx(0.5 * pot)


def test_a_blocked_pocket_has_no_window_and_a_half_open_one_a_smaller():
    free = {w.pocket: w.high - w.low for w in windows_of(nine_ball(b9=(1.9, 0.9)), "9")}
    half = {w.pocket: w.high - w.low for w in windows_of(nine_ball(b9=(1.9, 0.9), b3=(2.23, 1.012)), "9")}
    shut = {w.pocket: w.high - w.low for w in windows_of(nine_ball(b9=(1.9, 0.9), b3=(2.15, 1.045)), "9")}
    assert 0 < half["foot-left"] < free["foot-left"]
    assert "foot-left" not in shut


def test_reaching_for_it_costs_chance():
    layout = nine_ball(cue=(0.9, 0.5), b9=(2.0, 0.9))
    ground, cue = Ground(layout), np.array([layout.cue])
    strokes = np.array([[1.7, 0.0, 0.0]])
    near = ground.pots("9", cue, strokes)
    candidates = near.candidates.copy()
    candidates[:, C_WIDER] *= 1.6
    far = replace(near, candidates=candidates)
    chances = [ground.sampled(pots, CLUB, draws_of(128, 0)).weights.sum() for pots in (near, far)]
    assert chances[1] < chances[0]


def test_the_same_seed_gives_the_same_and_threads_change_nothing():
    layout = nine_ball(b8=(0.8, 0.9), b9=(2.0, 0.9))
    places = Grid(TABLE, 9, 5).places
    one, two = (Ground(layout, threads).pots("8", places, COARSE.strokes) for threads in (1, 2))
    assert np.array_equal(one.solutions, two.solutions)
    assert np.array_equal(draws_of(8, 4).errors, draws_of(8, 4).errors)


def test_a_ball_that_hangs_is_cut_in_so_that_the_white_stays_out():
    """Common practice: a ball in the jaws is as good as certain from anywhere, and nobody follows it in."""
    layout = Layout(TABLE, "straight-pool", {"cue": (2.07, 0.54), "1": (TABLE.length - 0.024, 0.024)})
    ground, cue = Ground(layout), np.array([(2.07, 0.54)])
    pots = ground.pots("1", cue, COARSE.strokes)
    made = ground.sampled(pots, PRESETS["club"], draws_of(16, 0)).weights.sum(axis=1)
    assert made.max() > 0.97
    assert len(pots) > 20, "soft and firm, high and low: not the few that would be left without its sides"
