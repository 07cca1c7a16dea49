"""A layout read, and the disciplines with their options."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from aretane.core.geometry.clearance import Gap, gaps, mover_at
from aretane.core.geometry.measured import measure_shot, measure_table, measured_as_data
from aretane.core.geometry.plane import angle_to_rail, area_of
from aretane.core.geometry.uncertainty import shot_spread
from aretane.core.layout import Layout
from aretane.core.review.position import HAND_PLACED
from aretane.core.rules.disciplines import legal_first
from aretane.core.rules.option_words import ASKED
from aretane.core.rules.options import OPTIONS, Option
from aretane.core.rules.traits import made_for, traits_of
from aretane.core.table import PRESETS, Point
from aretane.draw.drawn import AREA, CIRCLE
from aretane.draw.shapes import Shape, pot


def read(layout: Layout) -> dict[str, Any]:
    """Every ball into every pocket, clusters, what is on."""
    return measured_as_data(layout, measure_table(layout, legal_first(layout)))


def spread_of(
    layout: Layout, ball: str | None, pocket: str | None, sigma: Mapping[str, float]
) -> dict[str, Any] | None:
    """How far a pot's figures are off when the places are, what stands beside its ways; None without such a pot."""
    if ball not in layout.object_balls or pocket not in layout.table.pockets:
        return None
    found = shot_spread(layout, str(ball), str(pocket), _known(layout, sigma))
    return {
        "cut_angle_deg": math.degrees(found.cut_angle) if found.cut_angle is not None else None,
        "cue_distance": found.cue_distance,
        "pocket_distance": found.pocket_distance,
        "open": found.open,
        "visible": found.visible,
        "beside_cue": [_told(gap) for gap in found.beside_cue],
        "beside_object": [_told(gap) for gap in found.beside_object],
    }


def measured(
    layout: Layout, drawings: Sequence[Mapping[str, Any]], sigma: Mapping[str, float]
) -> list[dict[str, Any]]:
    """What is drawn by hand, measured: of a line its length, its angle to the long rail and the gaps beside it, of
    a circle its radius, of what is closed its area."""
    return [_measured(layout, one["kind"], one["points"], _known(layout, sigma)) for one in drawings]


def _measured(layout: Layout, kind: str, points: Sequence[Point], sigma: Mapping[str, float]) -> dict[str, Any]:
    start, end = points[0], points[-1]
    line, length = kind not in (CIRCLE, AREA), math.dist(start, end)
    area = {CIRCLE: math.pi * length**2, AREA: area_of(points)}.get(kind)
    return {
        "length": None if kind == AREA else length,
        "angle_deg": math.degrees(angle_to_rail(start, end)) if line else None,
        "area": area,
        "mover": mover_at(layout, start) if line else None,
        "gaps": [_told(gap) for gap in gaps(layout, start, end, sigma)] if line else [],
    }


def _known(layout: Layout, sigma: Mapping[str, float]) -> dict[str, float]:
    return {ball: sigma.get(ball, HAND_PLACED) for ball in layout.balls}


def _told(gap: Gap) -> dict[str, Any]:
    return {"what": gap.what, "gap": gap.gap, "plus_minus": gap.plus_minus, "verdict": gap.verdict}


def drawn(layout: Layout, ball: str | None, pocket: str | None) -> list[Shape]:
    """What is drawn for that pot; nothing where there is none."""
    if ball not in layout.object_balls or pocket not in layout.table.pockets:
        return []
    return pot(layout, measure_shot(layout, str(ball), str(pocket)))


def disciplines() -> list[dict[str, Any]]:
    """The disciplines with the options of their rules and the tables that they are played on."""
    return [
        {"name": name, "tables": _tables(name), "options": [_option(option) for option in options]}
        for name, options in OPTIONS.items()
    ]


def _option(option: Option) -> dict[str, Any]:
    asks, says = ASKED[option.name]
    return {**asdict(option), "asks": asks, "says": dict(says)}


def _tables(discipline: str) -> list[str]:
    """The discipline's own table first, then the others that its balls fit."""
    own = traits_of(discipline).table
    return [own] if own else [name for name, table in PRESETS.items() if made_for(table) is None]
