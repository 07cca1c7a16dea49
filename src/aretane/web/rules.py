"""The disciplines with the options of their rules, for the page on which a match is begun."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from apiflask import APIBlueprint

from aretane.core.rules.options import OPTIONS
from aretane.core.table import PRESETS
from aretane.web.game_schemas import DisciplineList

blueprint = APIBlueprint("rules", __name__, url_prefix="/api", tag="rules")

_OWN_TABLE = {"snooker": "snooker-12ft", "blackball": "blackball-7ft"}


@blueprint.get("/disciplines")
@blueprint.output(DisciplineList)
def disciplines() -> dict[str, Any]:
    return {
        "disciplines": [
            {"name": name, "tables": _tables(name), "options": [asdict(option) for option in options]}
            for name, options in OPTIONS.items()
        ]
    }


def _tables(discipline: str) -> list[str]:
    """The discipline's own table first, then the others that its balls fit."""
    if discipline in _OWN_TABLE:
        return [_OWN_TABLE[discipline]]
    return [name for name in PRESETS if name not in _OWN_TABLE.values()]
