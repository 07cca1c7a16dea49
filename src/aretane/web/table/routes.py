"""Reading a layout, the camera that sees a table, and the disciplines."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.core.table import table_from
from aretane.desk import camera as cameras
from aretane.desk import tables
from aretane.desk.layouts import asked_layout
from aretane.web.games.schemas import DisciplineList
from aretane.web.table.schemas import (
    CameraAnswer,
    CameraRequest,
    MeasureAnswer,
    MeasureRequest,
    ReadAnswer,
    ReadRequest,
)

blueprint = APIBlueprint("table", __name__, url_prefix="/api", tag="table")


@blueprint.get("/disciplines")
@blueprint.output(DisciplineList)
def disciplines() -> dict[str, Any]:
    return {"disciplines": tables.disciplines()}


@blueprint.post("/read")
@blueprint.input(ReadRequest)
@blueprint.output(ReadAnswer)
def read(json_data: ReadRequest) -> dict[str, Any]:
    layout = asked_layout(json_data.table, json_data.discipline, json_data.balls, json_data.state)
    spread = tables.spread_of(layout, json_data.ball, json_data.pocket, json_data.sigma)
    shapes = [vars(one) for one in tables.drawn(layout, json_data.ball, json_data.pocket)]
    return {**tables.read(layout), "spread": spread, "shapes": shapes}


@blueprint.post("/measure")
@blueprint.input(MeasureRequest)
@blueprint.output(MeasureAnswer)
def measure(json_data: MeasureRequest) -> dict[str, Any]:
    """What was drawn by hand, measured: lengths, angles, the gaps beside lines."""
    layout = asked_layout(json_data.table, json_data.discipline, json_data.balls, json_data.state)
    drawings = [one.model_dump() for one in json_data.drawings]
    return {"drawings": tables.measured(layout, drawings, json_data.sigma)}


@blueprint.post("/camera")
@blueprint.input(CameraRequest)
@blueprint.output(CameraAnswer)
def camera(json_data: CameraRequest) -> dict[str, Any]:
    size = json_data.width, json_data.height
    table = table_from(json_data.table)
    return cameras.solved(table, json_data.marks, size, json_data.picture, json_data.pixel_aspect)
