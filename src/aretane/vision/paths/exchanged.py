"""Balls that met and were taken for one another: their colours on the whole of their ways tell it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.paths.runner import Runner
from aretane.vision.paths.told import Mark

NEAR, APART = 1.5, 1.2  # ball diameters: so near they meet; so far apart their colours are told
FEWEST = 4  # looks that tell anything
CLEARLY = 0.8  # units of `told_apart`: how much better the other way round must fit
WHITER, STEADIER, NOISE = 8.0, 0.5, 3.0  # units of Lab; of the logarithm of how much looks vary; and their noise
FAR_WHITER = 2.5  # so much rather white is the cue ball that seems to have run on behind the ball that it hit
SOON, STOOD = 0.12, 0.02  # seconds after a meeting; m within which a ball stood
ROLLS = 0.5  # m/s on average, of a ball that nobody saw roll out
FARTHEST = 4.0  # such units too: a ball cannot look more unlike than that


def told_apart(runners: Sequence[Runner], cue: str, diameter: float, unit: float) -> None:
    """Give each its own way after every meeting of two. `unit` is the difference of colours that counts as one."""
    ran = sorted((one for one in runners if one.ran and one.colour is not None), key=lambda one: one.ball != cue)
    for one, other in combinations(ran, 2):
        meetings = _meetings(one, other, diameter)
        for n, met in enumerate(meetings):
            until = meetings[n + 1] if n + 1 < len(meetings) else np.inf
            ours = _clear_looks(one, other, met, until, diameter)
            theirs = _clear_looks(other, one, met, until, diameter)
            if min(len(ours), len(theirs)) < FEWEST:
                continue
            if one.ball == cue:
                exchanged = _rather_white(theirs, ours) > (FAR_WHITER if _sent_ahead(one, other, met) else 1.0)
            else:
                off = _like_the_other(ours, one, other, unit) + _like_the_other(theirs, other, one, unit)
                exchanged = off > CLEARLY
            if exchanged:
                _exchange(one, other, met)


def told_by_rest(left: Sequence[Runner], cue: str, white: Point, diameter: float) -> None:
    """Give the cue ball the way that ends at `white`, where it lies in the end; `left` are the balls that moved.
    A cue ball that seems to end elsewhere gave its way, when they met, to the ball that seems to end there, or
    to one that it met and nobody saw run.
    """
    own = next((one for one in left if one.ball == cue and one.ran and not one.lost), None)
    if own is None or _ends_at(own, white, diameter):
        return
    for other in left:
        if other is not own and other.ran and _ends_at(other, white, diameter):
            if meetings := _meetings(own, other, diameter):
                _exchange(own, other, meetings[-1])
            return
    met = [
        (meetings[0], other)
        for other in left
        if len(other.marks) == 1 and (meetings := _meetings(own, other, diameter))
    ]  # fmt: skip
    if met:
        at, other = min(met, key=lambda one: one[0])
        other.marks = [mark for mark in other.marks if mark.t <= at] or other.marks[:1]
        _exchange(own, other, at)
        own.marks.append(Mark(at + max(SOON, math.dist(own.place, white) / ROLLS), white))
        own.runs, own.lost, other.ran = False, False, True


def _ends_at(one: Runner, place: Point, diameter: float) -> bool:
    return one.pocket is None and math.dist(one.place, place) < NEAR * diameter


def _meetings(one: Runner, other: Runner, diameter: float) -> list[float]:
    """The times at which they were nearest to each other, and near."""
    times = np.array(sorted({mark.t for mark in (*one.marks, *other.marks)}))
    away = np.linalg.norm(_places(one, times) - _places(other, times), axis=1)
    near = np.concatenate([[False], away < NEAR * diameter, [False]])
    starts, ends = np.nonzero(near[1:] & ~near[:-1])[0], np.nonzero(~near[1:] & near[:-1])[0]
    return [float(times[a + int(np.argmin(away[a:b]))]) for a, b in zip(starts, ends, strict=True)]


def _places(one: Runner, times: NDArray[np.float64]) -> NDArray[np.float64]:
    at = [mark.t for mark in one.marks]
    return np.column_stack([np.interp(times, at, [mark.place[axis] for mark in one.marks]) for axis in (0, 1)])


def _clear_looks(way: Runner, rest: Runner, since: float, until: float, diameter: float) -> NDArray[np.float64]:
    """Its colours (n x 3) where the other was not beside it."""
    times = np.array([t for t in way.looks if since < t < until])
    if len(times):
        times = times[np.linalg.norm(_places(way, times) - _places(rest, times), axis=1) > APART * diameter]
    return np.array([way.looks[float(t)] for t in times]).reshape(-1, 3)


def _sent_ahead(one: Runner, other: Runner, met: float) -> bool:
    """Whether a ball that stood is, soon after the one that hit it, ahead of that: as no ball runs through another
    they are hardly exchanged."""
    stood = [mark.place for mark in other.marks if mark.t <= met]
    came = [mark.place for mark in one.marks if mark.t <= met][-2:]
    if len(came) < 2 or not stood or max(math.dist(place, stood[0]) for place in stood) > STOOD:
        return False
    ahead = np.array(came[1]) - came[0]
    ours, theirs = (_places(each, np.array([met + SOON]))[0] for each in (one, other))
    return float((theirs - ours) @ ahead) > 0.0


def _rather_white(looks: NDArray[np.float64], than: NDArray[np.float64]) -> float:
    """How much rather it is the cue ball, from 1 on surely: whiter, and white all along; numbers and stripes come
    to light and go."""
    white, other = (np.median(one[:, 0] - 2 * np.hypot(one[:, 1], one[:, 2])) for one in (looks, than))
    steady, unsteady = (float(one.std(axis=0).sum()) + NOISE for one in (looks, than))
    return float((white - other) / WHITER + math.log(unsteady / steady) / STEADIER)


def _like_the_other(looks: NDArray[np.float64], own: Runner, other: Runner, unit: float) -> float:
    return _unlike(looks, own, unit) - _unlike(looks, other, unit)


def _unlike(looks: NDArray[np.float64], ball: Runner, unit: float) -> float:
    assert ball.colour is not None
    return float(np.minimum(np.linalg.norm(looks - ball.colour, axis=1) / unit, FARTHEST).mean())


def _exchange(one: Runner, other: Runner, since: float) -> None:
    """What each did after that time was done by the other."""
    marks = [[mark for mark in each.marks if mark.t > since] for each in (other, one)]
    looks = [{t: look for t, look in each.looks.items() if t > since} for each in (other, one)]
    ends = [(each.pocket, each.runs, each.lost) for each in (other, one)]
    for each, after, seen, end in zip((one, other), marks, looks, ends, strict=True):
        each.marks = [mark for mark in each.marks if mark.t <= since] + after
        each.looks = {t: look for t, look in each.looks.items() if t <= since} | seen
        each.pocket, each.runs, each.lost = end
