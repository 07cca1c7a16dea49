"""How well films of others are read: each film of a folder beside its truth. Reported, never tested.

The truth beside FILM.mp4 is FILM.json: the four corners, and of each picture its time and the balls with their
places, radii in pixels and the share that nearer balls hide. All show nine-ball on a table of nine feet. Where the
truth does not tell what an arm hides, a ball that lies where it lay in the picture before or after, and looks
otherwise, is covered by it.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from aretane.core.errors import InputError

CORNERS = ("corner:head-left", "corner:head-right", "corner:foot-right", "corner:foot-left")
NEAR = 0.04  # m: a find this near to a ball is that ball
HIDDEN = 0.6  # of a ball behind others: from here on it is not asked for; found all the same, it is no fault
OTHERWISE = (
    40.0  # of 255: by so much the same place of a resting ball differs in two pictures when something covers it
)
STAYED = 0.002  # m: a ball that has moved no more has not moved
SMALL = 5.0  # pixels of radius: below, places are judged apart
ARM = "arm"  # as the truth names it among what stands before the table
A_HAIR = 1e-3  # s: so that a picture's own time finds it
DISCIPLINE, TABLE = "nine-ball", "pool-9ft"


def measure(folder: Path) -> dict[str, Any]:
    """Every film of the folder; two at a time. Raises `InputError` when there is none."""
    films = sorted(path for path in folder.glob("*.mp4") if path.with_suffix(".json").exists())
    if not films:
        raise InputError("films", f"{folder} holds no film (.mp4) with its truth (.json) beside it")
    with ProcessPoolExecutor(2, get_context("spawn")) as workers:
        rows = list(workers.map(row_of, films))
    return {"films": rows, "together": _together(rows)}


def row_of(path: Path) -> dict[str, Any]:
    """One film's line: of single pictures, and (`read_`) of the whole film read as a recording."""
    import cv2

    from aretane.vision.files.frames import picture_at

    cv2.setNumThreads(1)
    truth = json.loads(path.with_suffix(".json").read_bytes())
    single, read = _Tally(), _Tally()
    pictures = [picture_at(path, frame["t"] + A_HAIR)[1] for frame in truth["frames"]]
    for at, frame in enumerate(truth["frames"]):
        hidden = [max(ball["hidden"], covered(ball, at, truth["frames"], pictures)) for ball in frame["balls"]]
        balls = [{**ball, "hidden": share} for ball, share in zip(frame["balls"], hidden, strict=True)]
        single.look(balls, _told(path, truth, frame["t"]))
    for balls, told in _layouts(path, truth):
        read.look(balls, told)
    told_of = {key: truth.get(key) for key in ("camera", "cloth", "balls")}
    counts = {f"read_{key}": value for key, value in read.counts().items()}
    return {"film": path.stem, **told_of, **single.counts(), **single.offs(), **counts}


def covered(
    ball: Mapping[str, Any], at: int, frames: Sequence[Mapping[str, Any]], pictures: Sequence[NDArray[np.uint8]]
) -> float:
    """The share of a ball's disc that an arm covers in picture `at`, if the truth tells it, else as far as the
    pictures next to it, without an arm in them, show the same ball in the same place; 0 where they do not, or no
    arm is there.
    """
    if "covered" in ball:
        return float(ball["covered"])
    if ARM not in frames[at]["near"]:
        return 0.0
    shares = []
    for near in (at - 1, at + 1):
        if not 0 <= near < len(frames) or ARM in frames[near]["near"]:
            continue
        same = next((one for one in frames[near]["balls"] if one["id"] == ball["id"]), None)
        if same is not None and math.dist((same["x"], same["y"]), (ball["x"], ball["y"])) < STAYED:
            shares.append(_unlike(pictures[at], pictures[near], ball["pixel"], ball["radius"]))
    return min(shares, default=0.0)


