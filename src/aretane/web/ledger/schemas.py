"""What the verdict's questions and answers look like."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from aretane.jobs.runner import QueuePlace
from aretane.web.schemas import Answer, Seat

Split = Literal["full", "no-stroke", "no-intent", "no-layout", "hole", "rules"]


class LedgerQuery(Answer):
    care: Literal["coarse", "settled"] = "coarse"


class LedgerRequest(LedgerQuery):
    again: bool = False


class ChoiceWords(Answer):
    title: str
    stroke: str


class LedgerChoice(Answer):
    """A choice: what it is, its stroke and way, the chance of its pot (None: none is meant), and its value."""

    kind: str
    intent: str
    ball: str | None
    pocket: str | None
    stroke: dict[str, Any]
    pot: float | None
    value: float
    route: str
    path: list[tuple[float, float]]
    words: ChoiceWords
    why: str


class Errors(Answer):
    """Standard errors."""

    decision: float | None
    pot: float | None
    position: float | None
    luck: float | None


class Named(Answer):
    """What a shot was, by a coach's word for it: a candidate cause until somebody nods. `began`: the entry of the
    same rack where the trouble began, counted from 0."""

    what: str
    words: str
    cost: float | None
    cause: str | None
    began: int | None


class LedgerEntry(Answer):
    """One entry's booking, as its player sees it: the parts that are told add up to `after` - `before`."""

    id: str | None = None
    player: Seat
    kind: Literal["stroke", "opening", "choice", "hole"]
    before: float
    best: float
    chosen: float | None
    after: float
    decision: float | None
    pot: float | None
    position: float | None
    luck: float | None
    unsplit: float | None
    split: Split
    error: Errors
    better: LedgerChoice | None
    played: LedgerChoice | None
    attack: LedgerChoice | None
    safety: LedgerChoice | None
    break_even_pot: float | None
    tastes: dict[str, float]
    phase: Literal["opening", "pattern", "recovery", "end"]
    named: list[Named]


class Sums(Answer):
    decision: float
    pot: float
    position: float
    luck: float
    unsplit: float


class PlayerSums(Sums):
    shots: int


class PassedBall(Answer):
    """A shot (counted from 0) that kept to a plan where another ball first was better by `cost`."""

    at: int
    ball: str
    cost: float


class FollowedPlan(Answer):
    """A written plan: whose, from which entry on (counted from 0), its balls; how many were taken so, where it was
    left and for which ball, what that cost; `replaced`: from where another plan holds. `holding`: what the choices
    cost that kept to it."""

    by: str
    begins: int
    order: list[str]
    kept: int
    left_at: int | None
    left_for: str | None
    cost: float | None
    replaced: int | None
    holding: float | None
    better: list[PassedBall]


class RackLedger(Answer):
    """`start`, `result` and `now` are player A's; `result` None: it is not over. `turning_point` counts from 0."""

    start: float
    shots: list[LedgerEntry]
    result: float | None
    now: float
    sums: dict[Seat, Sums]
    turning_point: int | None
    plans: list[FollowedPlan]


class HandErrors(Answer):
    aim_deg: float
    speed: float
    side: float
    height: float
    rail_deg: float
    elevation_deg: float
    partner: HandErrors | None = None


class PhaseSums(Answer):
    """What a player gained and lost in one phase of play."""

    phase: str
    shots: int
    decision: float
    pot: float
    position: float
    luck: float
    unsplit: float


class Ledger(Answer):
    start: float | None = None
    unit: Literal["balls"] | None = None
    racks: list[RackLedger] = Field(default_factory=list)
    players: dict[Seat, PlayerSums] = Field(default_factory=dict)
    errors: dict[Seat, Errors] = Field(default_factory=dict)
    phases: dict[Seat, list[PhaseSums]] = Field(default_factory=dict)
    schools: dict[Seat, dict[str, float]] = Field(default_factory=dict)
    said: dict[Seat, str] = Field(default_factory=dict)
    care: str | None = None
    version: int | None = None
    hands: dict[Seat, HandErrors] = Field(default_factory=dict)


class LedgerAnswer(Answer):
    """`state` is done, running, stopped or failed (`said` tells why); `current`: made from the facts as they are
    now, else `body` is of what they were before."""

    state: str
    progress: float
    said: str
    place: QueuePlace | None
    current: bool
    care: str
    body: Ledger
