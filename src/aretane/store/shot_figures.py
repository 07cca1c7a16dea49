"""The derived rows that figures read: one a stroke.

A figure of a shot is a field of `ShotFigures` (or one of the objects in it, which are kept as JSON) and a column of
the same name, added by a migration; nothing else has to be told of it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import MISSING, asdict, dataclass, fields, is_dataclass
from datetime import date, datetime
from types import UnionType
from typing import Any, get_args, get_type_hints

import orjson

from aretane.core.review.partners import SEATS, who_played
from aretane.core.review.replay import replay
from aretane.core.review.shot_figures import VERSION, ShotFigures, shot_figures
from aretane.core.statistics.breaks import BreakTally
from aretane.core.statistics.potting import Tally
from aretane.core.statistics.rates import Sums
from aretane.store import booked
from aretane.store.club import every_name, player_ids, players
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
    created_at: datetime
    opponent_id: int | None
    played_on: date
    played_at: str | None


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


Rows = dict[str, tuple[str | None, ShotFigures]]  # by stroke: who played it, and its figures


def rows_of(match: Match, figures: Sequence[ShotFigures]) -> Rows:
    names = who_played(match.as_document())
    ids = [[shot.id for shot in shots] for _, shots in match.racks]
    return {ids[one.rack][one.shot]: (names[one.rack][one.shot], one) for one in figures}


def rebuild(db: Db, scope: Scope, match: Match, rows: Rows | None = None, before: Rows | None = None) -> None:
    """Write the rows of a match anew, computed from it unless the caller has them already. Of those that he knows
    to be there, only what differs is written.
    """
    document = match.as_document()
    rows = rows_of(match, shot_figures(replay(document))) if rows is None else rows
    known = before or {}
    new = {shot: row for shot, row in rows.items() if known.get(shot) != row}
    old = [shot for shot in known if shot in new or shot not in rows]
    players = player_ids(db, scope, {name for name, _ in rows.values() if name} | _named(document))
    session, discipline = document.get("session") or "match", document["discipline"]
    against = {seat: players.get(name) for seat, name in _opponents(document).items()}
    day, table = _day(document.get("date"), match.created_at), document.get("table")
    written = []
    for shot, (name, figures) in new.items():
        place = Place(
            match.id, shot, VERSION, scope.club_id, players.get(name or ""), session, discipline, match.created_at,
            against.get(figures.player or ""), day, table if isinstance(table, str) else None,
        )  # fmt: skip
        written.append({**vars(place), **_written(figures)})
    with db.cursor() as cursor:
        if before is None:
            cursor.execute("DELETE FROM shot_fact WHERE game_id = %s", (match.id,))
        elif old:
            cursor.execute("DELETE FROM shot_fact WHERE game_id = %s AND shot_id IN %s", (match.id, tuple(old)))
        cursor.executemany(_INSERT, written)
    if written:
        booked.carry(db, match.id)


def _named(document: Mapping[str, Any]) -> set[str]:
    """Everybody who is named, also before the first stroke."""
    players = document.get("players") or {}
    sides = [players[side] for side in ("A", "B") if side in players]  # what else it holds is not ours
    return {str(side[seat]) for side in sides for seat in SEATS if side.get(seat)}


def _opponents(document: Mapping[str, Any]) -> dict[str, str]:
    """By seat the name of the other one; nobody's, where one plays both sides."""
    players = document.get("players") or {}
    names = {seat: str((players.get(seat) or {}).get(SEATS[0]) or "") for seat in ("A", "B")}
    return {"A": names["B"], "B": names["A"]} if names["A"] != names["B"] else {}


def _day(told: object, known: datetime) -> date:
    """The day of play; where nobody said one, when the match came in."""
    try:
        return date.fromisoformat(str(told))
    except ValueError:
        return known.date()


