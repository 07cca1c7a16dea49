"""Balls found in synthetic pictures whose truth is known: places, sizes, names; and what is no ball."""

from __future__ import annotations

import math

import cv2
import numpy as np
import pytest

from aretane.core.rack import racked
from aretane.core.table import PRESETS
from aretane.vision.balls.appearance import appearances
from aretane.vision.balls.ball_sets import BALL_SETS
from aretane.vision.balls.candidates import candidates_at
from aretane.vision.balls.finding import find_balls
from aretane.vision.balls.identity import names_for
from aretane.vision.balls.outline import outline
from aretane.vision.balls.racks import with_rack
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import random_turn
from aretane.vision.render.overlays import scribble
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import project
from aretane.vision.table.cloth import ball_radius, bed_of, cloth_colour, contrast, enlarged, lab, relit, surely
from aretane.vision.table.sight import prepare

POOL = PRESETS["pool-9ft"]
BALLS = {"cue": (0.6, 0.4), "1": (1.3, 0.9), "3": (1.9, 0.3), "8": (1.1, 0.2), "12": (2.2, 1.0), "5": (0.4, 1.0)}
SNOOKER = {"cue": (0.9, 0.6), "red-1": (2.5, 1.2), "yellow": (0.74, 0.6), "blue": (1.78, 0.89), "pink": (2.6, 0.7),
           "black": (3.2, 0.9)}  # fmt: skip


def shown(view="short rail", cloth="blue", table=POOL, balls=None, size=(1280, 720), **look):
    """A picture of the balls, its camera, and what is found in it."""
    dice = np.random.default_rng(3)
    camera = camera_for(table, view, size, dice)
    balls = balls or BALLS
    turned = {ball: random_turn(dice) for ball in balls}
    picture = Scene(table, camera, size, Look(cloth=CLOTHS[cloth], **look)).paint(balls, turned)
    return picture, camera, dice


def misses(found, balls, reach=0.03):
    """Distances of each ball to what was found for it (infinite if nothing was), and how many finds are no ball."""
    distances = [min((math.dist(one.place, place) for one in found), default=math.inf) for place in balls.values()]
    false = sum(all(math.dist(one.place, place) > reach for place in balls.values()) for one in found)
    return distances, false


@pytest.mark.parametrize("view", ["short rail", "corner", "overhead"])
@pytest.mark.parametrize("cloth", ["blue", "light blue", "green", "grey"])
def test_every_ball_is_found_where_it_stands_and_nothing_else(view, cloth):
    picture, camera, dice = shown(view, cloth, marks=((1.5, 0.5),), spots=((POOL.foot_spot, POOL.width / 2),))
    noisy = np.clip(picture + dice.normal(0, 2.5, picture.shape), 0, 255).astype(np.uint8)
    distances, false = misses(find_balls(prepare(noisy, POOL, camera), POOL, camera), BALLS)
    assert false == 0
    assert max(distances) < 0.02
    assert np.median(distances) < 0.008


def test_balls_frozen_to_far_and_near_rails_are_found():
    r = POOL.radius
    rails = {"cue": (1.0, r), "3": (1.6, POOL.width - r), "2": (POOL.length - r, 0.5), "7": (r, 0.9)}
    picture, camera, _ = shown(balls=rails)
    distances, false = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), rails)
    assert (max(distances) < 0.025, false) == (True, 0)


def in_line_of_sight(camera, place, turned, apart):
    """A second place `apart` from the first, away from the camera but for this angle."""
    away = math.atan2(place[1] - camera.position[1], place[0] - camera.position[0]) + math.radians(turned)
    return place[0] + apart * math.cos(away), place[1] + apart * math.sin(away)


@pytest.mark.parametrize("place", [(0.6, 0.5), (1.3, 0.9), (1.6, 0.6), (1.0, 0.2)])
@pytest.mark.parametrize("turned", [-15, 0, 15])
def test_two_balls_that_touch_in_the_line_of_sight_are_two(place, turned):
    camera = camera_for(POOL, "short rail", (854, 480), np.random.default_rng(3))
    pair = {"8": place, "6": in_line_of_sight(camera, place, turned, POOL.ball_diameter * 1.001), "cue": (0.3, 1.1)}
    picture, camera, dice = shown(balls=pair, size=(854, 480))
    noisy = np.clip(picture + dice.normal(0, 2.5, picture.shape), 0, 255).astype(np.uint8)
    distances, false = misses(find_balls(prepare(noisy, POOL, camera), POOL, camera), pair)
    assert (max(distances) < 0.03, false) == (True, 0)


