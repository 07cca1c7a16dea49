"""Position errors, measured by hand on round numbers; zones against Shapely."""

from __future__ import annotations

import math
import random

import pytest
from shapely.geometry import Point, Polygon

from aretane.core.errors import InputError
from aretane.core.geometry.zone import Zone, zones_of
from aretane.core.review.position import position_error


def disc(x, y, radius=0.1, grade="acceptable"):
    return Zone(grade, (x, y), radius)


def test_inside_the_zone_there_is_no_error():
    error = position_error([disc(1.0, 0.5)], (1.05, 0.5), (0.2, 0.5), assumed=False)
    assert (error.distance, error.along, error.across, error.length) == (0, 0, 0, None)
    assert error.grade == "acceptable"


def test_past_the_zone_along_the_last_leg_is_long_and_before_it_short():
    long = position_error([disc(1.0, 0.5)], (1.3, 0.5), (0.2, 0.5), assumed=False)
    assert long.distance == pytest.approx(0.2)
    assert (long.along, long.across) == pytest.approx((0.2, 0.0))
    assert long.length == "long"
    short = position_error([disc(1.0, 0.5)], (0.6, 0.5), (0.2, 0.5), assumed=False)
    assert (short.along, short.length) == (pytest.approx(-0.3), "short")


def test_across_is_positive_to_the_left_of_the_way_it_ran():
    error = position_error([disc(1.0, 0.5, 0.0)], (1.0, 0.6), (1.0 - 1e6, 0.6), assumed=False)
    assert (error.along, error.across) == (pytest.approx(0, abs=1e-6), pytest.approx(0.1))


def test_the_two_parts_make_up_the_whole():
    dice = random.Random(2)
    for _ in range(50):
        stop, start = (dice.random(), dice.random()), (dice.random() - 2, dice.random())
        error = position_error([disc(0.5, 0.5, 0.05)], stop, start, assumed=True)
        assert math.hypot(error.along, error.across) == pytest.approx(error.distance)


def test_a_length_that_the_places_cannot_tell_is_not_named():
    near = position_error([disc(1.0, 0.5)], (1.11, 0.5), (0.2, 0.5), assumed=False, sigma=0.010)
    assert near.plus_minus == pytest.approx(0.0196, abs=1e-4)
    assert near.length is None


def test_only_good_zones_are_aimed_at_but_the_grade_reached_is_told():
    zones = [disc(1.0, 0.5), disc(1.4, 0.5, 0.1, "forbidden")]
    error = position_error(zones, (1.4, 0.5), (0.2, 0.5), assumed=False)
    assert error.distance == pytest.approx(0.3)
    assert error.grade == "forbidden"
    assert position_error([disc(1.4, 0.5, 0.1, "forbidden")], (1, 1), (0, 0), assumed=False) is None


@pytest.mark.parametrize(
    ("stop", "side"), [((1.0, 0.9), "right"), ((1.0, 0.3), "wrong"), ((1.0, 0.602), "straight")]
)
def test_the_side_of_the_next_balls_line(stop, side):
    """Next ball at (1.5, 0.6) to a mouth at (2.5, 0.6): its line is y = 0.6; above it was meant."""
    line = ((1.5, 0.6), (2.5, 0.6))
    error = position_error([disc(1.0, 0.8, 0.05)], stop, (0.2, 0.5), assumed=False, next_line=line)
    assert error.side == side


def test_the_nearest_point_of_an_outline_is_shapelys():
    outline = [(0.4, 0.2), (1.2, 0.3), (1.0, 0.9), (0.7, 0.5), (0.5, 0.8)]  # not convex
    zone = zones_of({"zones": [{"grade": "ideal", "outline": outline}]})[0]
    shape = Polygon(outline)
    dice = random.Random(4)
    for _ in range(200):
        place = (dice.uniform(0, 1.5), dice.uniform(0, 1.2))
        assert math.dist(zone.nearest(place), place) == pytest.approx(shape.distance(Point(place)), abs=1e-9)
        assert zone.contains(place) == shape.contains(Point(place))


@pytest.mark.parametrize("zone", [{"grade": "ideal"}, {"outline": [[0, 0], [1, 1]]}])
def test_a_zone_without_an_area_is_refused(zone):
    with pytest.raises(InputError):
        zones_of({"zones": [zone]})
