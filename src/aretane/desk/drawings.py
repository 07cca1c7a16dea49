"""A shot's table as a picture of its own."""

from __future__ import annotations

from aretane.core.errors import InputError, Refused
from aretane.core.geometry.measured import measure_shot
from aretane.core.review.replay import ReplayedShot
from aretane.desk.house import House
from aretane.draw.drawn import drawn
from aretane.draw.look import LOOK
from aretane.draw.shapes import pot, zones
from aretane.draw.svg import drawing
from aretane.store.scope import Scope


def shot_drawing(house: House, scope: Scope, game_id: str, shot_id: str, colours: str) -> str:
    """The table before a shot as an SVG, with zones, pot and what was drawn on it, in the colours of that name."""
    if colours not in LOOK.colours:
        raise InputError("colours", f"must be one of {', '.join(LOOK.colours)}")
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
    return _drawn(known.shot(shot_id), colours)


def _drawn(entry: ReplayedShot, colours: str) -> str:
    before, called = entry.before, entry.data.get("called") or {}
    if before is None:
        raise Refused("nobody has said where the balls lay before this shot")
    over = [
        shape for target in (entry.data.get("targets") or {}).values() for shape in zones(target.get("zones") or ())
    ]
    ball, pocket = str(called.get("ball")), str(called.get("pocket"))
    title = f"The table before the shot: {', '.join(before.balls)}"
    if ball in before.object_balls and pocket in before.table.pockets:
        over += pot(before, measure_shot(before, ball, pocket))
        title += f"; {ball} into {pocket}"
    over += drawn(entry.data.get("drawings") or ())
    return drawing(before, over, title=title, colours=colours)
