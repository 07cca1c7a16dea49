"""Lines that somebody drew over the picture: thin and long, and of one even, strong colour.

A painted ball, lit as it is, is less vivid or broader; a cue that is taken for a line is no loss.
"""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.vision.table.cloth import Array, Bed, Mask

# chroma from which on a stroke counts whatever is round it; in ball radii: half its breadth and its length
VIVID = ((62.0, 0.5, 3.0), (48.0, 0.3, 5.0), (45.0, 0.6, 9.0))
BREADTH, LENGTH = 0.8, 5.0  # ball radii: the same of a stroke of any colour
# contrast to the cloth from which on it is looked for, the second without what compression puts round a thick one
CLEAR, VAST = 2.0, 5.0
INKS = 4  # strokes, the longest first, whose colour is looked for
ALIKE = 12.0  # units of Lab in each channel: still that ink
EVEN = 9.0  # units of Lab: how far the middle of a stroke may be from one colour
ALONE = 0.4  # of a stroke that must lie beside nothing broad
GLINTS = np.ones((3, 3), np.uint8)  # pixels: so small a hole in a ball is a lamp's image
PEN = 1.3  # of the half breadth of a pen, that its strokes may have
CORE = 0.7  # of its depth: the middle of a stroke


def drawn(colours: Array, solid: Mask, contrast: Array, people: Mask, bed: Bed) -> Mask:
    """The pixels under drawn lines. `solid` is what is no cloth, `contrast` how far from it."""
    chroma = np.where(solid, np.hypot(colours[..., 1], colours[..., 2]), 0.0)
    lines = np.zeros(solid.shape, bool)
    for vivid, breadth, length in VIVID:
        lines |= _strokes(_closed(chroma > vivid), breadth, length, bed) > 0
    free = solid & ~people
    thin = _strokes(free & (contrast > CLEAR), BREADTH, LENGTH, bed)
    vast = _strokes(_closed(free & (contrast > VAST)), BREADTH, LENGTH, bed)
    alone = np.where(thin > 0, thin, np.where(vast > 0, vast + thin.max(), 0))
    left = np.where(bed.cloth & ~lines, alone, 0)
    for _ in range(INKS):
        sizes = np.bincount(left.ravel())
        sizes[0] = 0
        if not sizes.any():
            break
        own = left == sizes.argmax()
        line = _of_ink(np.median(colours[_pen(own)[1]], axis=0), colours, free, alone > 0, bed)
        lines |= line
        left[own | line] = 0
    return lines


def _of_ink(ink: Array, colours: Array, free: Mask, alone: Mask, bed: Bed) -> Mask:
    """All strokes of that colour, if it is even along them."""
    alike = (cv2.inRange(colours, tuple(map(float, ink - ALIKE)), tuple(map(float, ink + ALIKE))) > 0) & free
    strokes = _strokes(alike, BREADTH, LENGTH, bed)
    sizes = np.maximum(np.bincount(strokes.ravel()), 1)
    line = (np.bincount(strokes.ravel(), alone.ravel()) > ALONE * sizes)[strokes] & (strokes > 0)
    if not line.any():
        return line
    pen, middle = _pen(line)
    if np.median(np.linalg.norm(colours[middle] - ink, axis=1)) > EVEN:
        return np.zeros_like(line)
    # a pen is as broad everywhere: beside far balls it may be broader than it could be for a line of any colour
    broad = _strokes(alike, BREADTH, LENGTH, bed, PEN * pen)
    vivid = np.hypot(ink[1], ink[2]) > VIVID[0][0]
    return np.asarray(line | ((broad > 0) & (vivid | np.isin(broad, broad[line]))))


def _closed(image: Mask) -> Mask:
    """Without the small holes that lamps' images make in balls."""
    return cv2.morphologyEx(image.astype(np.uint8), cv2.MORPH_CLOSE, GLINTS) > 0


def _pen(line: Mask) -> tuple[float, Mask]:
    """Half the breadth of strokes in pixels, and their middle, where what is beside them has not run in."""
    deep = _depth(line)
    half = float(np.percentile(deep[line], 90))
    return half, line & (deep >= CORE * half)


def _depth(image: Mask) -> Array:
    """How far each pixel is from what is not of the image."""
    return np.asarray(cv2.distanceTransform(image.astype(np.uint8), cv2.DIST_L2, 3), np.float32)


def _strokes(image: Mask, breadth: float, length: float, bed: Bed, pen: float = 0.0) -> NDArray[np.int32]:
    """The long and thin parts, numbered; 0 elsewhere. Half as broad as a `pen` (pixels) is always thin."""
    found = np.zeros(image.shape, np.int32)
    x, y, width, height = cv2.boundingRect(image.astype(np.uint8))
    part = (slice(max(0, y - 1), y + height + 1), slice(max(0, x - 1), x + width + 1))
    solid, own = image[part], bed.radii[part]
    if not width:
        return found
    radii = np.maximum(own, 3.0)
    thick = _depth(solid) > np.maximum(breadth * radii, pen)
    kept = _depth(~thick) <= (1 + breadth) * own
    thin = (solid & ~kept).astype(np.uint8)
    count, labels, stats, middles = cv2.connectedComponentsWithStats(thin, connectivity=8)
    across, down = np.round(np.nan_to_num(middles)).astype(int).T
    extent = np.maximum(stats[:, cv2.CC_STAT_WIDTH], stats[:, cv2.CC_STAT_HEIGHT])
    long = extent > length * radii[down, across]
    long[0] = False
    found[part] = np.where(long, np.arange(count), 0)[labels]
    return found
