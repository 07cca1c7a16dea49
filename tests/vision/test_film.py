"""Synthetic recordings tell the truth: their own file is held against what a picture shows."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest

from aretane.core.table import PRESETS
from aretane.vision.balls.ball_sets import BALL_SETS, ball_set_of, colour_of, is_striped
from aretane.vision.files.frames import picture_at, rhythm_of
from aretane.vision.render.film import BEFORE, Recipe, frames_beside, moments_of, render_match
from aretane.vision.render.look import CLOTHS, WOODS, Look
from aretane.vision.render.places import camera_for
from aretane.vision.render.recipes import RECORDINGS, varied
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import project
from tests.conftest import DEMO

POOL = PRESETS["pool-9ft"]
SIZE = (640, 360)


@pytest.fixture(scope="module")
def match():
    return json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())


def rendered(folder, match, **recipe):
    path = folder / "film.mp4"
    return path, render_match(match, path, Recipe(size=SIZE, **recipe), 2)


def test_the_same_seed_makes_the_same_recording(tmp_path, match):
    first, second = tmp_path / "a", tmp_path / "b"
    first.mkdir()
    second.mkdir()
    one, told = rendered(first, match, rate=2, person=True, seed=5)
    other, again = rendered(second, match, rate=2, person=True, seed=5)
    assert told == again
    assert np.array_equal(picture_at(one, 1.0)[1], picture_at(other, 1.0)[1])
    third, _ = rendered(second, match, rate=2, person=True, seed=6)
    assert not np.array_equal(picture_at(one, 1.0)[1], picture_at(third, 1.0)[1])


def test_few_pictures_come_at_uneven_times_and_show_each_layout_twice(tmp_path, match):
    path, truth = rendered(tmp_path, match, rate=0.2)
    assert rhythm_of(path).rate == pytest.approx(0.2, rel=0.25)
    times = [frame["t"] for frame in truth["frames"]]
    assert np.std(np.diff(times)) > 0.3
    for shot in truth["shots"]:
        assert sum(shot["start"] <= at < shot["contact"] for at in times) >= 2


def test_the_truth_tells_who_hides_a_ball(tmp_path, match):
    _, truth = rendered(tmp_path, match, rate=5, person=True)
    hidden = [share for frame in truth["frames"] for share in frame["hidden"].values()]
    assert hidden
    assert all(0.05 < share <= 1 for share in hidden)
    _, alone = rendered(tmp_path, match, rate=5)
    assert not any(frame["hidden"] for frame in alone["frames"])


def test_the_truth_tells_how_the_picture_was_moved(tmp_path, match):
    path, truth = rendered(tmp_path, match, rate=5, bump=True, noise=0.5)
    before, after = truth["frames"][0], truth["frames"][-1]
    assert np.allclose(before["warp"], np.eye(2, 3))
    shift = np.array(after["warp"])[:, 2]
    assert np.abs(shift).max() > 4
    for frame in (before, after):  # the cue ball shows where the truth puts it
        _, picture = picture_at(path, frame["t"] + 1e-3)
        camera = camera_for(POOL, "short rail", SIZE, np.random.default_rng(Recipe().seed))
        pixel = project(camera, np.array([[*frame["balls"]["cue"], POOL.radius]]))[0]
        u, v = np.round(np.array(frame["warp"]) @ [*pixel, 1.0]).astype(int)
        assert picture[v - 3 : v + 1, u - 1 : u + 2, 2].mean() > 80, "blue cloth has a red of 30 at most"


def test_replays_come_from_elsewhere_and_are_told(tmp_path, match):
    _, truth = rendered(tmp_path, match, rate=5, replays=True)
    ((begin, end),) = truth["replays"]
    assert truth["shots"][1]["still"] < begin < end
    assert not any(begin < frame["t"] < end for frame in truth["frames"])


@pytest.mark.parametrize("view", ["short rail", "corner", "overhead"])
def test_the_whole_table_is_in_the_picture_also_when_it_is_cropped(view):
    camera = camera_for(POOL, view, SIZE, np.random.default_rng(2), cropped=0.05, radial=-0.05)
    corners = [(x, y, 0.036) for x in (0.0, POOL.length) for y in (0.0, POOL.width)]
    pixels = project(camera, np.array(corners))
    assert np.all((pixels > 0) & (pixels < SIZE))
    assert camera.centre[0] == pytest.approx(0.55 * SIZE[0])


@pytest.mark.parametrize("cloth", CLOTHS)
def test_a_ball_shows_its_colour_and_the_cloth_its_own(cloth):
    camera = camera_for(POOL, "overhead", SIZE, np.random.default_rng(2))
    scene = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS[cloth]))
    empty, full = scene.paint({}, {}), scene.paint({"3": (1.5, 0.5)}, {"3": np.eye(3)})
    u, v = np.round(project(camera, np.array([[1.5, 0.5, POOL.radius]]))[0]).astype(int)
    assert np.abs(empty.astype(int) - full)[v - 3 : v + 4, u - 3 : u + 4].mean() > 20
    far = np.abs(empty.astype(int) - full)
    far[v - 30 : v + 31, u - 30 : u + 31] = 0
    assert far.max() == 0, "a ball changes nothing elsewhere"
    middle = empty[SIZE[1] // 2 - 4 : SIZE[1] // 2 + 4, SIZE[0] // 2 + 20 : SIZE[0] // 2 + 40].mean(axis=(0, 1))
    assert math.dist(middle, CLOTHS[cloth]) < 60


def test_the_sets_of_balls():
    """Trade's standard sets (common practice): sixteen for pool, 22 for snooker, 16 for blackball."""
    assert {name: len(balls) for name, balls in BALL_SETS.items()} == {"pool": 16, "snooker": 22, "blackball": 16}
    assert [ball for ball in BALL_SETS["pool"] if is_striped(ball)] == [str(n) for n in range(9, 16)]
    assert all(colour_of(str(n)) == colour_of(str(n + 8)) for n in range(1, 8))
    assert [ball_set_of(game) for game in ("nine-ball", "snooker", "blackball")] == ["pool", "snooker", "blackball"]


