"""What figures are asked for, and what they answer."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from aretane.core.review.position import PositionError
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
    id: int
    name: str


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


class MatchSheet(Answer):
    players: dict[str, SheetFigures]
