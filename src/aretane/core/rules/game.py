"""What every discipline's rules take and give: the facts of a shot, the state of a rack, a ruling."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Protocol

from aretane.core.layout import Layout

UNKNOWN = "unknown"  # a first contact that nobody saw; None says that nothing was touched

FOULS = (  # in the order that decides which one stands first
    "scratch",
    "off-table",
    "no-contact",
    "wrong-ball-first",
    "no-rail",
    "wrong-ball-potted",
    "double-hit",
    "push",
    "moved-ball",
    "touching-ball",
    "illegal-break",
    "breaking-foul",
    "three-fouls",
)

CHOICES = ("accept", "pass-back", "re-rack", "re-break", "play-again")  # made without a stroke


def opponent(player: str) -> str:
    return "B" if player == "A" else "A"


@dataclass(frozen=True)
class ShotFacts:
    """What was seen of one entry. None means unknown, except for `first_contact` (see `UNKNOWN`).

    `rails` counts the different balls that touched a rail after the first contact.
    """

    player: str | None = None
    kind: str | None = None
    declared: str | None = None
    first_contact: str | None = UNKNOWN
    rails: int | None = None
    object_balls_to_rail: int | None = None
    past_line: int | None = None
    potted: tuple[str, ...] = ()
    scratch: bool = False
    off_table: tuple[str, ...] = ()
    fouls_seen: tuple[str, ...] = ()
    called: tuple[str, str] | None = None
    forced_foul: str | None = UNKNOWN  # an overruled call: None for "no foul", UNKNOWN for "as computed"


@dataclass(frozen=True)
class RackState:
    """Where a rack stands before a shot. `phase` is a word of the discipline's own."""

    player: str
    balls: tuple[str, ...]
    phase: str = "break"
    in_hand: str | None = "behind-line"
    choices: tuple[str, ...] = ()
    fouls: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    points: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    winner: str | None = None

    def turn_to(self, player: str | None, **changes: object) -> RackState:
        return replace(self, player=player or self.player, **changes)  # type: ignore[arg-type]


@dataclass(frozen=True)
class Ruling:
    """What one entry did, and the state it left. `why` says the decision in a sentence."""

    legal_balls: tuple[str, ...]
    fouls: tuple[str, ...]
    spotted: tuple[str, ...]
    after: RackState
    why: str

    @property
    def foul(self) -> str | None:
        return self.fouls[0] if self.fouls else None

    @property
    def next(self) -> str | None:
        return None if self.after.winner else self.after.player


class IllegalEntry(ValueError):
    """An entry that the rules do not allow at this moment. `rule` names the rule in a few words."""

    def __init__(self, rule: str, message: str) -> None:
        super().__init__(message)
        self.rule = rule
        self.message = message


class Discipline(Protocol):
    """The rules of one discipline as pure functions over `RackState`."""

    name: str

    def rack(self, breaker: str) -> RackState:
        """A full rack before the break."""

    def resume(self, layout: Layout) -> RackState:
        """A rack that is already under way, as this layout and its state describe it."""

    def legal_balls(self, state: RackState, declared: str | None = None) -> tuple[str, ...]:
        """The balls that may lawfully be struck first."""

    def judge(self, state: RackState, shot: ShotFacts, options: Mapping[str, object]) -> Ruling:
        """What this entry did. Raises `IllegalEntry` if it cannot have happened in this state."""


def in_order(fouls: Sequence[str]) -> tuple[str, ...]:
    """Foul ids without repetition, the one that stands first in front."""
    return tuple(sorted(set(fouls), key=FOULS.index))
