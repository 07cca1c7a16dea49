"""Matches: list, open, change, undo, export, import."""

from __future__ import annotations

import uuid
from typing import Any

import orjson
from apiflask import APIBlueprint
from flask import Response, request

from aretane.core.errors import InputError
from aretane.core.review.replay import carry_forward, replay
from aretane.core.review.shot_facts import shot_facts
from aretane.core.rules.disciplines import rules_of
from aretane.core.table import table_from
from aretane.formats.match import check_shot, match_from, read_match
from aretane.formats.schema import LARGEST_FILE
from aretane.store import games
from aretane.store import shot_facts as fact_rows
from aretane.store.database import Db
from aretane.store.games import Fact, Game, Operation
from aretane.store.matches import store_match
from aretane.web.context import transaction
from aretane.web.game_answer import answer, game_as_data
from aretane.web.game_schemas import (
    GameAnswer,
    GameList,
    History,
    ImportQuery,
    NewGame,
    OperationRequest,
    ReverseRequest,
)

blueprint = APIBlueprint("games", __name__, url_prefix="/api/games", tag="matches")


@blueprint.get("")
@blueprint.output(GameList)
def list_games() -> dict[str, Any]:
    with transaction() as (db, author):
        rows = games.listed(db, author.club_id)
    return {"games": [_line(row) for row in rows]}


@blueprint.post("")
@blueprint.input(NewGame)
@blueprint.output(GameAnswer)
def create_game(json_data: NewGame) -> dict[str, Any]:
    match = match_from({**json_data.document, "racks": []})
    rules_of(match["discipline"])
    with transaction() as (db, author):
        store_match(db, author, json_data.id, match, "new match")
        game = games.load(db, author.club_id, json_data.id)
    return game_as_data(game)


@blueprint.post("/import")
@blueprint.input(ImportQuery, location="query")
@blueprint.output(GameAnswer)
def import_game(query_data: ImportQuery) -> dict[str, Any]:
    """Take in a match. With `keep` its impossible entries stand as the coach's word."""
    if (request.content_length or 0) > LARGEST_FILE:
        raise InputError("file", f"larger than {LARGEST_FILE // 1_000_000} MB")
    match = read_match(request.get_data(), keep=query_data.keep)
    with transaction() as (db, author):
        game_id = str(uuid.uuid4())
        store_match(db, author, game_id, match, "imported")
        game = games.load(db, author.club_id, game_id)
    return game_as_data(game)


@blueprint.get("/<game_id>")
@blueprint.output(GameAnswer)
def open_game(game_id: str) -> Response:
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
    return answer(game_as_data(game))


@blueprint.delete("/<game_id>")
@blueprint.output({}, status_code=204)
def delete_game(game_id: str) -> str:
    with transaction() as (db, author):
        games.delete(db, author.club_id, game_id)
    return ""


@blueprint.get("/<game_id>/export")
def export_game(game_id: str) -> Response:
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
    name = "".join(c if c.isalnum() else "-" for c in str(game.header.document.get("title") or "match"))
    return Response(
        orjson.dumps(game.as_match(), option=orjson.OPT_INDENT_2),
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name.encode("ascii", "ignore").decode()}.json"'},
    )


@blueprint.post("/<game_id>/operations")
@blueprint.input(OperationRequest)
@blueprint.output(GameAnswer)
def change_game(game_id: str, json_data: OperationRequest) -> Response:
    """Write a change. Sending the same operation again changes nothing and answers the same."""
    operation = Operation(json_data.id, json_data.client, json_data.seen, json_data.label)
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id, lock=True)
        if games.already_done(db, operation.id) is None:
            changes = {f"{c.kind}:{c.id}": _fact(c) for c in json_data.changes}
            _check(game, changes)
            carried = _carried(game, changes)
            entry = games.edit(db, author, game_id, operation, carried)
            return answer(_rewritten(db, games.with_changes(game, carried, entry), _first_rack(game, changes)))
    return answer(game_as_data(game))


