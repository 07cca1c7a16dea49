"""A layout read, and the disciplines with their options."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from aretane.core.geometry.measured import measure_shot, measure_table, measured_as_data
from aretane.core.geometry.uncertainty import shot_spread
from aretane.core.layout import Layout
from aretane.core.review.position import HAND_PLACED
from aretane.core.rules.disciplines import legal_first
from aretane.core.rules.options import OPTIONS
from aretane.core.rules.traits import made_for, traits_of
from aretane.core.table import PRESETS
from aretane.draw.shapes import Shape, pot


def read(layout: Layout) -> dict[str, Any]:
    """Every ball into every pocket, clusters, what is on."""
    return measured_as_data(layout, measure_table(layout, legal_first(layout)))


def spread_of(
    layout: Layout, ball: str | None, pocket: str | None, sigma: Mapping[str, float]
) -> dict[str, Any] | None:
    """How far cut angle and ways are off when the places are, one standard deviation; None without such a pot."""
    if ball not in layout.object_balls or pocket not in layout.table.pockets:
        return None
    every = {one: sigma.get(one, HAND_PLACED) for one in layout.balls}
    found = shot_spread(layout, str(ball), str(pocket), every)
    return {
        "cut_angle_deg": math.degrees(found.cut_angle) if found.cut_angle is not None else None,
        "cue_distance": found.cue_distance,
        "pocket_distance": found.pocket_distance,
    }


def drawn(layout: Layout, ball: str | None, pocket: str | None) -> list[Shape]:
    """What is drawn for that pot; nothing where there is none."""
    if ball not in layout.object_balls or pocket not in layout.table.pockets:
        return []
    return pot(layout, measure_shot(layout, str(ball), str(pocket)))


def disciplines() -> list[dict[str, Any]]:
    """The disciplines with the options of their rules and the tables that they are played on."""
    return [
        {"name": name, "tables": _tables(name), "options": [asdict(option) for option in options]}
        for name, options in OPTIONS.items()
    ]


def _tables(discipline: str) -> list[str]:
    """The discipline's own table first, then the others that its balls fit."""
    own = traits_of(discipline).table
    return [own] if own else [name for name, table in PRESETS.items() if made_for(table) is None]
