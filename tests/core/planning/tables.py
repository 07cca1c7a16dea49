"""Layouts and hands that the tests of planning share."""

from __future__ import annotations

import math

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import Hand
from aretane.core.table import PRESETS

TABLE = PRESETS["pool-9ft"]
# better than anybody: what it misses is missed by the table
SURE = Hand(math.radians(0.02), 0.01, 0.005, 0.005, math.radians(0.3), math.radians(1.0))
NO_ERROR = Hand(0.0, 0.0, 0.0, 0.0, plain=True)


NOTHING_SAID = State()


def nine_ball(state=NOTHING_SAID, **balls):
    """A layout by balls: cue=(x, y), b9=(x, y) ..."""
    places = {name.removeprefix("b"): place for name, place in balls.items() if name != "cue"}
    if "cue" in balls:
        places = {"cue": balls["cue"], **places}
    return Layout(TABLE, "nine-ball", places, state)


def outlook(layout, hand, opponent=None, effort=GLANCE):
    return outlook_for(game_of(layout), (hand, opponent or hand), effort, 0, 2)
