"""Exercises and the attempts at them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import orjson

from aretane.core.errors import NotFound
from aretane.store.club import every_name, player_ids
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]


POT, LAYOUT, RUN = TASKS = ("pot", "layout", "run")


@dataclass(frozen=True)
class Exercise:
    """`task`: pot one ball, run a whole layout out, or (without a layout) run as many as come."""

    id: str
    title: str
    game_id: str | None
    shot_id: str | None
    layout: Data | None
    ball: str | None
    pocket: str | None
    chance: float | None
    task: str = POT


@dataclass(frozen=True)
class Attempt:
    """`result`: made, thick, thin or missed; `zone`: the cue ball stopped in it (None: nobody said). Of a run the
    `balls` that were made, and `why` it ended.
    """

    id: str
    player: str
    result: str
    zone: bool | None
    tried_at: datetime
    balls: int | None = None
    why: str | None = None


def add(db: Db, scope: Scope, one: Exercise) -> None:
    """Make an exercise; one that was made already, by its id, stays as it is."""
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO exercise (id, club_id, title, game_id, shot_id, layout, ball, pocket, chance,"
            " task, made_at) VALUES (%s, %s, %s, %s, %s, %s, %s, %s, %s, %s, %s)",
            (
                one.id, scope.club_id, one.title, one.game_id, one.shot_id, orjson.dumps(one.layout).decode(),
                one.ball, one.pocket, one.chance, one.task, datetime.now(UTC).replace(tzinfo=None),
            ),
        )  # fmt: skip


def listed(db: Db, scope: Scope) -> list[Data]:
    """Every exercise of the club, the newest first, with its attempts counted."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT exercise.id, title, ball, pocket, chance, task, COUNT(attempt.id) AS n,"
            " COALESCE(SUM(result = 'made'), 0) AS made FROM exercise"
            " LEFT JOIN attempt ON exercise_id = exercise.id WHERE club_id = %s"
            " GROUP BY exercise.id ORDER BY made_at DESC, exercise.id",
            (scope.club_id,),
        )
        return [{**row, "made": int(row["made"])} for row in cursor.fetchall()]


def find(db: Db, scope: Scope, id_: str) -> Exercise:
    with db.cursor() as cursor:
        cursor.execute("SELECT * FROM exercise WHERE id = %s AND club_id = %s", (id_, scope.club_id))
        row = cursor.fetchone()
    if row is None:
        raise NotFound("exercise")
    return Exercise(
        row["id"], row["title"], row["game_id"], row["shot_id"], orjson.loads(row["layout"]), row["ball"],
        row["pocket"], row["chance"], row["task"],
    )  # fmt: skip


def drop(db: Db, scope: Scope, id_: str) -> None:
    find(db, scope, id_)
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM exercise WHERE id = %s", (id_,))


def tried(db: Db, scope: Scope, exercise: Exercise, attempts: Sequence[Attempt]) -> None:
    """Log attempts; those that were logged already, by their ids, count once."""
    ids = player_ids(db, scope, {one.player for one in attempts})
    with db.cursor() as cursor:
        cursor.executemany(
            "INSERT IGNORE INTO attempt (id, exercise_id, player_id, result, zone, tried_at, balls, why)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            [
                (one.id, exercise.id, ids[one.player], one.result, one.zone, one.tried_at, one.balls, one.why)
                for one in attempts
            ],
        )


def take_back(db: Db, exercise: Exercise, id_: str) -> None:
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM attempt WHERE id = %s AND exercise_id = %s", (id_, exercise.id))


def days(db: Db, exercise: Exercise) -> list[Data]:
    """The attempts added up by player and day."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT player.name AS player, TO_DAYS(tried_at) - 365 AS day, COUNT(*) AS n,"
            " SUM(result = 'made') AS made, SUM(result = 'thick') AS thick, SUM(result = 'thin') AS thin,"
            " COUNT(zone) AS zoned, COALESCE(SUM(zone), 0) AS inside FROM attempt"
            " JOIN player ON player.id = player_id WHERE exercise_id = %s"
            " GROUP BY player.name, day ORDER BY player.name, day",
            (exercise.id,),
        )
        return [{name: value if name == "player" else int(value) for name, value in row.items()}
                for row in cursor.fetchall()]  # fmt: skip


def tried_by(db: Db, scope: Scope, player: int, since: str | None, until: str | None) -> list[Data]:
    """What a player tried at the table in that time, by exercise, the oldest first: title, task, the chance that
    was expected, tries and those made; of runs the most balls of one and all of them together.
    """
    days = (" AND tried_at >= %(since)s" if since else "") + (
        " AND tried_at < %(until)s + INTERVAL 1 DAY" if until else ""
    )
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT title, task, chance, COUNT(*) AS n, COALESCE(SUM(result = 'made'), 0) AS made,"
            " MAX(balls) AS most, COALESCE(SUM(balls), 0) AS balls FROM attempt"
            " JOIN exercise ON exercise.id = exercise_id WHERE exercise.club_id = %(club)s"
            f" AND player_id IN %(ids)s{days} GROUP BY exercise.id ORDER BY MIN(tried_at), exercise.id",
            {"club": scope.club_id, "ids": every_name(db, scope, player), "since": since, "until": until},
        )
        return [{**row, "made": int(row["made"]), "balls": int(row["balls"])} for row in cursor.fetchall()]


@dataclass(frozen=True)
class Run:
    """One run: whose, on which day, how many balls, why it ended (None: the table was cleared, or nobody said)."""

    player: str
    day: int
    balls: int
    why: str | None


def runs(db: Db, exercise: Exercise) -> list[Run]:
    """Every run in its order."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT player.name AS player, TO_DAYS(tried_at) - 365 AS day, balls, why FROM attempt"
            " JOIN player ON player.id = player_id WHERE exercise_id = %s AND balls IS NOT NULL"
            " ORDER BY player.name, tried_at, attempt.id",
            (exercise.id,),
        )
        return [Run(**row) for row in cursor.fetchall()]
