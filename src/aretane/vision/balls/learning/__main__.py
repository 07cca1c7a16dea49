"""Finds the weights of a network on rendered pictures with their truth.

    python -m aretane.vision.balls.learning judge --matches FOLDER --seeds 400 500 --films FOLDER -o judge.onnx

A seed gives single pictures of what the bench films, in clubs that are fitted out otherwise. A folder of films may
come from any other renderer (docs/recordings.md says what truth they carry). What an arm hides of a ball is told by
`covered` there, else it is not known in pictures with somebody in them. Needs PyTorch and onnxscript, which the
application does not.
"""

from __future__ import annotations

import argparse
from collections.abc import Callable, Iterable, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from aretane.vision.balls.learning import judge, pairs
from aretane.vision.balls.learning.fitting import Cases, fitted
from aretane.vision.balls.learning.pictures import Shown, filmed, made_up, resized, roughened

NETWORKS = {"judge": (judge.cases_of, judge.TASK), "pairs": (pairs.cases_of, pairs.TASK)}
TIMES = 6  # that a film's pictures are filmed

Look = Callable[[Shown, np.random.Generator], Cases]


def dataset(shown: Iterable[Shown], cases_of: Look, seed: int, times: int = 1) -> Cases:
    """All cases of some pictures, each as it is filmed so many times."""
    dice, found = np.random.default_rng(seed), []
    for one in shown:
        for _ in range(times):
            rough = resized(replace(one, picture=roughened(one.picture, dice)), dice)
            found.append(cases_of(rough, dice))
    return together(found)


def together(found: Sequence[Cases]) -> Cases:
    return Cases(np.concatenate([one.looked_at for one in found]), np.concatenate([one.told for one in found]))


def _of_seed(network: str, matches: Path, seed: int) -> Cases:
    cv2.setNumThreads(1)
    return dataset(made_up(matches, seed), NETWORKS[network][0], seed)


def _of_film(network: str, path: Path, seed: int) -> Cases:
    cv2.setNumThreads(1)
    return dataset(filmed(path), NETWORKS[network][0], seed, TIMES)


def main(words: Sequence[str] | None = None) -> None:
    asked = argparse.ArgumentParser()
    asked.add_argument("network", choices=NETWORKS)
    asked.add_argument("--matches", type=Path, required=True)
    asked.add_argument("--seeds", nargs="*", type=int, default=[])
    asked.add_argument("--films", nargs="*", type=Path, default=[])
    asked.add_argument(
        "--keep", type=Path, help="A folder for the cases of each source, so that they are made once."
    )
    asked.add_argument("--epochs", type=int, default=12)
    asked.add_argument("--start", type=Path, help="A network found before, to go on from, or to see as it does.")
    asked.add_argument("-o", "--out", type=Path, required=True)
    told = asked.parse_args(words)
    films = sorted(
        path for folder in told.films for path in folder.glob("*.mp4") if path.with_suffix(".json").exists()
    )
    tasks: list[tuple[Any, ...]] = [(_of_seed, told.network, told.matches, seed) for seed in told.seeds]
    tasks += [(_of_film, told.network, path, 7000 + n) for n, path in enumerate(films)]
    with ProcessPoolExecutor(2) as workers:
        cases = together(list(workers.map(_kept, [told.keep] * len(tasks), *zip(*tasks, strict=True))))
    print(len(cases.told), "cases", flush=True)
    fitted(NETWORKS[told.network][1], cases, told.epochs, told.out, start=told.start)


def _kept(folder: Path | None, make: Callable[..., Cases], network: str, source: Path, seed: int) -> Cases:
    if folder is None:
        return make(network, source, seed)
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / f"{network}-{source.stem}-{seed}.npz"
    if file.exists():
        held: Mapping[str, Any] = np.load(file)
        return Cases(held["looked_at"], held["told"])
    made = make(network, source, seed)
    np.savez(file, looked_at=made.looked_at, told=made.told)
    return made


if __name__ == "__main__":
    main()
