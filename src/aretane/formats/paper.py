"""Counts from a sheet of paper: CSV with one line a player and day, taken in as results without layouts."""

from __future__ import annotations

import csv
import io
from datetime import date

from aretane.core.errors import InputError
from aretane.core.rules.traits import TRAITS
from aretane.core.statistics.question import Count
from aretane.core.words import SESSIONS

TOLD = ("date", "player", "opponent", "game", "session")
COUNTS = {  # a measure by its good ones and the others
    "pots": ("pots made", "pots missed"),
    "safeties": ("safeties held", "safeties attacked"),
    "chances": ("chances converted", "chances missed"),
}
HEADER = (*TOLD, *(name for pair in COUNTS.values() for name in pair))
MOST_LINES, MOST = 20_000, 10_000


def counts_from(data: bytes) -> list[Count]:
    """Every count of the sheet. Raises `InputError` that names the first line which cannot be."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError("file", "is not a text file in UTF-8") from None
    reader = csv.DictReader(io.StringIO(text, newline=""))
    missing = [name for name in ("date", "player", "game") if name not in (reader.fieldnames or ())]
    unknown = [name for name in reader.fieldnames or () if name not in HEADER]
    if missing or unknown:
        wrong = f"lacks {', '.join(missing)}" if missing else f"has {', '.join(map(str, unknown[:5]))}"
        raise InputError("line 1", f"{wrong}; the columns are {', '.join(HEADER)}")
    found: list[Count] = []
    for number, line in enumerate(reader, start=2):
        if number > MOST_LINES:
            raise InputError(f"line {number}", f"a sheet has at most {MOST_LINES} lines")
        found += _of_line(number, line)
    if not found:
        raise InputError("file", "has no line with a count")
    return found


def _of_line(number: int, line: dict[str, str | None]) -> list[Count]:
    def told(name: str) -> str:
        return (line.get(name) or "").strip()

    where = f"line {number}"
    try:
        day = date.fromisoformat(told("date"))
    except ValueError:
        raise InputError(where, f"“{told('date')}” is no date; write it as 2026-11-28") from None
    if not told("player") or len(told("player")) > 100 or len(told("opponent")) > 100:
        raise InputError(where, "says no player, or a name longer than 100 letters")
    game, session = told("game"), told("session") or "match"
    if game not in TRAITS:
        raise InputError(where, f"“{game}” is no game; there are {', '.join(TRAITS)}")
    if session not in SESSIONS:
        raise InputError(where, f"“{session}” is no session; there are {', '.join(SESSIONS)}")
    found = []
    for measure, names in COUNTS.items():
        if not any(told(name) for name in names):
            continue
        good, bad = (_number(where, name, told(name)) for name in names)
        found.append(
            Count(
                told("player"), told("opponent") or None, day.isoformat(), game, session, measure, good + bad, good
            )
        )
    return found


def _number(where: str, name: str, words: str) -> int:
    if not words.isdecimal() or int(words) > MOST:
        raise InputError(where, f"“{words}” is no number of {name}")
    return int(words)
