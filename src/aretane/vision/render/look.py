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
    "red": (52, 40, 132),
    "tan": (104, 136, 160),
}
WOODS = {"dark": (40, 52, 74), "light": (92, 138, 178), "black": (34, 34, 36)}
SHIRTS = {"dark": (66, 48, 44), "white": (196, 200, 200), "red": (50, 44, 168), "green": (70, 128, 60)}

PRINTED = ("", "", "outline", "rack", "letters")  # on the cloth


@dataclass(frozen=True)
class Holes:
    """Pockets as somebody made them: how much wider than the table's own, by how many metres nearer, and the colour
    of the collar behind."""

    wider: float = 1.0
    nearer: float = 0.0
    collar: tuple[int, int, int] | None = None


POCKETS = {"plain": Holes(), "wide": Holes(1.2, 0.015), "leather": Holes(1.12, 0.012, (36, 58, 104))}


@dataclass(frozen=True)
class Look:
    """`marks` are places of chalk; `template` shows the sheet on which balls are racked, `head_string` a line drawn
    there; `measles` are red spots on the cue ball; balls of a `make` have its colours, those of `other_make` some
    of their own besides, `aged` ones (0 to 1) are dull and yellow, and `cream` (0 to 1) is the cue ball. `printed`
    is what is printed on the cloth; `cushions` their colour, if it is not the cloth's."""

    cloth: tuple[int, int, int] = CLOTHS["petrol"]
    wood: tuple[int, int, int] = WOODS["dark"]
    shirt: tuple[int, int, int] = SHIRTS["dark"]
    lamps: str = "row"
    pockets: str = "plain"
    room: tuple[int, int, int] = (46, 46, 50)
    marks: tuple[Point, ...] = ()
    spots: tuple[Point, ...] = ()
    template: bool = False
    head_string: bool = False
    measles: bool = False
    make: str = "plain"
    aged: float = 0.0
    cream: float = 0.0
    printed: str = ""
    cushions: tuple[int, int, int] | None = None
    other_make: bool = False
    second_table: bool = False
    seed: int = 1
