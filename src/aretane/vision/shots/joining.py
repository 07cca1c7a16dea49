"""Two found shots that are one: the picture stood still while balls ran, where somebody stopped a film to talk."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from aretane.vision.paths.told import Event, Mark
from aretane.vision.shots.watch import SCATTERED, Shot

STOPS, MOVES, STEP = 0.18, 0.003, 0.15  # m/s that no ball loses at once; m that is a move; s between two marks
STEPS = 3  # last moves over which its speed is told
MET = 0.2  # seconds about a contact, in which a ball may stop dead
AT_ONCE, MANY = 4.0, 3  # seconds in which nobody strikes again after a break; and balls that leave at once
CREEPS, STRAIGHT, AHEAD = (
    0.2,
    0.04,
    0.94,
)  # m that a ball creeps on; m over which its last way is told; within 20 degrees
NOWHERE = (math.inf, math.inf)
THERE = 0.03  # m: a way goes on where it stopped


def goes_on(one: Shot, other: Shot) -> bool:
    """Whether the second only shows how the first went on."""
    if one.kind != "shot" or other.kind != "shot" or not set(other.left) & set(one.arrived):
        return False
    if len(one.left) > SCATTERED and len(other.left) > MANY and other.contact - one.still < AT_ONCE:
        return True
    stopped = any(
        _stopped_short(str(track), marks, one.events) and _runs_on(marks, other)
        for track, marks in one.paths.items()
    )
    return stopped or _crept_on(one, other)


def one_of(one: Shot, other: Shot) -> Shot:
    """Both as one shot, its ways and events one after the other."""
    origin = _origins(one, other)
    paths = dict(one.paths)
    for track, marks in other.paths.items():
        start = origin.get(track, track)
        paths[start] = (*paths.get(start, ()), *marks)
    later = [
        replace(event, balls=tuple(str(origin.get(int(ball), int(ball))) for ball in event.balls))
        for event in other.events
        if event.kind != "strike"
    ]
    ran_on = {ball for event in later for ball in event.balls}
    first = [event for event in one.events if event.kind != "rest" or event.balls[0] not in ran_on]
    return replace(
        one,
        still=other.still,
        after=other.after,
        moved=max(one.moved, other.moved),
        gone=max(0, len(one.before) - len(other.after)),
        left=tuple(dict.fromkeys((*one.left, *(track for track in other.left if track not in one.arrived)))),
        arrived=tuple(
            dict.fromkeys((*(track for track in one.arrived if track not in other.left), *other.arrived))
        ),
        paths=paths,
        events=(*first, *later),
    )


def _stopped_short(ball: str, marks: Sequence[Mark], events: Sequence[Event]) -> bool:
    """Whether a ball that ran stood from one picture to the next, and had met none."""
    if not any(one.kind == "rest" and one.balls[0] == ball for one in events):
        return False
    steps = _steps(marks)
    if len(steps) < STEPS:
        return False
    a, b = steps[-STEPS][0], steps[-1][1]
    met = any(one.kind == "contact" and ball in one.balls and abs(one.t - b.t) < MET for one in events)
    return math.dist(a.place, b.place) / (b.t - a.t) > STOPS and not met


def _steps(marks: Sequence[Mark]) -> list[tuple[Mark, Mark]]:
    """Where a ball moved from one picture to the next."""
    return [(a, b) for a, b in pairwise(marks) if math.dist(a.place, b.place) > MOVES and b.t - a.t < STEP]


def _runs_on(marks: Sequence[Mark], other: Shot) -> bool:
    """Whether a ball that stopped is moved again in the second shot, and straight on as far as its way is known: a
    stroke sends it elsewhere."""
    stood = {placed.track: placed.place for placed in other.before}
    again = [track for track in other.left if math.dist(stood.get(track, NOWHERE), marks[-1].place) < THERE]
    last = _steps(marks)[-STEPS:]
    for track in again:
        first = _steps(other.paths.get(track, ()))[:STEPS]
        if not first or _ahead((last[0][0], last[-1][1]), (first[0][0], first[-1][1])):
            return True
    return False


def _ahead(one: tuple[Mark, Mark], other: tuple[Mark, Mark]) -> bool:
    """Whether the second leads on where the first does."""
    ways = [np.subtract(end.place, start.place) for start, end in (one, other)]
    return bool(np.dot(*ways) > AHEAD * np.linalg.norm(ways[0]) * np.linalg.norm(ways[1]))


def _crept_on(one: Shot, other: Shot) -> bool:
    """Whether the second is no more than the last bit of a slow ball's way: that ball alone, a little straight on.
    A picture that stands as it nearly stops shows it at rest; no stroke is so soft.
    """
    if len(other.left) != 1 or len(other.arrived) != 1:
        return False
    begins = {placed.track: placed.place for placed in (*other.before, *other.after)}
    (left,), (arrived,) = other.left, other.arrived
    if left not in begins or arrived not in begins:
        return False
    further = np.subtract(begins[arrived], begins[left])
    ways = [marks for track, marks in one.paths.items() if math.dist(marks[-1].place, begins[left]) < THERE]
    ran = [mark.place for mark in ways[0] if math.dist(mark.place, ways[0][-1].place) > STRAIGHT] if ways else []
    if not ran or not 0.0 < math.hypot(*further) < CREEPS:
        return False
    last = np.subtract(begins[left], ran[-1])
    off = math.atan2(*further[::-1]) - math.atan2(*last[::-1])
    return math.cos(off) > AHEAD


def _origins(one: Shot, other: Shot) -> dict[int, int]:
    """For the tracks that began the second shot the ones that they had in the first, where its ways tell it."""
    stood = {placed.track: placed.place for placed in other.before}
    found = {}
    for track in other.left:
        if track not in stood or not one.paths:
            continue
        near = min(one.paths, key=lambda path: math.dist(one.paths[path][-1].place, stood[track]))
        if math.dist(one.paths[near][-1].place, stood[track]) < THERE:
            found[track] = near
    return found
