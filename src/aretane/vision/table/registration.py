"""Where the camera looks now beside where it looked when the table was marked: shake, bumps and zooms; and cuts.

Points of the rails, the pockets and the sights are followed from the marked picture to this one (Lucas and Kanade
1981, in a pyramid); a similarity is fitted to what agrees (RANSAC, Fischler and Bolles 1981). Too few that agree
means that this is another view.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table
from aretane.vision.files.frames import picture_at, rhythm_of
from aretane.vision.table.camera import HALF, Camera, project
from aretane.vision.table.cloth import Image

Warp = NDArray[np.float64]

POINTS = 220
LEAST_POINTS, LEAST_SHARE = 12, 0.22  # that must agree
RAILS = 0.15  # m, from the noses to the outside of the rails
PARTS = 6  # the picture is divided into so many parts each way, each with its share of the points
SHARP = 1.0  # pixels: a point that misses by more disagrees
STILL = 0.25  # pixels: a smaller motion is none
LARGEST_ZOOM = 1.6
PATCH, ALIKE = 4, 0.6  # pixels round a point, and the correlation from which on it shows the same


class Registrar:
    """Knows the picture in which the table was marked; all later ones must be of the same size.

    Without a camera anything that it shows is followed, not only what belongs to the table.
    """

    def __init__(self, picture: Image, table: Table | None = None, camera: Camera | None = None) -> None:
        self.grey = _grey(picture)
        anywhere = np.ones(self.grey.shape, np.uint8)
        where = _rails(self.grey.shape, table, camera) if table and camera else anywhere
        self.points = _points(self.grey, where)
        self.last: Warp = np.eye(2, 3)

    @property
    def able(self) -> bool:
        """Whether the picture has enough to hold on to."""
        return len(self.points) >= LEAST_POINTS

    def fits(self, picture: Image) -> bool:
        """Whether it has the size of the marked one."""
        return picture.shape[:2] == self.grey.shape

    def register(self, picture: Image) -> Warp | None:
        """The map (2 x 3) from pixels of the marked picture to pixels of this one; None for another view."""
        grey = _grey(picture)
        for start in (self.last, np.eye(2, 3)):
            warp = self._from(grey, start)
            if warp is not None:
                self.last = warp
                return warp
        return None

    def _from(self, grey: Image, start: Warp) -> Warp | None:
        moved = self.points[:, 0] @ start[:, :2].T + start[:, 2]
        guess = np.array(moved[:, None], np.float32, order="C")
        there, ok, _ = cv2.calcOpticalFlowPyrLK(
            self.grey, grey, self.points, guess, winSize=(15, 15), maxLevel=3, flags=cv2.OPTFLOW_USE_INITIAL_FLOW
        )
        good = ok.ravel() > 0
        if good.sum() < LEAST_POINTS:
            return None
        warp, agree = cv2.estimateAffinePartial2D(
            self.points[good], there[good], method=cv2.RANSAC, ransacReprojThreshold=SHARP
        )
        if warp is None:
            return None
        kept = np.nonzero(good)[0][agree.ravel() > 0]
        same = _alike(self.grey, self.points[kept, 0], grey, there[kept, 0]).sum()
        if same < max(LEAST_POINTS, LEAST_SHARE * len(self.points)):
            return None
        zoom = float(np.hypot(warp[0, 0], warp[1, 0]))
        turn = abs(float(np.arctan2(warp[1, 0], warp[0, 0])))
        if not 1 / LARGEST_ZOOM < zoom < LARGEST_ZOOM or turn > 0.1:
            return None
        moved = np.asarray(warp, np.float64)
        return np.eye(2, 3) if _is_still(moved, self.grey.shape) else moved


def same_view(
    path: Path, times: Sequence[float], time: float, shown: Image, registrar: Registrar
) -> Iterator[tuple[float, Image]]:
    """Other pictures of the view that is `shown` at a time, each once, as the camera would have taken them then."""
    rhythm, looked_at = rhythm_of(path), {time}
    for wanted in times if registrar.able else ():
        if not rhythm.first <= wanted <= rhythm.last:
            continue
        at, other = picture_at(path, wanted)
        if at in looked_at or other.shape != shown.shape:
            continue
        looked_at.add(at)
        warp = registrar.register(other)
        if warp is not None:
            yield at, straightened(other, warp)


def straightened(picture: Image, warp: Warp) -> Image:
    """This picture as the camera would have taken it had it not moved."""
    if np.array_equal(warp, np.eye(2, 3)):
        return picture
    size = (picture.shape[1], picture.shape[0])
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return np.asarray(cv2.warpAffine(picture, warp, size, flags=flags, borderMode=cv2.BORDER_REPLICATE), np.uint8)


def resized(picture: Image, scale: float) -> Image:
    """The picture made smaller."""
    if scale == 1.0:
        return picture
    size = (round(picture.shape[1] * scale), round(picture.shape[0] * scale))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_LINEAR), np.uint8)


def _is_still(warp: Warp, shape: tuple[int, ...]) -> bool:
    """Whether no corner of the picture has moved."""
    height, width = shape[:2]
    corners = np.array([[0, 0], [width, 0], [0, height], [width, height]], float)
    return bool(np.abs(corners @ warp[:, :2].T + warp[:, 2] - corners).max() < STILL)


def _grey(picture: Image) -> Image:
    return np.asarray(cv2.cvtColor(picture, cv2.COLOR_BGR2GRAY), np.uint8)


def _rails(shape: tuple[int, ...], table: Table, camera: Camera) -> Image:
    """The rails with their pockets and sights: what belongs to the table and no ball crosses."""
    L, W, z = table.length, table.width, table.nose_height
    mask = np.zeros(shape, np.uint8)
    for out, value in ((RAILS, 1), (-0.01, 0)):
        corners = np.array([(-out, -out, z), (L + out, -out, z), (L + out, W + out, z), (-out, W + out, z)])
        pixels = np.nan_to_num(project(camera, corners) - HALF, nan=-1e4)
        cv2.fillPoly(mask, [np.round(np.clip(pixels, -1e4, 1e4)).astype(np.int32)], value)
    return mask


def _points(grey: Image, mask: Image) -> NDArray[np.float32]:
    """Points that can be followed, from all parts of the rails: no caption or sign may have them all."""
    found = []
    rows, columns = np.nonzero(mask)
    if len(rows) == 0:
        return np.zeros((0, 1, 2), np.float32)
    down = np.linspace(rows.min(), rows.max() + 1, PARTS + 1).astype(int)
    across = np.linspace(columns.min(), columns.max() + 1, PARTS + 1).astype(int)
    for top, bottom in pairwise(down):
        for left, right in pairwise(across):
            part = np.zeros_like(mask)
            part[top:bottom, left:right] = mask[top:bottom, left:right]
            points = cv2.goodFeaturesToTrack(grey, POINTS // PARTS**2 + 1, 0.02, 5, mask=part)
            found += [] if points is None else list(points)
    return np.array(found, np.float32).reshape(-1, 1, 2)


def _alike(grey: Image, at: NDArray[np.float32], other: Image, there: NDArray[np.float32]) -> NDArray[np.bool_]:
    """Whether the patches round points (n x 2) look as they did."""
    a, b = _patches(grey, at), _patches(other, there)
    spread = a.std(axis=1) * b.std(axis=1)
    together = ((a - a.mean(axis=1, keepdims=True)) * (b - b.mean(axis=1, keepdims=True))).mean(axis=1)
    return np.asarray(together > ALIKE * np.maximum(spread, 1e-6))


def _patches(grey: Image, at: NDArray[np.float32]) -> NDArray[np.float32]:
    """What the picture shows round each point, n x pixels."""
    side = np.arange(-PATCH, PATCH + 1, dtype=np.float32)
    across, down = (axis.ravel() for axis in np.meshgrid(side, side))
    u, v = at[:, :1] + across, at[:, 1:] + down
    return np.asarray(cv2.remap(grey, u, v, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE), np.float32)
