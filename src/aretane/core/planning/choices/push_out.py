"""The push-out after a legal break: roll the cue ball where neither player likes the table too well.

The opponent takes the better for himself: he plays on, or hands the shot back. So a place is worth the smaller of
what it is worth to me and what is left of its worth to him.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.geometry.plane import bearing, distance_to_segment
from aretane.core.layout import Layout
from aretane.core.parameters import physics_of
from aretane.core.physics.compiled import Floats
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.value import Value, mean_rate
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.pots.strokes import Effort
from aretane.core.statistics.rates import rate_of, wilson

MOST = 2
APART = 0.4
GRAVITY = 9.81

Path = tuple[tuple[float, float], ...]


def push_outs(outlook: Outlook, effort: Effort, seed: int) -> list[tuple[Stroke, Value, Path]]:
    """The best places to push to, each with its stroke and value; none where a push-out is not allowed."""
    game, layout = outlook.game, outlook.game.layout
    if game.alone or "push-out" not in game.state.choices or layout.cue is None:
        return []
    worth = place_worth(outlook)
    turn = outlook.turn(game.state)
    places = turn.grid.places
    found: list[tuple[Stroke, Value, Path]] = []
    for at in np.argsort(-worth.ravel()):
        place = float(places[at, 0]), float(places[at, 1])
        if any(math.dist(place, path[-1]) < APART for _, _, path in found) or not _free(layout, place):
            continue
        stroke = Stroke(speed=speed_to(layout, math.dist(layout.cue, place)), aim=bearing(layout.cue, place))
        value = value_of_push(outlook, stroke, effort.samples, seed, worth)
        found.append((stroke, value, (layout.cue, place)))
        if len(found) == MOST:
            break
    return found


def value_of_push(outlook: Outlook, stroke: Stroke, samples: int, seed: int, worth: Floats | None = None) -> Value:
    """What a push-out with this stroke is worth; `worth`: that of each place, if it is known already."""
    game, layout = outlook.game, outlook.game.layout
    worth = place_worth(outlook) if worth is None else worth
    tried = tries_of(layout, stroke, outlook.hands[0], samples, seed)
    played = play_all(layout, start_of(layout), tried.strokes, lucks=tried.lucks)
    gone = played.fates[:, 0] >= 0
    given = outlook.scale.flip(outlook.turn(game.passed(game.state)).standing.in_hand)
    values = np.where(gone, given, outlook.grid.at(worth, played.places[:, 0]))
    return Value(
        wilson(0, samples), wilson(0, 0), wilson(int(gone.sum()), samples),
        mean_rate(values, outlook.scale.points), rate_of(0.0, samples), None, float(values.mean()), 0.0, None,
        played.places[~gone, 0], values,
    )  # fmt: skip


def place_worth(outlook: Outlook) -> Floats:
    """What each place of the cue ball is worth to the player who pushes there (columns x rows)."""
    game = outlook.game
    mine = outlook.turn(game.state).worth
    theirs = outlook.turn(game.passed(game.state)).worth
    return np.asarray(np.minimum(mine, outlook.scale.flip(theirs)))


def answer_to_push(outlook: Outlook) -> tuple[float, float] | None:
    """To the player who answers a push-out: what it is worth to play on, and to hand the shot back."""
    game = outlook.game
    if game.layout.cue is None:
        return None
    here = np.array(game.layout.cue)
    play = float(outlook.turn(game.state).at(here))
    back = float(outlook.scale.flip(outlook.turn(game.passed(game.state)).at(here)))
    return play, back


def speed_to(layout: Layout, distance: float) -> float:
    """Speed of a centre hit that stops after `distance` without a rail: slide, then roll.

    Slides 12 v²/(49 µ g), keeps 5/7 of its speed and rolls (5/7 v)²/(2 µr g) (Coriolis).
    """
    physics = physics_of(layout.table)
    each = 12 / (49 * physics.slide_friction * GRAVITY) + (25 / 49) / (2 * physics.roll_friction * GRAVITY)
    return max(0.15, math.sqrt(distance / each))


def _free(layout: Layout, place: tuple[float, float]) -> bool:
    assert layout.cue is not None
    reach = 1.1 * (layout.table.radius + layout.table.cue_radius)
    return all(distance_to_segment(ball, layout.cue, place) > reach for ball in layout.object_balls.values())
