"""What is found in a video file, and what is refused."""

from __future__ import annotations

from fractions import Fraction
from itertools import pairwise

import av
import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.vision.files.recording import probe
from tests.vision.films import film, numbered, sound, steady


def test_an_ordinary_file_is_described(tmp_path):
    found, times = probe(film(tmp_path / "a.mp4", steady(60)))
    assert (found.width, found.height, found.frames, found.codec) == (320, 240, 60, "h264")
    assert found.frame_rate == pytest.approx(30)
    assert found.duration == pytest.approx(2.0, abs=0.01)
    assert times == pytest.approx(steady(60), abs=1e-3)
    assert found.sparse is None
    assert found.plays_in_browser


def test_frame_times_are_the_files_own_however_irregular(tmp_path):
    true = list(np.cumsum(np.random.default_rng(0).uniform(0.02, 0.3, 50)))
    _, times = probe(film(tmp_path / "a.mp4", true))
    assert times == pytest.approx(true, abs=1e-3)


@pytest.mark.parametrize(("name", "codec"), [("a.mp4", "libx264"), ("a.webm", "libvpx-vp9")])
def test_a_start_offset_is_kept(tmp_path, name, codec):
    found, times = probe(film(tmp_path / name, steady(45, start=1.5), codec))
    assert found.start == pytest.approx(1.5, abs=2e-3)
    assert times[0] == found.start


def test_one_picture_every_few_seconds_is_said(tmp_path):
    found, _ = probe(film(tmp_path / "a.mp4", [3.0 * n for n in range(8)]))
    assert found.sparse == pytest.approx(3.0)


def test_wide_pixels_and_a_turned_phone(tmp_path):
    wide, _ = probe(film(tmp_path / "a.mp4", steady(20), aspect=Fraction(4, 3)))
    assert wide.pixel_aspect == pytest.approx(4 / 3)
    turned, _ = probe(turn(film(tmp_path / "b.mp4", steady(20)), tmp_path / "c.mp4"))
    assert turned.rotation in (90, 270)
    assert (turned.width, turned.height) == (240, 320)


def turn(source, target):
    """The same file with a display matrix that turns it by a quarter (ISO 14496-12: the track header's matrix)."""
    raw = bytearray(source.read_bytes())
    place = raw.index(b"tkhd") + 4 + 4 + 20 + 8 + 8  # version, times and ids, reserved, layer and volume
    quarter = (0, 1 << 16, 0, -(1 << 16), 0, 0, 0, 0, 1 << 30)
    raw[place : place + 36] = b"".join(value.to_bytes(4, "big", signed=True) for value in quarter)
    target.write_bytes(raw)
    return target


def cut(source, target, share=0.5):
    raw = source.read_bytes()
    target.write_bytes(raw[: int(len(raw) * share)])
    return target


@pytest.mark.parametrize("name", ["text.mp4", "empty.mp4", "sound.m4a", "cut.mp4", "cut-fast.mp4", "cut.webm"])
def test_what_is_no_usable_recording_is_refused_with_the_reason(tmp_path, name):
    path = tmp_path / name
    fast = {"movflags": "+faststart"}
    reasons = {"text.mp4": "no video", "empty.mp4": "empty", "sound.m4a": "no picture"}
    if name == "text.mp4":
        path.write_text("This is a shopping list.\n" * 50)
    elif name == "empty.mp4":
        path.touch()
    elif name == "sound.m4a":
        sound(path)
    elif name == "cut.mp4":
        cut(film(tmp_path / "whole.mp4", steady(200), grainy=True), path)
    elif name == "cut-fast.mp4":
        cut(film(tmp_path / "whole.mp4", steady(200), grainy=True, container=fast), path)
    else:
        cut(film(tmp_path / "whole.webm", steady(200), "libvpx-vp9", grainy=True), path)
    with pytest.raises(InputError, match=reasons.get(name, "cut off")) as refused:
        probe(path)
    assert refused.value.field == "recording"


def test_the_demo_recording_fits_its_truth(demo_match):
    """Shipped below 4 MB, in a codec that browsers play, with every shot's times inside it."""
    from tests.conftest import DEMO

    path = DEMO / "rack.mp4"
    found, times = probe(path)
    assert path.stat().st_size <= 4_000_000
    assert found.plays_in_browser
    marks = [shot["time"] for shot in demo_match["racks"][4]["shots"]]
    assert all(t["start"] < t["contact"] < t["still"] for t in marks)
    assert all(a["still"] < b["start"] for a, b in pairwise(marks))
    assert marks[-1]["still"] < times[-1]


def test_a_frame_shows_its_number(tmp_path):
    """The bar code that the browser's test reads survives the codec."""
    path = film(tmp_path / "a.mp4", steady(30))
    with av.open(str(path)) as file:
        for number, frame in enumerate(file.decode(video=0)):
            picture = frame.to_ndarray(format="rgb24")
            clean = numbered(number, 320, 240)
            assert ((picture[30, 10::20, 0] > 128) == (clean[30, 10::20, 0] > 128)).all()
