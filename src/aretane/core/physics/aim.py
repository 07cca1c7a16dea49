"""The aim that pots this ball in this pocket at this speed and tip: squirt, swerve and throw compensated.

Ghost-ball aim is wrong by squirt and throw as soon as the tip is off centre or the speed is low, so the aim is
searched on the simulator itself: the two balls alone on a bed without rails, where the object ball's resting
place gives the direction in which it left. Then the whole table is played, and the answer stands only if the
ball falls.
"""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.geometry.plane import ahead, bearing, turn
from aretane.core.geometry.pocket_window import Interval, jaw_window, pocket_window
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, X, Y, Floats
from aretane.core.parameters import physics_as_data, physics_of
from aretane.core.physics.sampling import play_all
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.table import POCKETS, Point

_VAST = 4000.0  # m: no ball ever rolls this far
_FAN = 65  # aims tried at once
_ROUNDS = 6  # each narrows the interval by the fan
_MARGIN = 0.15  # rad: more than squirt and swerve take
_PROBES = 41  # places across the window, if its middle does not pot


def aimed(layout: Layout, stroke: Stroke) -> Stroke:
    """The stroke with the aim found for its `at` and `pocket`. Raises `InputError` naming the one that has none."""
    if stroke.at is None or stroke.pocket is None:
        return stroke
    window = _window(layout, stroke.at, stroke.pocket)
    chosen = _chosen(layout, stroke, window)
    aim = _aim_towards(layout, stroke, chosen)
    if aim is not None and _pots(layout, stroke, np.array([aim]))[0]:
        return stroke.aimed(aim)
    return stroke.aimed(_somewhere(layout, stroke, window))


def _pair(layout: Layout, stroke: Stroke) -> tuple[Point, Point]:
    """Where cue ball and object ball are; `check_stroke` has seen to it that both are there."""
    return layout.balls[CUE], layout.balls[str(stroke.at)]


def _window(layout: Layout, ball: str, pocket: str) -> Interval:
    """What jaws and balls leave of the directions into the pocket."""
    table = layout.table
    others = {name: place for name, place in layout.object_balls.items() if name != ball}
    reach = dict.fromkeys(others, 2 * table.radius)
    place = layout.balls[ball]
    if jaw_window(place, table.pockets[pocket], table.radius) is None:
        raise InputError("pocket", f"the jaws of {pocket} cannot be passed by ball {ball} from where it is")
    widest = pocket_window(place, table.pockets[pocket], others, table.radius, reach).widest
    if widest is None:
        raise InputError("pocket", f"other balls close {pocket} for ball {ball}")
    return widest


def _chosen(layout: Layout, stroke: Stroke, window: Interval) -> float:
    """The direction in the window that the stroke asks for: its middle, or the fuller or thinner quarter of it."""
    low, high = window
    middle = (low + high) / 2
    if stroke.part == "centre" or layout.cue is None or stroke.at is None:
        return middle
    straight = bearing(layout.cue, layout.balls[stroke.at])
    fuller_is_high = turn(middle, straight) > 0
    shift = (high - low) / 4
    return middle + (shift if fuller_is_high == (stroke.part == "thick") else -shift)


def _aim_towards(layout: Layout, stroke: Stroke, direction: float) -> float | None:
    """The aim that sends the object ball in `direction`, or None."""
    cue, ball = _pair(layout, stroke)
    apart = math.dist(cue, ball)
    reach = layout.table.radius + layout.table.cue_radius
    half = math.asin(min(1.0, reach / apart)) + _MARGIN
    straight = bearing(cue, ball)
    low, high = straight - half, straight + half
    for _ in range(_ROUNDS):
        fan = np.linspace(low, high, _FAN)
        off = _left_direction(layout, stroke, fan, direction)
        # The direction falls as the aim grows: thin on the right, full, thin on the left.
        changes = np.flatnonzero((off[:-1] >= 0) & (off[1:] <= 0) & (off[:-1] - off[1:] < math.pi / 2))
        if len(changes) == 0:
            return None
        nearest = changes[np.argmin(np.abs(off[changes]))]
        low, high = float(fan[nearest]), float(fan[nearest + 1])
    return (low + high) / 2


