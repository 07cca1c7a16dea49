"""What is to be read of a recording, and through which camera."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from aretane.core.errors import InputError
from aretane.core.table import Point, Table
from aretane.vision.table.camera import Camera, solve_camera

Rectangle = tuple[float, float, float, float]


@dataclass(frozen=True)
class Marked:
    """Another camera's marks, set in the picture at that time."""

    marks: Mapping[str, Point]
    picture: Rectangle | None
    marked_at: float


@dataclass(frozen=True)
class Wanted:
    """What is to be read: the file, its table, and the marks that were set in the picture at `marked_at` (None: in
    whatever picture is looked at).

    `marks` and `picture` are in pixels of the upright picture, `pixel_aspect` the width of its pixels; `others` are
    further cameras between which the recording is cut.
    """

    path: str
    table: Table
    ball_set: str
    marks: Mapping[str, Point]
    picture: Rectangle | None = None
    marked_at: float | None = 0.0
    pixel_aspect: float = 1.0
    others: tuple[Marked, ...] = ()

    @property
    def cameras(self) -> tuple[Wanted, ...]:
        """The same as each camera has it alone."""
        alone = replace(self, others=())
        return (
            alone,
            *(
                replace(alone, marks=other.marks, picture=other.picture, marked_at=other.marked_at)
                for other in self.others
            ),
        )


def camera_of(wanted: Wanted, table: Table, size: tuple[int, int]) -> Camera:
    """The camera for pictures of that size. Raises `InputError` in the words of the command line."""
    for name, (u, v) in wanted.marks.items():
        if not (-0.5 * size[0] <= u <= 1.5 * size[0] and -0.5 * size[1] <= v <= 1.5 * size[1]):
            raise InputError(
                name.replace("corner:", "corners: "), f"lies far outside of the picture of {size[0]} x {size[1]}"
            )
    try:
        return solve_camera(table, wanted.marks, size, picture=wanted.picture, pixel_aspect=wanted.pixel_aspect)
    except InputError as problem:
        raise InputError(problem.field.replace("marks", "corners"), problem.message) from None
