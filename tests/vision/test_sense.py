"""Recordings that are not what they are taken for: said plainly, and nothing said of those that are."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from aretane.core.ball import OBJECT_BALLS
from aretane.core.errors import InputError
from aretane.core.rack import colour_spots
from aretane.core.table import PRESETS
from aretane.vision.balls.appearance import Appearance
from aretane.vision.balls.ball_sets import colour_of
from aretane.vision.balls.identity import _lab
from aretane.vision.files.frames import picture_at
from aretane.vision.render.places import camera_for
from aretane.vision.shots.sense import misgivings
from aretane.vision.shots.wanted import Wanted
from aretane.vision.shots.watch import Placed, Shot
from aretane.vision.table.camera import project
from aretane.vision.table.corners import suggest_marks
from aretane.vision.table.marks import mark_places
from tests.conftest import DEMO

POOL, SNOOKER, SIZE = PRESETS["pool-9ft"], PRESETS["snooker-12ft"], (1280, 720)
CORNERS = [f"corner:{end}-{side}" for end in ("head", "foot") for side in ("left", "right")]


def wanted_for(table, ball_set, turned=False):
    camera = camera_for(table, "short rail", SIZE, np.random.default_rng(3))
    places = mark_places(table)
    marks = {name: tuple(project(camera, np.array([places[name]]))[0]) for name in CORNERS}
    if turned:
        marks = {name: (SIZE[0] - u, SIZE[1] - v) for name, (u, v) in marks.items()}
    return Wanted("", table, ball_set, marks)


def layout(places, looks=None):
    return tuple(
        Placed(n, place, 0.002, 9, looks[n] if looks else Appearance(0.05, 0.0, np.zeros(3)))
        for n, place in enumerate(places)
    )


def row(count, x):
    return [(x, 0.1 + 0.06 * n) for n in range(count)]


def shot(before, after, kind="shot"):
    return Shot(0.0, 0.5, 4.0, 0.95, 1, 0, kind, before, after, (0,), (0,))


def rack(count, x):
    return shot(layout(row(2, 1.0)), layout(row(count, x)), "re-rack")


@pytest.mark.parametrize(
    ("discipline", "shots", "word"),
    [
        ("nine-ball", [shot(layout(row(10, 1.9)), layout(row(9, 1.9)))], None),
        (
            "nine-ball",
            [shot(layout(row(15, 1.9)), layout(row(14, 1.9)))],
            "15 balls are seen at once, and nine ball",
        ),
        (None, [shot(layout(row(15, 1.9)), layout(row(14, 1.9)))], None),
        ("eight-ball", [rack(15, 1.9)], None),
        ("eight-ball", [rack(9, 1.9)], "new racks have 9 balls, and eight ball has 15"),
        ("eight-ball", [rack(15, 0.6)], "half a turn off"),
    ],
)
def test_another_game_and_a_table_marked_the_wrong_way_round(discipline, shots, word):
    said = misgivings(wanted_for(POOL, "pool"), discipline, shots, SIZE)
    assert said == [] if word is None else word in said[0]


def test_a_picture_that_is_upside_down_by_its_marks():
    assert any("upside down" in one for one in misgivings(wanted_for(POOL, "pool", turned=True), None, [], SIZE))


@pytest.mark.parametrize("mirrored", [False, True])
def test_snookers_spots_tell_a_mirrored_recording(mirrored):
    """Yellow's spot is the right one as seen from baulk: WPBSA rules of snooker, section 1."""
    spots = colour_spots(SNOOKER)
    places = {"cue": (1.0, 0.9), **spots, **{f"red-{n}": (2.6 + 0.055 * n, 1.2) for n in range(1, 5)}}
    if mirrored:
        places = {name: (x, SNOOKER.width - y) for name, (x, y) in places.items()}
    looks = [
        Appearance(float(name == "cue"), float(name == "black"), _lab(colour_of(name.split("-")[0])))
        for name in places
    ]
    seen = layout(places.values(), looks)
    said = misgivings(wanted_for(SNOOKER, "snooker"), "snooker", [shot(seen, seen)] * 3, SIZE)
    assert any("mirrored" in one for one in said) is mirrored
    assert len(OBJECT_BALLS["snooker"]) == 21


def test_two_tables_in_equal_view_are_not_chosen_between():
    """The same table twice, beside itself."""
    _, shown = picture_at(DEMO / "rack.mp4", 0.0)
    half = cv2.resize(shown, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
    height = half.shape[0]
    one = np.full_like(shown, 40)
    one[height // 2 : height // 2 + height, half.shape[1] // 2 : half.shape[1] // 2 + half.shape[1]] = half
    assert len(suggest_marks(one, POOL)) >= 4
    two = np.full_like(shown, 40)
    two[height // 2 : height // 2 + height] = np.hstack([half, half])[:, : shown.shape[1]]
    with pytest.raises(InputError, match="two tables"):
        suggest_marks(two, POOL)
