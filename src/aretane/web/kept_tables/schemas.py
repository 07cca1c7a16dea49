"""What keeping and finding tables takes, and what it answers."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from aretane.web.schemas import Answer, Id, Place

Tag = Annotated[str, Field(max_length=40)]


class TableOfBalls(Answer):
    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]


class KeepTableRequest(TableOfBalls):
    """`id` is the page's: sent twice it is kept once."""

    id: Id
    name: str = Field(max_length=160)
    tags: list[Tag] = Field(default_factory=list, max_length=7)
    note: str = Field(default="", max_length=2000)


class SearchRequest(Answer):
    """Names, tags and notes that hold all the `words`; with `like` the likest first."""

    words: str = Field(default="", max_length=200)
    like: TableOfBalls | None = None


class KeptTable(Answer):
    """`unlike`: by how much a ball would have to be moved in the mean, metres; None if not asked."""

    id: str
    name: str
    tags: list[str]
    note: str
    discipline: str
    table: Any
    balls: dict[str, Place]
    unlike: float | None


class KeptTables(Answer):
    tables: list[KeptTable]
