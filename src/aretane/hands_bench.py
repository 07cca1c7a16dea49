"""What the preset hands do, beside what players of each level are known to do (`bench/hands.json`)."""

from __future__ import annotations

import json
import math
import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from aretane.core.geometry.kick import kicks
from aretane.core.layout import Layout, State
from aretane.core.physics.aim import aimed
from aretane.core.physics.compiled import R_CUE_RAILS, R_FIRST, R_KICKED, Floats
from aretane.core.physics.sampling import Samples, play_all, sample
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.break_shot import BREAKS, break_rates
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.choices.search import in_hand_layouts
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.outlook.rollout import visits
from aretane.core.planning.pots.strokes import COARSE
from aretane.core.skill.hand import LEVELS, Hand, presets_for
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS, PRESETS
from aretane.formats.stroke import stroke_from
from aretane.settings import ROOT

SAMPLES, RUNS, BREAK_RACKS = 4000, 60, 400
NEAR_THE_MIRROR = 0.25  # rad: a rail turns a ball no further from the mirror's way
THREADS = 2

Row = dict[str, Any]


def rows() -> list[Row]:
    """What is measured, with the ranges of the trade."""
    return list(json.loads((ROOT / "bench" / "hands.json").read_text())["rows"])


def measure(share: float = 1.0, progress: Callable[[str], None] | None = None) -> list[Row]:
    """Every row for every level; `share` of the usual samples."""
    found = []
    for row in rows():
        for level in LEVELS:
            found.append(measured(row, level, share))
            if progress is not None:
                progress(f"{row['row']}, {level}")
    return found


def measured(row: Row, level: str, share: float = 1.0) -> Row:
    """One row for one level: its `rate` (lag: cm; balls made: balls), the range `want` in the same unit, and
    whether it lies `inside`.
    """
    rate, unit = _MEASURES[row["measure"]](row, level, share)
    low, high = (end / 100 if unit == "%" else end for end in row["want"][level])
    p = float(rate.p or 0.0)
    return {
        "row": row["row"], "hand": level, "rate": {"p": p, "low": rate.low, "high": rate.high, "n": rate.n},
        "unit": unit, "want": [low, high], "inside": low <= p <= high,
    }  # fmt: skip


def layout_of(row: Row) -> Layout:
    data = row["layout"]
    balls = {name: (float(x), float(y)) for name, (x, y) in data.get("balls", {}).items()}
    on = next((ball for ball in balls if ball in ("blue",)), None)
    return Layout(PRESETS[data["table"]], data["discipline"], balls, State(on=on))


def stroke_in(row: Row, layout: Layout) -> Stroke:
    """The stroke with its aim: a pot's by the aim solver, a kick's or bank's in the middle of what does it."""
    wanted = row["stroke"]
    plain = {name: value for name, value in wanted.items() if name != "rail"}
    if row["measure"] == "pot":
        return aimed(layout, stroke_from(plain))
    free = Stroke(
        float(wanted["speed"]), float(wanted.get("aim", 0.0)), side=0.0, height=float(wanted.get("height", 0.0)),
        elevation=float(wanted.get("elevation", 0.0)),
    )  # fmt: skip
    if "aim" in wanted:
        return free
    about = _mirror_aim(layout, wanted["at"], wanted["rail"]) if "rail" in wanted else None
    return replace(free, aim=_middle(layout, free, about, lambda played: _does(row, played)))


def _mirror_aim(layout: Layout, ball: str, rail: str) -> float:
    assert layout.cue is not None
    ways = kicks(layout.table, layout.cue, layout.balls[ball], 1)
    return next(way.aim for way in ways if way.rails == (rail,))


