"""Where a ball should stop: at a place, or wherever the next ball is seen and goes at an angle."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout, on_table
from aretane.core.physics.compiled import Floats
from aretane.core.rules.masks import Flags
from aretane.core.table import POCKETS, Point

RADIUS = 0.1  # m: how near is there, if nobody says otherwise
CLOSE = 0.02  # m: a stroke without error stops as near as this
WITHIN = 5.0  # degrees: as well of an angle
STEEPEST = 80.0  # degrees: nobody plays for a thinner cut
HIDDEN = 9.0  # m: as far off counts a place from where the next ball is not seen


class Goal(Protocol):
    """`close`: metres off that are there for a stroke without an error."""

    @property
    def close(self) -> float: ...

    def off(self, stops: Floats) -> Floats:
        """How far each place (n x 2) is off, in metres."""

    def inside(self, stops: Floats) -> Flags:
        """Which places (n x 2) are there."""


@dataclass(frozen=True)
class At:
    """A place, and how near to it is there (m)."""

    place: Point
    radius: float = RADIUS
    close: float = CLOSE

    def off(self, stops: Floats) -> Floats:
        return np.asarray(np.hypot(stops[:, 0] - self.place[0], stops[:, 1] - self.place[1]))

    def inside(self, stops: Floats) -> Flags:
        return np.asarray(self.off(stops) <= self.radius)


@dataclass(frozen=True)
class NextBall:
    """From where the next ball lies at this cut angle (radians, to either side) and nothing stands before it: its
    ghost ball, the way from there to the pocket (unit vector), balls in the way, and what a cue ball reaches.
    """

    ghost: Point
    way: Point
    angle: float
    within: float
    others: Floats
    reach: float
    close: float = CLOSE

    def off(self, stops: Floats) -> Floats:
        """Metres beside the line of that angle; from where the ball is hidden, far."""
        beside = self._distance(stops) * np.sin(np.minimum(self._apart(stops), math.pi / 2))
        return np.asarray(np.where(self._hidden(stops), HIDDEN, beside))

    def inside(self, stops: Floats) -> Flags:
        return np.asarray((self._apart(stops) <= self.within) & ~self._hidden(stops))

    def _distance(self, stops: Floats) -> Floats:
        return np.asarray(np.hypot(self.ghost[0] - stops[:, 0], self.ghost[1] - stops[:, 1]))

    def _apart(self, stops: Floats) -> Floats:
        """Between the cut from there and the one that is wanted."""
        away = np.maximum(self._distance(stops), 1e-9)
        along = ((self.ghost[0] - stops[:, 0]) * self.way[0] + (self.ghost[1] - stops[:, 1]) * self.way[1]) / away
        return np.asarray(np.abs(np.arccos(np.clip(along, -1.0, 1.0)) - self.angle))

    def _hidden(self, stops: Floats) -> Flags:
        """Whether another ball stands in the cue ball's way to the ghost ball."""
        if not len(self.others):
            return np.zeros(len(stops), dtype=bool)
        run = np.array(self.ghost) - stops
        length = np.maximum(np.hypot(run[:, 0], run[:, 1]), 1e-9)[:, None]
        unit = run / length
        to = self.others[None] - stops[:, None]
        along = np.clip(np.einsum("nij,nj->ni", to, unit), 0.0, length)
        nearest = to - along[..., None] * unit[:, None]
        return np.asarray((np.hypot(nearest[..., 0], nearest[..., 1]) < self.reach).any(axis=1))


def place_of(layout: Layout, to: Point, radius: float = RADIUS, ball: str = CUE) -> At:
    """A place of a ball as a goal. Raises `InputError` naming `to` where it cannot lie there."""
    own = layout.table.cue_radius if ball == CUE else layout.table.radius
    if not (math.isfinite(to[0]) and math.isfinite(to[1]) and on_table(layout.table, to, own)):
        raise InputError("to", f"({to[0]:g}, {to[1]:g}) is no place on the bed for the ball")
    return At(to, radius, min(CLOSE, radius))


def next_ball(
    layout: Layout, potted: str, ball: str, pocket: str, degrees: float, within: float = WITHIN
) -> NextBall:
    """The `ball` at an angle into `pocket`, once `potted` is gone. Raises `InputError` naming what is not there."""
    if ball not in layout.object_balls or ball == potted:
        raise InputError("next.ball", f"{ball} is not on the table then")
    if pocket not in POCKETS:
        raise InputError("next.pocket", f"must be one of {', '.join(POCKETS)}")
    if not 0.0 <= degrees <= STEEPEST:
        raise InputError("next.angle", f"must be from 0 to {STEEPEST:.0f} degrees")
    table, place = layout.table, layout.balls[ball]
    mouth = table.pockets[pocket].mouth
    length = math.dist(place, mouth)
    way = ((mouth[0] - place[0]) / length, (mouth[1] - place[1]) / length)
    reach = table.radius + table.cue_radius
    others = [at for name, at in layout.balls.items() if name not in (CUE, potted, ball)]
    return NextBall(
        (place[0] - reach * way[0], place[1] - reach * way[1]), way, math.radians(degrees), math.radians(within),
        np.array(others).reshape(-1, 2), reach,
    )  # fmt: skip