def _left_direction(layout: Layout, stroke: Stroke, aims: Floats, direction: float) -> Floats:
    """By how much each aim sends the object ball left of `direction`; NaN where it is missed."""
    (cx, cy), (bx, by) = _pair(layout, stroke)
    vast = replace(layout.table, name="vast", length=_VAST, width=_VAST, physics=_physics(layout))
    here = _VAST / 3, _VAST / 3
    there = here[0] + bx - cx, here[1] + by - cy
    state = replace(layout.state, touching=())
    pair = Layout(vast, layout.discipline, {CUE: here, str(stroke.at): there}, state)
    start = start_of(pair)
    played = play_all(pair, start, _fan_of(stroke, aims))
    gone = played.places[:, 1] - start.numbers[1, [X, Y]]
    moved = np.hypot(gone[:, 0], gone[:, 1])
    angles = np.arctan2(gone[:, 1], gone[:, 0]) - direction
    wrapped = (angles + math.pi) % (2 * math.pi) - math.pi
    return np.where(moved > 1e-6, wrapped, np.nan)


def _physics(layout: Layout) -> tuple[tuple[str, float], ...]:
    """The whole set of the table, so that a changed copy of the table keeps it."""
    return tuple(sorted(physics_as_data(physics_of(layout.table)).items()))


def _fan_of(stroke: Stroke, aims: Floats) -> Floats:
    rows = np.empty((len(aims), 5))
    rows[:] = (0.0, stroke.speed, stroke.side, stroke.height, stroke.elevation)
    rows[:, 0] = aims
    return rows


def _pots(layout: Layout, stroke: Stroke, aims: Floats) -> Floats:
    """Whether each aim strikes the ball first and pots it where it was meant."""
    played = play_all(layout, start_of(layout), _fan_of(stroke, aims))
    row = played.names.index(str(stroke.at))
    return np.asarray(
        (played.results[:, R_FIRST] == row) & (played.fates[:, row] == POCKETS.index(str(stroke.pocket)))
    )


def _somewhere(layout: Layout, stroke: Stroke, window: Interval) -> float:
    """The middle of the longest run of aims across the window that pot, when the asked-for one does not."""
    edges = [_aim_towards(layout, stroke, edge) for edge in window]
    known = [edge for edge in edges if edge is not None]
    if len(known) < 2:
        known += [aim for aim in [_aim_towards(layout, stroke, sum(window) / 2)] if aim is not None]
    if not known:
        raise InputError("at", _out_of_reach(layout, stroke, sum(window) / 2))
    wide = 0.3 * abs(known[0] - known[-1]) + 1e-4
    aims = np.linspace(min(known) - wide, max(known) + wide, _PROBES)
    potting = _pots(layout, stroke, aims)
    if not potting.any():
        raise InputError("at", _why_not(layout, stroke, aims))
    runs = np.split(np.arange(_PROBES), np.flatnonzero(np.diff(potting.astype(int))) + 1)
    longest = max((run for run in runs if potting[run[0]]), key=len)
    return float(aims[longest[len(longest) // 2]])


def _out_of_reach(layout: Layout, stroke: Stroke, direction: float) -> str:
    cue, ball = _pair(layout, stroke)
    ghost = ahead(ball, direction + math.pi, layout.table.radius + layout.table.cue_radius)
    if abs(turn(bearing(cue, ghost), direction)) >= math.pi / 2:
        return f"ball {stroke.at} cannot be cut towards {stroke.pocket} from here"
    return f"no aim sends ball {stroke.at} towards {stroke.pocket} at {stroke.speed:g} m/s with this tip"


def _why_not(layout: Layout, stroke: Stroke, aims: Floats) -> str:
    """What happens to the ball instead, in a sentence."""
    played = play_all(layout, start_of(layout), _fan_of(stroke, aims[[_PROBES // 2]]))
    first = int(played.results[0, R_FIRST])
    if first < 0:
        return f"no aim: the cue ball does not reach ball {stroke.at} at {stroke.speed:g} m/s"
    if played.names[first] != stroke.at:
        return f"no aim: ball {played.names[first]} is in the cue ball's way to ball {stroke.at}"
    return f"no aim: ball {stroke.at} does not fall in {stroke.pocket} with this speed and tip"
