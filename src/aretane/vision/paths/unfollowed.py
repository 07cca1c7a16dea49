"""Balls that moved or fell, and of whose way nothing was seen: one that hangs at a pocket drops between two
pictures.

The layouts say that they left, and the ways of the others which of them came by.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence

from aretane.core.table import Point, Table
from aretane.vision.paths.told import Event, Mark

REACHED = 0.025  # m beyond touching: so near a way came by that met the ball
AT_RAIL = 0.02  # m beyond touching: a rail so near was met
AT_POCKET = 0.3  # m: a ball that stood so near to a pocket fell into it
DROPS = 0.1  # seconds from the contact until it has fallen
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
    return math.dist(event.at, place) < table.ball_diameter + REACHED and not _at_rail(event, table)


def _at_rail(event: Event, table: Table) -> bool:
    x, y = event.at
    away = {"head": x, "foot": table.length - x, "right": y, "left": table.width - y}[event.what or "head"]
    return away < table.radius + AT_RAIL
