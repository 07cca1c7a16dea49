"""Decoded pictures of a recording by their own times. Damaged packets are skipped."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from pathlib import Path

import numpy as np
from av.container import InputContainer
from av.error import FFmpegError
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from aretane.core.errors import InputError
from aretane.vision.files.opening import opened, seek
from aretane.vision.table.cloth import Image


def picture_at(path: Path, time: float) -> tuple[float, Image]:
    """The picture that is shown at `time` (seconds of the file's own clock), upright, with its own time."""
    with opened(path) as (container, stream):
        seek(container, stream, time)
        best: VideoFrame | None = None
        for frame in _decoded(container, stream):
            if frame.time is None:
                continue
            if best is not None and frame.time > time + 1e-6:
                break
            best = frame
        if best is None or best.time is None:
            raise InputError("at", "the recording has no picture there")
        return float(best.time), upright(best)


def pictures(path: Path, every: float, begin: float = 0.0) -> Iterator[tuple[float, Image]]:
    """Pictures in order from `begin` on, at most one every so many seconds.

    As many pictures as possible are not decoded at all: only key pictures if they are frequent enough, else none of
    those that no other depends on.
    """
    rhythm = rhythm_of(path)
    with opened(path) as (container, stream):
        stream.thread_type = "AUTO"
        if rhythm.key_interval <= every:
            stream.codec_context.skip_frame = "NONKEY"
        elif rhythm.rate > 2 / every:
            stream.codec_context.skip_frame = "NONREF"
        if begin > 0:
            seek(container, stream, begin)
        due = begin
        for frame in _decoded(container, stream):
            if frame.time is not None and frame.time >= due - 1e-6:
                due = max(frame.time + 0.4 * every, due + every)
                yield float(frame.time), upright(frame)


def every_picture(path: Path, begin: float, end: float, most: int) -> Iterator[tuple[float, Image]]:
    """All pictures from one time to another, at most so many."""
    with opened(path) as (container, stream):
        stream.thread_type = "AUTO"
        seek(container, stream, begin)
        count = 0
        for frame in _decoded(container, stream):
            if frame.time is None or frame.time < begin - 1e-6:
                continue
            if frame.time > end + 1e-6 or count >= most:
                return
            count += 1
            yield float(frame.time), upright(frame)


@dataclass(frozen=True)
class Rhythm:
    """Pictures a second and the longest time between key pictures, by their time stamps; the times of first and
    last picture, and the longest gap between two."""

    rate: float
    key_interval: float
    first: float
    last: float
    gap: float


@lru_cache(maxsize=64)
def rhythm_of(path: Path) -> Rhythm:
    """What the time stamps of a recording say; what a file says of itself is not believed."""
    with opened(path) as (container, stream):
        told = [(p.pts, p.is_keyframe) for p in container.demux(stream) if p.pts is not None and p.size]
        base = _tick(stream)
    times = sorted(pts * base for pts, _ in told)
    keys = sorted(pts * base for pts, key in told if key)
    if not times:
        return Rhythm(0.0, math.inf, 0.0, 0.0, 0.0)
    span = times[-1] - times[0]
    gaps = [b - a for a, b in pairwise(times)]
    between = [b - a for a, b in pairwise([*keys, times[-1]])]
    return Rhythm(
        (len(times) - 1) / span if span > 0 else 0.0,
        max(between, default=math.inf) if len(keys) > 1 else math.inf,
        times[0],
        times[-1],
        max(gaps, default=0.0),
    )


def _tick(stream: VideoStream) -> float:
    """Seconds to one unit of the stream's time stamps."""
    assert stream.time_base is not None
    return float(stream.time_base)


def upright(frame: VideoFrame) -> Image:
    picture = np.asarray(frame.to_ndarray(format="bgr24"), np.uint8)
    turns = round(frame.rotation / 90.0) % 4
    return np.ascontiguousarray(np.rot90(picture, turns)) if turns else picture


def _decoded(container: InputContainer, stream: VideoStream) -> Iterator[VideoFrame]:
    """Frames one after the other; what cannot be decoded is left out."""
    for packet in container.demux(stream):
        try:
            yield from packet.decode()
        except FFmpegError:
            continue