def _unlike(one: NDArray[np.uint8], other: NDArray[np.uint8], middle: Sequence[float], radius: float) -> float:
    """The share of a disc in which two pictures differ."""
    v, u = np.mgrid[: one.shape[0], : one.shape[1]]
    disc = (u - middle[0]) ** 2 + (v - middle[1]) ** 2 < radius**2
    apart = np.abs(one[disc].astype(float) - other[disc]).max(axis=1)
    return float((apart > OTHERWISE).mean()) if len(apart) else 0.0


def _wanted(path: Path, truth: Mapping[str, Any], marked_at: float | None) -> Any:
    from aretane.core.table import PRESETS
    from aretane.vision.shots.wanted import Wanted

    marks = {name: (u, v) for name, (u, v) in zip(CORNERS, truth["corners"], strict=True)}
    return Wanted(str(path), PRESETS[TABLE], "pool", marks, marked_at=marked_at)


def _told(path: Path, truth: Mapping[str, Any], at: float) -> list[tuple[str, Any]]:
    """Names and places in a single picture."""
    from aretane.vision.shots.looking import balls_in, balls_of

    try:
        told, _, _ = balls_in(_wanted(path, truth, None), at + A_HAIR, balls_of("pool", DISCIPLINE))
    except InputError:
        return []
    return [(one.name, one.candidate.place) for one in told]


def _layouts(path: Path, truth: Mapping[str, Any]) -> Iterator[tuple[list[Any], list[tuple[str, Any]]]]:
    """The balls of every picture, and what the whole film read tells of that moment."""
    from aretane.vision.shots.corrections import corrected, named
    from aretane.vision.shots.looking import balls_of
    from aretane.vision.shots.naming import once
    from aretane.vision.shots.part import read_all

    found = corrected(read_all(_wanted(path, truth, truth["frames"][0]["t"])), [])
    names = named(found, balls_of("pool", DISCIPLINE), []).names
    for frame in truth["frames"]:
        earlier = [one.shot for one in found if one.shot.still <= frame["t"] + 0.1]
        layout = earlier[-1].after if earlier else found[0].shot.before if found else ()
        yield frame["balls"], [(names[one.track][0], one.place) for one in once(layout, names)]


class _Tally:
    """What is counted of a film."""

    def __init__(self) -> None:
        self.asked = self.found = self.extra = self.right = 0
        self.large: list[float] = []
        self.small: list[float] = []

    def look(self, balls: Sequence[Mapping[str, Any]], told: Sequence[tuple[str, Any]]) -> None:
        """Count one picture: its balls, and the names and places that were told."""
        left = list(told)
        for ball in balls:
            place = (ball["x"], ball["y"])
            name, at = min(left, key=lambda one: math.dist(one[1], place), default=("", (math.inf, math.inf)))
            off = math.dist(at, place)
            if off < NEAR:
                left.remove((name, at))
            if ball["hidden"] >= HIDDEN:
                continue
            self.asked += 1
            if off < NEAR:
                self.found += 1
                self.right += name == ball["id"]
                (self.large if ball["radius"] >= SMALL else self.small).append(off)
        self.extra += len(left)

    def counts(self) -> dict[str, int]:
        return {"asked": self.asked, "found": self.found, "extra": self.extra, "named": self.right}

    def offs(self) -> dict[str, Any]:
        """Median and 95 % of the errors of places in millimetres."""
        return {"large_mm": _spread(self.large), "small_mm": _spread(self.small)}


def _spread(offs: Sequence[float]) -> list[float] | None:
    return [round(1000 * float(np.percentile(offs, share)), 1) for share in (50, 95)] if offs else None


def _together(rows: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    told: dict[str, Any] = {}
    for of in ("", "read_"):
        asked, found, extra, named = (
            sum(row[of + key] for row in rows) for key in ("asked", "found", "extra", "named")
        )
        told |= {
            f"{of}balls": asked,
            f"{of}recall": round(found / max(1, asked), 4),
            f"{of}extra": round(extra / max(1, found), 4),
            f"{of}named": round(named / max(1, found), 4),
        }
    return told
