"""For whom something is asked or written: a club, one of its authors, and what he may do."""

from __future__ import annotations

from dataclasses import dataclass

EVERYTHING = frozenset({"read", "write"})


@dataclass(frozen=True)
class Scope:
    """Every function of the store and the desk that looks at rows takes one: rows of another club do not exist."""

    club_id: int
    author_id: int
    club: str
    author: str
    rights: frozenset[str] = EVERYTHING
