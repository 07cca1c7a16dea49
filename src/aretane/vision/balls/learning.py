"""Finds the weights of the network that judges patches, on rendered pictures with their truth.

    python -m aretane.vision.balls.learning --matches FOLDER --seeds 400 500 --films FOLDER -o judge.onnx

A seed gives single pictures of what the bench films, in clubs that are fitted out otherwise; those of the bench
take no part. A folder of films may come from any other renderer (docs/recordings.md says what truth they carry).
What an arm hides of a ball is told by `covered` there, else it is not known in pictures with somebody in them.
Every centre that the search would try is a case, and some around the balls and at random; alone, and with some of
the balls beside it known; filmed as worse cameras would do it. Needs PyTorch and onnxscript, which the application
does not.
"""

from __future__ import annotations

import argparse
import json
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.rules.traits import traits_of
from aretane.core.table import PRESETS, Table
from aretane.vision.balls.finding import candidates_at, centres_in, explained, neighbours
from aretane.vision.balls.patches import CHANNELS, SIDE, patches
from aretane.vision.files.frames import picture_at
from aretane.vision.render.film import moments_of
from aretane.vision.render.overlays import scribble
from aretane.vision.render.recipes import RECORDINGS, varied
from aretane.vision.table.camera import Camera, places_at, solve_camera
from aretane.vision.table.cloth import Array, Image
from aretane.vision.table.registration import straightened
from aretane.vision.table.sight import Still, prepare

SHOTS = 3  # of each match
HERE, THERE = 0.5, 0.9  # ball radii: nearer than the one a ball is there, farther than the other there is none
LEAST = 0.22  # of a ball must be seen, that it is asked for
WAYS = 3  # in which some balls are known beforehand
ROUGH = 0.3  # of the pictures, for each way in which a camera may be worse
SMALLEST, LARGEST = 3.2, 22.0  # pixels of radius that pictures are made to have
AT_RANDOM, ABOUT = 14, 4  # places tried anywhere, and about each ball
SOMEBODY = 0.15  # of a disc that is somebody: whether the ball is seen is not known
WHOLE, LONELY = 0.95, 4.5  # of a ball is to be seen, and radii to the next, that it may be shown running
FASTEST = 3.0  # radii that it runs while the picture is taken
BOLD, GENTLE = 4e-3, 1e-3  # the largest steps: of a new network, of one that is gone on with
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


@dataclass(frozen=True)
class Cases:
    """Patches (n x channels x side x side) and what they show (n x 5): whether a ball is there (0, 1, or -1: either
    may be said), its middle beside the patch's in radii (2), the share of it to be seen, and how much that counts.
    """

    looked_at: NDArray[np.float16]
    told: NDArray[np.float32]


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
    sizes = _radii(shown.camera, places, shown.table)
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


def cases_of(shown: Shown, dice: np.random.Generator) -> Cases:
    """What is to be told apart in a picture."""
    table, camera = shown.table, shown.camera
    still = prepare(shown.picture, table, camera)
    balls = candidates_at([one.place for one in shown.balls], [1.0] * len(shown.balls), table, camera)
    middles = np.array([one.pixel for one in balls]) - still.bed.corner
    radii = np.array([one.radius for one in balls])
    seen = _seen(shown, still, middles, radii)
    wrong = dice.normal(0, 0.4, (ABOUT * len(balls), 2)) * np.repeat(radii, ABOUT)[:, None]
    inside = np.column_stack(np.nonzero(still.bed.seen))[:, ::-1]
    anywhere = inside[dice.integers(0, max(1, len(inside)), AT_RANDOM)]
    beside = neighbours(balls, still, table, camera)
    starts = np.vstack([centres_in(still), beside, np.repeat(middles, ABOUT, axis=0) + wrong, anywhere])
    places = places_at(camera, starts + still.bed.corner, table.radius)
    fine = np.all(np.isfinite(places), axis=1)
    fine &= np.all(
        (places > -table.radius) & (places < np.array([table.length, table.width]) + table.radius), axis=1
    )
    starts, own = starts[fine], _radii(camera, places[fine], table).astype(np.float32)
    looked_at, told = [], []
    for way in range(1 + WAYS):
        is_known = dice.random(len(balls)) < (0.0 if way == 0 else dice.uniform(0.2, 0.9))
        known = explained(
            still.known,
            [one for one, told_of in zip(balls, is_known, strict=True) if told_of],
            still,
            table,
            camera,
        )
        some = np.ones(len(starts), bool) if way == 0 else dice.random(len(starts)) < 0.5
        clear = np.ones(len(starts), bool)
        if is_known.any():
            apart = np.linalg.norm(starts[:, None] - middles[is_known], axis=2) / own[:, None]
            clear = apart.min(axis=1) > 1.1
            if way > 0:
                some &= apart.min(axis=1) < 4.0
        chosen = some & clear
        if chosen.any():
            looked_at.append(patches(still, known, starts[chosen], own[chosen]).astype(np.float16))
            told.append(_told(starts[chosen], own[chosen], middles[~is_known], radii[~is_known], seen[~is_known]))
    for n in np.nonzero(seen > WHOLE)[0]:
        if len(balls) == 1 or np.sort(np.linalg.norm(middles - middles[n], axis=1))[1] > LONELY * radii[n]:
            smear, off = _smeared(still, middles[n], radii[n], dice)
            looked_at.append(smear)
            told.append(np.array([[1.0, *off, 1.0, 1.0]]))
    return Cases(np.concatenate(looked_at), np.concatenate(told).astype(np.float32))


