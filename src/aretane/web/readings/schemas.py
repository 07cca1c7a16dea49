"""Readings of recordings on their way in and out."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from aretane.web.games.schemas import ShotDocument
from aretane.web.schemas import Answer, Id, Place

Time = Annotated[float, Field(ge=0, le=1e6)]
Pixel = tuple[Annotated[float, Field(ge=-1e5, le=1e5)], Annotated[float, Field(ge=-1e5, le=1e5)]]


class SeenBallAnswer(Answer):
    """A ball in a picture; `doubtful`: somebody should look whether it has this name.

    `track` stays the same while the ball is followed (null at a single picture).
    """

    ball: str
    confidence: float
    doubtful: bool
    place: Place
    sigma: float
    track: int | None


class StillAnswer(Answer):
    """The balls at a moment; `time` is the picture's that was looked at, `others` finds without a name."""

    time: float
    balls: list[SeenBallAnswer]
    racked: bool


class StillQuery(Answer):
    recording: Annotated[int, Field(ge=0, le=49)] = 0
    at: Time


class ProposalAnswer(Answer):
    """What is believed to have happened: an entry of the match format whose unconfirmed fields are `inferred`; the
    fields that are `open`; `sure`: nothing is, and every ball was well seen; `why`: the ruling."""

    document: ShotDocument
    open: list[str]
    sure: bool
    why: str


class HappeningAnswer(Answer):
    """What was seen on the balls' ways; `what` is the rail's or pocket's name."""

    t: float
    kind: Literal["strike", "contact", "rail", "pocket", "rest"]
    balls: list[str]
    what: str | None


class PathAnswer(Answer):
    """A ball's way: time, x, y (seconds, metres) at its start, its turns and its end."""

    ball: str
    points: list[tuple[float, float, float]]


class FoundShotAnswer(Answer):
    """One shot found in the recording. `doubtful` says that somebody should look. `logged`: the entry that it is in
    the log, and the fields of that in which it `differs`, which somebody confirmed; else what is proposed."""

    id: str
    rack: int
    kind: Literal["shot", "re-rack", "replay"]
    start: float
    contact: float
    still: float
    confidence: float
    moved: int
    gone: int
    doubtful: bool
    before: list[SeenBallAnswer]
    after: list[SeenBallAnswer]
    events: list[HappeningAnswer]
    paths: list[PathAnswer]
    logged: str | None
    differs: list[str]
    proposal: ProposalAnswer | None


class QuestionAnswer(Answer):
    """Whether a ball of a found shot is the one that it is taken for, or another; `settles` says how many places on
    the strip's layouts hang on the answer."""

    shot: str
    side: Literal["before", "after"]
    track: int
    ball: str
    instead: str
    settles: int


class ReadingAnswer(Answer):
    """`state` is none, running, done, failed or stopped; `question` the one whose answer settles most names."""

    state: Literal["none", "running", "done", "failed", "stopped"]
    recording: int
    reached: float
    duration: float
    said: str
    corrections: int
    question: QuestionAnswer | None
    shots: list[FoundShotAnswer]


class ToldAnswer(Answer):
    """A value with its 95 % interval, and the one that such tables usually have."""

    value: float
    low: float
    high: float
    usual: float


class TableToldAnswer(Answer):
    """What balls that ran alone in a recording tell of its table: from how many stretches of how many metres; and
    the table as a match would have it with these values."""

    roll_friction: ToldAnswer
    rail_restitution: ToldAnswer
    stretches: int
    metres: float
    table: str | dict[str, Any]


class ReadRecordingRequest(Answer):
    """Read the recording from one time to another (null: to its end) with the marks of the view at `marked_at`."""

    id: Id
    recording: Annotated[int, Field(ge=0, le=49)] = 0
    begin: Time = 0
    end: Time | None = None
    marked_at: Time = 0


class CorrectionRequest(Answer):
    """One correction by the coach; which fields count depends on `do`."""

    do: Literal["delete", "merge", "split", "add", "kind", "place", "remove", "name", "ball"]
    shot: Annotated[str, Field(max_length=60)] | None = None
    at: Time | None = None
    kind: Literal["shot", "re-rack", "replay"] | None = None
    track: int | None = None
    ball: Annotated[str, Field(max_length=20)] | None = None
    side: Literal["before", "after"] | None = None
    place: Place | None = None
    following: bool = False


class OutlineRequest(Answer):
    """A suggestion for the table's marks in the picture at `at`; with `marks` those are moved onto edges."""

    table: str | dict[str, object]
    at: Time
    marks: Annotated[dict[str, Pixel], Field(max_length=40)] | None = None


class OutlineAnswer(Answer):
    marks: dict[str, tuple[float, float]]
