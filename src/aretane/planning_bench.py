"""How long choices and maps take, and how far their values are from racks played to the end."""

from __future__ import annotations

import math
import random
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, replace
from typing import Any

import numpy as np

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.physics.compiled import Floats
from aretane.core.planning.choices.options import arranged, options_for, outlook_for, pot_tasks, tasks_for, valued
from aretane.core.planning.choices.played import PLAYED_SEED as RACKS_SEED
from aretane.core.planning.choices.played import played_on, racks_from
from aretane.core.planning.outlook.outlook import Outlook, game_of
from aretane.core.planning.outlook.rollout import PLAYED_SEED, visits
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.strokes import COARSE, FINE, GLANCE, Effort
from aretane.core.rack import colour_spots
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import PRESETS, presets_for
from aretane.core.table import PRESETS as TABLES
from aretane.core.table import Point

THREADS = 2
PAIRS = (("professional", "professional"), ("league", "league"), ("club", "professional"))
TABLES_PLAYED, TRIES, SHOWN = 30, 1000, FINE.played
GROUP_TABLES, GROUP_TRIES, GROUP_HANDS = 20, 400, ("league", "league")
GROUP_GAMES = (("eight-ball", "pool-9ft"), ("blackball", "blackball-7ft"))
REFERENCE_SEED = 77
VALUES = (("run-out", "run", "ran"), ("win", "win", "won"))
POINT_GAMES, POINT_HANDS = ("straight-pool", "snooker"), ("club", "league", "professional")
POINT_TABLES, POINT_TRIES, POINT_SHOWN = 16, 200, 150


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


def accuracy(
    progress: Callable[[str], None] | None = None, tables: int = TABLES_PLAYED, tries: int = TRIES
) -> list[dict[str, Any]]:
    """What is shown for a table, its run-out and win chances, against racks played to the end by the quick
    choice made anew after every stroke, under other errors; largest difference first.
    """
    rows = []
    for number in range(tables):
        layout = trouble(2 + number % 8, 10 + number) if number % 3 == 2 else _rack(2 + number % 8, 10 + number)
        for mine, theirs in PAIRS:
            rows.append(_compared(layout, number, mine, theirs, tries))
            if progress is not None:
                progress(f"{rows[-1]['layout']}, {rows[-1]['hands']}")
    return sorted(rows, key=lambda row: -abs(row["win"]["p"] - row["won"]["p"]))


def group_accuracy(
    progress: Callable[[str], None] | None = None, tables: int = GROUP_TABLES, tries: int = GROUP_TRIES
) -> list[dict[str, Any]]:
    """The same for eight-ball and blackball, each table with some of either group left."""
    rows = []
    for number in range(tables):
        rows.append(_compared(_groups(number), number, *GROUP_HANDS, tries))
        if progress is not None:
            progress(f"{rows[-1]['layout']}, {rows[-1]['hands']}")
    return sorted(rows, key=lambda row: -abs(row["win"]["p"] - row["won"]["p"]))


def points_accuracy(
    progress: Callable[[str], None] | None = None, tables: int = POINT_TABLES, tries: int = POINT_TRIES
) -> list[dict[str, Any]]:
    """The same for what a visit scores in straight pool and snooker: a plan's value of its first ball, against
    visits under other errors, played to their end or to the break shot, whose map is the same on both sides.
    """
    rows = []
    for number in range(tables):
        layout = _points(number)
        for level in POINT_HANDS:
            hand = presets_for(layout.table)[level]
            outlook = outlook_for(game_of(layout), (hand, hand), COARSE, 0, THREADS)
            plan = plan_for(outlook, COARSE, 0, THREADS, POINT_SHOWN)
            came = visits(outlook, layout, tries, REFERENCE_SEED, THREADS).scored
            assert came is not None
            called = f"{layout.discipline}, {len(layout.object_balls)} balls, seed {90 + number}"
            shown = plan.order[0].value
            rows.append({"layout": called, "hands": level, "shown": asdict(shown), "came": asdict(came)})
            if progress is not None:
                progress(f"{called}, {level}")
    return rows


