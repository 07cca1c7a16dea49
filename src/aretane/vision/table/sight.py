"""A picture prepared for looking: what is foreground, and where colours change.

All arrays cover the part of the picture that holds the bed (`bed.box`).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table
from aretane.vision.table.camera import Camera
from aretane.vision.table.cloth import Array, Bed, Cloth, Image, Mask, bed_of, cloth_colour, contrast, lab, surely
from aretane.vision.table.drawn import drawn

LIGHT = 0.7  # weight of lightness beside colour where edges are concerned
EDGE = 7.0  # units of Lab per pixel at which an edge counts fully
ROUND = np.ones((5, 5), np.uint8)  # pixels round a drawn line that its colour may have reached
THIN = 0.55  # ball radii: half the breadth of what counts as a cue
BROAD = 1.25  # ball radii: half the breadth from which on it is somebody
LARGER = 2.6  # discs of a ball: what is smaller, broad as it is, may be one
ENTRY = 5.0  # ball radii: what crosses the edge of the cloth in such breadth is somebody
LIMB = 6.0  # ball radii that a hand reaches beyond the broad part of an arm
DULL = 0.17  # of that: a weaker edge is noise


@dataclass(frozen=True)
class Still:
    """`known` is 0 outside of the bed and under lines that somebody drew. `contrast` is how far from cloth a pixel
    is, 1 where it is none for sure; `foreground` the same from 0 to 1 with shadows forgiven, `unlike` without.

    `edges` are the gradients (across, down) of the channel that changes most, 1 where they count fully. `somebody`
    is 1 where foreground that comes in from outside is too broad and too large for a ball, or hangs on that;
    `perhaps` also where it is too broad only: a ball at a rail with its shadow may be.
    """

    colours: Array
    contrast: Array
    foreground: Array
    unlike: Array
    edges: tuple[Array, Array]
    somebody: Array
    perhaps: Array
    known: Array
    bed: Bed
    cloth: Cloth


def prepare(
    picture: Image, table: Table, camera: Camera, bed: Bed | None = None, cloth: Cloth | None = None
) -> Still:
    """A whole picture (blue, green, red) made ready; `cloth` is what its cloth looks like, if that is known."""
    bed = bed or bed_of(table, camera, (picture.shape[1], picture.shape[0]))
    colours = lab(bed.crop(picture))
    told = cloth or cloth_colour(colours, bed)
    plain, threshold = told.colour, told.threshold
    lenient, strict = contrast(colours, plain, bed)
    shown, unlike = surely(lenient, threshold), surely(strict, threshold)
    lines, somebody, perhaps = _over(colours, shown, unlike, lenient / threshold, bed)
    known = np.where(bed.seen & ~lines, np.float32(1), np.float32(0))
    return Still(
        colours,
        lenient / threshold,
        shown * known,
        unlike * known,
        _edges(colours, known),
        somebody,
        perhaps,
        known,
        bed,
        told,
    )


def _over(colours: Array, shown: Array, unlike: Array, contrast: Array, bed: Bed) -> tuple[Mask, Array, Array]:
    """What lies over table and balls: drawn lines, somebody, and who may be."""
    step, coarse = bed.coarse
    some = (slice(None, None, step),) * 2
    shown, unlike = shown[some], unlike[some]
    solid = np.where(coarse.cloth, unlike, shown) * coarse.seen
    broad, somebody, perhaps = _people(solid, coarse)
    lines = drawn(np.ascontiguousarray(colours[some]), shown > 0.5, contrast[some], broad, coarse)
    if lines.any():
        _, somebody, perhaps = _people(solid * ~lines, coarse)
    height, width = bed.cloth.shape

    def whole(part: Mask) -> Array:
        large = cv2.resize(part.astype(np.float32), None, fx=step, fy=step, interpolation=cv2.INTER_NEAREST)
        return np.asarray(large[:height, :width], np.float32)

    return cv2.dilate(whole(lines), ROUND) > 0.5, whole(somebody), whole(perhaps)


def _edges(colours: Array, known: Array) -> tuple[Array, Array]:
    """Gradients of the channel that changes most at each pixel."""
    u, v, most = (np.zeros(known.shape, np.float32) for _ in range(3))
    for channel, weight in zip(cv2.split(colours), (LIGHT, 1.0, 1.0), strict=True):
        soft = cv2.GaussianBlur(channel, (3, 3), 0.8)
        across = cv2.Scharr(soft, cv2.CV_32F, 1, 0, scale=weight / (32 * EDGE))
        down = cv2.Scharr(soft, cv2.CV_32F, 0, 1, scale=weight / (32 * EDGE))
        size = cv2.magnitude(across, down)
        more = cv2.compare(size, most, cv2.CMP_GT)
        for kept, new in ((u, across), (v, down), (most, size)):
            cv2.copyTo(new, more, kept)
    limited = known * np.where(most > DULL, np.minimum(most, 1.0) / np.maximum(most, 1e-6), 0.0)
    return np.asarray(u * limited, np.float32), np.asarray(v * limited, np.float32)


def _people(shown: Array, bed: Bed) -> tuple[Mask, Mask, Mask]:
    """Parts of blobs that leave the bed in which a disc broader than a ball has room: bodies and arms, if they are
    larger than a ball. Those parts; somebody, with all that hangs on these blobs; and the same whatever its size.

    What hangs on somebody by something as thin as a cue is not they.
    """
    solid = (shown > 0.5).astype(np.uint8)
    inner = cv2.erode(bed.seen.astype(np.uint8), np.ones((5, 5), np.uint8), borderValue=0).astype(bool)
    rim = bed.seen & ~inner
    limbs = _leaving(solid, rim)
    thick = cv2.distanceTransform(solid, cv2.DIST_L2, 3) > THIN * bed.radii
    reach = cv2.distanceTransform((~thick).astype(np.uint8), cv2.DIST_L2, 3)
    opened = (solid.astype(bool) & (reach <= THIN * bed.radii + 0.5)).astype(np.uint8)
    outsider = _leaving(opened, rim) | _entering(opened, bed)
    broad = (cv2.distanceTransform(outsider.astype(np.uint8), cv2.DIST_L2, 3) > BROAD * bed.radii) & outsider
    if not broad.any():
        return broad, broad, broad
    parts = outsider & _about(broad, bed)
    large = broad & _larger(parts, bed)

    def whole(of: Mask) -> Mask:
        hanging = (limbs | _holding(solid, of)) & _about(of, bed, LIMB)
        return np.asarray((outsider & _about(of, bed)) | hanging)

    return parts, whole(large), whole(broad)


def _about(broad: Mask, bed: Bed, reach: float = BROAD) -> Mask:
    """What is nearer than so many ball radii to these pixels."""
    return np.asarray(cv2.distanceTransform((~broad).astype(np.uint8), cv2.DIST_L2, 3) < reach * bed.radii)


def _larger(parts: Mask, bed: Bed) -> Mask:
    """The parts that are larger than a ball: at a rail a ball and its shadow may be as broad as somebody."""
    _, labels = cv2.connectedComponents(parts.astype(np.uint8), connectivity=4)
    discs = np.bincount(labels[parts], 1 / (np.pi * np.maximum(bed.radii[parts], 1.0) ** 2), labels.max() + 1)
    return np.asarray((discs > LARGER)[labels])


def _leaving(solid: Image, rim: Mask) -> Mask:
    """The blobs that reach the rim."""
    _, labels = cv2.connectedComponents(solid, connectivity=4)
    leaving = np.unique(labels[rim])
    return np.isin(labels, leaving[leaving > 0])


def _entering(solid: Image, bed: Bed) -> Mask:
    """The blobs that cross the edge of the cloth in greater breadth than balls: on the cushion beyond, somebody in
    dark clothes may look like its shadow."""
    inner = cv2.erode(bed.cloth.astype(np.uint8), np.ones((3, 3), np.uint8), borderValue=0).astype(bool)
    edge = bed.cloth & ~inner
    _, labels = cv2.connectedComponents(solid * bed.cloth, connectivity=4)
    breadth = np.bincount(labels[edge], 1 / np.maximum(bed.radii[edge], 1.0), labels.max() + 1)
    wide = breadth > ENTRY
    wide[0] = False
    return np.asarray(wide[labels])


def _holding(solid: Image, broad: Mask) -> Mask:
    """The blobs that hold something of these."""
    _, labels = cv2.connectedComponents(solid, connectivity=4)
    held = np.unique(labels[broad])
    return np.isin(labels, held[held > 0])


_GRID = np.stack(np.meshgrid(np.linspace(-1, 1, 9), np.linspace(-1, 1, 9)), axis=-1).reshape(-1, 2)
DISC = _GRID[np.hypot(*_GRID.T) < 0.95]  # places on a disc of radius one


def on_disc(layer: Array, pixel: NDArray[np.float64], radius: float) -> float:
    """The mean of a layer over a disc about a pixel of the box; outside of the box it is 0."""
    at = np.ascontiguousarray(pixel + radius * DISC, np.float32)[:, None]
    seen = cv2.remap(layer, at[..., 0], at[..., 1], cv2.INTER_NEAREST, borderMode=cv2.BORDER_CONSTANT)
    return float(seen.mean())
