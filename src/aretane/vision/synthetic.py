"""Synthetic recordings of a match: what a phone or a club's camera would have shown, and the truth beside it.

Every stroke that a shot carries is simulated and filmed as it runs; a shot without one is filmed before and after.
Between shots the table is still, and people, hands, cues and captions come and go over it.
"""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import asdict, dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.shot import Leg, simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.rack import colour_spots
from aretane.core.table import Point, Table, table_from
from aretane.vision.camera import Camera, project, solve_camera
from aretane.vision.marks import mark_places
from aretane.vision.render import CLOTHS, Look, Scene

Image = NDArray[np.uint8]
Places = dict[str, Point]
Track = Callable[[float], Point | None]

WAIT, AFTER = 1.6, 1.2  # seconds of stillness before the contact and after the last ball stops
TRUTH_EVERY = 0.2  # seconds between two truths
FILLED = 0.92  # of the picture, by the table
STROKE_KEYS = ("aim", "speed", "side", "height", "elevation")


@dataclass(frozen=True)
class Recipe:
    """How a recording is made. `rate` is frames a second (below 1: one every so many seconds, at uneven times)."""

    name: str = "plain"
    size: tuple[int, int] = (1280, 720)
    rate: float = 25.0
    view: str = "short rail"
    cloth: str = "blue"
    shake: float = 0.0
    bump: bool = False
    person: bool = False
    captions: bool = False
    lines: bool = False
    second_table: bool = False
    warm: float = 0.0
    noise: float = 1.5
    flicker: float = 0.0
    codec: str = "libx264"
    quality: int = 26
    seed: int = 1


def render_match(
    match: Mapping[str, Any],
    path: Path,
    recipe: Recipe,
    most_shots: int | None = None,
    progress: Callable[[float], None] | None = None,
) -> dict[str, Any]:
    """Write the recording and `path` with .json beside it; returns the truth: camera, every ball, every shot."""
    table = table_from(match.get("table", "pool-9ft"))
    dice = np.random.default_rng(recipe.seed)
    camera = camera_for(table, recipe.view, recipe.size, dice)
    spots = (
        list(colour_spots(table).values())
        if match["discipline"] == "snooker"
        else [(table.foot_spot, table.width / 2)]
    )
    chalk = tuple(
        (float(x), float(y)) for x, y in dice.uniform((0.2, 0.1), (table.length - 0.2, table.width - 0.1), (3, 2))
    )
    look = Look(cloth=CLOTHS[recipe.cloth], spots=tuple(spots), marks=chalk, second_table=recipe.second_table)
    scene = Scene(table, camera, recipe.size, look)
    shots = [
        shot for rack in match["racks"] for shot in rack["shots"] if (shot.get("layout_before") or {}).get("balls")
    ]
    truth: dict[str, Any] = {
        "recipe": asdict(recipe),
        "camera": _camera_truth(camera, table),
        "frames": [],
        "shots": [],
    }
    with av.open(str(path), "w") as file:
        stream = file.add_stream(
            recipe.codec, rate=Fraction(recipe.rate).limit_denominator(1000) if recipe.rate >= 1 else 25
        )
        stream.width, stream.height = recipe.size
        stream.pix_fmt = "yuv420p"
        stream.time_base = Fraction(1, 1000)
        stream.codec_context.time_base = Fraction(1, 1000)
        stream.options = {"crf": str(recipe.quality), "preset": "veryfast"}
        last = -1
        for time, picture in _pictures(scene, match["discipline"], shots[:most_shots], recipe, dice, truth):
            frame = av.VideoFrame.from_ndarray(picture, format="bgr24")
            frame.pts = max(last + 1, round(1000 * time))
            frame.time_base = Fraction(1, 1000)
            last = frame.pts
            file.mux(stream.encode(frame))
            if progress is not None:
                progress(time)
        file.mux(stream.encode(None))
    path.with_suffix(".json").write_text(json.dumps(truth, separators=(",", ":")))
    return truth


def camera_for(table: Table, view: str, size: tuple[int, int], dice: np.random.Generator) -> Camera:
    """A camera that sees the whole table, from behind the head rail, from a corner or from above."""
    L, W, scale = table.length, table.width, table.length / 2.54
    wobble = dice.uniform(-0.12, 0.12, 3)
    eye = {
        "short rail": np.array([-0.62 * L, W / 2 + 0.2 * W * wobble[0] * 8, (1.5 + wobble[2]) * scale]),
        "corner": np.array([-0.3 * L, -0.55 * W, (1.7 + wobble[2]) * scale]),
        "overhead": np.array([L / 2 - 0.02, W / 2, 3.1 * scale]),
    }[view] + wobble * 0.3
    aim = np.array([L * (0.46 if view == "short rail" else 0.5), W / 2, 0.0])
    ahead = (aim - eye) / np.linalg.norm(aim - eye)
    up = np.array([0.0, 1.0, 0.0]) if view == "overhead" else np.array([0.0, 0.0, 1.0])
    right = np.cross(ahead, up)
    right /= np.linalg.norm(right)
    rotation = np.array([right, np.cross(ahead, right), ahead])
    places = mark_places(table)
    seen = (np.array(list(places.values())) - eye) @ rotation.T
    flat = seen[:, :2] / seen[:, 2:]
    focal = FILLED * min(size[0] / 2 / np.abs(flat[:, 0]).max(), size[1] / 2 / np.abs(flat[:, 1]).max())
    pixels = focal * flat + np.array(size) / 2
    marks = {name: (float(u), float(v)) for name, (u, v) in zip(places, pixels, strict=True)}
    return solve_camera(table, marks, size)


