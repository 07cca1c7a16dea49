"""The network that judges patches: what it is shown, what it says of plain balls, and what it learns from."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.balls.learning.judge import _told, cases_of
from aretane.vision.balls.learning.pictures import Ball, Shown, filmed, roughened, scattered
from aretane.vision.balls.patches import CHANNELS, SIDE, judged, patches
from aretane.vision.render.brush import fill
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import HALF, indexed, project
from aretane.vision.table.cloth import ball_radius
from aretane.vision.table.sight import prepare
from tests.vision.films import film

POOL = PRESETS["pool-9ft"]
SIZE = (960, 540)
BALLS = {"cue": (0.6, 0.4), "3": (1.9, 0.3), "8": (1.1, 0.2), "12": (2.2, 1.0)}


@pytest.fixture(scope="module")
def shown():
    dice = np.random.default_rng(3)
    camera = camera_for(POOL, "short rail", SIZE, dice)
    turned = {ball: random_turn(dice) for ball in BALLS}
    picture = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS["blue"])).paint(BALLS, turned)
    return picture, camera, prepare(picture, POOL, camera)


def at(shown, places):
    _, camera, still = shown
    pixels = project(camera, np.array([[*place, POOL.radius] for place in places])) - still.bed.corner
    radii = np.array([ball_radius(camera, place, POOL.radius) for place in places], np.float32)
    return still, pixels, radii


def test_a_ball_is_told_from_cloth_and_its_middle_from_aside(shown):
    still, pixels, radii = at(shown, list(BALLS.values()))
    aside = np.array([[0.25, -0.2]]) * radii[:, None]
    told = judged(still, still.known, pixels + aside, radii)
    assert told.chance.min() > 0.9
    off = np.linalg.norm(told.centre - pixels, axis=1) / radii
    assert off.max() < 0.2
    assert off.mean() < np.linalg.norm(aside / radii[:, None], axis=1).mean() / 2
    cloth = judged(still, still.known, *at(shown, [(1.5, 0.7), (0.9, 0.9)])[1:])
    assert cloth.chance.max() < 0.1


def test_a_patch_shows_a_ball_in_one_size(shown):
    still, pixels, radii = at(shown, [BALLS["3"], BALLS["12"]])
    seen = patches(still, still.known, pixels, radii)
    assert seen.shape == (2, CHANNELS, SIDE, SIDE)
    red = np.abs(seen[:, :3]).max(axis=1) > 0.4  # unlike the cloth
    assert [int(one.sum()) for one in red] == pytest.approx([math.pi * 64] * 2, rel=0.35)
    assert judged(still, still.known, np.zeros((0, 2)), np.zeros(0, np.float32)).chance.shape == (0,)


def test_pixels_are_told_from_the_corner_of_the_frame(shown):
    """A square on the cloth painted through the camera: its middle is that of its pixels, half a pixel in."""
    _, camera, _ = shown
    picture = np.zeros((SIZE[1], SIZE[0], 3), np.uint8)
    x, y, a = 1.3, 0.7, 0.02
    fill(
        picture,
        indexed(camera),
        [(x - a, y - a, 0), (x + a, y - a, 0), (x + a, y + a, 0), (x - a, y + a, 0)],
        (255,) * 3,
    )
    weight = picture[..., 0] / 255.0
    rows, columns = np.mgrid[: SIZE[1], : SIZE[0]]
    middle = np.array([(columns * weight).sum(), (rows * weight).sum()]) / weight.sum() + HALF
    corners = project(camera, np.array([(x + i * a, y + j * a, 0) for i in (-1, 1) for j in (-1, 1)]))
    assert middle == pytest.approx(corners.mean(axis=0), abs=0.25)
    small = camera.scaled(0.5)
    assert project(small, np.array([[x, y, 0]])) == pytest.approx(0.5 * project(camera, np.array([[x, y, 0]])))


def test_cases_say_what_is_there(shown):
    picture, camera, _ = shown
    told = cases_of(
        Shown(picture, camera, POOL, [Ball(place, 0.0) for place in BALLS.values()]), np.random.default_rng(1)
    )
    assert len(told.looked_at) == len(told.told) > 40
    assert {0.0, 1.0} <= set(told.told[:, 0])
    near = told.told[told.told[:, 0] == 1, 1:3]
    assert np.linalg.norm(near, axis=1).max() < 3.1, "a smeared ball's middle may be aside"


def test_a_ball_is_there_within_half_a_radius_and_none_from_nine_tenths_on():
    starts, own = np.array([[0.0, 0.0], [7.0, 0.0], [20.0, 0.0]]), np.full(3, 10.0, np.float32)
    told = _told(starts, own, np.array([[0.0, 3.0]]), np.array([10.0]), np.array([1.0]))
    assert told[:, 0].tolist() == [1.0, -1.0, 0.0]
    assert told[0, 1:3] == pytest.approx([0.0, 0.3])
    hidden = _told(starts, own, np.array([[0.0, 3.0]]), np.array([10.0]), np.array([0.1]))
    assert hidden[:, 4].tolist() == [0.0, 0.0, 1.0], "what is hardly seen need not be told"


def test_scattered_balls_do_not_overlap_and_many_are_hard_to_tell():
    match = {"discipline": "eight-ball", "racks": []}
    layouts = [
        shot["layout_before"]["balls"]
        for seed in range(4)
        for shot in scattered(match, np.random.default_rng(seed))["racks"][0]["shots"]
    ]
    touching = at_rail = 0
    for balls in layouts:
        places = list(balls.values())
        gaps = [math.dist(a, b) for n, a in enumerate(places) for b in places[:n]]
        assert min(gaps) >= POOL.ball_diameter
        touching += sum(gap < 1.3 * POOL.ball_diameter for gap in gaps)
        at_rail += sum(min(x, y, POOL.length - x, POOL.width - y) < POOL.radius + 0.01 for x, y in places)
    assert (touching > 5, at_rail > 5) == (True, True)


def test_other_cameras_film_otherwise_but_the_same():
    dice = np.random.default_rng(5)
    picture = np.full((90, 160, 3), (150, 90, 40), np.uint8)
    picture[30:60, 60:90] = 230
    taken = [roughened(picture, dice) for _ in range(30)]
    assert sum(np.array_equal(one, picture) for one in taken) < 15
    for one in taken:
        assert one.shape == picture.shape
        assert one[35:55, 65:85].mean() > one[:20].mean() + 40  # the white square stays where it is


@pytest.mark.parametrize(
    ("near", "covered", "hidden"), [((), None, 0.0), (("arm",), None, None), (("arm",), 0.3, 0.3), ((), 0.1, 0.1)]
)
def test_what_an_arm_hides_of_a_filmed_ball_is_known_only_where_it_is_told(tmp_path, near, covered, hidden):
    path = film(tmp_path / "room.mp4", [0.0, 5.0])
    told = {} if covered is None else {"covered": covered}
    truth = {
        "size": [320, 240],
        "corners": [[60, 40], [40, 200], [280, 200], [260, 40]],
        "frames": [{"t": 0.0, "near": near, "balls": [{"id": "3", "x": 1.2, "y": 0.4, **told}]}],
    }
    path.with_suffix(".json").write_text(json.dumps(truth))
    (one,) = filmed(path)
    assert one.balls == [Ball((1.2, 0.4), hidden)]
    assert one.picture.shape == (240, 320, 3)
