"""Where cameras stand in clubs: behind the short rail, at a corner, above the table."""

from __future__ import annotations

import numpy as np

from aretane.core.table import Table
from aretane.vision.table.camera import Camera, camera_from
from aretane.vision.table.marks import mark_places

FILLED = 0.92  # of the picture, by the table
VIEWS = ("short rail", "corner", "overhead", "close")


def camera_for(
    table: Table,
    view: str,
    size: tuple[int, int],
    dice: np.random.Generator,
    cropped: float = 0.0,
    radial: float = 0.0,
) -> Camera:
    """A camera that sees the whole table (`close`: a part of it).

    `cropped` moves the principal point sideways by that share of the width, as when a picture was cut; `radial` is
    the lens's k1.
    """
    L, W, scale = table.length, table.width, table.length / 2.54
    wobble = dice.uniform(-0.12, 0.12, 3)
    eye = {
        "short rail": np.array([-0.62 * L, W / 2 + 0.2 * W * wobble[0] * 8, (1.5 + wobble[2]) * scale]),
        "corner": np.array([-0.3 * L, -0.55 * W, (1.7 + wobble[2]) * scale]),
        "overhead": np.array([L / 2 - 0.02, W / 2, 3.1 * scale]),
        "close": np.array([L * 0.7, -0.5 * W, 0.7 * scale]),
    }[view] + wobble * 0.3
    aim = np.array([L * {"short rail": 0.46, "close": 0.75}.get(view, 0.5), W / 2, 0.0])
    ahead = (aim - eye) / np.linalg.norm(aim - eye)
    up = np.array([0.0, 1.0, 0.0]) if view == "overhead" else np.array([0.0, 0.0, 1.0])
    right = np.cross(ahead, up)
    right /= np.linalg.norm(right)
    rotation = np.array([right, np.cross(ahead, right), ahead])
    seen = (np.array(list(mark_places(table).values())) - eye) @ rotation.T
    flat = seen[:, :2] / seen[:, 2:]
    flat *= 1 + radial * np.sum(flat**2, axis=1)[:, None]
    room = np.array([size[0] * (0.5 - abs(cropped)), size[1] / 2])
    focal = FILLED * float(np.min(room / np.abs(flat).max(axis=0))) * (1.6 if view == "close" else 1.0)
    centre = (size[0] * (0.5 + cropped), size[1] / 2)
    return camera_from(focal, centre, rotation, -rotation @ eye, radial)
