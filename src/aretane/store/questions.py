"""Questions to figures, added up by the database along its indexes; questions kept by name."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace
from datetime import date
from typing import Any

from aretane.core.statistics.measures import DAY, ESTIMATES, MEAN, MEASURES, NOTHING, SESSION
from aretane.core.statistics.question import Asked, Count, Row
from aretane.core.statistics.rates import Sums
from aretane.store.club import one_player, player_ids
from aretane.store.database import Db
from aretane.store.scope import Scope
from aretane.store.shot_figures import ShotRow, strokes_where

Data = dict[str, Any]

_OF_LEDGER = ("decision", "potting", "position", "luck")
# What each measure looks at, and what of it is good or added up; names of columns only, never anybody's words.
_LOOKED_AT = {
    "pots": ("tried", "made"),
    "nearly": ("tried AND likely >= 90", "made"),
    "thick": ("thick IS NOT NULL", "thick"),
    "recovered": ("tried AND missed_band > 0", "made"),
    "zone": ("distance IS NOT NULL", "distance = 0"),
    "along": ("along IS NOT NULL", "along"),
    "across": ("across IS NOT NULL", "across"),
    "off": ("distance IS NOT NULL", "distance"),
    "travel": ("travel IS NOT NULL", "travel"),
    "safeties": ("held IS NOT NULL", "held"),
    "hidden": ("hidden IS NOT NULL", "hidden"),
    "drew": ("drew IS NOT NULL", "drew"),
    "away": ("away IS NOT NULL", "away"),
    "exchanges": ("exchange IS NOT NULL", "exchange"),
    "escapes": ("hit IS NOT NULL", "hit"),
    "chances": ("converted IS NOT NULL", "converted"),
    "cleared": ("cleared IS NOT NULL", "cleared"),
    "fulfilled": ("won IS NOT NULL", "won"),
    "scored": ("scored IS NOT NULL", "scored"),
    "tens": ("scored IS NOT NULL", "scored >= 10"),
    "fifties": ("scored IS NOT NULL", "scored >= 50"),
    "hundreds": ("scored IS NOT NULL", "scored >= 100"),
    "broke": ("break_won IS NOT NULL", "break_won"),
    "dry": ("break_balls IS NOT NULL", "break_balls = 0"),
    "broken": ("break_balls IS NOT NULL", "break_balls"),
    "fouls": ("in_off IS NOT NULL", "foul IS NOT NULL"),
    "lost": ("in_off IS NOT NULL", "in_off"),
    "time": ("seconds IS NOT NULL", "seconds"),
    "mix": ("tried", "made"),
    **{name: (f"{name} IS NOT NULL", name) for name in _OF_LEDGER},
}
_EXPECTED = {"pots": "likely / 100", "fulfilled": "promised"}
_KEYS = {NOTHING: "''", "player": "{table}.player_id", "month": "DATE_FORMAT(played_on, '%%Y-%%m')",
         DAY: "TO_DAYS(played_on) - 365", "opponent": "opponent_id", "game_id": "{table}.game_id",
         **{name: f"LEAST({name} DIV 10, 9)" for name in ESTIMATES}}  # fmt: skip
_CLOSED = {"session", "discipline", "opponent_id", "game_id", "played_at", "target_source", "intent_source",
           "pocket", "kind", "tip", "pace", "rails", "cut", "way", "waited", "standing", "reach", "cueing", "stake",
           "phase", "took", "missed_band", "off_band", "mouth"}  # fmt: skip


def rows(db: Db, scope: Scope, asked: Asked) -> list[Row]:
    """The strokes that are asked for, added up by key, series and, where players are compared, chance."""
    measure = MEASURES[asked.measure]
    looked_at, counted = _LOOKED_AT[asked.measure]
    where, given = _where(scope, asked)
    likely = "likely" if measure.fair and asked.series == 2 else "NULL"
    added = (
        f"0 AS good, SUM({counted}) AS total, SUM({counted} * {counted}) AS squares"
        if measure.kind == MEAN
        else f"SUM({counted}) AS good, 0 AS total, 0 AS squares"
    )
    expected = _expected(asked)
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {_key(asked.by)} AS name, {_series(asked)} AS series, {likely} AS chance, COUNT(*) AS n,"
            f" SUM({expected}) AS expected, COUNT({expected}) AS expecting, {added} FROM shot_fact{_along(asked)}"
            f" WHERE {where} AND {looked_at} GROUP BY name, series, chance",
            given,
        )
        found = [*cursor.fetchall(), *_on_paper(cursor, scope, asked)]
        joined = one_player(db, scope) if asked.by in ("player", "opponent") else {}
        return [
            Row(
                None if row["name"] is None else str(joined.get(row["name"], row["name"])), int(row["series"]),
                int(row["n"]), int(row["good"] or 0), float(row["total"] or 0), float(row["squares"] or 0),
                row["chance"], float(row["expected"] or 0), int(row["expecting"]),
            )
            for row in found
        ]  # fmt: skip


_PAPER = {"session", "discipline", "opponent_id"}


def _on_paper(cursor: Any, scope: Scope, asked: Asked) -> list[Data]:
    """Counts from sheets of paper, where nothing is asked that paper does not say."""
    says = {NOTHING, "player", "opponent", "month", DAY, SESSION, "discipline"}
    if asked.by not in says or (asked.where.keys() & _CLOSED) - _PAPER:
        return []
    where, given = _where(scope, asked, "paper")
    cursor.execute(
        f"SELECT {_key(asked.by, 'paper')} AS name, {_series(asked, 'paper')} AS series, NULL AS chance,"
        " SUM(n) AS n, 0 AS expected, 0 AS expecting, SUM(good) AS good, 0 AS total, 0 AS squares"
        f" FROM paper WHERE {where} AND measure = %(measure)s GROUP BY name, series",
        {**given, "measure": asked.measure},
    )
    return list(cursor.fetchall())


def take_in(db: Db, scope: Scope, counts: Sequence[Count]) -> None:
    """Keep counts; those of the same player, day, game, session and opponent take the place of what was there."""
    ids = player_ids(db, scope, {name for one in counts for name in (one.player, one.opponent) if name})
    with db.cursor() as cursor:
        for one in counts:
            known = (
                scope.club_id, ids[one.player], ids.get(one.opponent or ""), one.day, one.discipline, one.session,
                one.measure,
            )  # fmt: skip
            cursor.execute(
                "DELETE FROM paper WHERE club_id = %s AND player_id = %s AND opponent_id <=> %s AND played_on = %s"
                " AND discipline = %s AND session = %s AND measure = %s",
                known,
            )
            cursor.execute(
                "INSERT INTO paper (club_id, player_id, opponent_id, played_on, discipline, session, measure, n,"
                " good) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s)",
                (*known, one.n, one.good),
            )


def strokes(db: Db, scope: Scope, asked: Asked, key: str, begin: int, many: int) -> tuple[int, list[ShotRow]]:
    """The strokes behind a field of the answer, newest match first: how many, and so many from `begin` on."""
    where, given = _where(scope, asked)
    where = f"{where} AND {_LOOKED_AT[asked.measure][0]} AND {_key(asked.by)} = %(key)s"
    return strokes_where(db, where, {**given, "key": key}, begin, many)


_TOLD = {"club_id", SESSION, "player_id", "discipline", "played_on", "opponent_id", "game_id"}
_CAME = _TOLD | {"tip", "pace", "waited", "standing", "played_at", "stake", "phase", "took"}
_INDEXES = {  # with the columns that they hold
    "asked": _CAME
    | {"cut", "way", "pocket", "kind", "rails", "intent_source", "reach", "cueing", "missed_band", "mouth"},
    "estimated": _TOLD | {"likely", "felt", "computed", "lay", "stopped"},
    "stops": _CAME | {"rails", "way", "cut", "target_source", "reach", "cueing", "off_band", "stopped", "mouth"},
    "judged": _CAME | {"kind", "cut", "way", "rails", "reach", "cueing"},
    "came": _CAME | {"kind", "foul"},
}
_OF_INDEX = {
    **dict.fromkeys(("pots", "mix", "nearly", "thick", "recovered"), ("asked", "estimated")),
    **dict.fromkeys(("zone", "off", "along", "across", "travel"), ("stops",)),
    **dict.fromkeys(("broke", "dry", "broken"), ()),
    **dict.fromkeys((*_OF_LEDGER, "fulfilled"), ("judged",)),
}
_READ = {
    NOTHING: "session",
    "player": "player_id",
    "month": "played_on",
    DAY: "played_on",
    "opponent": "opponent_id",
}


def _along(asked: Asked) -> str:
    """The index that holds all that is asked, if one does: left to itself the database would rather look at every
    stroke. It begins with the session, which is hardly ever left free.
    """
    used = {_READ.get(asked.by, asked.by), *(asked.where.keys() & _CLOSED)}
    if "session" not in asked.where and asked.by != SESSION:
        return ""
    found = (index for index in _OF_INDEX.get(asked.measure, ("came",)) if used <= _INDEXES[index])
    index = next(found, None)
    return f" FORCE INDEX ({index})" if index else ""


def _expected(asked: Asked) -> str:
    """The chance, 0 to 1, that what happened is held against."""
    if asked.measure == "pots" and asked.by in ESTIMATES:
        return f"{asked.by} / 100"
    return _EXPECTED.get(asked.measure, "NULL")


MOST_IN_ORDER = 2000  # values that a streak is looked for in, the newest


def in_order(db: Db, scope: Scope, asked: Asked) -> dict[str, list[float]]:
    """The values of a mean in the order of play, by match, oldest first."""
    looked_at, value = _LOOKED_AT[asked.measure]
    where, given = _where(scope, asked)
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT game_id, {value} AS value FROM shot_fact{_along(asked)} WHERE {where} AND {looked_at}"
            f" ORDER BY played_on DESC, game_id, rack DESC, shot DESC LIMIT {MOST_IN_ORDER}",
            given,
        )
        found: dict[str, list[float]] = {}
        for row in cursor.fetchall():
            found.setdefault(row["game_id"], []).append(float(row["value"]))
    return {game: values[::-1] for game, values in reversed(found.items())}


def of_others(db: Db, scope: Scope, asked: Asked, games: Collection[str]) -> Sums:
    """The same of whoever played against this player in these matches, one at least."""
    asked = replace(asked, player=None, where={**asked.where, "opponent_id": asked.player})
    looked_at, value = _LOOKED_AT[asked.measure]
    where, given = _where(scope, asked)
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT COUNT(*) AS n, SUM({value}) AS total, SUM({value} * {value}) AS squares"
            f" FROM shot_fact WHERE game_id IN %(games)s AND {where} AND {looked_at}",
            {**given, "games": tuple(games)},
        )
        row = cursor.fetchone() or {}
    return Sums(int(row.get("n") or 0), float(row.get("total") or 0), float(row.get("squares") or 0))


def names(db: Db, scope: Scope, by: str, keys: Sequence[str]) -> dict[str, str]:
    """Words for keys that are ids: of players and of matches."""
    if by in ("player", "opponent"):
        with db.cursor() as cursor:
            cursor.execute("SELECT id, name FROM player WHERE club_id = %s", (scope.club_id,))
            return {str(row["id"]): row["name"] for row in cursor.fetchall()}
    if by == "game_id" and keys:
        with db.cursor() as cursor:
            cursor.execute(
                "SELECT game_id, JSON_VALUE(document, '$.title') AS title FROM fact"
                " WHERE kind = 'match' AND game_id IN %s",
                (tuple(keys),),
            )
            return {row["game_id"]: row["title"] or row["game_id"] for row in cursor.fetchall()}
    return {}


def practised(db: Db, scope: Scope, player: int | None) -> list[date]:
    """Days on which there was practice: solo sessions and lessons."""
    whose, given = ("AND player_id = %s", (scope.club_id, player)) if player else ("", (scope.club_id,))
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT DISTINCT played_on FROM shot_fact WHERE club_id = %s AND session IN ('solo', 'lesson')"
            f" {whose} ORDER BY played_on",
            given,
        )
        return [row["played_on"] for row in cursor.fetchall()]


def _where(scope: Scope, asked: Asked, table: str = "shot_fact") -> tuple[str, Data]:
    given: Data = {"club": scope.club_id, "player": asked.player, "versus": asked.versus, "since": asked.since,
                   "until": asked.until, "parted": asked.parted}  # fmt: skip
    clauses = [f"{table}.club_id = %(club)s"]
    if asked.player is not None:
        pair = ("%(player)s", "%(versus)s") if asked.versus is not None else ("%(player)s",)
        either = ", ".join(pair)  # by id, so that the database looks the names up first and then along its index
        names = f"SELECT id FROM player WHERE id IN ({either}) OR joined_to IN ({either})"
        clauses.append(f"{table}.player_id IN ({names})")
    clauses += ["played_on >= %(since)s"] * (asked.since is not None)
    clauses += ["played_on <= %(until)s"] * (asked.until is not None)
    told_apart = {SESSION} if asked.by == SESSION else set()  # side by side they are not mixed
    for name in sorted((_CLOSED & asked.where.keys()) - told_apart):
        clauses.append(f"{table}.{name} = %(at_{name})s")
        given[f"at_{name}"] = asked.where[name]
    return " AND ".join(clauses), given


def _key(by: str, table: str = "shot_fact") -> str:
    return _KEYS.get(by, "{table}.{by}").format(table=table, by=by)


def _series(asked: Asked, table: str = "shot_fact") -> str:
    if asked.versus is not None:
        own = "SELECT id FROM player WHERE joined_to = %(player)s"
        return f"IF({table}.player_id = %(player)s OR {table}.player_id IN ({own}), 0, 1)"
    return "IF(played_on < %(parted)s, 0, 1)" if asked.parted is not None else "0"


# Kept by name


def kept(db: Db, scope: Scope) -> list[Data]:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT name, asked FROM question WHERE club_id = %s AND author_id = %s ORDER BY name",
            (scope.club_id, scope.author_id),
        )
        return list(cursor.fetchall())


def keep(db: Db, scope: Scope, name: str, asked: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "REPLACE INTO question (club_id, author_id, name, asked) VALUES (%s, %s, %s, %s)",
            (scope.club_id, scope.author_id, name, asked),
        )


def drop(db: Db, scope: Scope, name: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "DELETE FROM question WHERE club_id = %s AND author_id = %s AND name = %s",
            (scope.club_id, scope.author_id, name),
        )
