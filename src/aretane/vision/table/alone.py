"""The table without those who walk about it: what most of some pictures over a while agree on."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np

from aretane.vision.files.frames import picture_at
from aretane.vision.table.cloth import Image
from aretane.vision.table.registration import Registrar, same_view

AWAY = (8.0, -8.0, 17.0, -17.0, 30.0, -30.0, 55.0, -55.0, 100.0)  # seconds: a player has gone elsewhere by then
FEWEST = 3  # pictures of one view, to tell what comes and goes
LARGE = 1280  # pixels across: a larger picture is made smaller


def table_alone(path: Path, at: float) -> tuple[Image, float]:
    """The picture at a time with what comes and goes taken out, and how much smaller it was made."""
    time, shown = picture_at(path, at)
    scale = min(1.0, LARGE / shown.shape[1])
    times = [time + away for away in AWAY]
    others = [other for _, other in same_view(path, times, time, shown, Registrar(shown))]
    pictures = [_smaller(one, scale) for one in (shown, *others)]
    if len(pictures) < FEWEST:
        return pictures[0], scale
    middle = len(pictures) // 2
    return np.partition(np.stack(pictures), middle, axis=0)[middle], scale


def _smaller(picture: Image, scale: float) -> Image:
    if scale == 1.0:
        return picture
    size = (round(picture.shape[1] * scale), round(picture.shape[0] * scale))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.uint8)
