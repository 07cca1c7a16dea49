"""How fast the simulator is on this machine: shots per second on one core, threads, start-up.

Timings are reported, never tested.
"""

from __future__ import annotations

import math
import os
import random
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from typing import Any

import numpy as np

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.compiled import R_CAPPED, R_EVENTS
from aretane.core.physics.sampling import play_all
from aretane.core.physics.start import start_of
from aretane.core.rack import racked
from aretane.core.table import PRESETS, Table

LAYOUTS = 40
SHOTS = 250  # on each layout
ROUNDS = 5
THREAD_SHOTS = 20_000

Work = list[tuple[Layout, Any]]

_WARM = """
import time, numba, numpy
import scipy.linalg
began = time.perf_counter()
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.layout import Layout
from aretane.core.table import PRESETS
balls = {"cue": (0.6, 0.6), "1": (1.5, 0.7)}
simulate(Layout(PRESETS["pool-9ft"], "nine-ball", balls), Stroke(speed=2.0, aim=0.1))
print(time.perf_counter() - began)
"""


def cases() -> list[dict[str, Any]]:
    """Shots per second on one core for the usual tables, and for 2 to 22 balls on one table."""
    pool, snooker = PRESETS["pool-9ft"], PRESETS["snooker-12ft"]
    works: list[tuple[str, Work]] = [
        ("two balls", _random_shots(pool, "nine-ball", 2, (2.5, 4.0))),
        ("seven balls", _random_shots(pool, "nine-ball", 7, (2.5, 4.0))),
        ("snooker 12 balls", _random_shots(snooker, "snooker", 12, (2.5, 4.0))),
        ("15-ball break", _breaks(pool)),
    ]
    works += [
        (f"{balls} balls on a 12-ft table", _random_shots(snooker, "snooker", balls, (2.5, 4.0)))
        for balls in (2, 4, 7, 11, 16, 22)
    ]
    return [_measured(name, work) for name, work in works]


def _measured(name: str, work: Work) -> dict[str, Any]:
    per_second, events, capped = [], [], False
    for layout, strokes in work:
        played = play_all(layout, start_of(layout), strokes)
        events.append(played.results[:, R_EVENTS])
        capped = capped or bool(played.results[:, R_CAPPED].any())
    total = sum(len(strokes) for _, strokes in work)
    for _ in range(ROUNDS):
        began = time.perf_counter()
        for layout, strokes in work:
            play_all(layout, start_of(layout), strokes)
        per_second.append(total / (time.perf_counter() - began))
    counted = np.concatenate(events)
    return {
        "name": name,
        "per_second": max(per_second),
        "per_second_median": statistics.median(per_second),
        "events_mean": float(counted.mean()),
        "events_p99": float(np.percentile(counted, 99)),
        "capped": capped,
        "shots": total,
    }


def _random_shots(table: Table, discipline: str, balls: int, speeds: tuple[float, float]) -> Work:
    """Shots that hit a ball: aimed somewhere at one, at the speeds of everyday play, on scattered balls."""
    dice = random.Random(balls)
    return [_shots_at_a_ball(_scattered(table, discipline, balls, dice), dice, speeds) for _ in range(LAYOUTS)]


def _scattered(table: Table, discipline: str, balls: int, dice: random.Random) -> Layout:
    placed: dict[str, tuple[float, float]] = {}
    for name in (CUE, *OBJECT_BALLS[discipline])[:balls]:
        while name not in placed or first_overlap(Layout(table, discipline, placed)):
            placed[name] = (dice.uniform(0.05, table.length - 0.05), dice.uniform(0.05, table.width - 0.05))
    return Layout(table, discipline, placed)


def _shots_at_a_ball(layout: Layout, dice: random.Random, speeds: tuple[float, float]) -> tuple[Layout, Any]:
    (cx, cy), (bx, by) = layout.balls[CUE], dice.choice(list(layout.object_balls.values()))
    straight, apart = math.atan2(by - cy, bx - cx), math.hypot(bx - cx, by - cy)
    half = math.asin(min(1.0, 1.7 * layout.table.radius / apart))
    rows = [
        (straight + dice.uniform(-half, half), dice.uniform(*speeds), 0.0, dice.uniform(-0.3, 0.3), 0.0)
        for _ in range(SHOTS)
    ]
    return layout, np.array(rows)


def _breaks(table: Table) -> Work:
    work = []
    for seed in range(8):
        layout = racked(table, "eight-ball", seed).placed(CUE, (table.head_line - 0.05, table.width / 2))
        dice = random.Random(seed)
        rows = [(dice.gauss(0.0, 0.003), dice.uniform(7.5, 9.0), 0.0, 0.0, 0.0) for _ in range(SHOTS)]
        work.append((layout, np.array(rows)))
    return work


def two_threads() -> dict[str, float]:
    """How much faster two threads are than one: median of five."""
    layout, strokes = _random_shots(PRESETS["pool-9ft"], "nine-ball", 7, (2.5, 4.0))[0]
    strokes = np.tile(strokes, (THREAD_SHOTS // len(strokes), 1))
    start = start_of(layout)
    ratios = []
    for _ in range(ROUNDS):
        one = _seconds(lambda: play_all(layout, start, strokes))
        two = _seconds(lambda: play_all(layout, start, strokes, threads=2))
        ratios.append(one / two)
    return {"two_threads_speedup": statistics.median(ratios), "cores": float(os.cpu_count() or 1)}


def _seconds(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def workspace_bytes(balls: int = 22) -> int:
    """Memory that one thread needs besides its answers."""
    layout = _scattered(PRESETS["snooker-12ft"], "snooker", balls, random.Random(1))
    start = start_of(layout)
    return start.numbers.nbytes + start.integers.nbytes + 8 * balls * balls


def starts() -> dict[str, float]:
    """Start-up: cached kernels and a first shot after the imports; compiling from nothing."""
    warm = min(_start(dict(os.environ)) for _ in range(3))
    with tempfile.TemporaryDirectory() as empty:
        cold = _start({**os.environ, "NUMBA_CACHE_DIR": empty})
    return {"warm_start_s": warm, "cold_start_s": cold}


def _start(environment: dict[str, str]) -> float:
    done = subprocess.run(
        [sys.executable, "-c", _WARM], env=environment, capture_output=True, text=True, check=True
    )
    return float(done.stdout)
