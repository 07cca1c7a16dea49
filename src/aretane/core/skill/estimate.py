"""A player's hand, estimated from the record: pots speak of aim, positions and lags of speed, kicks and banks
of rails.

Every try has its own difficulty, the half-angle of aim that pots it and what the stroke asked of the hand, so
a player who chooses easy shots does not seem better than he is. A pot comes off when the error of the cue ball's
direction stays inside that angle; unintended side and the table throw the ball besides (`effort.thrown_off`).
The prior is broad about the club player, or the preset that the coach thinks most like this one. Nothing that
is logged tells the tip's place or a raised cue from the aim: they stay at what players of this aim usually have.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from scipy.special import erf

from aretane.core.physics.compiled import Floats
from aretane.core.skill.effort import thrown_off
from aretane.core.skill.hand import LEVELS, PRESETS, Hand, usual_hand

# How differently jaws and rails take a ball: spread of ln(half-angle that pots) about
# `geometry.potting_window`, over random pots in the simulator (tests/core/geometry hold it).
JAW_SPREAD = 0.33
AIM_SPREAD = 0.8  # standard deviation of ln(aim) before anything is known: a factor of 2.2 either way
SPEED_SPREAD = 0.5
RAIL_SPREAD = 0.5
LUCKY, LOST = 0.02, 0.04  # pots that no aim explains; sure ones lost to the cue ball's own pocket or a rattle
ZONE = 0.03  # m: the part of a position error that the zone's own size hides (assumed)
# What a whole of speed does to where the cue ball stops, in ways: a rolling ball runs as the square of its speed, a
# rail turns it back, draw and a short follow do more. Shares of shots, over random pots in the simulator.
RUNS = ((0.5, 0.28), (1.2, 0.3), (2.1, 0.32), (3.5, 0.1))
# What a fuller or thinner hit, the tip's height and the table do to the way of the cue ball, at a
# professional's aim, and how it grows with the aim's error (simulated with no error of speed: .051 .077 .112
# .187 of the way).
BENDS, BENDS_AT, BENDS_GROW = 0.051, math.radians(0.04), 0.565
POTS_COUNT = 0.78  # of a pot, of a position: the model knows a shot's window and way, not all that it did
COUNTS = 0.6
LAG_LENGTHS = 5.9  # m for each whole of speed: how far a lag of two lengths strays (the simulator)
SPEAKS = 0.75  # the record speaks when it leaves less than this of the prior's spread

_AIMS = np.geomspace(math.radians(0.008), math.radians(4.0), 500)
_SPEEDS = np.geomspace(0.005, 0.8, 400)
_RAILS = np.geomspace(math.radians(0.2), math.radians(12.0), 300)
# A window that is not quite the geometrical one: three points of its spread and their weights (Gauss and Hermite).
_WINDOWS = ((math.exp(-1.732 * JAW_SPREAD), 1 / 6), (1.0, 2 / 3), (math.exp(1.732 * JAW_SPREAD), 1 / 6))
_SHARP = ((1.0, 1.0),)  # a ball that a kick must hit has no jaws


@dataclass(frozen=True)
class Tried:
    """One pot of the record: the half-angle of the cue ball's direction that makes it (radians), and whether
    it was made. `effort`: factor of the stroke on the aim's error; `gain`: turn of the ball for each radian of
    aim; `rails` of a kick or bank.
    """

    window: float
    made: bool
    effort: float = 1.0
    gain: float = 15.0
    rails: int = 0
    banked: bool = False


@dataclass(frozen=True)
class Stopped:
    """One position: how far the cue ball ran after the contact and by how much too far (m, signed; 0 in the
    zone). `effort`: factor of the stroke on the speed's error.
    """

    travel: float
    along: float
    effort: float = 1.0


@dataclass(frozen=True)
class Lagged:
    """A lag: how far from the head nose the ball stopped (m), over a table of this length."""

    off: float
    length: float


@dataclass(frozen=True)
class Record:
    """What is logged of one player on one kind of table."""

    tried: Sequence[Tried] = ()
    stopped: Sequence[Stopped] = ()
    lagged: Sequence[Lagged] = ()


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
    """Aim, rail and elevation in radians, speed relative, side and height in radii; `hand` has the medians.
    `says`: in words how good that is; `needs`: what would sharpen it.
    """

    hand: Hand
    aim: Parameter
    speed: Parameter
    side: Parameter
    height: Parameter
    rail: Parameter
    elevation: Parameter
    says: str
    needs: tuple[str, ...] = field(default=())


def estimate_hand(record: Record, prior: str = "club", presets: Mapping[str, Hand] = PRESETS) -> Estimate:
    """The hand behind a record; without one, the prior's. `presets` are those of the kind of table."""
    before = presets[prior]
    plain = [one for one in record.tried if one.rails == 0]
    aim = _parameter(_AIMS, _aim_posterior(plain, before, presets), len(plain), AIM_SPREAD)
    usual = usual_hand(aim.value, presets)
    known = len(record.stopped) + len(record.lagged)
    speed = _parameter(_SPEEDS, _speed_posterior(record, usual), known, SPEED_SPREAD)
    railed = [one for one in record.tried if one.rails > 0]
    rail = _parameter(_RAILS, _rail_posterior(railed, usual), len(railed), RAIL_SPREAD)
    hand = replace(usual, speed=speed.value, rail=rail.value)
    return Estimate(
        hand, aim, speed, _stays(usual.side), _stays(usual.height), rail, _stays(usual.elevation),
        _says(aim, speed, plain, presets), _needs(aim, speed, rail),
    )  # fmt: skip


