"""A recording that is cut between two cameras: with both marked it is read as one."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import av
import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.shots.part import read_all
from aretane.vision.shots.wandering import Wanderer
from aretane.vision.shots.wanted import Marked, Wanted
from aretane.vision.table.camera import project
from aretane.vision.table.marks import mark_places

POOL, SIZE, RATE = PRESETS["pool-9ft"], (960, 540), 5
FIRST = {"cue": (0.6, 0.6), "3": (1.4, 0.4), "5": (2.0, 0.9), "8": (1.0, 1.0)}
SECOND = FIRST | {"cue": (1.9, 0.3), "3": (0.5, 0.2)}
THIRD = SECOND | {"cue": (1.2, 0.7)}
CUTS = [
    ("short rail", FIRST, 4),
    ("corner", FIRST, 3),
    ("corner", SECOND, 4),
    ("corner", THIRD, 4),
    ("short rail", THIRD, 4),
]


@pytest.fixture(scope="module")
def cut(tmp_path_factory):
    """The path of the recording, and its two cameras' marks with the time of their first picture."""
    path, dice = tmp_path_factory.mktemp("cut") / "cut.mp4", np.random.default_rng(8)
    cameras = {view: camera_for(POOL, view, SIZE, dice) for view in ("short rail", "corner")}
    scenes = {view: Scene(POOL, camera, SIZE, Look(cloth=CLOTHS["blue"])) for view, camera in cameras.items()}
    turned = {ball: random_turn(dice) for ball in FIRST}
    with av.open(str(path), "w") as file:
        stream = file.add_stream("libx264", rate=RATE, options={"crf": "20", "preset": "veryfast"})
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        stream.time_base = stream.codec_context.time_base = Fraction(1, RATE)
        number = 0
        for view, balls, seconds in CUTS:
            clean = scenes[view].paint(balls, turned)
            for _ in range(seconds * RATE):
                noisy = np.clip(clean + dice.normal(0, 2, clean.shape), 0, 255).astype(np.uint8)
                frame = av.VideoFrame.from_ndarray(noisy, format="bgr24")
                frame.pts, frame.time_base = number, Fraction(1, RATE)
                file.mux(stream.encode(frame))
                number += 1
        file.mux(stream.encode(None))
    places = mark_places(POOL)
    marks = {
        view: {name: tuple(project(camera, np.array([at]))[0]) for name, at in places.items()}
        for view, camera in cameras.items()
    }
    return path, marks


def test_with_both_cameras_marked_every_shot_is_found(cut):
    path, marks = cut
    alone = Wanted(str(path), POOL, "pool", marks["short rail"])
    both = replace(alone, others=(Marked(marks["corner"], None, 4.1),))
    first, second = read_all(both)
    assert (7 <= first.contact <= 7.6, 11 <= second.contact <= 11.6) == (True, True)
    for shot, balls in ((first, FIRST), (second, SECOND)):
        assert len(shot.before) == len(balls)
        for place in balls.values():
            assert min(np.hypot(*(np.array(one.place) - place)) for one in shot.before) < 0.012


def test_a_camera_that_was_moved_is_found_anew_by_the_balls_that_stand(cut):
    """Only the first view is marked; in the other two balls move, the rest shows which end is which."""
    path, marks = cut
    first, second = read_all(Wanted(str(path), POOL, "pool", marks["short rail"]))
    assert (7 <= first.contact <= 7.6, 11 <= second.contact <= 11.6) == (True, True)
    for place in SECOND.values():
        assert min(np.hypot(*(np.array(one.place) - place)) for one in first.after) < 0.03


def test_another_picture_is_not_taken_for_the_table():
    dice = np.random.default_rng(1)
    camera = camera_for(POOL, "short rail", SIZE, dice)
    marks = {name: tuple(project(camera, np.array([at]))[0]) for name, at in mark_places(POOL).items()}
    finder = Wanderer(Wanted("", POOL, "pool", marks))
    scene = Scene(POOL, camera_for(POOL, "corner", SIZE, dice), SIZE, Look(cloth=CLOTHS["blue"]))
    empty, full = scene.paint({}, {}), scene.paint(FIRST, {ball: random_turn(dice) for ball in FIRST})
    standing = list(FIRST.values())
    for picture in (empty, np.full_like(empty, 90)):
        assert [finder.found(picture, None, standing) for _ in range(3)] == [None] * 3
    assert finder.found(full, None, standing) is None, "it may be moving still"
    assert finder.found(full, None, standing) is not None
    assert finder.found(full, None, standing) is None, "told once"
