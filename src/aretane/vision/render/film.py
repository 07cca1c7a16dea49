"""Synthetic recordings of a match: what a phone or a club's camera would have shown, and the truth beside it.

Every stroke that a shot carries is simulated and filmed as it runs; a shot without one is filmed before and after.
Between shots people, hands, cues and captions come and go over the table, the camera is shaken, bumped and zoomed,
and the picture is cut to a replay from elsewhere.
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import asdict, dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any, cast

import av
import cv2
import numpy as np
from av.video.stream import VideoStream
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.rack import colour_spots
from aretane.core.rules.traits import traits_of
from aretane.core.table import Table, table_from
from aretane.vision.render.brush import Image
from aretane.vision.render.look import CLOTHS, SHIRTS, WOODS, Look
from aretane.vision.render.motion import Course, Places, at_time, course_of, random_turn, roll
from aretane.vision.render.overlays import draw_captions, draw_lines, draw_player_bar
from aretane.vision.render.people import paint_player, paint_reaching, paint_walker
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import Camera, project
from aretane.vision.table.cloth import ball_radius
from aretane.vision.table.marks import mark_places

WAIT, AFTER = 2.2, 1.6  # seconds of stillness before the contact and after the last ball stops
BEFORE, AFTERWARDS = 0.4, 0.7  # seconds: moments beside a shot at which everything stands
FEW = 2.6  # pictures of each layout, at least, in a recording of less than one a second
TRUTH_EVERY = 0.2  # seconds between two truths
REPLAY = 2.0  # a replay takes so many times as long
PAUSED_AT, PAUSED = 0.4, 3.0  # of a shot's length, and seconds: where the picture stands still
INSET = 0.28  # of the picture's breadth: another picture in it
ZOOMED = 1.1
STANDS = 0.25  # ball radii: what runs less while the shutter is open is not smeared
TOLD_EVERY = 0.02  # seconds between two places of a ball's path in the truth
NOISES = 8  # pictures of noise that take turns


@dataclass(frozen=True)
class Recipe:
    """How a recording is made. `rate` is pictures a second (below 1: one every so many seconds, at uneven times).

    `shutter` is how long it is open (s), `soft` a blur in pixels, `exposure` how bright the picture is; `reaching`
    has somebody stretch an arm over the table between shots. `cropped` moves the principal point by a share of the
    width, `radial` is k1; `replays` cuts to another camera after some shots, `inset` shows it in a corner of the
    picture meanwhile, `zoom` and `bump` move this one in the middle of the recording, and `pauses` has the picture
    stand still while balls run, as where somebody stopped a film to talk. `running` is the share of the time that
    balls run (None: hardly anybody waits).
    """

    name: str = "plain"
    size: tuple[int, int] = (1280, 720)
    rate: float = 25.0
    view: str = "short rail"
    cloth: str = "blue"
    cropped: float = 0.0
    radial: float = 0.0
    shake: float = 0.0
    bump: bool = False
    zoom: bool = False
    replays: bool = False
    inset: bool = False
    pauses: bool = False
    person: bool = False
    captions: bool = False
    lines: bool = False
    player_bar: bool = False
    template: bool = False
    second_table: bool = False
    head_string: bool = False
    measles: bool = False
    other_make: bool = False
    make: str = "plain"
    aged: float = 0.0
    cream: float = 0.0
    printed: str = ""
    black_cushions: bool = False
    reaching: bool = False
    soft: float = 0.0
    exposure: float = 1.0
    shutter: float = 0.0
    lamps: str = "row"
    pockets: str = "plain"
    wood: str = "dark"
    shirt: str = "dark"
    warm: float = 0.0
    noise: float = 2.5
    flicker: float = 0.0
    uneven: bool = False
    running: float | None = None
    codec: str = "libx264"
    quality: int = 26
    seed: int = 1


@dataclass(frozen=True)
class _Pause:
    """When in a shot the picture stands still, and how long."""

    at: float = math.inf
    length: float = 0.0

    def before(self, shown: float) -> float:
        """The time of what is shown, on the clock of the play."""
        return shown if shown < self.at else max(self.at, shown - self.length)

    def after(self, played: float) -> float:
        """When something that is played is shown first."""
        return played if played <= self.at else played + self.length


@dataclass(frozen=True)
class _Moment:
    """One picture to be: its time, the shot it belongs to, the time since the contact, and how far the shot is."""

    clock: float
    since: float
    length: float
    number: int
    replayed: bool = False


def render_match(
    match: Mapping[str, Any],
    path: Path,
    recipe: Recipe,
    most_shots: int | None = None,
    progress: Callable[[float], None] | None = None,
) -> dict[str, Any]:
    """Write the recording and `path` with .json beside it; returns the truth: camera, every ball, every shot."""
    film = _Film(match, recipe, most_shots)
    with av.open(str(path), "w") as file:
        stream = cast(VideoStream, file.add_stream(recipe.codec, rate=Fraction(max(1, round(recipe.rate)))))
        stream.width, stream.height = recipe.size
        stream.pix_fmt = "yuv420p"
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        speed = {"preset": "veryfast"} if recipe.codec == "libx264" else {"deadline": "realtime", "cpu-used": "8"}
        stream.options = {"crf": str(recipe.quality), **speed}
        last = -1
        for time, picture in film.pictures():
            frame = av.VideoFrame.from_ndarray(picture, format="bgr24")
            frame.pts = max(last + 1, round(1000 * time))
            frame.time_base = Fraction(1, 1000)
            last = frame.pts
            file.mux(stream.encode(frame))
            if progress is not None:
                progress(time)
        file.mux(stream.encode(None))
    path.with_suffix(".json").write_text(json.dumps(film.truth, separators=(",", ":")))
    return film.truth


def moments_of(
    match: Mapping[str, Any], recipe: Recipe, most_shots: int | None = None
) -> Iterator[tuple[dict[str, Any], dict[str, Any], Image]]:
    """Truth, the frame that tells of the moment, and its picture, shortly before and after every shot. Nothing else
    is painted, and no file is written."""
    film = _Film(match, recipe, most_shots, whole=False)
    for _, picture in film.pictures():
        yield film.truth, film.truth["frames"][-1], picture


def frames_beside(truth: Mapping[str, Any]) -> Iterator[dict[str, Any]]:
    """What the truth of a whole recording tells of the same moments."""
    for shot in truth["shots"]:
        for at in (shot["contact"] - BEFORE, shot["still"] + AFTERWARDS):
            yield min(truth["frames"], key=lambda frame: abs(frame["t"] - at))


class _Film:
    """The making of one recording; `truth` grows as pictures are made. If it is not the `whole`, two moments of
    each shot are filmed."""

    def __init__(
        self, match: Mapping[str, Any], recipe: Recipe, most_shots: int | None, whole: bool = True
    ) -> None:
        self.recipe, self.discipline, self.whole = recipe, str(match["discipline"]), whole
        self.table = table_from(match.get("table", "pool-9ft"))
        self.dice = np.random.default_rng(recipe.seed)
        camera = camera_for(self.table, recipe.view, recipe.size, self.dice, recipe.cropped, recipe.radial)
        look = _look(self.table, self.discipline, recipe, self.dice)
        self.scene = Scene(self.table, camera, recipe.size, look)
        self.other = Scene(self.table, camera_for(self.table, "close", recipe.size, self.dice), recipe.size, look)
        shots = [shot for rack in match["racks"] for shot in rack["shots"]]
        self.shots = [shot for shot in shots if (shot.get("layout_before") or {}).get("balls")][:most_shots]
        self.turned: dict[str, NDArray[np.float64]] = {}
        self.noises = [self.dice.normal(0, recipe.noise, (*recipe.size[::-1], 3)) for _ in range(NOISES)]
        self.noises = [np.clip(np.round(noise), -60, 60).astype(np.int16) for noise in self.noises]
        self.shift = np.zeros(2)
        self.next_truth = 0.0
        self.truth: dict[str, Any] = {
            "recipe": asdict(recipe),
            "discipline": self.discipline,
            "table": self.table.name,
            "camera": _camera_truth(camera, self.table),
            "frames": [],
            "shots": [],
            "replays": [],
        }

    def pictures(self) -> Iterator[tuple[float, Image]]:
        """Times and pictures of the whole recording."""
        recipe, clock = self.recipe, 0.0
        wait, after = (WAIT, AFTER) if recipe.rate >= 1 else (FEW / recipe.rate, 0.4 / recipe.rate)
        for number, shot in enumerate(self.shots):
            course = course_of(shot, self.table, self.discipline)
            length = course.length
            if recipe.running is not None:
                wait = length * (1 / recipe.running - 1) - after
            pause = _Pause(wait + PAUSED_AT * length, PAUSED) if recipe.pauses and number % 2 == 0 else _Pause()
            self.truth["shots"].append(_shot_truth(course, clock, wait, pause))
            if recipe.bump and number == len(self.shots) // 2:
                self.shift = self.dice.uniform(5, 9, 2) * self.dice.choice([-1, 1], 2)
            moments = (wait - BEFORE, wait + length + min(AFTERWARDS, after))
            span = wait + length + after + pause.length
            for at in self._times(span) if self.whole else moments:
                since = pause.before(at) - wait
                yield clock + at, self._picture(_Moment(clock + at, since, length, number), course)
            clock += span
            if recipe.replays and self.whole and number % 3 == 1:
                span = REPLAY * (1.0 + length)
                self.truth["replays"].append([round(clock, 3), round(clock + span, 3)])
                for at in self._times(span):
                    since = at / REPLAY - 0.7
                    yield clock + at, self._picture(_Moment(clock + at, since, length, number, True), course)
                clock += span

    def _times(self, span: float) -> Iterator[float]:
        rate = self.recipe.rate
        if rate >= 1:
            spread = 0.35 / rate if self.recipe.uneven else 0.0
            yield from (n / rate + float(self.dice.uniform(0, spread)) for n in range(int(span * rate)))
            return
        at = float(self.dice.uniform(0.1, 0.8)) / rate
        while at < span:
            yield at
            at += float(self.dice.uniform(0.7, 1.3)) / rate

    def _picture(self, moment: _Moment, course: Course) -> Image:
        tracks = course.tracks
        places = at_time(tracks, moment.since)
        for ball in places:
            self.turned.setdefault(ball, random_turn(self.dice))
        step = 1 / max(self.recipe.rate, 5.0)
        roll(self.turned, tracks, moment.since, step, self.table.radius)
        scene = self.other if moment.replayed else self.scene
        clean = self._exposed(scene, course, moment.since)
        picture = clean.copy()
        if self.recipe.person and not moment.replayed:
            self._people(picture, moment, places)
        warp = self._warp(moment)
        if moment.clock >= self.next_truth and not moment.replayed:
            self._tell(moment, places, clean, picture, warp)
        filmed = self._filmed(scene.finished(picture), warp, moment)
        if self.recipe.inset and moment.since < 0 and moment.number % 2:
            self._inset(filmed, course)
        return self._overlaid(filmed, moment, places)

    def _inset(self, picture: Image, course: Course) -> None:
        """Another camera's picture in the upper corner."""
        height, width = picture.shape[:2]
        small = cv2.resize(self._exposed(self.other, course, 0.0), (round(INSET * width), round(INSET * height)))
        picture[: small.shape[0], width - small.shape[1] :] = small

    def _exposed(self, scene: Scene, course: Course, since: float) -> Image:
        """The balls as they are while the shutter is open: what runs is smeared along its way."""
        opened, shut = (at_time(course.tracks, since + side * self.recipe.shutter / 2) for side in (-1, 1))
        runs = [math.dist(opened[ball], shut[ball]) for ball in opened if ball in shut]
        farthest = max(runs, default=0.0)
        if farthest < STANDS * self.table.radius:
            return scene.paint(at_time(course.tracks, since), self.turned)
        steps = int(np.clip(2 * farthest / self.table.radius, 3, 9))
        times = since + self.recipe.shutter * np.linspace(-0.5, 0.5, steps)
        taken = [scene.paint(at_time(course.tracks, float(t)), self.turned).astype(np.float32) for t in times]
        return np.asarray(np.mean(taken, axis=0), np.uint8)

    def _people(self, picture: Image, moment: _Moment, places: Places) -> None:
        """The player until the stroke and a moment longer, then on the way round; nobody at the end."""
        shirt = self.scene.look.shirt
        cue, aim = places.get(CUE), (self.shots[moment.number].get("stroke") or {}).get("aim")
        if moment.since < 0.5 and cue is not None:
            before = at_time({CUE: lambda t: cue}, 0.0)[CUE] if moment.since < 0 else None
            start = self.shots[moment.number]["layout_before"]["balls"].get(CUE)
            stands = before or (float(start[0]), float(start[1]))
            risen = float(np.clip(2 * (moment.since - 0.1), 0, 1))
            drawn = 0.05 + 0.05 * float(np.sin(3.0 * moment.since)) if moment.since < 0 else 0.0
            paint_player(picture, self.scene.straight, self.table, stands, aim or 0.4, risen, drawn, shirt)
        elif self.recipe.reaching and moment.since > moment.length + 0.2 and moment.number % 3 != 2 and places:
            ball = sorted(places)[(7 * moment.number) % len(places)]
            x, y = places[ball]
            off = np.random.default_rng([self.recipe.seed, moment.number]).uniform(-0.14, 0.14, 2)
            beside = (float(np.clip(x + off[0], 0.05, self.table.length - 0.05)),
                      float(np.clip(y + off[1], 0.05, self.table.width - 0.05)))  # fmt: skip
            paint_reaching(picture, self.scene.straight, self.table, beside, shirt, 0.09 + float(abs(off[0])))
        elif moment.since < moment.length + 0.4 and moment.number % 2:
            share = (moment.since - 0.5) / max(1.0, moment.length)
            paint_walker(picture, self.scene.straight, self.table, float(share), shirt)

    def _warp(self, moment: _Moment) -> NDArray[np.float64]:
        """The affine map (2 x 3) from where things should be in the picture to where this one shows them."""
        moved = self.shift + (self.dice.normal(0, self.recipe.shake, 2) if self.recipe.shake else 0.0)
        scale = 1.0
        if self.recipe.zoom and moment.number == 1:
            scale = 1 + (ZOOMED - 1) * float(np.clip((moment.since + 1.5) / 0.8, 0, 1))
            scale = 1 + (scale - 1) * float(np.clip((moment.length + 0.8 - moment.since) / 0.5, 0, 1))
        middle = np.array(self.recipe.size) / 2
        return np.column_stack([scale * np.eye(2), middle * (1 - scale) + moved])

    def _filmed(self, picture: Image, warp: NDArray[np.float64], moment: _Moment) -> Image:
        if not np.allclose(warp, np.eye(2, 3)):
            shown = cv2.warpAffine(picture, warp, self.recipe.size, borderMode=cv2.BORDER_REPLICATE)
            picture = np.asarray(shown, np.uint8)
        if self.recipe.soft:
            picture = np.asarray(cv2.GaussianBlur(picture, (0, 0), self.recipe.soft), np.uint8)
        light = self.recipe.exposure + self.recipe.flicker * float(np.sin(37.0 * moment.clock))
        if light != 1.0 or self.recipe.warm:
            gains: Any = (light * (1 - self.recipe.warm), light, light * (1 + self.recipe.warm), 1.0)
            picture = np.asarray(cv2.multiply(picture, gains), np.uint8)
        noise = self.noises[int(self.dice.integers(NOISES))]
        return np.asarray(cv2.add(picture, noise, dtype=cv2.CV_8U), np.uint8)

    def _overlaid(self, picture: Image, moment: _Moment, places: Places) -> Image:
        if self.recipe.lines and int(moment.clock / 4) % 4 == 1:
            draw_lines(picture, self.scene.camera, self.table, places)
        if self.recipe.captions:
            draw_captions(picture)
        if self.recipe.player_bar:
            draw_player_bar(picture, (moment.clock / 60) % 1)
        return picture

    def _tell(
        self, moment: _Moment, places: Places, clean: Image, picture: Image, warp: NDArray[np.float64]
    ) -> None:
        self.truth["frames"].append(
            {
                "t": round(moment.clock, 3),
                "balls": {ball: [round(x, 4), round(y, 4)] for ball, (x, y) in places.items()},
                "hidden": _hidden(self.scene, places, clean, picture),
                "warp": warp.round(4).tolist(),
            }
        )
        self.next_truth = moment.clock + TRUTH_EVERY


