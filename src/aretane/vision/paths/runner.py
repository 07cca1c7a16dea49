"""A ball that may run: where it was seen, and which straight ways its next marks would make."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.paths.told import Mark
from aretane.vision.table.cloth import Array

Pixels = NDArray[np.float64]

SLOWEST, SLOWS, STRAIGHT_ON = 0.15, 0.6, math.radians(8.0)  # m/s; of its speed; and how a ball runs on
STOPPED = 0.1  # seconds after which one has stopped dead
LONGER = 0.5  # how much less a way is believed that begins nowhere
MOVES_LESS = 0.004  # m: a ball that moved by less has not moved


@dataclass
class Runner:
    """A ball of the layout before: where it was seen, from when it ran, and how that ended."""

    ball: str
    marks: list[Mark]
    runs: bool = False
    pocket: str | None = None
    lost: bool = False
    colour: NDArray[np.float64] | None = None
    reference: Array | None = None
    same: float = 0.0
    ran: bool = False
    vacant: int = 0  # pictures in a row in which nothing stands at its place
    looks: dict[float, NDArray[np.float64]] = field(default_factory=dict)  # its colour while it ran, by time
    tries: list[tuple[float, Mark]] = field(default_factory=list)
    disc: tuple[Point, Pixels, Array] | None = None

    @property
    def place(self) -> Point:
        return self.marks[-1].place

    @property
    def time(self) -> float:
        return self.marks[-1].t

    @property
    def velocity(self) -> NDArray[np.float64] | None:
        """Over the last two steps in one direction; None before it has been seen running."""
        if len(self.marks) < 2 or self.time - self.marks[-2].t <= 0:
            return None
        a, b = self.marks[-2:]
        return np.asarray((np.array(b.place) - a.place) / (b.t - a.t))

    def ways(self, mark: Mark, worth: float) -> Iterator[tuple[float, list[Mark]]]:
        """Straight ways that end at a mark: from its place over an earlier try, or over two of them. With how good
        they are."""
        earlier = [(value, one) for value, one in self.tries if one.t < mark.t]
        still = [value for value, one in earlier if mark.t - one.t > STOPPED and close(one, mark)]
        if still:
            yield worth + max(still) - LONGER, [mark]
        for value, b in earlier:
            if (off := _turn(self.marks[-1], b, mark, from_rest=True)) is not None:
                yield worth + value - off, [b, mark]
            for older, a in earlier:
                if a.t < b.t and (off := _turn(a, b, mark)) is not None:
                    yield worth + value + older - off - LONGER, [a, b, mark]


def close(one: Mark, other: Mark) -> bool:
    return math.dist(one.place, other.place) < MOVES_LESS


def _turn(a: Mark, b: Mark, c: Mark, *, from_rest: bool = False) -> float | None:
    """How unlike a ball that runs freely three marks are; None if none would. `from_rest`: at the first it stood,
    and may have stood for a while yet."""
    first, then = np.array(b.place) - a.place, np.array(c.place) - b.place
    run, on = float(np.hypot(*first)), float(np.hypot(*then))
    speed, after = run / (b.t - a.t), on / (c.t - b.t)
    if after < SLOWEST or run < 1e-6:
        return None
    turned = abs(math.remainder(math.atan2(then[1], then[0]) - math.atan2(first[1], first[0]), 2 * math.pi))
    blurred = 0.004 / on + 0.004 / run  # how well directions are known over so short ways
    change = after / max(speed, 1e-6)
    if turned > STRAIGHT_ON + 2 * blurred or change < SLOWS or (change > 1 / SLOWS and not from_rest):
        return None
    return 2.0 * turned / (STRAIGHT_ON + 2 * blurred)
