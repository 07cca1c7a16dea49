"""Rendered pictures with their truth, to learn from: single ones of what the bench films, in clubs that are fitted
out otherwise (those of the bench take no part), and those of films that any other renderer has made; filmed as
worse cameras would do it.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.rules.traits import traits_of
from aretane.core.table import PRESETS, Table
from aretane.vision.files.frames import picture_at
from aretane.vision.render.film import moments_of
from aretane.vision.render.overlays import scribble
from aretane.vision.render.recipes import RECORDINGS, varied
from aretane.vision.table.camera import Camera, solve_camera
from aretane.vision.table.cloth import Image
from aretane.vision.table.registration import straightened
from aretane.vision.table.sight import Still

SHOTS = 3  # of each match
ROUGH = 0.3  # of the pictures, for each way in which a camera may be worse
LEAST = 0.22  # of a ball must be seen, that it is asked for
SMALLEST, LARGEST = 3.2, 22.0  # pixels of radius that pictures are made to have
SOMEBODY = 0.15  # of a disc that is somebody: whether the ball is seen is not known
CORNERS = ("corner:head-left", "corner:head-right", "corner:foot-right", "corner:foot-left")


@dataclass(frozen=True)
class Ball:
    """A ball that truly stands there, and the share of it that somebody hides (None: not known)."""

    place: tuple[float, float]
    hidden: float | None


@dataclass(frozen=True)
class Shown:
    """A picture with its truth."""

    picture: Image
    camera: Camera
    table: Table
    balls: list[Ball]


def made_up(matches: Path, seed: int) -> Iterator[Shown]:
    """Before and after each shot of all recordings that the bench knows, in other clubs."""
    for discipline, recipe in RECORDINGS:
        match = json.loads((matches / f"{discipline}.json").read_bytes())
        if seed % 2:
            match = scattered(match, np.random.default_rng([seed, recipe.seed]))
        for truth, frame, picture in moments_of(
            match, varied(recipe, seed, bool(traits_of(discipline).returns)), SHOTS
        ):
            table, size = PRESETS[truth["table"]], tuple(truth["recipe"]["size"])
            marks = {name: (at[0], at[1]) for name, at in truth["camera"]["marks"].items()}
            balls = [Ball((x, y), frame["hidden"].get(name, 0.0)) for name, (x, y) in frame["balls"].items()]
            yield Shown(
                straightened(picture, np.array(frame["warp"])), solve_camera(table, marks, size), table, balls
            )


def scattered(match: dict[str, Any], dice: np.random.Generator) -> dict[str, Any]:
    """The same balls where they are hard to tell: on rails, in the jaws, touching one another."""
    table, balls = PRESETS[match.get("table", "pool-9ft")], (CUE, *OBJECT_BALLS[match["discipline"]])

    def laid() -> dict[str, Any]:
        found: dict[str, tuple[float, float]] = {}
        for ball in dice.permutation(balls)[: int(dice.integers(3, len(balls) + 1))]:
            for _ in range(50):
                place = _somewhere(table, list(found.values()), dice)
                if all(math.dist(place, other) >= table.ball_diameter for other in found.values()):
                    found[str(ball)] = place
                    break
        return {"balls": found}

    return {
        **match,
        "racks": [{"shots": [{"layout_before": laid(), "layout_after": laid()} for _ in range(SHOTS)]}],
    }


def _somewhere(
    table: Table, taken: Sequence[tuple[float, float]], dice: np.random.Generator
) -> tuple[float, float]:
    r, how = table.radius, dice.random()
    x, y = dice.uniform(r, table.length - r), dice.uniform(r, table.width - r)
    if how < 0.35 and taken:
        angle = dice.uniform(0, 2 * math.pi)
        near = taken[int(dice.integers(len(taken)))]
        apart = 2 * r * dice.uniform(1.001, 1.25)
        x, y = near[0] + apart * math.cos(angle), near[1] + apart * math.sin(angle)
    elif how < 0.6:
        off = r + dice.exponential(0.004)
        if dice.random() < 0.5:
            x = off if dice.random() < 0.5 else table.length - off
        else:
            y = off if dice.random() < 0.5 else table.width - off
    return float(np.clip(x, r, table.length - r)), float(np.clip(y, r, table.width - r))


def filmed(path: Path) -> Iterator[Shown]:
    """The pictures of a film with its truth beside it; `covered`, where it is told, is what arms hide of a ball."""
    truth, table = json.loads(path.with_suffix(".json").read_bytes()), PRESETS["pool-9ft"]
    marks = {name: (u, v) for name, (u, v) in zip(CORNERS, truth["corners"], strict=True)}
    camera = solve_camera(table, marks, tuple(truth["size"]))
    for frame in truth["frames"]:
        unknown = None if frame["near"] else 0.0
        balls = [Ball((one["x"], one["y"]), one.get("covered", unknown)) for one in frame["balls"]]
        yield Shown(picture_at(path, frame["t"] + 1e-3)[1], camera, table, balls)


def resized(shown: Shown, dice: np.random.Generator) -> Shown:
    """As a larger or smaller picture, in which balls can still be told."""
    places = np.array([ball.place for ball in shown.balls])
    sizes = radii_at(shown.camera, places, shown.table)
    low, high = SMALLEST / sizes.min(), min(LARGEST / sizes.max(), 1.6)
    scale = float(np.clip(np.exp(dice.normal(-0.2, 0.45)), low, max(low, high)))
    size = (round(shown.picture.shape[1] * scale), round(shown.picture.shape[0] * scale))
    small = cv2.resize(shown.picture, size, interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_LINEAR)
    return replace(shown, picture=np.asarray(small, np.uint8), camera=shown.camera.scaled(scale))


def roughened(picture: Image, dice: np.random.Generator) -> Image:
    """As some other camera would have it: soft, dark or light, of other colours, noisy, sharpened, drawn upon,
    compressed hard."""
    light = picture.astype(np.float32) / 255
    often = dice.random(7) < ROUGH
    if often[0]:
        light = np.asarray(cv2.GaussianBlur(light, (0, 0), dice.uniform(0.5, 1.4)), np.float32)
    if often[1]:
        light = dice.uniform(0.75, 1.3) * light ** dice.uniform(0.7, 1.4)
    if often[6]:
        light = light * dice.uniform(0.8, 1.2, 3)
    if often[2]:
        grains = dice.normal(0, dice.uniform(0.01, 0.06), light.shape).astype(np.float32)
        light = light + cv2.GaussianBlur(grains, (0, 0), 0.7)
    if often[3]:
        light = light + dice.uniform(0.3, 1.2) * (
            light - cv2.GaussianBlur(np.asarray(light, np.float32), (0, 0), 1.2)
        )
    rough: Image = np.round(np.clip(light, 0, 1) * 255).astype(np.uint8)
    if dice.random() < ROUGH / 3:
        scribble(rough, dice)
    if often[4]:
        _, packed = cv2.imencode(".jpg", rough, [cv2.IMWRITE_JPEG_QUALITY, int(dice.integers(12, 60))])
        rough = np.asarray(cv2.imdecode(packed, cv2.IMREAD_COLOR), np.uint8)
    return rough


def radii_at(camera: Camera, places: NDArray[np.float64], table: Table) -> NDArray[np.float64]:
    """How large balls at places (n x 2, metres) are in the picture, in pixels."""
    depth = (
        np.column_stack([places, np.full(len(places), table.radius)]) @ camera.rotation[2] + camera.translation[2]
    )
    return np.asarray(camera.focal * table.radius / depth)


def seen_of(
    shown: Shown, still: Still, middles: NDArray[np.float64], radii: NDArray[np.float64]
) -> NDArray[np.float64]:
    """The share of each ball that is to be seen; NaN where somebody may stand before it."""
    grid = np.linspace(-0.95, 0.95, 15)
    x, y = (axis.ravel() for axis in np.meshgrid(grid, grid))
    disc = np.column_stack([x, y])[np.hypot(x, y) < 0.95]
    found = []
    for n, ball in enumerate(shown.balls):
        points = middles[n] + radii[n] * disc
        covered = np.zeros(len(points), bool)
        for other in np.nonzero(radii > radii[n])[0]:
            covered |= np.linalg.norm(points - middles[other], axis=1) < radii[other]
        u, v = np.round(points).astype(int).T
        inside = (u >= 0) & (v >= 0) & (u < still.known.shape[1]) & (v < still.known.shape[0])
        free = ~covered & inside
        share = float(free.mean())
        if ball.hidden is None:
            people = still.perhaps[v[inside], u[inside]]
            share = math.nan if len(people) == 0 or people.mean() > SOMEBODY else share
        else:
            share *= 1 - ball.hidden
        found.append(share)
    return np.array(found)
