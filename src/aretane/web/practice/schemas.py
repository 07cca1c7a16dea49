"""What practice takes, and what it answers."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import Field

from aretane.core.statistics.rates import Rate
from aretane.web.schemas import Answer, Id, Place

HandName = Literal["beginner", "club", "league", "professional"]
LevelName = Literal["as it was", "easier", "harder"]


class OfferedQuery(Answer):
    hand: HandName = "club"


class LevelAnswer(Answer):
    name: LevelName
    chance: float | None
    cue: Place


class LevelList(Answer):
    levels: list[LevelAnswer]


class ExerciseRequest(Answer):
    """`id` is the page's: sent twice it is made once."""

    id: Id
    game: Id
    shot: Id
    hand: HandName = "club"
    level: LevelName = "as it was"


class ExerciseRow(Answer):
    id: str
    title: str
    ball: str
    pocket: str
    chance: float | None
    rate: Rate


class ExerciseList(Answer):
    exercises: list[ExerciseRow]


class DayAnswer(Answer):
    day: int
    n: int
    made: int


class PracticePoint(Answer):
    day: float
    p: float | None
    low: float
    high: float
    n: int


class PractisedBy(Answer):
    name: str
    rate: Rate
    zone: Rate
    thick: int
    thin: int
    days: list[DayAnswer]
    curve: list[PracticePoint]
    advice: str


class ExerciseAnswer(Answer):
    id: str
    title: str
    ball: str
    pocket: str
    chance: float | None
    discipline: str
    table: str
    balls: dict[str, Place]
    game: str | None
    shot: str | None
    picture: str
    card: list[str]
    caution: str
    players: list[PractisedBy]


class AttemptRequest(Answer):
    id: Id
    player: str = Field(min_length=1, max_length=100)
    result: Literal["made", "thick", "thin", "missed"]
    zone: bool | None = None
    at: datetime


class AttemptsRequest(Answer):
    attempts: list[AttemptRequest] = Field(max_length=500)