def _camera_truth(camera: Camera, table: Table) -> dict[str, Any]:
    names = ("corner:head-left", "corner:head-right", "corner:foot-right", "corner:foot-left")
    places = mark_places(table)
    marks = {name: project(camera, np.array([place]))[0].round(2).tolist() for name, place in places.items()}
    return {
        "corners": [marks[name] for name in names],
        "marks": marks,
        "focal": camera.focal,
        "rotation": camera.rotation.tolist(),
        "translation": camera.translation.tolist(),
    }


def _pictures(
    scene: Scene,
    discipline: str,
    shots: list[Any],
    recipe: Recipe,
    dice: np.random.Generator,
    truth: dict[str, Any],
) -> Iterator[tuple[float, Image]]:
    """Times and pictures of the whole recording; the truth is written down on the way."""
    turned: dict[str, NDArray[np.float64]] = {}
    clock, next_truth, shift = 0.0, 0.0, np.zeros(2)
    for number, shot in enumerate(shots):
        tracks, length = tracks_of(shot, scene.table, discipline)
        span = WAIT + length + AFTER
        truth["shots"].append(
            {"start": round(clock, 3), "contact": round(clock + WAIT, 3), "still": round(clock + WAIT + length, 3)}
        )
        if recipe.bump and number == len(shots) // 2:
            shift = dice.uniform(-9, 9, 2)
        for at in _times(span, recipe, dice):
            places = at_time(tracks, at - WAIT)
            for ball in places:
                turned.setdefault(ball, random_turn(dice))
            roll(turned, tracks, at - WAIT, 1 / max(recipe.rate, 5.0), scene.table.radius)
            picture = _disturbed(scene.paint(places, turned), scene, recipe, dice, places, at, span, shift)
            if clock + at >= next_truth:
                told = {ball: [round(x, 4), round(y, 4)] for ball, (x, y) in places.items()}
                truth["frames"].append({"t": round(clock + at, 3), "balls": told, "shift": shift.round(2).tolist()})
                next_truth = clock + at + TRUTH_EVERY
            yield clock + at, picture
        clock += span


def _times(span: float, recipe: Recipe, dice: np.random.Generator) -> Iterator[float]:
    if recipe.rate >= 1:
        yield from (n / recipe.rate for n in range(int(span * recipe.rate)))
        return
    step = 1 / recipe.rate
    at = float(dice.uniform(0.1, 0.5))
    while at < span:
        yield at
        at += float(dice.uniform(0.7, 1.3) * min(step, span / 2.2))


def tracks_of(shot: Mapping[str, Any], table: Table, discipline: str) -> tuple[dict[str, Track], float]:
    """Where every ball is at a time after the stroke, and when the last one stops."""
    before = {ball: (float(at[0]), float(at[1])) for ball, at in shot["layout_before"]["balls"].items()}
    stroke = shot.get("stroke") or {}
    if stroke.get("aim") is not None and CUE in before:
        numbers = {key: stroke[key] for key in STROKE_KEYS if stroke.get(key) is not None}
        result = simulate(Layout(table, discipline, before), Stroke(**numbers))
        return {ball: track_of(legs) for ball, legs in result.legs.items()}, result.duration
    after = {
        ball: (float(at[0]), float(at[1]))
        for ball, at in ((shot.get("layout_after") or {}).get("balls") or before).items()
    }
    balls = {*before, *after}
    return {ball: _jump(before.get(ball), after.get(ball)) for ball in balls}, 1.0


def _jump(before: Point | None, after: Point | None) -> Track:
    return lambda t: before if t < 0.5 else after


def track_of(legs: tuple[Leg, ...]) -> Track:
    """A ball's place at a time after the stroke; None once it is in a pocket or off the table."""

    def at(t: float) -> Point | None:
        leg = next((one for one in reversed(legs) if one.t <= t), legs[0])
        if leg.phase in ("potted", "off"):
            return None
        s = max(0.0, t - leg.t)
        return (
            leg.place[0] + (leg.velocity[0] + leg.acceleration[0] * s / 2) * s,
            leg.place[1] + (leg.velocity[1] + leg.acceleration[1] * s / 2) * s,
        )

    return at


def at_time(tracks: Mapping[str, Track], t: float) -> Places:
    found = {ball: track(t) for ball, track in tracks.items()}
    return {ball: place for ball, place in found.items() if place is not None}


