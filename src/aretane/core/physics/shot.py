"""One shot as a coach would tell it: what touched what and when, what fell, and where everything lies now."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.rules.traits import traits_of
from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.compiled import (
    CAPTURE, CONTACT, DROP_EDGE, FACING, JAW_TIP, LANDING, OFF, PHASE_END, R_CAPPED, R_CUE_RAILS, R_FIRST,
    R_RAILED, R_RAILS_AFTER, R_ROWS, RAIL, RESULTS, ROW, SPIT_OUT, STROKE, Floats,
)  # fmt: skip
from aretane.core.physics.cue import TIP_LIMIT
from aretane.core.parameters import physics_of
from aretane.core.physics.play import EVENT_CAP, OFF_THE_TABLE, ON_TABLE, play
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.physics.table_shape import table_shape
from aretane.core.table import POCKETS, Point

RAILS = ("right", "foot", "left", "head")
PHASES = ("rest", "slide", "roll", "air", "drop", "potted", "off")
_KINDS = {
    CONTACT: "contact",
    RAIL: "rail",
    JAW_TIP: "jaw",
    FACING: "jaw",
    DROP_EDGE: "edge",
    SPIT_OUT: "spit-out",
    CAPTURE: "pocket",
    LANDING: "landing",
    STROKE: "stroke",
}
_LOG_ROWS = 4000


@dataclass(frozen=True)
class Event:
    """`kind`: stroke, contact, rail, jaw, edge (the centre is past the slate's edge), spit-out, pocket,
    landing, roll (a ball has stopped sliding), stop, off-table. `balls`: the one or two that it happened to;
    `rail` or `pocket` where it did. `place` is the first ball's centre, `speeds` (m/s) the balls' speeds after
    it.
    """

    t: float
    kind: str
    balls: tuple[str, ...]
    place: Point
    speeds: tuple[float, ...]
    rail: str | None = None
    pocket: str | None = None


@dataclass(frozen=True)
class Leg:
    """A ball's motion from time `t` until its next leg: place + velocity s + acceleration s²/2, s seconds later.

    `place` and `velocity` have three components, `acceleration` two (upright: gravity in phase air or drop).
    """

    t: float
    phase: str
    place: tuple[float, float, float]
    velocity: tuple[float, float, float]
    acceleration: tuple[float, float]
    spin: tuple[float, float, float]


@dataclass(frozen=True)
class Shot:
    """What the stroke did. `legs` holds each moved ball's motion; `final` the layout after it."""

    stroke: Stroke
    potted: tuple[tuple[str, str, float], ...]
    off_table: tuple[str, ...]
    first_contact: str | None
    rails_after_contact: int
    object_balls_to_rail: int
    cue_rails: int
    duration: float
    events: tuple[Event, ...]
    legs: Mapping[str, tuple[Leg, ...]]
    final: Layout
    miscue: bool
    capped: bool

    @property
    def scratch(self) -> bool:
        return any(ball == CUE for ball, _, _ in self.potted)


def place_on(legs: Sequence[Leg], t: float) -> Point | None:
    """Where a ball is at a time after the stroke, by its legs; None once it is in a pocket or off the table."""
    leg = next((one for one in reversed(legs) if one.t <= t), legs[0])
    if leg.phase in ("potted", "off"):
        return None
    s = max(0.0, t - leg.t)
    return (
        leg.place[0] + (leg.velocity[0] + leg.acceleration[0] * s / 2) * s,
        leg.place[1] + (leg.velocity[1] + leg.acceleration[1] * s / 2) * s,
    )


def simulate(layout: Layout, stroke: Stroke) -> Shot:
    """Play an aimed stroke without any error of the hand. The layout has a cue ball."""
    start = start_of(layout)
    names, n = start.names, len(start.names)
    physics = physics_of(layout.table)
    rows = np.zeros((_LOG_ROWS, ROW))
    places, fates = np.zeros((1, n, 2)), np.zeros((1, n), dtype=np.int64)
    results, durations = np.zeros((1, RESULTS), dtype=np.int64), np.zeros(1)
    struck = np.array([[stroke.aim, stroke.speed, stroke.side, stroke.height, stroke.elevation]])
    parameters = (np.array(physics.numbers()), physics.end_mass_ratio)
    play(
        start.numbers, start.integers, *parameters, *table_shape(layout.table), struck,
        np.zeros(1, dtype=np.int64), start.numbers.copy(), start.integers.copy(), np.zeros((n, n)), rows, EVENT_CAP,
        places, fates, results, durations,
    )  # fmt: skip
    result = results[0]
    course = rows[: result[R_ROWS]]
    events = _events(course, names)
    return Shot(
        stroke=stroke,
        potted=tuple((e.balls[0], e.pocket, e.t) for e in events if e.kind == "pocket" and e.pocket),
        off_table=tuple(name for name, fate in zip(names, fates[0], strict=True) if fate == OFF_THE_TABLE),
        first_contact=names[result[R_FIRST]] if result[R_FIRST] > 0 else None,
        rails_after_contact=int(result[R_RAILS_AFTER]).bit_count(),
        object_balls_to_rail=(int(result[R_RAILED]) >> 1).bit_count(),
        cue_rails=int(result[R_CUE_RAILS]),
        duration=float(durations[0]),
        events=events,
        legs=_legs(course, names),
        final=_final(layout, names, places[0], [int(fate) for fate in fates[0]]),
        miscue=math.hypot(stroke.side, stroke.height) > TIP_LIMIT,
        capped=bool(result[R_CAPPED]) or len(course) == _LOG_ROWS,
    )


def _events(course: Floats, names: tuple[str, ...]) -> tuple[Event, ...]:
    """Rows of the course as events; a contact's two rows make one."""
    events: list[Event] = []
    before = dict.fromkeys(names, "rest")
    contact_open = False
    for row in course:
        kind, ball, feature, phase = int(row[1]), names[int(row[2])], int(row[3]), PHASES[int(row[4])]
        was, before[ball] = before[ball], phase
        if kind == CONTACT:
            contact_open = not contact_open
            if not contact_open:
                events[-1] = replace(events[-1], speeds=(*events[-1].speeds, _speed(row)))
                continue
        if kind == STROKE and ball != CUE:
            continue
        events.append(_event(row, kind, ball, feature, phase, was, names))
    return tuple(events)


def _event(row: Floats, kind: int, ball: str, feature: int, phase: str, was: str, names: tuple[str, ...]) -> Event:
    word = _KINDS.get(kind, "")
    if kind == PHASE_END:
        word = "stop" if phase == "rest" else "roll"
    if phase == PHASES[OFF] and was != phase:
        word = "off-table"
    pocket = None
    if kind in (DROP_EDGE, SPIT_OUT, CAPTURE):
        pocket = POCKETS[feature]
    elif kind in (JAW_TIP, FACING):
        pocket = POCKETS[feature // 2]
    balls = (ball, names[feature]) if kind == CONTACT else (ball,)
    rail = RAILS[feature] if kind == RAIL else None
    return Event(float(row[0]), word, balls, (float(row[5]), float(row[6])), (_speed(row),), rail, pocket)


def _speed(row: Floats) -> float:
    return math.sqrt(row[8] ** 2 + row[9] ** 2 + row[10] ** 2)


def _legs(course: Floats, names: tuple[str, ...]) -> dict[str, tuple[Leg, ...]]:
    """Each ball's motion; balls that never move have one leg."""
    legs: dict[str, list[Leg]] = {}
    for row in course:
        x, y, z, vx, vy, vz, wx, wy, wz, ax, ay = (float(value) for value in row[5:16])
        phase = PHASES[int(row[4])]
        if phase in (PHASES[OFF], "potted"):
            vx = vy = vz = ax = ay = 0.0
        leg = Leg(float(row[0]), phase, (x, y, z), (vx, vy, vz), (ax, ay), (wx, wy, wz))
        legs.setdefault(names[int(row[2])], []).append(leg)
    return {name: tuple(made) for name, made in legs.items()}


def _final(layout: Layout, names: tuple[str, ...], places: Floats, fates: list[int]) -> Layout:
    """The layout after the shot. The state forgets contacts that are no more, and a cue ball that is gone."""
    balls = {
        name: (float(places[row, 0]), float(places[row, 1]))
        for row, name in enumerate(names)
        if fates[row] == ON_TABLE
    }
    state = layout.state
    kept = tuple(pair for pair in state.touching if all(balls.get(ball) == layout.balls.get(ball) for ball in pair))
    in_hand = None if CUE in balls else traits_of(layout.discipline).hand
    return Layout(
        layout.table,
        layout.discipline,
        balls,
        replace(state, touching=kept, ball_in_hand=in_hand or state.ball_in_hand),
    )
