"""Eight-ball. World Pool-Billiard Association, The Rules of Play, sections 3 (Eight Ball) and 6 (Fouls).

The common league variants are options: see `options.py`.
"""

from __future__ import annotations

from aretane.core.ball import OBJECT_BALLS
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.rules.game import (
    BREAK,
    PLAY,
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
    dry_and_soft,
    fouls_of,
    refuse_break,
    refuse_common,
    standing,
    third_foul,
    under_way,
)

EIGHT = "8"
GROUPS = ("solids", "stripes")


def group_of(ball: str) -> str | None:
    """Solids are 1 to 7, stripes 9 to 15; the eight belongs to nobody."""
    return None if ball == EIGHT else GROUPS[int(ball) > int(EIGHT)]


class EightBall:
    name = "eight-ball"

    def rack(self, breaker: str, options: Options) -> RackState:
        return RackState(player=breaker, breaker=breaker, balls=OBJECT_BALLS[self.name])

    def resume(self, layout: Layout, options: Options) -> RackState:
        return under_way(layout, group=shared_out(layout.state.player, layout.state.group, GROUPS))

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        """3.3: any ball on the break. 3.4: on an open table any but the eight, then the own group, then it."""
        if state.winner:
            return ()
        if state.phase == BREAK:
            return state.balls
        return _own(state, state.player) or tuple(ball for ball in state.balls if ball == EIGHT)

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        refuse_common(state, shot, ("safety",))
        if not shot.is_choice:
            refuse_break(state, shot)

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        if shot.is_choice:
            return self._choice(state, str(shot.declared))
        if state.phase == ANSWER:
            state = accepts(state)
        legal = self.legal_balls(state, shot)
        on_break = state.phase == BREAK
        found = fouls_of(shot, legal, options, rail=not on_break)
        if on_break and dry_and_soft(shot):
            found.append("illegal-break")
        fouls = standing(shot, found)
        return (self._break if on_break else self._play)(state, shot, legal, fouls, options)

    def masks(self, state: RackState, options: Options) -> Masks:
        first = frozenset(self.legal_balls(state))
        eight = frozenset({EIGHT})
        on_the_eight = first == eight
        return Masks(
            first=first,
            count=first if not on_the_eight else eight,
            wins=eight if on_the_eight else frozenset(),
            loses=frozenset() if on_the_eight else eight,
            foul_loses=True,
        )

    def _choice(self, state: RackState, choice: str) -> Ruling:
        """After an illegal break or the eight on a break (3.3). `re-rack`: the chooser breaks; `re-break`: after an
        illegal break the offender again, after the eight on the break the chooser."""
        if choice == "accept":
            return Ruling((), (), (), accepts(state), f"{state.player} accepts the table")
        eight_fell = "re-rack" not in state.choices
        breaker = state.player if choice == "re-rack" or eight_fell else opponent(state.player)
        fresh = RackState(
            player=breaker, breaker=breaker, balls=OBJECT_BALLS[self.name], fouls=state.fouls, points=NOTHING
        )
        why = f"the balls are racked again and {breaker} breaks"
        return Ruling((), (), (), fresh, why, racked=OBJECT_BALLS[self.name])

    def _break(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...], options: Options
    ) -> Ruling:
        me, other = state.player, opponent(state.player)
        eight_fell = EIGHT in shot.gone
        how = options["eight_on_break"]
        won = eight_fell and not fouls and how == "win"
        spotted = (EIGHT,) if eight_fell and not won else ()
        counted = len([ball for ball in shot.potted if ball not in spotted]) if not fouls else 0
        groups = {group_of(ball) for ball in shot.potted} - {None}
        board = state.turn_to(
            me,
            phase=PLAY,
            choices=(),
            in_hand=None,
            balls=tuple(ball for ball in state.balls if ball not in shot.gone or ball in spotted),
            points=state.scored(me, counted),
            fouls={**state.fouls, me: state.fouls[me] + 1 if fouls else 0},
            run=counted,
        )

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, fouls, spotted, board.turn_to(player, **changes), why, counted=counted)

        if won:
            return ruled(f"the eight falls on the break: {me} wins the rack", me, winner=me)
        if eight_fell and fouls:  # 3.3 (f)
            if options["eight_on_foul_break"] == "loss":
                return ruled(f"the eight falls on a foul break: {other} wins the rack", me, winner=other)
            why = f"the eight falls on a foul break: {other} plays with it spotted, or has a new break"
            return ruled(why, other, phase=ANSWER, choices=("accept", "re-break"), in_hand="behind-line")
        if eight_fell and how == "choice":  # 3.3 (e)
            why = f"the eight falls on the break: {me} plays on with it spotted, or breaks again"
            return ruled(why, me, phase=ANSWER, choices=("accept", "re-break"))
        if fouls == ("illegal-break",):  # 3.3 (d)
            why = f"illegal break: {other} accepts the table, breaks a new rack, or has {me} break again"
            return ruled(why, other, phase=ANSWER, choices=("accept", "re-rack", "re-break"))
        if fouls:  # 3.3 (g) and (h)
            why = f"foul on the break: {other} may take the cue ball in hand behind the head string"
            return ruled(why, other, in_hand="behind-line")
        if not shot.potted:
            return ruled(f"nothing potted: {other} to shoot, the table is open", other)
        if not options["open_after_break"] and len(groups) == 1:
            group = groups.pop()
            return ruled(f"{me} has {group}", me, group=shared_out(me, group, GROUPS))
        return ruled(f"{me} stays at the table, which is open", me)

    def _play(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...], options: Options
    ) -> Ruling:
        me, other = state.player, opponent(state.player)
        on_the_eight = legal == (EIGHT,)
        made = not fouls and self._made(state, shot, options)
        counted = len(shot.potted) if made else 0
        in_a_row = {**state.fouls, me: state.fouls[me] + 1 if fouls else 0}
        board = state.turn_to(
            me, balls=tuple(b for b in state.balls if b not in shot.gone), points=state.scored(me, counted),
            fouls=in_a_row, in_hand=None, choices=(), run=state.run + counted,
        )  # fmt: skip

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, fouls, (), board.turn_to(player, **changes), why, counted=counted)

        if EIGHT in shot.gone:
            if made and on_the_eight and EIGHT in shot.potted:
                return ruled(f"the eight falls: {me} wins the rack", me, winner=me)
            return ruled(f"{_lost(shot, on_the_eight, fouls)}: {other} wins the rack", me, winner=other)  # 3.8
        if on_the_eight and "scratch" in fouls and options["scratch_on_eight"] == "loss":
            return ruled(f"a scratch on the eight: {other} wins the rack", me, winner=other)
        if fouls and third_foul(options, in_a_row[me]):
            after = board.turn_to(me, winner=other)
            why = f"third foul in a row: {other} wins the rack"
            return Ruling(legal, in_order((*fouls, "three-fouls")), (), after, why)
        if fouls:
            where = options["in_hand"]
            words = "anywhere" if where == "anywhere" else "behind the head string"
            return ruled(f"foul: {other} has the cue ball in hand {words}", other, in_hand=where)
        if not made:
            missed = "safety" if shot.declared == "safety" else "nothing potted as called"
            return ruled(f"{missed}: {other} to shoot", other)
        if state.group[me] is None and not on_the_eight:  # 3.4
            group = group_of(_deciding(shot, options))
            return ruled(f"{me} has {group} and stays at the table", me, group=shared_out(me, group, GROUPS))
        return ruled(f"{me} stays at the table", me)

    def _made(self, state: RackState, shot: Seen, options: Options) -> bool:
        """3.5: the called ball, of the own group, in the called pocket; without calls any ball of the own group."""
        if shot.declared == "safety":
            return False
        own = _own(state, state.player) or (EIGHT,)
        if options["call"]:
            return shot.made_as_called() and shot.called is not None and shot.called[0] in own
        return any(ball in own for ball in shot.potted)