@pytest.mark.parametrize("pockets", ["wide", "leather"])
@pytest.mark.parametrize("view", ["short rail", "corner"])
def test_pockets_of_another_make_are_no_balls_and_a_ball_before_one_is(view, pockets):
    foot = POOL.pockets["foot-left"]
    before = (foot.drop[0] - 0.13 * foot.axis[0], foot.drop[1] - 0.13 * foot.axis[1])
    balls = {**BALLS, "2": before}
    picture, camera, dice = shown(view, balls=balls, pockets=pockets)
    noisy = np.clip(picture + dice.normal(0, 2.5, picture.shape), 0, 255).astype(np.uint8)
    distances, false = misses(find_balls(prepare(noisy, POOL, camera), POOL, camera), balls)
    assert (max(distances) < 0.03, false) == (True, 0)


def test_two_touching_balls_are_two():
    pair = {"cue": (0.6, 0.4), "3": (1.4, 0.6), "5": (1.4, 0.6 + POOL.ball_diameter)}
    picture, camera, _ = shown(balls=pair)
    distances, false = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), pair)
    assert (max(distances) < 0.02, false) == (True, 0)


def test_drawn_lines_and_a_cue_over_the_table_are_no_balls():
    picture, camera, _ = shown()
    a, b = (tuple(int(v) for v in p) for p in project(camera, np.array([[0.3, 0.7, 0.03], [1.6, 0.75, 0.03]])))
    cv2.line(picture, a, b, (40, 240, 250), 2, cv2.LINE_AA)
    cv2.line(picture, (a[0], a[1] + 40), (b[0] - 30, b[1] + 60), (96, 150, 190), 5, cv2.LINE_AA)
    _, false = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), BALLS)
    assert false == 0


@pytest.mark.parametrize("cloth", ["light blue", "green"])
def test_arrows_and_rings_in_any_ink_are_seldom_balls(cloth):
    """Up to four strokes in each picture, of any ink and pen, over five balls: all of these, and hardly more."""
    false = 0
    for seed in range(6):
        picture, camera, _ = shown("corner", cloth, size=(960, 540))
        scribble(picture, np.random.default_rng(seed))
        distances, more = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), BALLS)
        assert sorted(distances)[4] < 0.02, "a ball may be hidden by a thick pen"
        false += more
    assert false <= 4


def test_the_uncertainty_covers_the_error():
    """Of the places found, most lie within two standard deviations of the truth."""
    picture, camera, _ = shown("corner")
    found = find_balls(prepare(picture, POOL, camera), POOL, camera)
    within = [min(math.dist(one.place, p) for p in BALLS.values()) < 2.5 * one.sigma + 0.002 for one in found]
    assert np.mean(within) > 0.8


def test_a_shadow_is_cloth_and_a_black_ball_is_not():
    picture, camera, _ = shown(balls={"8": (1.3, 0.6)})
    bed = bed_of(POOL, camera, (1280, 720))
    colours = lab(bed.crop(picture))
    cloth = cloth_colour(colours, bed)
    model, threshold = cloth.colour, cloth.threshold
    u, v = np.round(project(camera, np.array([[1.3, 0.6, POOL.radius]]))[0] - bed.corner).astype(int)
    assert surely(contrast(colours, model, bed)[0], threshold)[v + 4, u] == 1.0
    shaded = colours.copy()
    shaded[..., 0] *= 0.75
    shaded[..., 1:] *= 0.8
    empty = bed.cloth.copy()
    empty[v - 40 : v + 40, u - 40 : u + 40] = False
    assert surely(contrast(shaded, model, bed)[0], threshold)[empty].mean() < 0.03


@pytest.mark.parametrize(("discipline", "table", "balls"), [
    ("eight-ball", "pool-9ft", 15), ("nine-ball", "pool-9ft", 9), ("ten-ball", "pool-9ft", 10),
    ("snooker", "snooker-12ft", 15),
])  # fmt: skip
def test_a_tight_rack_is_told_as_one(discipline, table, balls):
    table = PRESETS[table]
    pack = {ball: at for ball, at in racked(table, discipline).balls.items() if ball.isdigit() or "red" in ball}
    picture, camera, _ = shown(table=table, cloth="green", balls={"cue": (0.5, 0.5), **pack})
    still = prepare(picture, table, camera)
    ball_set = "snooker" if discipline == "snooker" else "pool"
    found, told = with_rack(find_balls(still, table, camera), still, table, camera, ball_set)
    distances, false = misses(found, pack)
    assert told
    assert (len(pack), max(distances) < 0.012, false) == (balls, True, 1), "the cue ball is beside it"


