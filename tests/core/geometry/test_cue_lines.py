"""Where the cue ball runs after the contact."""

from __future__ import annotations

import math

import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import minimize_scalar

from aretane.core.geometry.cue_lines import roll_direction, rolling_deflection, scratches_in, stun_direction
from aretane.core.geometry.cut import cut_for

REACH = 0.05715


@pytest.mark.parametrize(
    ("cut", "deflection"),
    [
        (0, 0),
        (10, 21.681),
        (20, 31.868),
        (30, 33.670),
        (40, 31.196),
        (50, 26.518),
        (60, 20.633),
        (70, 14.063),
        (80, 7.116),
    ],
)
def test_the_natural_angle_table(cut, deflection):
    """tan = sin cos/(sin² + 2/5): Coriolis 1835; table recomputed by hand."""
    assert math.degrees(rolling_deflection(math.radians(cut))) == pytest.approx(deflection, abs=1e-3)


def test_the_natural_angle_is_widest_at_28_degrees():
    """Alciatore's technical proof on the 30-degree rule: 33.749 at 28.126."""
    best = minimize_scalar(lambda cut: -rolling_deflection(cut), bounds=(0.1, 1.2), method="bounded")
    assert math.degrees(best.x) == pytest.approx(28.126, abs=1e-2)
    assert math.degrees(-best.fun) == pytest.approx(33.749, abs=1e-3)


@pytest.mark.parametrize("fraction", [0.25, 0.4, 0.5, 0.6, 0.75])
def test_the_thirty_degree_rule(fraction):
    """Common practice: from quarter- to three-quarter-ball hits a rolling ball leaves within 27 to 34 degrees."""
    assert 27 < math.degrees(rolling_deflection(math.asin(1 - fraction))) < 34


@pytest.mark.parametrize("cut", [15, 35, 65])
def test_the_natural_angle_against_integrated_slip(cut):
    """A rolling ball loses its normal velocity in the hit, slips, and rolls again: SciPy integrates the slip."""
    phi, radius, friction, g = math.radians(cut), 0.028575, 0.2, 9.81
    tangent = (math.cos(math.pi / 2 - phi), math.sin(math.pi / 2 - phi))
    speed = 2.0
    velocity = [speed * math.sin(phi) * tangent[0], speed * math.sin(phi) * tangent[1]]
    spin = [0.0, speed / radius]  # rolling along +x before the hit, unchanged by it

    def slide(_, state):
        vx, vy, wx, wy = state
        ux, uy = vx - radius * wy, vy + radius * wx
        slip = math.hypot(ux, uy)
        if slip < 1e-9:
            return [0, 0, 0, 0]
        ax, ay = -friction * g * ux / slip, -friction * g * uy / slip
        return [ax, ay, 2.5 * ay / radius, -2.5 * ax / radius]

    end = 2 * math.hypot(velocity[0] - speed, velocity[1]) / (7 * friction * g) * 0.9999
    found = solve_ivp(slide, (0, end), [*velocity, *spin], rtol=1e-10, atol=1e-12).y[:, -1]
    assert math.degrees(math.atan2(found[1], found[0])) == pytest.approx(
        math.degrees(rolling_deflection(phi)), abs=0.02
    )


def test_stun_leaves_at_right_angles_away_from_the_object_ball():
    cut = cut_for((0.5, 0.4), (1.2, 0.6), math.radians(50), REACH)
    assert cut.side == "left"
    stun = stun_direction(cut)
    assert math.cos(stun - cut.object_direction) == pytest.approx(0, abs=1e-12)
    assert math.sin(stun - cut.aim) < 0  # the cue ball goes right when the object ball goes left
    assert math.sin(roll_direction(cut) - cut.aim) < 0


def test_a_straight_stun_shot_has_no_line():
    assert stun_direction(cut_for((0.5, 0.6), (1.2, 0.6), 0.0, REACH)) is None


def test_a_line_into_a_pocket_scratches_unless_a_ball_is_in_the_way(nine_foot):
    start = (1.8, 0.6)
    mouth = nine_foot.pockets["foot-left"].mouth
    direction = math.atan2(mouth[1] - start[1], mouth[0] - start[0])
    assert scratches_in(nine_foot, start, direction, {}) == "foot-left"
    between = (start[0] + 0.3 * math.cos(direction), start[1] + 0.3 * math.sin(direction))
    assert scratches_in(nine_foot, start, direction, {"5": between}) is None
    assert scratches_in(nine_foot, start, direction + 0.4, {}) is None
    assert scratches_in(nine_foot, start, None, {}) is None
