"""The position solver: the strokes that pot this ball and leave the cue ball where it should be, plainest first.

A fan of speeds and tips is solved for the pot; those that stop nearest are varied in speed, height and side, and
solved again, until they stop there. Each is then played with the hand's errors.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.aim import aimed
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER, Floats
from aretane.core.physics.cue import TIP_LIMIT
from aretane.core.physics.sampling import sample
from aretane.core.physics.shot import Shot, simulate
from aretane.core.physics.stroke import FASTEST, Stroke
from aretane.core.planning.backwards.goal import Goal
from aretane.core.planning.choices.plain import route_of
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.pots.pots import Ground, Pots
from aretane.core.rules.disciplines import masks
from aretane.core.rules.masks import judge
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS, Point

SPEEDS = tuple(np.geomspace(0.45, 5.5, 15))
HEIGHTS, SIDES = (-0.45, -0.3, -0.15, 0.0, 0.15, 0.3, 0.45), (-0.35, -0.15, 0.0, 0.15, 0.35)
STARTS, ROUNDS = 24, 7  # strokes that are varied, and how often; each time half as far
STEPS = np.array([0.12, 0.08, 0.08])  # of speed (relative), side, height, at first
MOST, SAMPLES = 8, 400  # ways that are told, and how often each is played
ASIDE = 0.5  # as much less plain is another part of the pocket than its middle as half a tenth of side
LEAST = 0.05  # a pot less likely is no way to play
WORTH = 0.3  # of the best way's chance: a way that comes off more rarely is not worth telling


@dataclass(frozen=True)
class Reached:
    """A stroke, where the cue ball stops when nothing goes wrong and how far off that is (m), how often the pot
    comes off without a foul and, given that, how often the cue ball stops where it should. `route` names its rails;
    `softer` and `firmer`: where it stops with a tenth less and more speed.
    """

    stroke: Stroke
    stop: Point
    off: float
    pot: Rate
    inside: Rate
    route: str
    softer: Point | None
    firmer: Point | None


@dataclass(frozen=True)
class Reach:
    """The ways, the plainest first; without any `nearest`: the stroke that comes nearest (None: nothing pots)."""

    ways: tuple[Reached, ...]
    nearest: Reached | None


def reach(
    layout: Layout, ball: str, pocket: str, goal: Goal, hand: Hand, samples: int = SAMPLES, seed: int = 0,
    threads: int = 1,
) -> Reach:  # fmt: skip
    """Strokes that pot `ball` in `pocket` and stop the cue ball at its goal. Raises `InputError` naming `ball` or
    `pocket` where there is no such thing, or the cue ball is in hand.
    """
    _check(layout, ball, pocket)
    found = _near(layout, ball, pocket, goal, threads)
    if not found:
        return Reach((), None)
    found = sorted([*found, *_by_parts(layout, ball, pocket, goal, found[:STARTS])], key=lambda one: one[0])
    closest = [one for one in found if one[0] <= goal.close]
    if not closest:
        off, stroke = found[0]
        return Reach((), _told(layout, stroke, off, ball, pocket, goal, hand, samples, seed, threads))
    ways = [
        _told(layout, stroke, off, ball, pocket, goal, hand, samples, seed, threads)
        for off, stroke in _unlike(layout, closest)
    ]
    best = max(_comes_off(one) for one in ways)
    likely = [one for one in ways if (one.pot.p or 0.0) >= LEAST and _comes_off(one) >= WORTH * best]
    return Reach(tuple(sorted(likely, key=_plainness)), None if likely else ways[0])


def _check(layout: Layout, ball: str, pocket: str) -> None:
    if layout.cue is None:
        raise InputError("balls.cue", "the cue ball is in hand: put it where it is to be played from")
    if ball not in layout.object_balls:
        raise InputError("ball", f"{ball} is not on the table")
    if pocket not in POCKETS:
        raise InputError("pocket", f"must be one of {', '.join(POCKETS)}")


def _near(layout: Layout, ball: str, pocket: str, goal: Goal, threads: int) -> list[tuple[float, Stroke]]:
    """Strokes by how near they stop, nearest first."""
    ground = Ground(layout, threads)
    place = np.array([layout.cue])
    fan = np.array(
        [(v, side, height) for v, height, side in product(SPEEDS, HEIGHTS, SIDES) if _held(side, height)]
    )
    best = _solved(ground, ball, pocket, place, fan, goal)
    starts = best[:STARTS]
    width = STEPS
    for _ in range(ROUNDS):
        varied = [row for _, stroke in starts for row in _varied(stroke, width)]
        found = _solved(ground, ball, pocket, place, np.array(varied), goal) if varied else []
        best = sorted([*best, *found], key=lambda one: one[0])
        starts = _apart(best)
        width = width / 2
    return best


def _solved(
    ground: Ground, ball: str, pocket: str, place: Floats, strokes: Floats, goal: Goal
) -> list[tuple[float, Stroke]]:
    pots: Pots = ground.pots(ball, place, strokes)
    own = pots.only(np.flatnonzero((pots.pocket == POCKETS.index(pocket)) & ~pots.moves))
    off = goal.off(own.landing)
    return [(float(off[row]), stroke_of(own, row)) for row in np.argsort(off, kind="stable")]


def _by_parts(
    layout: Layout, ball: str, pocket: str, goal: Goal, found: Sequence[tuple[float, Stroke]]
) -> list[tuple[float, Stroke]]:
    """The same strokes into the fuller and the thinner part of the pocket, where they still pot."""
    told = []
    for (_, stroke), part in product(found, ("thick", "thin")):
        other = aimed(layout, replace(stroke, aim=None, at=ball, pocket=pocket, part=part))
        shot = simulate(layout, other)
        stop = _stop(shot)
        if stop is not None and (ball, pocket) in [fall[:2] for fall in shot.potted]:
            told.append((float(goal.off(np.array([stop]))[0]), other))
    return told


def _varied(stroke: Stroke, width: Floats) -> list[tuple[float, float, float]]:
    """Strokes around one, nearer and nearer: speed, side and height each less, the same and more."""
    found = []
    for pace, turn, lift in product((-1.0, 0.0, 1.0), repeat=3):
        speed = min(FASTEST, max(0.1, stroke.speed * (1.0 + pace * width[0])))
        side, height = stroke.side + turn * width[1], stroke.height + lift * width[2]
        if _held(side, height):
            found.append((speed, side, height))
    return found


def _held(side: float, height: float) -> bool:
    return math.hypot(side, height) <= TIP_LIMIT


def _apart(best: Sequence[tuple[float, Stroke]]) -> list[tuple[float, Stroke]]:
    """The nearest that are not all the same stroke."""
    chosen: list[tuple[float, Stroke]] = []
    for off, stroke in best:
        if all(_differ(stroke, other) for _, other in chosen):
            chosen.append((off, stroke))
        if len(chosen) == STARTS:
            break
    return chosen


def _differ(one: Stroke, other: Stroke) -> bool:
    return (
        abs(one.speed - other.speed) > 0.1 * other.speed
        or abs(one.side - other.side) > 0.08
        or abs(one.height - other.height) > 0.08
    )


def _unlike(layout: Layout, found: Sequence[tuple[float, Stroke]]) -> list[tuple[float, Stroke]]:
    """One stroke for each way of the cue ball and each sort of tip: the plainest of it."""
    ideas: dict[tuple[str, int], tuple[float, Stroke]] = {}
    for off, stroke in sorted(found, key=lambda one: _simple(one[1]))[: 8 * STARTS]:
        key = route_of(simulate(layout, stroke)), round(stroke.height / 0.3)
        if key not in ideas or _simple(stroke) < _simple(ideas[key][1]):
            ideas[key] = off, stroke
    return sorted(ideas.values(), key=lambda one: _simple(one[1]))[:MOST]


def _simple(stroke: Stroke) -> float:
    """As little side as will do, into the middle of the pocket, then as slow (common practice)."""
    aside = 0.0 if stroke.part == "centre" else ASIDE
    return round(abs(stroke.side) / 0.1) + aside + 0.15 * stroke.speed + 0.3 * abs(stroke.height)


def _plainness(one: Reached) -> tuple[float, float]:
    rails = 0 if one.route == "no rail" else one.route.count(",") + 1
    return _simple(one.stroke) + 0.3 * rails, -(one.pot.p or 0.0)


def _comes_off(one: Reached) -> float:
    """Potted, and there."""
    return (one.pot.p or 0.0) * (one.inside.p or 0.0)


def _told(
    layout: Layout, stroke: Stroke, off: float, ball: str, pocket: str, goal: Goal, hand: Hand, samples: int,
    seed: int, threads: int,
) -> Reached:  # fmt: skip
    shot = simulate(layout, stroke)
    played = sample(layout, stroke, hand, samples, seed, threads, ball=ball)
    first, rails = played.results[:, R_FIRST], np.bitwise_count(played.results[:, R_RAILS_AFTER]).astype(np.int64)
    outcome = judge(masks(layout), played.names, played.fates, first, rails, (ball, POCKETS.index(pocket)))
    stops = played.places[outcome.pot, 0]
    near = goal.inside(stops)
    return Reached(
        stroke, _stop(shot) or layout.balls[CUE], off, wilson(int(outcome.pot.sum()), samples),
        wilson(int(near.sum()), len(near)), route_of(shot), _at_pace(layout, stroke, 0.9),
        _at_pace(layout, stroke, 1.1),
    )  # fmt: skip


def _at_pace(layout: Layout, stroke: Stroke, pace: float) -> Point | None:
    return _stop(simulate(layout, replace(stroke, speed=min(FASTEST, pace * stroke.speed))))


def _stop(shot: Shot) -> Point | None:
    """Where the cue ball comes to rest; None in a pocket."""
    return shot.final.balls.get(CUE)