def _shot_truth(course: Course, start: float, wait: float, pause: _Pause) -> dict[str, Any]:
    """When it was; and of a stroke the path of every ball that ran, and what happened, in the recording's time."""

    def shown(t: float) -> float:
        return round(start + pause.after(wait + t), 3)

    told: dict[str, Any] = {"start": round(start, 3), "contact": shown(0.0), "still": shown(course.length)}
    if not course.events:
        return told
    told["events"] = [
        {
            "t": shown(one.t),
            "kind": one.kind,
            "balls": list(one.balls),
            "at": [round(v, 4) for v in one.place],
            **({"pocket": one.pocket} if one.pocket else {}),
            **({"rail": one.rail} if one.rail else {}),
        }
        for one in course.events
    ]
    ran = {ball for one in course.events for ball in one.balls}
    at = np.arange(0.0, course.length + TOLD_EVERY, TOLD_EVERY)
    told["paths"] = {
        ball: [
            [shown(float(t)), round(place[0], 4), round(place[1], 4)]
            for t in at
            if (place := course.tracks[ball](float(t))) is not None
        ]
        for ball in sorted(ran)
    }
    return told


def _hidden(scene: Scene, places: Places, clean: Image, picture: Image) -> dict[str, float]:
    """How much of each ball somebody covers, where it is more than a trace."""
    covered = np.any(clean != picture, axis=2)
    if not covered.any():
        return {}
    found = {}
    height, width = covered.shape
    for ball, place in places.items():
        radius = scene.table.radius_of(ball)
        u, v = project(scene.straight, np.array([[*place, radius]]))[0]
        reach = ball_radius(scene.straight, place, radius)
        y, x = (
            np.mgrid[0:height, 0:width]
            if reach > width
            else np.mgrid[max(0, int(v - reach)) : int(v + reach) + 2, max(0, int(u - reach)) : int(u + reach) + 2]
        )
        inside = (np.hypot(x - u, y - v) < reach) & (x < width) & (y < height)
        share = (
            float(covered[np.minimum(y, height - 1), np.minimum(x, width - 1)][inside].mean())
            if inside.any()
            else 1.0
        )
        if share > 0.05:
            found[ball] = round(share, 2)
    return found


