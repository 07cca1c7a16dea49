"""A layout read, and the camera that sees a table."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from aretane.draw.shapes import Shape
from aretane.web.schemas import Answer, Place, PocketName


class ReadRequest(Answer):
    """A layout that may still be incomplete, how well its places are known, and the shot to look at."""

    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    sigma: dict[str, float] = Field(default_factory=dict)
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
