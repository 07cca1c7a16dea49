"""A moment of a ledger in words: what was played, what was better, what it cost. For reports and clips."""

from __future__ import annotations

import math
from typing import Any

from aretane.core.table import Point

Data = dict[str, Any]

SURE = 1.96
PARTS = ("decision", "pot", "position", "luck")
WORDS = {"decision": "decisions", "pot": "potting", "position": "position", "luck": "luck"}


def cost_of(entry: Data) -> float:
    """What a shot lost by what its player answers for."""
    return -math.fsum(entry[part] for part in ("decision", "pot", "position") if entry[part] is not None)


def gain_of(entry: Data) -> float:
    """What a shot won by how it was played, whatever its choice cost."""
    return math.fsum(entry[part] for part in ("pot", "position") if entry[part] is not None)


def spread_of(entry: Data) -> float:
    return math.hypot(*(entry["error"][part] or 0.0 for part in ("decision", "pot", "position")))


def is_told(entry: Data) -> bool:
    """Whether it cost more than its ±: less is not called an error."""
    return cost_of(entry) > max(1e-6, SURE * spread_of(entry))


def amount(value: float, points: bool) -> str:
    sign = "+" if value > 0 else "−" if value < 0 else ""
    return f"{sign}{abs(100 * value):.0f} points" if points else f"{sign}{abs(value):.1f} balls"


def with_error(value: float, half: float, points: bool) -> str:
    return amount(value, points).replace(" ", f" ± {100 * half:.0f} " if points else f" ± {half:.1f} ")


def cost_words(entry: Data, points: bool) -> str:
    return with_error(-cost_of(entry), SURE * spread_of(entry), points)


def choice_lines(entry: Data, points: bool) -> list[str]:
    """What was played and what was better, each with its chance and worth."""
    lines = []
    for label, key, worth in (("Played", "played", "chosen"), ("Better", "better", "before")):
        choice = entry[key]
        if choice is not None and not as_good(entry, key):
            pot = "" if choice["pot"] is None else f", pot {choice['pot']:.0%}"
            value = f"{entry[worth]:.0%}" if points else f"{entry[worth]:.1f} balls"
            lines.append(f"{label}: {choice['words']['title']}, {choice['words']['stroke']}{pot}; worth {value}.")
    return lines


def part_words(entry: Data, points: bool) -> str:
    told = [f"{WORDS[part]} {amount(entry[part], points)}" for part in PARTS if entry[part] is not None]
    return ", ".join(told) + "."


def way_of(entry: Data, key: str) -> tuple[Point, ...]:
    """The cue ball's way of what was `played` or `better`; nothing where that is the same or not known."""
    choice = entry[key]
    if choice is None or len(choice["path"]) < 2 or as_good(entry, key):
        return ()
    return tuple((float(x), float(y)) for x, y in choice["path"])


def as_good(entry: Data, key: str) -> bool:
    """Whether nothing better is known: it is what was played, or what it is worth more is within its ±."""
    decision, error = entry["decision"], entry["error"]["decision"]
    return key == "better" and decision is not None and decision >= -SURE * (error or 0.0)
