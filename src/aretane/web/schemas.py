"""Requests and answers. Facts themselves are objects of the published match format."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, WithJsonSchema

from aretane.formats.schema import schema

Place = tuple[float, float]
Id = Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]


def _document(*path: str) -> Any:
    """A part of the published schema of a match, as the type of a field."""
    part: Any = schema("match")
    for step in path:
        part = part[step]
    return Annotated[dict[str, Any], WithJsonSchema(part)]


def _header() -> Any:
    whole = schema("match")
    without = {k: v for k, v in whole["properties"].items() if k != "racks"}
    return Annotated[
        dict[str, Any], WithJsonSchema({"type": "object", "required": ["discipline"], "properties": without})
    ]


def _rack() -> Any:
    whole = schema("match")["properties"]["racks"]["items"]
    without = {k: v for k, v in whole["properties"].items() if k != "shots"}
    return Annotated[dict[str, Any], WithJsonSchema({"type": "object", "properties": without})]


ShotDocument = _document("properties", "racks", "items", "properties", "shots", "items")
RackDocument = _rack()
MatchDocument = _header()


class Answer(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Trouble(Answer):
    """What went wrong, in one sentence, and the field it is about."""

    message: str
    field: str | None = None
    theirs: dict[str, Any] | None = None


class SessionAnswer(Answer):
    csrf: str
    club: str
    author: str
    version: str


class Health(Answer):
    ok: bool
    database: bool
    version: str


class RateAnswer(Answer):
    p: float | None
    low: float
    high: float
    n: int


class MeanAnswer(Answer):
    mean: float | None
    low: float | None
    high: float | None
    n: int


class PocketAnswer(Answer):
    name: str
    tips: tuple[Place, Place]
    mouth: Place
    axis: Place
    drop: Place
    width: float


class TableAnswer(Answer):
    name: str
    length: float
    width: float
    radius: float
    cue_radius: float
    nose_height: float
    head_line: float
    foot_spot: float
    pockets: list[PocketAnswer]
    marks: dict[str, tuple[float, float, float]]


class LayoutAnswer(Answer):
    balls: dict[str, Place]
    player: str
    ball_in_hand: str | None


class RulingAnswer(Answer):
    legal_balls: list[str]
    foul: str | None
    fouls: list[str]
    points: dict[str, int]
    next: str | None
    in_hand: str | None
    choices: list[str]
    spotted: list[str]
    why: str


class ErrorAnswer(Answer):
    """A position error in metres; see the method page for the signs."""

    vector: Place
    distance: float
    along: float
    across: float
    assumed: bool
    plus_minus: float
    grade: str | None
    side: str | None
    length: str | None


class ShotAnswer(Answer):
    id: str
    seat: float
    document: ShotDocument
    ruling: RulingAnswer | None
    before: LayoutAnswer | None
    after: LayoutAnswer | None
    result: str | None
    error: ErrorAnswer | None
    object_errors: dict[str, ErrorAnswer]


class NextUp(Answer):
    """What the next entry of a rack starts from."""

    player: str
    in_hand: str | None
    choices: list[str]
    legal_balls: list[str]
    phase: str
    before: LayoutAnswer | None


class RackAnswer(Answer):
    id: str
    seat: float
    document: RackDocument
    breaker: str
    winner: str | None
    score: dict[str, int]
    next_up: NextUp | None
    shots: list[ShotAnswer]


class PlaceOfTrouble(Answer):
    rack: int
    shot: int
    message: str


class GameAnswer(Answer):
    id: str
    last_change: int
    header: MatchDocument
    table: TableAnswer
    balls: list[str]
    score: dict[str, int]
    winner: str | None
    racks: list[RackAnswer]
    trouble: list[PlaceOfTrouble]


class GameLine(Answer):
    id: str
    created_at: datetime
    title: str
    discipline: str
    session: str
    players: dict[str, str]
    racks: int
    shots: int


class GameList(Answer):
    games: list[GameLine]


class NewGame(Answer):
    id: Id
    document: MatchDocument


class Change(Answer):
    """One fact as it is to be; without a document it is removed."""

    kind: Literal["match", "rack", "shot"]
    id: Id
    parent: Id
    seat: float = Field(allow_inf_nan=False)
    document: dict[str, Any] | None


class OperationRequest(Answer):
    id: Id
    client: Id
    seen: int = Field(ge=0)
    label: str = Field(max_length=200)
    changes: list[Change] = Field(min_length=1, max_length=600)


class ReverseRequest(Answer):
    id: Id
    client: Id
    seen: int = Field(ge=0)


class HistoryLine(Answer):
    id: int
    made_at: datetime
    kind: str
    label: str
    author: str
    reversed_by: int | None


class History(Answer):
    entries: list[HistoryLine]


class ReadRequest(Answer):
    """A layout that may still be incomplete, how well its places are known, and the shot to look at."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    sigma: dict[str, float] = {}
    ball: str | None = None
    pocket: str | None = None


