"""The ghost ball, the cut and the aim's tolerance against worked values."""

from __future__ import annotations

import math

import pytest

from aretane.core.geometry.cut import cut_for, fraction_of_full, tolerance
from aretane.core.geometry.pocket_window import jaw_window

R = 0.028575
REACH = 2 * R


@pytest.mark.parametrize(("fraction", "degrees"), [(1, 0), (0.75, 14.478), (0.5, 30), (0.25, 48.590), (0, 90)])
def test_fraction_and_cut_angle_pairs(fraction, degrees):
    """Common practice: half ball is 30 degrees, quarter 48.6, three-quarter 14.5."""
    assert fraction_of_full(math.radians(degrees)) == pytest.approx(fraction, abs=1e-5)


def test_a_straight_shot_is_full_and_has_no_side():
    cut = cut_for((0.5, 0.635), (1.0, 0.635), 0.0, REACH)
    assert cut is not None
    assert cut.fraction == 1
    assert cut.side is None
    assert cut.ghost == pytest.approx((1.0 - REACH, 0.635))
    assert cut.cue_distance == pytest.approx(0.5 - REACH)


@pytest.mark.parametrize("degrees", [5, 30, 60, 89])
@pytest.mark.parametrize("side", [1, -1])
def test_the_object_ball_goes_to_the_side_it_is_cut_to(degrees, side):
    direction = side * math.radians(degrees)
    ball = (1.2, 0.6)
    ghost = (ball[0] - REACH * math.cos(direction), ball[1] - REACH * math.sin(direction))
    cut = cut_for((ghost[0] - 0.7, ghost[1]), ball, direction, REACH)
    assert cut is not None
    assert cut.side == ("left" if side > 0 else "right")
    assert math.degrees(abs(cut.angle)) == pytest.approx(degrees)


def test_ninety_degrees_and_more_cannot_be_cut():
    ball = (1.2, 0.6)
    assert cut_for((0.5, 0.6 - REACH), ball, math.radians(90), REACH) is None
    assert cut_for((0.5, 0.6), ball, math.radians(170), REACH) is None


@pytest.mark.parametrize(
    ("distance", "degrees"), [(0.3, 5.44), (0.6, 2.73), (1.0, 1.64), (1.5, 1.09), (2.0, 0.82), (2.5, 0.66)]
)
def test_the_window_of_a_straight_approach_is_near_its_bound(nine_foot, distance, degrees):
    """Half-angle of (mouth - ball)/2 at the distance: the bound for w = 2.25 in, recomputed by hand."""
    pocket = nine_foot.pockets["foot-left"]
    ball = tuple(m - distance * a for m, a in zip(pocket.mouth, pocket.axis, strict=True))
    window = jaw_window(ball, pocket, R)
    assert window is not None
    assert math.degrees(window[1] - window[0]) / 2 == pytest.approx(degrees, rel=0.02)


@pytest.mark.parametrize("length", [0.4, 0.8, 1.6])
def test_the_aim_of_a_straight_shot_errs_by_length_over_diameter_less_one(length):
    """Error gain L/2R - 1 (from memory; derived by differentiating the ghost-ball construction)."""
    window = 1e-4
    found = tolerance((0.0, 0.0), (length, 0.0), (-window, window), REACH)
    assert found == pytest.approx(window / (length / REACH - 1), rel=1e-3)


@pytest.mark.parametrize("degrees", [20, 45, 70])
def test_the_aim_of_a_cut_errs_by_distance_over_diameter_times_cosine(degrees):
    """Error gain D/(2R cos(cut)) with D from cue ball to ghost ball; exact in the limit of small windows."""
    direction, window = math.radians(degrees), 1e-6
    ball = (1.0, 0.5)
    ghost = (ball[0] - REACH * math.cos(direction), ball[1] - REACH * math.sin(direction))
    distance = 0.6
    cue = (ghost[0] - distance, ghost[1])
    found = tolerance(cue, ball, (direction - window, direction + window), REACH)
    gain = distance / (REACH * math.cos(direction))
    assert found == pytest.approx(window / gain, rel=1e-3)


def test_only_the_part_of_the_window_that_can_be_hit_counts():
    assert tolerance((0, 0), (1, 0), (math.radians(95), math.radians(100)), REACH) is None
