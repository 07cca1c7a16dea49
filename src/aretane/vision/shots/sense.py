"""Whether a recording can be what it is taken for: another game, a table marked the wrong way round, a picture that
is mirrored or upside down. Said, never forbidden."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from statistics import median

from aretane.core.ball import OBJECT_BALLS
from aretane.core.rack import colour_spots
from aretane.core.table import Point, Table
from aretane.vision.balls.ball_sets import BALL_SETS
from aretane.vision.shots.corrections import corrected, named
from aretane.vision.shots.wanted import Wanted, camera_of
from aretane.vision.shots.watch import Placed, Shot

SPARE = 1  # balls more than a game has: one may be seen that is none
LESS = 4  # balls fewer than a game's rack has, in its racks
DOWN = 0.2  # of a metre above the table, by which it is seen below it
ON_SPOT = 0.06  # m


def misgivings(wanted: Wanted, discipline: str | None, shots: Sequence[Shot], size: tuple[int, int]) -> list[str]:
    """What does not fit together in a recording of pictures of that size, in the coach's words. `discipline` None:
    any game."""
    table = wanted.table
    said = []
    if camera_of(wanted, table, size).rotation[1, 2] > DOWN:
        said.append("the picture is upside down by its marks: check the corners, or turn the recording")
    racks = [one.after for one in shots if one.kind == "re-rack"]
    if discipline is not None:
        said += _other_game(discipline, shots, racks)
    middles = [median(one.place[0] for one in rack) for rack in racks if len(rack) > LESS]
    if middles and median(middles) < table.length / 2:
        said.append("the balls are racked at the end that is marked as the head: the corners are half a turn off")
    balls = BALL_SETS[wanted.ball_set]
    if {"yellow", "green"} <= {*balls} and _mirrored(table, _named_layouts(shots, balls)):
        said.append("yellow and green stand on each other's spots: the recording is mirrored")
    return said


def _named_layouts(shots: Sequence[Shot], balls: Sequence[str]) -> list[dict[str, Point]]:
    names = named(corrected(shots, []), balls, []).names
    return [{names[one.track][0]: one.place for one in shot.before if one.track in names} for shot in shots]


def _other_game(discipline: str, shots: Sequence[Shot], racks: Sequence[Sequence[Placed]]) -> Iterator[str]:
    balls = len(OBJECT_BALLS[discipline])
    seen = sorted(sum(one.seen for one in shot.before) for shot in shots if shot.kind == "shot")
    most = seen[int(0.9 * (len(seen) - 1))] if seen else 0
    racked = median([len(rack) for rack in racks]) if racks else balls
    name = discipline.replace("-", " ")
    if most > balls + 1 + SPARE:
        yield f"{most} balls are seen at once, and {name} has {balls + 1}: is this another game?"
    elif racked < balls - LESS:
        yield f"new racks have {racked:.0f} balls, and {name} has {balls}: is this another game?"


def _mirrored(table: Table, layouts: Sequence[Mapping[str, Point]]) -> bool:
    """Whether snooker's yellow and green stand on each other's spot, as in no picture that is not mirrored."""
    spots = colour_spots(table)

    def on(ball: str, spot: str) -> int:
        return sum(ball in one and math.dist(one[ball], spots[spot]) < ON_SPOT for one in layouts)

    right = on("yellow", "yellow") + on("green", "green")
    return on("yellow", "green") + on("green", "yellow") > max(1, right)
