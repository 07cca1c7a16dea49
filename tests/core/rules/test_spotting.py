"""Balls that come back: pool on the long string (The Rules of Play 1.5), snooker on spots (section 3 rule 7)."""

from __future__ import annotations

import math

import pytest

from aretane.core.rack import colour_spots
from aretane.core.rules.spotting import is_free, spot_of, spotted
from aretane.core.table import PRESETS

POOL, SNOOKER = PRESETS["pool-9ft"], PRESETS["snooker-12ft"]
FOOT = (POOL.foot_spot, POOL.width / 2)
BALL = POOL.ball_diameter
SPOTS = colour_spots(SNOOKER)


def test_a_pool_ball_goes_to_the_foot_spot():
    assert spotted(POOL, "nine-ball", {"3": (1, 1)}, ["9"])["9"] == pytest.approx(FOOT, abs=1e-6)


def test_an_occupied_foot_spot_moves_it_towards_the_foot_rail_against_the_other_ball():
    places = spotted(POOL, "nine-ball", {"3": FOOT}, ["9"])
    assert places["9"][1] == FOOT[1]
    assert 0 <= math.dist(places["9"], FOOT) - BALL < 0.0006
    assert places["9"][0] > FOOT[0]


def test_never_against_the_cue_ball():
    places = spotted(POOL, "nine-ball", {"cue": FOOT}, ["9"])
    assert math.dist(places["9"], FOOT) >= BALL + 0.001


def test_several_balls_line_up_in_the_order_of_their_numbers():
    places = spotted(POOL, "straight-pool", {}, ["11", "4"])
    assert places["4"] == pytest.approx(FOOT, abs=1e-6)
    assert places["11"][0] == pytest.approx(FOOT[0] + BALL, abs=0.0006)


def test_a_full_string_behind_the_spot_sends_the_ball_towards_the_head():
    behind = {str(n + 1): (FOOT[0] + n * BALL, FOOT[1]) for n in range(12)}
    behind = {ball: place for ball, place in behind.items() if place[0] < POOL.length - POOL.radius}
    place = spotted(POOL, "straight-pool", behind, ["15"])["15"]
    assert place[0] < FOOT[0]
    assert is_free(POOL, behind, place)


def test_a_colour_goes_to_its_own_spot():
    assert spotted(SNOOKER, "snooker", {}, ["blue"])["blue"] == SPOTS["blue"]


def test_an_occupied_spot_sends_it_to_the_highest_free_one():
    on_blue = {"red-1": SPOTS["blue"]}
    assert spotted(SNOOKER, "snooker", on_blue, ["blue"])["blue"] == SPOTS["black"]
    also_black = {**on_blue, "red-2": SPOTS["black"]}
    assert spotted(SNOOKER, "snooker", also_black, ["blue"])["blue"] == SPOTS["pink"]


def test_of_two_colours_the_higher_is_spotted_first():
    taken = {"red-1": SPOTS["pink"], "red-2": SPOTS["brown"]}
    places = spotted(SNOOKER, "snooker", taken, ["brown", "pink"])
    assert places["pink"] == SPOTS["black"]
    assert places["brown"] == SPOTS["blue"]


def test_with_every_spot_taken_it_goes_as_near_to_its_own_as_can_be_towards_the_top():
    taken = {f"red-{n}": place for n, place in enumerate(SPOTS.values(), start=1)}
    place = spotted(SNOOKER, "snooker", taken, ["pink"])["pink"]
    assert place[1] == SPOTS["pink"][1]
    assert place[0] - SPOTS["pink"][0] == pytest.approx(SNOOKER.ball_diameter, abs=0.0006)


def test_the_spots_of_the_long_string_have_names():
    assert spot_of(POOL, "head-spot") == (POOL.head_line, POOL.width / 2)
    assert spot_of(POOL, "centre-spot") == (POOL.length / 2, POOL.width / 2)
    assert spot_of(POOL, "foot-spot") == FOOT
