"""Junctures: where a rack stood before each of its entries, what was meant there, and what came of it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from typing import Any

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.layout import Layout, State
from aretane.core.physics.stroke import Stroke, check_numbers
from aretane.core.review.replay import Replay, ReplayedShot
from aretane.core.review.strokes import NOT_A_TRY_FLAGS
from aretane.core.rules.game import BREAK, CHOICES, RackState, Ruling, opponent
from aretane.core.rules.traits import traits_of
from aretane.core.table import Point, Table

Data = Mapping[str, Any]

STROKE, OPENING, CHOICE, HOLE, END = "stroke", "opening", "choice", "hole", "end"  # what an entry is
ALL, NO_STROKE, NO_INTENT, NO_LAYOUT, RULES = "full", "no-stroke", "no-intent", "no-layout", "rules"  # what is told
PUSH_OUT = "push-out"


@dataclass(frozen=True)
class Meant:
    """What the player wanted, as far as it is logged: the stroke (None: not logged), where a ball in hand was
    placed, the pot, and the word that was declared. `experiment`: not meant to win this rack.
    """

    stroke: Stroke | None = None
    place: Point | None = None
    ball: str | None = None
    pocket: str | None = None
    intent: str | None = None
    declared: str | None = None
    experiment: bool = False

    @property
    def pot(self) -> tuple[str, str] | None:
        return (self.ball, self.pocket) if self.ball and self.pocket else None


@dataclass(frozen=True)
class CameOf:
    """What came of it: the meant pot fell where it was meant (`made`), with or without a foul; the balls as they
    lay then (None: not known) and the game. `overruled`: it went on as somebody said, not as the rules have it.
    """

    made: bool
    foul: bool
    balls: Mapping[str, Point] | None
    state: RackState
    overruled: bool = False

    @property
    def outcome(self) -> str:
        return "made" if self.made else "foul" if self.foul else "missed"


@dataclass(frozen=True)
class Juncture:
    """`table`, `discipline`, `options` (complete) and `state` are the game before the entry; `balls` as they lie, a
    cue ball in hand left out (None: not known). `kind` is what the entry is.
    """

    kind: str
    table: Table
    discipline: str
    options: Mapping[str, Any]
    state: RackState
    balls: Mapping[str, Point] | None
    player: str
    meant: Meant = Meant()
    came: CameOf | None = None

    @property
    def layout(self) -> Layout | None:
        """The balls with the game as a layout states it."""
        return None if self.balls is None else layout_at(self.table, self.discipline, self.balls, self.state)


def layout_at(table: Table, discipline: str, balls: Mapping[str, Point], state: RackState) -> Layout:
    told = State(
        player=state.player, ball_in_hand=state.in_hand, group=state.group[state.player], on=state.on,
        fouls=state.fouls, points=state.points, push_out_allowed=PUSH_OUT in state.choices,
    )  # fmt: skip
    return Layout(table, discipline, dict(balls), told)


def junctures(match: Data, replayed: Replay, rack: int) -> list[Juncture]:
    """One for each entry of a rack that was ruled on, and one for where it stands if it is not over."""
    shots, result = replayed.racks[rack], replayed.result.racks[rack]
    options = replayed.result.options
    found, state = [], result.begins
    for index, shot in enumerate(shots[: len(result.rulings)]):
        ruling = result.rulings[index]
        following = shots[index + 1] if index + 1 < len(shots) else None
        player = str(shot.data.get("player") or state.player)
        if player != state.player and not shot.data.get("hole"):
            state = state.turn_to(player)
        found.append(
            Juncture(
                _kind(shot.data, state), replayed.table, replayed.discipline, options, state,
                _standing(shot.before, state), player, _meant(shot, state),
                _came(replayed.discipline, shot, ruling, following),
            )
        )  # fmt: skip
        state = ruling.after
    if result.winner is None and found:
        if result.rulings[-1].ends:  # a player alone has missed: as if somebody else came to the table
            state = state.turn_to(opponent(state.player))
        last = _standing(shots[len(found) - 1].after, state)
        found.append(Juncture(END, replayed.table, replayed.discipline, options, state, last, state.player))
    return found


def _kind(data: Data, state: RackState) -> str:
    if data.get("hole"):
        return HOLE
    if data.get("declared") in CHOICES:
        return CHOICE
    return OPENING if state.phase == BREAK or data.get("kind") == "break" else STROKE


def _standing(layout: Layout | None, state: RackState) -> dict[str, Point] | None:
    """The balls of the game where they lie; None where one of them is not known."""
    if layout is None or any(ball not in layout.balls for ball in state.balls):
        return None
    balls = {ball: layout.balls[ball] for ball in state.balls}
    if state.in_hand is None:
        if layout.cue is None:
            return None
        balls[CUE] = layout.cue
    return balls


def _meant(shot: ReplayedShot, state: RackState) -> Meant:
    data = shot.data
    called, stroke = data.get("called") or {}, data.get("stroke") or {}
    place = shot.before.cue if shot.before is not None and state.in_hand is not None else None
    attack = data.get("intent") in (None, "attack", "two-way") and data.get("declared") not in ("safety", PUSH_OUT)
    return Meant(
        _stroke(stroke), place, called.get("ball") if attack else None, called.get("pocket") if attack else None,
        data.get("intent"), data.get("declared"), bool(NOT_A_TRY_FLAGS.intersection(data.get("flags") or ())),
    )  # fmt: skip


def _stroke(logged: Data) -> Stroke | None:
    """The stroke, if it is logged and one that somebody can play: a slip of the pen is nobody's choice."""
    if logged.get("aim") is None or logged.get("speed") is None:
        return None
    stroke = Stroke(
        logged["speed"], logged["aim"], side=logged.get("side") or 0.0, height=logged.get("height") or 0.0,
        elevation=logged.get("elevation") or 0.0,
    )  # fmt: skip
    try:
        check_numbers(stroke)
    except InputError:
        return None
    return stroke


def _came(discipline: str, shot: ReplayedShot, ruling: Ruling, following: ReplayedShot | None) -> CameOf:
    data, state = shot.data, ruling.after
    called = data.get("called") or {}
    made = any(
        one["ball"] == called.get("ball") and one.get("pocket") in (None, called.get("pocket"))
        for one in data.get("potted") or ()
    )
    balls = None
    for layout in (shot.after, following.before if following is not None else None):
        known = _standing(layout, replace(state, in_hand=None)) if layout is not None else None
        if known is None and layout is not None and state.in_hand is not None:
            known = _standing(layout, state)
        if known is not None and balls is None:
            balls = known
    if traits_of(discipline).goes_on and ruling.racked:
        balls = balls if data.get("layout_after") else None
    overruled = bool(data.get("overrule") or data.get("called_at_table"))
    return CameOf(made, bool(ruling.fouls), balls, state, overruled)


def juncture_as_data(at: Juncture) -> dict[str, Any]:
    """All that a judgement rests on, as plain data: two junctures that have the same are judged the same. The usual
    break is on racks of its own, whatever came of this one; only where none is usual the stroke counts.
    """
    data = asdict(replace(at, state=_as_it_counts(at.state)))
    if at.came is not None:
        data["came"]["state"] = asdict(_as_it_counts(at.came.state))
    if at.kind == OPENING:
        data["balls"] = data["came"] = None
        if not traits_of(at.discipline).points:
            data["meant"] = None
    return data


def _as_it_counts(state: RackState) -> RackState:
    return replace(state, undone=None)
