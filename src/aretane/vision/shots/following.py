"""Reading a recording: its settled layouts and the shots between them, found while it is gone through.

Pictures are taken a few times a second and registered against the one in which the table was marked. Balls are
looked for in a smaller picture, and measured once in the full one when they have come to stand.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

import cv2
import numpy as np

from aretane.core.table import Point, Table
from aretane.vision.balls.appearance import appearances
from aretane.vision.balls.candidates import FIT_SIGMA, Candidate
from aretane.vision.balls.finding import ENOUGH, MOVES, find_balls, holds
from aretane.vision.balls.hands import touching
from aretane.vision.balls.outline import outline, size_ratio
from aretane.vision.balls.patches import judged
from aretane.vision.balls.racks import with_rack
from aretane.vision.files.frames import pictures
from aretane.vision.shots.watch import SAME, Look, Seen, Shot, Watch
from aretane.vision.table.camera import Camera, place_at, place_sigma, project
from aretane.vision.table.cloth import Bed, Cloth, Image, Mask, ball_radius, bed_of, enlarged, relit
from aretane.vision.table.gaps import Gaps
from aretane.vision.table.registration import Registrar, Warp, resized, straightened
from aretane.vision.table.sight import Still, prepare

EVERY = 0.5  # seconds between two looks
FAR_BALL = 11.0  # pixels across, to which the farthest ball may be made smaller
ABOUT, MOSTLY = 2.5, 0.6  # ball radii about a change that are looked at anew; of the bed: all of it is
CHANGED = 8  # of 255: a pixel that differs more from the look before
A_MOMENT = 1e-6  # s
ANEW = 20  # looks after which the cloth is looked at anew
STILL = 1.5e-4  # of the bed's pixels may have changed in a picture that is the same
ROUND = 3.0  # ball radii about a ball that are looked at when it is measured
FARTHEST = 0.02  # m: the full picture may move a ball by so much


@dataclass(frozen=True)
class View:
    """A camera for pictures of one size, and the same for the smaller pictures in which balls are looked for."""

    table: Table
    ball_set: str
    camera: Camera
    small: Camera
    scale: float
    bed: Bed
    small_bed: Bed


def view_of(table: Table, ball_set: str, camera: Camera, size: tuple[int, int]) -> View:
    """What is needed to look at pictures of that size."""
    bed = bed_of(table, camera, size)
    far = min(
        ball_radius(camera, place, table.radius) for place in ((0.0, 0.0), (table.length, 0.0), (0.0, table.width),
                                                              (table.length, table.width))
    )  # fmt: skip
    scale = min(1.0, FAR_BALL / max(2 * far, 1.0))
    small = camera if scale == 1.0 else camera.scaled(scale)
    small_size = (round(size[0] * scale), round(size[1] * scale))
    return View(table, ball_set, camera, small, scale, bed, bed_of(table, small, small_size))


@dataclass(frozen=True)
class Progress:
    """How far a reading has come: the time reached, the shots that ended since, whether the table is seen."""

    time: float
    shots: list[Shot]
    seen: bool


@dataclass(frozen=True)
class Ready:
    """A picture made ready for being looked at. `warp` is None where the table is not in view, `still` None where
    nothing has changed since the last one that had. `changed` is where something has (None: anywhere)."""

    time: float
    picture: Image
    view: View
    warp: Warp | None = None
    still: Still | None = None
    changed: Mask | None = None


class Sight:
    """One camera's view of the table: knows the picture in which it was marked (None: the first of its size)."""

    def __init__(
        self,
        table: Table,
        ball_set: str,
        camera_of: Callable[[tuple[int, int]], Camera],
        marked: Image | None = None,
    ) -> None:
        self.table, self.ball_set, self.camera_of, self.marked = table, ball_set, camera_of, marked
        self.size = (0, 0)
        self.view: View | None = None
        self.registrar: Registrar | None = None
        self.before: Image | None = None
        self.cloth: Cloth | None = None
        self.looks = 0

    def ready(self, time: float, picture: Image) -> Ready:
        size = (picture.shape[1], picture.shape[0])
        if self.view is None or size != self.size:
            self.size = size
            self.view = view_of(self.table, self.ball_set, self.camera_of(size), size)
            marked = self.marked if self.marked is not None and self.marked.shape == picture.shape else picture
            self.registrar = Registrar(resized(marked, self.view.scale), self.table, self.view.small)
            self.forget()
        assert self.registrar is not None
        small = resized(picture, self.view.scale)
        warp = self.registrar.register(small) if self.registrar.able else np.eye(2, 3)
        if warp is None:
            self.forget()
            return Ready(time, picture, self.view)
        small = straightened(small, warp)
        soft = np.asarray(cv2.GaussianBlur(self.view.small_bed.crop(small), (5, 5), 0), np.uint8)
        changed = self._changed(soft)
        if changed is not None and float(changed[self.view.small_bed.seen].mean()) < STILL:
            return Ready(time, picture, self.view, warp)
        self.before = soft
        self.looks += 1
        bed = self.view.small_bed
        cloth = relit(self.cloth, bed.crop(small), bed) if self.cloth and self.looks % ANEW else None
        still = prepare(small, self.table, self.view.small, bed, cloth)
        self.cloth = still.cloth
        return Ready(time, picture, self.view, warp, still, changed)

    def forget(self) -> None:
        """Another view has been shown: what is seen next is looked at as if for the first time."""
        self.before = self.cloth = None

    def _changed(self, soft: Image) -> Mask | None:
        """Where something has changed since the last picture that was looked at; None if there was none."""
        if self.before is None or self.before.shape != soft.shape:
            return None
        blue, green, red = cv2.split(cv2.absdiff(soft, self.before))
        return np.asarray(cv2.max(cv2.max(blue, green), red) > CHANGED)


