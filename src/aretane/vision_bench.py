"""How well recordings are read: a table of synthetic recordings, the worst first. Reported, never tested."""

from __future__ import annotations

import json
import math
import statistics
import tempfile
import time
from collections import Counter
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import numpy as np

from aretane import paths_bench

SHOTS = 6  # of each match
SPAN = 30.0  # seconds of each recording that are timed
RUNNING = 0.2  # of a match's time balls run (common practice: players walk, look and wait for the rest of it)
PACED, RUNS = 3, 5  # shots of such a film, and how often it is timed
NEAR = 0.04  # m: a find this near to a ball is that ball
HIDDEN = 0.5  # of a ball that somebody covers: it need not be found
STAYED = 0.01  # m: a ball that was moved no farther stands where it stood
SPARSE = 1.5  # seconds between pictures from which on times are compared loosely
LARGE = 18.0  # pixels: balls of this size and more are judged apart


def measure() -> dict[str, Any]:
    """Every recording rendered, read and compared with its truth; two at a time."""
    from aretane.vision.render.recipes import KEPT, RECORDINGS

    count = len(RECORDINGS + KEPT)
    with tempfile.TemporaryDirectory() as folder:
        with ProcessPoolExecutor(2, get_context("spawn")) as workers:
            rows = list(workers.map(_row, range(count), [folder] * count))
        for row in rows:  # nothing else runs beside
            row["times_real"] = _speed(Path(row["file"]), row.pop("truth"))
            Path(row.pop("file")).unlink()
        pace = _pace(folder)
    rows.sort(key=lambda row: min(row["recall"], row["precision"], row["shots_recall"]))
    return {"vision": rows, "pace": pace}


def _row(number: int, folder: str) -> dict[str, Any]:
    """One recording's line. The camera is solved from all marks, as if every diamond had been set exactly."""
    import cv2

    from aretane.vision.render.recipes import KEPT, RECORDINGS

    cv2.setNumThreads(1)
    discipline, recipe = (RECORDINGS + KEPT)[number]
    suffix = "webm" if "vp9" in recipe.codec else "mp4"
    path = Path(folder) / f"{number}.{suffix}"
    truth = _filmed(discipline, recipe, path, SHOTS)
    found = {**_pictures(path, truth), **_reading(path, truth)}
    return {"recording": recipe.name, "discipline": discipline, **found, "file": str(path), "truth": truth}


def _wanted(path: Path, truth: dict[str, Any]) -> Any:
    from aretane.core.table import PRESETS
    from aretane.vision.balls.ball_sets import ball_set_of
    from aretane.vision.shots.wanted import Wanted

    marks = {name: (at[0], at[1]) for name, at in truth["camera"]["marks"].items()}
    return Wanted(str(path), PRESETS[truth["table"]], ball_set_of(truth["discipline"]), marks)


def _pictures(path: Path, truth: dict[str, Any]) -> dict[str, Any]:
    """Single pictures, before and after each shot: balls found, false ones, places, names without a correction."""
    from aretane.core.errors import InputError
    from aretane.vision.balls.ball_sets import BALL_SETS
    from aretane.vision.render.film import frames_beside
    from aretane.vision.shots.looking import balls_in
    from aretane.vision.table.cloth import ball_radius

    wanted = _wanted(path, truth)
    size = truth["recipe"]["size"]
    errors: list[tuple[float, float]] = []
    sizes: list[float] = []
    false = named = 0
    for frame in frames_beside(truth):
        try:
            told, camera, _ = balls_in(wanted, frame["t"] + 1e-3, BALL_SETS[wanted.ball_set])
        except InputError:
            continue
        left = list(told)
        for ball, (x, y) in frame["balls"].items():
            best = min(left, key=lambda one: math.dist(one.candidate.place, (x, y)), default=None)
            off = math.dist(best.candidate.place, (x, y)) if best else math.inf
            if best is not None and off < NEAR:
                left.remove(best)
            if frame["hidden"].get(ball, 0) >= HIDDEN:
                continue
            sizes.append(2 * ball_radius(camera, (x, y), wanted.table.radius))
            if best is not None and off < NEAR:
                errors.append((sizes[-1], off))
                named += best.name.split("-")[0] == ball.split("-")[0]
        false += len(left)
    found, total = len(errors), len(sizes)
    return {
        "pixels": [round(min(px for px, _ in errors)), round(max(px for px, _ in errors))],
        "picture": f"{size[0]} x {size[1]}",
        "balls": total,
        "recall": round(found / total, 4),
        "precision": round(found / max(1, found + false), 4),
        "large": [sum(px >= LARGE for px, _ in errors), sum(px >= LARGE for px in sizes)],
        "small": [sum(px < LARGE for px, _ in errors), sum(px < LARGE for px in sizes)],
        "large_mm": _spread([off for px, off in errors if px >= LARGE]),
        "small_mm": _spread([off for px, off in errors if px < LARGE]),
        "named": round(named / max(1, found), 3),
    }


