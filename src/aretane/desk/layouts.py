"""A layout as a page asks about it."""

from __future__ import annotations

from typing import Any

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.formats.layout import layout_from


def asked_layout(
    table: Any, discipline: str, balls: dict[str, tuple[float, float]], state: dict[str, Any] | None
) -> Layout:
    """Checked; without a cue ball somebody has it in hand. Raises `InputError`."""
    said = {**(state or {})}
    if CUE not in balls:
        said.setdefault("ball_in_hand", "anywhere")
    return layout_from(
        {
            "format": "aretane-layout",
            "version": 1,
            "table": table,
            "discipline": discipline,
            "balls": {ball: list(place) for ball, place in balls.items()},
            "state": said,
        }
    )
