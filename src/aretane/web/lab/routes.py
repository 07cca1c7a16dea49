"""The shot lab."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.planning.backwards.goal import Goal, next_ball, place_of
from aretane.core.skill.hand import Hand, hand_from
from aretane.desk import lab
from aretane.desk.layouts import asked_layout
from aretane.formats.stroke import stroke_from
from aretane.web.lab.schemas import (
    BackwardsRequest,
    BankAnswer,
    KickAnswer,
    KickRequest,
    LabAnswer,
    LinesAnswer,
    LinesRequest,
    ReachAnswer,
    ReachRequest,
    SendAnswer,
    SendRequest,
    SimulateAnswer,
    SimulateRequest,
)

blueprint = APIBlueprint("lab", __name__, url_prefix="/api", tag="lab")


@blueprint.get("/lab")
@blueprint.output(LabAnswer)
def things_of_the_lab() -> dict[str, Any]:
    return lab.lab()


@blueprint.post("/simulate")
@blueprint.input(SimulateRequest)
@blueprint.output(SimulateAnswer)
def simulate(json_data: SimulateRequest) -> dict[str, Any]:
    table = lab.changed(json_data.table, json_data.physics or {})
    layout = asked_layout(table, json_data.discipline, json_data.balls, json_data.state)
    meant, hand = stroke_from(json_data.stroke.model_dump()), hand_from(json_data.hand, layout.table, "hand")
    return lab.played(layout, meant, hand, json_data.samples, json_data.seed)


@blueprint.post("/reach")
@blueprint.input(ReachRequest)
@blueprint.output(ReachAnswer)
def reach(json_data: ReachRequest) -> dict[str, Any]:
    """The strokes that pot this ball and leave the cue ball there."""
    layout, hand = _table_and_hand(json_data)
    return lab.reached(layout, json_data.ball, json_data.pocket, _goal(layout, json_data), hand)


def _goal(layout: Layout, asked: ReachRequest) -> Goal:
    """Raises `InputError` where no goal or two are told."""
    then = asked.next
    if (asked.to is None) == (then is None):
        raise InputError("to", "say where the cue ball should stop: a place, or the next ball and its angle")
    if then is not None:
        return next_ball(layout, asked.ball, then.ball, then.pocket, then.angle, then.within)
    assert asked.to is not None
    return place_of(layout, asked.to, asked.radius)


@blueprint.post("/send")
@blueprint.input(SendRequest)
@blueprint.output(SendAnswer)
def send(json_data: SendRequest) -> dict[str, Any]:
    """The strokes that leave an object ball there."""
    layout, hand = _table_and_hand(json_data)
    goal = place_of(layout, json_data.to, json_data.radius, json_data.ball)
    return lab.sent(layout, json_data.ball, goal, hand)


@blueprint.post("/kick")
@blueprint.input(KickRequest)
@blueprint.output(KickAnswer)
def kick(json_data: KickRequest) -> dict[str, Any]:
    """Kicks at a ball: by the mirror, and as they are played."""
    layout, hand = _table_and_hand(json_data)
    return lab.kicked(layout, json_data.ball, json_data.pocket, json_data.rails, hand, json_data.side)


@blueprint.post("/bank")
@blueprint.input(BackwardsRequest)
@blueprint.output(BankAnswer)
def bank(json_data: BackwardsRequest) -> dict[str, Any]:
    """Banks of a ball: by the mirror, and as they are played."""
    layout, hand = _table_and_hand(json_data)
    return lab.banked(layout, json_data.ball, hand)


@blueprint.post("/lines")
@blueprint.input(LinesRequest)
@blueprint.output(LinesAnswer)
def lines(json_data: LinesRequest) -> dict[str, Any]:
    """Plants and cannons that lie on a table."""
    table = lab.changed(json_data.table, json_data.physics)
    return lab.lines(asked_layout(table, json_data.discipline, json_data.balls, None))


def _table_and_hand(asked: BackwardsRequest) -> tuple[Layout, Hand]:
    table = lab.changed(asked.table, asked.physics)
    layout = asked_layout(table, asked.discipline, asked.balls, None)
    return layout, hand_from(asked.hand, layout.table, "hand")
