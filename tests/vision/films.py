"""Small recordings made for the tests: every frame carries its number as a bar code of sixteen fields."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

BITS = 16
CLOCK = 90_000


def numbered(frame: int, width: int, height: int, grain: np.random.Generator | None = None) -> np.ndarray:
    picture = np.full((height, width, 3), 90, np.uint8)
    if grain is not None:
        picture = grain.integers(0, 255, (height, width, 3), dtype=np.uint8)
    for bit in range(BITS):
        left, right = bit * width // BITS, (bit + 1) * width // BITS
        picture[: height // 4, left:right] = 255 if frame >> bit & 1 else 0
    return picture


def film(
    path: Path,
    times: Sequence[float],
    codec: str = "libx264",
    size: tuple[int, int] = (320, 240),
    aspect: Fraction | None = None,
    options: dict[str, str] | None = None,
    grainy: bool = False,
    container: dict[str, str] | None = None,
) -> Path:
    """A recording with one numbered frame at each of `times` (seconds)."""
    grain = np.random.default_rng(0) if grainy else None
    with av.open(str(path), "w", options=container or {}) as file:
        quick = {"deadline": "realtime", "cpu-used": "8"} if "vp9" in codec else {}
        stream = file.add_stream(codec, rate=30, options={**quick, **(options or {})})
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        stream.time_base = stream.codec_context.time_base = Fraction(1, CLOCK)
        stream.codec_context.gop_size = 12
        if aspect:
            stream.codec_context.sample_aspect_ratio = aspect
        for number, time in enumerate(times):
            frame = av.VideoFrame.from_ndarray(numbered(number, *size, grain), format="rgb24")
            frame.pts, frame.time_base = round(time * CLOCK), Fraction(1, CLOCK)
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path


def beginning(path: Path, of: Path, until: float) -> Path:
    """The first seconds of another recording, nothing encoded anew."""
    with av.open(str(of)) as source, av.open(str(path), "w") as file:
        stream = source.streams.video[0]
        copied = file.add_stream_from_template(stream)
        for packet in source.demux(stream):
            if packet.dts is not None and packet.pts * stream.time_base <= until:
                packet.stream = copied
                file.mux(packet)
    return path


def sound(path: Path) -> Path:
    """A file with sound and no picture."""
    with av.open(str(path), "w") as file:
        stream = file.add_stream("aac", rate=44100)
        for number in range(40):
            frame = av.AudioFrame.from_ndarray(np.zeros((2, 1024), np.float32), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts = 44100, number * 1024
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return path


def steady(count: int, rate: float = 30, start: float = 0.0) -> list[float]:
    return [start + number / rate for number in range(count)]
