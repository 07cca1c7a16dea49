"""Snooker. World Professional Billiards and Snooker Association, Official Rules, section 3.

Reds and colours in turn, then the colours in rising value. Foul points go to the opponent, who may also ask the
offender to play again; a free ball is nominated when the foul left a snooker. Rule numbers are from memory.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable

from aretane.core.ball import CUE, OBJECT_BALLS, SNOOKER_COLOURS
from aretane.core.errors import InputError
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout
from aretane.core.rules.game import (
    BREAK,
    FREE_BALL,
    PLAY,
    UNKNOWN,
    IllegalEntry,
    Masks,
    Options,
    RackState,
    Ruling,
    Seen,
    opponent,
)
from aretane.core.rules.standard import fouls_of, refuse_common, standing

VALUES = {"red": 1, "yellow": 2, "green": 3, "brown": 4, "blue": 5, "pink": 6, "black": 7}
LEAST_FOUL, MOST_FOUL = 4, 7  # rule 10
RED, COLOUR, BLACK = "red", "colour", "black"
AFTER_FOUL, RESPOTTED_BLACK = "after a foul", "re-spotted black"
MISSES = {"no-contact", "wrong-ball-first"}  # failing to hit a ball on first (rule 14)
HIDDEN = 0.999  # less than this of a ball to be seen: not both its edges can be hit (rule 2, snookered)


def value(ball: str) -> int:
    return VALUES[RED if ball.startswith("red-") else ball]


def is_red(ball: str) -> bool:
    return ball.startswith("red-")


class Snooker:
    name = "snooker"

    def rack(self, breaker: str, options: Options) -> RackState:
        reds = tuple(f"red-{n}" for n in range(1, int(options["reds"]) + 1))
        return RackState(
            player=breaker, breaker=breaker, balls=(*reds, *SNOOKER_COLOURS), in_hand="in-d", on=RED,
            points={"A": options["handicap_a"], "B": options["handicap_b"]},
        )  # fmt: skip

    def resume(self, layout: Layout, options: Options) -> RackState:
        state = layout.state
        balls = tuple(ball for ball in OBJECT_BALLS[self.name] if ball in layout.balls)
        return RackState(
            player=state.player,
            balls=balls,
            phase=AFTER_FOUL if state.free_ball else PLAY,
            in_hand=state.ball_in_hand,
            choices=(FREE_BALL + state.free_ball,) if state.free_ball else (),
            fouls=dict(state.fouls),
            points=dict(state.points),
            on=_said_on(state.on, balls),
        )

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        """Rule 3: a red, any colour after a red, or the lowest colour; a nominated free ball instead (rule 12)."""
        if state.winner:
            return ()
        free = shot.free_ball if shot is not None else None
        return (free,) if free else balls_on(state)

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        if state.phase == RESPOTTED_BLACK and shot.player and not state.winner:
            state = state.turn_to(shot.player)  # the players draw lots for who plays (rule 4)
        refuse_common(state, shot, ("safety",))
        if shot.is_choice:
            return
        if shot.kind == "break" and state.phase != BREAK:
            raise IllegalEntry("break shot", "the break has been played")
        if shot.free_ball is not None:
            if state.phase != AFTER_FOUL:
                raise IllegalEntry("free ball", "a free ball is only nominated right after a foul")
            if shot.free_ball not in state.balls:
                raise IllegalEntry("free ball", f"{shot.free_ball} is not on the table")

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        if shot.is_choice:
            return _choice(state, shot)
        if state.phase == RESPOTTED_BLACK and shot.player:
            state = state.turn_to(shot.player)
        legal = self.legal_balls(state, shot)
        nominated = _nominated(state, shot, legal)
        found = fouls_of(shot, nominated, options, rail=False)
        if any(ball not in _may_fall(state, shot, nominated) for ball in shot.potted):
            found.append("wrong-ball-potted")
        fouls = standing(shot, found)
        if fouls:
            return self._foul(state, shot, legal, fouls, nominated, options)
        return self._legal(state, shot, legal)

    def masks(self, state: RackState, options: Options) -> Masks:
        on = frozenset(balls_on(state))
        colours = state.on == COLOUR
        last = state.balls == (BLACK,)  # the next score or foul ends the frame (rule 4)
        lead = state.points[state.player] - state.points[opponent(state.player)]
        return Masks(
            first=on,
            count=on,
            foul=frozenset(state.balls) - on,
            as_struck=colours,
            rail_needed=False,
            wins=on if last and lead > -VALUES[BLACK] else frozenset(),
            loses=on if last and lead < -VALUES[BLACK] else frozenset(),
            foul_ends=lead > VALUES[BLACK] if last and lead != VALUES[BLACK] else None,
            respotted=frozenset(SNOOKER_COLOURS) if colours or state.on == RED else frozenset(),
        )

    def _legal(self, state: RackState, shot: Seen, legal: tuple[str, ...]) -> Ruling:
        me = state.player
        scored = _points(state, shot)
        spotted = _to_spot(state, shot, fouled=False)
        balls = tuple(ball for ball in state.balls if ball not in shot.gone or ball in spotted)
        after_red = state.on == RED and scored > 0
        board = state.turn_to(
            me, phase=PLAY, balls=balls, points=state.scored(me, scored), run=state.run + scored,
            on=COLOUR if after_red else next_on(balls), in_hand=None, choices=(), undone=None,
            fouls={**state.fouls, me: 0},
        )  # fmt: skip

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, (), spotted, board.turn_to(player, **changes), why, counted=scored)

        if not balls:
            return _finished(ruled, board, me)
        if scored:
            return ruled(f"{scored} to {me}, break {board.run}", me)
        other = opponent(me)
        return ruled(f"nothing potted: {other} to play", other)

    def _foul(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...],
        nominated: tuple[str, ...], options: Options,
    ) -> Ruling:  # fmt: skip
        me, other = state.player, opponent(state.player)
        penalty = foul_points(state, shot, nominated)
        spotted = _to_spot(state, shot, fouled=True)
        balls = tuple(ball for ball in state.balls if ball not in shot.gone or ball in spotted)
        cue_gone = shot.scratch or CUE in shot.off_table
        points = state.scored(other, penalty)
        board = state.turn_to(
            me, phase=AFTER_FOUL, balls=balls, points=points, on=next_on(balls), run=0,
            in_hand="in-d" if cue_gone else None, fouls={**state.fouls, me: state.fouls[me] + 1},
        )  # fmt: skip
        missed = bool(MISSES & set(fouls)) and options["miss"] and not _decided(state, points)

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            after = board.turn_to(player, **{"choices": (), "undone": None, **changes})
            return Ruling(legal, fouls, spotted, after, why)

        if state.balls == (BLACK,):  # rule 4: the first score or foul ends the frame
            return _finished(ruled, board, other)
        free = tuple(FREE_BALL + ball for ball in free_balls(shot.after, board) if ball in balls)
        what = "foul and a miss" if missed else "foul"
        why = f"{what}, {penalty} to {other}, who may ask {me} to play again"
        undone = state.turn_to(me, points=points, choices=(), phase=PLAY, run=0) if missed else None
        return ruled(why, other, choices=("accept", "play-again", *free), undone=undone)


def _said_on(on: str | None, balls: Collection[str]) -> str | None:
    """What a layout says is on; if nothing, what must be."""
    if on is not None and on not in (RED, COLOUR, *balls):
        raise InputError("state.on", f"{on!r} cannot be on: red, colour, or a ball that is on the table")
    return on or next_on(balls)


def balls_on(state: RackState) -> tuple[str, ...]:
    """The balls on: reds, colours after a red, or one colour."""
    if state.on == RED:
        reds = tuple(ball for ball in state.balls if is_red(ball))
        return reds or tuple(ball for ball in state.balls if ball == next_on(state.balls))
    if state.on == COLOUR:
        return tuple(ball for ball in state.balls if not is_red(ball))
    return tuple(ball for ball in state.balls if ball == state.on)


def next_on(balls: Collection[str]) -> str | None:
    """A red while one is left, then the lowest colour."""
    if any(is_red(ball) for ball in balls):
        return RED
    return next((ball for ball in SNOOKER_COLOURS if ball in balls), None)


def foul_points(state: RackState, shot: Seen, nominated: Iterable[str]) -> int:
    """Rule 10: four, or the value of the ball on, struck first, potted or forced off, whichever is highest; seven
    where a colour should have been nominated and neither a word nor a contact says which."""
    nominated = tuple(nominated)
    if state.on == COLOUR and len(nominated) > 1 and shot.first_contact is None:
        return MOST_FOUL
    involved = {*shot.potted, *shot.off_table} - {CUE}
    if shot.first_contact not in (None, UNKNOWN):
        involved.add(str(shot.first_contact))
    worth = [value(ball) for ball in involved if not (is_red(ball) and state.on == RED)]
    if shot.free_ball is not None:  # it stands for the ball on
        worth = [value(ball) for ball in involved - {shot.free_ball}]
        worth.append(_worth_of_on(state))
    elif state.on != COLOUR or len(nominated) == 1:
        worth += [value(ball) for ball in nominated]
    return max([LEAST_FOUL, *worth])


def free_balls(after: Layout | None, board: RackState) -> tuple[str, ...]:
    """The balls that may be nominated when the foul left every ball on hidden; none when one is open or unknown."""
    if after is None or after.cue is None or board.in_hand:
        return ()
    on = balls_on(board)
    if not on or any(ball not in after.balls for ball in on):
        return ()
    reach = after.table.radius + after.table.cue_radius
    others = {ball: place for ball, place in after.object_balls.items() if ball not in on}
    for ball in on:
        alone = {**others, ball: after.balls[ball]}
        if visible_part(after.balls[CUE], ball, alone, reach) >= HIDDEN:
            return ()
    return tuple(ball for ball in board.balls if ball not in on)


def remaining(state: RackState) -> int:
    """Points still on the table: eight for a red with its black, 27 for the colours, seven for a colour on."""
    reds = sum(is_red(ball) for ball in state.balls)
    colours = sum(value(ball) for ball in state.balls if not is_red(ball))
    return reds * 8 + colours + (VALUES[BLACK] if state.on == COLOUR else 0)


def snookers_required(state: RackState, player: str) -> int:
    """How many fouls of the opponent this player needs to draw level with everything that is left."""
    behind = state.points[opponent(player)] - state.points[player] - remaining(state)
    on = next_on(state.balls)
    each = max(LEAST_FOUL, VALUES.get(on or RED, 1))
    return max(0, -(-behind // each))


def _worth_of_on(state: RackState) -> int:
    return VALUES[state.on] if state.on in VALUES else VALUES[RED]


def _nominated(state: RackState, shot: Seen, legal: tuple[str, ...]) -> tuple[str, ...]:
    """The ball on for this stroke: a colour is the one called, else the one that was struck first."""
    if state.on != COLOUR or shot.free_ball is not None:
        return legal
    named = shot.called[0] if shot.called else shot.first_contact
    return (str(named),) if named in legal else legal


def _may_fall(state: RackState, shot: Seen, nominated: tuple[str, ...]) -> set[str]:
    """A free ball and the ball on may fall together (rule 12)."""
    return {*nominated, *(balls_on(state) if shot.free_ball else ())}


def _points(state: RackState, shot: Seen) -> int:
    """What a lawful stroke scores. A free ball counts as the ball on; with reds on, each ball that falls scores."""
    if shot.free_ball is None:
        return sum(value(ball) for ball in shot.potted)
    worth = _worth_of_on(state)
    return worth * len(shot.potted) if state.on == RED else worth * bool(shot.potted)


def _to_spot(state: RackState, shot: Seen, *, fouled: bool) -> tuple[str, ...]:
    """Colours come back, except the ball on that is potted in its turn; reds never do (rule 7)."""
    stays_down = state.on if not fouled and shot.free_ball != state.on else None
    gone = [ball for ball in SNOOKER_COLOURS if ball in shot.gone]
    return tuple(ball for ball in gone if ball != stays_down)


def _decided(state: RackState, points: object) -> bool:
    """Whether a player needs snookers before or after this foul: then no miss is called (rule 14)."""
    after = state.turn_to(state.player, points=points)
    return any(snookers_required(one, player) > 0 for one in (state, after) for player in ("A", "B"))


def _choice(state: RackState, shot: Seen) -> Ruling:
    """After a foul the opponent plays on, or has the offender play again, from the old places after a miss."""
    if shot.declared == "accept":
        on = state.turn_to(state.player, choices=tuple(c for c in state.choices if c.startswith(FREE_BALL)))
        return Ruling((), (), (), on, f"{state.player} plays on")
    offender = opponent(state.player)
    if state.undone is not None and shot.replaced is not False:
        again = state.undone.turn_to(offender, fouls=state.fouls)
        return Ruling((), (), (), again, f"the balls are put back and {offender} plays again")
    again = state.turn_to(offender, phase=PLAY, choices=(), undone=None)
    return Ruling((), (), (), again, f"{offender} plays again")


def _finished(ruled: Callable[..., Ruling], board: RackState, last: str) -> Ruling:
    """The frame after its last black: the higher score, or the black once more (rule 4)."""
    a, b = board.points["A"], board.points["B"]
    if a == b:
        why = "the scores are level: the black is spotted, and the players draw lots for who plays"
        return ruled(why, opponent(last), balls=(BLACK,), on=BLACK, phase=RESPOTTED_BLACK, in_hand="in-d")
    winner = "A" if a > b else "B"
    return ruled(f"{winner} wins the frame {max(a, b)}-{min(a, b)}", last, winner=winner)
