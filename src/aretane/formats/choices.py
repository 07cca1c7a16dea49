"""Options and plans as data: the answers of `options` and `plan`, and of the pages."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.option import FOULS_ON_PURPOSE, Option, Options
from aretane.core.planning.choices.options import landing_of
from aretane.core.planning.orders.break_ball import PLAYED, BreakMap
from aretane.core.planning.plans.plan import Entry, Plan
from aretane.core.planning.plans.trouble import TableTrouble
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.zone import GRADES, Area, areas, best_value
from aretane.core.rules.traits import traits_of
from aretane.core.statistics.rates import Rate
from aretane.core.words import ball_words, pocket_words, stroke_words
from aretane.formats.stroke import stroke_as_data


def options_as_data(found: Options, discipline: str) -> dict[str, Any]:
    """All choices, best first. In straight pool nobody wins a rack, and alone in snooker no frame: `win` is null
    and `ahead` says by how many balls or points.
    """
    ahead = traits_of(discipline).goes_on or (found.points and found.alone)
    return {
        "options": [option_as_data(option, discipline, ahead=ahead) for option in found.options],
        "best_attack": found.best_attack,
        "best_safety": found.best_safety,
        "break_even_pot": found.break_even_pot,
        "horizon": found.horizon,
    }


def option_as_data(option: Option, discipline: str, *, ahead: bool) -> dict[str, Any]:
    value, leaves = option.value, option.value.leaves
    data = {
        "kind": option.kind,
        "also": list(option.also),
        "intent": option.intent,
        "ball": option.ball,
        "pocket": option.pocket,
        "stroke": stroke_as_data(option.stroke),
        "pot": asdict(value.pot),
        "position": asdict(value.position),
        "foul": asdict(value.foul),
        "win": None if ahead else asdict(value.win),
        "opponent_next": asdict(value.opponent_next),
        "why": option.why,
        "words": {
            "title": title_of(option, discipline),
            "stroke": words_of(option.stroke),
            "worth": worth_words(value.win, ahead=ahead),
            "spread": spread_words(value.win, ahead=ahead),
        },
        "route": option.route,
        "played": value.played,
        "variations": [
            {
                "stroke": stroke_as_data(one.stroke),
                "pot": asdict(one.value.pot),
                "position": asdict(one.value.position),
                "value": asdict(one.value.win),
                "words": {
                    "stroke": words_of(one.stroke),
                    "worth": worth_words(one.value.win, ahead=ahead),
                },
            }
            for one in option.variations
        ],
        "run": value.run,
        "after_pot": value.after_pot,
        "after_miss": value.after_miss,
        "fraction": option.fraction,
        "reach": {"wider": option.reach.wider, "words": list(option.reach.words)},
        "leaves": None,
        "path": [list(place) for place in option.path],
        "landing": landing_of(option).tolist(),
    }
    if leaves is not None:
        data["leaves"] = {**asdict(leaves), "hidden": asdict(leaves.hidden)}
    if ahead:
        data["ahead"] = asdict(value.win)
    return data


def title_of(option: Option, discipline: str) -> str:
    """What it is, in a few words: "bank: 7 ball side left", "kick, escape"."""
    if option.intent == "push-out":
        return "push-out"
    if option.intent in FOULS_ON_PURPOSE:
        return f"foul on purpose, {option.intent}"
    if option.ball is None:
        return option.intent if option.kind == "other" else f"{option.kind}, {option.intent}"
    kind = "" if option.kind == "pot" else f"{option.kind}: "
    return f"{kind}{ball_words(option.ball)} {pocket_words(option.pocket, discipline)}"


def words_of(stroke: Stroke) -> str:
    return stroke_words(stroke.speed, stroke.side, stroke.height, stroke.elevation)


def worth_words(worth: Rate, *, ahead: bool) -> str:
    """The chance to win, or the balls or points ahead."""
    if worth.p is None:
        return "–"
    return f"{'+' if worth.p >= 0 else '−'}{abs(worth.p):.1f}" if ahead else f"{100 * worth.p:.1f} %"


def spread_words(worth: Rate, *, ahead: bool) -> str:
    half = (worth.high - worth.low) / 2
    return f"± {half if ahead else 100 * half:.1f}, n {worth.n}"


def plan_as_data(plan: Plan) -> dict[str, Any]:
    return {
        "order": [_entry(entry) for entry in plan.order],
        "key_shot": plan.key_shot,
        "run_out": asdict(plan.run_out),
        "break_ball": plan.break_ball,
        "key_ball": plan.key_ball,
        "key_chain": list(plan.key_chain),
        "horizon": plan.horizon,
        "instead": [{**asdict(one), "value": rate_as_data(one.value)} for one in plan.instead],
        "groups": [{**asdict(one), "run": rate_as_data(one.run)} for one in plan.groups],
        "break_shots": [_break_shot(one) for one in plan.break_shots],
    }


def _entry(entry: Entry) -> dict[str, Any]:
    angle = entry.angle
    return {
        "ball": entry.ball,
        "pocket": entry.pocket,
        "stroke": stroke_as_data(entry.stroke) if entry.stroke else None,
        "stroke_words": words_of(entry.stroke) if entry.stroke else _no_way(entry),
        "zone": area_as_data(entry.zone, entry.place),
        "value": entry.value.p or 0.0,
        "value_rate": rate_as_data(entry.value),
        "place": list(entry.place),
        "pot": entry.pot,
        "cut_angle_deg": angle.degrees if angle else None,
        "cut_side": angle.side if angle else None,
        "straight": angle.straight if angle else None,
        "harmless": asdict(entry.harmless) if entry.harmless else None,
    }


def _break_shot(found: BreakMap) -> dict[str, Any]:
    place, pot, opened, follows, scratch = found.best()
    least = found.least_angle
    return {
        "ball": found.ball, "into": list(found.into), "place": list(place), "pot": pot, "opened": opened,
        "next_pot": follows, "scratch": scratch, "n": PLAYED,
        "least_angle_deg": None if least is None else math.degrees(least),
    }  # fmt: skip


def _no_way(entry: Entry) -> str:
    return "once the cluster is opened" if entry.value.p else "no way found"


def area_as_data(area: Area | None, place: tuple[float, float]) -> dict[str, Any]:
    """A zone; where none was found an empty one about the planned place."""
    if area is None:
        return {"centre": list(place), "area": 0.0, "outline": [], "grade": None}
    return {
        "centre": list(area.centre),
        "area": area.area,
        "outline": [list(point) for point in area.outline],
        "grade": area.grade,
    }


def rate_as_data(rate: Rate) -> dict[str, Any]:
    return asdict(rate)


def maps_as_data(grid: Grid, maps: Sequence[tuple[str | None, Floats, Floats]]) -> list[dict[str, Any]]:
    """The position maps: one a ball in rotation games, one for whatever is on in the others.

    `run` and `win` hold the grid's values column by column of constant x; `x` and `y` are its first and last
    places.
    """
    return [_map(ball, grid, run, worth) for ball, run, worth in maps]


def _map(ball: str | None, grid: Grid, run: Floats, worth: Floats) -> dict[str, Any]:
    return {
        "ball": ball,
        "columns": grid.columns,
        "rows": grid.rows,
        "x": [float(grid.xs[0]), float(grid.xs[-1])],
        "y": [float(grid.ys[0]), float(grid.ys[-1])],
        "run": np.round(run.ravel(), 4).tolist(),
        "win": np.round(worth.ravel(), 4).tolist(),
        "best": best_value(run),
        "zones": [
            {"grade": grade, "outline": [list(point) for point in area.outline], "area": area.area}
            for grade in GRADES
            for area in areas(grid, run, grade)
        ],
    }


def trouble_as_data(trouble: TableTrouble) -> dict[str, Any]:
    return {
        "problem_balls": [asdict(problem) for problem in trouble.problem_balls],
        "clusters": [
            {
                "balls": list(one.balls),
                "needed": one.needed,
                "openings": [
                    {
                        "ball": o.ball,
                        "stroke": stroke_as_data(o.stroke),
                        "chance": asdict(o.chance),
                        "struck": o.struck,
                        "met": asdict(o.met) if o.met else None,
                        "next": asdict(o.next),
                    }
                    for o in one.openings
                ],
                "any_works": one.any_works,
                "insurance": list(one.insurance),
                "break_shots": [_break_shot(found) for found in one.breaks],
            }
            for one in trouble.clusters
        ],
        "nudges": [
            {**asdict(one), "stroke": stroke_as_data(one.stroke), "met": asdict(one.met) if one.met else None}
            for one in trouble.nudges
        ],
    }
