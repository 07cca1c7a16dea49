"""What a video file holds: probed with PyAV, without decoding more than its first and last pictures."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from statistics import median
from typing import Any

import av
from av.container import InputContainer
from av.error import FFmpegError
from av.video.frame import VideoFrame
from av.video.stream import VideoStream

from aretane.core.errors import InputError
from aretane.vision.files.opening import MOST_PICTURES, opened, seek

SPARSE = 1.0  # seconds between pictures from which on nothing can be followed, only layouts compared
TAIL = 1.0  # seconds that may be missing at the end before a file counts as cut off
BROWSER_PLAYS = {"h264", "vp8", "vp9", "av1"}
BROWSER_OPENS = ("mp4", "matroska")  # parts of the names of containers that browsers open


@dataclass(frozen=True)
class Probe:
    """What was found. `width` and `height` are of the upright decoded frame, in pixels.

    `pixel_aspect` is a pixel's width over its height. `start` is the file's own time of the first
    frame in seconds. `sparse` says that the file holds only one picture every so many seconds.
    """

    container: str
    codec: str
    width: int
    height: int
    rotation: int
    pixel_aspect: float
    duration: float
    frames: int
    frame_rate: float
    start: float
    sparse: float | None
    plays_in_browser: bool

    def as_data(self) -> dict[str, Any]:
        return asdict(self)


def probe(path: Path) -> tuple[Probe, list[float]]:
    """The file's facts, and the time of every frame on the browser's clock (first frame shown at its own).

    Raises `InputError` for what is no video, has no picture, or is cut off.
    """
    with opened(path) as (container, stream):
        try:
            return _probe(container, stream)
        except InputError:
            raise
        except (FFmpegError, ValueError, IndexError, OSError):
            raise InputError("recording", "the file is damaged and cannot be read") from None


def _probe(container: InputContainer, stream: VideoStream) -> tuple[Probe, list[float]]:
    times, declared = _frame_times(container, stream)
    if len(times) < 1:
        raise InputError("recording", "the file holds no picture")
    first = _decoded(container, stream, times[0])
    last = _decoded(container, stream, times[-1])
    if first is None:
        raise InputError("recording", "the picture cannot be decoded")
    step = median(b - a for a, b in pairwise(times)) if len(times) > 1 else 0.0
    if last is None or declared - (times[-1] + step) > max(TAIL, 2 * step):
        raise InputError("recording", "the file is cut off: its end is missing")
    rotation = round(first.rotation / 90.0) * 90 % 360
    codec, aspect = stream.codec_context.codec.canonical_name, stream.sample_aspect_ratio or Fraction(1)
    sideways = rotation in (90, 270)
    gap = (times[-1] - times[0]) / (len(times) - 1) if len(times) > 1 else 0.0
    width, height = (first.height, first.width) if sideways else (first.width, first.height)
    found = Probe(
        container=container.format.name,
        codec=codec,
        width=width,
        height=height,
        rotation=rotation,
        pixel_aspect=float(1 / aspect if sideways else aspect) or 1.0,
        duration=times[-1] + step,
        frames=len(times),
        frame_rate=1 / step if step > 0 else 0.0,
        start=times[0],
        sparse=gap if gap >= SPARSE else None,
        plays_in_browser=codec in BROWSER_PLAYS
        and any(name in container.format.name for name in BROWSER_OPENS)
        and "10" not in str(stream.codec_context.pix_fmt),
    )
    return found, times


def _frame_times(container: InputContainer, stream: VideoStream) -> tuple[list[float], float]:
    """Presentation times of all frames from the packets alone, and the end that the file declares."""
    base = float(stream.time_base or 0)
    times = []
    for packet in container.demux(stream):
        if packet.pts is not None and packet.size and not packet.is_discard:
            times.append(packet.pts * base)
        if len(times) > MOST_PICTURES:
            raise InputError("recording", "the file holds more pictures than a day of play; cut it")
    declared = 0.0
    if container.duration:
        # Matroska counts its duration from zero, the others from their first time stamp.
        before = 0 if "matroska" in container.format.name else container.start_time or 0
        declared = (container.duration + before) / av.time_base
    if stream.duration:
        declared = (stream.duration + (stream.start_time or 0)) * base
    return sorted(set(times)), declared


def _decoded(container: InputContainer, stream: VideoStream, time: float) -> VideoFrame | None:
    """The frame shown at `time`, or None if nothing there can be decoded."""
    seek(container, stream, time)
    found = None
    try:
        for frame in container.decode(stream):
            if frame.pts is None:
                continue
            found = frame
            if frame.time is not None and frame.time >= time - 1e-6:
                break
    except FFmpegError:
        return None
    return found
