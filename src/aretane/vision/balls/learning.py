"""Finds the weights of a ball's score on synthetic recordings with their truth beside them.

    python -m aretane.vision.balls.learning RECORDING... --matches FOLDER --seeds 400 500 700 > score.json

Recordings are rendered with seeds of their own (`video render --seed N`); those of the bench take no part. A seed
gives single pictures of what the bench films, in clubs that are fitted out otherwise. Every centre that the search
would try is a case: a ball if one stands there, none if none is near; alone and with balls beside it known; filmed
as other cameras would do it.
"""

from __future__ import annotations

import argparse
import json
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from aretane.core.rules.traits import traits_of
from aretane.core.table import PRESETS, Table
from aretane.vision.balls.finding import (
    APART,
    HELD,
    STEPS,
    VISIBLE,
    Candidate,
    Search,
    Try,
    candidates_at,
    centres_in,
    explain,
    neighbours,
    tried,
)
from aretane.vision.balls.lamps import lamp_of, lights_for, lit, shining
from aretane.vision.balls.outline import agreement, settled
from aretane.vision.balls.score import Network, at_mouth, inputs_of
from aretane.vision.files.frames import picture_at
from aretane.vision.render.film import frames_beside, moments_of
from aretane.vision.render.overlays import scribble
from aretane.vision.render.recipes import RECORDINGS, varied
from aretane.vision.table.camera import Camera, places_at, solve_camera
from aretane.vision.table.cloth import Array, Image
from aretane.vision.table.registration import straightened
from aretane.vision.table.sight import Still, prepare

Case = tuple[NDArray[np.float64], bool]
Moment = tuple[dict[str, Any], dict[str, Any], Image]  # the truth, its frame at the moment, the picture

SHOTS = 6  # of each match

NEAR, FAR = 0.012, 0.028  # m: nearer than the one it is the ball, farther than the other it is none
HIDDEN, PLAIN = 0.5, 0.2  # of a ball that somebody covers: it is none, it may tell of the lamp
DARK = 0.25  # of the cases are judged as if nothing were known of the lamp
ROUND = 3.0  # ball diameters: balls this near may be known beforehand
SOME = 0.6  # of them, at a time
UNITS, HOLDING = 24, 1e-4  # of the hidden layer; ridge
ROUGH = 0.25  # of the pictures, for each way in which a camera may be worse
BLUR = 0.03  # of the inputs


def filmed(path: Path) -> Iterator[Moment]:
    """Before and after each shot of a recording with its truth beside it."""
    truth = json.loads(path.with_suffix(".json").read_bytes())
    for frame in frames_beside(truth):
        yield truth, frame, picture_at(path, frame["t"] + 1e-3)[1]


def made_up(matches: Path, seed: int) -> Iterator[Moment]:
    """Before and after each shot of all recordings that the bench knows, in other clubs."""
    for discipline, recipe in RECORDINGS:
        match = json.loads((matches / f"{discipline}.json").read_bytes())
        yield from moments_of(match, varied(recipe, seed, bool(traits_of(discipline).returns)), SHOTS)


def cases(moments: Iterable[Moment], dice: np.random.Generator) -> Iterator[Case]:
    """What the score has to tell apart in these moments."""
    for truth, frame, picture in moments:
        table, size = PRESETS[truth["table"]], tuple(truth["recipe"]["size"])
        marks = {name: (at[0], at[1]) for name, at in truth["camera"]["marks"].items()}
        camera = solve_camera(table, marks, size)
        still = prepare(straightened(roughened(picture, dice), np.array(frame["warp"])), table, camera)
        yield from of_picture(still, frame, table, camera, dice)


def roughened(picture: Image, dice: np.random.Generator) -> Image:
    """As some other camera would have it: perhaps soft, dark or light, noisy, sharpened, drawn upon, and compressed
    hard."""
    light = picture.astype(np.float32) / 255
    often = dice.random(6) < ROUGH
    if often[0]:
        light = np.asarray(cv2.GaussianBlur(light, (0, 0), dice.uniform(0.5, 1.2)), np.float32)
    if often[1]:
        light = dice.uniform(0.85, 1.15) * light ** dice.uniform(0.75, 1.4)
    if often[2]:
        grains = dice.normal(0, dice.uniform(0.01, 0.06), light.shape).astype(np.float32)
        light = light + cv2.GaussianBlur(grains, (0, 0), 0.7)
    if often[3]:
        light = light + dice.uniform(0.3, 1.2) * (light - cv2.GaussianBlur(light, (0, 0), 1.2))
    rough: Image = np.round(np.clip(light, 0, 1) * 255).astype(np.uint8)
    if often[5]:
        scribble(rough, dice)
    if often[4]:
        _, packed = cv2.imencode(".jpg", rough, [cv2.IMWRITE_JPEG_QUALITY, int(dice.integers(15, 60))])
        rough = np.asarray(cv2.imdecode(packed, cv2.IMREAD_COLOR), np.uint8)
    return rough


