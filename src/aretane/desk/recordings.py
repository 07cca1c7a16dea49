"""Recordings: added in chunks, probed, listed, forgotten."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError, NotFound, Refused
from aretane.desk.house import House
from aretane.desk.work.kinds import CONVERSION
from aretane.jobs.pool import WorkerDied
from aretane.store import jobs, recordings, uploads
from aretane.store.database import Db
from aretane.store.jobs import FAILED, Job
from aretane.store.recordings import Recording
from aretane.store.scope import Scope
from aretane.store.uploads import Upload
from aretane.vision.files.recording import Probe, probe

CHUNK = 4 * 1024 * 1024  # bytes that a page sends at once
PROBING = 60.0  # seconds that a recording may take to be opened, beside those for reading it once
READ_SPEED = 20e6  # bytes a second of a slow disk
GB = 1e9


@dataclass(frozen=True)
class Film:
    """A file to be played: its path, its media type, and a name for this very content."""

    path: Path
    media_type: str
    tag: str


def listed(house: House, scope: Scope) -> list[dict[str, Any]]:
    def look(db: Db) -> list[tuple[Recording, Job | None]]:
        return [(one, _conversion(house, scope, db, one)) for one in recordings.listed(db, scope)]

    found = house.database.write(look)
    if any(job is not None for _, job in found):
        house.jobs.wake()
    return [_as_data(house, recording, job) for recording, job in found]


def begin_upload(house: House, scope: Scope, size: int) -> dict[str, Any]:
    """Room for the whole recording is set aside; refused at once where there is none."""
    if size <= 0:
        raise Refused("the file is empty")

    def write(db: Db) -> Upload:
        on_their_way = sum(house.files.due(one.id, one.size) for one in uploads.announced(db))
        if house.files.room() - on_their_way < size:
            raise Refused("the disk has no room for this recording")
        left = house.room - uploads.room_taken(db, scope)
        if left < size:
            raise Refused(
                f"your club's room for recordings is full: {max(0, left) / GB:.1f} of {house.room / GB:.0f} GB are"
                f" left, this one has {size / GB:.1f}; remove some, or ask whoever runs this server for more"
            )
        return uploads.begin(db, scope, size)

    upload = house.database.write(write)
    house.files.begin(scope, upload.id)
    return {"upload": upload.id, "chunk": CHUNK}


def append(house: House, scope: Scope, upload_id: str, offset: int, chunk: bytes) -> int:
    upload = _upload(house, scope, upload_id)
    if offset + len(chunk) > upload.size:
        raise Refused(f"this is more than the {upload.size} bytes that were announced")
    return upload.size if upload.sha256 else house.files.append(scope, upload_id, offset, chunk)


def give_up(house: House, scope: Scope, upload_id: str) -> None:
    house.files.give_up(scope, upload_id)
    house.database.write(lambda db: uploads.forget(db, scope, upload_id))


def finish(house: House, scope: Scope, upload_id: str, name: str, seen_by: str) -> dict[str, Any]:
    """Look at what arrived and keep it, once however often it is asked. What is no usable recording leaves nothing
    behind."""
    with house.files.finishing(scope, upload_id):
        upload = _upload(house, scope, upload_id)
        sha256 = upload.sha256 or _take_in(house, scope, upload, name, seen_by)
    return found_as_data(house, scope, sha256)


def _take_in(house: House, scope: Scope, upload: Upload, name: str, seen_by: str) -> str:
    path, sha256 = house.files.whole(scope, upload.id, upload.size)
    try:
        found, times = _probed(house, path, upload.size)
    except InputError:
        give_up(house, scope, upload.id)
        raise

    def write(db: Db) -> None:
        recordings.add(db, scope, sha256, name, upload.size, found.as_data(), times)
        if seen_by:
            recordings.note_viewers(db, scope, sha256, seen_by)
        uploads.arrived(db, scope, upload, sha256)

    with house.files.adding(path, sha256):
        house.database.write(write)
    return sha256


def _probed(house: House, path: Path, size: int) -> tuple[Probe, list[float]]:
    """What a file holds, found by a worker of little memory and time: a film can lie about itself."""
    try:
        return house.films.call(PROBING + size / READ_SPEED, probe, path)
    except (WorkerDied, MemoryError):
        raise InputError(
            "recording", "opening it takes too much memory or time; save it as H.264 and add it again"
        ) from None


def _upload(house: House, scope: Scope, upload_id: str) -> Upload:
    with house.database.transaction() as db:
        return uploads.find(db, scope, upload_id)


def found(house: House, scope: Scope, sha256: str) -> Recording:
    with house.database.transaction() as db:
        recording = recordings.find(db, scope, sha256)
    if recording is None:
        raise NotFound("recording")
    return recording


def found_as_data(house: House, scope: Scope, sha256: str, *, again: bool = False) -> dict[str, Any]:
    """With `again` a conversion that has failed is tried once more."""
    recording = found(house, scope, sha256)
    job = house.database.write(lambda db: _conversion(house, scope, db, recording, again=again))
    if job is not None:
        house.jobs.wake()
    return _as_data(house, recording, job)


def remove(house: House, scope: Scope, sha256: str) -> None:
    found(house, scope, sha256)

    def forget(db: Db) -> bool:
        jobs.forget(db, scope, CONVERSION, sha256)
        return recordings.remove(db, scope, sha256)

    with house.files.held(sha256):
        if house.database.write(forget):
            house.files.remove(sha256)


def film(house: House, scope: Scope, sha256: str) -> Film:
    """The file as a browser can play it."""
    recording = found(house, scope, sha256)
    path, playable = house.files.path(sha256), house.files.playable(sha256)
    if not path.is_file():
        raise Refused("the file of this recording is missing; add it again")
    if playable.is_file():
        return Film(playable, "video/mp4", f"{sha256}-play")
    return Film(path, "video/webm" if "matroska" in recording.probe["container"] else "video/mp4", sha256)


def frame_times(house: House, scope: Scope, sha256: str) -> list[float]:
    with house.database.transaction() as db:
        times = recordings.frame_times(db, scope, sha256)
    if times is None:
        raise NotFound("recording")
    return times


def _as_data(house: House, recording: Recording, conversion: Job | None) -> dict[str, Any]:
    converted, problem = None, None
    if conversion is not None and conversion.state == FAILED:
        problem = conversion.said.removeprefix("recording: ")
    elif conversion is not None and conversion.going:
        converted = house.files.share(recording.sha256)
    return {
        "converted": converted,
        "problem": problem,
        "sha256": recording.sha256,
        "name": recording.name,
        "bytes": recording.bytes,
        "added_at": recording.added_at,
        "seen_by": recording.seen_by,
        "probe": recording.probe,
    }


def _conversion(house: House, scope: Scope, db: Db, recording: Recording, *, again: bool = False) -> Job | None:
    """Of a recording that browsers cannot play: begun when such a one is first asked for."""
    files, sha256 = house.files, recording.sha256
    if recording.probe["plays_in_browser"] or files.playable(sha256).is_file() or not files.path(sha256).is_file():
        return None
    return house.jobs.ask(db, scope, CONVERSION, sha256, again=again)