def rebuild_outdated(db: Db, most: int = 10) -> int:
    """Rebuild the rows of some matches that an older version of the model made; returns of how many."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT DISTINCT game.id, game.club_id, game.author_id"
            " FROM game JOIN shot_fact ON shot_fact.game_id = game.id "
            " WHERE game.deleted_at IS NULL AND shot_fact.version <> %s ORDER BY game.created_at DESC LIMIT %s",
            (VERSION, most),
        )
        outdated = cursor.fetchall()
    for row in outdated:
        scope = Scope(row["club_id"], row["author_id"], "", "")
        rebuild(db, scope, load(db, scope, row["id"]))
    return len(outdated)


def chosen(db: Db, scope: Scope, wanted: Filter, newest: int | None = None) -> list[ShotRow]:
    """The strokes that pass the filter, oldest match first, in the order of play; of many only the `newest`."""
    where, asked = _where(db, scope, wanted)
    return _rows(db, where, asked, f"LIMIT {newest}" if newest else "")[::-1]


def behind(
    db: Db, scope: Scope, wanted: Filter, by: str, name: str, begin: int, many: int
) -> tuple[int, list[ShotRow]]:
    """The strokes behind a figure, newest match first: how many there are, and so many from `begin` on."""
    where, asked = _where(db, scope, wanted)
    return strokes_where(db, f"{where} AND {BEHIND[by]}", {**asked, "name": name}, begin, many)


def strokes_where(db: Db, where: str, asked: dict[str, Any], begin: int, many: int) -> tuple[int, list[ShotRow]]:
    """How many strokes there are, and so many from `begin` on, newest match first."""
    with db.cursor() as cursor:
        cursor.execute(f"SELECT COUNT(*) AS n FROM {_WITH_NAMES} WHERE {where}", asked)
        row = cursor.fetchone()
    return row["n"] if row else 0, _rows(db, where, asked, f"LIMIT {many} OFFSET {begin}")


def tallies(db: Db, scope: Scope, wanted: Filter) -> list[Tally]:
    """All strokes that pass the filter, added up where they have everything in common that figures tell apart."""
    where, asked = _where(db, scope, wanted)
    columns = _told_apart(_COUNTED, wanted)
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {columns}, COUNT(*) AS n, SUM(made) AS made,"
            " COUNT(along) AS n_along, SUM(along) AS along, SUM(along * along) AS along2,"
            " SUM(across) AS across, SUM(across * across) AS across2,"
            " COUNT(distance) AS n_distance, SUM(distance) AS distance, SUM(distance * distance) AS distance2"
            f" FROM shot_fact {_along('counted', wanted)} WHERE {where} GROUP BY {columns}",
            asked,
        )
        rows, names = cursor.fetchall(), _names(db, scope)

    def sums(row: Mapping[str, Any], name: str, n: str) -> Sums:
        return Sums(int(row[n] or 0), float(row[name] or 0), float(row[f"{name}2"] or 0))

    return [
        Tally(
            player=names.get(row.get("player_id", wanted.player_id)),
            tried=bool(row["tried"]),
            cell=row["cell"],
            pocket=row["pocket"],
            kind=row["kind"],
            n=row["n"],
            made=int(row["made"]),
            along=sums(row, "along", "n_along"),
            across=sums(row, "across", "n_along"),
            distance=sums(row, "distance", "n_distance"),
        )
        for row in rows
    ]


def break_tallies(db: Db, scope: Scope, wanted: Filter) -> list[BreakTally]:
    """The same of breaks."""
    where, asked = _where(db, scope, wanted)
    columns = _told_apart(_COUNTED_OF_BREAKS, wanted)
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {columns}, COUNT(*) AS n FROM shot_fact WHERE {where} AND break_balls IS NOT NULL"
            f" GROUP BY {columns}",
            asked,
        )
        rows, names = cursor.fetchall(), _names(db, scope)
    return [
        BreakTally(
            discipline=row.get("discipline") or str(wanted.discipline),
            player=names.get(row.get("player_id", wanted.player_id)),
            **{name: row[f"break_{name}"] for name in _BREAK_WORDS},
            balls=row["break_balls"],
            scratch=bool(row["break_scratch"]),
            seen=row["break_seen"],
            won=None if row["break_won"] is None else bool(row["break_won"]),
            n=row["n"],
        )
        for row in rows
    ]


def some_errors(db: Db, scope: Scope, wanted: Filter, most: int) -> list[tuple[str, dict[str, Any]]]:
    """Strokes with a measured position error and that error as data, the newest of too many."""
    where, asked = _where(db, scope, wanted)
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT shot_id, error FROM shot_fact JOIN"  # found along the index alone, then read
            f" (SELECT game_id, shot_id FROM shot_fact {_along('newest', wanted)}"
            f" WHERE {where} AND distance IS NOT NULL"
            f" ORDER BY {_NEWEST} LIMIT {most}) AS newest USING (game_id, shot_id)",
            asked,
        )
        return [(row["shot_id"], orjson.loads(row["error"])) for row in cursor.fetchall()]


def felt(db: Db, scope: Scope, begin: int, many: int) -> tuple[int, list[dict[str, Any]]]:
    """Strokes at which somebody felt something: how many, and so many of them, where felt and computed are furthest
    apart first."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT COUNT(*) AS n FROM shot_fact WHERE club_id = %s AND apart IS NOT NULL", (scope.club_id,)
        )
        row = cursor.fetchone()
        cursor.execute(
            "SELECT shot_fact.game_id AS game, shot_id AS shot, ball, player.name AS player,"
            " JSON_VALUE(header.document, '$.title') AS title, shot_fact.discipline,"
            " JSON_EXTRACT(fact.document, '$.felt') AS felt FROM shot_fact"
            " JOIN fact ON fact.game_id = shot_fact.game_id AND fact.kind = 'shot' AND fact.id = shot_id"
            " JOIN fact AS header ON header.game_id = shot_fact.game_id AND header.kind = 'match'"
            " LEFT JOIN player ON player.id = player_id"
            " WHERE shot_fact.club_id = %s AND apart IS NOT NULL ORDER BY apart DESC, shot_id LIMIT %s OFFSET %s",
            (scope.club_id, many, begin),
        )
        found = cursor.fetchall()
    lines = [
        {**one, "felt": orjson.loads(one["felt"]), "title": one["title"] or one["discipline"]} for one in found
    ]
    for line in lines:
        del line["discipline"]
    return row["n"] if row else 0, lines


