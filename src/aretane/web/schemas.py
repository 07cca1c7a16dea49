"""Requests and answers of every kind; those about matches are in `game_schemas`."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from aretane.core.statistics.rates import Mean, Rate
from aretane.draw.shapes import Shape
from aretane.store.shot_figures import ShotRow

Place = tuple[float, float]
Seat = Literal["A", "B"]
PocketName = Literal["head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right"]
Id = Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]


class Answer(BaseModel):
    model_config = ConfigDict(extra="forbid")


class PlaceOfTrouble(Answer):
    rack: int
    shot: int
    message: str


class Trouble(Answer):
    """What went wrong, in one sentence, and the field it is about."""

    message: str
    field: str | None = None
    theirs: dict[str, Any] | None = None
    places: list[PlaceOfTrouble] | None = None


class SessionAnswer(Answer):
    csrf: str
    club: str
    author: str
    version: str


class Health(Answer):
    ok: bool
    database: bool
    version: str


class ReadRequest(Answer):
    """A layout that may still be incomplete, how well its places are known, and the shot to look at."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    sigma: dict[str, float] = {}
    ball: str | None = None
    pocket: PocketName | None = None


class ShotSpreadAnswer(Answer):
    """Half-widths of 95 % intervals."""

    cut_angle_deg: float | None
    cue_distance: float | None
    pocket_distance: float


class ScratchAnswer(Answer):
    stun: str | None
    roll: str | None


class MeasuredShotAnswer(Answer):
    ball: str
    pocket: PocketName
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
    """`spread` and `shapes` are of the pot that was asked for."""

    shots: list[MeasuredShotAnswer]
    clusters: list[list[str]]
    frozen: list[list[str]]
    on_rail: list[str]
    problem_balls: list[ProblemBallAnswer]
    visible: dict[str, float]
    spread: ShotSpreadAnswer | None
    shapes: list[Shape]


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
    """`converted` is how much of a recording that browsers cannot play is converted, null when there is nothing to
    do; `problem` why it cannot be."""

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
    converted: float | None
    problem: str | None


class RecordingList(Answer):
    recordings: list[RecordingAnswer]


class FinishRequest(Answer):
    name: str = Field(max_length=300)
    seen_by: str = Field(default="", max_length=500)


class FiguresQuery(Answer):
    session: str | None = "match"
    discipline: str | None = None
    player: int | None = None
    game: str | None = None
    target_source: str | None = None


class FamilyAnswer(Answer):
    name: str
    rate: Rate
    members: list[int]


class BreakFamilyAnswer(Answer):
    """Breaks that have something in common; every rate has its own sample."""

    name: str
    balls: Mean
    dry: Rate
    scratch: Rate
    next_visible: Rate
    won: Rate
    members: list[int]


class BreakTableAnswer(Answer):
    """One way of sorting the breaks: by player, by place of the cue ball, by power ..."""

    by: str
    families: list[BreakFamilyAnswer]


class CellAnswer(Answer):
    cut: tuple[float, float]
    distance: tuple[float, float | None]
    rate: Rate
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
    shots: list[ShotRow]
    overall: Rate
    map: list[CellAnswer]
    by_pocket: list[FamilyAnswer]
    by_kind: list[FamilyAnswer]
    by_player: list[FamilyAnswer]
    errors: list[ScatterPoint]
    along: Mean
    across: Mean
    distance: Mean
    without_place: int
    breaks: list[BreakTableAnswer]


class PlayerAnswer(Answer):
    id: int
    name: str


class PlayerList(Answer):
    players: list[PlayerAnswer]
