"""What practice takes, and what it answers."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from pydantic import Field, NaiveDatetime

from aretane.core.statistics.fair import Difference
from aretane.core.statistics.rates import Mean, Rate
from aretane.web.schemas import Answer, Id, Number, Place

HandName = Literal["beginner", "club", "league", "professional"]
LevelName = Literal["as it was", "easier", "harder"]


class ToPractiseQuery(Answer):
    player: Number
    since: date | None = None


class DearShot(Answer):
    game: str
    shot: str
    ball: str
    pocket: str
    cost: float


class GainAnswer(Answer):
    """See `core/review/to_practise`; `gain` in racks won for each rack played, with its interval."""

    family: str
    words: str
    n: int
    often: float
    rate: Rate | None
    could: float | None
    swing: float
    gain: float
    error: float
    low: float
    high: float
    shots: list[DearShot]


class ToPractise(Answer):
    racks: int
    gains: list[GainAnswer]


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


class LayoutRequest(Answer):
    """The whole table before a shot, to be run out."""

    id: Id
    game: Id
    shot: Id


class RunsRequest(Answer):
    id: Id
    title: str = Field(min_length=1, max_length=120)


Task = Literal["pot", "layout", "run"]
Why = Literal["missed", "no position", "cue ball lost", "wrong choice", "safety"]


class ExerciseRow(Answer):
    id: str
    title: str
    ball: str | None
    pocket: str | None
    chance: float | None
    task: Task
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
    runs: RunsAnswer | None
    matches: MatchesAnswer | None


class RunDay(Answer):
    day: int
    mean: float | None
    low: float | None
    high: float | None
    n: int


class RunsAnswer(Answer):
    """What runs come to: why they ended, and the last ones' balls."""

    mean: Mean
    best: int
    why: dict[str, int]
    last: list[int]
    days: list[RunDay]


class MatchesAnswer(Answer):
    """Like shots in matches, before the first try at the exercise and since."""

    before: Rate
    since: Rate
    difference: Difference | None


class ExerciseAnswer(Answer):
    id: str
    title: str
    task: Task
    ball: str | None
    pocket: str | None
    chance: float | None
    discipline: str | None
    table: str | None
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
    balls: int | None = Field(default=None, ge=0, le=1000)
    why: Why | None = None


class AttemptsRequest(Answer):
    attempts: list[AttemptRequest] = Field(max_length=500)


class PlannedRequest(Answer):
    """`id` is the page's: what is sent again takes its place. `begins` by the clock on the wall."""

    id: Id
    player: str = Field(min_length=1, max_length=100)
    begins: NaiveDatetime
    minutes: int = Field(ge=5, le=600)
    goal: str = Field(default="", max_length=200)
    note: str = Field(default="", max_length=2000)
    exercises: list[Id] = Field(default_factory=list, max_length=40)


class PlannedAnswer(Answer):
    """`week`: its Monday."""

    id: str
    player: str
    begins: NaiveDatetime
    minutes: int
    goal: str
    note: str
    exercises: list[str]
    week: str


class PlanList(Answer):
    sessions: list[PlannedAnswer]
    caution: str


class CalendarQuery(Answer):
    player: str | None = Field(default=None, max_length=100)
