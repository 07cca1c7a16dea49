"""Rotation games: the lowest ball first, a money ball that wins. Nine-ball and ten-ball differ in options.

World Pool-Billiard Association, The Rules of Play, sections 2 (Nine Ball) and 9 (Ten Ball), 6 (Fouls).
"""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.ball import OBJECT_BALLS
from aretane.core.layout import Layout
from aretane.core.rules.game import (
    BREAK,
    PLAY,
    IllegalEntry,
    Masks,
    Options,
    RackState,
    Ruling,
    Seen,
    in_order,
    opponent,
)
from aretane.core.rules.standard import (
    ANSWER,
    accepts,
    answer,
    dry_and_soft,
    fouls_of,
    refuse_break,
    refuse_common,
    standing,
    third_foul,
    under_way,
)

PUSH_OUT_ALLOWED = "push-out allowed"
BALLS_PAST_LINE = 3  # of the three-point break


@dataclass(frozen=True)
class Rotation:
    name: str
    money_ball: str

    def rack(self, breaker: str, options: Options) -> RackState:
        return RackState(player=breaker, breaker=breaker, balls=OBJECT_BALLS[self.name])

    def resume(self, layout: Layout, options: Options) -> RackState:
        if layout.state.push_out_allowed:
            return under_way(layout, phase=PUSH_OUT_ALLOWED, choices=("push-out",))
        return under_way(layout)

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        """2.2: the lowest-numbered ball on the table. 2.4: any ball, or none, on a push-out."""
        if state.winner or not state.balls:
            return ()
        if shot is not None and shot.declared == "push-out":
            return state.balls
        return (min(state.balls, key=int),)

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        refuse_common(state, shot, ("safety", "push-out"))
        if shot.is_choice:
            return
        if shot.declared == "push-out" and not options["push_out"]:
            raise IllegalEntry("option push_out", "this match is played without the push-out")
        if shot.declared == "push-out" and state.phase != PUSH_OUT_ALLOWED:
            raise IllegalEntry("push out", "a push-out is only allowed right after a legal break")
        refuse_break(state, shot)

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        if shot.is_choice:
            return answer(state, str(shot.declared))
        if state.phase == ANSWER:
            state = accepts(state)
        legal = self.legal_balls(state, shot)
        pushed = shot.declared == "push-out"
        found = fouls_of(shot, legal, options, contact=not pushed, rail=not pushed and state.phase != BREAK)
        if state.phase == BREAK and (dry_and_soft(shot) or _short_of_points(shot, options)):
            found.append("illegal-break")
        return self._decide(state, shot, legal, standing(shot, found), options)

    def masks(self, state: RackState, options: Options) -> Masks:
        money = frozenset({self.money_ball})
        balls = frozenset(state.balls)
        early = options["money_ball_early"] == "win" or balls == money
        return Masks(
            first=frozenset(self.legal_balls(state)),
            count=balls,
            wins=money if early else frozenset(),
            respotted=money,
        )

    def _decide(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...], options: Options
    ) -> Ruling:
        me, other = state.player, opponent(state.player)
        on_break, pushed = state.phase == BREAK, shot.declared == "push-out"
        made = _made(state, shot, options) and not fouls and not pushed
        won = made and self._wins(state, shot, options)
        # The money ball that falls without winning is spotted, and nothing else is (2.6, 9.8).
        spotted = (self.money_ball,) if self.money_ball in shot.gone and not won else ()
        balls = tuple(ball for ball in state.balls if ball not in shot.gone or ball in spotted)
        counted = sum(ball not in spotted for ball in shot.potted) if made else 0
        short = fouls == ("illegal-break",) and _short_of_points(shot, options) and not dry_and_soft(shot)
        choice_only = short and options["three_point_consequence"] == "choice"
        in_a_row = state.fouls if choice_only else {**state.fouls, me: state.fouls[me] + 1 if fouls else 0}
        board = state.turn_to(
            me, balls=balls, points=state.scored(me, counted), fouls=in_a_row, choices=(), in_hand=None,
            phase=PLAY, run=state.run + counted,
        )  # fmt: skip

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, fouls, spotted, board.turn_to(player, **changes), why, counted=counted)

        if won:
            return ruled(f"the {self.money_ball} falls: {me} wins the rack", me, winner=me)
        if choice_only:
            why = f"fewer than three balls past the line: {other} plays on or hands the shot back"
            return ruled(why, other, phase=ANSWER, choices=("accept", "pass-back"))
        if fouls and third_foul(options, in_a_row[me]):
            why = f"third foul in a row: {other} wins the rack"
            after = board.turn_to(me, winner=other)
            return Ruling(legal, in_order((*fouls, "three-fouls")), spotted, after, why)
        if fouls:
            return ruled(f"foul: {other} has the cue ball in hand anywhere", other, in_hand="anywhere")
        if pushed:
            why = f"push-out: {other} plays on or hands the shot back"
            return ruled(why, other, phase=ANSWER, choices=("accept", "pass-back"))
        if shot.potted and not made:  # 9.7: a ball potted otherwise than called, or by a called safety
            why = f"potted without a call: {other} plays on or hands the shot back"
            return ruled(why, other, phase=ANSWER, choices=("accept", "pass-back"))
        player = me if made else other
        if on_break and options["push_out"]:
            why = f"legal break: {player} shoots and may push out"
            return ruled(why, player, phase=PUSH_OUT_ALLOWED, choices=("push-out",))
        return ruled(f"{me} stays at the table" if made else f"nothing potted: {other} to shoot", player)

    def _wins(self, state: RackState, shot: Seen, options: Options) -> bool:
        if self.money_ball not in shot.potted:
            return False
        if state.phase == BREAK:
            return bool(options["money_ball_on_break"] == "win")
        if options["call"] and shot.called is not None and shot.called[0] != self.money_ball:
            return False
        left = {ball for ball in state.balls if ball not in shot.gone}
        return bool(options["money_ball_early"] == "win") or not left


def _made(state: RackState, shot: Seen, options: Options) -> bool:
    """Whether something fell that keeps the turn: any ball, in a call game the called one, on a break any."""
    if state.phase == BREAK or not options["call"]:
        return bool(shot.potted)
    return shot.made_as_called() and shot.declared != "safety"


def _short_of_points(shot: Seen, options: Options) -> bool:
    """The three-point break: balls potted or past the line must be three (common practice of leagues)."""
    return bool(options["three_point_break"]) and shot.past_line is not None and shot.past_line < BALLS_PAST_LINE
