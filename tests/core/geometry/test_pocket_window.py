"""What balls leave of a pocket, against Shapely's areas and distances."""

from __future__ import annotations

import math
import random

import pytest
from shapely.geometry import LineString, Point

from aretane.core.geometry.pocket_window import jaw_window, pocket_window
from aretane.core.table import PRESETS

R = 0.028575


def open_by_shapely(ball, pocket, others, samples=2000):
    """The same question asked by brute force: sweep directions, buffer the way, look who is touched."""
    mouth = LineString(pocket.tips)
    to_mouth = math.atan2(pocket.mouth[1] - ball[1], pocket.mouth[0] - ball[0])
    jaws = free = 0
    for step in range(samples):
        direction = to_mouth - 0.5 + (step + 0.5) / samples
        far = (ball[0] + 4 * math.cos(direction), ball[1] + 4 * math.sin(direction))
        crossing = LineString([ball, far]).intersection(mouth)
        if crossing.is_empty or any(LineString([ball, far]).distance(Point(tip)) < R for tip in pocket.tips):
            continue
        jaws += 1
        way = LineString([ball, (crossing.x, crossing.y)])
        free += all(way.distance(Point(other)) >= 2 * R for other in others.values())
    return free / jaws if jaws else 0.0


@pytest.mark.parametrize("seed", range(12))
def test_the_open_part_is_what_shapely_finds(seed):
    dice = random.Random(seed)
    table = PRESETS["pool-9ft"]
    pocket = table.pockets[dice.choice(list(table.pockets))]
    middle = (table.length / 2, table.width / 2)
    share = dice.uniform(0.35, 0.9)
    ball = tuple(m + share * (c - m) + dice.uniform(-0.1, 0.1) for m, c in zip(pocket.mouth, middle, strict=True))
    others = {}
    while len(others) < 3:
        along = dice.uniform(0.05, 1.05)
        place = tuple(
            b + along * (m - b) + dice.uniform(-0.12, 0.12) for b, m in zip(ball, pocket.mouth, strict=True)
        )
        if math.dist(place, ball) > 2 * R:
            others[str(len(others))] = place
    found = pocket_window(ball, pocket, others, R, dict.fromkeys(others, 2 * R))
    assert found.open == pytest.approx(open_by_shapely(ball, pocket, others), abs=0.02)


def test_a_side_pocket_closes_to_a_ball_along_its_rail(nine_foot):
    pocket = nine_foot.pockets["side-left"]
    assert jaw_window((0.3, nine_foot.width - R), pocket, R) is None
    assert jaw_window((1.2, 0.3), pocket, R) is not None


def test_a_half_open_pocket_is_aimed_at_the_middle_of_what_is_left(nine_foot):
    pocket = nine_foot.pockets["foot-left"]
    ball = (1.9, 0.62)
    line = math.atan2(pocket.mouth[1] - ball[1], pocket.mouth[0] - ball[0])
    blocker = (2.2 - 2.0 * R * math.sin(line), 0.62 + 0.3 * math.tan(line) + 2.0 * R * math.cos(line))
    found = pocket_window(ball, pocket, {"9": blocker}, R, {"9": 2 * R})
    assert 0 < found.open < 1
    assert found.blockers == ("9",)
    low, high = found.widest
    assert (low + high) / 2 < line  # the blocker stands to the left of the line


def test_a_ball_behind_blocks_nothing(nine_foot):
    pocket = nine_foot.pockets["foot-left"]
    found = pocket_window((1.9, 0.62), pocket, {"9": (1.7, 0.5)}, R, {"9": 2 * R})
    assert found.open == 1
    assert found.blockers == ()


def test_a_hanging_ball_in_the_mouth_closes_the_pocket(nine_foot):
    pocket = nine_foot.pockets["foot-left"]
    found = pocket_window((1.9, 0.62), pocket, {"9": pocket.mouth}, R, {"9": 2 * R})
    assert found.open == 0