def _middle(layout: Layout, stroke: Stroke, about: float | None, good: Callable[[Samples], Any]) -> float:
    """The middle of the widest run of aims, near `about` or anywhere, that do it without error."""
    reach = math.pi if about is None else NEAR_THE_MIRROR
    aims = (about or 0.0) + np.linspace(-reach, reach, 7201)
    strokes = np.tile([0.0, stroke.speed, stroke.side, stroke.height, stroke.elevation], (len(aims), 1))
    strokes[:, 0] = aims
    does = good(play_all(layout, start_of(layout), strokes, THREADS))
    runs = np.split(np.arange(len(aims)), np.flatnonzero(np.diff(does.astype(int))) + 1)
    widest = max((run for run in runs if does[run[0]]), key=len)
    return float(aims[widest[len(widest) // 2]])


def _does(row: Row, played: Samples) -> Any:
    """Which strokes do what the row asks, by the way that it asks."""
    ball = played.names.index(row["stroke"]["at"])
    first = played.results[:, R_FIRST] == ball
    kicked = played.results[:, R_KICKED] == (1 if "rail" in row["stroke"] else 0)
    if row["measure"] == "hit":
        return first & kicked
    fell = played.fates[:, ball] == POCKETS.index(row["stroke"]["pocket"])
    return first & kicked & fell & (played.fates[:, 0] == -1)


def _struck(row: Row, level: str, share: float) -> tuple[Rate, str]:
    layout = layout_of(row)
    stroke, hand = stroke_in(row, layout), presets_for(layout.table)[level]
    wanted, n = row["stroke"], max(200, int(share * SAMPLES))
    played = sample(layout, stroke, hand, n, 0, THREADS, ball=wanted["at"] if "pocket" in wanted else None)
    ball = played.names.index(wanted["at"])
    good = played.results[:, R_FIRST] == ball
    if "pocket" in wanted:
        good &= (played.fates[:, ball] == POCKETS.index(wanted["pocket"])) & (played.fates[:, 0] == -1)
    return wilson(int(good.sum()), n), "%"


def _lag(row: Row, level: str, share: float) -> tuple[Rate, str]:
    """Standard deviation of where the ball stops, counted on through the head nose when it comes back off it."""
    layout = layout_of(row)
    table = layout.table

    def ends(played: Samples) -> Floats:
        x, rails = played.places[:, 0, 0], played.results[:, R_CUE_RAILS]
        return np.where(rails >= 2, -x, np.where(rails == 1, x, 2 * table.length - x))

    speeds = np.linspace(1.0, 4.0, 601)
    tries = np.tile([0.0, 1.0, 0.0, 0.0, 0.0], (len(speeds), 1))
    tries[:, 1] = speeds
    speed = float(speeds[np.argmin(np.abs(ends(play_all(layout, start_of(layout), tries)) - table.cue_radius))])
    n = max(200, int(share * SAMPLES))
    played = sample(layout, Stroke(speed, 0.0), presets_for(table)[level], n, 0, THREADS)
    deviation = 100 * float(np.std(ends(played)[played.fates[:, 0] == -1], ddof=1))
    half = 1.96 * deviation / math.sqrt(2 * n)
    return Rate(deviation, deviation - half, deviation + half, n), "cm"


def open_table(row: Row, seed: int) -> Layout:
    """Nine balls strewn over the table, no two nearer than the row says, the cue ball in hand."""
    dice, table = random.Random(seed), PRESETS[row["layout"]["table"]]
    inset = 1.05 * table.radius
    balls: dict[str, tuple[float, float]] = {}
    for ball in map(str, range(1, 10)):
        while ball not in balls:
            place = dice.uniform(inset, table.length - inset), dice.uniform(inset, table.width - inset)
            if all(math.dist(place, other) >= row["apart"] for other in balls.values()):
                balls[ball] = place
    return Layout(table, row["layout"]["discipline"], balls, State(ball_in_hand="anywhere"))


def _run_out(row: Row, level: str, share: float) -> tuple[Rate, str]:
    tables, tries = max(2, round(share * row["tables"])), max(20, int(share * RUNS))
    done = 0
    for seed in range(tables):
        layout = open_table(row, seed)
        hand = presets_for(layout.table)[level]
        done += round(float(_cleared(layout, hand, tries).p or 0.0) * tries)
    return wilson(done, tables * tries), "%"


def _cleared(layout: Layout, hand: Hand, tries: int) -> Rate:
    game = game_of(layout)
    outlook = outlook_for(game, (hand, hand), COARSE, 0, THREADS)
    return visits(outlook, in_hand_layouts(game, outlook, 1)[0], tries, 1, THREADS).cleared


def _broken(row: Row, level: str, share: float) -> tuple[Rate, str]:
    found = break_rates(BREAKS[row["discipline"]], level, max(60, int(share * BREAK_RACKS)), 0, THREADS)
    name = row["measure"].removeprefix("break ")
    return getattr(found, name), "balls" if name == "balls" else "%"


_MEASURES: dict[str, Callable[[Row, str, float], tuple[Rate, str]]] = {
    "pot": _struck, "bank": _struck, "hit": _struck, "kick": _struck, "lag": _lag, "run-out": _run_out,
    "break balls": _broken, "break dry": _broken, "break scratch": _broken, "break seen": _broken,
}  # fmt: skip
