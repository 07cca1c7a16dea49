"""How well running balls are followed: the paths and events of a synthetic recording beside its truth."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np

from aretane.core.ball import CUE

NEAR = 0.04  # m: what is found so near to a ball before the stroke is that ball
PACK = 6  # balls: where more run, a pack was scattered, and nothing is followed
EARLIER = 0.3  # seconds before the stroke, at which the layout is compared
KNOWN = 0.06  # m: of a true path, so near to the found one it is told


def measure(pairs: Sequence[tuple[Mapping[str, Any], Any]], frames: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """True shots beside those that were found for them. What cannot be told of one counts as wrong."""
    offs: list[float] = []
    told = ran = 0
    counts = dict.fromkeys(("shots", "first", "rails", "fell", "fell_right"), 0)
    for shot, found in pairs:
        if "paths" not in shot or len(shot["paths"]) > PACK:
            continue
        balls = _balls_of(found, min(frames, key=lambda one: abs(one["t"] - shot["contact"] + EARLIER))["balls"])
        paths = {balls[track]: marks for track, marks in found.paths.items() if track in balls}
        events = [
            replace(one, balls=tuple(balls.get(int(track), track) for track in one.balls)) for one in found.events
        ]
        for ball, path in shot["paths"].items():
            ours = paths.get(ball, [])
            offs += _offs(ours, path)
            near, of = _covered(ours, path)
            told, ran = told + near, ran + of
        for key, right in _compared(events, shot).items():
            counts[key] += right
        counts["shots"] += 1
    return {
        "path_mm": [round(1000 * float(np.percentile(offs, share)), 1) for share in (50, 95)] if offs else None,
        "path_told": round(told / max(1, ran), 3),
        "path_events": counts,
    }


def _balls_of(found: Any, places: Mapping[str, Sequence[float]]) -> dict[int, str]:
    """Which ball each followed one is: the nearest that truly stood there."""
    named = {}
    for one in found.before:
        ball = min(places, key=lambda ball: math.dist(places[ball], one.place))
        if math.dist(places[ball], one.place) < NEAR:
            named[one.track] = ball
    return named


def _offs(ours: Sequence[Any], path: Sequence[Sequence[float]]) -> list[float]:
    """How far our marks are from where the ball truly was, while it ran."""
    times = [one[0] for one in path]
    return [
        math.dist(
            mark.place, tuple(float(np.interp(mark.t, times, [one[axis] for one in path])) for axis in (1, 2))
        )
        for mark in ours
        if times and times[0] <= mark.t <= times[-1]
    ]


def _covered(ours: Sequence[Any], path: Sequence[Sequence[float]]) -> tuple[int, int]:
    """Of the times at which a ball truly ran, at how many our path is near."""
    moves = [b for a, b in pairwise(path) if math.dist(a[1:], b[1:]) > 0.001]
    if len(ours) < 2:
        return 0, len(moves)
    times = [mark.t for mark in ours]
    near = 0
    for t, x, y in moves:
        at = tuple(float(np.interp(t, times, [mark.place[axis] for mark in ours])) for axis in (0, 1))
        near += math.dist(at, (x, y)) < KNOWN
    return near, len(moves)


def _compared(told_events: Sequence[Any], shot: Mapping[str, Any]) -> dict[str, int]:
    """First contact, rails of the cue ball after it, what fell where, and what came to rest."""
    events = shot["events"]
    first = next((one for one in events if one["kind"] == "contact" and CUE in one["balls"]), None)
    after = first["t"] if first else math.inf
    rails = {
        (one["rail"]) for one in events if one["kind"] == "rail" and one["balls"][0] == CUE and one["t"] > after
    }
    fell = {one["balls"][0]: one["pocket"] for one in events if one["kind"] == "pocket"}
    ours = next((one for one in told_events if one.kind == "contact" and CUE in one.balls), None)
    since = ours.t if ours else math.inf
    our_rails = {one.what for one in told_events if one.kind == "rail" and one.balls[0] == CUE and one.t > since}
    our_fell = {one.balls[0]: one.what for one in told_events if one.kind == "pocket"}
    other = _other(first["balls"]) if first else None
    told = _other(ours.balls) if ours else None
    all_fell = {*fell, *our_fell}
    return {
        "first": int(other == told),
        "rails": int(len(rails) == len(our_rails)),
        "fell": len(all_fell),
        "fell_right": sum(fell.get(ball) == our_fell.get(ball) for ball in all_fell),
    }


def _other(balls: Sequence[str]) -> str:
    return next((ball for ball in balls if ball != CUE), CUE)
