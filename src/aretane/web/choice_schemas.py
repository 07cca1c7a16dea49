"""What the pages ask about choices, plans and hands, and are answered."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from aretane.web.lab_schemas import StrokeRequest
from aretane.web.schemas import Answer, Place, RateAnswer


class DrawnStroke(StrokeRequest):
    place: Place | None = None


class ChoicesRequest(Answer):
    """A layout and two hands. A hand is a preset by name, its errors as in the hand file, or {"record": name of a
    player}: as estimated from what is logged. `settle`: go on to the fine level.
    """

    kind: Literal["choices", "who", "against"] = "choices"
    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    rules: dict[str, Any] = Field(default_factory=dict)
    player: str | dict[str, float | str] = "club"
    opponent: str | dict[str, float | str] | None = None
    handed: Literal["right", "left", "both"] = "right"
    settle: bool = False
    drawn: list[DrawnStroke] = Field(default_factory=list, max_length=4)


class HandNumbers(Answer):
    aim_deg: float
    speed: float
    side: float
    height: float


class ChoicesAnswer(Answer):
    """`state` is running, done, stopped or failed (`said` tells why). `body` grows: maps, options, plan, trouble."""

    hash: str
    state: str
    progress: float
    said: str
    hands: tuple[HandNumbers, HandNumbers]
    body: dict[str, Any]


class ParameterAnswer(Answer):
    value: float
    low: float
    high: float
    n: int
    speaks: bool


class SuccessAnswer(Answer):
    """One family: what is on record, what the hand predicts, both together."""

    cut: tuple[float, float]
    distance: tuple[float, float | None]
    record: RateAnswer
    predicted: float
    shrunk: RateAnswer


class HandQuery(Answer):
    player: int
    prior: Literal["beginner", "club", "league", "professional"] = "club"
    session: str | None = "match"


class HandAnswer(Answer):
    """Aim in degrees, speed relative, side and height in radii of the ball."""

    aim_deg: ParameterAnswer
    speed: ParameterAnswer
    side: ParameterAnswer
    height: ParameterAnswer
    needs: list[str]
    families: list[SuccessAnswer]


class Disagreement(Answer):
    """A shot at which somebody felt something: `felt` as kept with the shot, the computed numbers beside it."""

    game: str
    title: str
    shot: str
    player: str | None
    ball: str | None
    felt: dict[str, Any]


class DisagreementList(Answer):
    shots: list[Disagreement]
