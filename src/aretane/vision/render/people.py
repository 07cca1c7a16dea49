"""A player at the table: body, arms, bridge hand and cue as rounded rods in space."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.vision.render.brush import Colour, Image, Place3, limb
from aretane.vision.table.camera import Camera

SKIN, TROUSERS, HAIR = (118, 150, 198), (44, 40, 42), (30, 34, 44)
CLEAR = 0.25  # m from the noses to where feet can be
WOOD, TIP, GLOVE = (110, 160, 205), (150, 110, 60), (40, 40, 44)


def paint_player(
    picture: Image,
    camera: Camera,
    table: Table,
    cue_ball: Point,
    aim: float,
    risen: float,
    stroke: float,
    shirt: Colour,
) -> None:
    """A player down on the shot: `risen` 0 to 1 takes them up and away, `stroke` (m) draws the cue back."""
    ahead = np.array([math.cos(aim), math.sin(aim)])
    side = np.array([-ahead[1], ahead[0]])
    outwards = np.array([cue_ball[0] - table.length / 2, cue_ball[1] - table.width / 2])
    outwards = outwards / max(0.1, float(np.linalg.norm(outwards)))
    gone = risen * (1.6 * outwards - 0.9 * ahead)
    hips = _stands(table, cue_ball, ahead)

    def at(back: float, left: float, z: float) -> Place3:
        x, y = np.array(cue_ball) - back * ahead + left * side + gone
        return (float(x), float(y), z + 0.5 * risen)

    limb(picture, camera, at(hips, -0.2, -0.7), at(hips, -0.15, 0.0), (0.08, 0.1), TROUSERS)
    limb(picture, camera, at(hips + 0.05, 0.15, -0.7), at(hips, 0.05, 0.0), (0.08, 0.1), TROUSERS)
    limb(picture, camera, at(hips, -0.05, 0.12), at(0.58, -0.02, 0.34), (0.17, 0.16), shirt)
    limb(picture, camera, at(0.55, 0.16, 0.3), at(0.26, 0.03, 0.05), (0.055, 0.04), shirt)
    limb(picture, camera, at(0.6, -0.18, 0.34), at(0.78, -0.1, 0.14), (0.055, 0.04), shirt)
    hand = GLOVE if int(1000 * cue_ball[0]) % 2 else SKIN
    limb(picture, camera, at(0.25, 0.02, 0.035), at(0.19, 0.0, 0.03), (0.036, 0.03), hand)
    for spread in (-0.5, -0.15, 0.2, 0.5):
        limb(
            picture, camera, at(0.2, 0.3 * spread * 0.1, 0.022), at(0.13, 0.1 * spread, 0.012), (0.011, 0.008), hand
        )
    limb(picture, camera, at(0.06 + stroke, 0.0, 0.03), at(1.35 + stroke, -0.02, 0.2), (0.0065, 0.014), WOOD)
    limb(picture, camera, at(0.045 + stroke, 0.0, 0.03), at(0.06 + stroke, 0.0, 0.03), (0.0065, 0.0065), TIP)
    limb(picture, camera, at(0.45, 0.0, 0.43), at(0.5, 0.0, 0.46), (0.085, 0.09), SKIN)
    limb(picture, camera, at(0.53, 0.0, 0.5), at(0.57, 0.0, 0.5), (0.09, 0.085), HAIR)


def _stands(table: Table, cue_ball: Point, ahead: NDArray[np.float64]) -> float:
    """How far behind the cue ball the player's feet are: outside of the table, however long the stretch."""
    for back in np.arange(0.9, 3.0, 0.1):
        x, y = np.array(cue_ball) - back * ahead
        if not (-CLEAR < x < table.length + CLEAR and -CLEAR < y < table.width + CLEAR):
            return float(back)
    return 3.0


def paint_reaching(
    picture: Image, camera: Camera, table: Table, place: Point, shirt: Colour, height: float
) -> None:
    """Somebody behind the rail that is nearest to a place, with arm and hand stretched out over it."""
    L, W = table.length, table.width
    x, y = place
    walls = {"right": y, "left": W - y, "head": x, "foot": L - x}
    side = min(walls, key=lambda name: walls[name])
    out = np.array({"right": (0, -1), "left": (0, 1), "head": (-1, 0), "foot": (1, 0)}[side], float)
    feet = np.array(place) + (walls[side] + 0.3) * out

    def at(share: float, z: float) -> Place3:
        px, py = (1 - share) * np.array(place) + share * feet
        return (float(px), float(py), z)

    limb(picture, camera, at(1.0, -0.7), at(1.0, 0.1), (0.1, 0.13), TROUSERS)
    limb(picture, camera, at(1.0, 0.12), at(1.0, 0.5), (0.18, 0.16), shirt)
    limb(picture, camera, at(1.0, 0.72), at(1.0, 0.78), (0.09, 0.1), SKIN)
    limb(picture, camera, at(0.9, 0.45), at(0.35, height + 0.08), (0.055, 0.045), shirt)
    limb(picture, camera, at(0.35, height + 0.08), at(0.12, height), (0.042, 0.036), SKIN)
    for spread in (-0.02, 0.0, 0.02):
        px, py, pz = at(0.1, height)
        limb(picture, camera, (px, py, pz), (px + spread - 0.05 * out[0], py + spread - 0.05 * out[1], pz - 0.01),
             (0.011, 0.009), SKIN)  # fmt: skip


def paint_walker(picture: Image, camera: Camera, table: Table, share: float, shirt: Colour) -> None:
    """Somebody who walks along the near long rail, 0 to 1 of the way, with an arm over it and a cue upright."""
    x, y = -0.3 + share * (table.length + 0.6), -0.34
    limb(picture, camera, (x, y, -0.7), (x, y, 0.1), (0.09, 0.12), TROUSERS)
    limb(picture, camera, (x, y, 0.12), (x, y, 0.55), (0.17, 0.16), shirt)
    limb(picture, camera, (x, y, 0.76), (x, y, 0.82), (0.09, 0.1), SKIN)
    limb(picture, camera, (x, y + 0.1, 0.5), (x + 0.12, y + 0.42, 0.2), (0.05, 0.04), shirt)
    limb(picture, camera, (x + 0.12, y + 0.42, 0.2), (x + 0.14, y + 0.47, 0.18), (0.04, 0.035), SKIN)
    limb(picture, camera, (x - 0.1, y + 0.05, -0.6), (x - 0.1, y + 0.05, 0.75), (0.014, 0.007), WOOD)
