"""How long choices and maps take, and how far their values are from racks played to the end."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from typing import Any

from aretane.core.layout import Layout, first_overlap
from aretane.core.planning.duel import duels
from aretane.core.planning.options import options_for, outlook_for, tasks_for, valued
from aretane.core.planning.outlook import game_of
from aretane.core.planning.rollout import run_outs
from aretane.core.planning.strokes import COARSE, FINE, GLANCE, Effort
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES

THREADS = 2
PAIRS = (("professional", "professional"), ("league", "league"), ("club", "professional"))
LAYOUTS, TRIES = 8, 200


def timings() -> list[dict[str, Any]]:
    """One run of each: they take seconds, and are the same work every time."""
    nine, five = _rack(9, 1), _rack(5, 1)
    errors_ready(nine)
    works: list[tuple[str, Callable[[], object]]] = [
        ("first useful options, five balls", lambda: _first_options(five)),
        ("options settled, five balls", lambda: options_for(five, _hands(), COARSE, 0, THREADS)),
        ("options settled, nine balls", lambda: options_for(nine, _hands(), COARSE, 0, THREADS)),
        ("coarse map, nine balls", lambda: _map(nine, COARSE)),
        ("settled map, nine balls", lambda: _map(nine, FINE)),
        ("settled map, five balls", lambda: _map(five, FINE)),
    ]
    found = []
    for name, work in works:
        began = time.perf_counter()
        work()
        found.append({"name": name, "seconds": time.perf_counter() - began})
    return found


def errors_ready(layout: Layout) -> None:
    """What a running server has loaded long ago: kernels, SciPy's sequences."""
    _map(layout.without(*list(layout.object_balls)[:-1]), GLANCE)


def accuracy(progress: Callable[[str], None] | None = None) -> list[dict[str, Any]]:
    """Maps against rollouts and duels from the same places: chances to run out and to win, largest error first."""
    rows = []
    for number in range(LAYOUTS):
        layout = _rack(2 + number % 4, 10 + number)
        for mine, theirs in PAIRS:
            hands = PRESETS[mine], PRESETS[theirs]
            view = outlook_for(game_of(layout), hands, COARSE, 0, THREADS)
            stage = view.stages[min(layout.object_balls, key=int)]  # type: ignore[attr-defined]
            assert layout.cue is not None
            run, win = stage.run[0].at(layout.cue), stage.win[0].at(layout.cue)
            ran = run_outs(view, layout, hands[0], TRIES, GLANCE, 0, THREADS)
            won = duels(view, layout, TRIES, 0, THREADS)
            row = {
                "layout": f"{len(layout.object_balls)} balls, seed {10 + number}",
                "hands": f"{mine} against {theirs}",
                "run": run, "ran": ran.p, "win": win, "won": won.p, "n": TRIES,
            }  # fmt: skip
            rows.append(row)
            if progress is not None:
                progress(f"{row['layout']}, {row['hands']}")
    return sorted(rows, key=lambda row: -abs(row["win"] - row["won"]))


def _hands() -> tuple[Any, Any]:
    return PRESETS["league"], PRESETS["league"]


def _map(layout: Layout, effort: Effort) -> object:
    return outlook_for(game_of(layout), _hands(), effort, 0, THREADS)


def _first_options(layout: Layout) -> object:
    view = _map(layout, GLANCE)
    return [valued(view, task, GLANCE, 0, THREADS) for task in tasks_for(view, GLANCE, THREADS)[:4]]  # type: ignore[arg-type]


def _rack(balls: int, seed: int) -> Layout:
    """The last `balls` of a nine-ball rack, strewn over the table."""
    dice, table = random.Random(seed), TABLES["pool-9ft"]
    places: dict[str, tuple[float, float]] = {}
    for name in ["cue", *(str(number) for number in range(10 - balls, 10))]:
        while name not in places or first_overlap(Layout(table, "nine-ball", places)):
            places[name] = (dice.uniform(0.1, table.length - 0.1), dice.uniform(0.1, table.width - 0.1))
    return Layout(table, "nine-ball", places)
