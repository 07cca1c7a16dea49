"""Whether a ball stands at a place, and how far off its middle is: told by a small network from a patch of the
picture.

A patch is drawn to one size of ball, beside the cloth that is known to be there; so the network sees neither how
large balls are nor what colour a cloth has, only what makes a ball of something on it. `learning` finds its weights
on rendered pictures: `running.onnx` for balls that run, and `judge.onnx`, which went on from it, for balls at rest:
what that has learnt about balls behind one another makes it lose smeared ones.
"""

from __future__ import annotations

import threading
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Protocol, cast

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.vision.table.cloth import Array, Bed, Cloth

Pixels = NDArray[np.float64]

RESTING, RUNNING = (Path(__file__).with_name(f"{name}.onnx") for name in ("judge", "running"))
SIDE, RADIUS = 32, 8.0  # pixels of a patch, and of a ball's radius in it
FINE = 2  # samples each way to a pixel of the patch
CHANNELS = 8
UNITS = np.array([40.0, 30.0, 30.0], np.float32)  # of Lab
USUAL = 8.0  # pixels of radius beside which a ball is large or small
MOST = 256  # patches judged at once


class Picture(Protocol):
    """What is needed of a picture: its colours (Lab), and the bed's cloth there."""

    @property
    def colours(self) -> Array: ...
    @property
    def cloth(self) -> Cloth: ...
    @property
    def bed(self) -> Bed: ...


@dataclass(frozen=True)
class Judged:
    """Of n places: the chance that a ball is there, its middle in pixels of the box (n x 2), and the share of its
    disc that is to be seen."""

    chance: Array
    centre: Pixels
    visible: Array


def judged(picture: Picture, known: Array, centres: Pixels, radii: Array, by: Path = RESTING) -> Judged:
    """Balls of so many pixels of radius (n) about these pixels of the box (n x 2), by the network of a file.
    `known` is 0 where nothing is to be learnt: outside of the bed, and on balls that are known already."""
    if not len(centres):
        return Judged(np.zeros(0, np.float32), np.zeros((0, 2)), np.zeros(0, np.float32))
    told = [
        asked(by, patches(picture, known, centres[n : n + MOST], radii[n : n + MOST]))
        for n in range(0, len(centres), MOST)
    ]
    out = np.concatenate(told)
    return Judged(share(out[:, 0]), centres + out[:, 1:3] * np.asarray(radii)[:, None], share(out[:, 3]))


def share(value: Array) -> Array:
    """What a network says of a chance or a share, from 0 to 1."""
    return np.asarray(1 / (1 + np.exp(-value)), np.float32)


def patches(picture: Picture, known: Array, centres: Pixels, radii: Array) -> Array:
    """What the network looks at, n x channels x side x side: colour beside the cloth's, the colour itself, what is
    known, what is cloth, and the size of the ball in the picture."""
    steps = (np.arange(SIDE * FINE, dtype=np.float32) + 0.5) / FINE - SIDE / 2
    sizes, middle = np.asarray(radii, np.float32), centres.astype(np.float32)
    scale, square = (sizes / RADIUS)[:, None, None], (1, len(steps), len(steps))
    across = middle[:, 0, None, None] + scale * np.broadcast_to(steps, square)
    down = middle[:, 1, None, None] + scale * np.broadcast_to(steps[:, None], square)
    colour, cloth, free, bed = (
        _sampled(layer, across, down)
        for layer in (picture.colours, picture.cloth.colour, known, picture.bed.cloth_share)
    )
    off = (colour - cloth) / UNITS * free
    own = (colour[..., :1] / 50 - 1) * free
    vivid = np.hypot(colour[..., 1:2], colour[..., 2:]) / 40 * free
    size = np.broadcast_to(np.log(sizes / USUAL)[:, None, None, None], free.shape)
    whole = np.concatenate([off, own, vivid, free, bed, size], axis=3, dtype=np.float32)
    return np.ascontiguousarray(whole.transpose(0, 3, 1, 2))


def _sampled(layer: Array, across: Array, down: Array) -> Array:
    """A layer read on a fine grid, and its means over each pixel of the patch: n x side x side x channels."""
    count, fine = len(across), SIDE * FINE
    flat = (across.reshape(-1, fine), down.reshape(-1, fine))
    seen = cv2.remap(layer, *flat, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
    mean = cv2.resize(seen, (SIDE, count * SIDE), interpolation=cv2.INTER_AREA)
    return np.asarray(mean, np.float32).reshape(count, SIDE, SIDE, -1)


class _Network:
    def __init__(self, file: Path) -> None:
        self._net: Any = cv2.dnn.readNetFromONNX(str(file))

    def of(self, looked_at: Array) -> Array:
        self._net.setInput(looked_at)
        return np.asarray(self._net.forward(), np.float32)


_OF_THREAD = threading.local()  # a network must not be asked by two at once


def asked(file: Path, looked_at: Array) -> Array:
    """What the network of a file says of patches (n x channels x side x side): n x so many numbers."""
    held = _OF_THREAD.__dict__.setdefault("networks", {})
    if file not in held:
        held[file] = _Network(file)
    return cast(_Network, held[file]).of(looked_at)
