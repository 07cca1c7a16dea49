"""Gaps beside a ball's way, against Shapely; how sure they are, against places drawn from their errors."""

from __future__ import annotations

import math
import random
import statistics

import pytest
from shapely.geometry import LineString, Point, Polygon

from aretane.core.geometry.clearance import gaps, mover_at
from aretane.core.geometry.measured import measure_shot, visible_ball
from aretane.core.geometry.plane import angle_to_rail, area_of
from aretane.core.geometry.uncertainty import shot_spread
from aretane.core.layout import Layout
from aretane.core.statistics.rates import Z95
from aretane.core.table import PRESETS

TABLE = PRESETS["pool-9ft"]
R = TABLE.radius
CUE, NINE = (0.4, 0.5), (2.0, 0.8)
BALLS = {"cue": CUE, "9": NINE, "3": (1.2, 0.71), "4": (0.9, 0.3), "7": (1.5, 0.66)}
LAYOUT = Layout(TABLE, "nine-ball", BALLS)
KNOWN = dict.fromkeys(BALLS, 0.005)


def by_name(found):
    return {one.what: one for one in found}


def test_gaps_are_shapelys_distances_less_both_radii():
    found = by_name(gaps(LAYOUT, CUE, NINE, KNOWN))
    way = LineString([CUE, NINE])
    for ball in ("3", "4", "7"):
        assert found[ball].gap == pytest.approx(way.distance(Point(BALLS[ball])) - 2 * R, abs=1e-12)
    foot = min(way.distance(Point(tip)) for tip in TABLE.pockets["foot-left"].tips)
    assert min(
        one.gap for one in gaps(LAYOUT, CUE, NINE, KNOWN) if one.what == "jaw of foot-left"
    ) == pytest.approx(foot - R)


def test_the_ball_that_moves_and_the_one_it_is_sent_to_are_not_beside_the_way():
    found = by_name(gaps(LAYOUT, CUE, NINE, KNOWN))
    assert "cue" not in found
    assert "9" not in found
    assert mover_at(LAYOUT, (CUE[0] + 0.4 * R, CUE[1])) == "cue"
    assert mover_at(LAYOUT, (CUE[0] + 0.6 * R, CUE[1])) is None
    free = by_name(gaps(LAYOUT, (0.1, 0.1), (0.2, 0.9), KNOWN))
    assert {"cue", "9"} <= set(free)


def test_a_touching_ball_is_in_the_way_only_of_a_path_that_leads_into_it():
    frozen = Layout(TABLE, "nine-ball", {"cue": (1.0, 0.6), "1": (1.0 + 2 * R, 0.6)})
    none = dict.fromkeys(frozen.balls, 0.0)
    into = by_name(gaps(frozen, (1.0, 0.6), (2.0, 0.6), none))
    away = by_name(gaps(frozen, (1.0, 0.6), (0.3, 0.9), none))
    assert into["1"].verdict == "touches"
    assert "1" not in away


def test_the_spread_is_that_of_places_drawn_from_their_errors():
    dice = random.Random(3)
    drawn = []
    for _ in range(4000):
        moved = {b: (x + dice.gauss(0, 0.005), y + dice.gauss(0, 0.005)) for b, (x, y) in BALLS.items()}
        drawn.append(LineString([moved["cue"], moved["9"]]).distance(Point(moved["7"])) - 2 * R)
    found = by_name(gaps(LAYOUT, CUE, NINE, KNOWN))["7"]
    assert found.plus_minus == pytest.approx(Z95 * statistics.stdev(drawn), rel=0.05)


@pytest.mark.parametrize(
    ("across", "verdict"), [(3.2 * R, "passes"), (1.2 * R, "touches"), (2.05 * R, "cannot be told")]
)
def test_what_is_nearer_than_its_error_cannot_be_told(across, verdict):
    layout = Layout(TABLE, "nine-ball", {"cue": (0.4, 0.5), "2": (1.0, 0.5 + across)})
    (found,) = (one for one in gaps(layout, (0.4, 0.5), (2.0, 0.5), {"cue": 0.004, "2": 0.004}) if one.what == "2")
    assert found.verdict == verdict


def test_angle_and_area():
    assert math.degrees(angle_to_rail((1.0, 1.0), (0.5, 0.5))) == pytest.approx(45)
    corners = [(0.1, 0.1), (0.9, 0.2), (1.1, 0.8), (0.3, 0.6)]
    assert area_of(corners) == pytest.approx(Polygon(corners).area)
    assert area_of(corners[::-1]) == pytest.approx(Polygon(corners).area)


def test_a_pot_says_what_stands_beside_its_ways_and_how_open_it_may_be():
    """The 7 stands 2.1 R off the line: it may be in the way; the mouth is open whatever is drawn."""
    empty = Layout(TABLE, "nine-ball", {"cue": (1.0, 0.635), "1": (1.9, 0.635)})
    x, y = measure_shot(empty, "1", "foot-left").ghost
    half, along = ((1.0 + x) / 2, (0.635 + y) / 2), math.atan2(y - 0.635, x - 1.0)
    beside_it = half[0] - 2.1 * R * math.sin(along), half[1] + 2.1 * R * math.cos(along)
    layout = empty.placed("7", beside_it)
    spread = shot_spread(layout, "1", "foot-left", dict.fromkeys(layout.balls, 0.008))
    (beside,) = (one for one in spread.beside_cue if one.what == "7")
    assert beside.verdict == "cannot be told"
    assert spread.open[0] <= spread.open[1] == 1.0
    assert spread.visible is not None
    seen = visible_ball(layout, "1")
    assert spread.visible[0] < seen < spread.visible[1]
    sure = shot_spread(layout, "1", "foot-left", dict.fromkeys(layout.balls, 0.0001))
    assert sure.visible is not None
    assert sure.visible[1] - sure.visible[0] < 0.02
