"""Recordings: added in chunks, probed, listed, served with ranges."""

from __future__ import annotations

from array import array
from typing import Any

from apiflask import APIBlueprint
from flask import Response, abort, request, send_file

from aretane.core.errors import InputError
from aretane.store import recordings
from aretane.store.files import CHUNK_LIMIT
from aretane.store.recordings import Recording
from aretane.vision.recording import probe
from aretane.web.context import context, transaction
from aretane.web.schemas import (
    FinishRequest,
    RecordingAnswer,
    RecordingList,
    UploadAnswer,
    UploadProgress,
    UploadRequest,
)

blueprint = APIBlueprint("recordings", __name__, url_prefix="/api", tag="recordings")

CHUNK = 4 * 1024 * 1024


@blueprint.get("/recordings")
@blueprint.output(RecordingList)
def list_recordings() -> dict[str, Any]:
    with transaction() as (db, author):
        found = recordings.listed(db, author.club_id)
    return {"recordings": [_as_data(recording) for recording in found]}


@blueprint.post("/uploads")
@blueprint.input(UploadRequest)
@blueprint.output(UploadAnswer)
def begin_upload(json_data: UploadRequest) -> dict[str, Any]:
    return {"upload": context().files.begin(json_data.size), "chunk": CHUNK}


@blueprint.put("/uploads/<upload>/<int:offset>")
@blueprint.output(UploadProgress)
def append_chunk(upload: str, offset: int) -> dict[str, Any]:
    if (request.content_length or 0) > CHUNK_LIMIT:
        abort(413, "this part of the file is too large")
    return {"arrived": context().files.append(upload, offset, request.get_data(cache=False))}


@blueprint.delete("/uploads/<upload>")
@blueprint.output({}, status_code=204)
def cancel_upload(upload: str) -> str:
    context().files.give_up(upload)
    return ""


@blueprint.post("/uploads/<upload>/finish")
@blueprint.input(FinishRequest)
@blueprint.output(RecordingAnswer)
def finish_upload(upload: str, json_data: FinishRequest) -> dict[str, Any]:
    """Probe what arrived. What is no usable recording leaves nothing behind."""
    files = context().files
    path, sha256, size = files.finished(upload)
    try:
        found, times = probe(path)
        files.keep(path, sha256)
    finally:
        files.give_up(upload)
    with transaction() as (db, author):
        recordings.add(db, author, sha256, json_data.name, size, found.as_data(), times)
        if json_data.seen_by:
            recordings.note_viewers(db, author.club_id, sha256, json_data.seen_by)
        recording = recordings.find(db, author.club_id, sha256)
    return _as_data(recording or abort(404))


@blueprint.get("/recordings/<sha256>")
@blueprint.output(RecordingAnswer)
def find_recording(sha256: str) -> dict[str, Any]:
    return _as_data(_found(sha256))


@blueprint.delete("/recordings/<sha256>")
@blueprint.output({}, status_code=204)
def remove_recording(sha256: str) -> str:
    _found(sha256)
    with transaction() as (db, author):
        last = recordings.remove(db, author.club_id, sha256)
    if last:
        context().files.remove(sha256)
    return ""


@blueprint.get("/recordings/<sha256>/file")
@blueprint.doc(responses={200: "the file; ranges are answered with 206"})
def recording_file(sha256: str) -> Response:
    recording = _found(sha256)
    path = context().files.path(sha256)
    if not path.is_file():
        abort(404, "the file of this recording is missing; add it again")
    playable = context().files.playable(sha256)
    if playable.is_file():
        return send_file(playable, mimetype="video/mp4", conditional=True, etag=f"{sha256}-play", max_age=3600)
    kind = "video/webm" if "matroska" in recording.probe["container"] else "video/mp4"
    return send_file(path, mimetype=kind, conditional=True, etag=sha256, max_age=3600)


@blueprint.get("/recordings/<sha256>/frames")
@blueprint.doc(responses={200: "the times of all frames: 64-bit floats, little-endian, in seconds"})
def frame_times(sha256: str) -> Response:
    with transaction() as (db, author):
        times = recordings.frame_times(db, author.club_id, sha256)
    if times is None:
        abort(404, "there is no such recording")
    return Response(array("d", times).tobytes(), mimetype="application/octet-stream")


def _found(sha256: str) -> Recording:
    with transaction() as (db, author):
        recording = recordings.find(db, author.club_id, sha256)
    return recording or abort(404, "there is no such recording")


def _as_data(recording: Recording) -> dict[str, Any]:
    converted, problem = None, None
    if not recording.probe["plays_in_browser"]:
        try:
            converted = context().conversions.share(recording.sha256)
        except InputError as refusal:
            problem = refusal.message
    return {
        "converted": converted,
        "problem": problem,
        "sha256": recording.sha256,
        "name": recording.name,
        "bytes": recording.bytes,
        "added_at": recording.added_at,
        "seen_by": recording.seen_by,
        **recording.probe,
    }