def test_a_pack_whose_balls_lie_elsewhere_is_none():
    """Fifteen places may be full and tight by chance, but not when balls of the pack stand about."""
    table = PRESETS["snooker-12ft"]
    pack = {ball: at for ball, at in racked(table, "snooker").balls.items() if "red" in ball}
    about = {str(n): (0.6 + 0.2 * n, 0.3 + 0.1 * (n % 4)) for n in range(10)}
    picture, camera, _ = shown(table=table, cloth="green", balls=pack)
    still = prepare(picture, table, camera)
    found = find_balls(still, table, camera)
    assert with_rack(found, still, table, camera, "snooker")[1]
    others = candidates_at(list(about.values()), [1.0] * len(about), table, camera)
    assert not with_rack([*found, *others], still, table, camera, "snooker")[1]


def test_loose_balls_are_no_rack():
    picture, camera, _ = shown()
    still = prepare(picture, POOL, camera)
    assert not with_rack(find_balls(still, POOL, camera), still, POOL, camera, "pool")[1]


def test_a_pack_that_was_hit_is_no_rack():
    """Its balls lie near the places of a pack, but not at them."""
    table, dice = PRESETS["snooker-12ft"], np.random.default_rng(2)
    pack = {ball: at for ball, at in racked(table, "snooker").balls.items() if "red" in ball}
    apex = (table.length / 2 + 1.0, table.width / 2)
    spread = {
        ball: (apex[0] + 1.25 * (x - apex[0]) + dice.normal(0, 0.003), apex[1] + 1.25 * (y - apex[1]))
        for ball, (x, y) in pack.items()
    }
    picture, camera, _ = shown(table=table, cloth="green", balls=spread)
    still = prepare(picture, table, camera)
    found, told = with_rack(find_balls(still, table, camera), still, table, camera, "snooker")
    distances, false = misses(found, spread)
    assert (told, max(distances) < 0.025, false) == (False, True, 0)


@pytest.mark.parametrize("seed", range(4))
def test_a_green_ball_on_green_cloth_is_found_however_it_lies(seed):
    balls = {**BALLS, "6": (1.5 + 0.15 * seed, 0.45)}
    dice = np.random.default_rng(seed)
    camera = camera_for(POOL, "corner", (1280, 720), dice)
    turned = {ball: random_turn(dice) for ball in balls}
    picture = Scene(POOL, camera, (1280, 720), Look(cloth=CLOTHS["green"])).paint(balls, turned)
    distances, false = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), balls)
    assert (max(distances) < 0.03, false) == (True, 0)


def test_a_gloved_hand_at_the_end_of_an_arm_is_no_ball():
    """An arm comes in over the near rail."""
    picture, camera, _ = shown(cloth="blue")
    arm = project(camera, np.array([[-0.1, 0.5, 0.1], [0.35, 0.62, 0.05]])).astype(int)
    fingers = project(camera, np.array([[0.42, 0.60, 0.03], [0.43, 0.63, 0.03], [0.42, 0.66, 0.03]])).astype(int)
    cv2.line(picture, tuple(arm[0]), tuple(arm[1]), (44, 40, 40), 40, cv2.LINE_AA)
    for finger in fingers:
        cv2.line(picture, tuple(arm[1]), tuple(finger), (44, 40, 40), 14, cv2.LINE_AA)
    distances, false = misses(find_balls(prepare(picture, POOL, camera), POOL, camera), BALLS)
    assert false == 0
    assert sum(d < 0.02 for d in distances) >= len(BALLS) - 2, "the arm may cover some"


def test_the_outline_of_a_sphere_is_where_its_rays_touch_it():
    """Oracle: the rays through the outline's pixels pass the centre at exactly the radius."""
    _, camera, _ = shown("corner")
    place = (1.7, 0.9)
    for pixel in outline(camera, place, POOL.radius):
        flat = (np.array(pixel) - camera.centre) / camera.focal
        ray = camera.rotation.T @ np.array([*flat, 1.0])
        ray /= np.linalg.norm(ray)
        to = np.array([*place, POOL.radius]) - camera.position
        assert np.linalg.norm(to - (to @ ray) * ray) == pytest.approx(POOL.radius, abs=2e-5)


