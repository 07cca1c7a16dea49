"""Break shots by hand: what a level of player makes of the opening stroke, by simulation.

The usual break of each discipline is played with the hand's errors, widened by its speed, on racks of which no
two are alike.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.search import judged
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.rack import racked
from aretane.core.rules.traits import traits_of
from aretane.core.skill.effort import Demand
from aretane.core.skill.hand import Hand, presets_for
from aretane.core.statistics.rates import Rate, rate_of, wilson
from aretane.core.table import PRESETS, Table

# Speed of the cue ball that each level breaks at, m/s (common practice: 20 to 23 mph for good hands).
PACE = {"beginner": 6.0, "club": 7.5, "league": 9.0, "professional": 10.2}
TIGHT, LOOSE = 0.00002, 0.0003  # m between the balls of a rack that is set by hand (assumed)
SEEN = 0.02


@dataclass(frozen=True)
class Break:
    """The usual break: where the cue ball lies (m from the head nose; share of the width), which ball it is
    aimed at and how the tip strikes.
    """

    discipline: str
    table: str
    x: float
    y_share: float
    at: str | None
    height: float


BREAKS = {
    "nine-ball": Break("nine-ball", "pool-9ft", 0.62, 0.137, "1", -0.05),
    "ten-ball": Break("ten-ball", "pool-9ft", 0.6, 0.45, "1", -0.05),
    "eight-ball": Break("eight-ball", "pool-9ft", 0.6, 0.45, None, -0.05),
    "blackball": Break("blackball", "blackball-7ft", 0.34, 0.4, None, -0.05),
}


@dataclass(frozen=True)
class Opener:
    """A break made ready: a rack that is like no other, and the stroke at it."""

    layout: Layout
    stroke: Stroke
    demand: Demand


def usual_break(discipline: str, hand: Hand, table: Table, number: int) -> Opener | None:
    """The usual break of a player with this hand, on rack `number`; None where no break is usual."""
    opening = BREAKS.get(discipline)
    if opening is None:
        return None
    known = presets_for(table)
    levels = sorted(known, key=lambda level: known[level].aim)
    aims = [math.log(known[level].aim) for level in levels]
    pace = float(np.interp(math.log(max(hand.aim, 1e-9)), aims, [PACE[level] for level in levels]))
    return _opener(opening, table, pace, number)


def _opener(opening: Break, table: Table, pace: float, number: int) -> Opener:
    layout = racked(table, opening.discipline, number, gap=_gap(number))
    scale = table.length / PRESETS[opening.table].length
    layout = layout.placed(CUE, (opening.x * scale, opening.y_share * table.width))
    stroke = Stroke(pace, _aim(layout, opening), height=opening.height)
    return Opener(layout, stroke, Demand(distance=math.dist(layout.balls[CUE], _head_ball(layout, opening))))


@dataclass(frozen=True)
class BreakRates:
    """`balls` made on average, `dry` and `scratch` rates, and how often some of a ball on can be `seen` after
    a break that was no foul.
    """

    balls: Rate
    dry: Rate
    scratch: Rate
    seen: Rate


def break_rates(opening: Break, level: str, racks: int, seed: int = 0, threads: int = 1) -> BreakRates:
    """`racks` breaks by a preset hand, each on its own rack."""
    made, dry, scratch, seen, legal = [], 0, 0, 0, 0
    table = PRESETS[opening.table]
    hand, pace = presets_for(table)[level], PACE[level]
    for number in range(racks):
        one = _opener(opening, table, pace, seed * 10_007 + number)
        layout = one.layout
        tries = tries_of(layout, one.stroke, hand, 1, seed * 10_007 + number, one.demand)
        played = play_all(layout, start_of(layout), tries.strokes, threads, lucks=tries.lucks)
        fates, places = played.fates[0], played.places[0]
        fell = int((fates[1:] >= 0).sum() - (fates[1:] == 6).sum())
        made.append(fell)
        dry += fell == 0
        lost = bool(0 <= fates[0] < 6)
        scratch += lost
        if not lost and not judged(game_of(layout), played).lost[0] and fates[0] == -1:
            legal += 1
            seen += _sees_next(layout, played.names, fates, places)
    mean = float(np.mean(made))
    half = 1.96 * float(np.std(made, ddof=1)) / math.sqrt(racks)
    return BreakRates(
        Rate(mean, max(0.0, mean - half), mean + half, racks), wilson(dry, racks), wilson(scratch, racks),
        wilson(seen, legal) if legal else rate_of(0.0, 1),
    )  # fmt: skip


def _gap(seed: int) -> float:
    """How well a rack is set: now tight, now loose."""
    return math.exp(random.Random(seed).uniform(math.log(TIGHT), math.log(LOOSE)))


def _head_ball(layout: Layout, opening: Break) -> tuple[float, float]:
    if opening.at is not None:
        return layout.balls[opening.at]
    return min(layout.object_balls.values(), key=lambda place: place[0])


def _aim(layout: Layout, opening: Break) -> float:
    """Full at the head ball."""
    (cx, cy), (bx, by) = layout.balls[CUE], _head_ball(layout, opening)
    return math.atan2(by - cy, bx - cx)


def _sees_next(layout: Layout, names: tuple[str, ...], fates: np.ndarray, places: Floats) -> bool:
    """Whether some of a ball that is on next can be seen."""
    left = {name: tuple(places[i]) for i, name in enumerate(names) if fates[i] == -1}
    others = {name: (float(x), float(y)) for name, (x, y) in left.items() if name != CUE}
    if not others:
        return True
    cue = (float(left[CUE][0]), float(left[CUE][1]))
    reach = layout.table.radius + layout.table.cue_radius
    on = [min(others, key=int)] if traits_of(layout.discipline).rotation else list(others)
    return any(visible_part(cue, ball, others, reach) > SEEN for ball in on)