class Finder(Protocol):
    """Finds the table in a view that nobody marked, by the balls that stand on it."""

    def found(self, picture: Image, cloth: Cloth | None, standing: Sequence[Point]) -> Sight | None: ...


class Eye:
    """Makes pictures ready, one after the other: finds which of the marked cameras it is and where that looks now,
    and tells cloth from the rest. `now` is the one that was seen last, `standing` where balls were last."""

    def __init__(self, sights: Sequence[Sight], finder: Finder | None = None) -> None:
        self.sights, self.now, self.finder = list(sights), sights[0], finder
        self.marked, self.standing = len(self.sights), list[Point]()
        self.cloth: Cloth | None = None

    def ready(self, time: float, picture: Image) -> Ready:
        ready = self.now.ready(time, picture)
        if ready.warp is not None:
            self.cloth = self.now.cloth
            return ready
        for other in self.sights:
            if other is not self.now and (again := other.ready(time, picture)).warp is not None:
                self.now = other
                return again
        found = self.finder.found(picture, self.cloth, self.standing) if self.finder else None
        if found is None:
            return ready
        self.sights, self.now = [*self.sights[: self.marked], found], found
        return found.ready(time, picture)


class Reader:
    """Looks at pictures of one recording that were made ready; keeps what stands on the table.

    `ratios` are sizes of sure balls beside those that the camera foretells, `cloth` the shares of the bed that
    look like cloth, `view` what was looked at last.
    """

    def __init__(self, table: Table, ball_set: str, watch: Watch) -> None:
        self.table, self.ball_set, self.watch = table, ball_set, watch
        self.ratios: list[float] = []
        self.cloth: list[float] = []
        self.view: View | None = None
        self.last: Look | None = None
        self.found: list[Candidate] = []
        self.seen: Still | None = None
        self.looks = 0

    def take(self, ready: Ready) -> Progress:
        """Look at one more picture."""
        self.view = ready.view
        if ready.warp is None:
            self.last = None
            self.watch.lost()
            return Progress(ready.time, [], False)
        if ready.still is None and self.last is not None:
            look = Look(ready.time, self.last.seen, self.last.empty, self.last.racked)
        else:
            assert ready.still is not None
            look = self._look(ready, ready.still)
        self.last = look
        shots = self.watch.look(look, lambda places: self._measure(ready, places))
        return Progress(ready.time, shots, True)

    def recall(self, ready: Ready) -> None:
        """Look again at a picture from before this part: it tells what was empty, and what the next one changes."""
        if ready.still is not None:
            self.last = self._look(ready, ready.still)
            self.watch.recall(self.last)

    def finish(self, time: float) -> list[Shot]:
        return self.watch.finish(time)

    def _look(self, ready: Ready, still: Still) -> Look:
        """The finds of a picture. Where it is as it was, they are those of the look before."""
        table, camera, self.seen = self.table, ready.view.small, still
        anew = self.looks % ANEW == 0
        self.looks += 1
        where = None if anew or self.last is None else _about(ready.changed, still.bed)
        kept = [
            one
            for one in self.found
            if where is not None and not holds(where, np.array(one.pixel) - still.bed.corner)
        ]
        self.found = find_balls(still, table, camera, kept, where)
        found, racked = with_rack(self.found, still, table, camera, self.ball_set)
        self.cloth.append(1.0 - _covered(still))
        found = self._without_somebody(found, still)
        looks = appearances(still, found)
        seen = [Seen(one.place, one.sigma, one.score, look) for one, look in zip(found, looks, strict=True)]
        return Look(ready.time, seen, Gaps(still, table, camera, found), racked)

    def _without_somebody(self, found: Sequence[Candidate], still: Still) -> list[Candidate]:
        """A fist or a sleeve may look like a ball: what touches somebody is one only where one stands already."""
        known = [one.place for one in self.watch.standing if one.left is None]
        return [
            one
            for one, near in zip(found, touching(found, still), strict=True)
            if not near or any(math.dist(one.place, place) < SAME for place in known)
        ]

    def _measure(self, ready: Ready, places: Sequence[Point]) -> list[tuple[Point, float] | None]:
        """Balls that have come to rest, measured in the full picture."""
        assert ready.warp is not None
        assert self.seen is not None
        view, full = ready.view, ready.warp.copy()
        full[:, 2] /= view.scale
        picture, found = straightened(ready.picture, full), []
        for place in places:
            bed = _around(place, view, self.table)
            cloth = enlarged(self.seen.cloth, self.seen.bed, bed, view.scale)
            still = prepare(picture, self.table, view.camera, bed, cloth)
            found.append(measured(still, self.table, view.camera, place))
        self.ratios += [one.ratio for one in found if one is not None and one.ratio > 0]
        return [(one.place, one.sigma) if one is not None else None for one in found]


