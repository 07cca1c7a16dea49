"""A match on its way in and out. Facts themselves are objects of the published match format."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, Literal, TypeAlias

from pydantic import Field, WithJsonSchema

from aretane.core.review.position import PositionError
from aretane.core.review.visits import Visit, VisitFigures
from aretane.core.rules.board import Board
from aretane.draw.shapes import Shape
from aretane.formats.schema import schema
from aretane.web.schemas import Answer, Id, Place, PlaceOfTrouble, PocketName, Seat


def _with_tuples(part: Any) -> Any:
    """The published schema with lists of a fixed length told item by item, so that a page's types have them so."""
    if isinstance(part, list):
        return [_with_tuples(one) for one in part]
    if not isinstance(part, dict):
        return part
    told = {key: _with_tuples(value) for key, value in part.items()}
    length = told.get("minItems")
    if length and length == told.get("maxItems") and "items" in told:
        told["prefixItems"] = [told["items"]] * length
    return told


def _document(*path: str) -> Any:
    """A part of the published schema of a match, as the type of a field."""
    part: Any = schema("match")
    for step in path:
        part = part[step]
    return Annotated[dict[str, Any], WithJsonSchema(_with_tuples(part))]


def _header() -> Any:
    whole = schema("match")
    without = {k: _with_tuples(v) for k, v in whole["properties"].items() if k != "racks"}
    return Annotated[
        dict[str, Any], WithJsonSchema({"type": "object", "required": ["discipline"], "properties": without})
    ]


def _rack() -> Any:
    whole = schema("match")["properties"]["racks"]["items"]
    without = {k: _with_tuples(v) for k, v in whole["properties"].items() if k != "shots"}
    return Annotated[dict[str, Any], WithJsonSchema({"type": "object", "properties": without})]


if TYPE_CHECKING:
    ShotDocument: TypeAlias = dict[str, Any]
    RackDocument: TypeAlias = dict[str, Any]
    MatchDocument: TypeAlias = dict[str, Any]
else:
    ShotDocument = _document("properties", "racks", "items", "properties", "shots", "items")
    RackDocument = _rack()
    MatchDocument = _header()


class ExportQuery(Answer):
    form: Literal["json", "csv", "xlsx", "parquet", "vtt", "txt"] = "json"


class DrawingQuery(Answer):
    colours: str = "light"


class PocketAnswer(Answer):
    name: PocketName
    tips: tuple[Place, Place]
    mouth: Place
    axis: Place
    drop: Place
    width: float


class TableAnswer(Answer):
    name: str
    length: float
    width: float
    radius: float
    cue_radius: float
    nose_height: float
    head_line: float
    foot_spot: float
    d_radius: float | None
    pockets: list[PocketAnswer]
    marks: dict[str, tuple[float, float, float]]
    plan: list[Shape]


class LayoutAnswer(Answer):
    balls: dict[str, Place]
    player: Seat
    ball_in_hand: str | None


class RulingAnswer(Answer):
    legal_balls: list[str]
    foul: str | None
    fouls: list[str]
    points: dict[str, int]
    next: str | None
    in_hand: str | None
    choices: list[str]
    counted: int
    run: int
    spotted: list[str]
    racked: list[str]
    placed: dict[str, str]
    seen_fouls: list[str]
    hole: bool
    why: str


class ShotAnswer(Answer):
    id: str
    seat: float
    document: ShotDocument
    person: str | None
    ruling: RulingAnswer | None
    board: Board | None
    state: dict[str, Any] | None
    before: LayoutAnswer | None
    after: LayoutAnswer | None
    leaves: str | None
    result: str | None
    error: PositionError | None
    object_errors: dict[str, PositionError]


class NextUp(Answer):
    """What the next entry of a rack starts from; `state` as the layout format has it, null before a break."""

    player: Seat
    in_hand: str | None
    choices: list[str]
    legal_balls: list[str]
    phase: str
    balls: list[str]
    free_shot: bool
    visits: int
    board: Board
    state: dict[str, Any] | None
    before: LayoutAnswer | None


