"""The page of percentages."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import figures
from aretane.store.shot_figures import Filter
from aretane.web.context import asking, house
from aretane.web.figures.schemas import FiguresAnswer, FiguresQuery, PlayerList

blueprint = APIBlueprint("figures", __name__, url_prefix="/api", tag="figures")


@blueprint.get("/players")
@blueprint.output(PlayerList)
def list_players() -> dict[str, Any]:
    return {"players": figures.players(house(), asking())}


@blueprint.get("/figures")
@blueprint.input(FiguresQuery, location="query")
@blueprint.output(FiguresAnswer)
def percentages(query_data: FiguresQuery) -> dict[str, Any]:
    asked = query_data.model_dump()
    asked |= {"player_id": asked.pop("player"), "game_id": asked.pop("game")}
    return figures.figures(house(), asking(), Filter(**asked))
