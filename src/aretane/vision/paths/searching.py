"""Where a ball may be in one picture: what is not cloth within its reach, judged by the network, its colour and its
way."""

from __future__ import annotations

import math
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point
from aretane.vision.balls.candidates import GROWN
from aretane.vision.balls.outline import FINE, outlines, to_fill
from aretane.vision.balls.patches import RUNNING, judged
from aretane.vision.paths.pictures import Frame, View
from aretane.vision.paths.runner import Pixels, Runner
from aretane.vision.table.camera import places_at, project
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import DISC

SAME, MUCH = (
    (2.0, 7.0),
    0.4,
)  # units of Lab, least and most, by which a ball may differ from what it was and still be
# the same: so much of what it differs from the cloth
CORE = 0.6  # ball radii of that middle
THERE = 0.25  # the chance of a ball that runs
FASTEST = 9.0  # m/s: how fast a cue ball may be struck in play
REACH = 0.03  # m: in any case
TURNS = 1.1  # of the way that a ball would go on: it may also turn
EXPECTED = 0.35  # of its way: how far from where it is expected a ball is to be believed
STEP, MOST = 0.5, 28  # ball radii between places that are tried; and how many for one ball
WIDE, MOST_WIDE = 0.45, 90  # m: a ball that may be so far off is looked for at more places, farther apart
LIKELIEST = 14  # places judged twice
SURE, SURELY = 0.8, 0.8  # the chance, and the ball radii off, of a ball that is just where it was expected
AROUND = 0.5 * np.array([(0.0, 0.0), (1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0)])  # ball radii: tried for it
ON_BED = 0.2  # of a disc: with less of it before the bed nothing is told
FILLED = 0.4  # of a ball's breadth that is no cloth, where it is tried
OTHER = 20.0  # units of Lab: another colour counts against it

_ROUND = np.linspace(0, 2 * math.pi, 16, endpoint=False)
RING = np.column_stack([np.cos(_ROUND), np.sin(_ROUND)])


