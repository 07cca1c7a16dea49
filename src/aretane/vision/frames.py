"""Decoded pictures of a recording by their own times. Damaged packets are skipped."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np
from av.error import FFmpegError
from av.video.frame import VideoFrame

from aretane.core.errors import InputError
from aretane.vision.cloth import Image


def picture_at(path: Path, time: float) -> tuple[float, Image]:
    """The picture that is shown at `time` (seconds of the file's own clock), upright, with its own time."""
    with _opened(path) as container:
        stream = container.streams.video[0]
        container.seek(max(0, int(time / float(stream.time_base))), stream=stream, backward=True)
        best: VideoFrame | None = None
        for frame in _decoded(container):
            if frame.time is None:
                continue
            if best is not None and frame.time > time + 1e-6:
                break
            best = frame
        if best is None or best.time is None:
            raise InputError("at", "the recording has no picture there")
        return float(best.time), upright(best)


def pictures(path: Path, every: float) -> Iterator[tuple[float, Image]]:
    """Pictures in order, at most one every so many seconds."""
    with _opened(path) as container:
        container.streams.video[0].thread_type = "AUTO"
        due = -1e9
        for frame in _decoded(container):
            if frame.time is not None and frame.time >= due - 1e-6:
                due = frame.time + every
                yield float(frame.time), upright(frame)


def frame_rate(path: Path) -> float:
    """Pictures a second, counted from their time stamps; what a file says of itself is not believed."""
    with _opened(path) as container:
        stream = container.streams.video[0]
        times = [float(p.pts * stream.time_base) for p in container.demux(stream) if p.pts is not None and p.size]
    span = max(times, default=0.0) - min(times, default=0.0)
    return (len(times) - 1) / span if span > 0 else 0.0


def upright(frame: VideoFrame) -> Image:
    picture = frame.to_ndarray(format="bgr24")
    turns = round(frame.rotation / 90.0) % 4
    return np.ascontiguousarray(np.rot90(picture, turns)) if turns else picture


def _opened(path: Path) -> av.container.InputContainer:
    try:
        container = av.open(str(path))
    except (FFmpegError, OSError, ValueError):
        raise InputError("recording", "this is no video, or it cannot be read") from None
    if not container.streams.video:
        container.close()
        raise InputError("recording", "the file holds no picture")
    return container


def _decoded(container: av.container.InputContainer) -> Iterator[VideoFrame]:
    """Frames one after the other; what cannot be decoded is left out."""
    for packet in container.demux(container.streams.video[0]):
        try:
            yield from packet.decode()
        except FFmpegError:
            continue