@blueprint.post("/<game_id>/<any(undo, redo):direction>")
@blueprint.input(ReverseRequest)
@blueprint.output(GameAnswer)
def reverse_change(game_id: str, direction: str, json_data: ReverseRequest) -> Response:
    operation = Operation(json_data.id, json_data.client, json_data.seen, direction)
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id, lock=True)
        if games.already_done(db, operation.id) is None:
            games.reverse(db, author, game_id, operation, direction)
            return answer(_rewritten(db, games.load(db, author.club_id, game_id)))
    return answer(game_as_data(game))


def _rewritten(db: Db, game: Game, since: int = 0) -> dict[str, Any]:
    """A match that has just been changed: replayed once, for the rows behind figures and for the answer."""
    replayed = replay(game.as_match())
    facts = shot_facts(replayed)
    fact_rows.rebuild(db, game, facts, since)
    return game_as_data(game, replayed, facts)


@blueprint.get("/<game_id>/history")
@blueprint.output(History)
def game_history(game_id: str) -> dict[str, Any]:
    with transaction() as (db, author):
        games.load(db, author.club_id, game_id)
        return {"entries": games.history(db, game_id)}


def _first_rack(game: Game, changes: dict[str, Fact | None]) -> int:
    """The first rack that these changes touch; a new one comes after those that there are."""
    order = {rack.id: number for number, (rack, _) in enumerate(game.racks)}
    homes = {shot.key: rack.id for rack, shots in game.racks for shot in shots}
    touched = [0] if game.header.key in changes else []
    for key, fact in changes.items():
        kind, _, id_ = key.partition(":")
        home = id_ if kind == "rack" else homes.get(key) or (fact.parent if fact else "")
        touched.append(order.get(home, len(order)))
    return min(touched, default=0)


def _fact(change: Any) -> Fact | None:
    if change.document is None:
        return None
    return Fact(change.kind, change.id, change.parent, change.seat, change.document)


def _check(game: Game, changes: dict[str, Fact | None]) -> None:
    """The form of what is to be written; impossible sequences are shown on the bench, not refused."""
    header = game.header.document
    parents = {game.id} | {rack.id for rack, _ in game.racks}
    parents |= {fact.id for fact in changes.values() if fact is not None and fact.kind == "rack"}
    table = table_from(header.get("table", "pool-9ft"))
    for key, fact in changes.items():
        if fact is None:
            if key == game.header.key:
                raise InputError("changes", "the match itself is removed by deleting it")
            continue
        if fact.parent not in parents:
            raise InputError("changes.parent", "the rack of this shot is not there any more")
        if fact.kind == "match":
            match_from({**fact.document, "racks": []})
        elif fact.kind == "rack":
            match_from({**header, "racks": [{**fact.document, "shots": []}]})
        else:
            match_from({**header, "racks": [{"shots": [fact.document]}]})
            check_shot(header["discipline"], table, fact.document)


def _carried(game: Game, changes: dict[str, Fact | None]) -> dict[str, Fact | None]:
    """The changes, and the later layouts that follow an edited one."""
    found = dict(changes)
    for _, shots in game.racks:
        documents = [shot.document for shot in shots]
        for index, shot in enumerate(shots):
            edited = changes.get(shot.key)
            if edited is None:
                continue
            for number, document in carry_forward(documents, index, edited.document).items():
                documents[number] = document
                own = shots[number]
                if number == index or own.key not in changes:
                    seat = edited.seat if number == index else own.seat
                    found[own.key] = Fact("shot", own.id, own.parent, seat, document)
    return found


def _line(row: dict[str, Any]) -> dict[str, Any]:
    document = row["document"]
    players = document.get("players") or {}
    return {
        "id": row["id"],
        "created_at": row["created_at"],
        "title": str(document.get("title") or "Untitled match"),
        "discipline": document["discipline"],
        "session": document.get("session") or "match",
        "players": {seat: str(person.get("name") or seat) for seat, person in players.items()},
        "racks": row["racks"],
        "shots": row["shots"],
    }