def points_summary(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """By discipline: the mean of what is shown over the mean of what came, and how often the intervals meet."""
    found = []
    for name in POINT_GAMES:
        mine = [row for row in rows if row["layout"].startswith(name)]
        shown, came = (sum(row[side]["p"] for row in mine) / len(mine) for side in ("shown", "came"))
        meet = [
            row["shown"]["low"] <= row["came"]["high"] and row["came"]["low"] <= row["shown"]["high"]
            for row in mine
        ]
        found.append({
            "name": name, "shown": shown, "came": came, "ratio": shown / came, "meet": sum(meet) / len(meet),
            "tables": len(mine), "visits": mine[0]["came"]["n"],
        })  # fmt: skip
    return found


def _points(number: int) -> Layout:
    """Four to twelve balls of straight pool, or four to ten reds and the colours on their spots."""
    if number % 2 == 0:
        names = _names("straight-pool", 4 + number % 9, 0)
        return _strewn("straight-pool", "pool-9ft", names, 90 + number)
    reds = [f"red-{at}" for at in range(1, 5 + number % 7)]
    layout = _strewn("snooker", "snooker-12ft", reds, 90 + number, colour_spots(TABLES["snooker-12ft"]))
    return replace(layout, state=replace(layout.state, on="red"))


def growth() -> list[dict[str, Any]]:
    """How long the values take by the number of balls, where the order is free."""
    found = []
    for discipline, counts in (("eight-ball", (3, 5, 7)), ("straight-pool", (4, 6, 8, 10, 12, 14))):
        for balls in counts:
            layout = _strewn(discipline, "pool-9ft", _names(discipline, balls, balls), balls)
            for effort in (GLANCE, COARSE):
                began = time.perf_counter()
                outlook_for(game_of(layout), _hands(), effort, 0, THREADS)
                seconds = time.perf_counter() - began
                found.append({"name": f"{discipline}, {balls} balls, {effort.name}", "seconds": seconds})
    return found


def _groups(number: int) -> Layout:
    """A table with one to seven balls of either group, and the last one."""
    discipline, table = GROUP_GAMES[number % 2]
    layout = _strewn(discipline, table, _names(discipline, 1 + number % 7, 1 + 3 * number % 7), 50 + number)
    return replace(layout, state=replace(layout.state, group=traits_of(discipline).groups[0]))


def _names(discipline: str, own: int, theirs: int) -> list[str]:
    """Balls of the first group, of the second, and the one that is played last; straight pool: so many balls."""
    every = OBJECT_BALLS[discipline]
    traits = traits_of(discipline)
    if not traits.groups:
        return list(every[:own])
    sides = [[ball for ball in every if group_of(discipline, ball) == group] for group in traits.groups]
    return [*sides[0][:own], *sides[1][:theirs], str(traits.money)]


def _compared(layout: Layout, number: int, mine: str, theirs: str, tries: int) -> dict[str, Any]:
    hands = PRESETS[mine], PRESETS[theirs]
    outlook = outlook_for(game_of(layout), hands, COARSE, 0, THREADS)
    maps = {ball: (run, win) for ball, run, win in outlook.maps()}
    run_map, win_map = maps[None] if None in maps else maps[min(layout.object_balls, key=int)]
    found = [valued(outlook, task, COARSE, 0, THREADS) for task in tasks_for(outlook, COARSE, THREADS)]
    best = arranged(
        outlook, played_on(outlook, found, lambda one: racks_from(outlook, one, SHOWN, RACKS_SEED, THREADS))
    ).options[0]
    racks = outlook.racks(layout)
    assert racks is not None
    again = racks_from(outlook, best, tries, REFERENCE_SEED, THREADS)
    assert layout.cue is not None
    return {
        "layout": _called(layout, number),
        "hands": f"{mine} against {theirs}",
        "run": asdict(visits(outlook, layout, SHOWN, PLAYED_SEED, THREADS).cleared),
        "ran": asdict(racks.run_outs(tries, REFERENCE_SEED, THREADS)),
        "win": asdict(best.value.win),
        "won": asdict(again),
        "map_run": _at(outlook, run_map, layout), "map_win": _at(outlook, win_map, layout),
    }  # fmt: skip


def _at(outlook: Outlook, values: Floats, layout: Layout) -> float:
    return float(outlook.grid.at(values, np.array([layout.cue]))[0])


def summary(rows: list[dict[str, Any]], values: Sequence[tuple[str, str, str]] = VALUES) -> list[dict[str, Any]]:
    """Bias, mean size and largest difference, the reference's own noise taken off, and how often the shown interval
    covers it.
    """
    found = []
    for name, shown, played in values:
        off = [row[shown]["p"] - row[played]["p"] for row in rows]
        noise = [row[played]["p"] * (1 - row[played]["p"]) / row[played]["n"] for row in rows]
        quiet = [math.sqrt(max(d * d - v, 0.0)) for d, v in zip(off, noise, strict=True)]
        covered = [
            abs(d) <= math.hypot((row[shown]["high"] - row[shown]["low"]) / 2, 1.96 * math.sqrt(v))
            for d, v, row in zip(off, noise, rows, strict=True)
        ]
        found.append({
            "value": name, "bias": sum(off) / len(off), "mean_size": sum(quiet) / len(quiet), "largest": max(quiet),
            "covered": sum(covered) / len(covered), "tables": len(rows), "racks": rows[0][played]["n"],
        })  # fmt: skip
    return found


def _hands() -> tuple[Any, Any]:
    return PRESETS["league"], PRESETS["league"]


def _map(layout: Layout, effort: Effort) -> object:
    return outlook_for(game_of(layout), _hands(), effort, 0, THREADS)


def _first_options(layout: Layout) -> object:
    view = _map(layout, GLANCE)
    return [valued(view, task, GLANCE, 0, THREADS) for task in pot_tasks(view, GLANCE)[:4]]  # type: ignore[arg-type]


def _called(layout: Layout, number: int) -> str:
    balls = f"{len(layout.object_balls)} balls, seed"
    if traits_of(layout.discipline).groups:
        return f"{layout.discipline}, {balls} {50 + number}"
    return f"{balls} {10 + number}{', clusters' if number % 3 == 2 else ''}"


def _rack(balls: int, seed: int) -> Layout:
    """The last `balls` of a nine-ball rack, strewn over the table."""
    return _strewn("nine-ball", "pool-9ft", [str(number) for number in range(10 - balls, 10)], seed)


def _strewn(
    discipline: str, preset: str, names: Sequence[str], seed: int, spotted: Mapping[str, Point] | None = None
) -> Layout:
    """These balls and the cue ball, anywhere beside those on their spots."""
    dice, table = random.Random(seed), TABLES[preset]
    places: dict[str, Point] = dict(spotted or {})
    for name in [CUE, *names]:
        while name not in places or first_overlap(Layout(table, discipline, places)):
            places[name] = (dice.uniform(0.1, table.length - 0.1), dice.uniform(0.1, table.width - 0.1))
    return Layout(table, discipline, places)


def trouble(balls: int, seed: int) -> Layout:
    """A table on which two or three of the balls touch or nearly do, and one stands in the cue ball's way."""
    layout, dice = _rack(balls, seed), random.Random(seed + 1)
    table, places = layout.table, dict(layout.balls)
    names = [ball for ball in places if ball != "cue"]
    for one, other in zip(names[1::3], names[2::3], strict=False):
        angle, apart = dice.uniform(0.0, 2.0 * math.pi), table.ball_diameter + dice.choice((0.0005, 0.004, 0.02))
        moved = places[one][0] + apart * math.cos(angle), places[one][1] + apart * math.sin(angle)
        tried = layout.placed(other, moved)
        if on_table(table, moved, table.radius) and first_overlap(tried) is None:
            layout, places = tried, dict(tried.balls)
    if len(names) > 3:
        (cx, cy), (bx, by) = places["cue"], places[names[0]]
        blocked = layout.placed(names[3], (0.4 * cx + 0.6 * bx, 0.4 * cy + 0.6 * by))
        layout = blocked if first_overlap(blocked) is None else layout
    return layout
