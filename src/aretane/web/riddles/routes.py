"""Shots asked as questions to one or many people."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import riddles
from aretane.store.riddles import Guess
from aretane.web.context import asking, house
from aretane.web.riddles.schemas import GuessAnswer, RiddleAnswer, RiddleRequest, ShownQuery

blueprint = APIBlueprint("riddles", __name__, url_prefix="/api", tag="riddles")


@blueprint.post("/riddles")
@blueprint.input(RiddleRequest)
@blueprint.output(RiddleAnswer)
def make(json_data: RiddleRequest) -> dict[str, Any]:
    """Ask a shot as a question."""
    return riddles.make(house(), asking(), json_data.id, json_data.game, json_data.shot)


@blueprint.get("/riddles/<riddle>")
@blueprint.input(ShownQuery, location="query")
@blueprint.output(RiddleAnswer)
def told(riddle: str, query_data: ShownQuery) -> dict[str, Any]:
    return riddles.told(house(), asking(), riddle, shown=query_data.shown)


@blueprint.delete("/riddles/<riddle>")
@blueprint.output({}, status_code=204)
def drop(riddle: str) -> str:
    riddles.drop(house(), asking(), riddle)
    return ""


@blueprint.post("/riddles/<riddle>/answers")
@blueprint.input(GuessAnswer)
@blueprint.output(RiddleAnswer)
def answer(riddle: str, json_data: GuessAnswer) -> dict[str, Any]:
    """What somebody would play; who answers again changes his answer."""
    return riddles.answered(house(), asking(), riddle, Guess(**json_data.model_dump()))
