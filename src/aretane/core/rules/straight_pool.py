"""Straight pool (14.1 continuous). World Pool-Billiard Association, The Rules of Play, sections 4 and 6.

A point a ball, every shot called, the fourteen racked again when one ball is left. Fouls cost a point, a break
that is too soft two, the third foul in a row fifteen more and a new break.
"""

from __future__ import annotations

import math

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.geometry.plane import distance_to_segment
from aretane.core.layout import Layout
from aretane.core.rack import rack_corners
from aretane.core.rules.game import BREAK, PLAY, Masks, Options, RackState, Ruling, Seen, in_order, opponent
from aretane.core.rules.standard import (
    ANSWER,
    accepts,
    fouls_of,
    refuse_common,
    standing,
    third_foul,
    under_way,
)
from aretane.core.table import Point, Table

ALL = OBJECT_BALLS["straight-pool"]
RAILS_ON_BREAK = 3  # 4.3: the cue ball and two object balls
FOUL, BREAKING_FOUL, THIRD_FOUL = -1, -2, -15  # 4.10 to 4.12
ON_A_SPOT = 0.002  # m: a ball this near stands on the spot


class StraightPool:
    name = "straight-pool"

    def rack(self, breaker: str, options: Options) -> RackState:
        return RackState(player=breaker, breaker=breaker, balls=ALL)

    def resume(self, layout: Layout, options: Options) -> RackState:
        return under_way(layout)

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        return () if state.winner else state.balls

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        refuse_common(state, shot, ("safety",))

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        if shot.declared == "accept":
            return Ruling((), (), (), accepts(state), f"{state.player} accepts the table")
        if shot.is_choice:
            breaker = opponent(state.player)
            again = self.rack(breaker, options).turn_to(breaker, points=state.points, fouls=state.fouls)
            return Ruling((), (), (), again, f"{breaker} must break again", racked=ALL)
        if state.phase == ANSWER:
            state = accepts(state)
        legal = self.legal_balls(state, shot)
        on_break = state.phase == BREAK
        found = fouls_of(shot, legal, options, rail=not on_break)
        if on_break and not shot.made_as_called() and shot.rails is not None and shot.rails < RAILS_ON_BREAK:
            found.append("breaking-foul")
        return self._decide(state, shot, legal, standing(shot, found), options)

    def masks(self, state: RackState, options: Options) -> Masks:
        balls = frozenset(state.balls)
        return Masks(first=balls, count=balls, respotted=balls)

    def _decide(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...], options: Options
    ) -> Ruling:
        me, other = state.player, opponent(state.player)
        called = shot.made_as_called() if options["call"] else bool(shot.potted)
        made = not fouls and called and shot.declared != "safety"
        counted = len(shot.potted) if made else 0
        # 4.7: what falls otherwise, or leaves the table, comes back to the foot spot.
        back = shot.gone - set(shot.potted) if made else shot.gone
        spotted = tuple(ball for ball in state.balls if ball in back)
        balls = tuple(ball for ball in state.balls if ball not in shot.gone or ball in back)
        breaking = "breaking-foul" in fouls
        in_a_row = state.fouls[me] if breaking else state.fouls[me] + 1 if fouls else 0
        lost = BREAKING_FOUL if breaking else FOUL if fouls else 0
        cue_gone = shot.scratch or CUE in shot.off_table
        board = state.turn_to(
            me, phase=PLAY, choices=(), balls=balls, points=state.scored(me, counted + lost),
            fouls={**state.fouls, me: in_a_row}, in_hand="behind-line" if cue_gone else None,
            run=state.run + counted,
        )  # fmt: skip

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, fouls, spotted, board.turn_to(player, **changes), why, counted=counted)

        if breaking:  # 4.11
            why = f"breaking foul, two points off: {other} accepts the table or has {me} break again"
            return ruled(why, other, phase=ANSWER, choices=("accept", "re-break"))
        if fouls and third_foul(options, in_a_row):  # 4.12
            again = self.rack(me, options).turn_to(
                me, points=state.scored(me, FOUL + THIRD_FOUL), fouls={**state.fouls, me: 0}
            )
            why = f"third foul in a row, sixteen points off: {me} breaks again"
            return Ruling(legal, in_order((*fouls, "three-fouls")), (), again, why, racked=ALL)
        if fouls:
            return ruled(f"foul, a point off: {other} to shoot", other)
        if not made:
            what = "safety" if shot.declared == "safety" else "nothing potted as called"
            return ruled(f"{what}: {other} to shoot", other)
        target = options.get("race_to")
        if target and board.points[me] >= target:
            return ruled(f"{me} reaches {target} points and wins", me, winner=me)
        if len(balls) <= 1:
            return self._racked_again(legal, board, balls, shot, counted)
        return ruled(f"{me} stays at the table, run {board.run}", me)

    def _racked_again(
        self, legal: tuple[str, ...], board: RackState, left: tuple[str, ...], shot: Seen, counted: int
    ) -> Ruling:
        placed, in_hand = re_rack(shot.after, left[0] if left else None)
        after = board.turn_to(board.player, balls=ALL, in_hand=in_hand)
        racked = tuple(ball for ball in ALL if ball not in left or placed.get(ball) == "foot-spot")
        why = f"{board.player} stays at the table, run {board.run}; the balls are racked again"
        return Ruling(legal, (), (), after, why, racked=racked, placed=placed, counted=counted)


def re_rack(after: Layout | None, last: str | None) -> tuple[dict[str, str], str | None]:
    """Where the fifteenth ball and the cue ball go before the fourteen are racked (4.8 and its table).

    `last` is the ball that is left, None if it fell too. Returns the spots by ball, and "behind-line" if the cue
    ball is in hand. What is not known counts as outside the rack.
    """
    places = after.balls if after is not None and len(after.object_balls) <= 1 else {}
    table = after.table if after is not None else None
    cue, ball = places.get(CUE), places.get(last or "")
    cue_in_rack = table is not None and cue is not None and in_rack(table, cue)
    ball_in_rack = table is not None and ball is not None and in_rack(table, ball)
    head = (table.head_line, table.width / 2) if table is not None else None
    on_head_spot = ball is not None and head is not None and math.dist(ball, head) < ON_A_SPOT
    in_kitchen = ball is not None and table is not None and ball[0] < table.head_line
    if last is None:
        return {}, "behind-line" if cue_in_rack else None
    if ball_in_rack:
        if cue_in_rack:
            return {last: "foot-spot"}, "behind-line"
        cue_on_head_spot = table is not None and cue is not None and head is not None and _covers(table, cue, head)
        return {last: "centre-spot" if cue_on_head_spot else "head-spot"}, None
    if not cue_in_rack:
        return {}, None
    if on_head_spot:
        return {CUE: "centre-spot"}, None
    return ({CUE: "head-spot"}, None) if in_kitchen else ({}, "behind-line")


def in_rack(table: Table, place: Point) -> bool:
    """Whether a ball there would be in the way of the racked balls: it reaches into their triangle."""
    corners = rack_corners(table, "straight-pool")
    sides = zip(corners, (*corners[1:], corners[0]), strict=True)
    if any(distance_to_segment(place, one, two) < 2 * table.radius for one, two in sides):
        return True
    turns = [
        (two[0] - one[0]) * (place[1] - one[1]) - (two[1] - one[1]) * (place[0] - one[0])
        for one, two in zip(corners, (*corners[1:], corners[0]), strict=True)
    ]
    return all(turn >= 0 for turn in turns) or all(turn <= 0 for turn in turns)


def _covers(table: Table, place: Point, spot: Point) -> bool:
    return math.dist(place, spot) < 2 * table.radius
