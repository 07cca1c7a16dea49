"""Moments cut out of a film: numbered pictures tell which ones are shown, and for how long."""

from __future__ import annotations

from dataclasses import replace

import av
import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.table import table_from
from aretane.formats.printed.pages import LETTERS
from aretane.vision.clip.cutting import AFTER, BEFORE, LEAD, PICTURES, TAIL, cut
from aretane.vision.clip.moment import Line, Moment
from aretane.vision.clip.painting import bar_under, composed, painted
from aretane.vision.table.camera import camera_from, project
from tests.vision.films import BITS, film

TABLE = table_from("pool-9ft")


@pytest.fixture(scope="module")
def moment(tmp_path_factory):
    path = film(tmp_path_factory.mktemp("clip") / "film.mp4", [at / 30 for at in range(30 * 12)])
    return Moment(str(path), 3.0, 5.0, 8.0, TABLE, "Rack 1, shot 1", ("Played: this.",), "−3 points")


def cut_out(moments, folder, **more):
    target, progress = folder / "clip.mp4", folder / "progress"
    seconds = cut(moments, str(target), str(progress), str(LETTERS), **more)
    assert not progress.exists()
    with av.open(str(target)) as file:
        return seconds, [frame.to_ndarray(format="gray") for frame in file.decode(video=0)]


def number(picture):
    """The number in the bar code of a picture."""
    wide = picture.shape[1] / BITS
    return sum((picture[20, round((bit + 0.5) * wide)] > 128) << bit for bit in range(BITS))


def test_it_is_held_runs_at_its_own_speed_and_is_held_again(moment, tmp_path):
    """From 3.5 s (a second and a half before the contact) to 8.4 s of a film of 30 pictures a second."""
    seconds, shown = cut_out([moment], tmp_path)
    numbers = [number(one) for one in shown]
    held, end = round(PICTURES * BEFORE), len(shown) - round(PICTURES * AFTER)
    assert numbers[:held] == [90] * held
    assert set(numbers[end:]) == {numbers[-1]}
    ran = numbers[held:end]
    assert ran[0] == round(30 * (5.0 - LEAD))
    assert ran[-1] == pytest.approx(30 * (8.0 + TAIL), abs=2)
    assert all(
        round(at * 30 / PICTURES) - 2 <= one - ran[0] <= round(at * 30 / PICTURES) + 2 for at, one in enumerate(ran)
    )
    assert seconds == pytest.approx(len(shown) / PICTURES)


def test_several_moments_follow_each_other(moment, tmp_path):
    later = replace(moment, start=6.0, contact=7.0, still=9.0)
    each = [len(cut_out([one], tmp_path)[1]) for one in (moment, later)]
    _, both = cut_out([later, moment], tmp_path)
    assert len(both) == sum(each)
    assert number(both[0]) == 180
    assert number(both[-1]) == number(cut_out([moment], tmp_path)[1][-1])


def test_a_moment_that_the_film_does_not_have_leaves_nothing(moment, tmp_path):
    for wrong in (replace(moment, source=str(tmp_path / "gone.mp4")), replace(moment, start=50.0, contact=51.0)):
        with pytest.raises(InputError, match="does not have this moment"):
            cut_out([wrong], tmp_path)
    assert list(tmp_path.iterdir()) == []


def test_words_stand_under_the_picture_and_long_ones_go_on_in_the_next_line():
    picture = np.zeros((540, 960, 3), np.uint8)
    size = (960, 540 + bar_under(540))
    short = composed(picture, ["Rack 1"], size, str(LETTERS))
    long = composed(picture, ["a word and another " * 12], size, str(LETTERS))
    assert short.shape == (size[1], size[0], 3)
    assert (short[:540] == 0).all(), "nothing of the picture is hidden"
    rows = [(np.asarray(one)[540:].min(axis=(1, 2)) < 100).sum() for one in (short, long)]
    assert rows[1] > 2 * rows[0] > 0


def test_lines_are_laid_where_the_camera_sees_the_cloth():
    """Straight from above: a line along the table's middle is where its middle is projected, nowhere else."""
    turned = np.array([[1.0, 0, 0], [0, -1.0, 0], [0, 0, -1.0]])
    camera = camera_from(300.0, (480.0, 270.0), turned, np.array([-1.27, 0.635, 3.0]))
    middle = ((0.3, 0.635), (2.2, 0.635))
    black = np.zeros((540, 960, 3), np.uint8)
    seen = painted(black, camera, [Line(middle, (200, 0, 0))], TABLE.radius)
    u, v = project(camera, np.array([(1.27, 0.635, TABLE.radius)]))[0]
    assert seen[round(v), round(u), 2] == 200
    assert (seen[: round(v) - 8] == 0).all()
    dashed = painted(black, camera, [Line(middle, (200, 0, 0), dashed=True)], TABLE.radius)
    assert 0.3 < (dashed[round(v), :, 2] == 200).sum() / (seen[round(v), :, 2] == 200).sum() < 0.75
    assert painted(black, None, [Line(middle, (200, 0, 0))], TABLE.radius) is black
