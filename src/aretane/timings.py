"""How long the things take that a coach waits for. Timings are reported, never tested."""

from __future__ import annotations

import os
import platform
import random
import statistics
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

RUNS = 15


def measure() -> dict[str, Any]:
    """The answer of `bench`: the simulator's cases in shots per second, medians of the other work in seconds."""
    from aretane import planning_bench as planning
    from aretane import simulator_bench as simulator

    return {
        "machine": f"{platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}",
        "cases": simulator.cases(),
        "timings": [
            *({"name": name, "seconds": _median(work)} for name, work in _works()),
            *planning.timings(),
        ],
        **simulator.two_threads(),
        "workspace_bytes": simulator.workspace_bytes(),
        **simulator.starts(),
    }


def _median(work: Callable[[], object]) -> float:
    work()
    taken = []
    for _ in range(RUNS):
        began = time.perf_counter()
        work()
        taken.append(time.perf_counter() - began)
    return statistics.median(taken)


def _works() -> list[tuple[str, Callable[[], object]]]:
    from aretane.core.geometry.measured import measure_table
    from aretane.core.layout import Layout
    from aretane.core.physics.aim import aimed
    from aretane.core.physics.sampling import sample
    from aretane.core.physics.shot import simulate
    from aretane.core.physics.stroke import Stroke
    from aretane.core.review.replay import replay
    from aretane.core.review.shot_figures import shot_figures
    from aretane.core.rules.disciplines import legal_first
    from aretane.core.rules.referee import referee
    from aretane.core.skill.hand import PRESETS as HANDS
    from aretane.formats.match import read_match
    from aretane.vision.table.camera import solve_camera

    layout = _sixteen_balls()
    match = read_match((Path(__file__).parent / "demo" / "matches" / "nine-ball.json").read_bytes())
    stroke = Stroke(speed=2.5, aim=0.4)
    pot = Stroke(speed=2.5, at="1", pocket="foot-left")
    lone = Layout(layout.table, "nine-ball", {"cue": (0.62, 0.40), "1": (1.31, 0.96)})
    marks = match["recordings"][0]["views"][0]["camera"]["marks"]
    return [
        ("read 16 balls", lambda: measure_table(layout, legal_first(layout))),
        ("referee a match of 85 shots", lambda: referee(match)),
        *[
            (f"referee and replay {len(told['racks'])} racks of {told['discipline']}", partial(replay, told))
            for told in map(read_match, _demo_matches())
        ],
        ("figures of a match of 85 shots", lambda: shot_figures(replay(match))),
        ("one shot with its path, 16 balls", lambda: simulate(layout, stroke)),
        ("aim of a pot", lambda: aimed(lone, pot)),
        ("500 samples, 16 balls, two threads", lambda: sample(layout, stroke, HANDS["club"], 500, threads=2)),
        ("camera from 10 marks", lambda: solve_camera(layout.table, marks, (960, 540))),
    ]


def _demo_matches() -> list[bytes]:
    return [path.read_bytes() for path in sorted((Path(__file__).parent / "demo" / "matches").glob("*.json"))]


def _sixteen_balls() -> Any:
    from aretane.core.layout import Layout, first_overlap
    from aretane.core.table import PRESETS

    dice, table = random.Random(1), PRESETS["pool-9ft"]
    balls: dict[str, tuple[float, float]] = {}
    for name in ["cue", *map(str, range(1, 16))]:
        while name not in balls or first_overlap(Layout(table, "eight-ball", balls)):
            balls[name] = (dice.uniform(0.05, 2.4), dice.uniform(0.05, 1.2))
    return Layout(table, "eight-ball", balls)