class ShotSpreadAnswer(Answer):
    """Half-widths of 95 % intervals."""

    cut_angle_deg: float | None
    cue_distance: float | None
    pocket_distance: float


class ScratchAnswer(Answer):
    stun: str | None
    roll: str | None


class ShotReadingAnswer(Answer):
    ball: str
    pocket: str
    legal: bool
    open: float
    openness: str
    cut_angle_deg: float | None
    cut_side: str | None
    fraction: float | None
    cue_distance: float | None
    pocket_distance: float
    tolerance_deg: float | None
    ghost: Place
    aim: float | None
    blocked_by: list[str]
    blocked_cue: list[str]
    blocked_object: list[str]
    stun_direction: float | None
    roll_direction: float | None
    scratch: ScratchAnswer


class ProblemBallAnswer(Answer):
    ball: str
    why: str


class ReadAnswer(Answer):
    shots: list[ShotReadingAnswer]
    clusters: list[list[str]]
    frozen: list[list[str]]
    on_rail: list[str]
    problem_balls: list[ProblemBallAnswer]
    visible: dict[str, float]
    spread: ShotSpreadAnswer | None


class CameraRequest(Answer):
    table: Any = "pool-9ft"
    marks: dict[str, Place]
    width: float = Field(gt=0, le=20000)
    height: float = Field(gt=0, le=20000)
    pixel_aspect: float = Field(default=1.0, gt=0.1, lt=10)
    picture: tuple[float, float, float, float] | None = None


class CameraAnswer(Answer):
    """`rotation` is row by row; `sigma` lists (x, y, standard deviation in metres) over the bed."""

    focal: float
    centre: Place
    rotation: list[float]
    translation: list[float]
    radial: float
    pixel_aspect: float
    error_px: float
    sigma: list[tuple[float, float, float]]


class UploadRequest(Answer):
    size: int
    name: str = Field(max_length=300)


class UploadAnswer(Answer):
    upload: str
    chunk: int


class UploadProgress(Answer):
    arrived: int


class RecordingAnswer(Answer):
    sha256: str
    name: str
    bytes: int
    added_at: datetime
    seen_by: str
    container: str
    codec: str
    width: int
    height: int
    rotation: int
    pixel_aspect: float
    duration: float
    frames: int
    frame_rate: float
    start: float
    sparse: float | None
    plays_in_browser: bool


class RecordingList(Answer):
    recordings: list[RecordingAnswer]


class FinishRequest(Answer):
    name: str = Field(max_length=300)
    seen_by: str = Field(default="", max_length=500)


class FiguresQuery(Answer):
    session: str | None = "match"
    player: int | None = None
    game: str | None = None
    target_source: str | None = None


class ShotReference(Answer):
    game: str
    shot: str
    rack: int
    number: int
    player: str | None
    ball: str | None
    pocket: str | None
    result: str | None
    cut_angle_deg: float | None


class FamilyAnswer(Answer):
    name: str
    rate: RateAnswer
    members: list[int]


class CellAnswer(Answer):
    cut: tuple[float, float]
    distance: tuple[float, float | None]
    rate: RateAnswer
    members: list[int]


class ScatterPoint(Answer):
    shot: int
    along: float
    across: float
    distance: float
    plus_minus: float
    assumed: bool
    grade: str | None
    side: str | None


class FiguresAnswer(Answer):
    """`members` and `shot` are positions in `shots`."""

    try_rule: str
    shots: list[ShotReference]
    overall: RateAnswer
    map: list[CellAnswer]
    by_pocket: list[FamilyAnswer]
    by_kind: list[FamilyAnswer]
    by_player: list[FamilyAnswer]
    errors: list[ScatterPoint]
    along: MeanAnswer
    across: MeanAnswer
    distance: MeanAnswer
    without_place: int


class PlayerAnswer(Answer):
    id: int
    name: str


class PlayerList(Answer):
    players: list[PlayerAnswer]
