"""What hand-outs are asked for with."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from pydantic import Field

from aretane.web.schemas import ID, Answer, Number


class ReportQuery(Answer):
    """`player`: for whom, by name; the first one if nobody is named. `shots`: the moments that the coach picked, by
    their ids, with commas; `words`: what he says to it.
    """

    player: Annotated[str, Field(max_length=200)] | None = None
    shots: Annotated[str, Field(pattern=f"^({ID}(,{ID})*)?$", max_length=2000)] = ""
    words: Annotated[str, Field(max_length=2000)] = ""


class PeriodQuery(Answer):
    """Of one player, from a day to another; without them of everything. `session`: matches, or another kind, with
    what was tried at the table.
    """

    player: Number
    since: date | None = None
    until: date | None = None
    session: Literal["match", "solo", "both-sides", "partners", "lesson"] = "match"
    words: Annotated[str, Field(max_length=2000)] = ""


class CardQuery(Answer):
    """`table`: another one than that of the match, by the name of a preset."""

    table: Annotated[str, Field(max_length=20)] | None = None
