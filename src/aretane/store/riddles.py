"""Shots asked as questions, and what people would have played."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime

import orjson

from aretane.core.errors import NotFound
from aretane.core.table import Point
from aretane.store.database import Db
from aretane.store.scope import Scope


@dataclass(frozen=True)
class Riddle:
    id: str
    game_id: str
    shot_id: str


@dataclass(frozen=True)
class Guess:
    """What somebody would play: attack or safety, which ball where, where the white should stop, and how sure."""

    name: str
    ball: str | None
    pocket: str | None
    intent: str
    place: Point | None
    felt: int | None


def make(db: Db, scope: Scope, one: Riddle) -> None:
    """One that was made already, by its id, stays as it is."""
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT IGNORE INTO riddle (id, club_id, game_id, shot_id, made_at) VALUES (%s, %s, %s, %s, %s)",
            (one.id, scope.club_id, one.game_id, one.shot_id, _now()),
        )


def find(db: Db, scope: Scope, id_: str) -> Riddle:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, game_id, shot_id FROM riddle WHERE id = %s AND club_id = %s", (id_, scope.club_id)
        )
        row = cursor.fetchone()
    if row is None:
        raise NotFound("question")
    return Riddle(**row)


def drop(db: Db, scope: Scope, id_: str) -> None:
    find(db, scope, id_)
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM riddle WHERE id = %s", (id_,))


def answer(db: Db, riddle: Riddle, guess: Guess) -> None:
    """In place of what the same person said before."""
    with db.cursor() as cursor:
        cursor.execute(
            "REPLACE INTO riddle_answer (riddle_id, name, ball, pocket, intent, place, felt, given_at)"
            " VALUES (%s, %s, %s, %s, %s, %s, %s, %s)",
            (
                riddle.id, guess.name, guess.ball, guess.pocket, guess.intent,
                orjson.dumps(guess.place).decode() if guess.place else None, guess.felt, _now(),
            ),
        )  # fmt: skip


def answers(db: Db, riddle: Riddle) -> list[Guess]:
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT name, ball, pocket, intent, place, felt FROM riddle_answer WHERE riddle_id = %s"
            " ORDER BY given_at, name",
            (riddle.id,),
        )
        return [
            Guess(**{**row, "place": tuple(orjson.loads(row["place"])) if row["place"] else None})
            for row in cursor.fetchall()
        ]


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
