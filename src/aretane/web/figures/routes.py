"""The page of percentages."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import figures
from aretane.store.shot_figures import Filter
from aretane.web.context import asking, house
from aretane.web.figures.schemas import (
    BehindQuery,
    DisagreementList,
    FiguresAnswer,
    FiguresQuery,
    MatchSheet,
    PageQuery,
    PlayerList,
    ShotList,
)

blueprint = APIBlueprint("figures", __name__, url_prefix="/api", tag="figures")


@blueprint.get("/players")
@blueprint.output(PlayerList)
def list_players() -> dict[str, Any]:
    return {"players": figures.players(house(), asking())}


@blueprint.get("/figures")
@blueprint.input(FiguresQuery, location="query")
@blueprint.output(FiguresAnswer)
def percentages(query_data: FiguresQuery) -> dict[str, Any]:
    return figures.figures(house(), asking(), _filter(query_data))


@blueprint.get("/figures/shots")
@blueprint.input(BehindQuery, location="query")
@blueprint.output(ShotList)
def shots_behind(query_data: BehindQuery) -> dict[str, Any]:
    """The shots behind a figure, newest match first, a page of them from `begin` on."""
    asked = query_data
    return figures.behind(house(), asking(), _filter(asked), asked.by, asked.name, asked.begin)


@blueprint.get("/games/<game_id>/sheet")
@blueprint.output(MatchSheet)
def sheet(game_id: str) -> dict[str, Any]:
    """What a match adds up to for each player."""
    return figures.sheet(house(), asking(), game_id)


@blueprint.get("/felt")
@blueprint.input(PageQuery, location="query")
@blueprint.output(DisagreementList)
def felt(query_data: PageQuery) -> dict[str, Any]:
    """Where felt and computed are furthest apart first."""
    return figures.felt(house(), asking(), query_data.begin)


def _filter(asked: FiguresQuery) -> Filter:
    return Filter(asked.session, asked.discipline, asked.player, asked.game, asked.target_source)
