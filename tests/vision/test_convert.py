"""What browsers cannot play is made anew, each picture at its own time. Oracle: the number in each picture."""

from __future__ import annotations

import time

import av
import pytest

from aretane.core.errors import InputError
from aretane.jobs.conversion import Conversions
from aretane.jobs.pool import Pool
from aretane.store.files import RecordingFiles
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
    path = film(tmp_path / "whole.mp4", steady(120), "libx265", grainy=True)
    data = bytearray(path.read_bytes())
    middle = len(data) // 2
    data[middle : middle + 4000] = bytes(4000)
    path.write_bytes(bytes(data))
    target = tmp_path / "new.mp4"
    assert 60 < convert(str(path), str(target), str(tmp_path / "progress")) <= 120
    assert numbers(target)[-1][1] > 3.5, "what comes after the damage is there"


def test_a_conversion_runs_behind_and_tells_when_it_is_done(old, tmp_path):
    files, pool = RecordingFiles(tmp_path / "recordings"), Pool()
    sha = "ab" * 32
    files.keep(old, sha, copy=True)
    conversions = Conversions(pool, files)
    first = conversions.share(sha)
    assert first is not None
    assert 0 <= first <= 1
    until = time.monotonic() + 60
    while conversions.share(sha) is not None:
        assert time.monotonic() < until
        time.sleep(0.05)
    assert files.playable(sha).is_file()
    files.remove(sha)
    assert not files.playable(sha).exists()
    pool.close()


def test_what_cannot_be_converted_is_said(tmp_path):
    files, pool = RecordingFiles(tmp_path / "recordings"), Pool()
    sha = "cd" * 32
    broken = tmp_path / "broken.avi"
    broken.write_bytes(b"RIFF" + bytes(5000))
    files.keep(broken, sha, copy=True)
    conversions = Conversions(pool, files)
    said = ""
    for _ in range(600):
        try:
            conversions.share(sha)
        except InputError as problem:
            said = problem.message
            break
        time.sleep(0.05)
    assert "cannot be converted" in said
    pool.close()
