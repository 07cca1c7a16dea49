"""The sound of a stretch of a file, as plain samples; silence where there is none."""

from __future__ import annotations

from pathlib import Path

import av
import numpy as np
from av.error import FFmpegError
from numpy.typing import NDArray

from aretane.vision.files.opening import sounds

Samples = NDArray[np.float32]  # (2, n), -1 to 1

RATE = 48_000


def silence(seconds: float) -> Samples:
    return np.zeros((2, max(0, round(seconds * RATE))), np.float32)


def sound_of(path: Path, begin: float, seconds: float) -> Samples:
    """Two channels from `begin` on, exactly so long; what cannot be heard is silence."""
    found = silence(seconds)
    try:
        with sounds(path) as (container, stream):
            if stream is None:
                return found
            resampler = av.AudioResampler(format="fltp", layout="stereo", rate=RATE)
            if begin > 0:
                container.seek(round(begin * av.time_base))
            for frame in container.decode(stream):
                if frame.time is not None and frame.time >= begin + seconds:
                    break
                for part in resampler.resample(frame):
                    _lay(found, part, begin)
    except (FFmpegError, OSError):
        pass
    return found


def length_of(path: Path) -> float:
    """How long a sound lasts in seconds, told by decoding it: what browsers record does not say."""
    total = 0.0
    try:
        with sounds(path) as (container, stream):
            if stream is not None:
                total = sum(frame.samples / frame.sample_rate for frame in container.decode(stream))
    except (FFmpegError, OSError):
        pass
    return total


def _lay(found: Samples, part: av.AudioFrame, begin: float) -> None:
    """Lay a piece where it belongs by its own time."""
    samples = np.asarray(part.to_ndarray(), np.float32)
    at = round(((part.time or 0.0) - begin) * RATE)
    first, last = max(0, at), min(found.shape[1], at + samples.shape[1])
    if last > first:
        found[:, first:last] = samples[:, first - at : last - at]
