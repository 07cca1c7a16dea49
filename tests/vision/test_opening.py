"""Only what a camera or a screen recorder writes is opened, and nothing larger than they write."""

from __future__ import annotations

from pathlib import Path

import av
import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.vision.files.frames import picture_at
from aretane.vision.files.opening import MOST_PIXELS, opened
from aretane.vision.files.recording import probe
from tests.vision.films import BITS, film, numbered, steady


def refused(path) -> str:
    with pytest.raises(InputError) as told:
        probe(path)
    return told.value.message


def number_in(picture) -> int:
    fields = picture[8, (2 * np.arange(BITS) + 1) * picture.shape[1] // (2 * BITS), 0] > 128
    return int((fields * 2 ** np.arange(BITS)).sum())


def test_pictures_larger_than_any_camera_are_not_decoded(tmp_path):
    """Half a kilobyte that says 5200 x 5200 would take a decoder some hundred megabytes a picture."""
    path = film(tmp_path / "huge.mp4", [0.0], size=(5200, 5200), options={"preset": "ultrafast"})
    assert "5200 x 5200 are too large" in refused(path)


def test_a_picture_that_grows_on_the_way_is_not_decoded_either(tmp_path):
    """Matroska tells one size; the stream's own is believed by decoders."""
    path = film(
        tmp_path / "a.webm", [0.0], "libvpx", size=(5200, 5200), options={"deadline": "realtime", "cpu-used": "16"}
    )
    with pytest.raises(InputError):
        picture_at(path, 0.0)
    assert refused(path)


def test_what_cameras_write_is_opened(tmp_path):
    for name, codec in (("a.mp4", "libx264"), ("a.mov", "libx265"), ("a.webm", "libvpx-vp9"), ("a.ts", "libx264")):
        found, _ = probe(film(tmp_path / name, steady(5), codec))
        assert found.frames == 5
    assert (found.codec, found.container) == ("h264", "mpegts")


def test_every_picture_of_a_stream_without_an_index_is_found(tmp_path):
    """As camcorders write it. Oracle: the number in the picture."""
    path = film(tmp_path / "a.ts", steady(120), options={"bf": "0"})
    found, times = probe(path)
    assert (found.frames, len(times), found.plays_in_browser) == (120, 120, False)
    for number in (0, 1, 50, 119):
        at, picture = picture_at(path, times[number])
        assert (at, number_in(picture)) == (pytest.approx(times[number]), number)


def test_a_picture_is_no_recording(tmp_path):
    """PNG, by its own signature; a decoder of films would gladly show it."""
    path = tmp_path / "photo.mp4"
    with av.open(str(path), "w", format="image2", options={"update": "1"}) as file:
        stream = file.add_stream("png", rate=1)
        stream.width, stream.height, stream.pix_fmt = 64, 64, "rgb24"
        file.mux(stream.encode(av.VideoFrame.from_ndarray(numbered(1, 64, 64), format="rgb24")))
        file.mux(stream.encode(None))
    assert path.read_bytes()[:4] == b"\x89PNG"
    assert refused(path) == "this is no video"


def test_an_uncommon_codec_is_named_as_the_trouble(tmp_path):
    assert "save it as H.264" in refused(film(tmp_path / "a.avi", steady(3), "ffv1"))


def test_lists_that_lead_elsewhere_are_not_followed(tmp_path):
    """Playlists and lists of parts may name other files and addresses."""
    whole = film(tmp_path / "a.mp4", steady(5))
    playlist = tmp_path / "list.m3u8"
    playlist.write_text(f"#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\n{whole}\n#EXT-X-ENDLIST\n")
    assert refused(playlist) == "this is no video"
    parts = tmp_path / "parts.txt"
    parts.write_text(f"ffconcat version 1.0\nfile '{whole}'\n")
    assert refused(parts) == "this is no video"
    with pytest.raises(InputError), opened(Path("http://127.0.0.1:9/a.mp4")):
        pass


def test_the_widest_that_action_cameras_film_is_below_the_limit():
    """5760 x 4320: the largest mode of today's action cameras (common practice)."""
    assert MOST_PIXELS >= 5760 * 4320