def pot_chance(window: float, hand: Hand, effort: float = 1.0, gain: float = 15.0) -> float:
    """How often this hand makes a plain pot of this half-angle of aim: the normal integral over it."""
    spread = np.array([math.hypot(hand.aim * effort, thrown_off(hand) / gain)])
    return float(_inside(np.array([window]), spread[None])[0, 0])


def _inside(windows: Floats, spreads: Floats, parts: Sequence[tuple[float, float]] = _WINDOWS) -> Floats:
    """Chances (tries x spreads) that a normal error stays inside each window, whose jaws are not known to a
    hair.
    """
    chance = np.zeros(spreads.shape)
    for factor, weight in parts:
        window = factor * windows[:, None]
        chance += weight * np.where(spreads > 0, erf(window / np.maximum(spreads, 1e-12) / math.sqrt(2.0)), 1.0)
    return chance


def _aim_posterior(tried: Sequence[Tried], before: Hand, presets: Mapping[str, Hand]) -> Floats:
    log = -0.5 * ((np.log(_AIMS) - math.log(max(before.aim, 1e-6))) / AIM_SPREAD) ** 2
    if tried:
        thrown = np.array([thrown_off(usual_hand(float(aim), presets)) for aim in _AIMS])
        effort = np.array([one.effort for one in tried])[:, None]
        gain = np.array([max(one.gain, 1.0) for one in tried])[:, None]
        log += _likelihood(tried, np.hypot(_AIMS[None, :] * effort, thrown[None, :] / gain))
    return _normalised(log)


def _rail_posterior(railed: Sequence[Tried], usual: Hand) -> Floats:
    """Kicks and banks: judging the rail on top of the aim that is known."""
    log = -0.5 * ((np.log(_RAILS) - math.log(usual.rail)) / RAIL_SPREAD) ** 2
    if railed:
        share = np.array([math.sqrt(one.rails) / (max(one.gain, 1.0) if one.banked else 1.0) for one in railed])
        own = np.array([usual.aim * one.effort for one in railed])
        log += _likelihood(railed, np.hypot(own[:, None], _RAILS[None, :] * share[:, None]), _SHARP)
    return _normalised(log)


def _likelihood(tried: Sequence[Tried], spreads: Floats, parts: Sequence[tuple[float, float]] = _WINDOWS) -> Floats:
    """Log-likelihood of what was made and missed (one for each column of `spreads`)."""
    made = np.array([one.made for one in tried])
    chance = _inside(np.array([one.window for one in tried]), spreads, parts)
    chance = LUCKY + (1.0 - LUCKY - LOST) * chance
    return np.asarray(POTS_COUNT * np.where(made[:, None], np.log(chance), np.log1p(-chance)).sum(axis=0))


def _speed_posterior(record: Record, usual: Hand) -> Floats:
    """The error along goes with the speed's error times the way; how much so differs from shot to shot (`RUNS`)."""
    log = -0.5 * ((np.log(_SPEEDS) - math.log(max(usual.speed, 1e-6))) / SPEED_SPREAD) ** 2
    if record.stopped:
        travel = np.array([one.travel for one in record.stopped])
        pace = travel * np.array([one.effort for one in record.stopped])
        along = np.array([one.along for one in record.stopped])
        own = np.hypot(BENDS * (usual.aim / BENDS_AT) ** BENDS_GROW * travel, ZONE)
        density = np.zeros((len(along), len(_SPEEDS)))
        for runs, share in RUNS:
            density += share * _student(along, np.hypot(runs * pace[:, None] * _SPEEDS[None, :], own[:, None]))
        log += COUNTS * np.log(density).sum(axis=0)
    if record.lagged:
        off = np.array([one.off for one in record.lagged])
        way = np.array([LAG_LENGTHS * one.length / 2.54 for one in record.lagged])
        log += np.log(_student(off, np.hypot(way[:, None] * _SPEEDS[None, :], ZONE))).sum(axis=0)
    return _normalised(log)


