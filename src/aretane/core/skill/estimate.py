"""A player's hand, estimated from the record: logged pots speak of aim, position errors of speed.

Every try has its own difficulty, the half-angle of aim that pots it, so a player who chooses easy shots does not
seem better than he is. A pot comes off when the error of aim stays inside that angle; the error of the tip to the
side turns the cue ball as well (squirt) and is counted in. The presets are the prior: a broad one about the hand
that the coach thinks most like the player. Nothing in pots and position errors tells the tip's place from the
aim: side and height stay at what players of this aim usually have.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import erf

from aretane.core.physics.compiled import Floats
from aretane.core.skill.hand import PRESETS, Hand

# Jaws and the rails beside them take a little more than the clear way between the tips: the ratio of the half-angle
# that pots in the simulator to the geometrical one, its median over random pots (tests/core/skill holds it).
JAW_GAIN = 1.25
AIM_SPREAD = 0.8  # standard deviation of ln(aim) before anything is known: a factor of 2.2 either way
SPEED_SPREAD = 0.5
SQUIRT = 2.5 / (1.0 + 28.0 + 2.5)  # rad for each radius of side, a usual cue (core/physics/cue)
ZONE = 0.05  # m: the part of a position error that the zone's own size hides (assumed)
SPEAKS = 0.6  # the record speaks when it leaves less than this of the prior's spread

_AIMS = np.geomspace(math.radians(0.01), math.radians(6.0), 600)
_SPEEDS = np.geomspace(0.005, 0.8, 500)


@dataclass(frozen=True)
class Tried:
    """One pot of the record: the half-angle of aim that makes it (radians), and whether it was made."""

    tolerance: float
    made: bool


@dataclass(frozen=True)
class Stopped:
    """One position: how far the cue ball ran after the contact and by how much too far (m, signed; 0 in the
    zone).
    """

    travel: float
    along: float


@dataclass(frozen=True)
class Parameter:
    """One of the hand's errors with its 95 % interval. `speaks`: the record narrowed it; otherwise it is the
    prior.
    """

    value: float
    low: float
    high: float
    n: int
    speaks: bool


@dataclass(frozen=True)
class Estimate:
    """Aim in radians, speed relative, side and height in radii; `hand` has the medians. `needs`: what would
    sharpen.
    """

    hand: Hand
    aim: Parameter
    speed: Parameter
    side: Parameter
    height: Parameter
    needs: tuple[str, ...]


def estimate_hand(tried: Sequence[Tried], stopped: Sequence[Stopped], prior: str = "club") -> Estimate:
    """The hand behind a record; without one, the prior's."""
    before = PRESETS[prior]
    weight = _aim_posterior(tried, before)
    aim = _parameter(_AIMS, weight, len(tried), AIM_SPREAD)
    usual = hand_of_aim(aim.value)
    speeds = _speed_posterior(stopped, usual.speed)
    speed = _parameter(_SPEEDS, speeds, len(stopped), SPEED_SPREAD)
    side = _stays(usual.side)
    hand = Hand(aim.value, speed.value, usual.side, usual.height)
    return Estimate(hand, aim, speed, side, _stays(usual.height), _needs(aim, speed))


def hand_of_aim(aim: float) -> Hand:
    """What players of this aim usually have: between the presets in proportion of ln(aim), beyond them by ratio."""
    ordered = sorted(PRESETS.values(), key=lambda hand: hand.aim)
    logs = np.log([hand.aim for hand in ordered])
    at = math.log(aim)

    def between(name: str) -> float:
        values = np.log([getattr(hand, name) for hand in ordered])
        inside = float(np.interp(at, logs, values))
        beyond = min(0.0, at - float(logs[0])) + max(0.0, at - float(logs[-1]))
        return math.exp(inside + 0.5 * beyond)

    return Hand(aim, between("speed"), between("side"), between("height"))


def pot_chance(tolerance: float, hand: Hand) -> float:
    """How often this hand makes a pot of this half-angle of aim: the normal integral over it."""
    return float(_chances(np.array([tolerance]), np.array([hand.aim]), hand.side / hand.aim)[0, 0])


def _chances(tolerances: Floats, aims: Floats, side_ratio: float) -> Floats:
    """Chances (tries x aims); `side_ratio`: the side's error for each radian of aim's."""
    spread = aims * math.hypot(1.0, SQUIRT * side_ratio)
    return np.asarray(erf(JAW_GAIN * tolerances[:, None] / spread[None, :] / math.sqrt(2.0)))


def _aim_posterior(tried: Sequence[Tried], before: Hand) -> Floats:
    log = -0.5 * ((np.log(_AIMS) - math.log(before.aim)) / AIM_SPREAD) ** 2
    if tried:
        tolerances = np.array([one.tolerance for one in tried])
        made = np.array([one.made for one in tried])
        # Now and then a ball goes or stays out for reasons that no error of aim explains.
        chance = np.clip(_chances(tolerances, _AIMS, before.side / before.aim), 0.01, 0.99)
        log += np.where(made[:, None], np.log(chance), np.log1p(-chance)).sum(axis=0)
    weight = np.exp(log - log.max())
    return np.asarray(weight / weight.sum())


def _speed_posterior(stopped: Sequence[Stopped], usual: float) -> Floats:
    """A rolling ball runs as the square of its speed: its error along is twice the speed's times the way."""
    log = -0.5 * ((np.log(_SPEEDS) - math.log(usual)) / SPEED_SPREAD) ** 2
    if stopped:
        travel = np.array([one.travel for one in stopped])
        along = np.array([one.along for one in stopped])
        variance = (2.0 * travel[:, None] * _SPEEDS[None, :]) ** 2 + ZONE**2
        log += (-0.5 * along[:, None] ** 2 / variance - 0.5 * np.log(variance)).sum(axis=0)
    weight = np.exp(log - log.max())
    return np.asarray(weight / weight.sum())


def _parameter(values: Floats, weight: Floats, n: int, prior_spread: float) -> Parameter:
    cumulated = np.cumsum(weight)
    low, middle, high = (float(values[np.searchsorted(cumulated, q)]) for q in (0.025, 0.5, 0.975))
    logs = np.log(values)
    mean = float((weight * logs).sum())
    spread = math.sqrt(float((weight * (logs - mean) ** 2).sum()))
    return Parameter(middle, low, high, n, n > 0 and spread < SPEAKS * prior_spread)


def _stays(value: float) -> Parameter:
    return Parameter(value, value * math.exp(-1.96 * SPEED_SPREAD), value * math.exp(1.96 * SPEED_SPREAD), 0, False)


def _needs(aim: Parameter, speed: Parameter) -> tuple[str, ...]:
    """What the coach can log to know more."""
    found = []
    if not aim.speaks or aim.high > 1.5 * aim.low:
        found.append("more tries with ball, pocket and places, most of all such as are made about half of the time")
    if not speed.speaks:
        found.append("more positions with a stated target, on shots where the cue ball runs a metre or more")
    found.append("side and height stay assumed: nothing that is logged tells them from aim")
    return tuple(found)
