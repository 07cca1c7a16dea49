"""Kicks taught: the mirror's line with its diamonds, and the aim that a speed on this table makes of it.

The mirror is exact for a ball without friction. A real one bends, so around each mirror line a fan of aims is
played at a few speeds; the middle of those that reach the ball by the same rails is the corrected aim, and it is
then played with the hand's errors.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.geometry.kick import Kick, diamond_of, kicks_by
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, R_KICKED, R_RAILS_AFTER, Floats
from aretane.core.physics.play import AIM, ELEVATION, HEIGHT, SIDE, SPEED
from aretane.core.physics.sampling import Samples, play_all, sample
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.backwards.runs import runs_of
from aretane.core.planning.choices.search import reachable
from aretane.core.rules.disciplines import masks
from aretane.core.rules.masks import Outcomes, judge
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS, Point

MOST_RAILS, USUAL_RAILS = 4, 2
SPEEDS = (1.5, 2.3, 3.4, 4.8)  # m/s; four rails need the fastest
HEIGHT_OF_TIP = 0.15  # a rolling ball by the first rail (common practice: running follow)
SPREAD, AIMS = math.radians(7.0), 57  # how far on either side of the mirror's line, and how many aims
MOST_SIDE = 0.45  # of the radius
WIDER = 3.0  # times as far is looked for each radius of side: it turns the ball at the rail
LONGEST = 12.0  # m: no longer way is played
SAMPLES, MOST = 400, 12


@dataclass(frozen=True)
class Way:
    """By these `rails` to the ball: the mirror's point on the first rail and its `diamond`, the aim of the cue that
    gets there at this `speed` (radians), and how often the ball is struck lawfully (with a pocket: potted there).
    `corrected_diamond` is where the corrected line meets the line of diamonds, `by_speed` where it does at every
    speed (m/s) that goes: how many diamonds it moves.
    """

    rails: tuple[str, ...]
    mirror_aim: Point
    diamond: float
    corrected_aim: float
    corrected_diamond: float
    speed: float
    hit: Rate
    scratch: Rate
    by_speed: tuple[tuple[float, float], ...] = ()


def kick_ways(
    layout: Layout, ball: str, hand: Hand, pocket: str | None = None, rails: int | None = None,
    samples: int = SAMPLES, seed: int = 0, threads: int = 1, side: float = 0.0,
) -> list[Way]:  # fmt: skip
    """The ways to `ball` by `rails` (None: one or two; where none goes three, then four), the surest first, struck
    with this `side` (of the radius, right above 0). Raises `InputError` naming what is not there.
    """
    _check(layout, ball, pocket, rails, side)
    if rails is not None:
        return _by(layout, ball, hand, pocket, [rails], samples, seed, threads, side)
    for counts in ((1, 2), (3,), (4,)):
        found = _by(layout, ball, hand, pocket, counts, samples, seed, threads, side)
        if found:
            return found
    return []


def _check(layout: Layout, ball: str, pocket: str | None, rails: int | None, side: float) -> None:
    if layout.cue is None:
        raise InputError("balls.cue", "the cue ball is in hand: put it where it is to be played from")
    if ball not in layout.object_balls:
        raise InputError("ball", f"{ball} is not on the table")
    if pocket is not None and pocket not in POCKETS:
        raise InputError("pocket", f"must be one of {', '.join(POCKETS)}")
    if rails is not None and not 1 <= rails <= MOST_RAILS:
        raise InputError("rails", f"must be a number from 1 to {MOST_RAILS}")
    if not abs(side) <= MOST_SIDE:
        raise InputError("side", f"must be from {-MOST_SIDE} to {MOST_SIDE} of the radius")


def _by(
    layout: Layout, ball: str, hand: Hand, pocket: str | None, counts: Sequence[int], samples: int, seed: int,
    threads: int, side: float,
) -> list[Way]:  # fmt: skip
    assert layout.cue is not None
    mirrors = [
        way for count in counts for way in kicks_by(layout.table, layout.cue, layout.balls[ball], count)
        if way.length < LONGEST
    ]  # fmt: skip
    found = []
    for way in mirrors:
        that_go = _corrected(layout, ball, way, pocket, threads, side)
        if that_go:
            best = max(that_go, key=lambda one: one[1])[0]
            told = _told(layout, ball, way, best, pocket, hand, samples, seed, threads)
            found.append(replace(told, by_speed=_by_speed(layout, way, that_go)))
    return sorted((one for one in found if one.hit.p), key=lambda one: -(one.hit.p or 0.0))[:MOST]


def _by_speed(
    layout: Layout, way: Kick, that_go: Sequence[tuple[Stroke, float]]
) -> tuple[tuple[float, float], ...]:
    """At each speed the diamond of the widest run of aims."""
    assert layout.cue is not None
    widest: dict[float, tuple[Stroke, float]] = {}
    for stroke, width in that_go:
        if stroke.speed not in widest or width > widest[stroke.speed][1]:
            widest[stroke.speed] = stroke, width
    return tuple((speed, diamond_of(layout.table, way, layout.cue, one.aim)) for speed, (one, _) in widest.items())


def _corrected(
    layout: Layout, ball: str, way: Kick, pocket: str | None, threads: int, side: float
) -> list[tuple[Stroke, float]]:
    """At each speed the strokes in the middle of a run of aims that comes there by these rails, and how wide that
    run is (radians)."""
    wider = 1.0 + WIDER * abs(side)
    count = round(wider * (AIMS if pocket is None else 4 * AIMS))
    aims = way.aim + wider * np.linspace(-SPREAD, SPREAD, count)
    found = []
    for speed in SPEEDS:
        rows = np.zeros((len(aims), 5))
        rows[:, AIM], rows[:, SPEED], rows[:, HEIGHT] = aims, speed, HEIGHT_OF_TIP
        rows[:, SIDE] = side
        rows = reachable(layout, rows)
        if not len(rows):
            continue
        played = play_all(layout, start_of(layout), rows, threads)
        good = _comes(layout, played, ball, len(way.rails), pocket)
        for run in runs_of(good):
            middle = rows[run[len(run) // 2]]
            raised = float(middle[ELEVATION])
            stroke = Stroke(speed, float(middle[AIM]), side=side, height=HEIGHT_OF_TIP, elevation=raised)
            if _rails_of(layout, stroke, ball) == way.rails:
                found.append((stroke, len(run) * float(aims[1] - aims[0])))
    return found


def _outcome(layout: Layout, played: Samples, call: tuple[str, int] | None) -> Outcomes:
    rails = np.bitwise_count(played.results[:, R_RAILS_AFTER]).astype(np.int64)
    return judge(masks(layout), played.names, played.fates, played.results[:, R_FIRST], rails, call)


def _comes(layout: Layout, played: Samples, ball: str, rails: int, pocket: str | None) -> Floats:
    first = played.results[:, R_FIRST] == played.names.index(ball)
    good = first & (played.results[:, R_KICKED] == rails)
    if pocket is None:
        return np.asarray(good & (played.fates[:, 0] == -1))
    fell = played.fates[:, played.names.index(ball)] == POCKETS.index(pocket)
    return np.asarray(good & fell & (played.fates[:, 0] == -1))


def _rails_of(layout: Layout, stroke: Stroke, ball: str) -> tuple[str, ...]:
    """The rails that the cue ball meets before the ball."""
    shot = simulate(layout, stroke)
    hit = next((e.t for e in shot.events if e.kind == "contact" and ball in e.balls and CUE in e.balls), 0.0)
    return tuple(e.rail for e in shot.events if e.kind == "rail" and e.balls[0] == CUE and e.rail and e.t < hit)


def _told(
    layout: Layout, ball: str, way: Kick, stroke: Stroke, pocket: str | None, hand: Hand, samples: int, seed: int,
    threads: int,
) -> Way:  # fmt: skip
    assert layout.cue is not None
    assert stroke.aim is not None
    played = sample(layout, stroke, hand, samples, seed, threads, ball=ball if pocket else None)
    call = (ball, POCKETS.index(pocket)) if pocket else None
    outcome = _outcome(layout, played, call)
    first = played.results[:, R_FIRST] == played.names.index(ball)
    good = outcome.pot if pocket else first & ~outcome.foul
    return Way(
        way.rails, way.corners[0], diamond_of(layout.table, way, layout.cue), stroke.aim,
        diamond_of(layout.table, way, layout.cue, stroke.aim), stroke.speed, wilson(int(good.sum()), samples),
        wilson(int(outcome.scratch.sum()), samples),
    )  # fmt: skip
