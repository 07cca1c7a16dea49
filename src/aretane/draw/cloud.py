"""Where many stops lie: the smallest areas that hold half, four fifths and nineteen twentieths of them."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.ndimage import convolve1d

from aretane.core.table import Point, Table
from aretane.draw.shapes import Shape

SHARES = (0.5, 0.8, 0.95)
CELL = 0.018  # m
KERNEL = (0.06, 0.24, 0.4, 0.24, 0.06)


def regions(places: Sequence[Point], table: Table) -> list[np.ndarray[tuple[int, int], np.dtype[np.bool_]]]:
    """For each share the cells (along x down) that hold it, the fullest first."""
    shape = int(np.ceil(table.length / CELL)), int(np.ceil(table.width / CELL))
    at = np.floor(np.array(places, dtype=float).reshape(-1, 2) / CELL).astype(np.int64)
    inside = at[((at >= 0) & (at < shape)).all(axis=1)]
    grid = np.zeros(shape)
    np.add.at(grid, (inside[:, 0], inside[:, 1]), 1.0)
    for axis in (0, 1, 0, 1):
        grid = convolve1d(grid, KERNEL, axis=axis, mode="nearest")
    order = np.argsort(-grid, axis=None, kind="stable")
    filled = grid.ravel()[order]
    before = np.concatenate([[0.0], np.cumsum(filled)[:-1]])
    found = []
    for share in SHARES:
        chosen = np.zeros(grid.size, dtype=bool)
        chosen[order[(before < share * filled.sum()) & (filled > 0)]] = True
        found.append(chosen.reshape(shape))
    return found


def cloud(places: Sequence[Point], table: Table) -> list[Shape]:
    """The areas as shapes, the darkest of them holding half; a run of cells along y is one."""
    found = []
    for part, region in enumerate(regions(places, table)):
        for column in np.flatnonzero(region.any(axis=1)):
            edges = np.flatnonzero(np.diff(region[column].astype(int), prepend=0, append=0))
            x0, x1 = column * CELL, (column + 1) * CELL
            for y0, y1 in edges.reshape(-1, 2) * CELL:
                corners = ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
                found.append(Shape("cloud", tuple((float(x), float(y)) for x, y in corners), True, part=part))
    return found