def forget(db: Db, scope: Scope, game_id: str) -> None:
    """A match that is deleted counts nowhere."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM shot_fact WHERE club_id = %s AND game_id = %s", (scope.club_id, game_id))


_COUNTED = ("discipline", "player_id", "target_source", "tried", "cell", "pocket", "kind")
_BREAK_WORDS = ("place", "power", "fullness", "type", "opened", "leaves")
_COUNTED_OF_BREAKS = (
    "break_balls", "discipline", "player_id", "target_source", *(f"break_{one}" for one in _BREAK_WORDS),
    "break_scratch", "break_seen", "break_won",
)  # fmt: skip

_WITH_NAMES = "shot_fact LEFT JOIN player ON player.id = player_id"
BEHIND = {  # by what a figure is told apart: its strokes
    "cell": "tried AND cell = %(name)s",
    "pocket": "tried AND pocket = %(name)s",
    "kind": "tried AND kind = %(name)s",
    "player": "tried AND player.name = %(name)s",
    "shot": "shot_id = %(name)s",
    "break player": "break_balls IS NOT NULL AND player.name = %(name)s",
    "break game": "break_balls IS NOT NULL AND discipline = %(name)s",
    **{f"break {one}": f"break_balls IS NOT NULL AND break_{one} = %(name)s" for one in _BREAK_WORDS},
}


def _where(db: Db, scope: Scope, wanted: Filter) -> tuple[str, dict[str, Any]]:
    """A player's strokes under every name that stands for him."""
    asked = {name: value for name, value in vars(wanted).items() if value is not None}
    clauses = ["shot_fact.club_id = %(club)s", *(f"shot_fact.{name} = %({name})s" for name in asked)]
    if wanted.player_id is not None:
        clauses[1 + list(asked).index("player_id")] = "shot_fact.player_id IN %(ids)s"
        asked["ids"] = every_name(db, scope, wanted.player_id)
    return " AND ".join(clauses), {**asked, "club": scope.club_id}


_NEWEST = "created_at DESC, shot_fact.game_id DESC, rack DESC, shot DESC"


def _along(index: str, wanted: Filter) -> str:
    """Left to itself the database would rather look at all strokes of a club one by one."""
    return f"FORCE INDEX ({index})" if wanted.session and not wanted.game_id else ""


def _told_apart(columns: Sequence[str], wanted: Filter) -> str:
    """What rows are added up by, in the order of the index; what the filter fixes would only keep it from being
    used."""
    fixed = {name for name, value in vars(wanted).items() if value is not None}
    return ", ".join(column for column in columns if column not in fixed)


def _rows(db: Db, where: str, asked: dict[str, Any], limit: str) -> list[ShotRow]:
    """Newest match first, each from its end."""
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT shot_fact.*, player.name AS player_name FROM {_WITH_NAMES}"
            f" WHERE {where} ORDER BY {_NEWEST} {limit}",
            asked,
        )
        return [
            ShotRow(row["game_id"], row["shot_id"], row["player_name"], row["discipline"], _read(ShotFigures, row))
            for row in cursor.fetchall()
        ]


def _names(db: Db, scope: Scope) -> dict[int | None, str]:
    return {int(str(one["id"])): str(one["name"]) for one in players(db, scope)}


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
