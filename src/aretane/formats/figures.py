"""Figures of matches as data: the answer of `figures`."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, is_dataclass
from typing import Any

import orjson

from aretane.core.errors import InputError
from aretane.core.review.replay import Replay, replay
from aretane.core.rules.referee import referee
from aretane.core.statistics.match_sheet import sheets

Data = Mapping[str, Any]


def figures_of(
    matches: Sequence[tuple[str, Data]], session: str | None = None, discipline: str | None = None,
    player: str | None = None,
) -> dict[str, Any]:  # fmt: skip
    """Every player's figures from (file, match). Games and session types are never mixed unasked: where there are
    several, `discipline` and `session` choose, else it is an `InputError`; so is a match that cannot have happened,
    and a player who is in none.
    """
    chosen = [(file, match) for file, match in matches if discipline in (None, match["discipline"])]
    chosen = [(file, match) for file, match in chosen if session in (None, session_of(match))]
    if not chosen:
        raise InputError("--discipline" if discipline else "--session", "no match is of this kind")
    _no_match_twice(chosen)
    _one_of("--discipline", {match["discipline"] for _, match in chosen})
    _one_of("--session", {session_of(match) for _, match in chosen})
    for file, match in chosen:
        try:
            referee(match)
        except InputError as problem:
            raise InputError(f"{file}: {problem.field}", problem.message) from None
    found = sheets_as_data([(match, replay(match)) for _, match in chosen])
    if player is None:
        return found
    if player not in found["players"]:
        names = ", ".join(found["players"])
        raise InputError("--player", f"nobody of that name is in these matches; there are {names}")
    return {"players": {player: found["players"][player]}}


def sheets_as_data(matches: Sequence[tuple[Data, Replay]]) -> dict[str, Any]:
    return {"players": {name: _plain(sheet.figures()) for name, sheet in sheets(matches).items()}}


def session_of(match: Data) -> str:
    return str(match.get("session") or "match")


def _no_match_twice(matches: Sequence[tuple[str, Data]]) -> None:
    """A match that was named twice, or copied, would count twice."""
    seen: dict[bytes, str] = {}
    for file, match in matches:
        told = orjson.dumps([match["racks"], match.get("players")], option=orjson.OPT_SORT_KEYS)
        if match["racks"] and told in seen:
            raise InputError(file, f"is the same match as {seen[told]}")
        seen[told] = file


def _one_of(option: str, kinds: set[str]) -> None:
    if len(kinds) > 1:
        raise InputError(option, f"these matches are of several kinds: {', '.join(sorted(kinds))}; choose one")


def _plain(value: Any) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        return asdict(value)
    return {key: _plain(one) for key, one in value.items()} if isinstance(value, dict) else value
