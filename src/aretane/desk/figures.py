"""Percentages: potting by angle and distance, position errors, breaks, and the shots behind them."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from aretane.core.errors import InputError
from aretane.core.review.shot_figures import HOLE, TRY_RULE
from aretane.core.statistics import breaks, potting
from aretane.core.statistics.breaks import BreakTally
from aretane.core.statistics.families import cards
from aretane.desk.house import House
from aretane.formats.figures import sheets_as_data
from aretane.store import club, shot_figures
from aretane.store.scope import Scope
from aretane.store.shot_figures import BEHIND, Filter

MOST_POINTS = 500  # position errors that are drawn one by one
PAGE = 50  # shots that are told at once


def players(house: House, scope: Scope) -> list[dict[str, object]]:
    with house.database.transaction() as db:
        return club.players(db, scope)


def figures(house: House, scope: Scope, wanted: Filter) -> dict[str, Any]:
    """Everything is added up by the store: however much was logged, no shot but those drawn comes here."""
    with house.database.transaction() as db:
        tallies = shot_figures.tallies(db, scope, wanted)
        errors = shot_figures.some_errors(db, scope, wanted, MOST_POINTS)
        tables = _breaks(shot_figures.break_tallies(db, scope, wanted))
    bias = potting.bias(tallies)
    return {
        "try_rule": TRY_RULE,
        "overall": asdict(potting.potting_rate(tallies)),
        "map": [_cell(cell) for cell in potting.cut_and_distance_map(tallies)],
        "by_pocket": [asdict(family) for family in potting.by(tallies, lambda tally: tally.pocket)],
        "by_kind": [asdict(family) for family in potting.by(tallies, lambda tally: tally.kind)],
        "by_player": [asdict(family) for family in potting.by(tallies, lambda tally: tally.player)],
        "errors": [{"shot": shot, "error": error} for shot, error in errors],
        "along": asdict(bias.along),
        "across": asdict(bias.across),
        "distance": asdict(bias.distance),
        "without_place": potting.without_place(tallies),
        "holes": sum(tally.n for tally in tallies if tally.kind == HOLE),
        "breaks": tables,
    }


def sheet(house: House, scope: Scope, game_id: str) -> dict[str, Any]:
    """What a match adds up to for each player, as far as it can have happened."""
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
    document = known.match.as_document()
    seats = cards(known.replay, [one for _, one in known.rows.values()])
    players = document.get("players") or {}
    names = {seat: str((players.get(seat) or {}).get("name") or seat) for seat in seats}
    return {
        **sheets_as_data([(document, known.replay)]),
        "cards": {names[seat]: asdict(card) for seat, card in seats.items()},
    }


def behind(house: House, scope: Scope, wanted: Filter, by: str, name: str, begin: int = 0) -> dict[str, Any]:
    """The shots behind a figure, newest match first, a page of them from `begin` on."""
    if by not in BEHIND:
        raise InputError("by", "there are no such figures")
    with house.database.transaction() as db:
        n, rows = shot_figures.behind(db, scope, wanted, by, name, begin, PAGE)
    return {"n": n, "shots": [asdict(row) for row in rows]}


def felt(house: House, scope: Scope, begin: int = 0) -> dict[str, Any]:
    """Shots at which somebody's own estimate was kept, with the computed numbers of that moment; where the two are
    furthest apart first."""
    with house.database.transaction() as db:
        n, lines = shot_figures.felt(db, scope, begin, PAGE)
    return {"n": n, "shots": lines}


_SORTED_BY: dict[str, tuple[str, Callable[[BreakTally], str | None]]] = {
    "game": ("game", lambda one: one.discipline),
    "cue ball's place": ("place", lambda one: one.place),
    "power": ("power", lambda one: one.power),
    "fullness": ("fullness", lambda one: one.fullness),
    "kind of break-off": ("type", lambda one: one.type),
    "how the pack opened": ("opened", lambda one: one.opened),
    "what it left": ("leaves", lambda one: one.leaves),
}


def _breaks(tallies: list[BreakTally]) -> list[dict[str, Any]]:
    """Breaks by player and by what was logged of them. Breaks of different games are no one figure: then each
    player counts once a game."""
    tables = []
    games = sorted({one.discipline for one in tallies})
    by_player = []
    for game in games:
        own = [one for one in tallies if one.discipline == game]
        for family in breaks.families(own, lambda one: one.player):
            words = f"{family.name}, {game.replace('-', ' ')}" if len(games) > 1 else family.name
            by_player.append(_family(family, words, game))
    by_player.sort(key=lambda family: -family["balls"]["n"])
    if by_player:
        tables.append({"by": "player", "key": "break player", "families": by_player})
    for by, (key, value) in _SORTED_BY.items():
        found = [_family(family, family.name, None) for family in breaks.families(tallies, value)]
        if found:
            tables.append({"by": by, "key": f"break {key}", "families": found})
    return tables


def _family(family: breaks.BreakFamily, words: str, discipline: str | None) -> dict[str, Any]:
    return {**asdict(family), "words": words, "discipline": discipline}


def _cell(cell: potting.Cell) -> dict[str, Any]:
    near, far = cell.distance
    return {**asdict(cell), "distance": (near, far if math.isfinite(far) else None)}
