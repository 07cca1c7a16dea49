"""What a table's cloth and rails are like, found from how balls were seen to run on it.

A track is a lone ball that rolls from its first sample on: over the bed, off rails, until it stops or is lost
from view. Rolling friction and rail restitution are common to all tracks; each has its own start, direction,
speed and a little side. They are found together by least squares on the simulator's own path (SciPy's
trust-region solver), and the spread of the residuals gives the standard errors.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import least_squares

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.parameters import LIMITS, physics_of
from aretane.core.physics.shot import Leg, simulate
from aretane.core.physics.stroke import FASTEST, Stroke
from aretane.core.table import Table

_FITTED = ("roll_friction", "rail_restitution")
_ROLLING = 0.4  # of the radius above centre: a ball struck there rolls at once
_SIDE_EXPECTED = 0.1  # of the radius: how much side a track may be thought to have
_PLACE_EXPECTED = 0.003  # m: how well the places are known, to weigh the side against them
_FEWEST = 6  # samples of a track


@dataclass(frozen=True)
class Fit:
    """The two parameters with their standard errors, and the root mean square of what is left, in metres."""

    roll_friction: float
    roll_friction_error: float
    rail_restitution: float
    rail_restitution_error: float
    residual: float
    samples: int

    def applied_to(self, table: Table) -> Table:
        """The table with the fitted parameters in its set."""
        found = {"roll_friction": self.roll_friction, "rail_restitution": self.rail_restitution}
        return replace(table, physics=tuple(sorted({**dict(table.physics), **found}.items())))


def fit_table(table: Table, tracks: Sequence[Floats]) -> Fit:
    """Fit a table to tracks (each n x 3: seconds, x, y). Raises `InputError` if they cannot tell the parameters."""
    for number, track in enumerate(tracks):
        if track.ndim != 2 or track.shape[1] != 3 or len(track) < _FEWEST or not np.isfinite(track).all():
            raise InputError(f"tracks[{number}]", f"needs at least {_FEWEST} samples of time, x and y")
    if not tracks:
        raise InputError("tracks", "at least one is needed")
    now = physics_of(table)
    start = [now.roll_friction, now.rail_restitution]
    low, high = [LIMITS[name][0] for name in _FITTED], [LIMITS[name][1] for name in _FITTED]
    low[0] = 1e-3
    for track in tracks:
        start += _first_guess(track)
        low += [track[0, 1] - 0.05, track[0, 2] - 0.05, -4 * math.pi, 0.01, -0.5]
        high += [track[0, 1] + 0.05, track[0, 2] + 0.05, 4 * math.pi, FASTEST, 0.5]
    scale = np.array([1e-3, 1e-2] + [1e-3, 1e-3, 1e-3, 1e-2, 1e-2] * len(tracks))
    found = least_squares(
        lambda values: _residuals(table, tracks, values),
        np.clip(start, low, high),
        bounds=(low, high),
        x_scale=scale,
        diff_step=1e-5,
        loss="soft_l1",
        f_scale=0.01,
    )
    left = _residuals(table, tracks, found.x)
    places = left[: sum(2 * len(track) for track in tracks)]
    variance = float(places @ places) / max(1, len(places) - len(found.x))
    spread = np.sqrt(np.maximum(np.diag(np.linalg.pinv(found.jac.T @ found.jac)), 0.0) * variance)
    return Fit(
        float(found.x[0]),
        float(spread[0]),
        float(found.x[1]),
        float(spread[1]),
        math.sqrt(float(places @ places) / len(places)),
        len(places) // 2,
    )


def _first_guess(track: Floats) -> list[float]:
    """Start, direction, speed and side of a track, from its first samples."""
    few = track[: max(3, min(5, len(track)))]
    (vx, _), (vy, _) = (np.polyfit(few[:, 0] - few[0, 0], few[:, axis], 1) for axis in (1, 2))
    return [track[0, 1], track[0, 2], math.atan2(vy, vx), max(0.02, math.hypot(vx, vy)), 0.0]


def _residuals(table: Table, tracks: Sequence[Floats], values: Floats) -> Floats:
    """Where the simulator has the ball less where it was seen; then what side is thought to be."""
    changes = {**dict(table.physics), **dict(zip(_FITTED, map(float, values[:2]), strict=True))}
    trial = replace(table, physics=tuple(sorted(changes.items())))
    off, sides = [], []
    for track, own in zip(tracks, values[2:].reshape(-1, 5), strict=True):
        x, y, aim, speed, side = (float(value) for value in own)
        layout = Layout(trial, "straight-pool", {CUE: (x, y)})
        course = simulate(layout, Stroke(speed=speed, aim=aim, side=side, height=_ROLLING)).legs[CUE]
        off.append((_places(course, track[:, 0] - track[0, 0]) - track[:, 1:]).ravel())
        sides.append(side / _SIDE_EXPECTED * _PLACE_EXPECTED)
    return np.concatenate([*off, np.array(sides)])


def _places(legs: Sequence[Leg], times: Floats) -> Floats:
    """Places (n x 2) at these times."""
    begins = np.array([leg.t for leg in legs])
    which = np.searchsorted(begins, times, side="right") - 1
    place = np.array([leg.place[:2] for leg in legs])[which]
    velocity = np.array([leg.velocity[:2] for leg in legs])[which]
    pull = np.array([leg.acceleration for leg in legs])[which]
    s = (times - begins[which])[:, None]
    return np.asarray(place + (velocity + pull * s / 2) * s)
