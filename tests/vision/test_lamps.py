"""The lamp's image on polished balls: the law of reflection, and the lamp found from it."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import minimize

from aretane.core.table import PRESETS
from aretane.vision.balls.lamps import FAINT, Lamp, images_of, lamp_of, lit, shining
from aretane.vision.render.light import LAMP_HEIGHT
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import project
from aretane.vision.table.cloth import ball_radius
from aretane.vision.table.sight import prepare

POOL = PRESETS["pool-9ft"]
SIZE = (1280, 720)
PLACES = {"1": (0.6, 0.4), "2": (1.0, 0.9), "3": (1.3, 0.5), "4": (1.6, 0.8), "5": (1.9, 0.3), "7": (2.2, 0.9)}


def scene(cloth="blue", view="short rail", seed=3, lamps="row"):
    dice = np.random.default_rng(seed)
    camera = camera_for(POOL, view, SIZE, dice)
    turned = {ball: random_turn(dice) for ball in PLACES}
    picture = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS[cloth], lamps=lamps)).paint(PLACES, turned)
    return camera, prepare(picture, POOL, camera)


@pytest.mark.parametrize("place", [(0.3, 0.2), (1.27, 0.635), (2.3, 1.1)])
@pytest.mark.parametrize("lamp", [(1.2, 0.6, 0.9), (0.2, 1.0, 1.6)])
def test_light_takes_the_shortest_way_over_the_ball(place, lamp):
    """Oracle: Fermat's principle, the mirroring point found by SciPy as that of the shortest way."""
    camera, _ = scene()
    centre, r = np.array([*place, POOL.radius]), POOL.radius

    def point(angles):
        up, turn = angles
        return centre + r * np.array([np.cos(up) * np.cos(turn), np.cos(up) * np.sin(turn), np.sin(up)])

    def way(angles):
        return np.linalg.norm(point(angles) - camera.position) + np.linalg.norm(point(angles) - np.array(lamp))

    best = minimize(way, (1.2, np.arctan2(0.635 - place[1], -place[0])), method="Nelder-Mead",
                    options={"xatol": 1e-9, "fatol": 1e-14})  # fmt: skip
    found = images_of(np.array([lamp]), np.array([place]), POOL, camera)[0, 0]
    assert found == pytest.approx(project(camera, point(best.x)[None])[0], abs=0.05)


@pytest.mark.parametrize("view", ["short rail", "corner"])
def test_the_lamp_is_found_where_it_hangs(view):
    """The rendered lamps hang over the middle of the table; long ones, so that along it is less certain."""
    camera, still = scene(view=view)
    lamp = lamp_of(still, list(PLACES.values()), POOL, camera)
    assert lamp is not None
    assert lamp.place[1] == pytest.approx(POOL.width / 2, abs=0.2)
    assert 0.5 * LAMP_HEIGHT < lamp.place[2] < 2 * LAMP_HEIGHT
    assert lamp.light > FAINT


def test_balls_that_mirror_different_things_tell_of_no_lamp():
    """Their bright spots lie anywhere."""
    camera, still = scene()
    still.glints[:] = 0
    dice = np.random.default_rng(5)
    for place in PLACES.values():
        u, v = project(camera, np.array([[*place, POOL.radius]]))[0] - still.bed.corner
        reach = ball_radius(camera, place, POOL.radius)
        angle = dice.uniform(0, 2 * np.pi)
        spot = np.array([u + 0.7 * reach * np.cos(angle), v + 0.7 * reach * np.sin(angle)]).round().astype(int)
        still.glints[spot[1] - 1 : spot[1] + 2, spot[0] - 1 : spot[0] + 2] = 50
    assert lamp_of(still, list(PLACES.values()), POOL, camera) is None


def test_three_balls_are_too_few():
    camera, still = scene()
    assert lamp_of(still, list(PLACES.values())[:3], POOL, camera) is None


def test_a_lamp_shines_on_balls_and_not_on_cloth():
    camera, still = scene(cloth="green")
    lamp = lamp_of(still, list(PLACES.values()), POOL, camera)
    assert lamp is not None
    cloth = [(0.4, 0.9), (1.1, 0.2), (2.0, 0.6)]
    places = np.array([*PLACES.values(), *cloth])
    centres = project(camera, np.column_stack([places, np.full(len(places), POOL.radius)])) - still.bed.corner
    shine = lit(still, lamp, places, centres, POOL, camera)
    assert shine[: len(PLACES)].min() > 0.2
    assert shine[len(PLACES) :].max() < -0.35
    near = [np.linalg.norm(shining(still, lamp, POOL, camera) - centre, axis=1).min() for centre in centres]
    assert max(near[: len(PLACES)]) < 0.4 * ball_radius(camera, (2.2, 0.9), POOL.radius)


def test_nobody_can_tell_without_a_lamp_or_on_white():
    camera, still = scene()
    places = np.array([(1.3, 0.5)])
    centre = project(camera, np.array([[1.3, 0.5, POOL.radius]])) - still.bed.corner
    assert lit(still, None, places, centre, POOL, camera) == [0.0]
    still.colours[..., 0] = 96.0
    assert lit(still, Lamp(np.array([1.2, 0.6, 0.9]), 40.0), places, centre, POOL, camera) == [0.0]


@pytest.mark.parametrize("lamps", ["two", "three"])
def test_of_several_lamps_one_is_found_that_shines_on_every_ball(lamps):
    camera, still = scene(lamps=lamps)
    lamp = lamp_of(still, list(PLACES.values()), POOL, camera)
    places = np.array(list(PLACES.values()))
    centres = project(camera, np.column_stack([places, np.full(len(places), POOL.radius)])) - still.bed.corner
    assert lamp is not None
    assert lit(still, lamp, places, centres, POOL, camera).min() > 0.2
