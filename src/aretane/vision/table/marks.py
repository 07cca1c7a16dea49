"""Points of a table that can be marked in a picture, and where they are in space.

z is measured up from the cloth. Names are ``corner:head-left`` (where the nose lines of neighbouring
rails meet, at the noses' height), ``pocket:side-left`` (the middle of the hole at the height of the
bed) and ``sight:left-3`` (the diamond marks on the rails, counted from the head or from the right).
"""

from __future__ import annotations

from aretane.core.rules.traits import made_for
from aretane.core.table import Table
from aretane.core.units import DIAMONDS_ACROSS, DIAMONDS_ALONG, SIGHT_FROM_NOSE

Place3 = tuple[float, float, float]

SIGHT_HEIGHT = 0.040  # top of the rail above the bed; assumed, only a range is published


def mark_places(table: Table) -> dict[str, Place3]:
    """Every mark of a table in metres. Snooker tables have no sights on their rails."""
    places = {**_corners(table), **_pockets(table)}
    if made_for(table) is None:
        places.update(_sights(table))
    return places


def _corners(table: Table) -> dict[str, Place3]:
    L, W, z = table.length, table.width, table.nose_height
    return {
        "corner:head-left": (0.0, W, z),
        "corner:head-right": (0.0, 0.0, z),
        "corner:foot-right": (L, 0.0, z),
        "corner:foot-left": (L, W, z),
    }


def _pockets(table: Table) -> dict[str, Place3]:
    """The hole is taken as round, as wide as the mouth, and beginning at the drop."""
    found = {}
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        x, y = pocket.drop[0] + half * pocket.axis[0], pocket.drop[1] + half * pocket.axis[1]
        found[f"pocket:{pocket.name}"] = (x, y, 0.0)
    return found


def _sights(table: Table) -> dict[str, Place3]:
    L, W, out, z = table.length, table.width, SIGHT_FROM_NOSE, SIGHT_HEIGHT
    found: dict[str, Place3] = {}
    for number in range(1, DIAMONDS_ALONG):
        if number != DIAMONDS_ALONG // 2:  # the side pocket takes the middle one's place
            x = number * L / DIAMONDS_ALONG
            found[f"sight:left-{number}"] = (x, W + out, z)
            found[f"sight:right-{number}"] = (x, -out, z)
    for number in range(1, DIAMONDS_ACROSS):
        y = number * W / DIAMONDS_ACROSS
        found[f"sight:head-{number}"] = (-out, y, z)
        found[f"sight:foot-{number}"] = (L + out, y, z)
    return found
