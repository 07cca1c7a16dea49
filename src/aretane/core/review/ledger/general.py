"""What a turn is worth where nobody knows how the balls lie: by how many are left, for players like these.

A player makes each further ball with one chance, whatever its place; when he misses, the other one is at the
table. It serves only to carry a ledger over what is not known, and nothing that rests on it is booked as skill.
"""

from __future__ import annotations

from functools import lru_cache

from aretane.core.planning.outlook.frame import frame_chance
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.skill.hand import Hand
from aretane.core.skill.visits import goes_on
from aretane.core.table import Table


def worth_in_general(discipline: str, state: RackState, hands: tuple[Hand, Hand], table: Table) -> float:
    """To the player of `state`, whose hand is the first: the chance to win, in straight pool the balls ahead."""
    traits = traits_of(discipline)
    mine, theirs = (goes_on(hand, table) for hand in hands)
    if traits.goes_on:
        return float(state.points[state.player] - state.points[opponent(state.player)])
    if traits.counts == FRAMES:
        return frame_chance(state, 0.0, (mine, theirs))
    if traits.rotation:
        return shared(len(state.balls), mine, theirs)
    own, other = (_left(discipline, state, player) for player in (state.player, opponent(state.player)))
    return apart(own, other, mine, theirs)


@lru_cache(maxsize=1024)
def shared(balls: int, mine: float, theirs: float) -> float:
    """Both play the same balls; the last one wins."""
    me, other = 1.0, 1.0  # with no ball left the one who potted the last has won
    for _ in range(balls):
        # me = m me' + (1 - m)(1 - other), other = t other' + (1 - t)(1 - me)
        made, returned = mine * me + (1.0 - mine), theirs * other + (1.0 - theirs)
        lap = (1.0 - mine) * (1.0 - theirs)
        me, other = (
            (made - (1.0 - mine) * returned) / (1.0 - lap), (returned - (1.0 - theirs) * made) / (1.0 - lap),
        )  # fmt: skip
    return me


@lru_cache(maxsize=4096)
def apart(own: int, other: int, mine: float, theirs: float) -> float:
    """Each plays his own balls, so many are left to either."""
    if own == 0:
        return 1.0
    if other == 0:
        return 0.0
    made = mine * apart(own - 1, other, mine, theirs) + (1.0 - mine)
    returned = theirs * apart(other - 1, own, theirs, mine) + (1.0 - theirs)
    return (made - (1.0 - mine) * returned) / (1.0 - (1.0 - mine) * (1.0 - theirs))


def _left(discipline: str, state: RackState, player: str) -> int:
    """Balls that a player still needs, the last one counted; on an open table the fewer of the two groups."""
    sorts = [group_of(discipline, ball) for ball in state.balls]
    group = state.group[player]
    groups = [group] if group else list(traits_of(discipline).groups)
    return 1 + min(sorts.count(one) for one in groups)
