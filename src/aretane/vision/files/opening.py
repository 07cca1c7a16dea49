"""Opening a file that somebody sent: from the disk only, of known containers and codecs, no larger than a camera's.

A film can lie about itself and crash or fill its decoder, so files are opened by workers (`jobs.pool`) whose memory
and time are limited as well, never in the server.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av
from av.audio.stream import AudioStream
from av.container import InputContainer
from av.error import FFmpegError
from av.video.stream import VideoStream

from aretane.core.errors import InputError

CODECS = ("h264", "hevc", "vp8", "vp9", "av1", "mpeg4", "mpeg2video", "mjpeg", "prores", "dvvideo")
MOST_PIXELS = 25_000_000  # of a picture; the widest that action cameras film has 24 million
MOST_STREAMS = 16  # pictures, sounds, places and subtitles together
MOST_PICTURES = 2_000_000  # nine hours at 60 a second
BACK = (0.0, 1.0, 4.0, 16.0)  # seconds; beyond, the file is read from its beginning

SOUNDS = (
    "aac", "mp3", "mp3float", "opus", "libopus", "vorbis", "ac3", "flac", "pcm_s16le", "pcm_s16be", "pcm_s24le",
    "pcm_alaw", "pcm_mulaw",
)  # fmt: skip

_FILM_FORMATS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,mxf"
_OPTIONS = {
    "protocol_whitelist": "file",
    "format_whitelist": _FILM_FORMATS,
    "codec_whitelist": ",".join((*CODECS, "libdav1d", "libaom-av1", "libvpx", "libvpx-vp9")),  # decoders' own names
    "max_streams": str(MOST_STREAMS),
    "max_pixels": str(MOST_PIXELS),
}


@contextmanager
def opened(path: Path) -> Iterator[tuple[InputContainer, VideoStream]]:
    """A film and its picture. Raises `InputError` for what is no film, or none that is opened here."""
    try:
        container = av.open(str(path), options=_OPTIONS)
    except (FFmpegError, OSError, ValueError):
        raise InputError("recording", _why_not(path)) from None
    with container:
        yield container, _picture_of(container)


@contextmanager
def sounds(path: Path) -> Iterator[tuple[InputContainer, AudioStream | None]]:
    """A film's or a recorded voice's sound; None where it has none that is read here. Raises `FFmpegError`."""
    options = {
        **_OPTIONS,
        "format_whitelist": f"{_FILM_FORMATS},ogg,wav,mp3",
        "codec_whitelist": ",".join((_OPTIONS["codec_whitelist"], *SOUNDS)),
    }
    with av.open(str(path), options=options) as container:
        yield container, next(iter(container.streams.audio), None)


def seek(container: InputContainer, stream: VideoStream, time: float) -> None:
    """Go to the last key picture at or before `time`, in seconds of the file's own clock.

    Streams of camcorders have no index and land on any picture: they are entered ever earlier until a key picture
    comes in time.
    """
    tick = float(stream.time_base or 1)
    if "mpeg" not in container.format.name:
        container.seek(max(0, int(time / tick)), stream=stream, backward=True)
        return
    for back in BACK:
        at = max(0, int((time - back) / tick))
        container.seek(at, stream=stream, backward=True)
        key = next((one.pts for one in container.demux(stream) if one.is_keyframe and one.pts is not None), None)
        if key is not None and key * tick <= time + 1e-6:
            container.seek(at, stream=stream, backward=True)
            return
    container.seek(0, unsupported_byte_offset=True)


def _picture_of(container: InputContainer) -> VideoStream:
    """Its first picture that is not a cover."""
    films = [one for one in container.streams.video if "ATTACHED_PIC" not in str(one.disposition).upper()]
    if not films:
        raise InputError("recording", "the file holds sound but no picture")
    coder = films[0].codec_context
    if coder is None or coder.codec.canonical_name not in CODECS:
        raise InputError("recording", "the picture is in a format that is not read here; save it as H.264")
    if coder.width * coder.height > MOST_PIXELS:
        raise InputError("recording", f"pictures of {coder.width} x {coder.height} are too large; save it smaller")
    coder.options = {"max_pixels": str(MOST_PIXELS)}  # it may grow on the way
    return films[0]


def _why_not(path: Path) -> str:
    try:
        with path.open("rb") as file:
            head = file.read(4096)
    except OSError:
        return "the file is gone or cannot be read"
    if b"ftyp" in head[:64]:
        return "the file is cut off: the part that says where its pictures are is missing"
    if not head:
        return "the file is empty"
    return "this is no video"
