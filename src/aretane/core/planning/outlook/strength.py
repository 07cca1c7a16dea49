"""The promise of a table whatever the cue ball's place: how freely its balls go."""

from __future__ import annotations

import math

from aretane.core.layout import Layout
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.pots.pots import Window, all_windows
from aretane.core.rules.game import RackState
from aretane.core.rules.traits import traits_of

FREE = 0.35  # a ball with this much freedom goes as usual
REACH = 1.6  # m: how fast a pocket's worth falls with its distance


def freedom(layout: Layout, ball: str) -> float:
    """0 to 1: how well a ball goes, over all pockets: open and near counts most."""
    return freedoms(layout)[ball]


def freedoms(layout: Layout) -> dict[str, float]:
    """The same for every object ball."""
    return {ball: _freedom(layout, ball, windows) for ball, windows in all_windows(layout).items()}


def _freedom(layout: Layout, ball: str, windows: list[Window]) -> float:
    place = layout.balls[ball]
    closed = 1.0
    for window in windows:
        away = math.dist(place, layout.table.pockets[window.pocket].mouth)
        closed *= 1.0 - 0.8 * window.open * math.exp(-away / REACH)
    return 1.0 - closed


def promise(layout: Layout, state: RackState, usual: float, outlook: Outlook) -> float:
    """The chance to run out (in points: the run) from a usual place: every ball by its freedom.

    Used only for what a shot changes: the difference between the table after and before it.
    """
    chance, total = 1.0, 0.0
    balls = [ball for ball in outlook.game.on(state) if ball in layout.balls]
    if traits_of(outlook.game.layout.discipline).rotation:
        balls = [ball for ball in state.balls if ball in layout.balls]
    free = freedoms(layout)
    ways = sorted((min(1.0, free[ball] / FREE) for ball in balls), reverse=True)
    for way in ways:
        chance *= usual * (0.1 + 0.9 * way)
        total += chance
    return total if outlook.scale.points else chance
