"""Balls that moved or fell, and of whose way nothing or not the end was seen: one that hangs at a pocket drops
between two pictures, one runs out of the picture or behind somebody into its pocket.

The layouts say that they left, and the ways of the others which of them came by.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence

from aretane.core.geometry.plane import bearing, turn
from aretane.core.table import Point, Table
from aretane.vision.paths.events import at_rail
from aretane.vision.paths.told import Event, Mark

REACHED = 0.025  # m beyond touching: so near a way came by that met the ball
AT_POCKET = 0.3  # m: a ball that stood so near to a pocket fell into it
DROPS = 0.1  # seconds from the contact until it has fallen
AHEAD = 0.6  # seconds of a way by which it is told where a ball ran to
MOVED = 0.02  # m: over less its direction is not known
TOWARD = math.radians(15.0)  # a pocket so little aside of a ball's way is the one it ran to
LONGEST = 2.0  # seconds from where it was last seen
BOUNCES = 0.25  # seconds: a turn so near to the contact is the contact's own


def with_unfollowed(
    events: Sequence[Event], paths: Mapping[str, Sequence[Mark]], left: Mapping[str, Point], fell: Collection[str],
    table: Table,
) -> list[Event]:  # fmt: skip
    """The events with those of balls that `left` their places unseen: what met them and, of those that `fell`, the
    pocket at which they stood.
    """
    found = list(events)
    for ball, place in left.items():
        met = _passing(paths, place, table)
        if met is None:
            continue
        by, mark = met
        found = [
            one for one in found
            if not (_its_own(one, by, mark, place, table) or (one.kind == "contact" and ball in one.balls))
        ]  # fmt: skip
        found.append(Event(mark.t, "contact", (by, ball), mark.place))
        pocket = min(table.pockets.values(), key=lambda one: math.dist(one.mouth, place))
        if ball in fell and math.dist(pocket.mouth, place) < AT_POCKET:
            found.append(Event(mark.t + DROPS, "pocket", (ball,), pocket.drop, pocket.name))
    return sorted(found, key=lambda event: event.t)


def with_lost(
    events: Sequence[Event], paths: Mapping[str, Sequence[Mark]], lost: Collection[str], table: Table
) -> list[Event]:
    """The events with the falls of balls that fell and were lost on their way: into the pocket that they ran to."""
    found = list(events)
    for ball in lost:
        marks = [mark for mark in paths[ball] if mark.t >= paths[ball][-1].t - AHEAD]
        first, last = marks[0], marks[-1]
        run, took = math.dist(first.place, last.place), last.t - first.t
        if run < MOVED or took <= 0:
            continue
        way = bearing(first.place, last.place)
        off = {name: abs(turn(way, bearing(last.place, one.drop))) for name, one in table.pockets.items()}
        pocket = table.pockets[min(off, key=off.__getitem__)]
        if off[pocket.name] < TOWARD:
            late = math.dist(pocket.drop, last.place) / (run / took)
            found.append(Event(last.t + min(late, LONGEST), "pocket", (ball,), pocket.drop, pocket.name))
    return sorted(found, key=lambda event: event.t)


def _passing(paths: Mapping[str, Sequence[Mark]], place: Point, table: Table) -> tuple[str, Mark] | None:
    """The ball whose way came by first, and its mark there; None where none came near enough."""
    near = table.ball_diameter + REACHED
    marks = [
        (next((mark for mark in marks if math.dist(mark.place, place) < near), None), ball)
        for ball, marks in paths.items()
    ]
    found = [(mark.t, ball, mark) for mark, ball in marks if mark is not None]
    if not found:
        return None
    _, ball, mark = min(found, key=lambda one: one[0])
    return ball, mark


def _its_own(event: Event, by: str, mark: Mark, place: Point, table: Table) -> bool:
    """Whether an event is the turn that the contact itself gave: a rail that the ball was never at."""
    if event.kind != "rail" or event.balls[0] != by or abs(event.t - mark.t) > BOUNCES:
        return False
    return math.dist(event.at, place) < table.ball_diameter + REACHED and not at_rail(event, table)
