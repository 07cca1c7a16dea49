"""A recording that browsers cannot play, made anew as one that they can."""

from __future__ import annotations

from aretane.core.errors import InputError
from aretane.jobs.pool import WorkerDied
from aretane.jobs.work import Stopped, Work
from aretane.store.files import RecordingFiles
from aretane.vision.files.convert import convert

LIMIT = 6 * 3600.0  # seconds: one long part, which ends by itself when its note of progress is removed


def run(work: Work, files: RecordingFiles) -> str:
    sha256 = work.job.subject
    if files.playable(sha256).is_file():
        return ""
    target = files.converting(sha256)
    try:
        work.part(LIMIT, convert, str(files.path(sha256)), str(target), str(files.progress(sha256)))
        if not target.is_file() or not files.keep_playable(sha256):  # the recording was removed
            raise Stopped
    except WorkerDied:
        raise InputError("recording", "it cannot be decoded; save it as H.264 or VP9 and add it again") from None
    finally:
        files.drop_conversion(sha256)
    return ""
