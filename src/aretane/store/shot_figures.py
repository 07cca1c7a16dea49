"""The derived rows that figures read: one a stroke.

A figure of a shot is a field of `ShotFigures` (or one of the objects in it, which are kept as JSON) and a column of
the same name, added by a migration; nothing else has to be told of it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import MISSING, asdict, dataclass, fields, is_dataclass
from types import UnionType
from typing import Any, get_args, get_type_hints

import orjson

from aretane.core.review.partners import SEATS, who_played
from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import VERSION, ShotFigures, shot_figures
from aretane.store.club import player_ids
from aretane.store.database import Db
from aretane.store.games import Match, load
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Place:
    """The columns of a row that say which stroke it is about, and whose."""

    game_id: str
    shot_id: str
    version: int
    club_id: int
    player_id: int | None
    session: str
    discipline: str


@dataclass(frozen=True)
class ShotRow:
    """A stroke's figures with the stroke that they are of."""

    game_id: str
    shot_id: str
    player_name: str | None
    discipline: str
    figures: ShotFigures


@dataclass(frozen=True)
class Filter:
    """Which shots figures are made of. None leaves a property free; sessions are never mixed unasked."""

    session: str | None = "match"
    discipline: str | None = None
    player_id: int | None = None
    game_id: str | None = None
    target_source: str | None = None


COLUMNS = tuple(field.name for kind in (Place, ShotFigures) for field in fields(kind))
_INSERT = (
    f"INSERT INTO shot_fact ({', '.join(COLUMNS)}) VALUES ({', '.join(f'%({column})s' for column in COLUMNS)})"
)


def rebuild(
    db: Db, scope: Scope, match: Match, figures: Sequence[ShotFigures] | None = None, since: int = 0
) -> None:
    """Write the rows of a match anew; `figures` are computed from it unless the caller has them already.

    Nothing flows back, so after a change in one rack only the rows `since` that rack have to be written.
    """
    document = match.as_document()
    figures = shot_figures(replay(document), since) if figures is None else figures
    ids = [[shot.id for shot in shots] for _, shots in match.racks]
    names = who_played(document)
    known = {name for rack in names for name in rack if name} | _named(document)
    players = player_ids(db, scope, known)
    session, discipline = document.get("session") or "match", document["discipline"]
    rows = []
    for one in figures:
        who = players.get(names[one.rack][one.shot] or "")
        place = Place(match.id, ids[one.rack][one.shot], VERSION, scope.club_id, who, session, discipline)
        rows.append({**vars(place), **_written(one)})
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM shot_fact WHERE game_id = %s AND rack >= %s", (match.id, since))
        cursor.executemany(_INSERT, rows)


def _named(document: Mapping[str, Any]) -> set[str]:
    """Everybody who is named, also before the first stroke."""
    sides = (document.get("players") or {}).values()
    return {str(side[seat]) for side in sides for seat in SEATS if side.get(seat)}


def rebuild_outdated(db: Db) -> int:
    """Rebuild the rows that an older version of the model made; returns how many matches that were."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT DISTINCT game.id, game.club_id, game.author_id"
            " FROM game JOIN shot_fact ON shot_fact.game_id = game.id "
            " WHERE game.deleted_at IS NULL AND shot_fact.version <> %s",
            (VERSION,),
        )
        outdated = cursor.fetchall()
    for row in outdated:
        scope = Scope(row["club_id"], row["author_id"], "", "")
        rebuild(db, scope, load(db, scope, row["id"]))
    return len(outdated)


def chosen(db: Db, scope: Scope, wanted: Filter) -> list[ShotRow]:
    """The strokes that pass the filter, oldest match first, in the order of play."""
    asked = {name: value for name, value in vars(wanted).items() if value is not None}
    clauses = ["shot_fact.club_id = %(club)s", *(f"shot_fact.{name} = %({name})s" for name in asked)]
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT shot_fact.*, player.name AS player_name FROM shot_fact"
            " JOIN game ON game.id = shot_fact.game_id AND game.deleted_at IS NULL"
            " LEFT JOIN player ON player.id = shot_fact.player_id"
            f" WHERE {' AND '.join(clauses)} ORDER BY game.created_at, game.id, rack, shot",
            {**asked, "club": scope.club_id},
        )
        return [
            ShotRow(row["game_id"], row["shot_id"], row["player_name"], row["discipline"], _read(ShotFigures, row))
            for row in cursor.fetchall()
        ]


def _written(figures: ShotFigures) -> dict[str, Any]:
    """Its columns: what is an object goes as JSON."""
    return {
        name: orjson.dumps(asdict(value)).decode() if is_dataclass(value) else value  # type: ignore[arg-type]
        for name, value in vars(figures).items()
    }


def _read(kind: type[Any], row: Mapping[str, Any]) -> Any:
    """The inverse of `_written`: an object of this kind from its fields, each of the type that it says. What a row
    does not know is as the kind has it by itself."""
    known = {name: _as(wanted, row.get(name)) for name, wanted in _types(kind).items()}
    own = {field.name for field in fields(kind) if field.default is not MISSING}
    return kind(**{name: value for name, value in known.items() if value is not None or name not in own})


def _as(wanted: Any, value: Any) -> Any:
    if value is None or wanted in (float, int, str):
        return value
    if wanted is bool:
        return bool(value)
    if is_dataclass(wanted):
        return _read(wanted, orjson.loads(value))  # type: ignore[arg-type]
    return tuple(value)  # a place


def _types(kind: type[Any]) -> dict[str, Any]:
    """The type of each field, without its None."""
    if kind not in _known_types:
        _known_types[kind] = {name: _given(hint) for name, hint in get_type_hints(kind).items()}
    return _known_types[kind]


_known_types: dict[type[Any], dict[str, Any]] = {}


def _given(hint: Any) -> Any:
    if not isinstance(hint, UnionType):
        return hint
    return next(one for one in get_args(hint) if one is not type(None))
