"""Two balls that were taken for one: what the network learns of them, and when it is believed."""

from __future__ import annotations

import math

import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.balls.candidates import candidates_at
from aretane.vision.balls.learning.pairs import LEAST, _about
from aretane.vision.balls.pairs import parted
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.sight import prepare

POOL, SIZE = PRESETS["pool-9ft"], (960, 540)
LONELY = (1.9, 0.3)


@pytest.fixture(scope="module")
def seen():
    """A black ball frozen before a green one, as the camera sees them, and one alone."""
    dice = np.random.default_rng(5)
    camera = camera_for(POOL, "short rail", SIZE, dice)
    far = np.array([1.2, 0.7])
    towards = camera.position[:2] - far
    near = far + POOL.ball_diameter * 1.001 * towards / np.hypot(*towards)
    balls = {"8": (float(near[0]), float(near[1])), "6": (1.2, 0.7), "3": LONELY}
    picture = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS["blue"])).paint(
        balls, {ball: random_turn(dice) for ball in balls}
    )
    return balls, camera, prepare(picture, POOL, camera)


def told(seen, place):
    _, camera, still = seen
    (one,) = candidates_at([place], [0.99], POOL, camera)
    return [ball.place for ball in parted([one], [], still, POOL, camera)]


def test_what_was_found_between_two_balls_is_both_the_nearer_first(seen):
    balls = seen[0]
    middle = ((balls["8"][0] + balls["6"][0]) / 2, (balls["8"][1] + balls["6"][1]) / 2)
    places = told(seen, middle)
    assert len(places) == 2
    for place, ball in zip(places, ("8", "6"), strict=True):
        assert math.dist(place, balls[ball]) < 0.02


def test_a_ball_alone_stays_one(seen):
    assert told(seen, LONELY) == [LONELY]


def test_of_two_the_other_one_being_known_only_one_is_left(seen):
    balls, camera, still = seen
    near, far = candidates_at([balls["8"], balls["6"]], [0.99, 0.99], POOL, camera)
    assert parted([near], [far], still, POOL, camera) == [near]


def labels(middles, seen=None):
    count = len(middles)
    shares = np.ones(count) if seen is None else np.array(seen)
    radii = np.linspace(10.0, 9.9, count)  # the first is the nearest
    return _about(np.array(middles, float), radii, shares, np.random.default_rng(2))


def test_a_case_says_where_both_are_beside_it():
    starts, sizes, says = labels([[50.0, 50.0], [50.0, 42.0]])
    assert np.all(says[:, 0] == 1)
    assert np.allclose(starts + sizes[:, None] * says[:, 1:3], [50.0, 50.0], atol=1e-4)
    assert np.allclose(starts + sizes[:, None] * says[:, 3:5], [50.0, 42.0], atol=1e-4)


def test_a_ball_alone_is_one_and_of_others_nothing_is_said():
    starts, _, says = labels([[50.0, 50.0], [50.0, 20.0]])
    assert len(starts)
    assert not says.any()
    assert not len(labels([[50.0, 50.0], [50.0, 42.0], [50.0, 36.0]])[0]), "three in a row"
    assert not len(labels([[50.0, 50.0], [50.0, 37.0]])[0]), "neither one nor alone"
    assert not len(labels([[50.0, 50.0], [50.0, 45.0]], [1.0, LEAST / 2])[0]), "the farther one is nearly hidden"
    assert not len(labels([[50.0, 50.0]], [math.nan])[0]), "somebody may stand before it"