_FREEDOM, _CORE = 4.0, 1.13  # of Student's t: two errors in three lie inside this many scales


def _student(errors: Floats, scales: Floats) -> Floats:
    """Densities (errors x scales, up to a factor) of errors, two in three of which lie inside the scales:
    Student's t, for one kiss changes everything.
    """
    scales = scales / _CORE
    return np.asarray((1.0 + (errors[:, None] / scales) ** 2 / _FREEDOM) ** (-0.5 * (_FREEDOM + 1.0)) / scales)


def _normalised(log: Floats) -> Floats:
    weight = np.exp(log - log.max())
    return np.asarray(weight / weight.sum())


def _parameter(values: Floats, weight: Floats, n: int, prior_spread: float) -> Parameter:
    cumulated = np.cumsum(weight)
    places = np.minimum(np.searchsorted(cumulated, (0.025, 0.5, 0.975)), len(values) - 1)
    low, middle, high = (float(values[place]) for place in places)
    logs = np.log(values)
    mean = float((weight * logs).sum())
    spread = math.sqrt(float((weight * (logs - mean) ** 2).sum()))
    return Parameter(middle, low, high, n, n > 0 and spread < SPEAKS * prior_spread)


def _stays(value: float) -> Parameter:
    return Parameter(value, value * math.exp(-1.96 * SPEED_SPREAD), value * math.exp(1.96 * SPEED_SPREAD), 0, False)


# In words.

STRAIGHT_GAIN = 1.35  # a level is half-way, in ln(aim), between two presets; this much apart is worth a word


def level_of(aim: float, presets: Mapping[str, Hand] = PRESETS) -> str:
    """How good an aim is, in words: like one preset, or between two."""
    logs = [math.log(presets[level].aim) for level in LEVELS]
    at = math.log(max(aim, 1e-9))
    if at >= logs[0] + 0.2:
        return "below beginner"
    if at <= logs[-1] - 0.2:
        return "better than our professional"
    nearest = min(range(len(LEVELS)), key=lambda i: abs(logs[i] - at))
    if abs(logs[nearest] - at) < 0.2:
        return (
            f"like a {LEVELS[nearest]} player"
            if LEVELS[nearest] in ("club", "league")
            else f"like a {LEVELS[nearest]}"
        )
    other = nearest + 1 if at < logs[nearest] else nearest - 1
    low, high = sorted((nearest, other))
    return f"between {LEVELS[low]} and {LEVELS[high]}"


def nearest_level(aim: float, presets: Mapping[str, Hand] = PRESETS) -> str:
    """The preset whose aim is nearest, in ln."""
    return min(LEVELS, key=lambda level: abs(math.log(presets[level].aim / max(aim, 1e-9))))


def _says(aim: Parameter, speed: Parameter, tried: Sequence[Tried], presets: Mapping[str, Hand]) -> str:
    if not tried:
        return "nothing is on record yet: these are the usual errors of such a player"
    words = (
        level_of(aim.value, presets)
        if aim.speaks
        else f"too few tries to tell: as it looks {level_of(aim.value, presets)}"
    )
    if not aim.speaks:
        return words
    best, worst = nearest_level(aim.low, presets), nearest_level(aim.high, presets)
    parts = [words if best == worst else f"{words} (it may be {best} to {worst})"]
    if speed.speaks:
        pace = min(LEVELS, key=lambda level: abs(math.log(presets[level].speed / speed.value)))
        parts.append(f"speed like a {pace}{' player' if pace in ('club', 'league') else ''}")
    return "; ".join(parts)


def _needs(aim: Parameter, speed: Parameter, rail: Parameter) -> tuple[str, ...]:
    """What the coach can log to know more."""
    found = []
    if not aim.speaks or aim.high > 1.5 * aim.low:
        found.append("more tries with ball, pocket and places, most of all such as are made about half of the time")
    if not speed.speaks:
        found.append(
            "more positions with a stated target, on shots where the cue ball runs a metre or more, and lags"
        )
    if not rail.speaks:
        found.append("kicks and banks with ball, pocket and places")
    found.append("the tip's place and a raised cue stay assumed: nothing that is logged tells them from aim")
    return tuple(found)