def _spread(offs: Sequence[float]) -> list[float] | None:
    """Median and 95 % of errors in millimetres."""
    return [round(1000 * float(np.percentile(offs, share)), 1) for share in (50, 95)] if offs else None


def _reading(path: Path, truth: dict[str, Any]) -> dict[str, Any]:
    """The whole recording read: shots, layouts and names, without and with one correction."""
    from aretane.vision.files.frames import rhythm_of
    from aretane.vision.paths.course import SLOWEST
    from aretane.vision.shots.corrections import corrected
    from aretane.vision.shots.part import read_part

    wanted, interval = _wanted(path, truth), 1 / rhythm_of(path).rate
    watch, at, over = None, 0.0, False
    shots: list[Any] = []
    while not over:
        part = read_part(wanted, watch, at, 30.0)
        watch, at, over = part.watch, part.reached, part.over
        shots += part.shots
    real = [one.shot for one in corrected(shots, []) if one.shot.kind == "shot"]
    pairs = _paired(truth["shots"], real, 1.0 if interval < SPARSE else 1.6 * interval)
    seen = [shot for number, shot in enumerate(truth["shots"]) if shown(truth, number)]
    paired = sum(any(one is shot for one, _ in pairs) for shot in seen)
    return {
        "shots": len(truth["shots"]),
        "shots_shown": len(seen),
        "shots_found": len(pairs),
        "shots_recall": round(paired / max(1, len(seen)), 3),
        "shots_precision": round(len(pairs) / max(1, len(real)), 3),
        **_names(truth, real),
        **(paths_bench.measure(pairs, truth["frames"]) if 1 / interval >= SLOWEST else {}),
    }


def shown(truth: dict[str, Any], number: int) -> bool:
    """Whether the pictures show a shot: each ball that it moves stands uncovered in one before it, and each that it
    leaves somewhere else uncovered in one after it. Of any other nobody can tell from them that it was played.
    """
    shots = truth["shots"]
    since = shots[number - 1]["still"] if number else 0.0
    until = shots[number + 1]["contact"] if number + 1 < len(shots) else math.inf
    before = [one for one in truth["frames"] if since <= one["t"] < shots[number]["contact"]]
    after = [one for one in truth["frames"] if shots[number]["still"] <= one["t"] < until]
    if not before or not after:
        return False
    old, new = before[-1]["balls"], after[0]["balls"]
    moved = [ball for ball, place in old.items() if ball not in new or math.dist(place, new[ball]) > STAYED]
    return all(_uncovered(before, ball, old[ball]) for ball in moved) and all(
        _uncovered(after, ball, new[ball]) for ball in moved if ball in new
    )


def _uncovered(frames: Sequence[dict[str, Any]], ball: str, place: Sequence[float]) -> bool:
    return any(
        ball in one["balls"]
        and math.dist(one["balls"][ball], place) <= STAYED
        and one["hidden"].get(ball, 0) < HIDDEN
        for one in frames
    )


def _speed(path: Path, truth: dict[str, Any], span: float = SPAN, ways: bool = True) -> float:
    """Seconds of recording read in a second by one worker, which uses two cores."""
    from aretane.vision.files.frames import rhythm_of
    from aretane.vision.shots.part import read_part

    wanted, length = _wanted(path, truth), min(span, rhythm_of(path).last)
    began = time.perf_counter()
    read_part(wanted, None, 0.0, length, ways=ways)
    return round(length / (time.perf_counter() - began), 2)


