"""Sliding and rolling against Coriolis' results, the brief distances, and SciPy's integrator."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from tests.core.physics.helpers import VAST, G, R, shot

MU, MU_ROLL = 0.2, 0.01


def lone(**stroke):
    return shot(VAST, {"cue": (200.0, 200.0)}, **{"aim": 0.0, **stroke})


@pytest.mark.parametrize(("speed", "metres"), [(1, 0.1248), (2, 0.4993), (3, 1.1234), (4, 1.9971)])
def test_sliding_distance_of_a_centre_hit(speed, metres):
    """12 v² / 49 µ g: W. Marlow, The Physics of Pocket Billiards; recomputed."""
    roll = next(event for event in lone(speed=speed).events if event.kind == "roll")
    assert roll.place[0] - 200.0 == pytest.approx(12 * speed**2 / (49 * MU * G), rel=1e-9)
    assert roll.place[0] - 200.0 == pytest.approx(metres, abs=5e-5)


@pytest.mark.parametrize(("speed", "metres"), [(0.5, 1.274), (1.0, 5.097)])
def test_rolling_distance(speed, metres):
    """v² / 2 µr g. A tip 2/5 of the radius above centre rolls at once."""
    result = lone(speed=speed, height=0.4)
    assert result.final.balls["cue"][0] - 200.0 == pytest.approx(metres, abs=5e-4)
    assert result.legs["cue"][0].phase == "roll"


def test_five_sevenths_of_the_speed_is_left_when_a_sliding_ball_rolls():
    roll = next(event for event in lone(speed=3.0).events if event.kind == "roll")
    assert roll.speeds[0] == pytest.approx(3.0 * 5 / 7, rel=1e-12)


@pytest.mark.parametrize("height", [-0.5, -0.2, 0.0, 0.3, 0.5])
@pytest.mark.parametrize("elevation", [0.0, 0.02])
def test_final_velocity_is_that_of_coriolis(height, elevation):
    """v = 5/7 v0 + 2/7 R (ωy, -ωx): Coriolis, Théorie mathématique des effets du jeu de billard (1835)."""
    result = lone(speed=2.0, side=0.3, height=height, elevation=elevation)
    first = result.legs["cue"][0]
    roll = next(leg for leg in result.legs["cue"] if leg.phase == "roll")
    wx, wy, _ = first.spin
    expected = (5 / 7 * first.velocity[0] + 2 / 7 * R * wy, 5 / 7 * first.velocity[1] - 2 / 7 * R * wx)
    assert roll.velocity[:2] == pytest.approx(expected, abs=1e-12)


@pytest.mark.parametrize(
    "stroke", [{"height": -0.4}, {"height": 0.45, "side": 0.1}, {"side": -0.3, "elevation": 0.015}]
)
def test_slide_and_roll_agree_with_scipys_integrator(stroke):
    result = lone(speed=2.5, **stroke)
    first, roll = result.legs["cue"][0], result.legs["cue"][1]
    assert (first.phase, roll.phase) == ("slide", "roll")

    def sliding(_, s):
        vx, vy, wx, wy = s[2:]
        ux, uy = vx - R * wy, vy + R * wx
        slip = math.hypot(ux, uy)
        ax, ay = -MU * G * ux / slip, -MU * G * uy / slip
        return [vx, vy, ax, ay, 2.5 / R * ay, -2.5 / R * ax]

    start = [*first.place[:2], *first.velocity[:2], *first.spin[:2]]
    until = roll.t * 0.999999
    end = solve_ivp(sliding, (0, until), start, rtol=1e-12, atol=1e-13, method="DOP853").y[:, -1]
    mine = [
        first.place[axis] + first.velocity[axis] * until + first.acceleration[axis] * until**2 / 2
        for axis in (0, 1)
    ]
    assert end[:2] == pytest.approx(mine, abs=1e-9)
    assert end[2:4] == pytest.approx([first.velocity[a] + first.acceleration[a] * until for a in (0, 1)], abs=1e-9)
    speed = np.array(roll.velocity[:2])
    stop = solve_ivp(
        lambda _, s: [*s[2:], *(-MU_ROLL * G * s[2:] / np.hypot(*s[2:]))],
        (0, 0.9 * np.hypot(*speed) / (MU_ROLL * G)),
        [*roll.place[:2], *speed],
        rtol=1e-12,
        atol=1e-13,
    )
    t = stop.t[-1]
    mine = [roll.place[a] + roll.velocity[a] * t + roll.acceleration[a] * t**2 / 2 for a in (0, 1)]
    assert stop.y[:2, -1] == pytest.approx(mine, abs=1e-9)


def test_side_dies_at_its_own_rate_and_bends_nothing():
    result = lone(speed=1.0, side=0.4)
    line = math.atan2(result.legs["cue"][0].velocity[1], result.legs["cue"][0].velocity[0])
    x, y = result.final.balls["cue"]
    assert math.atan2(y - 200.0, x - 200.0) == pytest.approx(line, abs=1e-12)
    spins = [leg.spin[2] for leg in result.legs["cue"]]
    assert spins[0] > spins[1] > spins[-1] >= 0
    assert spins[0] - spins[1] == pytest.approx(10.0 * result.legs["cue"][1].t, rel=1e-9)