@pytest.mark.parametrize(
    "other",
    [{"lamps": "three"}, {"measles": True}, {"wood": WOODS["light"]}, {"head_string": True}, {"other_make": True}],
)
def test_other_fittings_change_what_they_are_about_and_no_place(other):
    camera = camera_for(POOL, "short rail", SIZE, np.random.default_rng(3))
    balls = {"cue": (0.9, 0.4), "3": (1.5, 0.8)}
    turned = {ball: np.eye(3) for ball in balls}
    plain = Scene(POOL, camera, SIZE, Look()).paint(balls, turned).astype(int)
    changed = np.abs(Scene(POOL, camera, SIZE, Look(**other)).paint(balls, turned) - plain).max(axis=2) > 5
    assert changed.any()
    discs = np.zeros(SIZE[::-1], bool)
    for place in balls.values():
        u, v = project(camera, np.array([[*place, POOL.radius]]))[0]
        discs[int(v) - 14 : int(v) + 15, int(u) - 14 : int(u) + 15] = True
    on_balls = {"lamps", "measles", "other_make"} & set(other)
    assert changed[discs].any() == bool(on_balls)
    assert changed[~discs].any() != bool(on_balls)


def test_moments_are_before_and_after_every_shot_and_as_the_film_has_them(match):
    moments = list(moments_of(match, Recipe(size=SIZE, person=True), 2))
    truth, told = moments[-1][0], [(frame["t"], picture) for _, frame, picture in moments]
    assert len(told) == 4
    assert told[0][0] == pytest.approx(truth["shots"][0]["contact"] - BEFORE)
    assert told[1][0] > truth["shots"][0]["still"]
    assert [frame["t"] for frame in frames_beside(truth)] == pytest.approx([time for time, _ in told])
    assert all(picture.shape == (*SIZE[::-1], 3) for _, picture in told)


def test_another_club_is_fitted_out_otherwise_but_filmed_alike():
    _, recipe = RECORDINGS[0]
    clubs = [varied(recipe, seed, snooker=False) for seed in range(12)]
    assert varied(recipe, 3, snooker=False) == clubs[3]
    for name in (
        "lamps",
        "wood",
        "pockets",
        "cloth",
        "measles",
        "other_make",
        "make",
        "cream",
        "printed",
        "soft",
        "view",
        "seed",
    ):
        assert len({getattr(club, name) for club in clubs}) > 1, name
    assert {(club.size, club.rate) for club in clubs} == {(recipe.size, recipe.rate)}
    assert varied(RECORDINGS[7][1], 3, snooker=True).cloth == "green"
