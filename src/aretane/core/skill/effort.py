"""How a stroke's demands widen the errors of a hand: the one place where effort is told.

A hand's errors are those of a plain stroke: level cue, centre ball, a pace of one to two and a half metres a
second, the cue ball within reach. Everything else costs, each thing as a factor on the error of aim or of
speed, or as an error of its own. The shapes are common practice (hard strokes, much side, long draw, a raised
cue and a stretch all miss more); the sizes are assumed, and set so that the table of docs/hands.md holds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from aretane.core.physics.compiled import GRAVITY, Floats, entry
from aretane.core.physics.cue import TIP_LIMIT, squirt
from aretane.core.skill.hand import Hand

EASY_PACE = 2.5  # m/s: up to here a stroke is not hard
HARD = 0.12  # of the aim's and the speed's error for each m/s beyond (assumed; a break at 9 m/s: 1.8 times)
SOFT_PACE, SOFT = 0.8, 0.25  # m/s below which touch counts, and what it adds to the speed's error at a standstill
SHARE = 28.0  # of what must be allowed for (rad), for each radian of aim: an aim of .1 deg knows squirt to 5 %
THROW_BY_SIDE = 0.05  # rad: how much full side throws the object ball (Alciatore: about three degrees)
DRAW_AIM, DRAW_SPEED = 0.1, 0.4  # for each metre to the ball and full height below centre (assumed)
# A raised cue: for each radian of elevation and for its square (assumed: at 12 degrees 1.7 and 1.3 times, at 45 6.3
# and 3.6).
RAISED_AIM, STEEP_AIM, RAISED_SPEED, STEEP_SPEED = 2.0, 6.0, 1.0, 3.0
SIDE_THROW, MOST_THROWN = 0.3, 0.04  # rad for each radius of unintended side, and at most
TABLE_THROW = 0.003  # rad: a fifth of friction up or down, a ball that clings now and then
USUAL_EFFORT = 1.15  # of a stroke that is not known: position is seldom played with a plain one (assumed)
BALL = 0.0572  # m: over which the aim's gain is counted

_SIX = "float64(float64, float64, float64, float64, float64, float64)"


@dataclass(frozen=True)
class Demand:
    """What a stroke asks of a hand besides its own speed and tip.

    `distance`: the cue ball's way to the first ball, m; `reach`: factor of a stretch, rest or off hand;
    `kicked`: rails before the first ball; `banked`: rails of the ball that is meant, and `gain`: by how much
    its direction turns for each radian of the cue ball's.
    """

    distance: float = 0.5
    reach: float = 1.0
    kicked: int = 0
    banked: int = 0
    gain: float = 1.0


PLAIN = Demand()


@dataclass(frozen=True)
class Spread:
    """Standard deviations of one stroke's errors, as in `Hand`."""

    aim: float
    speed: float
    side: float
    height: float
    elevation: float

    def scaled(self, normal: Floats) -> Floats:
        """Standard normal numbers (n x 5) as errors of aim, speed, side, height, elevation."""
        return np.asarray(normal * (self.aim, self.speed, self.side, self.height, self.elevation))


@entry(_SIX)
def aim_effort(
    speed: float, side: float, height: float, elevation: float, distance: float, end_mass_ratio: float
) -> float:
    """Factor on the aim's error; m/s, fractions of R, radians, metres.

    Squirt, swerve and throw of *intended* side must be allowed for, and are known to a share only, which is in
    proportion to the hand's own error: `SHARE`.
    """
    pace = 1.0 + HARD * max(speed - EASY_PACE, 0.0)
    draw = 1.0 + DRAW_AIM * max(-height, 0.0) / TIP_LIMIT * distance
    raised = 1.0 + (RAISED_AIM + STEEP_AIM * elevation) * elevation
    if side == 0.0:
        return pace * draw * raised
    # Coriolis: once it rolls, a ball struck with side and a raised cue has turned by side x tan(elevation).
    slides = 12.0 * speed * speed / (49.0 * 0.2 * GRAVITY)
    swerve = side * math.tan(elevation) * min(distance / max(slides, 1e-3), 1.0)
    throw = THROW_BY_SIDE * min(abs(side) / TIP_LIMIT, 1.0) * BALL / max(distance, BALL)
    bent = squirt(side, end_mass_ratio)
    allowed = 1.0 + SHARE * SHARE * (bent * bent + swerve * swerve + throw * throw)
    return pace * draw * raised * math.sqrt(allowed)


@entry("float64(float64, float64, float64, float64)")
def speed_effort(speed: float, height: float, elevation: float, distance: float) -> float:
    """Factor on the speed's error: hard and very soft strokes, draw over distance, a raised cue."""
    pace = 1.0 + HARD * max(speed - EASY_PACE, 0.0) + SOFT * max(1.0 - speed / SOFT_PACE, 0.0)
    draw = 1.0 + DRAW_SPEED * max(-height, 0.0) / TIP_LIMIT * distance
    return pace * draw * (1.0 + (RAISED_SPEED + STEEP_SPEED * elevation) * elevation)


def thrown_off(hand: Hand) -> float:
    """How far an object ball strays by throw alone (radians, standard deviation): unintended side, and the
    table's own friction. For estimates in closed form; samples meet the throw itself.
    """
    own = 0.0 if hand.plain else TABLE_THROW
    return math.hypot(min(SIDE_THROW * hand.side, MOST_THROWN), own)


def spread_of(
    hand: Hand, speed: float, side: float, height: float, elevation: float, demand: Demand, end_mass_ratio: float
) -> Spread:
    """The errors of this stroke by this hand: effort, and what it takes to judge rails and a raised cue."""
    if hand.plain:
        return Spread(hand.aim, hand.speed, hand.side, hand.height, 0.0)
    aim = hand.aim * aim_effort(speed, side, height, elevation, demand.distance, end_mass_ratio) * demand.reach
    if demand.kicked:
        aim = math.hypot(aim, hand.rail * math.sqrt(demand.kicked))
    if demand.banked:
        aim = math.hypot(aim, hand.rail * math.sqrt(demand.banked) / max(demand.gain, 1.0))
    pace = speed_effort(speed, height, elevation, demand.distance) * math.sqrt(demand.reach)
    return Spread(aim, hand.speed * pace, hand.side, hand.height, hand.elevation if elevation > 0.0 else 0.0)
