"""Nine-ball. World Pool-Billiard Association, The Rules of Play, sections 2 (Nine Ball) and 6 (Fouls).

Options, with their defaults: ``push_out`` (true), ``three_fouls`` (true), ``fouls`` ("cue-ball" or
"all-balls": whether a moved object ball is a foul).
"""

from __future__ import annotations

from collections.abc import Mapping

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout
from aretane.core.rules.game import (
    UNKNOWN,
    IllegalEntry,
    RackState,
    Ruling,
    ShotFacts,
    in_order,
    opponent,
)

BREAK, PUSH_OUT_ALLOWED, ANSWER, PLAY = "break", "push-out allowed", "answer to a push-out", "play"

BALLS_TO_RAIL_ON_BREAK = 4  # 2.3 (b): unless a ball is pocketed
FOULS_TO_LOSE = 3  # 2.5 and 6.14: three consecutive fouls, with the warning given
MONEY_BALL = "9"


class NineBall:
    name = "nine-ball"

    def rack(self, breaker: str) -> RackState:
        return RackState(player=breaker, balls=OBJECT_BALLS[self.name])

    def resume(self, layout: Layout) -> RackState:
        state = layout.state
        return RackState(
            player=state.player,
            balls=tuple(sorted(layout.object_balls, key=int)),
            phase=PUSH_OUT_ALLOWED if state.push_out_allowed else PLAY,
            in_hand=state.ball_in_hand,
            choices=("push-out",) if state.push_out_allowed else (),
            fouls=dict(state.fouls),
            points=dict(state.points),
        )

    def legal_balls(self, state: RackState, declared: str | None = None) -> tuple[str, ...]:
        """2.2: the lowest-numbered ball on the table. 2.4: any ball, or none, on a push-out."""
        if state.winner or not state.balls:
            return ()
        if declared == "push-out":
            return state.balls
        return (min(state.balls, key=int),)

    def judge(self, state: RackState, shot: ShotFacts, options: Mapping[str, object]) -> Ruling:
        _refuse_impossible(state, shot, options)
        if shot.declared in ("accept", "pass-back"):
            return _answer(state, shot.declared)
        if state.phase == ANSWER:  # playing on means that the table was accepted
            state = _answer(state, "accept").after
        legal = self.legal_balls(state, shot.declared)
        fouls = _fouls(state, shot, legal, options)
        return _settle(state, shot, legal, fouls, options)


def _refuse_impossible(state: RackState, shot: ShotFacts, options: Mapping[str, object]) -> None:
    if state.winner:
        raise IllegalEntry("2.6 end of the rack", "the rack is already over")
    if shot.player is not None and shot.player != state.player:
        raise IllegalEntry("2.1 order of play", f"player {state.player} is at the table, not {shot.player}")
    if shot.declared in ("accept", "pass-back"):
        if state.phase != ANSWER:
            raise IllegalEntry("2.4 push out", f"there is no push-out to {shot.declared}")
        return
    if shot.declared == "push-out":
        if options.get("push_out", True) is False:
            raise IllegalEntry("option push_out", "this match is played without the push-out")
        if state.phase != PUSH_OUT_ALLOWED:
            raise IllegalEntry("2.4 push out", "a push-out is only allowed right after a legal break")
    elif shot.declared not in (None, "safety"):
        raise IllegalEntry("nine-ball", f"{shot.declared!r} is not declared in nine-ball")
    if shot.kind is not None and (shot.kind == "break") != (state.phase == BREAK):
        message = "a rack begins with a break" if state.phase == BREAK else "the break has been played"
        raise IllegalEntry("2.3 break shot", message)
    moved = [*shot.potted, *shot.off_table]
    if shot.first_contact not in (None, UNKNOWN):
        moved.append(str(shot.first_contact))
    for ball in moved:
        if ball != CUE and ball not in state.balls:
            raise IllegalEntry("balls on the table", f"ball {ball} is not on the table any more")
    if shot.first_contact is None and shot.potted:
        raise IllegalEntry("first contact", "balls were potted although none was touched")
    for ball in shot.potted:
        if ball in shot.off_table or shot.potted.count(ball) > 1:
            raise IllegalEntry("balls on the table", f"ball {ball} cannot leave the table twice")


