"""The pictures of a stretch of a recording, made ready for following balls."""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from aretane.core.table import Table
from aretane.vision.files.frames import every_picture
from aretane.vision.table.camera import Camera
from aretane.vision.table.cloth import Array, Bed, Cloth, lab, relit
from aretane.vision.table.registration import Registrar, resized, straightened

MOST_PICTURES = 6000  # of one shot
EVERY, RELIT = 5, 12  # pictures: how often the view is registered anew, and the cloth looked at
SHAKES = 0.4  # pixels from one registration to the next: then every picture is registered


@dataclass(frozen=True)
class Frame:
    """A picture's bed, in the view in which the table was marked."""

    time: float
    colours: Array
    cloth: Cloth
    bed: Bed
    known: Array


@dataclass(frozen=True)
class View:
    """What is known beforehand of the pictures: table, camera, bed, and what the cloth looks like."""

    table: Table
    camera: Camera
    bed: Bed
    cloth: Cloth
    registrar: Registrar
    scale: float


def frames(path: Path, view: View, begin: float, end: float) -> Iterator[Frame]:
    """The pictures of a stretch of the recording; those that show another view are left out. While one is looked
    at, the next is made ready beside it."""
    coming = _frames(path, view, begin, end)
    with ThreadPoolExecutor(1) as beside:
        waiting = beside.submit(next, coming, None)
        while (frame := waiting.result()) is not None:
            waiting = beside.submit(next, coming, None)
            yield frame


def _frames(path: Path, view: View, begin: float, end: float) -> Iterator[Frame]:
    known = view.bed.seen.astype(np.float32)
    cloth, warp, due, every = view.cloth, np.eye(2, 3), 0, 1
    for count, (time, picture) in enumerate(every_picture(path, begin, end, MOST_PICTURES)):
        if count >= due and view.registrar.able:
            small = resized(picture, view.scale)
            found = view.registrar.register(small) if view.registrar.fits(small) else None
            if found is None:
                continue
            found = np.column_stack([found[:, :2], found[:, 2] / view.scale])
            every = 1 if np.abs(found - warp)[:, 2].max() > SHAKES else min(EVERY, every + 1)
            warp, due = found, count + every
        part = view.bed.crop(straightened(picture, warp))
        if part.shape[:2] != known.shape:
            continue
        if count % RELIT == 0:
            cloth = relit(cloth, part, view.bed) or cloth
        yield Frame(time, lab(part), cloth, view.bed, known)
