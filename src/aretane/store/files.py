"""The bytes of recordings: uploaded in chunks, kept under their content hash."""

from __future__ import annotations

import hashlib
import shutil
import time
import uuid
from pathlib import Path

from aretane.core.errors import Refused
from aretane.store.scope import Scope

CHUNK_LIMIT = 16 * 1024 * 1024
KEEP_FREE = 200 * 1024 * 1024  # bytes that an upload must leave on the disk
STALE = 24 * 3600.0  # seconds after which an unfinished upload is given up


class RecordingFiles:
    """A folder with `incoming/` for unfinished uploads and one file a recording."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.incoming = folder / "incoming"
        self.incoming.mkdir(parents=True, exist_ok=True)
        folder.chmod(0o700)  # recordings show people
        self._sweep()

    def path(self, sha256: str) -> Path:
        return self.folder / sha256[:2] / sha256

    def playable(self, sha256: str) -> Path:
        """Where the same recording lies as browsers can play it, if it had to be converted."""
        return self.folder / sha256[:2] / f"{sha256}.play.mp4"

    def progress(self, sha256: str) -> Path:
        """Where a conversion writes how far it has come."""
        return self.folder / sha256[:2] / f"{sha256}.progress"

    def share(self, sha256: str) -> float:
        """How far a conversion has come, 0 to 1."""
        try:
            return float(self.progress(sha256).read_text())
        except (OSError, ValueError):
            return 0.0

    def begin(self, scope: Scope, size: int) -> str:
        """Start an upload of `size` bytes; refused at once when the disk has no room for it."""
        if size <= 0:
            raise Refused("the file is empty")
        if shutil.disk_usage(self.folder).free < size + KEEP_FREE:
            raise Refused("the disk has no room for this recording")
        upload = str(uuid.uuid4())
        self._place(scope, upload).touch()
        return upload

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
            raise Refused(f"the recording cannot be stored: {problem.strerror}") from problem
        return max(have, offset + len(chunk))

    def finished(self, scope: Scope, upload: str) -> tuple[Path, str, int]:
        """The uploaded file, its content hash and size."""
        path = self._unfinished(scope, upload)
        with path.open("rb") as file:
            digest = hashlib.file_digest(file, "sha256").hexdigest()
        return path, digest, path.stat().st_size

    def keep(self, path: Path, sha256: str, *, copy: bool = False) -> Path:
        """Move (or copy) a file to its place; one that is there already stays."""
        place = self.path(sha256)
        place.parent.mkdir(parents=True, exist_ok=True)
        if copy:
            part = self.incoming / str(uuid.uuid4())
            shutil.copyfile(path, part)
            path = part
        path.replace(place)
        return place

    def give_up(self, scope: Scope, upload: str) -> None:
        """Remove an unfinished upload, if it is there."""
        self._place(scope, upload).unlink(missing_ok=True)

    def remove(self, sha256: str) -> None:
        for path in (self.progress(sha256), self.path(sha256), self.playable(sha256)):
            path.unlink(missing_ok=True)

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

    def _sweep(self) -> None:
        for path in self.incoming.iterdir():
            if time.time() - path.stat().st_mtime > STALE:
                path.unlink(missing_ok=True)