def _pace(folder: str) -> dict[str, Any]:
    """The same of a whole film in which balls run as rarely as in a match, with ways and without: medians."""
    from aretane.vision.files.frames import rhythm_of
    from aretane.vision.render.film import Recipe

    path = Path(folder) / "pace.mp4"
    truth = _filmed(
        "nine-ball", Recipe(size=(1280, 720), rate=30, person=True, running=RUNNING, seed=81), path, PACED
    )
    length = rhythm_of(path).last
    running = sum(shot["still"] - shot["contact"] for shot in truth["shots"]) / length
    with_ways, without = (
        statistics.median(_speed(path, truth, length, ways) for _ in range(RUNS)) for ways in (True, False)
    )
    return {"seconds": round(length, 1), "running": round(running, 3), "runs": RUNS, "with_ways": with_ways,
            "without": without}  # fmt: skip


def _filmed(discipline: str, recipe: Any, path: Path, shots: int) -> dict[str, Any]:
    """A demo match filmed, and its truth as it is read from a file."""
    from aretane.demo.load import FOLDER
    from aretane.formats.match import read_match
    from aretane.vision.render.film import render_match

    match = read_match((FOLDER / "matches" / f"{discipline}.json").read_bytes())
    truth: dict[str, Any] = json.loads(json.dumps(render_match(match, path, recipe, shots)))
    return truth


def _paired(true: Sequence[dict[str, Any]], found: Sequence[Any], tolerance: float) -> list[tuple[Any, Any]]:
    left, pairs = list(found), []
    for shot in true:
        for one in left:
            near = abs(one.contact - shot["contact"]) < tolerance
            within = shot["contact"] - tolerance <= one.contact <= shot["still"] + tolerance
            if near or (within and one.start <= shot["contact"] + tolerance):
                left.remove(one)
                pairs.append((shot, one))
                break
    return pairs


def _names(truth: dict[str, Any], shots: Sequence[Any]) -> dict[str, Any]:
    """Names in the layouts, right before and after the coach has put the ball right that is wrong most often: a
    coach names it what it is wherever it is followed, not what it was taken for in one layout."""
    from aretane.core.ball import CUE, OBJECT_BALLS
    from aretane.vision.shots.corrections import corrected, named

    balls = (CUE, *OBJECT_BALLS[truth["discipline"]])
    found = corrected(shots, [])
    told = [pair for shot in shots for pair in _told(truth, shot)]
    if not told:
        return {"read_named": None, "read_named_corrected": None}

    def wrong(corrections: Sequence[dict[str, Any]]) -> list[tuple[int, str]]:
        names = named(found, balls, corrections).names
        return [
            (track, ball)
            for track, ball in told
            if names.get(track, ("", 0.0))[0].split("-")[0] != ball.split("-")[0]
        ]

    first = wrong([])
    second = first
    usual = {track: Counter(ball for one, ball in told if one == track).most_common(1)[0][0] for track, _ in told}
    worth = [(track, ball) for track, ball in first if usual[track] == ball]
    if worth:
        track, ball = max(sorted(set(worth)), key=worth.count)
        second = wrong([{"do": "name", "track": track, "ball": ball}])
    return {
        "read_named": round(1 - len(first) / len(told), 3),
        "read_named_corrected": round(1 - len(second) / len(told), 3),
    }


def _told(truth: dict[str, Any], shot: Any) -> Iterator[tuple[int, str]]:
    """Each ball that truly stands in a shot's layouts with the track that is nearest to it, if one is near."""
    for layout, at in ((shot.before, shot.start), (shot.after, shot.still + 0.3)):
        frame = min(truth["frames"], key=lambda one: abs(one["t"] - at))
        for ball, place in frame["balls"].items():
            one = min(layout, key=lambda one: math.dist(place, one.place), default=None)
            if one is not None and math.dist(place, one.place) < NEAR:
                yield one.track, ball
