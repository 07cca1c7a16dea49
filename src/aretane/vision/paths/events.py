"""What happened on the way, told by the paths: the stroke, balls that met, rails, pockets, rest.

A ball does not turn by itself, but for a slow bend while it slides: where its velocity changes at once, it met a
rail or a ball. The times between two pictures are told by prolonging the ways before and after.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.table import Point, Table
from aretane.vision.paths.runner import Runner
from aretane.vision.paths.told import Event, Mark

TURNED = math.radians(9.0)  # a smaller change of direction is how well places are known, or a bend
SLOW = 0.08  # m/s: below, a ball is taken to stand
TOUCHED = 0.03  # m: so near another ball came to the place of one that was not seen again
TOLD = 0.25  # m/s: below, directions are not told well enough to say that balls met
STEPS = 2  # pictures over which a velocity is told
NEAR_RAIL = 0.035  # m beyond touching: so near to a rail a ball that turns back from it has met it
BACK = 0.07  # m/s that a ball must come to the rail, and from it again
ALONG, GRAZES = 0.16, 0.025  # seconds, and m/s over them, by which one is told that runs along a rail
TOUCHES, AT_REST, CAME = 0.006, 0.003, 0.03  # m from a rail: touched, at rest there, and come from elsewhere
MEETS = 0.035  # m beyond touching: balls this near may have met
AT_RAIL = 0.02  # m beyond touching: a rail so near was met
JAWS = 0.045  # m from a pocket's mouth
PAUSE = 0.06  # seconds between two meetings of one ball with one rail
TOGETHER = 0.02  # seconds: balls that begin to run so near to each other did not send one another
HIDDEN = 0.1  # seconds after the ball that it hit, at most, in which the cue ball is first seen to run


def events_of(runners: Sequence[Runner], table: Table, cue: str = CUE) -> list[Event]:
    """Everything that the paths tell, in the order of time."""
    paths = {one.ball: moving(one.marks) for one in runners if one.ran}
    stood = {one.ball: one.marks[0].place for one in runners}
    found = _starts(paths, cue, table)
    ends = {one.ball: ended for one in runners if one.ran and (ended := _end(one, table)) is not None}
    for ball, path in paths.items():
        rests = ball in ends and ends[ball].kind == "rest"
        found += _rails(ball, path, table, rests=rests)
    found += ends.values()
    found += _meetings(paths, stood, found, table)
    contacts = [one for one in found if one.kind == "contact"]
    found = [one for one in found if not _turned_by_ball(one, contacts, table)]
    return sorted(found, key=lambda event: event.t)


def at_rail(event: Event, table: Table) -> bool:
    """Whether a ball was near enough to the rail that it is said to have met."""
    x, y = event.at
    away = {"head": x, "foot": table.length - x, "right": y, "left": table.width - y}[event.what or "head"]
    return away < table.radius + AT_RAIL


def _turned_by_ball(event: Event, contacts: Sequence[Event], table: Table) -> bool:
    """Whether a rail was never reached: the ball turned back before it from one that it met."""
    if event.kind != "rail" or at_rail(event, table):
        return False
    return any(event.balls[0] in one.balls and abs(one.t - event.t) < PAUSE for one in contacts)


def _end(one: Runner, table: Table) -> Event | None:
    """How its way ended: in a pocket, at rest, or nobody saw."""
    if one.pocket is not None:
        return Event(_fallen(one, table), "pocket", (one.ball,), table.pockets[one.pocket].drop, one.pocket)
    if one.lost or len(one.marks) < 2:
        return None
    return Event(moving(one.marks)[-1].t, "rest", (one.ball,), one.marks[-1].place)


def moving(marks: Sequence[Mark]) -> list[Mark]:
    """From the last mark at which it stood until it rests."""
    first = next((n for n in range(len(marks) - 1) if math.dist(marks[n + 1].place, marks[0].place) > 0.003), 0)
    last = next(
        (n for n in range(len(marks) - 1, 0, -1) if math.dist(marks[n - 1].place, marks[-1].place) > 0.003),
        len(marks) - 1,
    )
    return list(marks[first : last + 1])


def _velocity(a: Mark, b: Mark) -> NDArray[np.float64]:
    return (np.array(b.place) - a.place) / max(1e-6, b.t - a.t)


def _starts(paths: Mapping[str, Sequence[Mark]], cue: str, table: Table) -> list[Event]:
    """The stroke, and the contacts that sent resting balls off."""
    found = []
    for ball, path in paths.items():
        if not path or (len(path) < 2 and ball == cue):
            continue
        t = _began(path) if len(path) > 1 else path[0].t  # it left, and was not seen again
        if ball == cue:
            found.append(Event(t, "strike", (cue,), path[0].place))
            continue
        hit_by = min(
            (
                other
                for other, way in paths.items()
                if other != ball and _at(way, t) is not None and (other == cue or way[0].t < t - TOGETHER)
            ),
            key=lambda other: abs(_gap(paths[other], path[0].place, t, table)),
            default=cue if len(way := paths.get(cue, ())) < 2 or 0.0 < way[0].t - t < HIDDEN else None,
        )
        surely = len(path) > 1 or (hit_by and _gap(paths.get(hit_by, ()), path[0].place, t, table) < TOUCHED)
        if hit_by is not None and surely:
            found.append(Event(t, "contact", (hit_by, ball), _at(paths.get(hit_by, ()), t) or path[0].place))
    return found


def _began(path: Sequence[Mark]) -> float:
    """When it left its place: the way that it has come, told back at the speed that it had then."""
    a, b = path[0], path[1]
    if len(path) < 3:
        return (a.t + b.t) / 2
    speed = float(np.hypot(*_velocity(b, path[2])))
    back = math.dist(a.place, b.place) / max(speed, SLOW)
    return float(np.clip(b.t - back, a.t, b.t))


def _gap(path: Sequence[Mark], place: Point, t: float, table: Table) -> float:
    """How far from touching a ball was that stood at a place, about that time."""
    span = [_at(path, t + late) for late in (-0.04, -0.02, 0.0, 0.02)]
    return min((abs(math.dist(at, place) - table.ball_diameter) for at in span if at is not None), default=math.inf)


def _at(path: Sequence[Mark], t: float) -> Point | None:
    """Where a ball was at a time; None before and after its path."""
    if not path or not path[0].t - 0.02 <= t <= path[-1].t + 0.1:
        return None
    times = [mark.t for mark in path]
    x, y = (float(np.interp(t, times, [mark.place[axis] for mark in path])) for axis in (0, 1))
    return x, y


def _rails(ball: str, path: Sequence[Mark], table: Table, *, rests: bool) -> list[Event]:
    """Where a ball came near to a rail and went away from it again, or rests at it."""
    r = table.radius
    far, wide = table.length - r, table.width - r
    walls = (("right", 1, r, 1.0), ("foot", 0, far, -1.0), ("left", 1, wide, -1.0), ("head", 0, r, 1.0))
    found: list[Event] = []
    for rail, axis, line, inward in walls:
        wait = -math.inf
        away = [(mark.place[axis] - line) * inward for mark in path]
        for n in range(1, len(path) - 1):
            if path[n].t > wait and (_turns_back(path, away, n) or _grazes(path, away, n)):
                t = _turned_at(path[n - 1], path[n], path[n + 1], axis, line)
                at = list(_at(path, t) or path[n].place)
                reached = _reached(path, n, axis)
                if reached is not None and (reached - at[axis]) * inward < 0.0:
                    at[axis] = line if (reached - line) * inward < 0.0 else reached
                found.append(Event(t, "rail", (ball,), (at[0], at[1]), rail))
                wait = path[n].t + PAUSE
        there = _comes_to_rest_at(away)
        if rests and there is not None and path[there].t > wait:
            found.append(Event(path[there].t, "rail", (ball,), path[there].place, rail))
    return [one for one in found if not _in_jaws(one.at, table)]


def _in_jaws(place: Point, table: Table) -> bool:
    """Whether a ball turns between the jaws of a pocket, which are no rail."""
    return any(math.dist(pocket.mouth, place) < JAWS for pocket in table.pockets.values())


def _turns_back(path: Sequence[Mark], away: Sequence[float], n: int) -> bool:
    """Whether a ball that comes to a rail goes away from it again; `away`: how far its marks are from touching."""
    before, after = _slope(path, away, max(0, n - STEPS), n), _slope(path, away, n, min(len(path) - 1, n + STEPS))
    run = max(abs(away[n] - away[n - 1]), abs(after) * (path[n + 1].t - path[n].t))
    return before < -BACK and after > BACK and away[n] < NEAR_RAIL + 0.5 * run


def _reached(path: Sequence[Mark], n: int, axis: int) -> float | None:
    """How far a ball went before it turned between two pictures: where its ways before and after meet."""
    if n < 2 or n + 2 >= len(path):
        return None
    (t, x), (u, y) = ((mark.t, mark.place[axis]) for mark in (path[n - 1], path[n + 1]))
    v, w = (float(_velocity(*two)[axis]) for two in ((path[n - 2], path[n - 1]), (path[n + 1], path[n + 2])))
    at = (y - x + v * t - w * u) / (v - w) if abs(v - w) > BACK else math.inf
    return x + v * (at - t) if t <= at <= u else None


def _grazes(path: Sequence[Mark], away: Sequence[float], n: int) -> bool:
    """The same over longer, for one that runs along the rail: there it touches, as near as places are known."""
    if away[n] > TOUCHES:
        return False
    first = next((k for k in range(n, -1, -1) if path[n].t - path[k].t >= ALONG), None)
    last = next((k for k in range(n, len(path)) if path[k].t - path[n].t >= ALONG), None)
    if first is None or last is None or away[n] > min(away[first : last + 1]):
        return False
    return _slope(path, away, first, n) < -GRAZES and _slope(path, away, n, last) > GRAZES


def _comes_to_rest_at(away: Sequence[float]) -> int | None:
    """The first mark of a ball that came to a rail and stays at it."""
    there = next((n for n in range(len(away) - 1, -1, -1) if away[n] > TOUCHES), None)
    if there is None or there + 1 >= len(away) or abs(away[-1]) > AT_REST or max(away) < CAME:
        return None
    return there + 1


def _slope(path: Sequence[Mark], away: Sequence[float], first: int, last: int) -> float:
    return (away[last] - away[first]) / max(1e-6, path[last].t - path[first].t)


def _turned_at(a: Mark, b: Mark, c: Mark, axis: int, line: float) -> float:
    """The time at the rail: between the pictures, if the ways before and after say so."""
    before, after = (a.place[axis] - line), (c.place[axis] - line)
    incoming = abs(_velocity(a, b)[axis])
    return (
        float(np.clip(a.t + abs(before) / max(incoming, SLOW), a.t, c.t)) if abs(before) + abs(after) > 0 else b.t
    )


def _meetings(
    paths: Mapping[str, Sequence[Mark]], stood: Mapping[str, Point], known: Sequence[Event], table: Table
) -> list[Event]:
    """Balls that met while both ran, or met one that hardly moved: where a way turns, no rail is near and another
    ball is."""
    found: list[Event] = []
    fallen = {one.balls[0] for one in known if one.kind == "pocket"}
    for ball, path in paths.items():
        for n in range(1, len(path) - 1):
            a, b, c = path[n - 1], path[n], path[n + 1]
            before, after = _velocity(a, b), _velocity(b, c)
            speeds = float(np.hypot(*before)), float(np.hypot(*after))
            if max(speeds) < TOLD or min(speeds) < SLOW:
                continue
            turned = abs(
                math.remainder(math.atan2(after[1], after[0]) - math.atan2(before[1], before[0]), 2 * math.pi)
            )
            if turned < TURNED:
                continue
            pause = max(PAUSE, (c.t - a.t) / 2.0)  # times are known no better than marks follow each other
            if any(abs(one.t - b.t) < pause and ball in one.balls for one in (*known, *found)):
                continue
            reach = table.ball_diameter + MEETS + 0.5 * speeds[0] * (b.t - a.t)
            for other, place in stood.items():
                at = _stands(paths.get(other, ()), place, b.t, other in fallen)
                if other != ball and at is not None and math.dist(at, b.place) < reach:
                    found.append(Event(b.t, "contact", (ball, other), b.place))
                    break
    return found


def _stands(path: Sequence[Mark], stood: Point, t: float, fell: bool) -> Point | None:
    """Where a ball is at a time, whether it runs then or not; None once it has fallen."""
    if not path or t < path[0].t:
        return stood
    return _at(path, t) or (None if fell else path[-1].place)


def _fallen(one: Runner, table: Table) -> float:
    """When it was in the pocket: as far on its way as it was last seen."""
    assert one.pocket is not None
    velocity = one.velocity
    speed = max(SLOW, float(np.hypot(*velocity))) if velocity is not None else 1.0
    return one.time + min(0.5, math.dist(one.place, table.pockets[one.pocket].drop) / speed)
