"""What every discipline's rules take and give: the facts of a shot, the state of a rack, a ruling."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Protocol

from aretane.core.layout import Layout
from aretane.core.rules.options import with_defaults

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
    "no-foot",
    "illegal-break",
    "breaking-foul",
    "three-fouls",
)

CHOICES = ("accept", "pass-back", "re-rack", "re-break", "play-again")  # made without a stroke
FREE_BALL = "free-ball:"  # and the ball that is nominated

BREAK, PLAY = "break", "play"  # phases that every discipline has

Options = Mapping[str, Any]


def opponent(player: str) -> str:
    return "B" if player == "A" else "A"


@dataclass(frozen=True)
class Seen:
    """What was seen of one entry. None means unknown, except for `first_contact` (see `UNKNOWN`).

    `rails` counts the different balls that touched a rail after the first contact. `pockets` says where potted
    balls fell, `touching` which balls touched the cue ball before the stroke, `before` and `after` are the layouts
    around it where they are known. `replaced`: whether a shot that is played again starts from the old places.
    """

    player: str | None = None
    kind: str | None = None
    declared: str | None = None
    first_contact: str | None = UNKNOWN
    rails: int | None = None
    object_balls_to_rail: int | None = None
    past_line: int | None = None
    potted: tuple[str, ...] = ()
    pockets: Mapping[str, str | None] = field(default_factory=dict)
    scratch: bool = False
    off_table: tuple[str, ...] = ()
    fouls_seen: tuple[str, ...] = ()
    called: tuple[str, str | None] | None = None
    touching: tuple[str, ...] = ()
    before: Layout | None = None
    after: Layout | None = None
    replaced: bool | None = None
    forced_foul: str | None = UNKNOWN  # an overruled call: None for "no foul", UNKNOWN for "as computed"

    @property
    def free_ball(self) -> str | None:
        said = self.declared or ""
        return said.removeprefix(FREE_BALL) if said.startswith(FREE_BALL) else None

    @property
    def is_choice(self) -> bool:
        return self.declared in CHOICES

    @cached_property
    def gone(self) -> frozenset[str]:
        """Object balls that left the table, into a pocket or over the rail."""
        return frozenset({*self.potted, *self.off_table} - {"cue"})

    def made_as_called(self) -> bool:
        """Whether the called ball fell, and where it was called (a pocket that is not known is believed)."""
        if self.called is None or self.called[0] not in self.potted:
            return False
        ball, pocket = self.called
        return pocket is None or self.pockets.get(ball) in (None, pocket)


@dataclass(frozen=True)
class RackState:
    """Where a rack stands before a shot. `phase` is a word of the discipline's own.

    `group` is each player's colour once it is settled, `on` snooker's "red", "colour" or a ball, `run` what was
    scored in this visit, `visits` how many are left to the player at the table, `free_shot` blackball's, and
    `undone` the state that comes back when a missed snooker shot is played again from the old places.
    """

    player: str
    balls: tuple[str, ...]
    phase: str = BREAK
    in_hand: str | None = "behind-line"
    choices: tuple[str, ...] = ()
    fouls: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    points: Mapping[str, int] = field(default_factory=lambda: {"A": 0, "B": 0})
    winner: str | None = None
    breaker: str = "A"
    group: Mapping[str, str | None] = field(default_factory=lambda: {"A": None, "B": None})
    on: str | None = None
    run: int = 0
    visits: int = 1
    free_shot: bool = False
    undone: RackState | None = None

    def turn_to(self, player: str | None, **changes: object) -> RackState:
        """The state with another player to act (or the same), who begins a new visit if it is another."""
        player = player or self.player
        if player != self.player:
            changes = {"run": 0, **changes}
        return RackState(**{**vars(self), "player": player, **changes})  # `replace` takes twice as long

    def scored(self, player: str, points: int) -> Mapping[str, int]:
        return {**self.points, player: self.points[player] + points}


@dataclass(frozen=True)
class Ruling:
    """What one entry did, and the state it left. `why` says the decision in a sentence.

    `spotted` balls come back to their spots; `racked` ones are set up again for the next rack of the same game;
    `placed` names the spot that a ball is put on by a re-rack. `seen` are fouls that were seen only in review.
    `hole`: nothing was ruled; the state after a stretch that nobody saw is as it was stated. `ends`: a run of one
    player alone is over.
    """

    legal_balls: tuple[str, ...]
    fouls: tuple[str, ...]
    spotted: tuple[str, ...]
    after: RackState
    why: str
    racked: tuple[str, ...] = ()
    placed: Mapping[str, str] = field(default_factory=dict)
    counted: int = 0
    seen: tuple[str, ...] = ()
    hole: bool = False
    ends: bool = False

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


@dataclass(frozen=True)
class Masks:
    """A state's rules as sets of balls, for judging many simulated outcomes at once (see `masks.judge`).

    `first`: may be struck first. `count`: keeps the turn when it falls. `foul`: a foul when it falls. `needs`: one
    of these must fall when any ball does (blackball: an own ball), else it is a foul. `as_struck`: of several
    colours only the one struck first may fall. `rail_needed`: without a pot a ball must reach a rail after the
    contact. `wins` and `loses`: end the rack when they fall, the first on a legal shot, the second always;
    `foul_loses`: a ball of `wins` that falls with a foul loses. `foul_ends`: a foul ends the rack, won or lost
    (None: it goes on). `respotted`: back on the table if it falls.
    """

    first: frozenset[str]
    count: frozenset[str]
    foul: frozenset[str] = frozenset()
    needs: frozenset[str] = frozenset()
    as_struck: bool = False
    rail_needed: bool = True
    wins: frozenset[str] = frozenset()
    loses: frozenset[str] = frozenset()
    foul_loses: bool = False
    foul_ends: bool | None = None
    respotted: frozenset[str] = frozenset()


class Discipline(Protocol):
    """The rules of one discipline as pure functions over `RackState`. `options` are complete."""

    @property
    def name(self) -> str:
        """The discipline's id."""

    def rack(self, breaker: str, options: Options) -> RackState:
        """A full rack before the break."""

    def resume(self, layout: Layout, options: Options) -> RackState:
        """A rack that is already under way, as this layout and its state describe it."""

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        """The balls that may lawfully be struck first; `shot` tells what was declared."""

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        """Raise `IllegalEntry` if this entry cannot have happened in this state."""

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        """What this entry did, also when the coach's word lets an entry stand that would be refused."""

    def masks(self, state: RackState, options: Options) -> Masks:
        """The same rules for simulated shots from this state."""


def judge(rules: Discipline, state: RackState, shot: Seen, options: Options | None = None) -> Ruling:
    """The ruling on one entry, or `IllegalEntry`. Options that are not given take their defaults."""
    complete = with_defaults(rules.name, options or {})
    rules.refuse(state, shot, complete)
    return rules.settle(state, shot, complete)


def in_order(fouls: Sequence[str]) -> tuple[str, ...]:
    """Foul ids without repetition, the one that stands first in front."""
    return tuple(sorted(set(fouls), key=FOULS.index))
