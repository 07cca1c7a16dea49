"""What the room, the cloth and the light look like."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.table import Point

CLOTHS = {  # blue, green, red
    "petrol": (122, 96, 46),
    "blue": (160, 92, 30),
    "light blue": (190, 150, 88),
    "green": (60, 104, 28),
    "grey": (118, 112, 108),
}


@dataclass(frozen=True)
class Look:
    """`marks` are places of chalk; `template` shows the sheet on which balls are racked."""

    cloth: tuple[int, int, int] = CLOTHS["petrol"]
    wood: tuple[int, int, int] = (40, 52, 74)
    room: tuple[int, int, int] = (46, 46, 50)
    marks: tuple[Point, ...] = ()
    spots: tuple[Point, ...] = ()
    template: bool = False
    second_table: bool = False
    seed: int = 1
