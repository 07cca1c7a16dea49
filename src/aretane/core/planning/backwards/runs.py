"""Neighbouring aims that all come off: the middle of such a run is the surest."""

from __future__ import annotations

import numpy as np

from aretane.core.physics.compiled import Floats


def runs_of(good: Floats) -> list[list[int]]:
    """The rows of each run of neighbours that are good, in order."""
    runs: list[list[int]] = []
    for row in np.flatnonzero(good).tolist():
        if runs and runs[-1][-1] == row - 1:
            runs[-1].append(row)
        else:
            runs.append([row])
    return runs
