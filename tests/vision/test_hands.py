"""What touches somebody and does not stay is no ball; who somebody is, in dark clothes too."""

from __future__ import annotations

import json
import math

import cv2
import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.balls.ball_sets import BALL_SETS
from aretane.vision.balls.candidates import candidates_at
from aretane.vision.balls.hands import borne_out, touching
from aretane.vision.render.film import Recipe, render_match
from aretane.vision.render.look import CLOTHS, SHIRTS, Look
from aretane.vision.render.people import paint_player
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.shots.looking import balls_in
from aretane.vision.shots.wanted import Wanted
from aretane.vision.table.camera import project
from aretane.vision.table.cloth import ball_radius, bed_of
from aretane.vision.table.sight import _people, prepare
from tests.conftest import DEMO

POOL = PRESETS["pool-9ft"]
SIZE = (960, 540)
CUE_BALL, OTHERS = (0.8, 0.6), {"3": (1.5, 0.4), "8": (2.0, 0.9)}
AIM = 0.1


def pictures(cloth="blue", shirt="dark", cue_ball=CUE_BALL):
    """The table with the player down on the shot, and without."""
    camera = camera_for(POOL, "short rail", SIZE, np.random.default_rng(3))
    balls = {"cue": cue_ball, **OTHERS}
    scene = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS[cloth]))
    turned = {ball: np.eye(3) for ball in balls}
    alone = scene.paint(balls, turned)
    down = alone.copy()
    paint_player(down, camera, POOL, cue_ball, AIM, 0.0, 0.05, SHIRTS[shirt])
    gone = scene.paint(OTHERS, turned)
    return camera, (prepare(one, POOL, camera) for one in (down, alone, gone))


def fist():
    """A place on the player's bridge hand."""
    return (CUE_BALL[0] - 0.2 * math.cos(AIM), CUE_BALL[1] - 0.2 * math.sin(AIM))


@pytest.mark.parametrize("shirt", ["dark", "white", "red"])
@pytest.mark.parametrize("cloth", ["blue", "grey"])
def test_somebody_over_the_near_rail_is_told_from_the_balls(cloth, shirt):
    camera, stills = pictures(cloth, shirt)
    down = next(stills)
    chest = (CUE_BALL[0] - 0.55, CUE_BALL[1] - 0.06)
    finds = candidates_at([chest, *OTHERS.values()], [1.0] * 3, POOL, camera)
    told = touching(finds, down)
    assert told[0]
    assert not told[1:].any()


@pytest.mark.parametrize(("reach", "somebody"), [(0.3, False), (8.0, True)])
def test_what_is_as_broad_as_an_arm_is_one_if_it_is_longer_than_a_ball(reach, somebody):
    """In a soft small picture a ball at the far rail grows together with its shadow on the cushion."""
    camera = camera_for(POOL, "short rail", SIZE, np.random.default_rng(3))
    bed = bed_of(POOL, camera, SIZE)
    u, v = project(camera, np.array([[POOL.length - POOL.radius, 0.6, POOL.radius]]))[0] - bed.corner
    r = ball_radius(camera, (POOL.length, 0.6), POOL.radius)
    shown = np.zeros(bed.seen.shape, np.float32)
    for step in np.linspace(0, reach, 20):
        cv2.circle(shown, (round(u), round(v + r * step)), math.ceil(1.45 * r), 1.0, -1)
    shown[: round(v), round(u - r) : round(u + r)] = 1.0
    _, told, perhaps = _people(shown * bed.seen, bed)
    assert told.any() == somebody
    assert perhaps.any(), "less than plainly a ball it is not believed"


def test_a_hand_that_does_not_stay_is_no_ball():
    camera, stills = pictures()
    down, alone, _ = stills
    finds = candidates_at([fist(), *OTHERS.values()], [0.9] * 3, POOL, camera)
    kept = borne_out(finds, down, POOL, camera, [(False, alone), (True, alone)])
    assert [one.place for one in kept] == list(OTHERS.values())


def test_a_ball_beside_the_hand_is_one_if_it_was_there_before():
    camera, stills = pictures()
    down, alone, gone = stills
    finds = candidates_at([CUE_BALL, *OTHERS.values()], [0.9] * 3, POOL, camera)
    kept = borne_out(finds, down, POOL, camera, [(False, alone), (True, gone)])
    assert len(kept) == len(finds)


def test_what_is_seen_from_one_side_only_is_kept():
    """At the beginning of a recording nobody knows what was there before."""
    camera, stills = pictures()
    down, _, gone = stills
    finds = candidates_at([CUE_BALL], [0.9], POOL, camera)
    assert borne_out(finds, down, POOL, camera, [(True, gone)]) == finds


def test_other_pictures_are_asked_for_only_when_somebody_is_touched():
    camera, stills = pictures()
    _, alone, _ = stills

    def never():
        pytest.fail("no other picture was needed")
        yield

    finds = candidates_at(list(OTHERS.values()), [0.9] * 2, POOL, camera)
    assert borne_out(finds, alone, POOL, camera, never()) == finds
    assert borne_out([], alone, POOL, camera, never()) == []


def test_in_a_recording_the_player_is_no_ball(tmp_path):
    match = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
    path = tmp_path / "film.mp4"
    recipe = Recipe(size=SIZE, rate=2, view="corner", cloth="light blue", person=True, shirt="white")
    truth = render_match(match, path, recipe, 3)
    marks = {name: tuple(at) for name, at in truth["camera"]["marks"].items()}
    for shot in truth["shots"][1:]:
        wanted = Wanted(str(path), POOL, "pool", marks)
        told, _, at = balls_in(wanted, shot["contact"] - 0.4, BALL_SETS["pool"])
        frame = min(truth["frames"], key=lambda one: abs(one["t"] - at))
        places = list(frame["balls"].values())
        off = [min(math.dist(one.candidate.place, place) for place in places) for one in told]
        assert max(off) < 0.04
