"""Moments as a film, and a voice over them: pictures, words and sound read back by a decoder."""

from __future__ import annotations

import io
import math
import time
from fractions import Fraction

import av
import numpy as np
import pytest

from aretane.demo.load import game_of

GAME = game_of("nine-ball")


def tone(seconds: float, codec: str = "libopus", form: str = "webm") -> bytes:
    """A voice as a browser records it: a plain tone of 440 Hz."""
    file = io.BytesIO()
    with av.open(file, "w", format=form) as out:
        stream = out.add_stream(codec, rate=48_000, layout="mono")
        for at in range(0, round(seconds * 48_000), 960):
            wave = 0.5 * np.sin(2 * math.pi * 440 * np.arange(at, at + 960) / 48_000)
            frame = av.AudioFrame.from_ndarray(wave.astype(np.float32)[None], format="flt", layout="mono")
            frame.sample_rate, frame.pts, frame.time_base = 48_000, at, Fraction(1, 48_000)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return file.getvalue()


@pytest.fixture
def filmed(client):
    """The shots of the filmed rack that have their times."""
    shots = client.get(f"/games/{GAME}").json["racks"][4]["shots"]
    return [one for one in shots if (one["document"].get("time") or {}).get("contact") is not None]


def film_of(client, shots, **more) -> bytes:
    made = client.post(f"/games/{GAME}/clips", {"shots": [one["id"] for one in shots], **more}).json
    until = time.monotonic() + 60
    while made["state"] == "running":
        assert time.monotonic() < until
        time.sleep(0.1)
        made = client.get(f"/clips/{made['clip']}").json
    assert (made["state"], made["said"]) == ("done", "")
    answer = client.get(f"/clips/{made['clip']}/file")
    assert answer.mimetype == "video/mp4"
    client.send("DELETE", f"/clips/{made['clip']}")
    return answer.data


def pictures(film: bytes) -> list[np.ndarray]:
    with av.open(io.BytesIO(film)) as file:
        return [frame.to_ndarray(format="rgb24") for frame in file.decode(video=0)]


def heard(film: bytes) -> np.ndarray:
    with av.open(io.BytesIO(film)) as file:
        return np.concatenate([frame.to_ndarray()[0] for frame in file.decode(audio=0)])


def say(client, shot, sound, sort="audio/webm"):
    return client.send("PUT", f"/games/{GAME}/shots/{shot['id']}/voice", data=sound, headers={"Content-Type": sort})


def test_a_moment_is_held_runs_and_is_held_again_with_its_words(client, filmed):
    shot = filmed[4]  # of which something better is known
    times = shot["document"]["time"]
    seen = pictures(film_of(client, [shot]))
    ran = times["still"] + 0.4 - max(times["start"], times["contact"] - 1.5)
    assert len(seen) == pytest.approx(25 * (4.0 + ran + 2.5), abs=3)
    first, last = seen[10], seen[-10]
    assert first.shape[0] > first.shape[1] * 9 / 16, "words stand under the picture, not over it"
    bar = first[int(first.shape[0] * 0.87) :]
    assert 0.005 < np.mean(bar.mean(axis=2) < 100) < 0.2, "dark letters on paper"
    assert np.abs(first.astype(int) - seen[90].astype(int)).mean() < 1.0, "held"
    assert np.abs(first.astype(int) - last.astype(int)).mean() > 1.0
    red = (first[..., 0] > 120) & (first[..., 1] < 90) & (first[..., 2] < 80)
    after = (last[..., 0] > 120) & (last[..., 1] < 90) & (last[..., 2] < 80)
    assert red.sum() > after.sum() + 200, "what was better is drawn while it is held"


def test_a_voice_is_heard_over_the_held_picture_and_makes_it_longer(client, filmed):
    shot = filmed[2]
    silent = film_of(client, [shot], sound=False)
    assert np.abs(heard(silent)).max() < 1e-3
    assert say(client, shot, tone(6.0)).json["voices"][shot["id"]] == pytest.approx(6.0, abs=0.1)
    told = film_of(client, [shot], sound=False)
    assert len(pictures(told)) - len(pictures(silent)) == pytest.approx(25 * 2.5, abs=4)
    sound = heard(told)
    spoken = sound[48_000 : 5 * 48_000]
    pitch = np.abs(np.fft.rfft(spoken)).argmax() / (len(spoken) / 48_000)
    assert pitch == pytest.approx(440, abs=2)
    assert np.abs(sound[7 * 48_000 :]).max() < 0.02
    answer = client.get(f"/games/{GAME}/shots/{shot['id']}/voice")
    assert answer.mimetype == "audio/webm"
    assert client.send("DELETE", f"/games/{GAME}/shots/{shot['id']}/voice").json == {"voices": {}}
    assert client.get(f"/games/{GAME}/shots/{shot['id']}/voice").status_code == 404


@pytest.mark.parametrize(
    ("sound", "sort", "words"),
    [(b"", "audio/webm", "nothing can be heard"), (b"no sound", "audio/webm", "nothing can be heard"),
     (b"x" * (4 * 1024 * 1024 + 1), "audio/webm", "too large"),
     (b"%PDF-1.7", "application/pdf", "no recorded voice")],
)  # fmt: skip
def test_what_is_no_voice_is_refused_in_a_word(client, filmed, sound, sort, words):
    answer = say(client, filmed[0], sound, sort)
    assert answer.status_code in (409, 413, 422)
    assert words in answer.json["message"]
    assert client.get(f"/games/{GAME}/voices").json == {"voices": {}}


def test_a_moment_that_cannot_be_shown_is_said(client, filmed):
    other = client.get(f"/games/{GAME}").json["racks"][0]["shots"][2]
    answer = client.post(f"/games/{GAME}/clips", {"shots": [filmed[1]["id"], other["id"]]})
    assert answer.status_code == 422
    assert "Rack 1, shot 3 is in no recording" in answer.json["message"]
    assert client.post(f"/games/{GAME}/clips", {"shots": []}).status_code == 422
    assert client.post(f"/games/{GAME}/clips", {"shots": ["0" * 36]}).status_code in (404, 422)
    assert client.get(f"/clips/{'0' * 64}").status_code == 404


def test_of_a_removed_recording_there_is_no_film(client, filmed, app):
    files = app.extensions["aretane"].house.files
    path = files.path(client.get(f"/games/{GAME}").json["header"]["recordings"][0]["sha256"])
    aside = path.with_suffix(".aside")
    path.rename(aside)
    try:
        answer = client.post(f"/games/{GAME}/clips", {"shots": [filmed[1]["id"]]})
        assert answer.status_code == 422
        assert "its recording was removed" in answer.json["message"]
    finally:
        aside.rename(path)


def test_chapters_as_a_list_of_times(client):
    lines = client.get(f"/games/{GAME}/export?form=txt").text.splitlines()
    assert lines[0].startswith("0:")
    assert "5.2 Ilse Marwood: 1 ball head right" in lines[1]


def test_a_film_that_is_given_up_leaves_nothing(client, filmed, app):
    files = app.extensions["aretane"].house.files
    made = client.post(f"/games/{GAME}/clips", {"shots": [one["id"] for one in filmed[:4]]}).json
    assert made["state"] == "running"
    assert client.send("DELETE", f"/clips/{made['clip']}").status_code == 204
    until = time.monotonic() + 15
    while list(files.clips.glob(f"*{made['clip']}*")) and time.monotonic() < until:
        time.sleep(0.1)
    assert list(files.clips.glob(f"*{made['clip']}*")) == []
    assert client.get(f"/clips/{made['clip']}").status_code == 404
