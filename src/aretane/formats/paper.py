"""Counts from a sheet of paper: CSV with one line a player and day, taken in as results without layouts."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence
from datetime import date, timedelta

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
MOST_LINES, MOST, LONGEST = 20_000, 10_000, 100
FIRST = date(1900, 1, 1)

Line = dict[str, str | None]


def counts_from(data: bytes) -> list[Count]:
    """Every count of the sheet. Raises `InputError` that names the first line which cannot be."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError("file", "is not a text file in UTF-8") from None
    found: dict[tuple[object, ...], tuple[int, Count]] = {}
    try:
        for number, line in enumerate(_lines(text), start=2):
            for count in _of_line(number, line):
                same = (count.player, count.opponent, count.day, count.discipline, count.session, count.measure)
                if same in found:
                    raise InputError(f"line {number}", f"tells the {count.measure} of line {found[same][0]} again")
                found[same] = number, count
    except csv.Error:
        raise InputError("file", "is no table: a field has no end") from None
    if not found:
        raise InputError("file", "has no line with a count")
    return [count for _, count in found.values()]


def _lines(text: str) -> Iterator[Line]:
    """The lines below the header, which is checked; spreadsheets of some countries write semicolons for commas."""
    head = text.partition("\n")[0]
    reader = csv.DictReader(io.StringIO(text, newline=""), delimiter=";" if ";" in head else ",")
    names = reader.fieldnames or ()
    if wrong := _wrong_head(names):
        raise InputError("line 1", f"{wrong[:LONGEST]}; the columns are {', '.join(HEADER)}")
    for number, line in enumerate(reader, start=2):
        if number > MOST_LINES:
            raise InputError(f"line {number}", f"a sheet has at most {MOST_LINES} lines")
        if None in line:
            raise InputError(f"line {number}", "has more fields than the header")
        yield line


def _wrong_head(names: Sequence[str]) -> str:
    """What is wrong with the columns, '' if nothing is."""
    if missing := [name for name in ("date", "player", "game") if name not in names]:
        return f"lacks {', '.join(missing)}"
    if unknown := [name for name in names if name not in HEADER]:
        return f"has {', '.join(unknown)}"
    return next((f"has {name} twice" for name in names if names.count(name) > 1), "")


def _of_line(number: int, line: Line) -> list[Count]:
    def told(name: str) -> str:
        return (line.get(name) or "").strip()

    where = f"line {number}"
    day = _day(where, told("date"))
    people = [name for name in (told("player"), told("opponent")) if name]
    if not told("player") or not all(len(name) <= LONGEST and name.isprintable() for name in people):
        raise InputError(where, f"says no player, or a name of other than at most {LONGEST} letters")
    if told("player") == told("opponent"):
        raise InputError(where, f"{told('player')} does not play against {told('opponent')}")
    game, session = told("game"), told("session") or "match"
    if game not in TRAITS:
        raise InputError(where, f"“{game[:LONGEST]}” is no game; there are {', '.join(TRAITS)}")
    if session not in SESSIONS:
        raise InputError(where, f"“{session[:LONGEST]}” is no session; there are {', '.join(SESSIONS)}")
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


def _day(where: str, words: str) -> date:
    try:
        day = date.fromisoformat(words)
    except ValueError:
        raise InputError(where, f"“{words[:LONGEST]}” is no date; write it as 2026-11-28") from None
    if not FIRST <= day <= date.today() + timedelta(days=1):  # somewhere it is tomorrow already
        raise InputError(where, f"{day.isoformat()} is no day on which anybody has played")
    return day


def _number(where: str, name: str, words: str) -> int:
    if not words.isdecimal() or int(words) > MOST:
        raise InputError(where, f"“{words[:LONGEST]}” is no number of {name}")
    return int(words)