def _around(place: Point, view: View, table: Table) -> Bed:
    """The part of the full picture's bed that holds a ball and what is round it."""
    u, v = project(view.camera, np.array([[*place, table.radius]]))[0] - view.bed.corner
    reach = ROUND * ball_radius(view.camera, place, table.radius)
    return view.bed.part(round(u - reach), round(v - reach), round(u + reach), round(v + reach))


def _covered(still: Still) -> float:
    """How much of the bed shows no cloth."""
    bed = still.bed.cloth & (still.known > 0)
    return float((still.unlike[bed] > 0.5).mean()) if bed.any() else 1.0


def _about(changed: Mask | None, bed: Bed) -> Mask | None:
    """Some balls' breadth about what has changed; None if that is nearly everywhere."""
    if changed is None:
        return None
    size = 2 * round(ABOUT * float(bed.radii.max())) + 1
    spots = cv2.morphologyEx(changed.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    near = cv2.dilate(spots, np.ones((size, size), np.uint8)).astype(bool)
    return None if near[bed.seen].mean() > MOSTLY else near


@dataclass(frozen=True)
class Measured:
    """A ball in the full picture: its place, the standard deviation, and its size beside the foretold one (0 if it
    cannot be told)."""

    place: Point
    sigma: float
    ratio: float


def measured(still: Still, table: Table, camera: Camera, place: Point) -> Measured | None:
    """A ball whose place is known to about a centimetre; None if nothing there fits."""
    centre = project(camera, np.array([[*place, table.radius]]))[0]
    ring = (outline(camera, place, table.radius) - centre).astype(np.float32)
    at_pixel, radius = (
        (centre - still.bed.corner)[None],
        np.array([ball_radius(camera, place, table.radius)], np.float32),
    )
    for _ in range(MOVES):
        told = judged(still, still.known, at_pixel, radius)
        if told.chance[0] < ENOUGH:
            return None
        at_pixel = told.centre
    pixel = at_pixel[0] + still.bed.corner
    at = (float(pixel[0]), float(pixel[1]))
    found = place_at(camera, at, table.radius)
    if found is None or np.hypot(found[0] - place[0], found[1] - place[1]) > FARTHEST:
        return None
    ratio = size_ratio(still, still.known, at_pixel, ring[None])
    return Measured(found, place_sigma(camera, at, table.radius, FIT_SIGMA), ratio)


def read(
    path: Path, eye: Eye, reader: Reader, begin: float = 0.0, until: float = math.inf, back: float = 0.0
) -> Iterator[tuple[Ready | None, Progress]]:
    """Go through a recording from `begin` on; the last progress holds what was under way at its end, unless `until`
    comes first. Pictures from up to `back` seconds earlier are only recalled. While one picture is looked at, the
    next is decoded and made ready beside it."""
    time, coming = begin, pictures(path, EVERY, begin - back)

    def following() -> Ready | None:
        for at, picture in coming:
            return eye.ready(at, picture)
        return None

    with ThreadPoolExecutor(1) as beside:
        waiting = beside.submit(following)
        while (ready := waiting.result()) is not None:
            if ready.time >= until:
                return
            waiting = beside.submit(following)
            if ready.time < begin - A_MOMENT:
                reader.recall(ready)
                continue
            time = ready.time
            progress = reader.take(ready)
            eye.standing = [one.place for one in reader.watch.standing if one.left is None]
            yield ready, progress
    yield None, Progress(time, reader.finish(time), True)
