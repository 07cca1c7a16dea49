"""Tables: their dimensions, pockets and spots.

Frame: seen from above by a player who stands at the head end (snooker: baulk) and looks to the foot.
x runs forward from the head cushion's nose, 0 to `length`; y runs to the left from the right cushion's
nose, 0 to `width`. Angles run counter-clockwise from +x.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields, replace
from functools import cached_property, lru_cache
from typing import Any

from aretane.core.errors import InputError
from aretane.core.parameters import changes_from
from aretane.core.units import FOOT, INCH

Point = tuple[float, float]

POCKETS = ("head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right")


@dataclass(frozen=True)
class Pocket:
    """One pocket as geometry. `tips` are the two jaw tips, `axis` points out of the table."""

    name: str
    tips: tuple[Point, Point]
    axis: Point
    shelf: float

    @cached_property
    def mouth(self) -> Point:
        """The middle of the mouth: the segment between the two jaw tips."""
        (ax, ay), (bx, by) = self.tips
        return (ax + bx) / 2, (ay + by) / 2

    @cached_property
    def mouth_width(self) -> float:
        return math.dist(*self.tips)

    @cached_property
    def drop(self) -> Point:
        """Where the bed ends on the pocket's axis: a ball whose centre is past it falls."""
        mx, my = self.mouth
        return mx + self.shelf * self.axis[0], my + self.shelf * self.axis[1]


@dataclass(frozen=True)
class Table:
    """Every dimension that the geometry uses, in metres.

    `shelf` runs from the middle of the mouth to the edge of the slate. `head_line` is the head string
    (snooker: the baulk line), `foot_spot` the spot of the rack's first ball (snooker: the black's).
    """

    name: str
    length: float
    width: float
    ball_diameter: float
    cue_ball_diameter: float
    corner_mouth: float
    side_mouth: float
    corner_shelf: float
    side_shelf: float
    nose_height: float
    head_line: float
    foot_spot: float
    corner_jaw_angle: float = math.radians(142)  # between a rail's nose and its facing
    side_jaw_angle: float = math.radians(104)
    corner_jaw_radius: float = 0.003  # of the rounded tip
    side_jaw_radius: float = 0.003
    physics: tuple[tuple[str, float], ...] = ()  # what differs from the set that the simulator has for it

    def jaw(self, pocket: Pocket) -> tuple[float, float]:
        """Angle between rail and facing (radians) and radius of the rounded tip of this pocket's jaws."""
        if pocket.name.startswith("side"):
            return self.side_jaw_angle, self.side_jaw_radius
        return self.corner_jaw_angle, self.corner_jaw_radius

    def contact_distance(self, radius: float) -> float:
        """How near a ball's centre comes to a cushion's nose line: the nose touches it above its centre."""
        return math.sqrt(self.nose_height * (2 * radius - self.nose_height))

    @property
    def radius(self) -> float:
        return self.ball_diameter / 2

    @property
    def cue_radius(self) -> float:
        return self.cue_ball_diameter / 2

    def radius_of(self, ball: str) -> float:
        return self.cue_radius if ball == "cue" else self.radius

    @cached_property
    def pockets(self) -> dict[str, Pocket]:
        """The six pockets by name, in the order of `POCKETS`."""
        L, W = self.length, self.width
        leg = self.corner_mouth / math.sqrt(2)
        half = self.side_mouth / 2
        r = math.sqrt(0.5)

        def corner(name: str, x: float, y: float) -> Pocket:
            inward_x, inward_y = (1 if x == 0 else -1), (1 if y == 0 else -1)
            tips = ((x + inward_x * leg, y), (x, y + inward_y * leg))
            return Pocket(name, tips, (-inward_x * r, -inward_y * r), self.corner_shelf)

        def side(name: str, y: float) -> Pocket:
            tips = ((L / 2 - half, y), (L / 2 + half, y))
            return Pocket(name, tips, (0.0, 1.0 if y > 0 else -1.0), self.side_shelf)

        made = (
            corner("head-left", 0.0, W),
            corner("head-right", 0.0, 0.0),
            side("side-left", W),
            side("side-right", 0.0),
            corner("foot-left", L, W),
            corner("foot-right", L, 0.0),
        )
        return {pocket.name: pocket for pocket in made}


# Published specifications. Pool: World Pool-Billiard Association, Equipment Specifications (table bed
# 100 x 50, 92 x 46, 78 x 39 in; ball 2.25 in; corner mouth 4.5 to 4.625 in, side 5 to 5.125 in; shelf
# 1 to 2.25 in and 0 to 3/8 in; cushion nose 62.5 to 64.5 % of the ball's diameter; jaws cut at 142 and 104 deg; the
# radius of their tips is assumed). Snooker: World
# Professional Billiards and Snooker Association, Official Rules, section 1 (3569 x 1778 mm, ball 52.5 mm,
# baulk line 737 mm, black 324 mm from the top cushion). Values marked "assumed" have no published figure.
_NOSE = 0.635  # of a pool ball's diameter: the middle of the permitted range