def test_what_is_known_is_kept_and_the_rest_is_looked_for_where_it_is_asked():
    picture, camera, _ = shown()
    still = prepare(picture, POOL, camera)
    every = find_balls(still, POOL, camera)
    kept = [one for one in every if one.place[0] < 1.2]
    where = np.zeros(still.known.shape, bool)
    assert find_balls(still, POOL, camera, kept, where) == kept
    where[:] = True
    found = find_balls(still, POOL, camera, kept, where)
    assert all(one in found for one in kept)
    assert misses(found, BALLS) == (pytest.approx(misses(every, BALLS)[0], abs=0.003), 0)


def test_a_white_sheet_over_half_of_an_uneven_cloth_is_not_the_cloth():
    picture, camera, _ = shown("corner", "light blue", balls={"cue": (0.6, 0.4)})
    bed = bed_of(POOL, camera, (1280, 720))
    colours = lab(bed.crop(picture))
    rows, columns = np.nonzero(bed.cloth)
    colours[rows, columns, 1:] += np.linspace(-9, 9, len(rows))[:, None]  # the light's colour changes over the bed
    sheet = bed.cloth & (np.arange(bed.cloth.shape[1]) < np.percentile(columns, 40))
    colours[sheet] = (92, 1, 3)
    cloth = cloth_colour(colours, bed)
    bare = bed.cloth & ~sheet
    unlike = surely(contrast(colours, cloth.colour, bed)[0], cloth.threshold)
    assert (unlike[sheet].mean() > 0.9, unlike[bare].mean() < 0.1) == (True, True)


def test_cloth_is_the_same_when_the_light_flickers():
    picture, camera, _ = shown()
    bed = bed_of(POOL, camera, (1280, 720))
    shown_bed = bed.crop(picture)
    before = cloth_colour(lab(shown_bed), bed)
    brighter = np.clip(shown_bed * 1.06, 0, 255).astype(np.uint8)
    offset = np.median(lab(brighter)[bed.cloth] - lab(shown_bed)[bed.cloth], axis=0)
    now = relit(before, brighter, bed)
    np.testing.assert_allclose((now.colour - before.colour).mean(axis=(0, 1)), offset, atol=1.0)  # 8 bit
    assert now.threshold == before.threshold
    brighter[:, : brighter.shape[1] // 3] //= 2  # somebody leans over it
    assert relit(before, brighter, bed) is None


def test_a_part_of_the_bed_has_the_cloth_of_the_smaller_picture():
    picture, camera, _ = shown()
    small = cv2.resize(picture, (640, 360), interpolation=cv2.INTER_AREA)
    bed, small_bed = bed_of(POOL, camera, (1280, 720)), bed_of(POOL, camera.scaled(0.5), (640, 360))
    part = bed.part(300, 150, 380, 200)
    assert part.box[2:] == (80, 50)
    assert np.array_equal(part.crop(picture), bed.crop(picture)[150:200, 300:380])
    whole = cloth_colour(lab(bed.crop(picture)), bed)
    other = enlarged(cloth_colour(lab(small_bed.crop(small)), small_bed), small_bed, part, 0.5)
    apart = other.colour - whole.colour[150:200, 300:380]
    assert np.abs(apart).mean() < 1.0  # unit of Lab


def test_the_size_of_a_ball_follows_its_distance():
    _, camera, _ = shown()
    near, far = (ball_radius(camera, (x, 0.6), POOL.radius) for x in (0.2, 2.3))
    assert near > 1.4 * far


def test_snooker_balls_are_named_by_their_colours():
    table = PRESETS["snooker-12ft"]
    picture, camera, _ = shown(cloth="green", table=table, balls=SNOOKER, size=(1920, 1080))
    still = prepare(picture, table, camera)
    found = find_balls(still, table, camera)
    named = names_for(appearances(still, found), BALL_SETS["snooker"])
    right = [
        min(SNOOKER, key=lambda ball: math.dist(SNOOKER[ball], found[index].place)).split("-")[0]
        == name.split("-")[0]
        for index, (name, _) in named.items()
    ]
    assert len(named) == len(SNOOKER)
    assert sum(right) >= len(right) - 1
    assert all(0 <= confidence <= 1 for _, confidence in named.values())


def test_no_name_is_given_twice():
    picture, camera, _ = shown()
    still = prepare(picture, POOL, camera)
    named = names_for(appearances(still, find_balls(still, POOL, camera)), BALL_SETS["pool"])
    sure = dict(named.values())
    assert sure["cue"] > 0.6, "nothing else is so white"
    assert len(named) == len(sure) == len(BALLS)
