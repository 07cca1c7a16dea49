"""Percentages: potting by angle and distance, position errors, breaks, and the shots behind them."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from aretane.core.review.break_figures import BreakFigures
from aretane.core.review.shot_figures import TRY_RULE
from aretane.core.statistics import breaks, potting
from aretane.desk.house import House
from aretane.store import club
from aretane.store.scope import Scope
from aretane.store.shot_figures import Filter, ShotRow, chosen


def players(house: House, scope: Scope) -> list[dict[str, object]]:
    with house.database.transaction() as db:
        return club.players(db, scope)


def figures(house: House, scope: Scope, wanted: Filter) -> dict[str, Any]:
    with house.database.transaction() as db:
        rows = chosen(db, scope, wanted)
    shots = [row.figures for row in rows]
    names = {id(row.figures): row.player_name for row in rows}
    bias = potting.bias(shots)
    tried = potting.tries(shots)
    return {
        "try_rule": TRY_RULE,
        "shots": [asdict(row) for row in rows],
        "overall": asdict(potting.potting_rate(shots, tried)),
        "map": [_cell(cell) for cell in potting.cut_and_distance_map(shots)],
        "by_pocket": [asdict(family) for family in potting.by(shots, lambda shot: shot.pocket)],
        "by_kind": [asdict(family) for family in potting.by(shots, lambda shot: shot.kind)],
        "by_player": [asdict(family) for family in potting.by(shots, lambda shot: names[id(shot)])],
        "errors": [_point(index, row) for index, row in enumerate(rows) if row.figures.error],
        "along": asdict(bias.along),
        "across": asdict(bias.across),
        "distance": asdict(bias.distance),
        "without_place": sum(shots[index].cut_angle is None for index in tried),
        "breaks": _breaks(rows),
    }


_SORTED_BY: dict[str, Callable[[BreakFigures], str | None]] = {
    "cue ball's place": lambda opening: opening.place,
    "power": lambda opening: opening.power,
    "fullness": lambda opening: opening.fullness,
    "kind of break-off": lambda opening: opening.type,
    "how the pack opened": lambda opening: opening.opened,
    "what it left": lambda opening: opening.leaves,
}


def _breaks(rows: list[ShotRow]) -> list[dict[str, Any]]:
    """Breaks by player and by what was logged of them; `members` are positions in `shots`."""
    where = [index for index, row in enumerate(rows) if row.figures.opening]
    openings = [opening for row in rows if (opening := row.figures.opening)]
    names = {id(row.figures.opening): row.player_name for row in rows}
    mixed = len({opening.discipline for opening in openings}) > 1

    def player(opening: BreakFigures) -> str | None:
        """Breaks of different games are no one figure: then each player counts once a game."""
        name = names[id(opening)]
        return f"{name}, {opening.discipline.replace('-', ' ')}" if mixed and name else name

    sorted_by = {"player": player, "game": lambda opening: opening.discipline, **_SORTED_BY}
    tables = []
    for by, key in sorted_by.items():
        found = [asdict(family) for family in breaks.families(openings, key)]
        for family in found:
            family["members"] = [where[member] for member in family["members"]]
        if found:
            tables.append({"by": by, "families": found})
    return tables


def _cell(cell: potting.Cell) -> dict[str, Any]:
    near, far = cell.distance
    return {**asdict(cell), "distance": (near, far if math.isfinite(far) else None)}


def _point(index: int, row: ShotRow) -> dict[str, Any]:
    error = row.figures.error
    assert error is not None
    data = asdict(error)
    del data["vector"]
    return {"shot": index, **data}
