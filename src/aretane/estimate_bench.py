"""How well a hand is told from a record: simulated players of every level, whose true errors are known.

Each player is drawn from the prior, picks shots that he likes his chances of, and plays them on the simulator with
effort and the table's own chance. The 95 % interval of each error that the record speaks for should hold the
truth for about 95 players in 100.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from aretane.core.geometry.measured import measure_shot
from aretane.core.geometry.potting_window import aim_gain, potting_window
from aretane.core.layout import Layout
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.pots.pots import Ground
from aretane.core.skill.effort import Demand, aim_effort, speed_effort
from aretane.core.skill.estimate import (
    AIM_SPREAD,
    SPEED_SPREAD,
    Estimate,
    Record,
    Stopped,
    Tried,
    estimate_hand,
    pot_chance,
)  # fmt: skip
from aretane.core.skill.hand import PRESETS, Hand, usual_hand
from aretane.core.statistics.rates import wilson
from aretane.core.table import POCKETS
from aretane.core.table import PRESETS as TABLES

PLAYERS, SHOTS, POOL = 1000, 80, 400
END_MASS = 28.0
_SPEEDS, _SIDES, _HEIGHTS = (1.0, 1.4, 1.8, 2.4), (0.0, 0.0, 0.0, -0.25, 0.25), (-0.35, 0.0, 0.3)


@dataclass(frozen=True)
class Shot:
    """A pot to be tried: what the record would say of it, and where the cue ball stops without error."""

    layout: Layout
    stroke: Stroke
    pocket: int
    tried: Tried
    demand: Demand
    travel: float
    along: tuple[float, float]
    stop: tuple[float, float]
    pace: float


def shots(count: int, seed: int = 5) -> list[Shot]:
    """Random pots with random strokes, as they come up in a match."""
    dice, table, found = random.Random(seed), TABLES["pool-9ft"], list[Shot]()
    while len(found) < count:
        cue = dice.uniform(0.2, 2.3), dice.uniform(0.15, 1.1)
        ball = dice.uniform(0.1, 2.4), dice.uniform(0.1, 1.15)
        if math.dist(cue, ball) > 0.15:
            layout = Layout(table, "nine-ball", {"cue": cue, "9": ball})
            stroke = np.array([[dice.choice(_SPEEDS), dice.choice(_SIDES), dice.choice(_HEIGHTS)]])
            shot = _shot(layout, stroke)
            if shot is not None:
                found.append(shot)
    return found


def _shot(layout: Layout, stroke: np.ndarray) -> Shot | None:
    pots = Ground(layout).pots("9", np.array([layout.cue]), stroke)
    if not len(pots):
        return None
    row = int(np.argmax(pots.chance(PRESETS["club"])))
    pocket = int(pots.pocket[row])
    measured = measure_shot(layout, "9", POCKETS[pocket])
    if measured.cut is None or measured.tolerance is None or measured.tolerance < math.radians(0.06):
        return None
    table, cut, struck = layout.table, measured.cut, stroke_of(pots, row)
    window = potting_window(
        table,
        POCKETS[pocket],
        cut.angle,
        cut.cue_distance,
        measured.pocket_distance,
        measured.tolerance,
        measured.open,
    )
    effort = aim_effort(struck.speed, struck.side, struck.height, struck.elevation, cut.cue_distance, END_MASS)
    tried = Tried(window, True, effort, aim_gain(table, cut.angle, cut.cue_distance))
    stop = float(pots.landing[row, 0]), float(pots.landing[row, 1])
    travel = math.dist(measured.ghost, stop)
    along = (stop[0] - measured.ghost[0]) / max(travel, 1e-9), (stop[1] - measured.ghost[1]) / max(travel, 1e-9)
    pace = speed_effort(struck.speed, struck.height, struck.elevation, cut.cue_distance)
    demand = Demand(cut.cue_distance, gain=tried.gain)
    return Shot(layout, struck, pocket, tried, demand, travel, along, stop, pace)


def player(rng: np.random.Generator) -> Hand:
    """A hand from the prior."""
    hand = usual_hand(PRESETS["club"].aim * math.exp(AIM_SPREAD * rng.standard_normal()))
    return replace(hand, speed=hand.speed * math.exp(SPEED_SPREAD * rng.standard_normal()))


def record_of(hand: Hand, pool: list[Shot], count: int, rng: np.random.Generator) -> Record:
    """What a coach would have logged of `count` shots that this player chose, the likelier ones more often."""
    likes = np.array([pot_chance(shot.tried.window, hand, shot.tried.effort, shot.tried.gain) for shot in pool])
    tried, stopped = [], []
    for at in rng.choice(len(pool), count, p=likes / likes.sum()):
        shot = pool[at]
        made = tries_of(shot.layout, shot.stroke, hand, 1, int(rng.integers(2**31)), shot.demand)
        played = play_all(shot.layout, start_of(shot.layout), made.strokes, lucks=made.lucks)
        good = bool(played.fates[0, 1] == shot.pocket and played.fates[0, 0] == -1)
        tried.append(replace(shot.tried, made=good))
        if good and shot.travel > 0.3:
            off = played.places[0, 0] - np.array(shot.stop)
            stopped.append(Stopped(shot.travel, float(off @ np.array(shot.along)), shot.pace))
    return Record(tried, stopped)


def coverage(players: int = PLAYERS, count: int = SHOTS, seed: int = 7) -> list[dict[str, Any]]:
    """For aim and speed: how many players' records spoke, and how often the interval held the truth."""
    pool, rng = shots(POOL if players > 100 else 120), np.random.default_rng(seed)
    spoke = {"aim": 0, "speed": 0}
    held = {"aim": 0, "speed": 0}
    for _ in range(players):
        hand = player(rng)
        found: Estimate = estimate_hand(record_of(hand, pool, count, rng))
        for name in spoke:
            one = getattr(found, name)
            spoke[name] += one.speaks
            held[name] += one.speaks and one.low <= getattr(hand, name) <= one.high
    return [
        {"error": name, "players": players, "shots": count, "spoke": spoke[name],
         "held": vars(wilson(held[name], spoke[name]))}
        for name in spoke
    ]  # fmt: skip
