"""Reading recordings: balls at a moment, the table's outline, and whole recordings in the background."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import readings
from aretane.web.context import asking, house
from aretane.web.readings.schemas import (
    CorrectionRequest,
    OutlineAnswer,
    OutlineRequest,
    ReadingAnswer,
    ReadRecordingRequest,
    StillAnswer,
    StillQuery,
    TableToldAnswer,
)

blueprint = APIBlueprint("readings", __name__, url_prefix="/api", tag="readings")


@blueprint.post("/recordings/<sha256>/outline")
@blueprint.input(OutlineRequest)
@blueprint.output(OutlineAnswer)
def outline(sha256: str, json_data: OutlineRequest) -> dict[str, Any]:
    """A first guess of the table's corners and pockets, or marks set by hand moved onto edges."""
    return {"marks": readings.outline(house(), asking(), sha256, json_data.table, json_data.at, json_data.marks)}


@blueprint.get("/games/<game_id>/still")
@blueprint.input(StillQuery, location="query")
@blueprint.output(StillAnswer)
def still(game_id: str, query_data: StillQuery) -> dict[str, Any]:
    return readings.still(house(), asking(), game_id, query_data.recording, query_data.at)


@blueprint.get("/games/<game_id>/reading")
@blueprint.output(ReadingAnswer)
def reading_of(game_id: str) -> dict[str, Any]:
    return readings.of_game(house(), asking(), game_id)


@blueprint.post("/games/<game_id>/reading")
@blueprint.input(ReadRecordingRequest)
@blueprint.output(ReadingAnswer)
def begin_reading(game_id: str, json_data: ReadRecordingRequest) -> dict[str, Any]:
    """Read a match's recording in the background, in the place of an earlier reading."""
    asked = json_data.model_dump()
    return readings.begin(house(), asking(), game_id, asked.pop("id"), **asked)


@blueprint.get("/games/<game_id>/reading/table")
@blueprint.output(TableToldAnswer)
def table_told(game_id: str) -> dict[str, Any]:
    """What the balls' ways tell of this table's cloth and rails."""
    return readings.table_of(house(), asking(), game_id)


@blueprint.post("/games/<game_id>/reading/stop")
@blueprint.output(ReadingAnswer)
def stop_reading(game_id: str) -> dict[str, Any]:
    """Stop reading; what was found stays."""
    return readings.stop(house(), asking(), game_id)


@blueprint.post("/games/<game_id>/reading/corrections")
@blueprint.input(CorrectionRequest)
@blueprint.output(ReadingAnswer)
def correct_reading(game_id: str, json_data: CorrectionRequest) -> dict[str, Any]:
    """Add a correction; what it makes impossible is refused."""
    correction = {key: value for key, value in json_data.model_dump().items() if value not in (None, False)}
    return readings.correct(house(), asking(), game_id, correction)


@blueprint.delete("/games/<game_id>/reading/corrections")
@blueprint.output(ReadingAnswer)
def take_back_correction(game_id: str) -> dict[str, Any]:
    """Take the newest correction back."""
    return readings.take_back_correction(house(), asking(), game_id)
