"""The plain stroke first: one entry for each idea, and among strokes that are worth the same the simplest leads.

Common practice: as little side as will do, then as slow, then with as few rails, then moving as little else.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.hit import first_hit
from aretane.core.physics.shot import Shot
from aretane.core.planning.choices.option import ATTACK, SAFE, Option

ONE_POINT = 0.01
STILL = 0.02  # m: a ball moved less stays where it was, to a coach


def plain_first(found: Sequence[Option]) -> list[Option]:
    """The ideas in their order: those of the best one's sort not told apart from it, the plainest leading; then by
    worth. An attack and a safety are not put in order by plainness: a soft safety is plainer than most pots.
    """
    ideas: dict[tuple[object, ...], list[Option]] = {}
    for option in sorted(found, key=lambda one: -one.win):
        ideas.setdefault(_idea(option), []).append(option)
    entries = [_entry(strokes) for strokes in ideas.values()]
    if not entries:
        return []
    best = max(entries, key=lambda one: one.win)
    level = [one for one in entries if _sort(one) == _sort(best) and not told_apart(best, one)]
    rest = [one for one in entries if all(one is not other for other in level)]
    return sorted(level, key=plainness) + sorted(rest, key=lambda one: -one.win)


def plainness(option: Option) -> tuple[float, ...]:
    """Least side, then speed, then rails, then what it moves; differences that nobody feels do not count."""
    stroke = option.stroke
    return round(abs(stroke.side) / 0.1), round(stroke.speed / 0.2), option.rails, len(option.moves), -option.win


def told_apart(best: Option, other: Option) -> bool:
    """Whether the difference to the best is more than its own uncertainty, and than one point."""
    less = best.win - other.win
    return less > max(ONE_POINT, 1.96 * _spread_of_difference(best, other))


def _spread_of_difference(one: Option, other: Option) -> float:
    """Two options of a sort are compared sample by sample, under the same errors; else each has its own
    interval.
    """
    a, b = one.value.samples, other.value.samples
    if len(a) == len(b) > 1 and _sort(one) == _sort(other):
        return float(np.std(a - b, ddof=1)) / math.sqrt(len(a))
    halves = ((v.value.win.high - v.value.win.low) / 2 / 1.96 for v in (one, other))
    return math.hypot(*halves)


def _sort(option: Option) -> str:
    return "attack" if option.intent in ATTACK else "safe" if option.intent in SAFE else option.intent


def _idea(option: Option) -> tuple[object, ...]:
    """Ball, pocket, route and purpose; a stroke that somebody played or added stands by itself."""
    own = option.also if {"played", "added"} & set(option.also) else ()
    return (
        option.struck,
        option.ball,
        option.pocket,
        option.kind,
        option.route,
        _sort(option),
        option.stroke.place,
        own,
    )


def _entry(strokes: Sequence[Option]) -> Option:
    """One idea's strokes (the best first) as one entry: the plainest that is not told apart leads."""
    level = [one for one in strokes if not told_apart(strokes[0], one)]
    leading = min(level, key=plainness)
    return replace(leading, variations=tuple(one for one in strokes if one is not leading))


def route_of(shot: Shot) -> str:
    """The rails of the cue ball in their order, before the first contact and after it."""
    hit = next((e.t for e in shot.events if e.kind == "contact" and CUE in e.balls), math.inf)
    rails = [(e.t, e.rail) for e in shot.events if e.kind == "rail" and e.balls[0] == CUE and e.rail]
    before = [rail for t, rail in rails if t < hit]
    after = [rail for t, rail in rails if t >= hit]
    way = ", ".join(after) if after else "no rail"
    return f"by {', '.join(before)}; then {way}" if before else way


def run_after(before: Layout, shot: Shot) -> float:
    """How far the cue ball runs after the first contact (m); all the way where it hits nothing."""
    hit = first_hit(before, shot)
    since = hit.t if hit is not None else 0.0
    places = [leg.place[:2] for leg in shot.legs[CUE] if leg.t >= since - 1e-9]
    return sum(math.dist(a, b) for a, b in pairwise(places))


def moved_by(before: Layout, shot: Shot, meant: str | None) -> tuple[str, ...]:
    """The balls that a shot moves besides the one that is meant and the cue ball."""
    hit = first_hit(before, shot)
    spared = {CUE, meant, hit.ball if hit is not None and meant is None else meant}
    return tuple(
        ball
        for ball, place in before.balls.items()
        if ball not in spared and math.dist(place, shot.final.balls.get(ball, (math.inf, 0.0))) > STILL
    )
