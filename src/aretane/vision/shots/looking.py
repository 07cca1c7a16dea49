"""The questions asked of a recording: which balls are there at a moment, and which shots does it hold."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.review.course import with_course
from aretane.core.review.found_shots import Seen, told_after
from aretane.core.review.proposal import propose
from aretane.core.table import Point, Table
from aretane.vision.balls.appearance import Appearance, appearances
from aretane.vision.balls.ball_sets import BALL_SETS
from aretane.vision.balls.candidates import Candidate
from aretane.vision.balls.finding import find_balls
from aretane.vision.balls.hands import borne_out
from aretane.vision.balls.identity import names_for
from aretane.vision.balls.racks import with_rack
from aretane.vision.balls.spacing import apart
from aretane.vision.files.frames import picture_at, rhythm_of
from aretane.vision.shots.corrections import Found, corrected, course_of, named
from aretane.vision.shots.found_data import summary_of
from aretane.vision.shots.naming import Names, once
from aretane.vision.shots.part import Tally, read_part, words_about
from aretane.vision.shots.sense import misgivings
from aretane.vision.shots.wanted import Wanted, camera_of
from aretane.vision.shots.watch import Placed, Shot
from aretane.vision.table.camera import Camera
from aretane.vision.table.cloth import SMALLEST, Image, ball_radius
from aretane.vision.table.corners import fit_of_marks
from aretane.vision.table.fixtures import without_fixtures
from aretane.vision.table.registration import Registrar, same_view, straightened
from aretane.vision.table.sight import Still, prepare

SHOWN = 1.0  # seconds that a last picture may be shown, at least
LEAST_BED = 0.015  # of the picture: a smaller bed is no table in view
SAMPLES, NEARLY = 9, 0.85  # pictures in which the marks are tried, and how near to the best fit is good enough
APART_BY, FEW = 2.0, 1.05  # seconds, and pictures, from one to the next that may show what somebody is near
LONG, PARTS = 120.0, 6  # seconds: in a longer recording nothing but a fixture is seen in so many parts
STEPS = (-1, 1, -2, 2, -4)  # of that, from the picture that is asked about
ANY_GAME = "straight-pool"  # in which any ball may be played
PART = 60.0  # seconds of recording between two words about progress


@dataclass(frozen=True)
class Ball:
    """A ball with its name. Of balls that are alike names are given as they come."""

    name: str
    confidence: float
    candidate: Candidate
    appearance: Appearance
    racked: bool


def balls_in(wanted: Wanted, at: float, balls: Sequence[str]) -> tuple[list[Ball], Camera, float]:
    """The balls that stand at a moment, the camera, and the time of the picture that was looked at."""
    path, table = Path(wanted.path), wanted.table
    _refuse_after_end(path, at)
    time, shown = picture_at(path, at)
    size = (shown.shape[1], shown.shape[0])
    camera = camera_of(wanted, table, size)
    still = prepare(_registered(wanted, table, camera, shown), table, camera)
    _refuse_nonsense(float(still.bed.cloth.sum()) / (size[0] * size[1]), table, camera)
    film = _Film(path, time, shown, still, table, camera)
    found = find_balls(still, table, camera)
    found = borne_out(found, still, table, camera, film.about())
    found = without_fixtures(found, table, camera, film.all_over())
    found, racked = with_rack(found, still, table, camera, wanted.ball_set)
    looks = appearances(still, found)
    places = apart([one.place for one in found], table)
    found = [replace(one, place=place) for one, place in zip(found, places, strict=True)]
    named = names_for(looks, balls)
    told = [Ball(*named[n], one, looks[n], racked) for n, one in enumerate(found) if n in named]
    return told, camera, time


@dataclass(frozen=True)
class _Film:
    """The same view at other times than `time`, of which the picture was made ready."""

    path: Path
    time: float
    shown: Image
    still: Still
    table: Table
    camera: Camera

    def about(self) -> Iterator[tuple[bool, Still]]:
        """Some seconds earlier and later (True), or some pictures if there are few."""
        rhythm = rhythm_of(self.path)
        step = max(APART_BY, FEW / rhythm.rate) if rhythm.rate > 0 else math.inf
        for at, still in self._at([self.time + steps * step for steps in STEPS]):
            yield at > self.time, still

    def all_over(self) -> Iterator[Still]:
        """In all parts of a long recording."""
        rhythm = rhythm_of(self.path)
        if rhythm.last - rhythm.first > LONG:
            times = rhythm.first + np.linspace(0.05, 0.95, PARTS) * (rhythm.last - rhythm.first)
            for _, still in self._at([float(at) for at in times]):
                yield still

    def _at(self, times: Sequence[float]) -> Iterator[tuple[float, Still]]:
        """Each picture once."""
        registrar = Registrar(self.shown, self.table, self.camera)
        for at, other in same_view(self.path, times, self.time, self.shown, registrar):
            yield at, prepare(other, self.table, self.camera, self.still.bed)


def _registered(wanted: Wanted, table: Table, camera: Camera, shown: Any) -> Any:
    """The picture as the camera would have taken it when the table was marked."""
    if wanted.marked_at is None:
        return shown
    _, marked = picture_at(Path(wanted.path), wanted.marked_at)
    if marked.shape != shown.shape:
        raise InputError("at", "the picture has another size here than where the table was marked; mark it here")
    registrar = Registrar(marked, table, camera)
    if not registrar.able:
        return shown
    warp = registrar.register(shown)
    if warp is None:
        raise InputError("at", "this is another view than the marked one; mark the table here")
    return straightened(shown, warp)


def balls_at(wanted: Wanted, discipline: str | None, at: float) -> dict[str, Any]:
    """The answer of `video balls`."""
    if not at >= 0:
        raise InputError("at", "must be a time of the recording in seconds")
    told, camera, _ = balls_in(wanted, at, balls_of(wanted.ball_set, discipline))
    return {
        "balls": [
            {
                "id": one.name,
                "confidence": round(one.confidence, 3),
                "x": round(one.candidate.place[0], 4),
                "y": round(one.candidate.place[1], 4),
                "sigma": round(one.candidate.sigma, 4),
                "pixel": [round(one.candidate.pixel[0], 1), round(one.candidate.pixel[1], 1)],
                "racked": one.racked,
            }
            for one in told
        ],
        "camera": {"error_px": round(camera.error_px, 3), "focal_px": round(camera.focal, 1)},
    }


def shots_of(
    wanted: Wanted, discipline: str | None = None, progress: Callable[[float], None] | None = None
) -> dict[str, Any]:
    """The answer of `video shots`. Replays and new racks are no shots; they are listed beside them. With a
    `discipline` its rules help to tell what happened.
    """
    rhythm, table = rhythm_of(Path(wanted.path)), wanted.table
    wanted = replace(wanted, marked_at=rhythm.first)
    if rhythm.rate > 0:
        wanted = replace(wanted, marked_at=_view_of_marks(wanted))
    watch, time, over = None, rhythm.first, False
    found: list[Any] = []
    tally = Tally()
    while not over:
        part = read_part(wanted, watch, time, PART)
        watch, time, over = part.watch, part.reached, part.over
        found += part.shots
        tally = tally.with_(part.tally)
        if progress is not None:
            progress(min(time, rhythm.last))
    every = corrected(found, [])
    shots = [one for one in every if one.shot.kind == "shot"]
    names = named(every, balls_of(wanted.ball_set, discipline), []).names
    layouts = [tuple(_places(side, names, table) for side in (one.shot.before, one.shot.after)) for one in shots]
    return {
        "frames_per_second": round(rhythm.rate, 3),
        "shots": [
            {
                **summary_of(one.shot),
                "layout_before": {"balls": before},
                "layout_after": {"balls": after},
                "proposal": proposal,
            }
            for one, (before, after), proposal in zip(
                shots, layouts, _proposals(shots, names, layouts, table, discipline), strict=True
            )
        ],
        "others": [summary_of(one.shot) for one in every if one.shot.kind != "shot"],
        "said": words_about(tally, len(shots), _misgivings(wanted, discipline, found, tally)),
    }


def _misgivings(wanted: Wanted, discipline: str | None, found: Sequence[Shot], tally: Tally) -> list[str]:
    return misgivings(wanted, discipline, found, max(tally.sizes)) if tally.sizes else []


def balls_of(ball_set: str, discipline: str | None) -> tuple[str, ...]:
    """The balls that may be there."""
    return (CUE, *OBJECT_BALLS[discipline]) if discipline else BALL_SETS[ball_set]


def _places(layout: Sequence[Placed], names: Names, table: Table) -> dict[str, Point]:
    known = once(layout, names)
    places = apart([one.place for one in known], table)
    return {
        names[one.track][0]: (round(place[0], 4), round(place[1], 4))
        for one, place in zip(known, places, strict=True)
    }


def _proposals(
    shots: Sequence[Found], names: Names, layouts: Sequence[tuple[dict[str, Point], ...]], table: Table,
    discipline: str | None,
) -> list[dict[str, Any]]:  # fmt: skip
    """What happened, as far as the layouts and the balls' ways tell it."""
    game = discipline or ANY_GAME
    courses = [course_of(one.shot, names) for one in shots]
    seen = [(Layout(table, game, before), Layout(table, game, after)) for before, after in layouts]
    if discipline is None:
        return [
            _answer(with_course(propose(before, after, ()), course).facts)
            for (before, after), course in zip(seen, courses, strict=True)
        ]
    racks = [one.rack for one in shots]
    begins = [n > 0 and rack != racks[n - 1] for n, rack in enumerate(racks)]
    match = {"discipline": discipline, "racks": []}
    told = told_after(
        match, [Seen(*around, new, course) for around, new, course in zip(seen, begins, courses, strict=True)]
    )
    return [_answer(one.document) for one in told]


