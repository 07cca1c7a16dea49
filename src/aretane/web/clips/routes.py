"""Films of moments, and the coach's voice over them."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint
from flask import Response, abort, request, send_file

from aretane.desk import clips, voices
from aretane.web.clips.schemas import ClipAnswer, ClipRequest, VoiceList
from aretane.web.context import asking, house

blueprint = APIBlueprint("clips", __name__, url_prefix="/api", tag="clips")


@blueprint.post("/games/<game_id>/clips")
@blueprint.input(ClipRequest)
@blueprint.output(ClipAnswer)
def ask(game_id: str, json_data: ClipRequest) -> dict[str, Any]:
    """Have a film made of these moments."""
    return clips.ask(house(), asking(), game_id, json_data.shots, sound=json_data.sound)


@blueprint.get("/clips/<clip>")
@blueprint.output(ClipAnswer)
def found(clip: str) -> dict[str, Any]:
    return clips.found(house(), asking(), clip)


@blueprint.delete("/clips/<clip>")
@blueprint.output({}, status_code=204)
def give_up(clip: str) -> str:
    clips.give_up(house(), asking(), clip)
    return ""


@blueprint.get("/clips/<clip>/file")
@blueprint.doc(responses={200: "the film; ranges are answered with 206"})
def film(clip: str) -> Response:
    path = clips.film(house(), asking(), clip)
    return send_file(path, mimetype="video/mp4", conditional=True, etag=clip, download_name="moments.mp4")


@blueprint.get("/games/<game_id>/voices")
@blueprint.output(VoiceList)
def spoken(game_id: str) -> dict[str, Any]:
    return {"voices": voices.seconds(house(), asking(), game_id)}


@blueprint.put("/games/<game_id>/shots/<shot_id>/voice")
@blueprint.output(VoiceList)
def keep(game_id: str, shot_id: str) -> dict[str, Any]:
    """What was said over a shot, as the browser recorded it, in place of what was said before."""
    if (request.content_length or 0) > voices.MOST_BYTES:
        abort(413, "this recording of a voice is too large")
    sound, sort = request.get_data(cache=False), request.mimetype
    return {"voices": voices.keep(house(), asking(), game_id, shot_id, sound, sort)}


@blueprint.get("/games/<game_id>/shots/<shot_id>/voice")
@blueprint.doc(responses={200: "what was said, as the browser recorded it"})
def heard(game_id: str, shot_id: str) -> Response:
    voice = voices.find(house(), asking(), game_id, shot_id)
    return Response(voice.sound, mimetype=voice.sort, headers={"Cache-Control": "no-store"})


@blueprint.delete("/games/<game_id>/shots/<shot_id>/voice")
@blueprint.output(VoiceList)
def drop(game_id: str, shot_id: str) -> dict[str, Any]:
    return {"voices": voices.drop(house(), asking(), game_id, shot_id)}