def _smeared(
    still: Still, middle: NDArray[np.float64], radius: float, dice: np.random.Generator
) -> tuple[NDArray[np.float16], NDArray[np.float64]]:
    """A lonely ball as it looks while it runs, about a place beside its middle; and where that is from there."""
    angle, run = dice.uniform(0, 2 * math.pi), dice.uniform(0.3, FASTEST)
    way = run * np.array([math.cos(angle), math.sin(angle)])
    off = dice.normal(0, 0.3, 2)
    steps = np.linspace(-0.5, 0.5, 9)[:, None] * way
    seen = patches(still, still.known, middle + radius * (steps - off), np.full(len(steps), radius))
    return seen.mean(axis=0, keepdims=True).astype(np.float16), off


def _radii(camera: Camera, places: NDArray[np.float64], table: Table) -> NDArray[np.float64]:
    depth = (
        np.column_stack([places, np.full(len(places), table.radius)]) @ camera.rotation[2] + camera.translation[2]
    )
    return np.asarray(camera.focal * table.radius / depth)


def _seen(
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
            people = np.maximum(still.people, still.limbs)[v[inside], u[inside]]
            share = math.nan if len(people) == 0 or people.mean() > SOMEBODY else share
        else:
            share *= 1 - ball.hidden
        found.append(share)
    return np.array(found)


def _told(
    starts: NDArray[np.float64],
    own: Array,
    middles: NDArray[np.float64],
    radii: NDArray[np.float64],
    seen: NDArray[np.float64],
) -> NDArray[np.float64]:
    told = np.zeros((len(starts), 5))
    told[:, 4] = 1.0
    if not len(middles):
        return told
    off = (middles - starts[:, None]) / own[:, None, None]
    away = np.linalg.norm(off, axis=2)
    nearest = away.argmin(axis=1)
    least, share = away[np.arange(len(starts)), nearest], seen[nearest]
    told[:, 0] = np.where(least < HERE, 1.0, np.where(least < THERE, -1.0, 0.0))
    told[:, 1:3] = off[np.arange(len(starts)), nearest]
    told[:, 3] = np.nan_to_num(share)
    doubtful = (least < THERE) & ~(share >= LEAST)
    told[doubtful, 4] = 0.0
    return told


def dataset(shown: Iterable[Shown], seed: int, times: int = 1) -> Cases:
    """All cases of some pictures, each as it is filmed so many times."""
    dice, found = np.random.default_rng(seed), []
    for one in shown:
        for _ in range(times):
            rough = resized(replace(one, picture=roughened(one.picture, dice)), dice)
            found.append(cases_of(rough, dice))
    return Cases(np.concatenate([one.looked_at for one in found]), np.concatenate([one.told for one in found]))


def trained(cases: Cases, epochs: int, out: Path, checked: Cases | None = None, start: Path | None = None) -> None:
    """The network fitted and written to a file. Where it goes on from the weights of a file it becomes their mean,
    which keeps what both have learnt (Wortsman et al. 2022, Robust fine-tuning of zero-shot models)."""
    import torch
    from torch import nn

    torch.manual_seed(1)
    net = nn.Sequential(
        nn.Conv2d(CHANNELS, 24, 5, stride=2, padding=2), nn.ReLU(),
        nn.Conv2d(24, 40, 3, stride=2, padding=1), nn.ReLU(),
        nn.Conv2d(40, 64, 3, stride=2, padding=1), nn.ReLU(),
        nn.Conv2d(64, 64, 3, padding=1), nn.ReLU(),
        nn.Flatten(), nn.Linear(64 * (SIDE // 8) ** 2, 64), nn.ReLU(), nn.Linear(64, 4),
    )  # fmt: skip
    before = {} if start is None else _weights_in(start)
    if before:
        net.load_state_dict(before)
    x, y = torch.from_numpy(cases.looked_at), torch.from_numpy(cases.told)
    batch = 512
    steps = epochs * math.ceil(len(x) / batch)
    fit = torch.optim.AdamW(net.parameters(), lr=2e-3, weight_decay=1e-3)
    pace = torch.optim.lr_scheduler.OneCycleLR(fit, GENTLE if before else BOLD, total_steps=steps)
    for epoch in range(epochs):
        net.train()
        total = 0.0
        order = torch.randperm(len(x))
        for part in order.split(batch):
            seen, told = x[part].float(), y[part].clone()
            if torch.rand(1) < 0.5:  # a mirror shows as good a ball
                seen, told[:, 1] = seen.flip(3), -told[:, 1]
            loss = _loss(net(seen), told)
            fit.zero_grad()
            loss.backward()
            fit.step()
            pace.step()
            total += float(loss.detach()) * len(part)
        line = f"{epoch + 1}: {total / len(x):.4f}"
        if checked is not None:
            line += f"  {_checked(net, checked)}"
        print(line, flush=True)
    net.eval()
    if before:
        net.load_state_dict({key: (net.state_dict()[key] + old) / 2 for key, old in before.items()})
    names = {"input_names": ["patches"], "output_names": ["told"]}
    anyhow = {"patches": {0: "n"}, "told": {0: "n"}}
    shown = (torch.zeros(2, CHANNELS, SIDE, SIDE),)
    torch.onnx.export(net, shown, str(out), **names, dynamic_axes=anyhow, dynamo=False)


def _weights_in(file: Path) -> dict[str, Any]:
    """Of a network that was written: each layer's weights by name."""
    import onnx
    import torch

    held = onnx.load(str(file)).graph.initializer
    return {one.name: torch.from_numpy(onnx.numpy_helper.to_array(one).copy()) for one in held}


def _loss(said: Any, told: Any) -> Any:
    from torch.nn import functional

    counts = told[:, 4] * (told[:, 0] >= 0)
    ball = functional.binary_cross_entropy_with_logits(said[:, 0], told[:, 0].clamp(0, 1), weight=counts)
    near = (told[:, 0] != 0).float() * told[:, 4]
    apart = functional.smooth_l1_loss(said[:, 1:3], told[:, 1:3], beta=0.1, reduction="none").sum(dim=1)
    off = apart * near * told[:, 3]
    shown = functional.binary_cross_entropy_with_logits(said[:, 3], told[:, 3].clamp(0, 1), weight=near)
    return ball + 2.0 * off.mean() + 0.2 * shown


def _checked(net: Any, cases: Cases) -> str:
    """On pictures that took no part: wrong among balls and among others, and how far off the middle is."""
    import torch

    net.eval()
    with torch.no_grad():
        said = torch.cat([net(part.float()) for part in torch.from_numpy(cases.looked_at).split(1024)]).numpy()
    told = cases.told
    sure, is_ball = told[:, 4] > 0, told[:, 0] == 1
    missed = float((said[sure & is_ball, 0] < 0).mean())
    extra = float((said[sure & (told[:, 0] == 0), 0] > 0).mean())
    off = np.linalg.norm(said[sure & is_ball, 1:3] - told[sure & is_ball, 1:3], axis=1)
    return f"missed {missed:.4f} extra {extra:.4f} off {np.median(off):.3f} {np.percentile(off, 95):.3f}"


def _of_seed(task: tuple[Path, int]) -> Cases:
    cv2.setNumThreads(1)
    return dataset(made_up(*task), task[1])


def _of_film(task: tuple[Path, int]) -> Cases:
    cv2.setNumThreads(1)
    return dataset(filmed(task[0]), task[1], times=6)


def main(words: Sequence[str] | None = None) -> None:
    asked = argparse.ArgumentParser()
    asked.add_argument("--matches", type=Path, required=True)
    asked.add_argument("--seeds", nargs="*", type=int, default=[])
    asked.add_argument("--films", nargs="*", type=Path, default=[])
    asked.add_argument(
        "--keep", type=Path, help="A folder for the cases of each source, so that they are made once."
    )
    asked.add_argument("--epochs", type=int, default=12)
    asked.add_argument("--start", type=Path, help="A network found before, to go on from.")
    asked.add_argument("-o", "--out", type=Path, required=True)
    told = asked.parse_args(words)
    films = sorted(
        path for folder in told.films for path in folder.glob("*.mp4") if path.with_suffix(".json").exists()
    )
    tasks: list[tuple[Any, tuple[Path, int]]] = [(_of_seed, (told.matches, seed)) for seed in told.seeds]
    tasks += [(_of_film, (path, 7000 + n)) for n, path in enumerate(films)]
    with ProcessPoolExecutor(2) as workers:
        found = list(workers.map(_kept, [told.keep] * len(tasks), *zip(*tasks, strict=True)))
    cases = Cases(np.concatenate([one.looked_at for one in found]), np.concatenate([one.told for one in found]))
    print(len(cases.told), "cases", flush=True)
    trained(cases, told.epochs, told.out, start=told.start)


def _kept(folder: Path | None, make: Any, task: tuple[Path, int]) -> Cases:
    if folder is None:
        alone: Cases = make(task)
        return alone
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{task[0].stem}-{task[1]}.npz"
    if file.exists():
        held: Mapping[str, Any] = np.load(file)
        return Cases(held["looked_at"], held["told"])
    made: Cases = make(task)
    np.savez(file, looked_at=made.looked_at, told=made.told)
    return made


if __name__ == "__main__":
    main()
