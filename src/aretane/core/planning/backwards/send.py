"""Sending an object ball to a place: nudges, safeties, break-outs. The strokes after which it stops there.

Every hit of the ball, thin to thin, at many speeds and three heights; those that leave it nearest are varied in
aim, speed and height until it stops there. Each is then played with the hand's errors.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER, Floats, Ints
from aretane.core.physics.play import AIM, HEIGHT, ON_TABLE, SPEED
from aretane.core.physics.sampling import play_all, sample
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import FASTEST, Stroke
from aretane.core.planning.backwards.goal import Goal
from aretane.core.planning.choices.plain import route_of
from aretane.core.planning.choices.search import direct_fan, reachable, stroke_from_row
from aretane.core.rules.disciplines import masks
from aretane.core.rules.masks import judge
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import Point

SPEEDS = tuple(np.geomspace(0.3, 5.0, 14))
TIPS = ((0.0, -0.35), (0.0, 0.0), (0.0, 0.35))
STARTS, ROUNDS = 16, 7  # strokes that are varied, and how often; each time half as far
STEPS = (0.02, 0.12, 0.08)  # of aim (radians), speed (relative) and height, at first
MOST, SAMPLES = 5, 400  # ways that are told, and how often each is played
NEVER = 99.0  # m: the ball is gone, was not struck first, or the cue ball is lost


@dataclass(frozen=True)
class Sent:
    """A stroke, where the ball stops when nothing goes wrong and how far off that is (m), how often it stops where
    it should and how often the stroke is a foul; where the cue ball then lies, and its rails; where the ball stops
    with a tenth less and more speed (None: it falls).
    """

    stroke: Stroke
    stop: Point
    off: float
    inside: Rate
    foul: Rate
    cue: Point
    route: str
    softer: Point | None
    firmer: Point | None


def send(
    layout: Layout, ball: str, goal: Goal, hand: Hand, samples: int = SAMPLES, seed: int = 0, threads: int = 1
) -> tuple[Sent, ...]:
    """Strokes that stop `ball` at its goal, the surest first; without any the one that comes nearest, alone. Raises
    `InputError` naming what is not there.
    """
    if layout.cue is None:
        raise InputError("balls.cue", "the cue ball is in hand: put it where it is to be played from")
    if ball not in layout.object_balls:
        raise InputError("ball", f"{ball} is not on the table")
    rows, off = _near(layout, ball, goal, threads)
    if not len(rows):
        return ()
    close = np.flatnonzero(off <= goal.close)
    told = [
        _told(layout, rows[at], float(off[at]), ball, goal, hand, samples, seed, threads)
        for at in (_unlike(layout, rows, close) if len(close) else [0])
    ]
    return tuple(sorted(told, key=lambda one: -(one.inside.p or 0.0) * (1.0 - (one.foul.p or 0.0))))


def _near(layout: Layout, ball: str, goal: Goal, threads: int) -> tuple[Floats, Floats]:
    """Strokes and how far off they leave the ball, nearest first."""
    rows = direct_fan(layout, (ball,), SPEEDS, TIPS)
    rows, off = _played(layout, rows, ball, goal, threads)
    width = np.array(STEPS)
    for _ in range(ROUNDS):
        varied = np.concatenate([_varied(row, width) for row in _apart(rows)]) if len(rows) else rows
        more, away = _played(layout, reachable(layout, varied), ball, goal, threads)
        rows, off = np.concatenate([rows, more]), np.concatenate([off, away])
        order = np.argsort(off, kind="stable")
        rows, off, width = rows[order], off[order], width / 2
    return rows, off


def _played(layout: Layout, rows: Floats, ball: str, goal: Goal, threads: int) -> tuple[Floats, Floats]:
    """Those after which the ball still lies somewhere, with how far off, nearest first."""
    if not len(rows):
        return rows, np.zeros(0)
    played = play_all(layout, start_of(layout), rows, threads)
    column = played.names.index(ball)
    stays = (played.fates[:, column] == ON_TABLE) & (played.fates[:, 0] == ON_TABLE)
    off = np.where(stays & (played.results[:, R_FIRST] == column), goal.off(played.places[:, column]), NEVER)
    order = np.argsort(off, kind="stable")
    order = order[off[order] < NEVER]
    return rows[order], off[order]


def _varied(row: Floats, width: Floats) -> Floats:
    """Strokes around one: aim, speed and height each less, the same and more."""
    found = np.repeat(row[None], 27, axis=0)
    steps = np.array(list(product((-1.0, 0.0, 1.0), repeat=3)))
    found[:, AIM] += steps[:, 0] * width[0]
    found[:, SPEED] = np.clip(row[SPEED] * (1.0 + steps[:, 1] * width[1]), 0.1, FASTEST)
    found[:, HEIGHT] = np.clip(row[HEIGHT] + steps[:, 2] * width[2], -0.45, 0.45)
    return found


def _apart(rows: Floats) -> list[Floats]:
    """The nearest that are not all the same stroke."""
    chosen: list[Floats] = []
    for row in rows:
        if all(abs(row[AIM] - o[AIM]) > 0.01 or abs(row[SPEED] - o[SPEED]) > 0.1 * o[SPEED] for o in chosen):
            chosen.append(row)
        if len(chosen) == STARTS:
            break
    return chosen


def _unlike(layout: Layout, rows: Floats, close: Ints) -> list[int]:
    """One stroke for each way of the cue ball and sort of tip, the softest of it."""
    found: dict[tuple[str, int], int] = {}
    for at in sorted((int(one) for one in close[: 8 * STARTS]), key=lambda one: float(rows[one][SPEED])):
        key = route_of(simulate(layout, stroke_from_row(rows[at]))), round(float(rows[at][HEIGHT]) / 0.3)
        found.setdefault(key, at)
    return list(found.values())[:MOST]


def _told(
    layout: Layout,
    row: Floats,
    off: float,
    ball: str,
    goal: Goal,
    hand: Hand,
    samples: int,
    seed: int,
    threads: int,
) -> Sent:
    stroke = stroke_from_row(row)
    shot = simulate(layout, stroke)
    played = sample(layout, stroke, hand, samples, seed, threads)
    rails = np.bitwise_count(played.results[:, R_RAILS_AFTER]).astype(np.int64)
    outcome = judge(masks(layout), played.names, played.fates, played.results[:, R_FIRST], rails, None)
    column = played.names.index(ball)
    there = (played.fates[:, column] == ON_TABLE) & goal.inside(played.places[:, column])
    return Sent(
        stroke, shot.final.balls[ball], off, wilson(int(there.sum()), samples),
        wilson(int(outcome.foul.sum()), samples), shot.final.balls[CUE], route_of(shot),
        _at_pace(layout, stroke, ball, 0.9), _at_pace(layout, stroke, ball, 1.1),
    )  # fmt: skip


def _at_pace(layout: Layout, stroke: Stroke, ball: str, pace: float) -> Point | None:
    return simulate(layout, replace(stroke, speed=min(FASTEST, pace * stroke.speed))).final.balls.get(ball)