def roll(
    turned: dict[str, NDArray[np.float64]], tracks: Mapping[str, Track], t: float, step: float, radius: float
) -> None:
    """Turn each ball by as much as it has run since the frame before."""
    now, past = at_time(tracks, t), at_time(tracks, t - step)
    for ball, place in now.items():
        dx, dy = place[0] - past.get(ball, place)[0], place[1] - past.get(ball, place)[1]
        run = math.hypot(dx, dy)
        if run > 1e-6 and ball in turned:
            turned[ball] = _rotation(np.array([-dy / run, dx / run, 0.0]), run / radius) @ turned[ball]


def random_turn(dice: np.random.Generator) -> NDArray[np.float64]:
    axis = dice.normal(size=3)
    return _rotation(axis / np.linalg.norm(axis), float(dice.uniform(0, math.pi)))


def _rotation(axis: NDArray[np.float64], angle: float) -> NDArray[np.float64]:
    x, y, z = axis
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return np.asarray(np.eye(3) + math.sin(angle) * cross + (1 - math.cos(angle)) * (cross @ cross))


# What comes between the table and the viewer


def _disturbed(
    picture: Image,
    scene: Scene,
    recipe: Recipe,
    dice: np.random.Generator,
    places: Places,
    at: float,
    span: float,
    shift: NDArray[np.float64],
) -> Image:
    if recipe.person:
        _person(picture, scene, places, at, span)
    moved = shift + dice.normal(0, recipe.shake, 2) if recipe.shake else shift
    if np.any(moved):
        matrix = np.array([[1, 0, moved[0]], [0, 1, moved[1]]], np.float64)
        picture = np.asarray(
            cv2.warpAffine(picture, matrix, recipe.size, borderMode=cv2.BORDER_REPLICATE), np.uint8
        )
    light = 1.0 + (recipe.flicker * math.sin(37.0 * at) if recipe.flicker else 0.0)
    gains = light * np.array([1 - recipe.warm, 1.0, 1 + recipe.warm])
    noisy = picture * gains + dice.normal(0, recipe.noise, picture.shape)
    picture = np.clip(noisy, 0, 255).astype(np.uint8)
    if recipe.lines:
        _drawn_lines(picture, scene, places, at)
    if recipe.captions:
        _captions(picture, recipe.size)
    return picture


def _person(picture: Image, scene: Scene, places: Places, at: float, span: float) -> None:
    """A player at the near side with arm and cue until the stroke, walking off after it; nobody at the end."""
    cue = places.get(CUE)
    if cue is None or at > span - AFTER:
        return
    table = scene.table
    aside = max(0.0, at - WAIT) * 0.9
    shoulder = np.array([cue[0] - 0.9 - aside, cue[1] - 0.25 - aside, 0.28])
    hand = np.array([cue[0] - 0.22 - aside, cue[1] - 0.05 - aside, 0.03])
    butt = np.array([cue[0] - 1.2 - aside, cue[1] - 0.1 - aside, 0.25])
    tip = np.array([cue[0] - 0.05 - aside, cue[1] - aside * 0.6, table.radius])
    ends = project(scene.camera, np.array([shoulder, hand, butt, tip]))
    if not np.all(np.isfinite(ends)) or np.abs(ends).max() > 1e5:
        return
    a, b, c, d = (tuple(int(v) for v in end) for end in ends)
    width = max(4, int(0.07 * scene.camera.focal / 2.2))
    cv2.line(picture, a, b, (52, 46, 60), width, cv2.LINE_AA)
    cv2.line(picture, c, d, (96, 150, 190), max(2, width // 8), cv2.LINE_AA)
    cv2.circle(picture, b, int(width * 0.7), (120, 150, 200), -1, cv2.LINE_AA)


def _drawn_lines(picture: Image, scene: Scene, places: Places, at: float) -> None:
    """What a commentator draws: a line and a ring, now and then."""
    if int(at * 2) % 5 or len(places) < 2:
        return
    chosen = sorted(places)[:2]
    pixels = project(scene.camera, np.array([[*places[ball], scene.table.radius] for ball in chosen]))
    a, b = (tuple(int(v) for v in pixel) for pixel in pixels)
    cv2.line(picture, a, b, (40, 240, 250), 2, cv2.LINE_AA)
    cv2.circle(picture, b, 22, (60, 60, 250), 2, cv2.LINE_AA)


def _captions(picture: Image, size: tuple[int, int]) -> None:
    w, h = size
    cv2.rectangle(picture, (int(0.06 * w), int(0.9 * h)), (int(0.5 * w), int(0.96 * h)), (40, 24, 20), -1)
    text = "Harbour Row   Marwood 3   Verrall 2"
    cv2.putText(
        picture,
        text,
        (int(0.08 * w), int(0.945 * h)),
        cv2.FONT_HERSHEY_SIMPLEX,
        h / 1100,
        (240, 240, 240),
        1,
        cv2.LINE_AA,
    )
