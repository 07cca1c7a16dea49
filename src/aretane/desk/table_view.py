"""A table as it is drawn: measures, spots, pockets, and the marks by which a camera knows it."""

from __future__ import annotations

from typing import Any

from aretane.core.rack import D_RADIUS, colour_spots
from aretane.core.table import Table
from aretane.vision.marks import mark_places

SNOOKER_TABLE = "snooker-12ft"
BAULK_TABLES = (SNOOKER_TABLE, "blackball-7ft")  # whose players say baulk and top, not head and foot


def table_as_answer(table: Table) -> dict[str, Any]:
    snooker = table.name == SNOOKER_TABLE
    return {
        "name": table.name,
        "length": table.length,
        "width": table.width,
        "radius": table.radius,
        "cue_radius": table.cue_radius,
        "nose_height": table.nose_height,
        "head_line": table.head_line,
        "foot_spot": table.foot_spot,
        "spots": list(colour_spots(table).values()) if snooker else [(table.foot_spot, table.width / 2)],
        "d_radius": D_RADIUS if snooker else None,
        "ends": ("baulk", "top") if table.name in BAULK_TABLES else ("head", "foot"),
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
    }
