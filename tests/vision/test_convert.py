"""What browsers cannot play is made anew, each picture at its own time. Oracle: the number in each picture."""

from __future__ import annotations

import av
import pytest

from aretane.core.errors import InputError
from aretane.vision.files.convert import convert
from aretane.vision.files.recording import probe
from tests.vision.films import BITS, film, steady


def numbers(path):
    """The number that each picture carries as a bar code, with its time."""
    found = []
    with av.open(str(path)) as container:
        for frame in container.decode(video=0):
            picture = frame.to_ndarray(format="gray")
            width = picture.shape[1]
            bits = [picture[8, (2 * bit + 1) * width // (2 * BITS)] > 128 for bit in range(BITS)]
            found.append((sum(1 << n for n, on in enumerate(bits) if on), frame.time))
    return found


@pytest.fixture
def old(tmp_path):
    return film(tmp_path / "old.mp4", [0.0, 0.04, 0.4, 1.0, 1.04, 3.0], "libx265")


def test_every_picture_keeps_its_number_and_its_time(old, tmp_path):
    assert not probe(old)[0].plays_in_browser
    target = tmp_path / "new.mp4"
    assert convert(str(old), str(target), str(tmp_path / "progress")) == 6
    assert probe(target)[0].plays_in_browser
    before, after = numbers(old), numbers(target)
    assert [number for number, _ in after] == [number for number, _ in before] == list(range(6))
    assert [at for _, at in after] == pytest.approx([at for _, at in before], abs=1e-3)


def test_damage_in_the_middle_is_a_gap_and_no_end(tmp_path):
    path = film(tmp_path / "whole.mp4", steady(60), "libx265", grainy=True)
    data = bytearray(path.read_bytes())
    middle = len(data) // 2
    data[middle : middle + 4000] = bytes(4000)
    path.write_bytes(bytes(data))
    target = tmp_path / "new.mp4"
    assert 30 < convert(str(path), str(target), str(tmp_path / "progress")) <= 60
    assert numbers(target)[-1][1] > 1.7, "what comes after the damage is there"


def test_who_removes_its_note_of_progress_stops_it(tmp_path, monkeypatch):
    path, told = film(tmp_path / "whole.mp4", steady(120), "libx265"), tmp_path / "progress"
    monkeypatch.setattr("aretane.vision.files.convert.TOLD_EVERY", 10)
    monkeypatch.setattr(type(told), "write_text", lambda self, text: 1)  # it is gone before the first look
    assert convert(str(path), str(tmp_path / "new.mp4"), str(told)) < 120
    assert [one.name for one in tmp_path.iterdir()] == ["whole.mp4"]


def test_what_cannot_be_converted_is_said(tmp_path):
    broken = tmp_path / "broken.avi"
    broken.write_bytes(b"RIFF" + bytes(5000))
    with pytest.raises(InputError, match="this is no video"):
        convert(str(broken), str(tmp_path / "new.mp4"), str(tmp_path / "progress"))
    assert [one.name for one in tmp_path.iterdir()] == ["broken.avi"]
