"""The layout format, version 1."""

from __future__ import annotations

from typing import Any

from aretane.core.layout import Layout, State, check
from aretane.core.table import table_as_data, table_from
from aretane.formats.schema import parse, validate


def read_layout(raw: bytes) -> Layout:
    """A checked layout from a file's bytes; `InputError` names the field that is wrong."""
    return layout_from(parse(raw))


def layout_from(data: Any) -> Layout:
    validate("layout", data)
    given = data.get("state") or {}
    known = {key: given[key] for key in State.__dataclass_fields__ if given.get(key) is not None}
    known["ball_in_hand"] = given.get("ball_in_hand") or None
    known["touching"] = tuple((a, b) for a, b in given.get("touching") or ())
    balls = {ball: (float(x), float(y)) for ball, (x, y) in data["balls"].items()}
    return check(Layout(table_from(data["table"]), data["discipline"], balls, State(**known)))


def layout_as_data(layout: Layout) -> dict[str, Any]:
    """The inverse of `layout_from`."""
    state = layout.state
    return {
        "format": "aretane-layout",
        "version": 1,
        "table": table_as_data(layout.table),
        "discipline": layout.discipline,
        "balls": {ball: list(place) for ball, place in layout.balls.items()},
        "state": {
            "player": state.player,
            "ball_in_hand": state.ball_in_hand or False,
            "group": state.group,
            "on": state.on,
            "push_out_allowed": state.push_out_allowed,
            "fouls": dict(state.fouls),
            "points": dict(state.points),
            "racks": dict(state.racks),
            "free_ball": state.free_ball,
            "touching": [list(pair) for pair in state.touching],
        },
    }
