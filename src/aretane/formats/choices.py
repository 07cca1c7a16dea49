"""Options and plans as data: the answers of `options` and `plan`, and of the pages."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from aretane.core.planning.options import Option, Options, landing_of
from aretane.core.planning.plan import Entry, Plan
from aretane.core.planning.zone import Area
from aretane.core.statistics.rates import Rate
from aretane.formats.stroke import stroke_as_data


def options_as_data(found: Options, discipline: str) -> dict[str, Any]:
    """All choices, best first. In straight pool nobody wins a rack: `win` is null and `ahead` says by how many balls."""
    straight = discipline == "straight-pool"
    return {
        "options": [option_as_data(option, straight=straight) for option in found.options],
        "best_attack": found.best_attack,
        "best_safety": found.best_safety,
        "break_even_pot": found.break_even_pot,
        "horizon": found.horizon,
    }


def option_as_data(option: Option, *, straight: bool) -> dict[str, Any]:
    value = option.value
    leaves = value.leaves
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
        "win": None if straight else asdict(value.win),
        "opponent_next": asdict(value.opponent_next),
        "why": option.why,
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
    if straight:
        data["ahead"] = asdict(value.win)
    return data


def plan_as_data(plan: Plan) -> dict[str, Any]:
    return {
        "order": [_entry(entry) for entry in plan.order],
        "key_shot": plan.key_shot,
        "run_out": asdict(plan.run_out),
        "break_ball": plan.break_ball,
        "key_ball": plan.key_ball,
        "key_chain": list(plan.key_chain),
        "horizon": plan.horizon,
    }


def _entry(entry: Entry) -> dict[str, Any]:
    angle = entry.angle
    return {
        "ball": entry.ball,
        "pocket": entry.pocket,
        "stroke": stroke_as_data(entry.stroke) if entry.stroke else None,
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
