"""A table as it is drawn: measures, spots, pockets, and the marks by which a camera knows it."""

from __future__ import annotations

from typing import Any

from aretane.core.rules.traits import d_radius, made_for
from aretane.core.table import Table
from aretane.draw.shapes import plan
from aretane.vision.table.marks import mark_places


def table_as_answer(table: Table) -> dict[str, Any]:
    own = made_for(table)
    spots = own is not None and bool(own.returns)
    return {
        "name": table.name,
        "length": table.length,
        "width": table.width,
        "radius": table.radius,
        "cue_radius": table.cue_radius,
        "nose_height": table.nose_height,
        "head_line": table.head_line,
        "foot_spot": table.foot_spot,
        "d_radius": d_radius(table) if spots else None,
        "pockets": [
            {
                "name": pocket.name,
                "tips": pocket.tips,
                "mouth": pocket.mouth,
                "axis": pocket.axis,
                "drop": pocket.drop,
                "width": pocket.mouth_width,
            }
            for pocket in table.pockets.values()
        ],
        "marks": mark_places(table),
        "plan": [vars(shape) for shape in plan(table)],
    }
