"""Where the camera looks: a moved picture is put back, another view is told. Oracle: the motion that was made."""

from __future__ import annotations

from fractions import Fraction

import av
import cv2
import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.table import PRESETS
from aretane.vision.render.look import CLOTHS, WOODS, Look
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.alone import table_alone
from aretane.vision.table.camera import project, solve_camera
from aretane.vision.table.corners import snap_marks, suggest_marks
from aretane.vision.table.marks import mark_places
from aretane.vision.table.registration import Registrar, straightened

POOL = PRESETS["pool-9ft"]
SIZE = (960, 540)
BALLS = {"cue": (0.6, 0.4), "1": (1.3, 0.9), "3": (1.9, 0.3)}


def taken(view="short rail", cloth="blue", size=SIZE, seed=3, **look):
    camera = camera_for(POOL, view, size, np.random.default_rng(seed))
    scene = Scene(POOL, camera, size, Look(cloth=CLOTHS[cloth], seed=seed, **look))
    return scene.finished(scene.paint(BALLS, {})), camera


@pytest.mark.parametrize(("shift", "zoom"), [((3.0, -2.0), 1.0), ((-9.0, 7.0), 1.0), ((0.0, 0.0), 1.1)])
def test_a_moved_picture_is_put_back(shift, zoom):
    picture, camera = taken()
    middle = np.array(SIZE) / 2
    motion = np.column_stack([zoom * np.eye(2), middle * (1 - zoom) + shift])
    moved = cv2.warpAffine(picture, motion, SIZE, borderMode=cv2.BORDER_REPLICATE)
    found = Registrar(picture, POOL, camera).register(moved)
    assert found is not None
    corners = np.array([[100, 100], [860, 100], [860, 440], [100, 440]], float)
    off = corners @ (found[:, :2] - motion[:, :2]).T + found[:, 2] - motion[:, 2]
    assert np.abs(off).max() < 0.5
    back = straightened(moved, found)
    assert np.abs(back[80:-80, 80:-80].astype(int) - picture[80:-80, 80:-80]).mean() < 3


def test_a_picture_that_has_not_moved_is_left_alone():
    picture, camera = taken()
    noisy = np.clip(picture + np.random.default_rng(1).normal(0, 2, picture.shape), 0, 255).astype(np.uint8)
    assert np.array_equal(Registrar(picture, POOL, camera).register(noisy), np.eye(2, 3))


def test_another_view_is_told_and_a_caption_does_not_deceive():
    picture, camera = taken()
    other, _ = taken("corner", seed=5)
    for one in (picture, other):
        cv2.rectangle(one, (60, 480), (500, 520), (40, 24, 20), -1)
        cv2.putText(one, "Harbour Row  3 : 2", (80, 508), cv2.FONT_HERSHEY_SIMPLEX, 0.8, (240, 240, 240), 1)
    registrar = Registrar(picture, POOL, camera)
    assert registrar.register(other) is None
    assert registrar.register(np.full_like(picture, 40)) is None
    assert registrar.register(picture) is not None


@pytest.mark.parametrize(("view", "cloth"), [("short rail", "blue"), ("corner", "green"), ("overhead", "grey")])
def test_the_suggested_corners_are_near_the_true_ones(view, cloth):
    picture, camera = taken(view, cloth, second_table=False)
    found = suggest_marks(picture, POOL)
    places = mark_places(POOL)
    true = {name: project(camera, np.array([places[name]]))[0] for name in found}
    turned = solve_camera(POOL, found, SIZE).position[0] * camera.position[0] < 0 and view != "overhead"
    assert not turned, "the head is the end near the camera"
    corners = np.array([at for name, at in true.items() if name.startswith("corner")])
    for name, at in found.items():
        if name.startswith("corner"):
            assert np.linalg.norm(corners - at, axis=1).min() < 6, name


def test_wood_of_a_colour_like_the_cloth_s_and_light_wood_do_not_take_the_outline_along():
    for seed, cloth, wood in ((3, "grey", "black"), (5, "blue", "light")):
        picture, camera = taken("short rail", cloth, seed=seed, wood=WOODS[wood])
        found = suggest_marks(picture, POOL)
        for name, at in mark_places(POOL).items():
            if name.startswith("corner"):
                assert np.linalg.norm(project(camera, np.array([at]))[0] - found[name]) < 8, (wood, name)


def shown(path, pictures, every):
    with av.open(str(path), "w") as file:
        stream = file.add_stream("libx264", rate=Fraction(1, every), options={"qp": "12"})
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        for picture in pictures:
            file.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="bgr24")))
        file.mux(stream.encode(None))
    return path


def test_who_walks_about_the_table_is_taken_out(tmp_path):
    """Somebody stands elsewhere in each picture, the camera is bumped, and another view is shown in between."""
    picture, _ = taken(second_table=False)
    other, _ = taken("corner", seed=5)
    pictures = []
    for n in range(7):
        one = picture.copy()
        cv2.rectangle(one, (60 + 120 * n, 120), (170 + 120 * n, 540), (30, 30, 180), -1)
        pictures.append(one if n < 3 else np.roll(one, (2, 3), (0, 1)))
    pictures.insert(2, other)
    alone, scale = table_alone(shown(tmp_path / "walk.mp4", pictures, 8), 0.0)
    assert scale == 1.0
    off = np.abs(alone.astype(int) - picture).mean(axis=2)[20:-20, 20:-20]
    assert np.percentile(off, 99) < 25
    assert off.mean() < 4
    short, _ = table_alone(shown(tmp_path / "short.mp4", pictures[:2], 8), 0.0)
    assert np.abs(short.astype(int) - pictures[0]).mean() < 3, "too few to tell: as it is"


def test_marks_set_by_eye_are_moved_onto_edges():
    picture, camera = taken("corner", "green")
    places = mark_places(POOL)
    names = [name for name in places if name.startswith("corner")]
    true = {name: project(camera, np.array([places[name]]))[0] for name in names}
    dice = np.random.default_rng(2)
    rough = {name: tuple(at + dice.uniform(-9, 9, 2)) for name, at in true.items()}
    snapped = snap_marks(picture, POOL, rough)
    off = [np.linalg.norm(np.array(snapped[name]) - true[name]) for name in names]
    before = [np.linalg.norm(np.array(rough[name]) - true[name]) for name in names]
    assert np.mean(off) < 0.9 * np.mean(before)


def test_a_picture_without_a_table_is_said():
    with pytest.raises(InputError, match="no table is to be seen"):
        suggest_marks(np.random.default_rng(0).integers(0, 255, (360, 640, 3), dtype=np.uint8), POOL)
    with pytest.raises(InputError, match="no table is to be seen"):
        suggest_marks(np.full((360, 640, 3), 90, np.uint8), POOL)
