"""What the cue ball can reach, against Shapely."""

from __future__ import annotations

import math
import random

import pytest
from shapely.geometry import LineString, Point

from aretane.core.geometry.sight import in_the_way, visible_part

R = 0.028575
REACH = 2 * R


def visible_by_shapely(cue, ball, balls, samples=3000):
    """First contact by brute force: the ball whose widened disc the ray enters first."""
    half = math.asin(REACH / math.dist(cue, balls[ball]))
    line = math.atan2(balls[ball][1] - cue[1], balls[ball][0] - cue[0])
    discs = {name: Point(at).buffer(REACH, quad_segs=256) for name, at in balls.items()}
    seen = 0
    for step in range(samples):
        direction = line + half * (2 * (step + 0.5) / samples - 1)
        ray = LineString([cue, (cue[0] + 4 * math.cos(direction), cue[1] + 4 * math.sin(direction))])
        first = min(
            (
                (Point(cue).distance(ray.intersection(disc)), name)
                for name, disc in discs.items()
                if ray.intersects(disc)
            ),
            default=(0, None),
        )
        seen += first[1] == ball
    return seen / samples


@pytest.mark.parametrize("seed", range(8))
def test_the_visible_part_is_what_shapely_finds(seed):
    dice = random.Random(seed)
    cue = (0.4, 0.6)
    balls = {"1": (1.4, 0.6 + dice.uniform(-0.1, 0.1))}
    while len(balls) < 4:
        place = (dice.uniform(0.6, 1.5), 0.6 + dice.uniform(-0.15, 0.15))
        if all(math.dist(place, at) > REACH for at in balls.values()):
            balls[str(len(balls) + 1)] = place
    found = visible_part(cue, "1", balls, REACH)
    assert found == pytest.approx(visible_by_shapely(cue, "1", balls), abs=0.01)


def test_a_ball_alone_is_seen_whole_and_one_straight_behind_another_not_at_all():
    assert visible_part((0.4, 0.6), "1", {"1": (1.4, 0.6)}, REACH) == 1
    assert visible_part((0.4, 0.6), "1", {"1": (1.4, 0.6), "2": (0.7, 0.6)}, REACH) == 0


def test_the_way_is_blocked_by_what_is_nearer_than_two_radii():
    others = {"2": (0.7, 0.6 + REACH - 1e-4), "3": (1.0, 0.6 + REACH + 1e-4), "4": (0.2, 0.6)}
    assert in_the_way((0.4, 0.6), (1.3, 0.6), others, REACH) == ["2"]


def test_a_frozen_ball_blocks_only_the_way_into_it():
    others = {"2": (0.4 + REACH, 0.6)}
    assert in_the_way((0.4, 0.6), (1.3, 0.6), others, REACH) == ["2"]
    assert in_the_way((0.4, 0.6), (0.4, 1.1), others, REACH) == []
    assert in_the_way((0.4, 0.6), (0.1, 0.6), others, REACH) == []
