"""A grid of cue-ball places over the bed, and values on it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.table import Table


@dataclass(frozen=True)
class Grid:
    """`columns` x `rows` places from rail to rail, a hair's breadth off the cushions; metres, table frame."""

    table: Table
    columns: int
    rows: int

    @cached_property
    def xs(self) -> Floats:
        inset = self.table.cue_radius * 1.02
        return np.linspace(inset, self.table.length - inset, self.columns)

    @cached_property
    def ys(self) -> Floats:
        inset = self.table.cue_radius * 1.02
        return np.linspace(inset, self.table.width - inset, self.rows)

    @cached_property
    def places(self) -> Floats:
        """All places (n x 2), row by row of constant x."""
        x, y = np.meshgrid(self.xs, self.ys, indexing="ij")
        return np.stack([x.ravel(), y.ravel()], axis=1)

    @property
    def cell(self) -> float:
        """Area that one place stands for, m²."""
        return float((self.xs[1] - self.xs[0]) * (self.ys[1] - self.ys[0]))

    def free_places(self, balls: Floats, reach: float) -> Floats:
        """The places, each that stands in one of `balls` (m x 2) moved out of it by the shortest way."""
        places = self.places.copy()
        for _ in range(3):
            for ball in balls:
                gone = places - ball
                away = np.hypot(gone[:, 0], gone[:, 1])
                inside = away < reach
                away = np.maximum(away, 1e-9)[inside, None]
                places[inside] = ball + gone[inside] / away * (reach + 1e-4)
            places[:, 0] = np.clip(places[:, 0], self.xs[0], self.xs[-1])
            places[:, 1] = np.clip(places[:, 1], self.ys[0], self.ys[-1])
        return places

    def at(self, values: Floats, places: Floats) -> Floats:
        """Values (columns x rows) between the grid's places, bilinear; `places` (... x 2)."""
        u = (places[..., 0] - self.xs[0]) / (self.xs[1] - self.xs[0])
        v = (places[..., 1] - self.ys[0]) / (self.ys[1] - self.ys[0])
        u, v = np.clip(u, 0, self.columns - 1.000001), np.clip(v, 0, self.rows - 1.000001)
        i, j = u.astype(np.int64), v.astype(np.int64)
        a, b = u - i, v - j
        low = values[i, j] * (1 - b) + values[i, j + 1] * b
        high = values[i + 1, j] * (1 - b) + values[i + 1, j + 1] * b
        return np.asarray(low * (1 - a) + high * a)

    def blurred(self, values: Floats, metres: float) -> Floats:
        """Values averaged over a neighbourhood of this standard deviation, the rails as mirrors."""
        return _blurred(values.tobytes(), values.shape, self._cells(metres))

    def all_blurred(self, values: Floats, metres: float) -> Floats:
        """The same for many maps at once (n x columns x rows)."""
        along, across = self._cells(metres)
        return np.ascontiguousarray(_blur(_blur(values, along, 1), across, 2))

    def _cells(self, metres: float) -> tuple[float, float]:
        return metres / float(self.xs[1] - self.xs[0]), metres / float(self.ys[1] - self.ys[0])


@lru_cache(maxsize=256)
def _blurred(values: bytes, shape: tuple[int, ...], cells: tuple[float, float]) -> Floats:
    """Kept, because the same map is looked up from many places."""
    out: Floats = np.frombuffer(values).reshape(shape)
    for axis in (0, 1):
        out = _blur(out, cells[axis], axis)
    out.flags.writeable = False
    return out


def _blur(values: Floats, cells: float, axis: int) -> Floats:
    half = max(1, int(np.ceil(2.5 * cells)))
    half = min(half, values.shape[axis] - 1)
    weight = np.exp(-0.5 * (np.arange(-half, half + 1) / max(cells, 1e-6)) ** 2)
    weight /= weight.sum()
    pad = [(0, 0)] * values.ndim
    pad[axis] = (half, half)
    wide = np.pad(values, pad, mode="reflect")
    shape = values.shape[axis]
    parts = (w * np.take(wide, range(k, k + shape), axis=axis) for k, w in enumerate(weight))
    return np.asarray(sum(parts))
