"""Moments cut out of recordings and set one after the other into one small film: H.264 with sound.

Each is held before the shot, with what was better drawn and said; then runs from its still picture to rest; then is
held once more with what came of it.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.container import OutputContainer
from av.error import FFmpegError

from aretane.core.errors import InputError
from aretane.vision.clip.moment import Moment
from aretane.vision.clip.painting import bar_under, camera_of, composed, painted
from aretane.vision.clip.sound import RATE, Samples, length_of, silence, sound_of
from aretane.vision.files.frames import every_picture, picture_at
from aretane.vision.table.cloth import Image

PICTURES = 25  # a second
BEFORE, AFTER, LEAD = 4.0, 2.5, 1.5  # s held before the shot and after it; s that it runs before the contact
BEYOND = 15.0  # s after the last picture: that moment is not in the film
TAIL = 0.4  # s after everything is at rest
LONGEST = 90.0  # s of one shot: what runs on for longer was marked wrongly
WIDEST, HIGHEST = 1280, 720
QUALITY = {"crf": "23", "preset": "veryfast"}


@dataclass
class _Film:
    """The file that is written: pictures at a steady rate, all of one size, and the sound under them."""

    file: OutputContainer
    size: tuple[int, int]
    letters: str

    def __post_init__(self) -> None:
        self.pictures = self.file.add_stream("libx264", rate=PICTURES, options=QUALITY)
        self.pictures.width, self.pictures.height = self.size
        self.pictures.pix_fmt = "yuv420p"
        self.sound = self.file.add_stream("aac", rate=RATE, layout="stereo")
        self.shown = self.heard = 0

    def show(self, picture: Image, words: Sequence[str], times: int = 1) -> None:
        page = composed(picture, words, self.size, self.letters)
        frame = av.VideoFrame.from_ndarray(page, format="bgr24")
        for _ in range(times):
            frame.pts, frame.time_base = self.shown, Fraction(1, PICTURES)
            self.shown += 1
            self.file.mux(self.pictures.encode(frame))

    def hear(self, samples: Samples) -> None:
        for at in range(0, samples.shape[1], 1024):
            frame = av.AudioFrame.from_ndarray(
                np.ascontiguousarray(samples[:, at : at + 1024]), format="fltp", layout="stereo"
            )
            frame.sample_rate, frame.pts, frame.time_base = RATE, self.heard, Fraction(1, RATE)
            self.heard += frame.samples
            self.file.mux(self.sound.encode(frame))

    def end(self) -> None:
        self.file.mux(self.pictures.encode(None))
        self.file.mux(self.sound.encode(None))


def cut(moments: Sequence[Moment], target: str, progress: str, letters: str, *, sound: bool = True) -> float:
    """Write the film of these moments to `target`; the share that is done goes into the file `progress`. With
    `sound` the room is heard while the shot runs; a voice is heard in any case. Returns its seconds. `letters`: a
    font's file.

    Whoever removes `progress` stops it: then nothing is left. Raises `InputError` naming the moment that its
    recording does not have.
    """
    part, told = Path(target + ".part"), Path(progress)
    told.write_text("0")
    try:
        with av.open(str(part), "w", format="mp4", options={"movflags": "+faststart"}) as file:
            film = _Film(file, _size(moments[0]), letters)
            for number, moment in enumerate(moments):
                _set(film, moment, sound=sound, wanted=told.exists)
                if not told.exists():
                    return 0.0
                told.write_text(f"{(number + 1) / len(moments):.3f}")
            film.end()
        if told.exists():
            part.replace(target)
        return film.shown / PICTURES
    except FFmpegError:
        raise InputError("clip", "the recording cannot be decoded there") from None
    finally:
        part.unlink(missing_ok=True)
        told.unlink(missing_ok=True)


def _set(film: _Film, moment: Moment, *, sound: bool, wanted: Callable[[], bool]) -> None:
    """One moment; it is left off as soon as the film is not wanted any more."""
    source, first = Path(moment.source), _first(moment)
    camera = camera_of(moment, first.shape[1], first.shape[0])
    voice = length_of(Path(moment.voice)) if moment.voice else 0.0
    held = round(PICTURES * max(BEFORE, voice + 0.5))
    lines = painted(first, camera, moment.lines, moment.table.radius)
    film.show(lines, (moment.title, *moment.said), held)
    spoken = sound_of(Path(moment.voice), 0.0, held / PICTURES) if moment.voice else silence(held / PICTURES)
    film.hear(spoken)
    begin = max(moment.start, moment.contact - LEAD)
    end = min(moment.still + TAIL, begin + LONGEST)
    before, last = film.shown, first
    for last in _steadily(source, begin, end):
        if not wanted():
            return
        film.show(last, (moment.title,))
    ran = (film.shown - before) / PICTURES
    film.hear(sound_of(source, begin, ran) if sound else silence(ran))
    film.show(last, (moment.title, moment.result), round(PICTURES * AFTER))
    film.hear(silence(AFTER))


def _first(moment: Moment) -> Image:
    """The still picture that it begins with."""
    try:
        time, picture = picture_at(Path(moment.source), moment.start)
    except InputError:
        time, picture = -math.inf, np.empty(0, np.uint8)
    if moment.start - time > BEYOND:
        raise InputError("clip", f"{moment.title}: the recording does not have this moment")
    return picture


def _steadily(source: Path, begin: float, end: float) -> Iterator[Image]:
    """The pictures that are shown at a steady rate, whatever their own times are."""
    due, shown = begin, None
    for time, picture in every_picture(source, begin, end, round(LONGEST * 240)):
        while shown is not None and due < time - 1e-6:
            yield shown
            due += 1.0 / PICTURES
        shown = picture
    while shown is not None and due <= end:
        yield shown
        due += 1.0 / PICTURES


def _size(moment: Moment) -> tuple[int, int]:
    """Of the whole film: as its first moment with the bar, no larger than a screen likes, even numbers."""
    height, width = _first(moment).shape[:2]
    height += bar_under(height)
    scale = min(1.0, WIDEST / width, HIGHEST / height)
    return 2 * round(width * scale / 2), 2 * round(height * scale / 2)
