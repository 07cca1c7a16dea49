"""Parts of a reading: what a coach is told about a recording, and the moment of the stroke."""

from __future__ import annotations

import math

import av
import cv2
import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.table import PRESETS
from aretane.vision.render.places import camera_for
from aretane.vision.shots.following import Progress, Ready, read
from aretane.vision.shots.moments import with_contact
from aretane.vision.shots.part import Tally, watch_for, words_about
from aretane.vision.shots.wanted import Wanted
from aretane.vision.shots.watch import Placed, Shot, Watch
from aretane.vision.table.camera import project
from aretane.vision.table.cloth import ball_radius
from tests.vision.films import film

POOL = PRESETS["pool-9ft"]
SIZE = (640, 360)
SURE = {"looked": 40, "ratios": (1.0,) * 20, "sizes": frozenset({SIZE}), "cloth": (0.9,) * 40}


@pytest.mark.parametrize(
    ("tally", "shots", "word"),
    [
        ({}, 3, ""),
        ({"ratios": (1.02,) * 20}, 3, ""),
        ({"ratios": (1.09,) * 20}, 3, "9 % larger"),
        ({"ratios": (0.9,) * 20}, 3, "10 % smaller"),
        ({"ratios": (1.2,) * 4}, 3, ""),
        ({"lost": 40}, 0, "not seen again"),
        ({"lost": 30}, 3, "75 % of the pictures"),
        ({"cloth": (0.1,) * 40}, 0, "does not look like a table's cloth"),
        ({}, 0, "no ball left its place"),
        ({"ratios": ()}, 0, "no ball is seen on this table"),
        ({"sizes": frozenset({SIZE, (320, 180)})}, 3, "size changes"),
    ],
)
def test_what_is_said_of_a_recording(tally, shots, word):
    said = words_about(Tally(**{**SURE, **tally}), shots)
    assert (word in said) if word else said == ""


def test_tallies_add_up():
    both = Tally(3, 1, frozenset({SIZE}), (1.0,), (0.9,)).with_(Tally(4, 2, frozenset({(8, 8)}), (1.1,), (0.8,)))
    assert (both.looked, both.lost, len(both.sizes)) == (7, 3, 2)
    assert (both.ratios, both.cloth) == ((1.0, 1.1), (0.9, 0.8))


def test_a_single_picture_is_no_recording_to_read(tmp_path):
    with pytest.raises(InputError, match="no picture, or only one"):
        watch_for(Wanted(str(film(tmp_path / "one.mp4", [0.0])), POOL, "pool", {}))


@pytest.mark.parametrize(("every", "back"), [(0.5, 0.55), (5.0, 5.5)])
def test_a_part_begins_with_a_look_back(tmp_path, every, back):
    """What was empty when the last part ended is known in the next one too."""
    path = film(tmp_path / "parts.mp4", [n * every for n in range(8)])

    class Eye:
        standing = ()

        def ready(self, at, _):
            return Ready(at, np.zeros((2, 2, 3), np.uint8), None)

    class Reader:
        watch = Watch(every)

        def __init__(self):
            self.recalled, self.taken = [], []

        def recall(self, ready):
            self.recalled.append(ready.time)

        def take(self, ready):
            self.taken.append(ready.time)
            return Progress(ready.time, [], True)

        def finish(self, time):
            return []

    for begin, before in ((4 * every, [3 * every]), (0.0, [])):
        reader = Reader()
        list(read(path, Eye(), reader, begin, math.inf, back))
        assert reader.recalled == pytest.approx(before)
        assert reader.taken == pytest.approx([n * every for n in range(8) if n * every >= begin])


@pytest.fixture(scope="module")
def struck(tmp_path_factory):
    """A disc where a ball stands, which is gone from 1.24 s on; 25 pictures a second."""
    camera = camera_for(POOL, "short rail", SIZE, np.random.default_rng(1))
    place = (0.9, 0.5)
    u, v = project(camera, np.array([[*place, POOL.radius]]))[0]
    radius = ball_radius(camera, place, POOL.radius)
    path = tmp_path_factory.mktemp("struck") / "struck.mp4"
    with av.open(str(path), "w") as file:
        stream = file.add_stream("libx264", rate=25)
        stream.width, stream.height, stream.pix_fmt = *SIZE, "yuv420p"
        for number in range(60):
            picture = np.full((SIZE[1], SIZE[0], 3), (120, 80, 40), np.uint8)
            if number < 31:
                cv2.circle(picture, (round(u), round(v)), round(radius), (230, 240, 240), -1)
            file.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="bgr24")))
        file.mux(stream.encode(None))
    ball = Placed(1, place, 0.004, 9)
    return path, camera, Shot(0.5, 1.5, 3.0, 0.9, 1, 0, "shot", (ball,), (), (1,), ())


def test_the_contact_is_the_first_picture_without_the_ball(struck):
    path, camera, shot = struck
    assert with_contact(path, shot, camera, POOL.radius).contact == pytest.approx(31 / 25, abs=0.021)


def test_the_contact_stays_where_nothing_is_to_be_learnt(struck):
    path, camera, shot = struck
    other = Shot(0.5, 1.1, 3.0, 0.9, 1, 0, "shot", shot.before, (), (1,), ())
    assert with_contact(path, other, camera, POOL.radius).contact == 1.1, "nothing changes before it"
    nobody = Shot(0.5, 1.5, 3.0, 0.9, 0, 0, "shot", shot.before, (), (), ())
    assert with_contact(path, nobody, camera, POOL.radius) == nobody
