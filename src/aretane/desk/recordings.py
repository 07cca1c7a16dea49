"""Recordings: added in chunks, probed, listed, forgotten."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aretane.core.errors import NotFound, Refused
from aretane.desk.house import House
from aretane.desk.work.kinds import CONVERSION
from aretane.store import jobs, recordings
from aretane.store.database import Db
from aretane.store.jobs import FAILED, Job
from aretane.store.recordings import Recording
from aretane.store.scope import Scope
from aretane.vision.files.recording import probe

CHUNK = 4 * 1024 * 1024  # bytes that a page sends at once


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
    return {"upload": house.files.begin(scope, size), "chunk": CHUNK}


def append(house: House, scope: Scope, upload: str, offset: int, chunk: bytes) -> int:
    return house.files.append(scope, upload, offset, chunk)


def give_up(house: House, scope: Scope, upload: str) -> None:
    house.files.give_up(scope, upload)


def finish(house: House, scope: Scope, upload: str, name: str, seen_by: str) -> dict[str, Any]:
    """Probe what arrived. What is no usable recording leaves nothing behind."""
    path, sha256, size = house.files.finished(scope, upload)
    try:
        found, times = probe(path)
        house.files.keep(path, sha256)
    finally:
        house.files.give_up(scope, upload)

    def write(db: Db) -> None:
        recordings.add(db, scope, sha256, name, size, found.as_data(), times)
        if seen_by:
            recordings.note_viewers(db, scope, sha256, seen_by)

    house.database.write(write)
    return found_as_data(house, scope, sha256)


def found(house: House, scope: Scope, sha256: str) -> Recording:
    with house.database.transaction() as db:
        recording = recordings.find(db, scope, sha256)
    if recording is None:
        raise NotFound("recording")
    return recording


def found_as_data(house: House, scope: Scope, sha256: str) -> dict[str, Any]:
    recording = found(house, scope, sha256)
    job = house.database.write(lambda db: _conversion(house, scope, db, recording))
    if job is not None:
        house.jobs.wake()
    return _as_data(house, recording, job)


def remove(house: House, scope: Scope, sha256: str) -> None:
    found(house, scope, sha256)

    def forget(db: Db) -> bool:
        jobs.forget(db, scope, CONVERSION, sha256)
        return recordings.remove(db, scope, sha256)

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


def _conversion(house: House, scope: Scope, db: Db, recording: Recording) -> Job | None:
    """Of a recording that browsers cannot play: begun when such a one is first asked for."""
    files, sha256 = house.files, recording.sha256
    if recording.probe["plays_in_browser"] or files.playable(sha256).is_file() or not files.path(sha256).is_file():
        return None
    return house.jobs.ask(db, scope, CONVERSION, sha256)
