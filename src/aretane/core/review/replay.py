"""Replaying a match: the layout before and after every shot, with what is known carried along.

A shot stores only what was seen. Where it has no layout before, the one after the shot before it
stands; where it has none after, the balls that left the table are taken off, and where the cue ball and a
missed ball stopped is not known.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from aretane.core.ball import CUE
from aretane.core.layout import Layout, State
from aretane.core.rack import racked
from aretane.core.rules.game import CHOICES, Ruling
from aretane.core.rules.options import with_defaults
from aretane.core.rules.referee import MatchResult, RackResult, referee
from aretane.core.rules.spotting import spot_of, spotted
from aretane.core.rules.traits import traits_of
from aretane.core.table import Point, Table, table_from

Data = Mapping[str, Any]
Places = dict[str, Point]


@dataclass(frozen=True)
class ReplayedShot:
    """One entry with its ruling (None after the first impossible one) and the layouts around it."""

    data: Data
    ruling: Ruling | None
    before: Layout | None
    after: Layout | None


@dataclass(frozen=True)
class Replay:
    table: Table
    discipline: str
    racks: tuple[tuple[ReplayedShot, ...], ...]
    result: MatchResult
    lags: tuple[Mapping[str, float], ...] = ()
    handed: Mapping[str, str] = field(default_factory=dict)  # by seat, where somebody has said so


def replay(match: Data, known: Replay | None = None, since: int = 0) -> Replay:
    """Replay a whole match; places that cannot have happened are in `result.trouble`. `known` is the replay of the
    same match with other racks from `since` on: only those are gone through anew."""
    table = table_from(match.get("table", "pool-9ft"))
    result = referee(match, strict=False, known=known.result if known else None, since=since)
    racks = (
        *(known.racks[:since] if known else ()),
        *(
            tuple(_rack(match, table, rack, played))
            for rack, played in zip((match.get("racks") or ())[since:], result.racks[since:], strict=True)
        ),
    )
    lags = tuple(_lags(rack) for rack in match.get("racks") or ())
    return Replay(table, match["discipline"], racks, result, lags, _handed(match))


def _handed(match: Data) -> dict[str, str]:
    told = match.get("conditions")
    seats = {seat: told.get(seat) for seat in ("A", "B")} if isinstance(told, Mapping) else {}
    return {seat: str(one["hand"]) for seat, one in seats.items() if isinstance(one, Mapping) and one.get("hand")}


def _lags(rack: Data) -> dict[str, float]:
    """How far from the head nose each player's lag stopped before this rack (m), where that is logged."""
    lag = rack.get("lag") or {}
    found = {seat: lag.get(seat) for seat in ("A", "B")}
    return {
        seat: float(off)
        for seat, off in found.items()
        if isinstance(off, int | float) and not isinstance(off, bool)
    }


def _rack(match: Data, table: Table, rack: Data, played: RackResult) -> list[ReplayedShot]:
    shots: Sequence[Data] = rack.get("shots") or ()
    found: list[ReplayedShot] = []
    places = dict(first_places(match, table, rack))
    ruling: Ruling | None = None
    for index, shot in enumerate(shots):
        given = _places(shot.get("layout_before"))
        before = given or places
        previous = ruling
        ruling = played.rulings[index] if index < len(played.rulings) else None
        places = _after(shot, before, table, match["discipline"], ruling)
        found.append(
            ReplayedShot(
                data=shot,
                ruling=ruling,
                before=_layout(match, table, before, shot.get("player"), previous),
                after=_layout(match, table, places, ruling.next if ruling else None, ruling),
            )
        )
    return found


def first_places(match: Data, table: Table, rack: Data) -> Mapping[str, Point]:
    """Where the balls of a full rack stand before its break, where the rules fix each one's place."""
    discipline = match["discipline"]
    first: Data = next(iter(rack.get("shots") or ()), {})
    begins = first.get("kind") in (None, "break")
    if not traits_of(discipline).colours or not begins or (match.get("start") or {}).get("layout"):
        return {}
    reds = with_defaults(discipline, match.get("rules") or {}).get("reds", 0)
    return racked(table, discipline, reds=reds).balls


def _places(layout: Data | None) -> Places:
    return {ball: (float(at[0]), float(at[1])) for ball, at in ((layout or {}).get("balls") or {}).items()}


