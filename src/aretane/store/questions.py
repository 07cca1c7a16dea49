"""Questions to figures, added up by the database along its indexes; questions kept by name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from aretane.core.statistics.question import DAY, MEASURES, NOTHING, RATE, Row
from aretane.store.database import Db
from aretane.store.scope import Scope
from aretane.store.shot_figures import ShotRow, strokes_where

Data = dict[str, Any]

_OF_LEDGER = ("decision", "potting", "position", "luck")
# What each measure looks at, and what of it is good or added up; names of columns only, never anybody's words.
_LOOKED_AT = {
    "pots": ("tried", "made"),
    "zone": ("distance IS NOT NULL", "distance = 0"),
    "along": ("along IS NOT NULL", "along"),
    "across": ("across IS NOT NULL", "across"),
    "off": ("distance IS NOT NULL", "distance"),
    "safeties": ("held IS NOT NULL", "held"),
    "hidden": ("hidden IS NOT NULL", "hidden"),
    "chances": ("converted IS NOT NULL", "converted"),
    "fulfilled": ("won IS NOT NULL", "won"),
    "fouls": ("(kind IS NULL OR kind <> 'hole')", "foul IS NOT NULL"),
    "time": ("seconds IS NOT NULL", "seconds"),
    **{name: (f"booked.{name} IS NOT NULL", f"booked.{name}") for name in _OF_LEDGER},
}
_EXPECTED = {"pots": "likely / 100", "fulfilled": "booked.promised"}
_KEYS = {NOTHING: "''", "player": "shot_fact.player_id", "month": "DATE_FORMAT(played_on, '%%Y-%%m')",
         DAY: "played_on", "opponent": "opponent_id", "game_id": "shot_fact.game_id"}  # fmt: skip
_BOOKED = " JOIN booked ON booked.game_id = shot_fact.game_id AND booked.shot_id = shot_fact.shot_id"
_CLOSED = {"session", "discipline", "opponent_id", "game_id", "played_at", "target_source", "intent_source",
           "pocket", "kind", "tip", "pace", "rails", "cut", "way", "waited", "standing"}  # fmt: skip


@dataclass(frozen=True)
class Asked:
    """A question: what, told apart by what, of which strokes. `player` against `versus`, or before a day against
    from it on (`parted`). `where`: what further the strokes have in common, by column.
    """

    measure: str
    by: str = NOTHING
    player: int | None = None
    versus: int | None = None
    parted: date | None = None
    since: date | None = None
    until: date | None = None
    where: Mapping[str, Any] = field(default_factory=dict)

    @property
    def series(self) -> int:
        return 2 if self.versus is not None or self.parted is not None else 1


def rows(db: Db, scope: Scope, asked: Asked) -> list[Row]:
    """The strokes that are asked for, added up by key, series and, where players are compared, chance."""
    measure = MEASURES[asked.measure]
    looked_at, counted = _LOOKED_AT[asked.measure]
    where, given = _where(scope, asked)
    likely = "likely" if measure.fair and asked.series == 2 else "NULL"
    added = (
        f"SUM({counted}) AS good, 0 AS total, 0 AS squares"
        if measure.kind == RATE
        else f"0 AS good, SUM({counted}) AS total, SUM({counted} * {counted}) AS squares"
    )
    expected = _EXPECTED.get(asked.measure, "NULL")
    source = f"shot_fact{_joined(asked.measure)}"
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {_key(asked.by)} AS name, {_series(asked)} AS series, {likely} AS likely, COUNT(*) AS n,"
            f" SUM({expected}) AS expected, COUNT({expected}) AS expecting, {added} FROM {source}"
            f" WHERE {where} AND {looked_at} GROUP BY name, series, likely",
            given,
        )
        return [
            Row(
                None if row["name"] is None else str(row["name"]), int(row["series"]), int(row["n"]),
                int(row["good"] or 0), float(row["total"] or 0), float(row["squares"] or 0), row["likely"],
                float(row["expected"] or 0), int(row["expecting"]),
            )
            for row in cursor.fetchall()
        ]  # fmt: skip


def strokes(db: Db, scope: Scope, asked: Asked, key: str, begin: int, many: int) -> tuple[int, list[ShotRow]]:
    """The strokes behind a field of the answer, newest match first: how many, and so many from `begin` on."""
    where, given = _where(scope, asked)
    where = f"{where} AND {_LOOKED_AT[asked.measure][0]} AND {_key(asked.by)} = %(key)s"
    return strokes_where(db, where, {**given, "key": key}, begin, many, _joined(asked.measure))


def _joined(measure: str) -> str:
    """What the ledger booked, where it is asked for; strokes that nobody judged stay in a count."""
    if measure in _OF_LEDGER:
        return _BOOKED
    return f" LEFT{_BOOKED}" if measure == "fulfilled" else ""


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


def _where(scope: Scope, asked: Asked) -> tuple[str, Data]:
    given: Data = {"club": scope.club_id, "player": asked.player, "versus": asked.versus, "since": asked.since,
                   "until": asked.until, "parted": asked.parted}  # fmt: skip
    clauses = ["shot_fact.club_id = %(club)s"]
    if asked.player is not None:
        pair = ("%(player)s", "%(versus)s") if asked.versus is not None else ("%(player)s",)
        clauses.append(f"shot_fact.player_id IN ({', '.join(pair)})")
    clauses += ["played_on >= %(since)s"] * (asked.since is not None)
    clauses += ["played_on <= %(until)s"] * (asked.until is not None)
    for name in sorted(_CLOSED & asked.where.keys()):
        clauses.append(f"shot_fact.{name} = %(at_{name})s")
        given[f"at_{name}"] = asked.where[name]
    return " AND ".join(clauses), given


def _key(by: str) -> str:
    return _KEYS.get(by, f"shot_fact.{by}")


def _series(asked: Asked) -> str:
    if asked.versus is not None:
        return "IF(shot_fact.player_id = %(player)s, 0, 1)"
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
