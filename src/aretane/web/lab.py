"""The shot lab: one shot played, and repeated with a player's hand."""

from __future__ import annotations

import os
from dataclasses import replace
from typing import Any

from apiflask import APIBlueprint

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.physics.parameters import LIMITS, changes_from, physics_as_data, physics_of
from aretane.core.skill.hand import hand_as_data, hand_from, presets_for
from aretane.core.table import PRESETS, table_as_data, table_from
from aretane.formats.stroke import stroke_from
from aretane.web.game_answer import table_as_answer
from aretane.web.lab_schemas import LabAnswer, SimulateAnswer, SimulateRequest
from aretane.web.layouts import asked_layout

blueprint = APIBlueprint("lab", __name__, url_prefix="/api", tag="lab")

THREADS = os.cpu_count() or 1
_POOL = ["nine-ball", "ten-ball", "eight-ball", "straight-pool"]


@blueprint.get("/lab")
@blueprint.output(LabAnswer)
def lab() -> dict[str, Any]:
    from aretane.core.physics.cue import TIP_LIMIT
    from aretane.core.physics.stroke import FASTEST

    return {
        "tables": [
            {
                "id": name,
                "table": table_as_answer(table),
                "physics": physics_as_data(physics_of(table)),
                "disciplines": _POOL if name.startswith("pool") else [name.split("-")[0]],
                "hands": [{"id": level, **hand_as_data(hand)} for level, hand in presets_for(table).items()],
            }
            for name, table in PRESETS.items()
        ],
        "limits": LIMITS,
        "balls": {discipline: [CUE, *balls] for discipline, balls in OBJECT_BALLS.items()},
        "tip_limit": TIP_LIMIT,
        "fastest": FASTEST,
    }


@blueprint.post("/simulate")
@blueprint.input(SimulateRequest)
@blueprint.output(SimulateAnswer)
def simulate(json_data: SimulateRequest) -> dict[str, Any]:
    # The simulator takes most of a second to load: not before the first shot, see `serving.run`.
    from aretane.core.physics.aim import aimed
    from aretane.core.physics.cue import cue_speed
    from aretane.core.physics.sampling import sample
    from aretane.core.physics.shot import simulate as play
    from aretane.core.physics.stroke import check_stroke
    from aretane.formats.shot import legs_as_data, samples_as_data, shot_as_data

    layout = asked_layout(_table(json_data), json_data.discipline, json_data.balls, json_data.state)
    meant = stroke_from(json_data.stroke.model_dump())
    place = check_stroke(layout, meant)
    struck = aimed(place, meant)
    shot = play(place, struck)
    hand = hand_from(json_data.hand, place.table, "hand")
    samples = None
    if json_data.samples:
        drawn = sample(place, struck, hand, json_data.samples, json_data.seed, THREADS, ball=meant.at)
        samples = samples_as_data(place, meant, drawn)
    physics = physics_of(place.table)
    return {
        "shot": shot_as_data(shot),
        "legs": legs_as_data(shot),
        "cue_speed": cue_speed(struck.speed, struck.side, struck.height, physics.cue_ball_mass),
        "samples": samples,
    }


def _table(wanted: SimulateRequest) -> Any:
    """The table of the request with the request's changes of its parameters."""
    if not wanted.physics:
        return wanted.table
    table = table_from(wanted.table)
    return table_as_data(replace(table, physics=changes_from({**dict(table.physics), **wanted.physics})))
