"""Recordings: added in chunks, listed, served with ranges."""

from __future__ import annotations

from array import array
from typing import Any

from apiflask import APIBlueprint
from flask import Response, abort, request, send_file

from aretane.desk import recordings
from aretane.store.files import CHUNK_LIMIT
from aretane.web.context import asking, house
from aretane.web.recordings.schemas import (
    FinishRequest,
    RecordingAnswer,
    RecordingList,
    UploadAnswer,
    UploadProgress,
    UploadRequest,
)

PIECE = 4 * 1024 * 1024  # bytes of a recording in one answer

blueprint = APIBlueprint("recordings", __name__, url_prefix="/api", tag="recordings")


@blueprint.get("/recordings")
@blueprint.output(RecordingList)
def list_recordings() -> dict[str, Any]:
    return {"recordings": recordings.listed(house(), asking())}


@blueprint.post("/uploads")
@blueprint.input(UploadRequest)
@blueprint.output(UploadAnswer)
def begin_upload(json_data: UploadRequest) -> dict[str, Any]:
    return recordings.begin_upload(house(), asking(), json_data.size)


@blueprint.put("/uploads/<upload>/<int:offset>")
@blueprint.output(UploadProgress)
def append_chunk(upload: str, offset: int) -> dict[str, Any]:
    if (request.content_length or 0) > CHUNK_LIMIT:
        abort(413, "this part of the file is too large")
    return {"arrived": recordings.append(house(), asking(), upload, offset, request.get_data(cache=False))}


@blueprint.delete("/uploads/<upload>")
@blueprint.output({}, status_code=204)
def cancel_upload(upload: str) -> str:
    recordings.give_up(house(), asking(), upload)
    return ""


@blueprint.post("/uploads/<upload>/finish")
@blueprint.input(FinishRequest)
@blueprint.output(RecordingAnswer)
def finish_upload(upload: str, json_data: FinishRequest) -> dict[str, Any]:
    """Probe what arrived. What is no usable recording leaves nothing behind."""
    return recordings.finish(house(), asking(), upload, json_data.name, json_data.seen_by)


@blueprint.get("/recordings/<sha256>")
@blueprint.output(RecordingAnswer)
def find_recording(sha256: str) -> dict[str, Any]:
    return recordings.found_as_data(house(), asking(), sha256)


@blueprint.post("/recordings/<sha256>/conversion")
@blueprint.output(RecordingAnswer)
def convert_again(sha256: str) -> dict[str, Any]:
    """Try once more to make it playable."""
    return recordings.found_as_data(house(), asking(), sha256, again=True)


@blueprint.delete("/recordings/<sha256>")
@blueprint.output({}, status_code=204)
def remove_recording(sha256: str) -> str:
    recordings.remove(house(), asking(), sha256)
    return ""


@blueprint.get("/recordings/<sha256>/file")
@blueprint.doc(responses={200: "the file; ranges are answered with 206"})
def recording_file(sha256: str) -> Response:
    film = recordings.film(house(), asking(), sha256)
    _only_a_piece(film.path.stat().st_size)
    return send_file(film.path, mimetype=film.media_type, conditional=True, etag=film.tag, max_age=3600)


def _only_a_piece(size: int) -> None:
    """Of a long range only its beginning is answered, as the standard allows (RFC 9110, 15.3.7): a player that
    pauses does not hold a thread for the rest."""
    asked = request.range
    if asked is None or asked.units != "bytes" or len(asked.ranges) != 1:
        return
    begin, end = asked.ranges[0]
    begin = max(0, size + begin) if begin < 0 else begin
    if begin < size:
        request.environ["HTTP_RANGE"] = f"bytes={begin}-{min(end or size, begin + PIECE, size) - 1}"


@blueprint.get("/recordings/<sha256>/frames")
@blueprint.doc(responses={200: "the times of all frames: 64-bit floats, little-endian, in seconds"})
def frame_times(sha256: str) -> Response:
    times = recordings.frame_times(house(), asking(), sha256)
    return Response(array("d", times).tobytes(), mimetype="application/octet-stream")
