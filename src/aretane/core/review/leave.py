"""What a shot leaves: the easiest pot that is on afterwards, in a word.

The words are common practice; what they mean here: an easy pot may be aimed 1.5 degrees to either side and still
falls, a pot .5, a long one .15 (a club player's hand is about .16 degrees); with less nobody speaks of a pot.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache

from aretane.core.geometry.measured import measure_shot
from aretane.core.geometry.potting_window import potting_window
from aretane.core.layout import Layout
from aretane.core.table import Point, Table
from aretane.core.words import LEAVES

_LEAST = tuple(math.radians(degrees) for degrees in (0.15, 0.5, 1.5))  # of a long pot, a pot, an easy one


def leave_of(layout: Layout | None, legal: Iterable[str]) -> str | None:
    """In a word what is left to the player who may strike the `legal` balls; None where it is not known."""
    if layout is None or layout.cue is None:
        return None
    balls = tuple(ball for ball in legal if ball in layout.balls)
    if not balls:
        return None
    return _leave(layout.table, layout.discipline, tuple(layout.balls.items()), balls)


@lru_cache(maxsize=4096)
def _leave(table: Table, discipline: str, places: tuple[tuple[str, Point], ...], balls: tuple[str, ...]) -> str:
    layout = Layout(table, discipline, dict(places))
    widest = max(_window(layout, ball, pocket) for ball in balls for pocket in table.pockets)
    return LEAVES[sum(widest >= least for least in _LEAST)]


def _window(layout: Layout, ball: str, pocket: str) -> float:
    """The half-angle of the aim that pots this ball there; 0 if it is not on."""
    shot = measure_shot(layout, ball, pocket)
    if not shot.playable or shot.cut is None or shot.tolerance is None:
        return 0.0
    way = (abs(shot.cut.angle), shot.cut.cue_distance, shot.pocket_distance)
    return potting_window(layout.table, pocket, *way, shot.tolerance, shot.open)