_ROUND_JAWS: dict[str, Any] = {
    "corner_jaw_angle": math.radians(135),
    "side_jaw_angle": math.radians(90),
    "corner_jaw_radius": 0.060,
    "side_jaw_radius": 0.040,
}

PRESETS: dict[str, Table] = {
    table.name: table
    for table in (
        Table("pool-9ft", 100 * INCH, 50 * INCH, 2.25 * INCH, 2.25 * INCH, 4.5 * INCH, 5 * INCH,
              1.625 * INCH, 0.1875 * INCH, _NOSE * 2.25 * INCH, 25 * INCH, 75 * INCH),
        Table("pool-8ft", 92 * INCH, 46 * INCH, 2.25 * INCH, 2.25 * INCH, 4.5 * INCH, 5 * INCH,
              1.625 * INCH, 0.1875 * INCH, _NOSE * 2.25 * INCH, 23 * INCH, 69 * INCH),
        Table("pool-7ft", 78 * INCH, 39 * INCH, 2.25 * INCH, 2.25 * INCH, 4.5 * INCH, 5 * INCH,
              1.625 * INCH, 0.1875 * INCH, _NOSE * 2.25 * INCH, 19.5 * INCH, 58.5 * INCH),
        # Pocket mouths and curves of snooker are fixed by templates that are not public: assumed, measured
        # practice.
        Table("snooker-12ft", 3.569, 1.778, 0.0525, 0.0525, 0.089, 0.105,
              0.030, 0.010, 0.0315, 0.737, 3.569 - 0.324, **_ROUND_JAWS),
        # Blackball: bed 72 x 36 in, balls 2 in with a cue ball of 1 7/8 in; mouths, curves and shelf assumed.
        Table("blackball-7ft", 6 * FOOT, 3 * FOOT, 2 * INCH, 1.875 * INCH, 0.083, 0.091,
              0.028, 0.010, 0.030, 6 * FOOT / 5, 6 * FOOT * 3 / 4, **_ROUND_JAWS),
    )
}  # fmt: skip

_LIMITS = {
    "length": (1.0, 5.0),
    "width": (0.5, 3.0),
    "ball_diameter": (0.03, 0.08),
    "cue_ball_diameter": (0.03, 0.08),
    "corner_jaw_angle": (math.radians(135), math.radians(165)),
    "side_jaw_angle": (math.radians(90), math.radians(125)),
    "corner_jaw_radius": (0.0, 0.1),
    "side_jaw_radius": (0.0, 0.1),
}
_OPTIONAL = ("corner_jaw_angle", "side_jaw_angle", "corner_jaw_radius", "side_jaw_radius")


def table_from(value: str | Mapping[str, object]) -> Table:
    """The preset of that name, or a table from a mapping that gives every dimension in metres.

    Raises `InputError` for an unknown name, a missing dimension or one that no table has.
    """
    if isinstance(value, str):
        if value not in PRESETS:
            raise InputError("table", f"unknown table {value!r}; known are {', '.join(PRESETS)}")
        return PRESETS[value]
    if not isinstance(value, Mapping):
        raise InputError("table", "must be the name of a table or an object with every dimension")
    known = {field.name for field in fields(Table)} - {"physics"}
    changes = value.get("physics") or {}
    if not isinstance(changes, Mapping):
        raise InputError("table.physics", "must be an object of parameters")
    table = _custom(tuple(sorted((str(k), v) for k, v in value.items() if k in known)))
    return replace(table, physics=changes_from(changes))


@lru_cache(maxsize=64)
def _custom(items: tuple[tuple[str, object], ...]) -> Table:
    given = dict(items)
    sizes: dict[str, Any] = {}
    for field in fields(Table):
        if field.name in ("name", "physics") or (field.name in _OPTIONAL and field.name not in given):
            continue
        number = given.get(field.name)
        if isinstance(number, bool) or not isinstance(number, int | float) or not math.isfinite(number):
            raise InputError(f"table.{field.name}", "must be a length in metres")
        low, high = _LIMITS.get(field.name, (0.0, 5.0))
        if not low <= number <= high:
            raise InputError(f"table.{field.name}", f"{number:g} is outside {low:g} to {high:g}")
        sizes[field.name] = float(number)
    table = Table(name=str(given.get("name", "custom")), **sizes)
    if table.width >= table.length:
        raise InputError("table.width", "must be smaller than the length")
    if min(table.corner_mouth, table.side_mouth) <= table.ball_diameter:
        raise InputError("table.corner_mouth", "a ball must fit between the jaws")
    if not max(table.radius, table.cue_radius) <= table.nose_height < 2 * min(table.radius, table.cue_radius):
        raise InputError("table.nose_height", "must lie between the balls' centre and their top")
    return table


def table_as_data(table: Table) -> str | dict[str, object]:
    """The inverse of `table_from`."""
    if PRESETS.get(table.name) == table:
        return table.name
    return {**asdict(table), "physics": dict(table.physics)}
