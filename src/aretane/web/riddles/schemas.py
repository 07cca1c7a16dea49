"""What is sent and answered about shots that are asked as questions."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from aretane.web.games.schemas import TableAnswer
from aretane.web.schemas import Answer, Id, Place

Word = Annotated[str, Field(max_length=12)]


class RiddleRequest(Answer):
    """`id` is the page's: sent twice it is asked once."""

    id: Id
    game: Id
    shot: Id


class ShownQuery(Answer):
    """`shown`: what people said, what was played and what is computed too."""

    shown: bool = False


class GuessAnswer(Answer):
    """What somebody would play, and how often he feels that it comes off (per cent)."""

    name: str = Field(min_length=1, max_length=100)
    ball: Word | None = None
    pocket: Literal["head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right"] | None = None
    intent: Literal["attack", "safety"]
    place: Place | None = None
    felt: Annotated[int, Field(ge=0, le=100)] | None = None


class Counted(Answer):
    words: str
    n: int


class ComputedAnswer(Answer):
    """`worth` of the best and of what was played: a chance, in straight pool balls (`unit`)."""

    best: str
    path: list[Place]
    worth: float
    played_worth: float | None
    pot: float | None
    unit: str


class ShownAnswer(Answer):
    """Answers counted; the mean `felt` per cent; what was `played`, its result and where the white stopped."""

    answers: list[GuessAnswer]
    counted: list[Counted]
    felt: float | None
    played: str
    result: str
    stopped: Place | None
    computed: ComputedAnswer | None


class FilmOfShot(Answer):
    """Its recording: when it stands still before the shot, and when all is at rest again (seconds)."""

    sha256: str
    still: float
    rest: float | None


class RiddleAnswer(Answer):
    """`n` people have answered."""

    id: str
    game: str
    discipline: str
    table: TableAnswer
    balls: dict[str, Place]
    player: str
    film: FilmOfShot | None
    n: int
    shown: ShownAnswer | None
