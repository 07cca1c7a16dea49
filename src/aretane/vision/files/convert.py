"""A recording that browsers cannot play, made anew as one that they can: H.264, every picture at its own time."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
from av.error import FFmpegError

from aretane.core.errors import InputError
from aretane.vision.files.opening import opened

CLOCK = Fraction(1, 90_000)
QUALITY = {"crf": "20", "preset": "veryfast"}
TOLD_EVERY = 25  # pictures


def convert(source: str, target: str, progress: str) -> int:
    """Write `target` from `source`; the share that is done goes into the file `progress`. Returns the pictures.

    Times stay as they are; what cannot be decoded is left out. Whoever removes `progress` stops it: then nothing is
    left. Raises `InputError` if nothing can be decoded.
    """
    part, told = Path(target + ".part"), Path(progress)
    told.write_text("0")
    try:
        count = _converted(source, part, told)
        if not count and told.exists():
            raise InputError("recording", "no picture of it can be decoded")
        if told.exists():
            part.replace(target)
        return count
    except FFmpegError:
        raise InputError("recording", "it cannot be converted; save it as H.264 or VP9 and add it again") from None
    finally:
        part.unlink(missing_ok=True)
        told.unlink(missing_ok=True)


def _converted(source: str, part: Path, told: Path) -> int:
    count = 0
    with (
        opened(Path(source)) as (container, stream),
        av.open(str(part), "w", format="mp4", options=_FAST) as file,
    ):
        stream.thread_type = "AUTO"
        length = float(container.duration or 0) / av.time_base
        made = file.add_stream("libx264", rate=30, options=QUALITY)
        made.time_base = made.codec_context.time_base = CLOCK
        made.pix_fmt = "yuv420p"
        made.codec_context.gop_size = 50
        last = -1
        for packet in container.demux(stream):
            try:
                frames = packet.decode()
            except FFmpegError:
                continue
            for frame in frames:
                if frame.pts is None or frame.time is None:
                    continue
                if count == 0:
                    made.width, made.height = frame.width - frame.width % 2, frame.height - frame.height % 2
                    made.codec_context.sample_aspect_ratio = stream.sample_aspect_ratio or Fraction(1)
                new = frame.reformat(width=made.width, height=made.height, format="yuv420p")
                new.pts, new.time_base = max(last + 1, round(frame.time / CLOCK)), CLOCK
                last = new.pts
                file.mux(made.encode(new))
                count += 1
                if count % TOLD_EVERY == 0:
                    if not told.exists():
                        return count
                    told.write_text(f"{min(1.0, frame.time / max(length, 1e-9)):.3f}")
        if count:
            file.mux(made.encode(None))
    return count


_FAST = {"movflags": "+faststart"}
