"""What the answers of several nouns are made of, and those about the application itself."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Place = tuple[float, float]
Seat = Literal["A", "B"]
PocketName = Literal["head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right"]
ID = "[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}"
Id = Annotated[str, Field(pattern=f"^{ID}$")]
Number = Annotated[int, Field(ge=0, le=2**31)]  # of a row
# A preset by name (of two partners as in "league+club"), or errors as in the hand file, with a `partner` if any.
HandFile = str | dict[str, float | str | dict[str, float | str] | None]


class Answer(BaseModel):
    model_config = ConfigDict(extra="forbid")


class PlaceOfTrouble(Answer):
    rack: int
    shot: int
    message: str


class Trouble(Answer):
    """What went wrong, in one sentence, and the field it is about."""

    message: str
    field: str | None = None
    theirs: dict[str, Any] | None = None
    places: list[PlaceOfTrouble] | None = None


class SessionAnswer(Answer):
    csrf: str
    club: str
    author: str
    version: str


class Health(Answer):
    ok: bool
    database: bool
    trouble: str | None
    version: str
