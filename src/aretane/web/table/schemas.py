"""A layout read, and the camera that sees a table."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from aretane.draw.shapes import Shape
from aretane.web.schemas import Answer, Place, PocketName


class Lying(Answer):
    """A layout that may still be incomplete, and how well its places are known."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    sigma: dict[str, float] = Field(default_factory=dict)


class ReadRequest(Lying):
    """And the shot to look at."""

    ball: str | None = None
    pocket: PocketName | None = None


class GapAnswer(Answer):
    """Metres left between a ball that runs along a line and `what` (a ball, "jaw of foot-left"); below 0 where it
    runs into it. `plus_minus` is half of the 95 % interval."""

    what: str
    gap: float
    plus_minus: float
    verdict: Literal["passes", "touches", "cannot be told"]


class ShotSpreadAnswer(Answer):
    """Half-widths of 95 % intervals; of `open` and `visible` the intervals. Beside the ways of the cue ball and of
    the object ball: the gaps to other balls, the narrowest first."""

    cut_angle_deg: float | None
    cue_distance: float | None
    pocket_distance: float
    open: tuple[float, float]
    visible: tuple[float, float] | None
    beside_cue: list[GapAnswer]
    beside_object: list[GapAnswer]


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


class Drawing(Answer):
    """A line, an arrow, a circle (its middle, a point on it), an area (its corners); metres."""

    kind: str = Field(max_length=40)
    points: list[Place] = Field(min_length=2, max_length=2000)


class MeasureRequest(Lying):
    """And what was drawn on it by hand."""

    drawings: list[Drawing] = Field(max_length=200)


class MeasuredDrawing(Answer):
    """`length`: of a line, or a circle's radius. `angle_deg`: to the long rail. `mover`: the ball that the line
    begins at. `gaps`: beside a ball that runs along it, the narrowest first."""

    length: float | None
    angle_deg: float | None
    area: float | None
    mover: str | None
    gaps: list[GapAnswer]


class MeasureAnswer(Answer):
    drawings: list[MeasuredDrawing]


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
