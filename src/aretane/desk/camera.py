"""The camera that sees a table."""

from __future__ import annotations

from typing import Any

import numpy as np

from aretane.core.table import Table
from aretane.vision.table.camera import place_sigma, project, solve_camera

SIGMA_GRID = (5, 3)  # places along and across the bed at which the camera's uncertainty is given


def solved(
    table: Table, marks: Any, size: tuple[float, float], picture: Any = None, pixel_aspect: float = 1.0
) -> dict[str, Any]:
    """The camera that sees these marks, and how sure it is of places all over the bed."""
    found = solve_camera(table, marks, size, picture=picture, pixel_aspect=pixel_aspect)
    grid = [
        (x, y)
        for x in np.linspace(0.05 * table.length, 0.95 * table.length, SIGMA_GRID[0])
        for y in np.linspace(0.1 * table.width, 0.9 * table.width, SIGMA_GRID[1])
    ]
    pixels = project(found, np.array([(x, y, table.radius) for x, y in grid]))
    return {
        "focal": found.focal,
        "centre": found.centre,
        "rotation": found.rotation.ravel().tolist(),
        "translation": found.translation.tolist(),
        "radial": found.radial,
        "pixel_aspect": found.pixel_aspect,
        "error_px": found.error_px,
        "sigma": [
            (float(x), float(y), min(1.0, place_sigma(found, (float(u), float(v)), table.radius)))
            for (x, y), (u, v) in zip(grid, pixels, strict=True)
        ],
    }