class RackAnswer(Answer):
    id: str
    seat: float
    document: RackDocument
    breaker: str
    winner: str | None
    score: dict[str, int]
    sets: dict[str, int]
    over: bool
    next_up: NextUp | None
    shots: list[ShotAnswer]


class GameAnswer(Answer):
    id: str
    last_change: int
    header: MatchDocument
    table: TableAnswer
    balls: list[str]
    rules: dict[str, str | int | bool | None]
    fresh: LayoutAnswer | None
    opening: NextUp | None
    next_breaker: Seat
    next_person: dict[str, str | None]
    score: dict[str, int]
    sets: dict[str, int]
    winner: str | None
    visits: list[Visit]
    visit_figures: dict[str, VisitFigures]
    racks: list[RackAnswer]
    trouble: list[PlaceOfTrouble]


class ReversedGame(GameAnswer):
    """The match after a change was taken back or done again, and what that was."""

    reversed: str


class GameLine(Answer):
    """`day`: the match's own date, else that on which it was begun here; `changed_at`: last worked on."""

    id: str
    day: str
    place: str
    changed_at: datetime
    title: str
    discipline: str
    session: str
    players: dict[str, str]
    racks: int
    shots: int


Day: TypeAlias = Annotated[str, Field(default="", pattern=r"^(\d{4}-\d{2}-\d{2})?$")]


class ListQuery(Answer):
    """`search`: in titles, places and players; `player`: his whole name; days as 2026-11-28."""

    begin: int = Field(default=0, ge=0, le=10_000_000)
    search: str = Field(default="", max_length=200)
    player: str = Field(default="", max_length=200)
    discipline: str = Field(default="", max_length=40)
    session: str = Field(default="", max_length=40)
    since: Day = ""
    until: Day = ""


class GameList(Answer):
    """A page of the `n` that there are. `deleted` can be had back for 30 days, by undoing that."""

    n: int
    games: list[GameLine]
    deleted: list[GameLine]


class MomentQuery(Answer):
    search: str = Field(min_length=1, max_length=200)


class Moment(Answer):
    game: str
    shot: str
    title: str
    note: str


class MomentList(Answer):
    moments: list[Moment]


class UnfinishedQuery(Answer):
    """Ids of matches, with commas between them."""

    games: str = Field(default="", max_length=4000, pattern=r"^[A-Za-z0-9,-]*$")


class Unfinished(Answer):
    """Shots that were found and are in no log yet, and how many of them somebody should look at; `reading`: it is
    still under way."""

    found: int
    doubtful: int
    reading: bool


class UnfinishedList(Answer):
    games: dict[str, Unfinished]


class NewGame(Answer):
    id: Id
    document: MatchDocument


class ImportQuery(Answer):
    """`keep` lets impossible entries stand as the coach's word; `same` says what is done with a match that is there
    already."""

    keep: bool = False
    same: Literal["ask", "replace", "copy"] = "ask"


class Change(Answer):
    """One fact as it is to be; without a document it is removed."""

    kind: Literal["match", "rack", "shot"]
    id: Id
    parent: Id
    seat: float = Field(allow_inf_nan=False)
    document: dict[str, Any] | None


class OperationRequest(Answer):
    """`over`: where somebody else wrote the same fields since, these stand."""

    id: Id
    client: Id
    seen: int = Field(ge=0)
    label: str = Field(max_length=200)
    changes: list[Change] = Field(min_length=1, max_length=600)
    over: bool = False


class ReverseRequest(Answer):
    id: Id
    client: Id
    seen: int = Field(ge=0)


class HistoryLine(Answer):
    id: int
    made_at: datetime
    kind: str
    label: str
    author: str
    reversed_by: int | None


class History(Answer):
    entries: list[HistoryLine]


class OptionAnswer(Answer):
    """One option of the rules: its default, the values it may take (none: a whole number), its meaning; how a coach
    is asked for it, and what he calls its values."""

    name: str
    default: str | int | bool
    values: list[str | int | bool]
    means: str
    least: int
    most: int
    asks: str
    says: dict[str, str]


class DisciplineAnswer(Answer):
    name: str
    tables: list[str]
    options: list[OptionAnswer]


class DisciplineList(Answer):
    disciplines: list[DisciplineAnswer]