class Search:
    """Looks for the balls of one recording in its pictures."""

    def __init__(self, view: View) -> None:
        self.view, self.table, self.camera = view, view.table, view.camera

    def refer(self, one: Runner, frame: Frame) -> None:
        one.reference = self._core(one, frame)
        if len(one.reference):
            if not one.ran:  # one that ran may be another's, and is told apart by what it was
                one.colour = np.median(one.reference, axis=0)
            bare = float(np.abs(one.reference - self._core(one, frame, frame.cloth.colour)).mean())
            one.same = float(np.clip(MUCH * bare, *SAME))

    def changed(self, one: Runner, frame: Frame) -> bool:
        if one.reference is None:
            return False
        return float(np.abs(self._core(one, frame) - one.reference).mean()) > one.same

    def _core(self, one: Runner, frame: Frame, layer: Array | None = None) -> Array:
        """What the middle of a standing ball shows, or another layer there."""
        if one.disc is None or one.disc[0] != one.place:
            one.disc = (one.place, *self.discs([one.place]))
        _, pixels, radii = one.disc
        return _read(frame.colours if layer is None else layer, pixels[0] + CORE * radii[0] * DISC)

    def empty(self, one: Runner, frame: Frame, untold: float = 0.0) -> float:
        """The share of its disc that is cloth, of what lies before the bed, not before a rail; `untold` where that
        is too little, as in a pocket's mouth."""
        pixels, radii = self.discs([one.place])
        points = pixels[0] + 0.8 * radii[0] * DISC
        bed = _read(frame.bed.cloth_share, points) > 0.5
        if bed.mean() < ON_BED:
            return untold
        seen, cloth = (_read(layer, points[bed]) for layer in (frame.colours, frame.cloth.colour))
        off = (seen - cloth) * np.array([0.5, 1.0, 1.0], np.float32)
        return float((np.linalg.norm(off, axis=1) < frame.cloth.threshold).mean())

    def unlike_at(self, one: Runner, place: Point, frame: Frame) -> float:
        pixels, radii = self.discs([place])
        return self._unlike(one, pixels[0], float(radii[0]), frame)

    def cover(self, known: Array, places: Sequence[Point]) -> None:
        if places:
            rings = outlines(self.camera, np.array(places), self.table.radius)
            for ring in to_fill(rings, GROWN, self.view.bed.corner):
                cv2.fillPoly(known, [ring], 0.0, shift=FINE)

    def sought(self, one: Runner, known: Array, frame: Frame) -> tuple[float, Point | None]:
        """How good the best place for it is, and where."""
        expected = self._as_expected(one, known, frame)
        if expected is not None:
            return expected
        found = self.candidates(one, known, frame)
        return found[0] if found else (-math.inf, None)

    def _as_expected(self, one: Runner, known: Array, frame: Frame) -> tuple[float, Point] | None:
        """The place of a ball that runs on as it ran, if it is surely there: most do, and need no search."""
        velocity = one.velocity
        if velocity is None or len(one.marks) < 3:
            return None
        at = np.array(one.place) + velocity * (frame.time - one.time)
        expected = (float(at[0]), float(at[1]))
        if not (0 < expected[0] < self.table.length and 0 < expected[1] < self.table.width):
            return None
        pixels, radii = self.discs([expected])
        told = judged(frame, known, pixels + radii[0] * AROUND, np.repeat(radii, len(AROUND)), RUNNING)
        best = int(np.argmax(told.chance))
        place, chance = self._place(told.centre[best], frame), float(told.chance[best])
        off = math.dist(place, expected) / (SURELY * self.table.radius)
        unlike = self._unlike(one, told.centre[best], float(radii[0]), frame)
        if chance < SURE or not off < 1 or unlike > 1:
            return None
        return math.log(chance) - 0.5 * off * off - unlike, place

    def candidates(self, one: Runner, known: Array, frame: Frame) -> list[tuple[float, Point]]:
        """Places at which it may be, the best first, with how good they are."""
        gap, velocity = frame.time - one.time, one.velocity
        speed = FASTEST if velocity is None else float(np.hypot(*velocity))
        expected = np.array(one.place) + (0.0 if velocity is None else velocity * gap)
        reach = REACH + TURNS * speed * gap
        starts = self._places_to_try(one.place, expected, reach, known, frame)
        if not len(starts):
            return []
        pixels, radii = self.discs([(float(x), float(y)) for x, y in starts])
        told = judged(frame, known, pixels, radii, RUNNING)
        likely = np.argsort(-told.chance)[:LIKELIEST]
        likely = likely[told.chance[likely] > 0.5 * THERE]
        told = judged(frame, known, told.centre[likely], radii[likely], RUNNING)
        places = places_at(self.camera, told.centre + frame.bed.corner, self.table.radius)
        found: list[tuple[float, Point]] = []
        for n in range(len(likely)):
            place = (float(places[n, 0]), float(places[n, 1]))
            if told.chance[n] < THERE or not math.dist(place, one.place) < 1.3 * reach + REACH:
                continue
            off = math.dist(place, expected) / (REACH + EXPECTED * speed * gap) if velocity is not None else 0.0
            unlike = self._unlike(one, told.centre[n], float(radii[likely[n]]), frame)
            found.append((math.log(float(told.chance[n])) - 0.5 * min(off * off, 9.0) - unlike, place))
        found.sort(reverse=True)
        apart: list[tuple[float, Point]] = []
        for worth, place in found:
            if all(math.dist(place, other) > self.table.radius for _, other in apart):
                apart.append((worth, place))
        return apart

    def _unlike(self, one: Runner, pixel: Pixels, radius: float, frame: Frame) -> float:
        if one.colour is None:
            return 0.0
        return min(4.0, float(np.linalg.norm(_look(frame, pixel, radius) - one.colour)) / OTHER)

    def look(self, place: Point, frame: Frame) -> NDArray[np.float64]:
        """The colour of what is there."""
        pixels, radii = self.discs([place])
        return _look(frame, pixels[0], float(radii[0]))

    def _places_to_try(
        self, last: Point, expected: NDArray[np.float64], reach: float, known: Array, frame: Frame
    ) -> Pixels:
        """Places within reach where something of a ball's breadth is no cloth, the most expected first."""
        _, radii = self.discs([last])
        ring = np.array(last) + reach * RING
        seen = (
            project(self.camera, np.column_stack([ring, np.full(len(ring), self.table.radius)])) - frame.bed.corner
        )
        if not np.all(np.isfinite(seen)):
            return np.zeros((0, 2))
        height, width = frame.known.shape
        margin = 2 * float(radii[0])
        x0, y0 = np.maximum(np.floor(seen.min(axis=0) - margin), 0).astype(int)
        x1, y1 = np.minimum(np.ceil(seen.max(axis=0) + margin), (width, height)).astype(int)
        if x1 - x0 < 2 or y1 - y0 < 2:
            return np.zeros((0, 2))
        box = (slice(y0, y1), slice(x0, x1))
        off = (frame.colours[box] - frame.cloth.colour[box]) * np.array([0.6, 1.0, 1.0], np.float32)
        solid = ((np.square(off).sum(axis=2) > (0.7 * frame.cloth.threshold) ** 2) & (known[box] > 0.5)).astype(
            np.float32
        )
        breadth = max(1, round(1.4 * float(radii[0])))
        filled = cv2.boxFilter(solid, -1, (breadth, breadth))
        step = max(1, round((STEP if reach < WIDE else 2 * STEP) * float(radii[0])))
        rows, columns = np.nonzero(filled[::step, ::step] > FILLED)
        if not len(rows):
            return np.zeros((0, 2))
        at = np.column_stack([columns * step + x0, rows * step + y0]).astype(float)
        places = places_at(self.camera, at + frame.bed.corner, self.table.radius)
        r = 0.5 * self.table.radius
        with np.errstate(invalid="ignore"):
            fine = np.linalg.norm(places - last, axis=1) <= reach + REACH
            fine &= np.all((places > -r) & (places < np.array([self.table.length, self.table.width]) + r), axis=1)
        places = places[fine]
        most = MOST if reach < WIDE else MOST_WIDE
        order = np.argsort(np.linalg.norm(places - expected, axis=1))[:most]
        return np.asarray(places[order])

    def discs(self, places: Sequence[Point]) -> tuple[Pixels, Array]:
        """Middles (pixels of the box) and radii of balls at these places."""
        at = np.column_stack([np.array(places), np.full(len(places), self.table.radius)])
        depth = at @ self.camera.rotation[2] + self.camera.translation[2]
        radii = np.asarray(self.camera.focal * self.table.radius / depth, np.float32)
        return project(self.camera, at) - self.view.bed.corner, radii

    def _place(self, pixel: Pixels, frame: Frame) -> Point:
        x, y = places_at(self.camera, pixel[None] + frame.bed.corner, self.table.radius)[0]
        return float(x), float(y)


def _look(frame: Frame, pixel: Pixels, radius: float) -> NDArray[np.float64]:
    return np.asarray(np.median(_read(frame.colours, pixel + CORE * radius * DISC), axis=0), np.float64)


def _read(layer: Array, points: Pixels) -> Array:
    """The values of a layer at pixels of the box (n x 2)."""
    at = np.ascontiguousarray(points, np.float32)[:, None]
    seen = cv2.remap(layer, at[..., 0], at[..., 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(seen[:, 0], np.float32)
