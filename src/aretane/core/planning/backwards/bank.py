"""Banks taught: the mirror's line of the object ball with its diamonds, and the aim that a speed makes of it.

The mirror is exact for a ball without friction that keeps its angle. A real one comes off the cushion sharper the
harder it is struck, and is thrown off its line by the cut; so around each mirror line a fan of aims is played at
a few speeds, and the middle of those that bank the ball in is the corrected aim.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from aretane.core.errors import InputError
from aretane.core.geometry.cut import cut_for
from aretane.core.geometry.kick import Kick, diamond_of, kicks_by
from aretane.core.geometry.plane import bearing
from aretane.core.geometry.sight import in_the_way
from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST
from aretane.core.physics.play import AIM, ELEVATION, SPEED
from aretane.core.physics.sampling import play_all, sample
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.backwards.runs import runs_of
from aretane.core.planning.choices.search import reachable
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS, Point

SPEEDS = (1.6, 2.4, 3.4)  # m/s
SPREAD, AIMS = math.radians(3.0), 121  # of the cue's aim on either side of the mirror's, and how many
STEEPEST = math.radians(75)  # no ball is cut further (common practice)
SAMPLES, MOST = 400, 8


@dataclass(frozen=True)
class Bank:
    """Into `pocket` off `rail`: the mirror's point on the cushion and its `diamond`; the `corrected_diamond` at
    this `speed` and, where the bank goes at others, `by_speed`; the `cut` (radians) and the aim of the cue; how
    often it comes off.
    """

    pocket: str
    rail: str
    mirror_aim: Point
    diamond: float
    corrected_aim: float
    corrected_diamond: float
    speed: float
    by_speed: tuple[tuple[float, float], ...]
    cut: float
    pot: Rate
    scratch: Rate


def bank_ways(
    layout: Layout, ball: str, hand: Hand, samples: int = SAMPLES, seed: int = 0, threads: int = 1
) -> list[Bank]:
    """The banks of `ball` by one rail, the surest first. Raises `InputError` naming what is not there."""
    if layout.cue is None:
        raise InputError("balls.cue", "the cue ball is in hand: put it where it is to be played from")
    if ball not in layout.object_balls:
        raise InputError("ball", f"{ball} is not on the table")
    found = [
        told
        for pocket, mirror in _mirrors(layout, ball)
        if (told := _told(layout, ball, pocket, mirror, hand, samples, seed, threads)) is not None
    ]
    return sorted((one for one in found if one.pot.p), key=lambda one: -(one.pot.p or 0.0))[:MOST]


def _mirrors(layout: Layout, ball: str) -> Iterator[tuple[str, Kick]]:
    """Mirror ways of the ball to a pocket's mouth that the cue ball can send it on and no other ball stands in."""
    assert layout.cue is not None
    table, place = layout.table, layout.balls[ball]
    others = {name: at for name, at in layout.object_balls.items() if name != ball}
    for name in POCKETS:
        for mirror in kicks_by(table, place, table.pockets[name].mouth, 1):
            cut = cut_for(layout.cue, place, mirror.aim, table.radius + table.cue_radius)
            if cut is None or abs(cut.angle) > STEEPEST:
                continue
            legs = ((place, mirror.corners[0]), (mirror.corners[0], table.pockets[name].mouth))
            if not any(in_the_way(*leg, others, 2 * table.radius) for leg in legs):
                yield name, mirror


def _told(
    layout: Layout, ball: str, pocket: str, mirror: Kick, hand: Hand, samples: int, seed: int, threads: int
) -> Bank | None:
    """None where no aim near the mirror's goes at any speed."""
    assert layout.cue is not None
    table, place = layout.table, layout.balls[ball]
    cut = cut_for(layout.cue, place, mirror.aim, table.radius + table.cue_radius)
    assert cut is not None
    found = [
        (stroke, diamond_of(table, mirror, place, bearing(place, corner)), width)
        for speed in SPEEDS
        for stroke, corner, width in _that_go(layout, ball, pocket, mirror.rails[0], cut.aim, speed, threads)
    ]
    if not found:
        return None
    stroke, diamond, _ = max(found, key=lambda one: one[2])
    assert stroke.aim is not None
    played = sample(layout, stroke, hand, samples, seed, threads)
    fell = played.fates[:, played.names.index(ball)] == POCKETS.index(pocket)
    lost = played.fates[:, 0] != -1
    return Bank(
        pocket, mirror.rails[0], mirror.corners[0], diamond_of(table, mirror, place), stroke.aim, diamond,
        stroke.speed, tuple((one.speed, at) for one, at, _ in found), abs(cut.angle),
        wilson(int((fell & ~lost).sum()), samples), wilson(int(lost.sum()), samples),
    )  # fmt: skip


def _that_go(
    layout: Layout, ball: str, pocket: str, rail: str, aim: float, speed: float, threads: int
) -> Iterator[tuple[Stroke, Point, float]]:
    """The widest run of aims at this speed that banks the ball in by this rail alone: its middle, where the ball
    meets the rail, and how wide it is (radians).
    """
    aims = aim + np.linspace(-SPREAD, SPREAD, AIMS)
    rows = np.zeros((len(aims), 5))
    rows[:, AIM], rows[:, SPEED] = aims, speed
    rows = reachable(layout, rows)
    if not len(rows):
        return
    played = play_all(layout, start_of(layout), rows, threads)
    number = played.names.index(ball)
    fell = played.fates[:, number] == POCKETS.index(pocket)
    good = fell & (played.results[:, R_FIRST] == number) & (played.fates[:, 0] == -1)
    for run in sorted(runs_of(np.asarray(good)), key=len, reverse=True):
        middle = rows[run[len(run) // 2]]
        stroke = Stroke(speed, float(middle[AIM]), elevation=float(middle[ELEVATION]))
        met = [
            (e.rail, e.place) for e in simulate(layout, stroke).events if e.kind == "rail" and e.balls[0] == ball
        ]
        if [name for name, _ in met] == [rail]:
            yield stroke, met[0][1], len(run) * float(aims[1] - aims[0])
            return
