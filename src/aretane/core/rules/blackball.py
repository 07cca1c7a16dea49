"""Blackball, the small-table game. World Pool-Billiard Association, Blackball Rules (from memory).

Open table after the break, combinations while it is open, one free shot after a foul, play away from a
touching ball, the black last.

The other common small-table code gives two visits after a foul and settles the colours on the break: options.
"""

from __future__ import annotations

from aretane.core.ball import OBJECT_BALLS
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout
from aretane.core.rules.eight_ball import shared_out
from aretane.core.rules.game import (
    BREAK,
    PLAY,
    Masks,
    Options,
    RackState,
    Ruling,
    Seen,
    opponent,
)
from aretane.core.rules.standard import ANSWER, accepts, fouls_of, refuse_break, refuse_common, standing, under_way

BLACK = "black"
GROUPS = ("reds", "yellows")


def group_of(ball: str) -> str | None:
    return None if ball == BLACK else GROUPS[ball.startswith("yellow")]


class Blackball:
    name = "blackball"

    def rack(self, breaker: str, options: Options) -> RackState:
        return RackState(player=breaker, breaker=breaker, balls=OBJECT_BALLS[self.name])

    def resume(self, layout: Layout, options: Options) -> RackState:
        return under_way(layout, group=shared_out(layout.state.player, layout.state.group, GROUPS))

    def legal_balls(self, state: RackState, shot: Seen | None = None) -> tuple[str, ...]:
        """Any ball on the break and a free shot, any colour on an open table, then the own one, last the black."""
        if state.winner:
            return ()
        if state.phase == BREAK or state.free_shot:
            return state.balls
        return _own(state, state.player) or tuple(ball for ball in state.balls if ball == BLACK)

    def refuse(self, state: RackState, shot: Seen, options: Options) -> None:
        refuse_common(state, shot, ("safety",))
        if not shot.is_choice:
            refuse_break(state, shot)

    def settle(self, state: RackState, shot: Seen, options: Options) -> Ruling:
        if shot.is_choice:
            return self._choice(state, str(shot.declared), options)
        legal = self.legal_balls(state, shot)
        on_break = state.phase == BREAK
        found = fouls_of(shot, legal, options, rail=not on_break and not _snookered(shot, legal))
        if on_break and _too_soft(shot, options):
            found.append("illegal-break")
        if not on_break and _only_theirs(state, shot) and options["opponents_ball"] == "foul":
            found.append("wrong-ball-potted")
        fouls = standing(shot, found)
        if on_break and BLACK in shot.gone:
            why = f"the black falls on the break: the balls are racked again and {state.player} breaks again"
            again = self.rack(state.player, options)
            return Ruling(legal, fouls, (), again, why, racked=OBJECT_BALLS[self.name])
        return self._decide(state, shot, legal, fouls, options)

    def _choice(self, state: RackState, choice: str, options: Options) -> Ruling:
        """After a break that was too soft: the table as it lies with a free shot, or a break of one's own."""
        me = state.player
        if choice == "accept":
            return Ruling((), (), (), accepts(state), f"{me} accepts the table")
        again = self.rack(me, options).turn_to(me, points=state.points, fouls=state.fouls)
        return Ruling((), (), (), again, f"the balls are racked again and {me} breaks", racked=again.balls)

    def masks(self, state: RackState, options: Options) -> Masks:
        own = frozenset(_own(state, state.player))
        black = frozenset({BLACK})
        theirs = frozenset(state.balls) - own - black
        free = state.free_shot or state.phase == BREAK
        on_black = not own
        needs = own or black
        strict = options["opponents_ball"] == "foul" and not free
        return Masks(
            first=frozenset(self.legal_balls(state)),
            count=(own or black) | (theirs if free else frozenset()),
            needs=needs if strict else frozenset(),
            wins=black if on_black else frozenset(),
            loses=frozenset() if on_black else black,
            foul_loses=True,
        )

    def _decide(
        self, state: RackState, shot: Seen, legal: tuple[str, ...], fouls: tuple[str, ...], options: Options
    ) -> Ruling:
        me, other = state.player, opponent(state.player)
        on_break = state.phase == BREAK
        own = _own(state, me)
        keeps = on_break or state.free_shot or any(ball in (own or (BLACK,)) for ball in shot.potted)
        counted = len(shot.potted) if not fouls and keeps else 0
        board = state.turn_to(
            me, phase=PLAY, balls=tuple(ball for ball in state.balls if ball not in shot.gone), in_hand=None,
            points=state.scored(me, counted), fouls={**state.fouls, me: state.fouls[me] + 1 if fouls else 0},
            free_shot=False, choices=(), run=state.run + counted,
        )  # fmt: skip

        def ruled(why: str, player: str, **changes: object) -> Ruling:
            return Ruling(legal, fouls, (), board.turn_to(player, **changes), why, counted=counted)

        if BLACK in shot.gone:
            cleared = not own or (options["black_with_last"] == "win" and not set(own) - shot.gone)
            if BLACK in shot.potted and cleared and not fouls:
                return ruled(f"the black falls: {me} wins the frame", me, winner=me)
            return ruled(f"the black falls out of turn: {other} wins the frame", me, winner=other)
        if fouls:
            visits = 2 if options["after_foul"] == "two-visits" else 1
            what = "two visits" if visits == 2 else "a free shot"
            after = {"in_hand": "behind-line", "free_shot": True, "visits": visits}
            if fouls == ("illegal-break",):
                why = f"illegal break: {other} accepts the table with {what}, or breaks a new rack"
                return ruled(why, other, phase=ANSWER, choices=("accept", "re-rack"), **after)
            why = f"foul: {other} has {what} and may take the cue ball in hand in baulk"
            return ruled(why, other, **after)
        group = self._settled_by(state, shot, options)
        if group is not None:
            board = board.turn_to(me, group=shared_out(me, group, GROUPS))
        if counted:
            why = f"{me} has {group} and stays at the table" if group else f"{me} stays at the table"
            return ruled(why, me)
        if state.visits > 1:
            return ruled(f"{me} has a visit left", me, visits=state.visits - 1, run=0)
        return ruled(f"nothing potted: {other} to shoot", other)

    def _settled_by(self, state: RackState, shot: Seen, options: Options) -> str | None:
        """The colour that this shot gives the player: the only one that fell, of two the called one."""
        if state.group[state.player] is not None or (state.phase == BREAK and not options["group_on_break"]):
            return None
        fallen = {group_of(ball) for ball in shot.potted} - {None}
        if len(fallen) == 1:
            return fallen.pop()
        return group_of(shot.called[0]) if fallen and shot.called else None


def _own(state: RackState, player: str) -> tuple[str, ...]:
    group = state.group[player]
    return tuple(ball for ball in state.balls if ball != BLACK and group in (None, group_of(ball)))


def _too_soft(shot: Seen, options: Options) -> bool:
    return not shot.potted and shot.past_line is not None and shot.past_line < options["balls_past_middle"]


def _only_theirs(state: RackState, shot: Seen) -> bool:
    if state.free_shot or not shot.potted or BLACK in shot.potted:
        return False
    own = _own(state, state.player)
    return not any(ball in own for ball in shot.potted)


def _snookered(shot: Seen, legal: tuple[str, ...]) -> bool:
    """Whether no ball that may be struck could be seen at all: then no rail is needed after the contact."""
    if shot.before is None or shot.before.cue is None:
        return False
    here, reach = shot.before, shot.before.table.radius + shot.before.table.cue_radius
    targets = [ball for ball in legal if ball in here.balls]
    seen = (visible_part(here.balls["cue"], ball, here.object_balls, reach) for ball in targets)
    return bool(targets) and not any(seen)