NOTHING = {"A": 0, "B": 0}


def shared_out(player: str, group: str | None, groups: tuple[str, str]) -> dict[str, str | None]:
    """Each player's group, given one player's. Raises `InputError` for one that is not played with."""
    if group is None:
        return {"A": None, "B": None}
    if group not in groups:
        raise InputError("state.group", f"{group!r} is no group of this game; it has {' and '.join(groups)}")
    rest = groups[1 - groups.index(group)]
    return {player: group, opponent(player): rest}


def _own(state: RackState, player: str) -> tuple[str, ...]:
    """The balls a player may still pot before the eight; on an open table all but the eight."""
    group = state.group[player]
    return tuple(ball for ball in state.balls if ball != EIGHT and group in (None, group_of(ball)))


def _deciding(shot: Seen, options: Options) -> str:
    """The ball that settles the groups: the called one; without calls the first of those that fell."""
    if options["call"] and shot.called is not None:
        return shot.called[0]
    return next(ball for ball in shot.potted if ball != EIGHT)


def _lost(shot: Seen, on_the_eight: bool, fouls: tuple[str, ...]) -> str:
    if EIGHT in shot.off_table:
        return "the eight leaves the table"
    if not on_the_eight:
        return "the eight falls before the group is cleared"
    return "the eight falls with a foul" if fouls else "the eight falls where it was not called"
