"""Conversions of recordings that browsers cannot play: begun when such a recording is first asked for."""

from __future__ import annotations

import threading
from concurrent.futures import BrokenExecutor, Future

from aretane.core.errors import InputError
from aretane.jobs.pool import Pool
from aretane.store.files import RecordingFiles
from aretane.vision.files.convert import convert


class Conversions:
    """What is being converted now; a stopped server begins it anew."""

    def __init__(self, pool: Pool, files: RecordingFiles) -> None:
        self._pool, self._files = pool, files
        self._running: dict[str, Future[int]] = {}
        self._failed: dict[str, str] = {}
        self._lock = threading.Lock()

    def share(self, sha256: str) -> float | None:
        """How much is converted, 0 to 1; None when it is done. Raises `InputError` if it cannot be."""
        if self._files.playable(sha256).is_file() or not self._files.path(sha256).is_file():
            return None
        with self._lock:
            if sha256 in self._failed:
                raise InputError("recording", self._failed[sha256])
            work = self._running.get(sha256)
            if work is None:
                target, progress = self._files.playable(sha256), self._files.progress(sha256)
                work = self._pool.submit(convert, str(self._files.path(sha256)), str(target), str(progress))
                self._running[sha256] = work
            if work.done():
                del self._running[sha256]
                self._note(sha256, work)
        if sha256 in self._failed:
            raise InputError("recording", self._failed[sha256])
        return self._files.share(sha256)

    def _note(self, sha256: str, work: Future[int]) -> None:
        try:
            work.result(0)
        except InputError as problem:
            self._failed[sha256] = problem.message
        except BrokenExecutor:
            self._pool.renew()
            self._failed[sha256] = "it cannot be decoded; save it as H.264 or VP9 and add it again"
        except Exception:
            self._failed[sha256] = "it cannot be converted; save it as H.264 or VP9 and add it again"
