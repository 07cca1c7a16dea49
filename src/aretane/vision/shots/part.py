"""One part of a reading: a stretch of a recording, read by a worker that knows nothing but what it is given."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path

from aretane.core.errors import InputError
from aretane.core.table import Point, Table
from aretane.vision.files.frames import picture_at, rhythm_of
from aretane.vision.shots.following import EVERY, Eye, Reader, read
from aretane.vision.shots.moments import with_contact
from aretane.vision.shots.watch import Shot, Watch
from aretane.vision.table.camera import Camera, solve_camera

Rectangle = tuple[float, float, float, float]

FEWEST = 0.35  # of the bed must look like cloth in half of the pictures
RIGHT_SIZE = 0.06  # balls may look larger or smaller by so much


@dataclass(frozen=True)
class Wanted:
    """What is to be read: the file, its table, and the marks that were set in the picture at `marked_at` (None: in
    whatever picture is looked at).

    `marks` and `picture` are in pixels of the upright picture, `pixel_aspect` the width of its pixels.
    """

    path: str
    table: Table
    ball_set: str
    marks: Mapping[str, Point]
    picture: Rectangle | None = None
    marked_at: float | None = 0.0
    pixel_aspect: float = 1.0


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


@dataclass(frozen=True)
class Tally:
    """What the pictures were like, for a word to the coach."""

    looked: int = 0
    lost: int = 0
    sizes: frozenset[tuple[int, int]] = frozenset()
    ratios: tuple[float, ...] = ()
    cloth: tuple[float, ...] = ()

    def with_(self, other: Tally) -> Tally:
        return Tally(
            self.looked + other.looked,
            self.lost + other.lost,
            self.sizes | other.sizes,
            (self.ratios + other.ratios)[-200:],
            (self.cloth + other.cloth)[-2000:],
        )


@dataclass(frozen=True)
class Part:
    """`reached` is where the next part begins; `over` whether the recording has ended."""

    reached: float
    shots: tuple[Shot, ...]
    watch: Watch
    tally: Tally = field(default_factory=Tally)
    over: bool = False


def watch_for(path: Path, shots: tuple[Shot, ...] = ()) -> Watch:
    """A watch for this recording's rhythm, going on after shots that were found before."""
    rhythm = rhythm_of(path)
    if rhythm.rate <= 0:
        raise InputError("recording", "the recording has no picture, or only one")
    return Watch.resumed(max(EVERY, 1 / rhythm.rate), shots)


def read_part(wanted: Wanted, watch: Watch | None, begin: float, length: float) -> Part:
    """Read from `begin` on, `length` seconds of the recording."""
    path, table = Path(wanted.path), wanted.table
    watch = watch or watch_for(path)

    _, marked = picture_at(path, wanted.marked_at or 0.0)
    eye = Eye(table, wanted.ball_set, lambda size: camera_of(wanted, table, size), marked)
    reader = Reader(table, wanted.ball_set, watch)
    until = begin + length
    shots: list[Shot] = []
    looked = lost = 0
    sizes: set[tuple[int, int]] = set()
    for ready, progress in read(path, eye, reader, begin, until):
        shots += progress.shots
        looked += 1
        lost += not progress.seen
        if ready is not None:
            sizes.add((ready.picture.shape[1], ready.picture.shape[0]))
    if reader.view is not None and not watch.sparse:
        shots = [with_contact(path, shot, reader.view.camera, table.radius) for shot in shots]
    over = until >= rhythm_of(path).last or looked == 0
    tally = Tally(looked, lost, frozenset(sizes), tuple(reader.ratios), tuple(reader.cloth))
    return Part(math.inf if over else until, tuple(shots), reader.watch, tally, over)


def words_about(tally: Tally, shots: int) -> str:
    """What a coach should know about a recording that was read; empty if all is well."""
    said = []
    cloth = sorted(tally.cloth)
    if tally.looked and tally.lost >= tally.looked:
        said.append("the marked view was not seen again; mark the table in a picture of this recording")
    elif cloth and cloth[len(cloth) // 2] < FEWEST:
        said.append("what the marks enclose does not look like a table's cloth; check the corners")
    elif shots == 0:
        said.append("no ball left its place in the marked view; if shots are to be seen, check the corners")
    elif tally.lost > 0.5 * tally.looked:
        share = 100 * tally.lost / tally.looked
        said.append(f"{share:.0f} % of the pictures show another view and were passed over")
    ratios = sorted(tally.ratios)
    if len(ratios) > 5 and abs(ratios[len(ratios) // 2] - 1) > RIGHT_SIZE:
        off = 100 * (ratios[len(ratios) // 2] - 1)
        more = "larger" if off > 0 else "smaller"
        said.append(
            f"balls look {abs(off):.0f} % {more} than the marks say: check the corners and the table's size"
        )
    if len(tally.sizes) > 1:
        said.append("the picture's size changes in this recording; only the marked size can be trusted")
    return "; ".join(said)
