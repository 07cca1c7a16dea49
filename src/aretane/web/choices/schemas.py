"""What the pages ask about choices, plans and hands, and are answered."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from aretane.core.physics.hit import Met
from aretane.core.statistics.rates import Rate
from aretane.jobs.runner import QueuePlace
from aretane.web.lab.schemas import HandNumbers, StrokeRequest
from aretane.web.schemas import Answer, HandFile, Id, Number, Place, PocketName


class PlacedStroke(StrokeRequest):
    place: Place | None = None


class DrawnStroke(Answer):
    """A stroke that the coach adds, or the one that was played. Where `ball` in `pocket` was meant, its speed and
    tip are valued with the aim for that pot: what went wrong was no choice.
    """

    source: Literal["played", "added"] = "added"
    stroke: PlacedStroke
    ball: str | None = None
    pocket: PocketName | None = None


class Asking(Answer):
    """Which page asks: each gets its turn, and of its questions the newest first. `again`: what failed is tried
    again."""

    page: Id | None = None
    again: bool = False


class ChoicesRequest(Asking):
    """A layout and two hands. A hand is a preset by name, its errors as in the hand file, or {"record": name of a
    player}: as estimated from what is logged. `settle`: go on to the fine level. `race`: racks that the player
    and the opponent still need; `answering`: the player answers a push-out.
    """

    kind: Literal["choices", "order", "who", "against"] = "choices"
    table: Any = "pool-9ft"
    discipline: str
    balls: dict[str, Place]
    state: dict[str, Any] | None = None
    rules: dict[str, Any] = Field(default_factory=dict)
    player: HandFile = "club"
    opponent: HandFile | None = None
    handed: Literal["right", "left", "both"] = "right"
    settle: bool = False
    race: tuple[int, int] | None = None
    answering: bool = False
    drawn: list[DrawnStroke] = Field(default_factory=list, max_length=4)
    begin: tuple[str, ...] = Field(default=(), max_length=22)


HandName = Literal["record", "beginner", "club", "league", "professional"]


class ShotChoicesRequest(Asking):
    """An entry of a match (null: the one that comes next, of player `seat`), the balls as they lie there
    (`tried`: not as they were), a stroke that the coach added, and whose hands to take.
    """

    kind: Literal["choices", "order", "who", "against"] = "choices"
    shot: Id | None
    balls: dict[str, Place]
    seat: Literal["A", "B"] | None = None
    tried: bool = False
    added: PlacedStroke | None = None
    player: HandName = "record"
    opponent: HandName = "record"
    handed: Literal["right", "left", "both"] | None = None
    settle: bool = False
    begin: tuple[str, ...] = Field(default=(), max_length=22)


class ZoneAnswer(Answer):
    grade: str
    outline: list[Place]
    area: float


class MapAnswer(Answer):
    """A position map: `run` and `win` at `columns` x `rows` places between `x` and `y`, column by column."""

    ball: str | None
    columns: int
    rows: int
    x: Place
    y: Place
    run: list[float]
    win: list[float]
    best: float
    zones: list[ZoneAnswer]


class ReachAnswer(Answer):
    wider: float
    words: list[str]


class LeavesAnswer(Answer):
    hidden: Rate
    pot: float
    distance: float
    kick: float


class VariationWords(Answer):
    stroke: str
    worth: str


class VariationAnswer(Answer):
    """Another stroke of the same idea; `value` is its chance to win (straight pool: balls ahead)."""

    stroke: dict[str, Any]
    pot: Rate
    position: Rate
    value: Rate
    words: VariationWords


class OptionWords(Answer):
    title: str
    stroke: str
    worth: str
    spread: str


class OptionAnswer(Answer):
    """As the command `options` prints it; `ahead` instead of `win` in straight pool. `route` names the cue
    ball's rails; `played` racks, in games of points visits, were played on to their end for the value (0:
    what follows is taken from maps).
    """

    kind: str
    also: list[str]
    intent: str
    ball: str | None
    pocket: PocketName | None
    stroke: dict[str, Any]
    pot: Rate
    position: Rate
    foul: Rate
    win: Rate | None
    ahead: Rate | None = None
    opponent_next: Rate
    why: str
    run: float
    after_pot: float | None
    after_miss: float | None
    fraction: float | None
    reach: ReachAnswer
    leaves: LeavesAnswer | None
    path: list[Place]
    landing: list[Place]
    route: str
    words: OptionWords
    played: int
    variations: list[VariationAnswer]


class OptionsBody(Answer):
    options: list[OptionAnswer]
    best_attack: int | None
    best_safety: int | None
    break_even_pot: float | None
    horizon: str
    complete: bool


class CurveAnswer(Answer):
    pots: list[float]
    attack: list[float]
    safety: list[float]


class MatchAnswer(Answer):
    needs: int
    other_needs: int
    attack: float | None
    safety: float | None


class CurvesBody(Answer):
    over_pot: CurveAnswer | None
    ten_points_better: float | None
    match: MatchAnswer | None


class SchoolAnswer(Answer):
    name: str
    says: str
    order: list[int]


class PlanZoneAnswer(Answer):
    centre: Place
    area: float
    outline: list[Place]
    grade: str | None


class HarmlessAnswer(Answer):
    error: str
    long: float
    short: float


class EntryAnswer(Answer):
    ball: str
    pocket: PocketName
    stroke: dict[str, Any] | None
    stroke_words: str
    zone: PlanZoneAnswer
    value: float
    value_rate: Rate
    place: Place
    pot: float
    cut_angle_deg: float | None
    cut_side: str | None
    straight: bool | None
    harmless: HarmlessAnswer | None


class InsteadAnswer(Answer):
    ball: str
    pocket: PocketName
    value: Rate
    cost: float
    error: float
    equal: bool
    why: str


class GroupAnswer(Answer):
    group: str
    ball: str
    run: Rate
    win: float


class BreakShotAnswer(Answer):
    """A break shot from its best place: its pot, balls driven out of the rack (of the cluster `into` which it goes,
    if it is a secondary one), the next pot and lost cue balls, from `n` repetitions; `least_angle_deg` from which
    it opens.
    """

    ball: str
    into: list[str]
    place: Place
    pot: float
    opened: float
    next_pot: float
    scratch: float
    least_angle_deg: float | None
    n: int


class PlanBody(Answer):
    order: list[EntryAnswer]
    key_shot: int
    run_out: Rate
    break_ball: str | None
    key_ball: str | None
    key_chain: list[str]
    horizon: str
    instead: list[InsteadAnswer]
    groups: list[GroupAnswer]
    break_shots: list[BreakShotAnswer]


class ProblemAnswer(Answer):
    ball: str
    why: str


class OpeningAnswer(Answer):
    """See `core/planning/plans/trouble`."""

    ball: str
    stroke: dict[str, Any]
    chance: Rate
    struck: str | None
    met: Met | None
    next: Rate


class ClusterAnswer(Answer):
    balls: list[str]
    needed: str
    openings: list[OpeningAnswer]
    any_works: float
    insurance: list[str]
    break_shots: list[BreakShotAnswer]


class NudgeAnswer(Answer):
    """See `core/planning/plans/nudges`."""

    moved: str
    ball: str
    stroke: dict[str, Any]
    goes: tuple[float, float]
    chance: Rate
    pot: Rate
    surest: Rate
    next: Rate
    met: Met | None


class TroubleBody(Answer):
    problem_balls: list[ProblemAnswer]
    clusters: list[ClusterAnswer]
    nudges: list[NudgeAnswer]


class AgainstAnswer(Answer):
    opponent: str
    attack: float | None
    safety: float | None
    break_even: float | None


class PushAnswer(Answer):
    """To the player who answers a push-out: chances to win when he plays on, and when he hands the shot back."""

    play: float
    hand_back: float


class ChoicesBody(Answer):
    """What is known so far; the rest is null."""

    level: str | None = None
    maps: list[MapAnswer] | None = None
    answer: PushAnswer | None = None
    options: OptionsBody | None = None
    curves: CurvesBody | None = None
    schools: list[SchoolAnswer] | None = None
    plan: PlanBody | None = None
    trouble: TroubleBody | None = None
    who: dict[str, Rate] | None = None
    against: list[AgainstAnswer] | None = None


class ChoicesAnswer(Answer):
    """`state` is running, done, stopped or failed (`said` tells why); `place` is that in the queue, until its turn
    comes."""

    hash: str
    state: str
    progress: float
    said: str
    place: QueuePlace | None
    hands: tuple[HandNumbers, HandNumbers]
    body: ChoicesBody


class PlayedAnswer(Answer):
    """Which of the options was played: the logged stroke itself (`exact`), or the nearest to what was logged."""

    index: int
    exact: bool


class ShotChoicesAnswer(ChoicesAnswer):
    played: PlayedAnswer | None


class ParameterAnswer(Answer):
    value: float
    low: float
    high: float
    n: int
    speaks: bool


class SuccessAnswer(Answer):
    """One family: what is on record, what the hand predicts, both together."""

    cut: tuple[float, float]
    distance: tuple[float, float | None]
    record: Rate
    predicted: float
    shrunk: Rate


class HandQuery(Answer):
    player: Number
    prior: Literal["beginner", "club", "league", "professional"] = "club"
    session: str | None = "match"
    discipline: str | None = None


class HandAnswer(Answer):
    """Aim and rail in degrees, speed relative, side and height in radii of the ball; `says` how good that is,
    `on` which kind of table.
    """

    says: str
    on: str
    aim_deg: ParameterAnswer
    rail_deg: ParameterAnswer
    speed: ParameterAnswer
    side: ParameterAnswer
    height: ParameterAnswer
    needs: list[str]
    families: list[SuccessAnswer]
