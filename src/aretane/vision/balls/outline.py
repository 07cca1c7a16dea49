"""The outline of a ball in the picture, and how well a picture agrees with balls standing at given places."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.table.camera import Camera, project
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still

Pixels = NDArray[np.float64]

ANGLES = np.linspace(0, 2 * np.pi, 48, endpoint=False)
SCALES = np.array([0.4, 0.68, 0.88, 1.0, 1.14, 1.35])  # rings: three inside the outline, on it, two outside
INSIDE, RIM, ON, BEYOND, AROUND = slice(0, 3), 2, 3, 4, 5
UPPER = np.sin(ANGLES) < math.sin(math.radians(30))  # the top 240 degrees: below lies the contact shadow
WEIGHTS = np.where(UPPER, 1.0, 0.25).astype(np.float32)
PLAIN, FAINT = 0.35, 0.15  # of a full edge
SHINING = 8  # points of the inner rings, of 96
FLANKS = np.array([0.84, 1.18])  # just inside and just outside
SECTORS = 12  # parts of the outline
LOWER = np.sin(ANGLES.reshape(SECTORS, -1).mean(axis=1)) > 0.5
FINE = 4  # bits of a pixel to which a filled outline is told
EVERY = 2  # points of the outline between two that a fit looks at
LIT = 0.5  # weight of the lamp's image in the fit
STEP, DARK = 8.0, 20.0  # units of Lab that count fully
DISC = np.array([0.25, 0.4, 0.35], np.float32)  # shares of the three inner rings in the disc


def outline(camera: Camera, place: Point, radius: float) -> Pixels:
    """Pixels of the outline of a ball that stands at `place`, 48 points; point 12 is the lowest in the picture."""
    return np.asarray(outlines(camera, np.array([place]), radius)[0])


def outlines(camera: Camera, places: Pixels, radius: float) -> Pixels:
    """Outlines (n x 48 x 2) of balls at `places` (n x 2): the circles in which the cones of sight touch them."""
    centres = np.column_stack([places, np.full(len(places), radius)])
    to_eye = camera.position - centres
    away = np.linalg.norm(to_eye, axis=1, keepdims=True)
    axis = to_eye / away
    ahead, wide = radius * radius / away, radius * np.sqrt(np.maximum(0.0, 1 - (radius / away) ** 2))
    right = camera.rotation[0] - (axis @ camera.rotation[0])[:, None] * axis
    right /= np.linalg.norm(right, axis=1, keepdims=True)
    down = -np.cross(axis, right)
    turn = np.cos(ANGLES)[None, :, None] * right[:, None] + np.sin(ANGLES)[None, :, None] * down[:, None]
    rings = (centres + ahead * axis)[:, None] + wide[:, None] * turn
    seen: Pixels = project(camera, rings.reshape(-1, 3)).reshape(len(places), len(ANGLES), 2)
    return seen


def to_fill(rings: Pixels, grown: float, corner: Pixels) -> NDArray[np.int32]:
    """Outlines (n x points x 2) grown about their middles and told from `corner`, as OpenCV fills them: in whole
    numbers, 2 to the power of `FINE` to a pixel."""
    middles = rings.mean(axis=1, keepdims=True)
    return np.asarray(np.round((middles + grown * (rings - middles) - corner) * 2**FINE), np.int32)


@dataclass(frozen=True)
class Agreement:
    """How n places agree with what the picture shows beside balls that are known already, each number 0 to 1.

    `full` is the foreground inside, `dimmest` in the second emptiest quarter;
    `edged` the share of the visible outline where colours change across it, `free` the share that borders on
    cloth, `around` the foreground round it, `inner` how much colours change inside, `person` the share of the disc
    that belongs to somebody, `visible` the share of the outline that is to be seen. `unlike` is as `full`
    and `faint` as `edged`, with shadows and weak edges counting too; `shine`
    is the light of the brightest part, `rest` the share of the disc that no known ball explains. `stepped` says how
    much the colour differs across the outline, part by part, `under` how dark the lower part is beside the cloth
    below it (-1 to 1). `limb` is the share of the disc that hangs on somebody.
    """

    full: Array
    dimmest: Array
    edged: Array
    free: Array
    around: Array
    inner: Array
    person: Array
    visible: Array
    unlike: Array
    faint: Array
    shine: Array
    rest: Array
    stepped: Array
    under: Array
    limb: Array


def agreement(still: Still, known: Array, centres: Pixels, rings: Array) -> Agreement:
    """`centres` (n x 2) in pixels of the box, `rings` (n x 48 x 2) the outlines about them.

    `known` is 1 where the picture says something, 0 outside of the bed and where a ball is known already.
    """
    count, seen = len(centres), _sampler(centres, rings, SCALES)
    shown, known = seen(still.foreground), seen(known)
    weights = known * WEIGHTS
    totals = np.maximum(weights.sum(axis=2), 1e-6)
    mean = (shown * weights).sum(axis=2) / totals
    normal = rings / np.linalg.norm(rings, axis=2, keepdims=True)
    across_edge, down_edge = seen(still.edges[0]), seen(still.edges[1])
    flank = np.abs(across_edge[:, ON] * normal[..., 0] + down_edge[:, ON] * normal[..., 1])
    on = known[:, ON] > 0.5
    beyond = known[:, BEYOND] > 0.5
    inside = known[:, :2]
    inner = (np.hypot(across_edge[:, :2], down_edge[:, :2]) * inside).sum(axis=(1, 2))
    person = (seen(still.people)[:, INSIDE] * known[:, INSIDE]).sum(axis=(1, 2))
    border = (shown[:, RIM] > 0.5) & (shown[:, BEYOND] < 0.5) & beyond
    around = np.where(totals[:, AROUND] > 0.2 * WEIGHTS.sum(), mean[:, AROUND], 0.0)
    return Agreement(
        mean[:, INSIDE] @ DISC,
        _dimmest(shown, known),
        ((flank > PLAIN) & on).sum(axis=1) / np.maximum(on.sum(axis=1), 1),
        border.sum(axis=1) / np.maximum(beyond.sum(axis=1), 1),
        around,
        inner / np.maximum(inside.sum(axis=(1, 2)), 1.0),
        person / np.maximum(known[:, INSIDE].sum(axis=(1, 2)), 1.0),
        on.mean(axis=1),
        (seen(still.unlike)[:, INSIDE] * weights[:, INSIDE]).sum(axis=2) / totals[:, INSIDE] @ DISC,
        ((flank > FAINT) & on).sum(axis=1) / np.maximum(on.sum(axis=1), 1),
        np.sort(seen(still.brighter)[:, :2].reshape(count, -1), axis=1)[:, -SHINING:].mean(axis=1),
        known[:, INSIDE].mean(axis=2) @ DISC,
        *_steps(still, centres, rings, known),
        (seen(still.limbs)[:, INSIDE] * known[:, INSIDE]).sum(axis=(1, 2))
        / np.maximum(known[:, INSIDE].sum(axis=(1, 2)), 1.0),
    )


def _steps(still: Still, centres: Pixels, rings: Array, known: Array) -> tuple[Array, Array]:
    """`stepped` and `under`: what lies just inside the outline beside what lies just outside, over a few directions
    at a time, so that noise is averaged out."""
    seen = _sampler(centres, rings, FLANKS)(still.colours)
    apart = (seen[:, 0] - seen[:, 1]).reshape(len(centres), SECTORS, -1, 3).mean(axis=2)
    clear = known[:, [RIM, BEYOND]].min(axis=1).reshape(len(centres), SECTORS, -1).mean(axis=2)
    visible = np.maximum(clear.sum(axis=1), 1e-6)
    size = np.clip(np.linalg.norm(apart, axis=2) / STEP, 0.0, 1.0)
    low = clear * LOWER
    dark = np.clip(-apart[..., 0] / DARK, -1.0, 1.0)
    return (size * clear).sum(axis=1) / visible, (dark * low).sum(axis=1) / np.maximum(low.sum(axis=1), 1e-6)


def _sampler(centres: Pixels, rings: Array, scales: Pixels) -> Callable[[Array], Array]:
    """Reads a picture along the rings about the centres, at these multiples of the outlines: n x scales x 48
    (x channels)."""
    middles, times = centres.astype(np.float32), scales.astype(np.float32)[:, None]
    across, down = (
        (middles[:, axis, None, None] + times * rings[:, None, :, axis]).reshape(-1, rings.shape[1])
        for axis in (0, 1)
    )

    def seen(picture: Array) -> Array:
        taken = cv2.remap(picture, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        shape = len(centres), len(scales), rings.shape[1], *picture.shape[2:]
        return np.asarray(taken, np.float32).reshape(shape)

    return seen


@dataclass(frozen=True)
class Lights:
    """Where a lamp should shine on n balls: pixels beside their centres (n x 2), and how brightly."""

    beside: Pixels
    bright: float

    def of(self, which: NDArray[np.int64], times: int) -> Lights:
        return Lights(np.repeat(self.beside[which], times, axis=0), self.bright)

    def seen(self, still: Still, centres: Pixels) -> Array:
        """How much of that light is there, 0 to 1."""
        at = np.ascontiguousarray(centres + self.beside, np.float32)[:, None]
        light = cv2.remap(still.glints, at[..., 0], at[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
        return np.asarray(np.clip(light[:, 0] / self.bright, 0.0, 1.0), np.float32)


def _fit(still: Still, known: Array, centres: Pixels, rings: Array, lights: Lights | None) -> Array:
    """How well balls there would fit: full inside, a step of the foreground and an edge on the outline, and the
    lamp's image where it should be."""
    seen = _sampler(centres, rings, SCALES[[0, 1, RIM, BEYOND]])
    some = WEIGHTS[:: len(ANGLES) // rings.shape[1]]
    shown, weights = seen(still.foreground), seen(known) * some
    totals = np.maximum(weights.sum(axis=2), 1e-6)
    inside = (shown[:, :2] * weights[:, :2]).sum(axis=2) / totals[:, :2]
    step = ((shown[:, 2] - shown[:, 3]) * weights[:, 2]).sum(axis=1) / totals[:, 2]
    on = _sampler(centres, rings, SCALES[[ON]])
    normal = rings / np.linalg.norm(rings, axis=2, keepdims=True)
    flank = np.abs(on(still.edges[0])[:, 0] * normal[..., 0] + on(still.edges[1])[:, 0] * normal[..., 1])
    weight = on(known)[:, 0] * some
    edge = (flank * weight).sum(axis=1) / np.maximum(weight.sum(axis=1), 1e-6)
    shine = LIT * lights.seen(still, centres) if lights is not None else 0.0
    return np.asarray(step + 0.3 * inside.sum(axis=1) + 0.5 * edge + shine)


def _dimmest(shown: Array, known: Array) -> Array:
    """Foreground of the second emptiest quarter of the disc that can be seen."""
    count = len(shown)
    inside = (shown[:, :2] * known[:, :2]).reshape(count, 2, 4, -1).sum(axis=(1, 3))
    weight = known[:, :2].reshape(count, 2, 4, -1).sum(axis=(1, 3))
    quarters = np.where(weight > 4, inside / np.maximum(weight, 1e-6), np.inf)
    ordered = np.sort(quarters, axis=1)
    return np.asarray(np.where(np.isfinite(ordered[:, 1]), ordered[:, 1], 0.0), np.float32)


def settled(
    still: Still,
    known: Array,
    centres: Pixels,
    rings: Array,
    steps: tuple[float, ...],
    lights: Lights | None = None,
    held: Array | None = None,
) -> Pixels:
    """Move every centre until its outline fits best, coarse to fine; over some pixels outlines keep their shape.

    Every other point of the outlines is enough for that. `held` (n) is how much a centre's fit suffers for each
    radius, squared, that it is moved.
    """
    at = centres.copy()
    pull = (np.zeros(len(at)) if held is None else held) / (np.linalg.norm(rings, axis=2) ** 2).mean(axis=1)
    rings = rings[:, ::EVERY]
    best = _fit(still, known, at, rings, lights)
    around = np.array([(i, j) for i in (-1, 0, 1) for j in (-1, 0, 1) if i or j], float)
    for step in steps:
        active = np.arange(len(at))
        for _ in range(4):
            if not len(active):
                break
            tried = at[active, None] + step * around
            times = len(around)
            own = lights.of(active, times) if lights is not None else None
            fits = _fit(still, known, tried.reshape(-1, 2), np.repeat(rings[active], times, axis=0), own)
            off = np.sum((tried - centres[active, None]) ** 2, axis=2)
            fits = fits.reshape(len(active), -1) - pull[active, None] * off
            choice = fits.argmax(axis=1)
            better = fits.max(axis=1) > best[active] + 1e-6
            moved = active[better]
            at[moved] = tried[better, choice[better]]
            best[moved] = fits.max(axis=1)[better]
            active = moved
    return at


RADII = np.linspace(0.6, 1.4, 33)  # of the outline's: where the profile across it is read
CORE, CLOTH = slice(0, 9), slice(25, 33)  # of these: inside the ball, and outside
CLEAR = 0.8  # of contrast between both, for an edge to be used
ENOUGH = 12.0  # weighted directions
FARTHEST = 0.3  # ball radii that a place is moved at most
TWICE = 2


def polished(still: Still, known: Array, centres: Pixels, rings: Array) -> Pixels:
    """Centres to a fraction of a pixel: in each direction the edge lies where the contrast to the cloth is half way
    between inside and outside; the centre that these edges have in common is found by least squares."""
    at = centres.copy()
    normal = rings / np.linalg.norm(rings, axis=2, keepdims=True)
    size = np.linalg.norm(rings, axis=2)
    for _ in range(TWICE):
        edge, good = _edges_along(still, known, at, rings)
        off = (edge - 1.0) * size
        weight = np.where(good, WEIGHTS, 0.0)
        for _ in range(3):
            a = np.einsum("nk,nki,nkj->nij", weight, normal, normal) + 1e-9 * np.eye(2)
            b = np.einsum("nk,nki,nk->ni", weight, normal, off)
            step = np.linalg.solve(a, b[..., None])[..., 0]
            left = np.abs(off - np.einsum("nki,ni->nk", normal, step))
            weight = np.where(good, WEIGHTS, 0.0) / np.maximum(1.0, left / 0.5) ** 2
        usable = (weight.sum(axis=1) > ENOUGH) & (
            np.linalg.norm(at + step - centres, axis=1) < FARTHEST * size.mean(axis=1)
        )
        at = np.where(usable[:, None], at + step, at)
    return at


def size_ratio(still: Still, known: Array, centres: Pixels, rings: Array) -> float:
    """The size of a ball in the picture beside that of its outline; 0 where too little of its edge is clear."""
    edge, good = _edges_along(still, known, centres, rings)
    upper = good & UPPER
    return float(np.median(edge[upper])) if upper.sum() >= len(ANGLES) // 2 else 0.0


def _edges_along(still: Still, known: Array, centres: Pixels, rings: Array) -> tuple[Pixels, NDArray[np.bool_]]:
    """Where along each direction the edge lies, in outline radii, and whether it is a clear one."""
    seen = _sampler(centres, rings, RADII)
    profile = np.minimum(seen(still.contrast), 4.0)
    inside, outside = np.median(profile[:, CORE], axis=1), np.median(profile[:, CLOTH], axis=1)
    level = (inside + outside) / 2
    beyond = profile < level[:, None]
    # the first sample beyond the core that is nearer to the cloth's level
    first = np.argmax(beyond[:, CORE.stop :], axis=1) + CORE.stop
    n, k = np.indices(first.shape)
    high, low = profile[n, first - 1, k], profile[n, first, k]
    share = np.clip((high - level) / np.maximum(high - low, 1e-6), 0.0, 1.0)
    edge = RADII[first - 1] + share * (RADII[1] - RADII[0])
    clear = (inside - outside > CLEAR) & beyond[:, CORE.stop :].any(axis=1)
    return edge, clear & (seen(known)[:, CORE.stop :].min(axis=1) > 0.5)
