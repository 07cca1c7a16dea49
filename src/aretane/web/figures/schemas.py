"""What figures are asked for, and what they answer."""

from __future__ import annotations

from aretane.core.statistics.rates import Mean, Rate
from aretane.store.shot_figures import ShotRow
from aretane.web.schemas import Answer


class FiguresQuery(Answer):
    session: str | None = "match"
    discipline: str | None = None
    player: int | None = None
    game: str | None = None
    target_source: str | None = None


class FamilyAnswer(Answer):
    name: str
    rate: Rate
    members: list[int]


class BreakFamilyAnswer(Answer):
    """Breaks that have something in common; every rate has its own sample."""

    name: str
    balls: Mean
    dry: Rate
    scratch: Rate
    next_visible: Rate
    won: Rate
    members: list[int]


class BreakTableAnswer(Answer):
    """One way of sorting the breaks: by player, by place of the cue ball, by power ..."""

    by: str
    families: list[BreakFamilyAnswer]


class CellAnswer(Answer):
    cut: tuple[float, float]
    distance: tuple[float, float | None]
    rate: Rate
    members: list[int]


class ScatterPoint(Answer):
    shot: int
    along: float
    across: float
    distance: float
    plus_minus: float
    assumed: bool
    grade: str | None
    side: str | None
    length: str | None


class FiguresAnswer(Answer):
    """`members` and `shot` are positions in `shots`."""

    try_rule: str
    shots: list[ShotRow]
    overall: Rate
    map: list[CellAnswer]
    by_pocket: list[FamilyAnswer]
    by_kind: list[FamilyAnswer]
    by_player: list[FamilyAnswer]
    errors: list[ScatterPoint]
    along: Mean
    across: Mean
    distance: Mean
    without_place: int
    breaks: list[BreakTableAnswer]


class PlayerAnswer(Answer):
    id: int
    name: str


class PlayerList(Answer):
    players: list[PlayerAnswer]