def _look(table: Table, discipline: str, recipe: Recipe, dice: np.random.Generator) -> Look:
    spots = (
        list(colour_spots(table).values())
        if traits_of(discipline).returns
        else [(table.foot_spot, table.width / 2)]
    )
    chalk = dice.uniform((0.2, 0.1), (table.length - 0.2, table.width - 0.1), (5, 2))
    return Look(
        cloth=CLOTHS[recipe.cloth],
        spots=tuple(spots),
        marks=tuple((float(x), float(y)) for x, y in chalk),
        template=recipe.template,
        second_table=recipe.second_table,
        head_string=recipe.head_string,
        measles=recipe.measles,
        other_make=recipe.other_make,
        make=recipe.make,
        aged=recipe.aged,
        cream=recipe.cream,
        printed=recipe.printed,
        cushions=(34, 32, 32) if recipe.black_cushions else None,
        lamps=recipe.lamps,
        pockets=recipe.pockets,
        wood=WOODS[recipe.wood],
        shirt=SHIRTS[recipe.shirt],
        seed=recipe.seed,
    )


def _camera_truth(camera: Camera, table: Table) -> dict[str, Any]:
    names = ("corner:head-left", "corner:head-right", "corner:foot-right", "corner:foot-left")
    places = mark_places(table)
    marks = {name: project(camera, np.array([place]))[0].round(2).tolist() for name, place in places.items()}
    return {
        "corners": [marks[name] for name in names],
        "marks": marks,
        "focal": camera.focal,
        "centre": list(camera.centre),
        "radial": camera.radial,
        "rotation": camera.rotation.tolist(),
        "translation": camera.translation.tolist(),
    }
