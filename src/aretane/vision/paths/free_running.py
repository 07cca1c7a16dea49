"""Stretches of found shots on which a ball ran alone: what they tell of the cloth and the rails."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from aretane.core.errors import InputError
from aretane.core.physics.fit import Fit, fit_table
from aretane.core.table import Table
from aretane.vision.paths.told import Event, Mark
from aretane.vision.shots.watch import Shot

Floats = NDArray[np.float64]

SETTLES = 0.5  # seconds after a contact, within which a ball has come to roll: sliding lasts 2 v / 7 mu g
SHORTEST, FEWEST, MOST_PLACES = 0.35, 10, 20  # m; places on a stretch
FIRST = 5  # places that are all kept: they tell direction and speed
AS_SEEN = 0.01  # m: a stretch that no free run explains so well has something on its way
ALIKE = 3.0  # the camera errs alike for places beside each other, so that nine of them tell what one would
MOST, ENOUGH = 14, 3  # stretches that are fitted, the longest; and without which nothing is told


def table_told(table: Table, shots: Sequence[Shot]) -> tuple[Fit, list[Floats]]:
    """The table's cloth and rails as these shots' ways have them, and the stretches that tell it. Raises
    `InputError` where there are too few."""
    longest = sorted(_stretches(shots), key=_length, reverse=True)[:MOST]
    stretches = [one for one in longest if fit_table(table, [one]).residual < AS_SEEN]
    if len(stretches) < ENOUGH:
        words = "too few balls were followed running alone; it takes a recording with 15 pictures a second or more"
        raise InputError("recording", words)
    fit = fit_table(table, stretches)
    wider = {name: ALIKE * getattr(fit, name) for name in ("roll_friction_error", "rail_restitution_error")}
    return replace(fit, **wider), stretches


def metres_of(stretches: Sequence[Floats]) -> float:
    """How far balls ran on them."""
    return sum(_length(one) for one in stretches)


def _stretches(shots: Sequence[Shot]) -> Iterator[Floats]:
    for shot in shots:
        for track, marks in shot.paths.items():
            met = sorted(one.t for one in shot.events if _disturbs(one, str(track)))
            rails = [one.t for one in shot.events if one.kind == "rail" and str(track) in one.balls]
            for begin, end in pairwise([*met, math.inf]):
                start = begin + SETTLES
                start = max([start, *(t + SETTLES / 2 for t in rails if abs(t - start) < SETTLES / 2)])
                own = [mark for mark in marks if start < mark.t < end - 0.02]
                if len(own) >= FEWEST and _length(thinned := _thinned(own)) > SHORTEST:
                    yield thinned


def _disturbs(event: Event, ball: str) -> bool:
    return ball in event.balls and event.kind in ("strike", "contact", "pocket")


def _thinned(marks: Sequence[Mark]) -> Floats:
    later = np.linspace(FIRST, len(marks) - 1, min(MOST_PLACES, len(marks) - FIRST)).round().astype(int)
    chosen = np.unique(np.concatenate([np.arange(FIRST), later]))
    return np.array([[marks[n].t - marks[0].t, *marks[n].place] for n in chosen])


def _length(stretch: Floats) -> float:
    return float(np.linalg.norm(np.diff(stretch[:, 1:], axis=0), axis=1).sum())