def _answer(facts: Mapping[str, Any]) -> dict[str, Any]:
    called = facts.get("called") or {}
    told = {key: facts.get(key) for key in ("potted", "scratch", "first_contact", "rails_after_contact")}
    return {"ball": called.get("ball"), "pocket": called.get("pocket"), **told}


def _view_of_marks(wanted: Wanted) -> float:
    """The first time at which the marks fit the picture nearly as well as they ever do.

    Recordings begin with titles, talk and other views.
    """
    rhythm = rhythm_of(Path(wanted.path))
    fits = []
    for share in np.linspace(0.0, 0.97, SAMPLES):
        time, shown = picture_at(Path(wanted.path), rhythm.first + share * (rhythm.last - rhythm.first))
        camera = camera_of(wanted, wanted.table, (shown.shape[1], shown.shape[0]))
        fits.append((time, fit_of_marks(shown, wanted.table, camera)))
    best = max(fit for _, fit in fits)
    return next(time for time, fit in fits if fit >= NEARLY * best)


def _refuse_after_end(path: Path, at: float) -> None:
    """The last picture is shown for a while; later there is none."""
    rhythm = rhythm_of(path)
    if at > rhythm.last + max(SHOWN, rhythm.gap):
        raise InputError("at", f"the recording's last picture is at {rhythm.last:.1f} s")


def _refuse_nonsense(bed: float, table: Table, camera: Camera) -> None:
    if bed < LEAST_BED:
        raise InputError("corners", "the table they mark is too small in this picture to see its balls")
    middle = (table.length / 2, table.width / 2)
    if ball_radius(camera, middle, table.radius) < SMALLEST:
        raise InputError("corners", "the balls are smaller than six pixels: film from nearer, or larger")