def of_picture(
    still: Still, frame: Mapping[str, Any], table: Table, camera: Camera, dice: np.random.Generator
) -> Iterator[Case]:
    """The cases of one picture: with the lamp that its balls tell of, and some without."""
    balls = candidates_at([(x, y) for x, y in frame["balls"].values()], [1.0] * len(frame["balls"]), table, camera)
    plain = [one for one, name in zip(balls, frame["balls"], strict=True) if frame["hidden"].get(name, 0) < PLAIN]
    dark = Search(still, table, camera)
    bright = replace(dark, lamp=lamp_of(still, [one.place for one in plain], table, camera))
    pool = tried(np.vstack([centres_in(still), neighbours(balls, dark)]), dark)
    if bright.lamp is not None:
        pool += tried(shining(still, bright.lamp, table, camera), dark, HELD)
    unlit = dice.random(len(pool)) < DARK
    for search, off in ((dark, True), (bright, False)):
        yield from _judged(search, [one for one, n in zip(pool, unlit, strict=True) if n == off], [], frame)
    for one in pool:
        near = [
            ball
            for ball in balls
            if APART * table.ball_diameter <= math.dist(ball.place, one.place) < ROUND * table.ball_diameter
        ]
        if near:
            some = near if dice.random() < 0.5 else [ball for ball in near if dice.random() < SOME]
            yield from _judged(dark if dice.random() < DARK else bright, [one], some, frame)


def _judged(
    search: Search, tries: Sequence[Try], known: list[Candidate], frame: Mapping[str, Any]
) -> Iterator[Case]:
    if not tries:
        return
    still, table, camera = search.still, search.table, search.camera
    told: Array = still.known.copy() if known else still.known
    explain(told, known, search)
    rings, places = np.array([one.ring for one in tries]), np.array([one.place for one in tries])
    lights = lights_for(search.lamp, places, table, camera) if search.lamp else None
    held = np.array([one.held for one in tries], np.float32)
    moved = settled(still, told, np.array([one.centre for one in tries]), rings, STEPS, lights, held)
    seen = agreement(still, told, moved, rings)
    shine = lit(still, search.lamp, places, moved, table, camera)
    inputs = inputs_of(seen, shine, at_mouth(places, table))
    for n, place in enumerate(places_at(camera, moved + still.bed.corner, table.radius)):
        if not math.isfinite(place[0]) or seen.visible[n] < VISIBLE:
            continue
        off, hidden = min((math.dist(place, at), frame["hidden"].get(b, 0)) for b, at in frame["balls"].items())
        if off > FAR or (off < NEAR and hidden < HIDDEN):
            yield np.asarray(inputs[n], float), off < NEAR


def network(x: NDArray[np.float64], y: NDArray[np.bool_], dice: np.random.Generator) -> Network:
    """The network under which what was told (inputs n x k, whether it was a ball) is likeliest; balls and others
    count the same in all. Real pictures are not quite like ours: the inputs are blurred a little."""
    x = np.vstack([x, x + BLUR * dice.normal(size=x.shape)])
    y = np.concatenate([y, y]).astype(float)
    share = np.where(y > 0, 0.5 / max(1.0, y.sum()), 0.5 / max(1.0, (1 - y).sum()))
    middle, spread = x.mean(axis=0), x.std(axis=0) + 1e-9
    z = np.column_stack([np.ones(len(x)), (x - middle) / spread])
    count = UNITS * z.shape[1]

    def loss(w: NDArray[np.float64]) -> tuple[float, NDArray[np.float64]]:
        hidden, last = w[:count].reshape(UNITS, -1), w[count:]
        units = np.column_stack([np.ones(len(z)), np.tanh(z @ hidden.T)])
        value = units @ last
        off = share * (1 / (1 + np.exp(-value)) - y)
        held, pulled = hidden.copy(), last.copy()
        held[:, 0] = pulled[0] = 0.0
        total = float((share * (np.logaddexp(0, value) - y * value)).sum())
        back = off[:, None] * last[1:] * (1 - units[:, 1:] ** 2)
        slope = np.concatenate([(back.T @ z + 2 * HOLDING * held).ravel(), units.T @ off + 2 * HOLDING * pulled])
        return total + HOLDING * float((held**2).sum() + (pulled**2).sum()), slope

    start = np.concatenate([dice.normal(0, z.shape[1] ** -0.5, count), dice.normal(0, UNITS**-0.5, UNITS + 1)])
    fit = minimize(loss, start, jac=True, method="L-BFGS-B", options={"maxiter": 400}).x
    hidden = fit[:count].reshape(UNITS, -1)
    hidden[:, 1:] /= spread
    hidden[:, 0] -= hidden[:, 1:] @ middle
    return Network(hidden, fit[count:])


if __name__ == "__main__":
    words = argparse.ArgumentParser()
    words.add_argument("recordings", nargs="*", type=Path)
    words.add_argument("--matches", type=Path)
    words.add_argument("--seeds", nargs="*", type=int, default=[])
    asked, dice = words.parse_args(), np.random.default_rng(1)
    sources = [*map(filmed, asked.recordings), *(made_up(asked.matches, seed) for seed in asked.seeds)]
    told = [case for moments in sources for case in cases(moments, dice)]
    found = network(np.array([x for x, _ in told]), np.array([y for _, y in told]), dice)
    print(json.dumps({"hidden": found.hidden.round(4).tolist(), "last": found.last.round(4).tolist()}))
