"""Exercises, attempts at them, and what they come to."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from aretane.desk import plans, practice
from aretane.store.plans import Planned
from aretane.store.practice import Attempt
from aretane.web.context import asking, house
from aretane.web.files import printed, taken_away
from aretane.web.practice.schemas import (
    AttemptsRequest,
    CalendarQuery,
    ExerciseAnswer,
    ExerciseList,
    ExerciseRequest,
    LayoutRequest,
    LevelList,
    OfferedQuery,
    PlanList,
    PlannedRequest,
    RunsRequest,
    ToPractise,
    ToPractiseQuery,
)

blueprint = APIBlueprint("practice", __name__, url_prefix="/api", tag="practice")


@blueprint.get("/games/<game_id>/shots/<shot_id>/levels")
@blueprint.input(OfferedQuery, location="query")
@blueprint.output(LevelList)
def offered(game_id: str, shot_id: str, query_data: OfferedQuery) -> dict[str, Any]:
    """The exercises that a shot gives for a hand."""
    return {"levels": practice.offered(house(), asking(), game_id, shot_id, query_data.hand)}


@blueprint.get("/to-practise")
@blueprint.input(ToPractiseQuery, location="query")
@blueprint.output(ToPractise)
def to_practise(query_data: ToPractiseQuery) -> dict[str, Any]:
    """What would bring a player most, by the ledgers."""
    since = query_data.since.isoformat() if query_data.since else None
    return practice.to_practise(house(), asking(), query_data.player, since)


@blueprint.get("/exercises")
@blueprint.output(ExerciseList)
def listed() -> dict[str, Any]:
    return {"exercises": practice.listed(house(), asking())}


@blueprint.post("/exercises")
@blueprint.input(ExerciseRequest)
@blueprint.output(ExerciseAnswer)
def make(json_data: ExerciseRequest) -> dict[str, Any]:
    """Make an exercise of a shot."""
    asked = json_data
    return practice.make(house(), asking(), asked.id, asked.game, asked.shot, asked.hand, asked.level)


@blueprint.post("/exercises/layouts")
@blueprint.input(LayoutRequest)
@blueprint.output(ExerciseAnswer)
def make_layout(json_data: LayoutRequest) -> dict[str, Any]:
    """Make an exercise of the whole table before a shot."""
    return practice.make_layout(house(), asking(), json_data.id, json_data.game, json_data.shot)


@blueprint.post("/exercises/runs")
@blueprint.input(RunsRequest)
@blueprint.output(ExerciseAnswer)
def make_runs(json_data: RunsRequest) -> dict[str, Any]:
    """Make a log of open runs."""
    return practice.make_runs(house(), asking(), json_data.id, json_data.title)


@blueprint.get("/exercises/<exercise>")
@blueprint.output(ExerciseAnswer)
def told(exercise: str) -> dict[str, Any]:
    return practice.told(house(), asking(), exercise)


@blueprint.delete("/exercises/<exercise>")
@blueprint.output({}, status_code=204)
def drop(exercise: str) -> str:
    practice.drop(house(), asking(), exercise)
    return ""


@blueprint.post("/exercises/<exercise>/attempts")
@blueprint.input(AttemptsRequest)
@blueprint.output(ExerciseAnswer)
def tried(exercise: str, json_data: AttemptsRequest) -> dict[str, Any]:
    """Log attempts; those that were sent before count once."""
    attempts = [
        Attempt(one.id, one.player.strip() or "Somebody", one.result, one.zone, _plain(one.at), one.balls, one.why)
        for one in json_data.attempts
    ]
    return practice.tried(house(), asking(), exercise, attempts)


@blueprint.delete("/exercises/<exercise>/attempts/<attempt>")
@blueprint.output(ExerciseAnswer)
def take_back(exercise: str, attempt: str) -> dict[str, Any]:
    """Take an attempt back that was a slip of the finger."""
    return practice.take_back(house(), asking(), exercise, attempt)


@blueprint.get("/exercises/<exercise>/card/<any(pdf, html):kind>")
def card(exercise: str, kind: str) -> Response:
    """The set-up card of an exercise."""
    return printed(practice.card_of(house(), asking(), exercise), kind, "card")


@blueprint.get("/plan")
@blueprint.output(PlanList)
def plan() -> dict[str, Any]:
    """What everybody is going to practise."""
    return plans.listed(house(), asking())


@blueprint.put("/plan")
@blueprint.input(PlannedRequest)
@blueprint.output(PlanList)
def keep_planned(json_data: PlannedRequest) -> dict[str, Any]:
    """Plan a session, or another one in place of it."""
    return plans.keep(house(), asking(), Planned(**json_data.model_dump()))


@blueprint.delete("/plan/<planned>")
@blueprint.output(PlanList)
def drop_planned(planned: str) -> dict[str, Any]:
    return plans.drop(house(), asking(), planned)


@blueprint.get("/plan/calendar")
@blueprint.input(CalendarQuery, location="query")
@blueprint.doc(responses={200: "the sessions as iCalendar"})
def calendar(query_data: CalendarQuery) -> Response:
    """The plan for a calendar: of everybody, or of one player."""
    return taken_away(plans.calendar(house(), asking(), query_data.player), "ics", "practice")


def _plain(at: datetime) -> datetime:
    """As the store has it: in UTC, without saying so."""
    return at.astimezone(UTC).replace(tzinfo=None)
