"""What the shot lab asks and is answered."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from aretane.core.geometry.plants import Cannon, Plant
from aretane.core.statistics.rates import Rate
from aretane.web.games.schemas import TableAnswer
from aretane.web.schemas import Answer, HandFile, Place

MOST_SAMPLES = 5000


class StrokeRequest(Answer):
    """As the published stroke format. Either aim, or at and pocket."""

    speed: float
    aim: float | None = None
    at: str | None = None
    pocket: str | None = None
    part: str | None = None
    side: float = 0.0
    height: float = 0.0
    elevation: float = 0.0


class SimulateRequest(Answer):
    """A shot to play: where the balls are, what differs from the table's parameters, the stroke, and how often."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    physics: dict[str, float] = Field(default_factory=dict)
    stroke: StrokeRequest
    hand: HandFile = "club"
    samples: int = Field(0, ge=0, le=MOST_SAMPLES)
    seed: int = Field(0, ge=0)


class LegAnswer(Answer):
    """Motion from time t on: place + velocity s + acceleration s²/2, s seconds later."""

    t: float
    phase: str
    place: tuple[float, float, float]
    velocity: tuple[float, float, float]
    acceleration: tuple[float, float]


class EventAnswer(Answer):
    t: float
    kind: str
    balls: list[str]
    place: Place
    speeds: list[float]
    rail: str | None = None
    pocket: str | None = None


class FallAnswer(Answer):
    ball: str
    pocket: str
    t: float


class ShotAnswer(BaseModel):
    """The same keys as the command `simulate` prints."""

    model_config = ConfigDict(extra="forbid")

    stroke: dict[str, Any]
    potted: list[FallAnswer]
    off_table: list[str]
    first_contact: str | None
    rails_after_contact: int
    object_balls_to_rail: int
    cue_rails: int
    scratch: bool
    duration: float
    events: list[EventAnswer]
    capped: bool
    miscue: bool
    final: dict[str, Any]


class SamplesAnswer(Answer):
    """Rates with 95 % intervals, and where the cue ball stopped whenever it stayed on the table."""

    pot: Rate
    foul_rate: Rate
    scratch_rate: Rate
    landing: list[Place]
    capped: bool


class SimulateAnswer(Answer):
    shot: ShotAnswer
    legs: dict[str, list[LegAnswer]]
    cue_speed: float
    samples: SamplesAnswer | None


class HandNumbers(Answer):
    """A hand as its file has it: degrees, relative speed, fractions of the radius; with the `partner` who plays
    every second stroke.
    """

    aim_deg: float
    speed: float
    side: float
    height: float
    rail_deg: float
    elevation_deg: float
    partner: HandNumbers | None = None


class HandChoice(HandNumbers):
    id: str


class TableChoice(Answer):
    """A table, its parameters, and what the preset hands come to on it."""

    id: str
    table: TableAnswer
    physics: dict[str, float]
    disciplines: list[str]
    hands: list[HandChoice]


class LabAnswer(Answer):
    """What the lab offers: tables with their parameters and what those may be changed to, balls."""

    tables: list[TableChoice]
    limits: dict[str, tuple[float, float]]
    balls: dict[str, list[str]]
    tip_limit: float
    fastest: float


class BackwardsRequest(Answer):
    """A ball on a table, and whose hands are to play it."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    physics: dict[str, float] = Field(default_factory=dict)
    ball: str
    hand: HandFile = "club"


class NextRequest(Answer):
    """The next ball at a cut angle into its pocket (degrees), and how well is there."""

    ball: str
    pocket: str
    angle: float = Field(ge=0.0, le=80.0)
    within: float = Field(5.0, gt=0.0, le=45.0)


class ReachRequest(BackwardsRequest):
    """Where the cue ball should stop once `ball` has gone into `pocket`: a place, and how near is there (m), or
    where the `next` ball lies at an angle.
    """

    pocket: str
    to: Place | None = None
    radius: float = Field(0.1, gt=0.0, le=2.0)
    next: NextRequest | None = None


class SendRequest(BackwardsRequest):
    """Where `ball` should stop, and how near is there (m)."""

    to: Place
    radius: float = Field(0.1, gt=0.0, le=2.0)


class SentAnswer(Answer):
    """See `core/planning/backwards/send`."""

    stroke: dict[str, Any]
    stop: Place
    off: float
    inside: Rate
    foul: Rate
    cue: Place
    route: str
    softer: Place | None
    firmer: Place | None
    words: str


class SendAnswer(Answer):
    """The strokes, the surest first; without any the one that comes nearest, alone."""

    strokes: list[SentAnswer]


class ReachedAnswer(Answer):
    """See `core/planning/backwards/reach`; `part` of the pocket that is aimed at."""

    stroke: dict[str, Any]
    part: Literal["thick", "centre", "thin"]
    stop: Place
    off: float
    pot: Rate
    inside: Rate
    route: str
    softer: Place | None
    firmer: Place | None
    words: str


class ReachAnswer(Answer):
    """The ways, the plainest first; without any the `nearest`, if the ball can be potted there at all."""

    strokes: list[ReachedAnswer]
    nearest: ReachedAnswer | None


class KickRequest(BackwardsRequest):
    """`side`: how the kick is to be struck, of the radius, right above 0."""

    pocket: str | None = None
    rails: int | None = None
    side: float = Field(0.0, ge=-0.45, le=0.45)


class WayAnswer(Answer):
    rails: list[str]
    mirror_aim: Place
    diamond: float
    corrected_aim: float
    corrected_diamond: float
    speed: float
    hit: Rate
    scratch: Rate
    by_speed: list[tuple[float, float]]


class KickAnswer(Answer):
    ways: list[WayAnswer]


class BankWay(Answer):
    """See `core/planning/backwards/bank`."""

    pocket: str
    rail: str
    mirror_aim: Place
    diamond: float
    corrected_aim: float
    corrected_diamond: float
    speed: float
    by_speed: list[tuple[float, float]]
    cut: float
    pot: Rate
    scratch: Rate


class BankAnswer(Answer):
    banks: list[BankWay]


class LinesRequest(Answer):
    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    physics: dict[str, float] = Field(default_factory=dict)


class LinesAnswer(Answer):
    plants: list[Plant]
    cannons: list[Cannon]