def _after(shot: Data, before: Places, table: Table, discipline: str, ruling: Ruling | None) -> Places:
    given = _places(shot.get("layout_after"))
    if shot.get("hole"):
        return given
    if ruling is not None and ruling.racked:
        return racked_again(table, discipline, given, before, ruling)
    back = ruling.spotted if ruling else ()
    if given or not before or shot.get("kind") == "break":  # nobody knows where a break left the balls
        return spotted(table, discipline, given, [b for b in back if b not in given]) if given else {}
    gone = {entry["ball"] for entry in shot.get("potted") or ()} | set(shot.get("off_table") or ())
    if shot.get("declared") not in CHOICES:  # nobody saw where the struck balls stopped
        gone |= {CUE, shot.get("first_contact"), (shot.get("called") or {}).get("ball")}
    places = {ball: at for ball, at in before.items() if ball not in gone}
    return spotted(table, discipline, places, back)


def racked_again(table: Table, discipline: str, given: Places, before: Places, ruling: Ruling) -> Places:
    """The next rack of the same game: balls that stay or that the rules place, and the others in the rack."""
    if len(given) > len(ruling.racked):  # the layout shows the new rack already
        return given
    traits = traits_of(discipline)
    if not traits.colours and not traits.goes_on:  # nobody knows the order of the new rack
        return {}
    kept = {ball: at for ball, at in (given or before).items() if ball not in ruling.racked}
    kept |= {ball: spot_of(table, spot) for ball, spot in ruling.placed.items()}
    if ruling.after.in_hand:
        kept.pop(CUE, None)
    fresh = racked(table, discipline, reds=len(ruling.racked)).balls
    order = [ball for ball in fresh if ball in ruling.racked]
    spots = list(fresh.values())[len(fresh) - len(order) :]  # with fourteen balls the apex stays free
    return kept | dict(zip(order, spots, strict=True))


def _layout(match: Data, table: Table, places: Places, player: str | None, ruling: Ruling | None) -> Layout | None:
    if not places:
        return None
    state = State(player=player or "A")
    if ruling is not None:
        after = ruling.after
        state = State(
            player=player or after.player,
            ball_in_hand=after.in_hand,
            push_out_allowed="push-out" in after.choices,
            fouls=after.fouls,
            points=after.points,
            group=after.group[player or after.player],
            on=after.on,
        )
    return Layout(table, match["discipline"], places, state)


def carry_forward(shots: Sequence[Data], index: int, edited: Data) -> dict[int, dict[str, Any]]:
    """Shot `index` as edited, and what the edit changes in the layouts after it, by index.

    A ball that nobody touched stands in later layouts at exactly the same numbers. So where the edit
    gives a ball another place (or takes it off, or puts it back), every later layout that still has the
    old one follows, until a shot moves the ball or it leaves the table.
    """
    old = shots[index]
    changed = {index: dict(edited)}
    carried = shots[index - 1].get("layout_after") if index else None
    moves = _moves(old.get("layout_before") or carried, edited.get("layout_before"))
    moves = _carry(changed[index], "layout_after", moves)
    moves |= _moves(old.get("layout_after"), edited.get("layout_after"))
    for later in range(index + 1, len(shots)):
        if not moves or shots[later].get("hole"):
            break
        shot = dict(shots[later])
        moves = _carry(shot, "layout_before", moves)
        moves = _carry(shot, "layout_after", moves)
        if shot != shots[later]:
            changed[later] = shot
    return changed


Move = tuple[list[float] | None, list[float] | None]  # where a ball stood and stands; None: not there


def _moves(old: Data | None, new: Data | None) -> dict[str, Move]:
    if not old or not new:
        return {}
    was, now = old.get("balls") or {}, new.get("balls") or {}
    return {b: (was.get(b), now.get(b)) for b in {*was, *now} if was.get(b) != now.get(b)}


def _carry(shot: dict[str, Any], key: str, moves: dict[str, Move]) -> dict[str, Move]:
    """Apply the moves to one layout of a shot, and say which go on to the next."""
    layout = shot.get(key)
    if not layout or not layout.get("balls"):
        return moves
    balls = dict(layout["balls"])
    gone = {entry["ball"] for entry in shot.get("potted") or ()} | set(shot.get("off_table") or ())
    carried: dict[str, Move] = {}
    for ball, (old, new) in moves.items():
        if balls.get(ball) != old or (key == "layout_after" and ball in gone):
            continue
        carried[ball] = (old, new)
        if new is None:
            del balls[ball]
        else:
            balls[ball] = new
    shot[key] = {**layout, "balls": balls}
    return carried
