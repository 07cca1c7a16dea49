"""Reading a layout, and the camera that sees a table."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from apiflask import APIBlueprint

from aretane.core.geometry.reading import read_table, reading_as_data
from aretane.core.geometry.uncertainty import shot_spread
from aretane.core.layout import Layout
from aretane.core.review.position import HAND_PLACED
from aretane.core.rules.disciplines import legal_first
from aretane.core.table import table_from
from aretane.vision.camera import place_sigma, project, solve_camera
from aretane.web.layouts import asked_layout
from aretane.web.schemas import CameraAnswer, CameraRequest, ReadAnswer, ReadRequest

blueprint = APIBlueprint("table", __name__, url_prefix="/api", tag="table")

SIGMA_GRID = (5, 3)  # places along and across the bed at which the camera's uncertainty is given


@blueprint.post("/read")
@blueprint.input(ReadRequest)
@blueprint.output(ReadAnswer)
def read(json_data: ReadRequest) -> dict[str, Any]:
    layout = asked_layout(json_data.table, json_data.discipline, json_data.balls, json_data.state)
    answer = reading_as_data(layout, read_table(layout, legal_first(layout)))
    return {**answer, "spread": _spread(layout, json_data)}


def _spread(layout: Layout, wanted: ReadRequest) -> dict[str, Any] | None:
    if wanted.ball not in layout.object_balls or wanted.pocket not in layout.table.pockets:
        return None
    sigma = {ball: wanted.sigma.get(ball, HAND_PLACED) for ball in layout.balls}
    found = shot_spread(layout, str(wanted.ball), str(wanted.pocket), sigma)
    return {
        "cut_angle_deg": math.degrees(found.cut_angle) if found.cut_angle is not None else None,
        "cue_distance": found.cue_distance,
        "pocket_distance": found.pocket_distance,
    }


@blueprint.post("/camera")
@blueprint.input(CameraRequest)
@blueprint.output(CameraAnswer)
def camera(json_data: CameraRequest) -> dict[str, Any]:
    table = table_from(json_data.table)
    found = solve_camera(
        table,
        json_data.marks,
        (json_data.width, json_data.height),
        picture=json_data.picture,
        pixel_aspect=json_data.pixel_aspect,
    )
    grid = [
        (x, y)
        for x in np.linspace(0.05 * table.length, 0.95 * table.length, SIGMA_GRID[0])
        for y in np.linspace(0.1 * table.width, 0.9 * table.width, SIGMA_GRID[1])
    ]
    pixels = project(found, np.array([(x, y, table.radius) for x, y in grid]))
    return {
        "focal": found.focal,
        "centre": found.centre,
        "rotation": found.rotation.ravel().tolist(),
        "translation": found.translation.tolist(),
        "radial": found.radial,
        "pixel_aspect": found.pixel_aspect,
        "error_px": found.error_px,
        "sigma": [
            (float(x), float(y), min(1.0, place_sigma(found, (float(u), float(v)), table.radius)))
            for (x, y), (u, v) in zip(grid, pixels, strict=True)
        ],
    }