def _answer(state: RackState, choice: str) -> Ruling:
    """2.4: after a push-out the other player shoots, or hands the shot back."""
    player = state.player if choice == "accept" else opponent(state.player)
    after = state.turn_to(player, phase=PLAY, choices=())
    why = "accepts the table" if choice == "accept" else "hands the shot back"
    return Ruling((), (), (), after, f"{state.player} {why}")


def _fouls(
    state: RackState, shot: ShotFacts, legal: tuple[str, ...], options: Mapping[str, object]
) -> tuple[str, ...]:
    """The standard fouls of 2.5; 6.2 and 6.3 are suspended on a push-out (2.4)."""
    if shot.forced_foul != UNKNOWN:
        return (shot.forced_foul,) if shot.forced_foul else ()
    found = [foul for foul in shot.fouls_seen if foul != "moved-ball" or options.get("fouls") == "all-balls"]
    if shot.scratch:
        found.append("scratch")
    if shot.off_table:
        found.append("off-table")
    if shot.declared == "push-out":
        return in_order(found)
    if shot.first_contact is None:
        found.append("no-contact")
    elif shot.first_contact != UNKNOWN and shot.first_contact not in legal:
        found.append("wrong-ball-first")
    if state.phase == BREAK:
        to_rail = shot.object_balls_to_rail if shot.object_balls_to_rail is not None else shot.rails
        if not shot.potted and to_rail is not None and to_rail < BALLS_TO_RAIL_ON_BREAK:
            found.append("illegal-break")
    elif shot.first_contact is not None and not shot.potted and not shot.scratch and shot.rails == 0:
        found.append("no-rail")
    return in_order(found)


def _settle(
    state: RackState,
    shot: ShotFacts,
    legal: tuple[str, ...],
    fouls: tuple[str, ...],
    options: Mapping[str, object],
) -> Ruling:
    me, other = state.player, opponent(state.player)
    pushed = shot.declared == "push-out"
    counts = not fouls and not pushed
    gone = {*shot.potted, *shot.off_table} - {CUE}
    # 2.2 and 2.6: the nine wins when it falls on a legal shot; else it is spotted, and nothing else is.
    spotted = (MONEY_BALL,) if MONEY_BALL in gone and not counts else ()
    balls = tuple(ball for ball in state.balls if ball not in gone or ball in spotted)
    points = {**state.points, me: state.points[me] + (len(shot.potted) if counts else 0)}
    in_a_row = {**state.fouls, me: state.fouls[me] + 1 if fouls else 0}
    board = state.turn_to(me, balls=balls, points=points, fouls=in_a_row, choices=(), in_hand=None)
    if counts and MONEY_BALL in gone:
        return Ruling(legal, (), (), board.turn_to(me, winner=me), f"the nine falls: {me} wins the rack")
    if fouls:
        if options.get("three_fouls", True) is not False and in_a_row[me] >= FOULS_TO_LOSE:
            why = f"third foul in a row: {other} wins the rack"
            return Ruling(legal, in_order((*fouls, "three-fouls")), spotted, board.turn_to(me, winner=other), why)
        after = board.turn_to(other, phase=PLAY, in_hand="anywhere")
        return Ruling(legal, fouls, spotted, after, f"foul: {other} has the cue ball in hand anywhere")
    if pushed:
        after = board.turn_to(other, phase=ANSWER, choices=("accept", "pass-back"))
        return Ruling(legal, (), spotted, after, f"push-out: {other} plays on or hands the shot back")
    if state.phase == BREAK and options.get("push_out", True) is not False:
        player = me if shot.potted else other
        after = board.turn_to(player, phase=PUSH_OUT_ALLOWED, choices=("push-out",))
        return Ruling(legal, (), (), after, f"legal break: {player} shoots and may push out")
    player = me if shot.potted else other
    why = f"{me} stays at the table" if shot.potted else f"nothing potted: {other} to shoot"
    return Ruling(legal, (), (), board.turn_to(player, phase=PLAY), why)
