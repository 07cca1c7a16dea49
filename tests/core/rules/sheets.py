"""Score sheets in short: entries of the match format as a scorer would jot them down."""

from __future__ import annotations

from typing import Any

from aretane.core.rules.referee import RackResult, referee

POCKET = "foot-left"
TABLES = {"snooker": "snooker-12ft", "blackball": "blackball-7ft"}


def entry(player: str, potted: str = "", **facts: Any) -> dict[str, Any]:
    """A stroke; `potted` lists balls, `call` the called one with its pocket ("8", "8 side-left")."""
    made = [{"ball": ball, "pocket": POCKET} for ball in potted.split()]
    shot: dict[str, Any] = {"player": player, "kind": "pot", "potted": made, **facts}
    if "call" in shot:
        ball, _, pocket = shot.pop("call").partition(" ")
        shot["called"] = {"ball": ball, "pocket": pocket or POCKET}
    return shot


def called(player: str, ball: str, also: str = "", **facts: Any) -> dict[str, Any]:
    """A called ball made as called, and what fell with it."""
    return entry(player, f"{ball} {also}", call=ball, first_contact=ball, **facts)


def brk(player: str, potted: str = "", **facts: Any) -> dict[str, Any]:
    return entry(player, potted, **{"kind": "break", "object_balls_to_rail": 5, **facts})


def choice(player: str, word: str, **facts: Any) -> dict[str, Any]:
    return {"player": player, "declared": word, **facts}


def match(discipline: str, *racks: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
    return {
        "format": "aretane-match",
        "version": 1,
        "discipline": discipline,
        "table": TABLES.get(discipline, "pool-9ft"),
        "racks": [{"shots": rack} for rack in racks],
        **more,
    }


def rack(discipline: str, *entries: dict[str, Any], **more: Any) -> RackResult:
    """The referee's sheet of one rack."""
    return referee(match(discipline, list(entries), **more)).racks[0]


def says(result: RackResult, at: int = -1) -> tuple[str | None, str | None, str | None]:
    """Foul, who acts next, and where the cue ball may be put, after an entry (the last one)."""
    ruling = result.rulings[at]
    return ruling.foul, ruling.next, None if ruling.after.winner else ruling.after.in_hand
