"""The bytes of recordings: uploaded in chunks, kept under their content hash."""

from __future__ import annotations

import fcntl
import hashlib
import shutil
import time
import uuid
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from aretane.core.errors import Refused, Unavailable
from aretane.store.scope import Scope

CHUNK_LIMIT = 16 * 1024 * 1024
KEEP_FREE = 200 * 1024 * 1024  # bytes that must stay free on the disk
STALE = 24 * 3600.0  # seconds after which what nobody has touched in `incoming/` is a leftover
ASLEEP = 3600.0  # seconds without a part after which no room is set aside for an upload any more
PATIENCE, PAUSE = 20.0, 0.05  # seconds


class RecordingFiles:
    """A folder with `incoming/` for what is on its way and one file a recording.

    A file and its row in the store come and go together: whoever adds or removes one holds it meanwhile (`held`),
    in whatever thread or server.
    """

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.incoming, self.clips = folder / "incoming", folder / "clips"
        for part in (self.incoming, self.clips):
            part.mkdir(parents=True, exist_ok=True)
        folder.chmod(0o700)  # recordings show people

    def path(self, sha256: str) -> Path:
        return self.folder / sha256[:2] / sha256

    def playable(self, sha256: str) -> Path:
        """Where the same recording lies as browsers can play it, if it had to be converted."""
        return self.folder / sha256[:2] / f"{sha256}.play.mp4"

    def converting(self, sha256: str) -> Path:
        """Where a conversion is being written."""
        return self.incoming / f"{sha256}.play.mp4"

    def clip(self, scope: Scope, name: str) -> Path:
        """Where a film of moments lies until it is swept away."""
        return self.clips / f"{scope.club_id}.{name}.mp4"

    def clip_progress(self, scope: Scope, name: str) -> Path:
        """Where a film of moments writes how far it is."""
        return self.clips / f"{scope.club_id}.{name}.progress"

    def clip_voice(self, scope: Scope, name: str, shot: str) -> Path:
        """Where what is said over a shot lies while the film is made."""
        return self.clips / f"{scope.club_id}.{name}.{shot}.voice"

    def drop_clip(self, scope: Scope, name: str) -> None:
        """Remove a film of moments and all that was written for it; one that is being made stops."""
        for path in self.clips.glob(f"{scope.club_id}.{name}.*"):
            path.unlink(missing_ok=True)

    def progress(self, sha256: str) -> Path:
        """Where a conversion writes how far it has come."""
        return self.incoming / f"{sha256}.progress"

    def share(self, sha256: str) -> float:
        """How far a conversion has come, 0 to 1."""
        return _share(self.progress(sha256))

    def clip_share(self, scope: Scope, name: str) -> float:
        return _share(self.clip_progress(scope, name))

    def room(self) -> int:
        """Bytes that recordings may still take."""
        return shutil.disk_usage(self.folder).free - KEEP_FREE

    def begin(self, scope: Scope, upload: str) -> None:
        self._place(scope, upload).touch()

    def due(self, upload: str, size: int) -> int:
        """How much of an upload, of whatever club, is still to come; nothing when none has come for an hour."""
        for path in self.incoming.glob(f"*-{upload}"):
            found = path.stat()
            return size - found.st_size if time.time() - found.st_mtime < ASLEEP else 0
        return 0

    def append(self, scope: Scope, upload: str, offset: int, chunk: bytes) -> int:
        """Write a chunk and return how much has arrived. A chunk sent twice is written once."""
        path = self._unfinished(scope, upload)
        have = path.stat().st_size
        if offset > have:
            raise Refused(f"a part is missing: {have} bytes have arrived")
        try:
            with path.open("r+b") as file:
                file.seek(offset)
                file.write(chunk)
        except OSError as problem:
            raise Unavailable(f"the recording cannot be stored: {problem.strerror}") from problem
        return max(have, offset + len(chunk))

    @contextmanager
    def finishing(self, scope: Scope, upload: str) -> Iterator[None]:
        """One at a time finishes an upload."""
        lock = self._place(scope, upload).with_suffix(".lock")
        try:
            with _alone(lock):
                yield
        finally:
            lock.unlink(missing_ok=True)

    def whole(self, scope: Scope, upload: str, size: int) -> tuple[Path, str]:
        """The uploaded file and its content hash."""
        path = self._unfinished(scope, upload)
        have = path.stat().st_size
        if have < size:
            raise Refused(f"a part is missing: {have} of {size} bytes have arrived")
        with path.open("rb") as file:
            return path, hashlib.file_digest(file, "sha256").hexdigest()

    @contextmanager
    def held(self, sha256: str) -> Iterator[None]:
        """Nobody else adds or removes this recording meanwhile."""
        folder = self.path(sha256).parent
        folder.mkdir(exist_ok=True)
        with _alone(folder / "lock"):
            yield

    @contextmanager
    def adding(self, path: Path, sha256: str) -> Iterator[None]:
        """A file goes to its place, and back if what is done meanwhile fails; one that is there already stays."""
        place = self.path(sha256)
        with self.held(sha256):
            new = not place.exists()
            if new:
                path.replace(place)
            try:
                yield
            except BaseException:
                if new:
                    place.replace(path)
                raise
            path.unlink(missing_ok=True)

    def keep_playable(self, sha256: str) -> bool:
        """Move what was converted to its place; not when the recording has been removed."""
        with self.held(sha256):
            if wanted := self.path(sha256).exists():
                self.converting(sha256).replace(self.playable(sha256))
        return wanted

    def drop_conversion(self, sha256: str) -> None:
        """Remove what an ended conversion has left; one that goes on stops."""
        self.progress(sha256).unlink(missing_ok=True)
        for path in self.incoming.glob(f"{sha256}.play*"):
            path.unlink(missing_ok=True)

    def give_up(self, scope: Scope, upload: str) -> None:
        """Remove an unfinished upload, if it is there."""
        self._place(scope, upload).unlink(missing_ok=True)

    def remove(self, sha256: str) -> None:
        """Called by who holds it."""
        self.drop_conversion(sha256)
        for path in (self.path(sha256), self.playable(sha256)):
            path.unlink(missing_ok=True)

    def sweep(self) -> None:
        """Remove what was left on its way a day ago."""
        for path in _untouched((*self.incoming.iterdir(), *self.clips.iterdir())):
            path.unlink(missing_ok=True)

    def untouched(self) -> list[str]:
        """Recordings that have lain here for a day or more."""
        return [path.name for path in _untouched(self.folder.glob("??/" + "?" * 64))]

    def _unfinished(self, scope: Scope, upload: str) -> Path:
        path = self._place(scope, upload)
        if not path.is_file():
            raise Refused("this upload is not known any more; add the file again")
        return path

    def _place(self, scope: Scope, upload: str) -> Path:
        """Where a club's unfinished upload lies; another club's is not there."""
        try:
            return self.incoming / f"{scope.club_id}-{uuid.UUID(upload)}"
        except ValueError:
            raise Refused("this is no upload") from None


def _share(path: Path) -> float:
    """What a file of progress says, 0 to 1; 0 where there is none."""
    try:
        return float(path.read_text())
    except (OSError, ValueError):
        return 0.0


def _untouched(paths: Iterable[Path]) -> Iterator[Path]:
    for path in paths:
        with suppress(FileNotFoundError):  # another server was quicker
            if time.time() - path.stat().st_mtime > STALE:
                yield path


@contextmanager
def _alone(lock: Path) -> Iterator[None]:
    """Hold a lock that threads and servers share. Raises `Unavailable` when another holds it for too long."""
    until = time.monotonic() + PATIENCE
    with lock.open("w") as file:
        while True:
            try:
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
                break
            except BlockingIOError:
                if time.monotonic() > until:
                    raise Unavailable("this recording is being looked at; try again") from None
                time.sleep(PAUSE)
        yield
