"""What figures are asked for, and what they answer."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import Field

from aretane.core.review.position import PositionError
from aretane.core.statistics.fair import Difference
from aretane.core.statistics.families import Card
from aretane.core.statistics.potting import Family
from aretane.core.statistics.rates import Mean, Rate
from aretane.store.shot_figures import ShotRow
from aretane.web.schemas import Answer, Id, Number


class FiguresQuery(Answer):
    session: str | None = "match"
    discipline: str | None = None
    player: Number | None = None
    game: Id | None = None
    target_source: str | None = None


class PageQuery(Answer):
    begin: int = Field(default=0, ge=0, le=10_000_000)


class BehindQuery(FiguresQuery, PageQuery):
    """Which figure of those that pass the filter: `by` what it is told apart, and its `name`."""

    by: str
    name: str


class ShotList(Answer):
    n: int
    shots: list[ShotRow]


class AlikeAnswer(ShotList):
    """Shots like one, the likest first; how often they were made. `comparable`: false without a meant pot or
    places.
    """

    comparable: bool
    rate: Rate


class BreakFamilyAnswer(Answer):
    """Breaks that have something in common; every rate has its own sample. `discipline` is theirs alone, if it is
    not told otherwise."""

    name: str
    words: str
    discipline: str | None
    balls: Mean
    dry: Rate
    scratch: Rate
    next_visible: Rate
    won: Rate


class BreakTableAnswer(Answer):
    """One way of sorting the breaks: by player, by place of the cue ball, by power ..."""

    by: str
    key: str
    families: list[BreakFamilyAnswer]


class CellAnswer(Answer):
    number: int
    cut: tuple[float, float]
    distance: tuple[float, float | None]
    rate: Rate


class ScatterPoint(Answer):
    shot: str
    error: PositionError


class FiguresAnswer(Answer):
    """`errors` are the newest of too many; the means are of all."""

    try_rule: str
    overall: Rate
    map: list[CellAnswer]
    by_pocket: list[Family]
    by_kind: list[Family]
    by_player: list[Family]
    errors: list[ScatterPoint]
    along: Mean
    across: Mean
    distance: Mean
    without_place: int
    holes: int
    breaks: list[BreakTableAnswer]


class Disagreement(Answer):
    """A shot at which somebody felt something: `felt` as kept with the shot, the computed numbers beside it."""

    game: str
    title: str
    shot: str
    player: str | None
    ball: str | None
    felt: dict[str, Any]


class DisagreementList(Answer):
    n: int
    shots: list[Disagreement]


class PlayerAnswer(Answer):
    """`joined_to`: the player whose other name it is."""

    id: int
    name: str
    joined_to: int | None


class JoinRequest(Answer):
    joined_to: Number | None


class PaperAnswer(Answer):
    counts: int


class PlayerList(Answer):
    players: list[PlayerAnswer]


class SheetPosition(Answer):
    """`n` stops with a stated or inferred zone, so many `inside`; means in metres where the last leg was logged."""

    n: int
    inside: int
    along: Mean
    across: Mean


class SheetSafeties(Answer):
    n: int
    not_attacked: Rate
    hidden: Rate


class SheetBreaks(Answer):
    n: int
    balls: Mean
    dry: Rate
    scratch: Rate


class SheetFigures(Answer):
    """What a match adds up to for one player, see `core/statistics/match_sheet`."""

    pots: Rate
    position: SheetPosition
    potted_but_foul: int
    safeties: SheetSafeties
    escapes: Rate
    attack_visits: Rate
    run_outs: Rate
    breaks: SheetBreaks | None
    innings: int
    balls_per_inning: float | None
    high_run: int
    shot_time: Mean | None
    racks_won: Rate
    fouls: int
    scratches: int
    points: int | None
    high_break: int | None


Word = Annotated[str, Field(max_length=60)]


class QuestionQuery(Answer):
    """What is asked, told apart by what, of which strokes; `player` against `versus`, or parted by a day."""

    measure: str = "pots"
    by: str = "nothing"
    player: Number | None = None
    versus: Number | None = None
    parted: date | None = None
    since: date | None = None
    until: date | None = None
    session: Word | None = "match"
    discipline: Word | None = None
    opponent: Number | None = None
    game: Id | None = None
    table: Word | None = None
    target_source: Word | None = None
    intent_source: Word | None = None
    pocket: Word | None = None
    kind: Word | None = None
    tip: Word | None = None
    pace: Word | None = None
    rails: Number | None = None
    cut: Number | None = None
    way: Number | None = None
    waited: Number | None = None
    standing: Word | None = None
    reach: Word | None = None
    cueing: Word | None = None
    stake: Number | None = None
    phase: Word | None = None
    took: Number | None = None
    missed_band: Number | None = None
    off_band: Number | None = None


class QuestionShotsQuery(QuestionQuery, PageQuery):
    key: str = Field(max_length=60)


class QuestionTableQuery(QuestionQuery):
    form: Literal["csv", "xlsx"] = Field(default="csv", alias="as")


class MeasureAnswer(Answer):
    """`kind`: a rate, a mean of `unit`, or how much of all each field is; `better`: more of it is good; `fair`:
    compared on the same shots.
    """

    name: str
    words: str
    what: str
    of: str
    kind: Literal["rate", "mean", "share"]
    unit: str
    better: bool | None
    fair: bool
    expects: str


class QuestionGroup(Answer):
    """By series what was measured in this field, and what was expected of it."""

    key: str
    words: str
    values: list[Rate | Mean]
    expected: list[float | None]


class CurvePoint(Answer):
    """`day` counts from the first of January of the year 1."""

    day: float
    p: float | None
    low: float
    high: float
    n: int


class QuestionAnswer(Answer):
    measure: MeasureAnswer
    by: str
    by_words: str
    series: list[str]
    groups: list[QuestionGroup]
    not_shown: int
    expected: list[float | None]
    whole: list[Rate | Mean]
    difference: Difference | None
    curves: list[list[CurvePoint]]
    practised: list[str]
    left_out: int
    many: int | None
    notes: list[str]
    said: str


class KeptQuestion(Answer):
    name: str
    asked: str


class KeptQuestions(Answer):
    questions: list[KeptQuestion]


class KeepQuestion(Answer):
    name: str = Field(max_length=120)
    asked: str = Field(max_length=1000)


class DropQuestion(Answer):
    name: str = Field(max_length=120)


class MatchSheet(Answer):
    cards: dict[str, Card]
    players: dict[str, SheetFigures]
