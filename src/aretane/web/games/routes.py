"""Matches: list, open, change, undo, export, import."""

from __future__ import annotations

from typing import Any

import orjson
from apiflask import APIBlueprint
from flask import Response, current_app, request

from aretane.core.errors import InputError
from aretane.desk import drawings, games, readings
from aretane.formats.schema import LARGEST_FILE
from aretane.store.changes import Operation
from aretane.store.games import Fact, Sought
from aretane.web.context import asking, house
from aretane.web.files import taken_away
from aretane.web.games.schemas import (
    Change,
    DrawingQuery,
    ExportQuery,
    GameAnswer,
    GameList,
    History,
    ImportQuery,
    ListQuery,
    MomentList,
    MomentQuery,
    NewGame,
    OperationRequest,
    ReversedGame,
    ReverseRequest,
    UnfinishedList,
    UnfinishedQuery,
)

blueprint = APIBlueprint("games", __name__, url_prefix="/api/games", tag="matches")


@blueprint.get("")
@blueprint.input(ListQuery, location="query")
@blueprint.output(GameList)
def list_games(query_data: ListQuery) -> dict[str, Any]:
    """A page of the matches from `begin` on, those worked on last first, and what was deleted last."""
    sought = Sought(**query_data.model_dump(exclude={"begin"}))
    found = games.listed(house(), asking(), query_data.begin, sought)
    return {**found, "deleted": games.listed(house(), asking(), sought=Sought(deleted=True))["games"]}


@blueprint.get("/unfinished")
@blueprint.input(UnfinishedQuery, location="query")
@blueprint.output(UnfinishedList)
def unfinished_games(query_data: UnfinishedQuery) -> dict[str, Any]:
    """Of these matches: what was found in their recordings and is in no log yet."""
    return {"games": readings.unfinished(house(), asking(), query_data.games)}


@blueprint.get("/moments")
@blueprint.input(MomentQuery, location="query")
@blueprint.output(MomentList)
def find_moments(query_data: MomentQuery) -> dict[str, Any]:
    """Shots whose notes hold what is searched for."""
    return {"moments": games.moments(house(), asking(), query_data.search)}


@blueprint.post("")
@blueprint.input(NewGame)
@blueprint.output(GameAnswer)
def create_game(json_data: NewGame) -> dict[str, Any]:
    return games.begin(house(), asking(), json_data.id, json_data.document)


@blueprint.post("/import")
@blueprint.input(ImportQuery, location="query")
@blueprint.output(GameAnswer)
def import_game(query_data: ImportQuery) -> dict[str, Any]:
    """Take in a match; one that is there already is 409, unless it says what to do."""
    if (request.content_length or 0) > LARGEST_FILE:
        raise InputError("file", f"larger than {LARGEST_FILE // 1_000_000} MB")
    return games.take_in(house(), asking(), request.get_data(), keep=query_data.keep, same=query_data.same)


@blueprint.get("/<game_id>")
@blueprint.output(GameAnswer)
def open_game(game_id: str) -> Response:
    return _answer(games.opened(house(), asking(), game_id))


@blueprint.delete("/<game_id>")
@blueprint.output({}, status_code=204)
def delete_game(game_id: str) -> str:
    games.delete(house(), asking(), game_id)
    return ""


@blueprint.get("/<game_id>/export")
@blueprint.input(ExportQuery, location="query")
def export_game(game_id: str, query_data: ExportQuery) -> Response:
    form = query_data.form
    match = games.as_file(house(), asking(), game_id)
    if form == "json":
        data = orjson.dumps(match, option=orjson.OPT_INDENT_2)
    else:
        data = games.as_table(house(), asking(), game_id, form)
    name = "".join(c if c.isalnum() else "-" for c in str(match.get("title") or "match"))
    return taken_away(data, form, name)


@blueprint.post("/<game_id>/operations")
@blueprint.input(OperationRequest)
@blueprint.output(GameAnswer)
def change_game(game_id: str, json_data: OperationRequest) -> Response:
    """Write a change. Sending the same operation again changes nothing and answers the same."""
    operation = Operation(json_data.id, json_data.client, json_data.seen, json_data.label)
    changes = {f"{change.kind}:{change.id}": _fact(change) for change in json_data.changes}
    return _answer(games.change(house(), asking(), game_id, operation, changes, over=json_data.over))


@blueprint.post("/<game_id>/<any(undo, redo):direction>")
@blueprint.input(ReverseRequest)
@blueprint.output(ReversedGame)
def reverse_change(game_id: str, direction: str, json_data: ReverseRequest) -> Response:
    operation = Operation(json_data.id, json_data.client, json_data.seen, direction)
    return _answer(games.reverse(house(), asking(), game_id, operation, direction), ReversedGame)


@blueprint.get("/<game_id>/history")
@blueprint.output(History)
def game_history(game_id: str) -> dict[str, Any]:
    return {"entries": games.history(house(), asking(), game_id)}


def _fact(change: Change) -> Fact | None:
    if change.document is None:
        return None
    return Fact(change.kind, change.id, change.parent, change.seat, change.document)


def _answer(data: dict[str, Any], kind: type[GameAnswer] = GameAnswer) -> Response:
    """The answer as it goes out. Its form is checked in tests only: that takes as long as the rules do."""
    if current_app.config.get("CHECK_ANSWERS"):
        kind.model_validate(data)
    return Response(orjson.dumps(data), mimetype="application/json")


@blueprint.get("/<game_id>/shots/<shot_id>/drawing.svg")
@blueprint.input(DrawingQuery, location="query")
def drawing(game_id: str, shot_id: str, query_data: DrawingQuery) -> Response:
    """The table before a shot, with its zones and its pot, as a picture of its own."""
    picture = drawings.shot_drawing(house(), asking(), game_id, shot_id, query_data.colours)
    return Response(picture, mimetype="image/svg+xml")
