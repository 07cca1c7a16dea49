"""The lamps over the table, the light that they give, and their image in a ball's lacquer."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table

Array = NDArray[np.float64]

LAMP_HEIGHT = 0.95  # m above the bed
AMBIENT, DIRECT, BOUNCE = 0.30, 0.72, 0.42  # of the light: from the room, the lamps, and the cloth below
DRAWN = 0.4 / 0.36  # of a lamp's half length: how far its light comes from the part nearest to the ball
LAMPS = {  # centre from the table's middle, half length and half width; all of the table's length (common practice)
    "row": ((0.0, 0.0, 0.36, 0.07),),
    "two": ((-0.22, 0.0, 0.09, 0.06), (0.22, 0.0, 0.09, 0.06)),
    "three": ((-0.29, 0.0, 0.06, 0.06), (0.0, 0.0, 0.06, 0.06), (0.29, 0.0, 0.06, 0.06)),
    "frame": ((0.0, -0.2, 0.42, 0.02), (0.0, 0.2, 0.42, 0.02), (-0.4, 0.0, 0.02, 0.2), (0.4, 0.0, 0.02, 0.2)),
}


def shaded(
    table: Table, lamps: str, centre: Array, normal: Array, rays: Array, colour: Array, cloth: Array
) -> Array:
    """A ball's pixels: lamps from above, the room all round, the cloth's light from below, and what the lacquer
    mirrors. `normal` and `rays` are unit vectors, h x w x 3."""
    middle = np.array([table.length / 2, table.width / 2, LAMP_HEIGHT * table.length / 2.54])
    hung = [(middle + np.array([x, y, 0.0]) * table.length, long, wide) for x, y, long, wide in LAMPS[lamps]]
    direct = np.mean([_lambert(normal, centre, lamp, long) for lamp, long, _ in hung], axis=0)
    from_below = np.clip(0.35 - normal[..., 2], 0, 1)[..., None]
    light = AMBIENT + DIRECT * direct[..., None]
    lit = colour * (light * (1 - 0.35 * from_below) + BOUNCE * from_below * cloth / 255)
    facing = np.sum(-rays * normal, axis=-1)
    mirrored = rays + 2 * facing[..., None] * normal
    fresnel = (0.05 + 0.55 * np.clip(1 - facing, 0, 1) ** 4)[..., None]
    below = (np.clip(-mirrored[..., 2], 0, 1) > 0.02)[..., None]
    around = np.where(below, 0.75 * cloth, np.array([70.0, 70.0, 74.0]))
    lit = lit * (1 - fresnel) + around * fresnel
    shine = np.max([_image(table, centre, mirrored, *one) for one in hung], axis=0)
    return np.asarray(np.clip(lit + 215 * shine[..., None], 0, 255))


def _lambert(normal: Array, centre: Array, lamp: Array, long: float) -> Array:
    """Light from the part of a lamp that is nearest to the ball."""
    share = min(1.0, DRAWN * long) if long > 0.1 else 0.0
    to_lamp = lamp + share * np.array([centre[0] - lamp[0], 0.0, 0.0]) - centre
    return np.asarray(np.clip(normal @ (to_lamp / np.linalg.norm(to_lamp)), 0, 1))


def _image(table: Table, centre: Array, mirrored: Array, lamp: Array, long: float, wide: float) -> Array:
    """Where a mirrored ray meets the lamp, 0 to 1 over its soft rim."""
    up = np.maximum(mirrored[..., 2], 1e-3)
    run = (lamp[2] - centre[2]) / up
    x, y = centre[0] + run * mirrored[..., 0] - lamp[0], centre[1] + run * mirrored[..., 1] - lamp[1]
    inside = np.clip(3 - 3 * np.abs(x) / (long * table.length), 0, 1)
    inside = inside * np.clip(3 - 3 * np.abs(y) / (wide * table.length), 0, 1)
    return np.asarray(np.where(mirrored[..., 2] > 0, inside, 0.0))
