"""The match format, version 1: a score sheet and a fully reviewed match are the same file."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import ImpossibleMatch, InputError
from aretane.core.geometry.zone import zones_of
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.rules.coach_word import as_the_coachs_word, impossible_places
from aretane.core.rules.options import check_options
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.table import Table, table_from
from aretane.formats.schema import parse, validate

ALONE = ("solo", "both-sides")  # sessions of one person
MOST_ENTRIES = 5000  # of a match: a race to 60 has about 2,000


def read_match(raw: bytes, *, keep: bool = False) -> dict[str, Any]:
    """A checked match from a file's bytes. Impossible entries are `ImpossibleMatch`, every one named; with `keep`
    they stand as the coach's word instead."""
    data = parse(raw)
    _check_length(data)
    match = match_from(data)
    places = impossible_places(match)
    if places and not keep:
        raise ImpossibleMatch(places)
    return as_the_coachs_word(match) if places else match


def _check_length(data: Any) -> None:
    """A season is a file a match: what is longer than any match is not gone through."""
    racks = data.get("racks") if isinstance(data, dict) else None
    every = [rack.get("shots") for rack in racks if isinstance(rack, dict)] if isinstance(racks, list) else []
    entries = sum(len(shots) for shots in every if isinstance(shots, list))
    if entries > MOST_ENTRIES:
        raise InputError("racks", f"{entries} entries are more than a match has ({MOST_ENTRIES} at most)")


def match_from(data: Any) -> dict[str, Any]:
    """A match whose form is right: balls, pockets, places and players exist. The rules come after."""
    validate("match", data)
    table = table_from(data.get("table", "pool-9ft"))
    check_options(data["discipline"], data.get("rules") or {})
    _check_handicap(data)
    for path, rack in _numbered("racks", data["racks"]):
        for place, shot in _numbered(f"{path}.shots", rack["shots"]):
            check_shot(data["discipline"], table, shot, place)
    start = (data.get("start") or {}).get("layout")
    _check_layout(data["discipline"], table, start, "start.layout")
    return dict(data)


def _check_handicap(data: dict[str, Any]) -> None:
    """Who begins where the race ends has won before the first break."""
    race, rules = data.get("race_to"), data.get("rules") or {}
    for side in ("a", "b"):
        ahead = rules.get(f"handicap_{side}") or 0
        if race and traits_of(data["discipline"]).counts != FRAMES and ahead >= race:
            raise InputError(f"rules.handicap_{side}", f"{ahead} is no handicap in a race to {race}")


def check_people(data: dict[str, Any]) -> None:
    """Two sides that are told apart: figures take equal names for one person."""
    players = data.get("players") or {}
    names = {side: str((players.get(side) or {}).get("name") or "").strip() for side in ("A", "B")}
    alone = data.get("session") in ALONE
    for side in "A" if alone else "AB":
        if side in players and "name" in players[side] and not names[side]:
            raise InputError(f"players.{side}.name", "is empty")
    same = names["A"] and names["A"].casefold() == names["B"].casefold()
    if same and not alone:
        raise InputError("players.B.name", "is the same as A's: two players need two names")


def check_shot(discipline: str, table: Table, shot: dict[str, Any], path: str = "shot") -> None:
    """Raise `InputError` for a shot that names balls or places that do not exist."""
    known = {CUE, *OBJECT_BALLS[discipline]}
    called = shot.get("called")
    named = [(f"{path}.called.ball", called["ball"])] if called else []
    named += [(f"{p}.ball", entry["ball"]) for p, entry in _numbered(f"{path}.potted", shot.get("potted"))]
    named += list(_numbered(f"{path}.off_table", shot.get("off_table")))
    named += [(f"{path}.targets", ball) for ball in shot.get("targets") or ()]
    if shot.get("first_contact"):
        named.append((f"{path}.first_contact", shot["first_contact"]))
    named += list(_numbered(f"{path}.state.standing", (shot.get("state") or {}).get("standing")))
    for place, ball in named:
        if ball not in known:
            raise InputError(place, f"{discipline} has no ball {ball!r}")
    _check_times(shot.get("time") or {}, f"{path}.time")
    for key in ("layout_before", "layout_after"):
        _check_layout(discipline, table, shot.get(key), f"{path}.{key}")
    for ball, target in (shot.get("targets") or {}).items():
        try:
            zones_of(target)
        except InputError as problem:
            raise InputError(f"{path}.targets.{ball}.{problem.field}", problem.message) from None


def _check_times(time: dict[str, Any], path: str) -> None:
    """A still picture, the contact, everything at rest again: in this order."""
    given = [(key, time[key]) for key in ("start", "contact", "still") if time.get(key) is not None]
    for (earlier, before), (later, after) in pairwise(given):
        if after < before:
            raise InputError(f"{path}.{later}", f"{after:g} s is before the {earlier} at {before:g} s")


def _check_layout(discipline: str, table: Table, layout: dict[str, Any] | None, path: str) -> None:
    """A layout inside a match may be incomplete, but what it says must be possible."""
    balls = {ball: (float(x), float(y)) for ball, (x, y) in ((layout or {}).get("balls") or {}).items()}
    known = {CUE, *OBJECT_BALLS[discipline]}
    for ball, at in balls.items():
        if ball not in known:
            raise InputError(f"{path}.balls.{ball}", f"{discipline} has no such ball")
        if not on_table(table, at, table.radius_of(ball)):
            raise InputError(f"{path}.balls.{ball}", f"({at[0]:g}, {at[1]:g}) is off the table")
    overlap = first_overlap(Layout(table, discipline, balls))
    if overlap:
        raise InputError(f"{path}.balls.{overlap[0]}", f"overlaps ball {overlap[1]}")


def _numbered(path: str, items: Any) -> Iterator[tuple[str, Any]]:
    for number, item in enumerate(items or ()):
        yield f"{path}[{number}]", item
