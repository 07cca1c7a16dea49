"""A moment as it is cut out: from when to when, what is said of it, what is drawn on the table in the picture."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.table import Point, Table

Colour = tuple[int, int, int]


@dataclass(frozen=True)
class Line:
    """Points on the bed in metres. `dashed`: as it was played; else what was better, or what the coach drew."""

    points: tuple[Point, ...]
    colour: Colour  # red, green, blue
    dashed: bool = False
    closed: bool = False


@dataclass(frozen=True)
class Moment:
    """`source`: the film's file; times in seconds of its own clock. `title` stands over the whole moment, `said`
    while the picture is held before the shot, `result` while it is held after it. `marks` of the table in the
    picture and `picture` as the bench has them; without marks nothing is drawn on the table. `voice`: a file that
    is heard over the held picture.
    """

    source: str
    start: float
    contact: float
    still: float
    table: Table
    title: str
    said: tuple[str, ...] = ()
    result: str = ""
    lines: tuple[Line, ...] = ()
    marks: dict[str, Point] | None = None
    picture: tuple[float, float, float, float] | None = None
    voice: str | None = None
