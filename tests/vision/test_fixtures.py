"""What is at a pocket in all parts of a recording is the pocket; a ball that hangs there for a while is one."""

from __future__ import annotations

import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.balls.candidates import candidates_at
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.fixtures import OFTEN, at_mouth, without_fixtures
from aretane.vision.table.sight import prepare

POOL = PRESETS["pool-9ft"]
SIZE = (960, 540)
FOOT = POOL.pockets["foot-left"]
AT_POCKET = (FOOT.drop[0] - 0.03 * FOOT.axis[0], FOOT.drop[1] - 0.03 * FOOT.axis[1])
BALLS = {"3": AT_POCKET, "5": (1.2, 0.5), "cue": (0.5, 0.8)}


@pytest.fixture(scope="module")
def table():
    dice = np.random.default_rng(3)
    camera = camera_for(POOL, "short rail", SIZE, dice)
    turned = {ball: random_turn(dice) for ball in BALLS}
    scene = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS["blue"]))

    def still(*balls):
        return prepare(scene.paint({ball: BALLS[ball] for ball in balls}, turned), POOL, camera)

    finds = candidates_at(list(BALLS.values()), [0.9] * 3, POOL, camera)
    return still, finds, camera


def test_what_all_pictures_show_at_a_pocket_is_no_ball(table):
    still, finds, camera = table
    assert without_fixtures(finds, POOL, camera, [still("3", "5")] * OFTEN) == finds[1:]


def test_a_ball_that_was_not_always_there_is_one(table):
    still, finds, camera = table
    others = [still("3"), still("3", "5"), still("5"), still("3")]
    assert without_fixtures(finds, POOL, camera, others) == finds


def test_few_pictures_tell_nothing(table):
    still, finds, camera = table
    assert without_fixtures(finds, POOL, camera, [still("3")] * (OFTEN - 1)) == finds


def test_nothing_is_asked_where_nothing_is_at_a_pocket(table):
    _, finds, camera = table

    def never():
        pytest.fail("no other picture was needed")
        yield

    assert without_fixtures(finds[1:], POOL, camera, never()) == finds[1:]
    assert without_fixtures([], POOL, camera, never()) == []


def test_a_pocket_is_near_at_its_hole_and_a_ball_farther_no_more():
    out = np.array(FOOT.axis)
    places = np.array([np.array(FOOT.drop) - away * out for away in (0.0, POOL.ball_diameter / 2, 0.1)])
    assert at_mouth(places, POOL) == pytest.approx([1.0, 0.5, 0.0], abs=1e-6)
    assert at_mouth(np.array([[POOL.length / 2, POOL.width / 2]]), POOL)[0] == 0.0
