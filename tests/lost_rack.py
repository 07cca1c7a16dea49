"""A rack that was lost in three shots, small enough to be judged within a test."""

from __future__ import annotations

from typing import Any


def lost_rack(**header: Any) -> dict[str, Any]:
    """A pots the eight and leaves himself long on the nine; he misses it by much, B has it before the pocket."""
    eight = {"cue": [1.2, 0.5], "8": [1.9, 0.95], "9": [0.5, 0.2]}
    nine = {"cue": [2.3, 0.4], "9": [0.5, 0.2]}
    left = {"cue": [0.9, 0.5], "9": [0.12, 0.16]}
    first = {"8": ("8", "foot-left")}
    shots = [
        _shot("A", first["8"], eight, nine, ["8"]),
        _shot("A", ("9", "head-right"), nine, left, []),
        _shot("B", ("9", "head-right"), left, {"cue": [0.5, 0.4]}, ["9"]),
    ]
    shots[0]["layout_before"]["state"] = {"player": "A"}
    return {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "table": "pool-9ft", "session": "match",
        "title": "A rack let go", "players": {"A": {"name": "Odile Brant"}, "B": {"name": "Piers Coombe"}},
        "racks": [{"breaker": "A", "shots": shots}], **header,
    }  # fmt: skip


def _shot(player: str, called: tuple[str, str], before: Any, after: Any, fell: list[str]) -> dict[str, Any]:
    return {
        "player": player, "kind": "pot", "intent": "attack", "intent_source": "stated",
        "called": {"ball": called[0], "pocket": called[1]}, "layout_before": {"balls": before},
        "layout_after": {"balls": after}, "first_contact": called[0], "rails_after_contact": 1,
        "potted": [{"ball": ball, "pocket": called[1]} for ball in fell],
    }  # fmt: skip
