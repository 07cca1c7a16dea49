"""Two players with their own balls each: what the table is worth to whoever is to shoot, by how many balls either
has left.

A run from a place comes off with the chance that the player's pattern gives it; one that does not breaks down at a
ball, with as many left as then stand, and the other has the table. So the values of all pairs of counts hang
together and are found by going over them again and again, each value half the way to what the others make of it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.planning.orders.pattern import Pattern
from aretane.core.planning.outlook.outlook import HAND_SHARE, KICKED, SAFE_SHARE, USUAL_SHARE, Standing

SHARES = 50  # places like any other, by their worth: this many stand for all of them
_ROUNDS = 60


@dataclass(frozen=True)
class Side:
    """A player with one set of own balls. By how many of them are left, the last one counted (row 0: none):
    `run` (counts x shares): his chance to finish, over places from the worst to the best; `breaks` (counts x
    counts): where a run from i balls that breaks down does so, the chance that k are left then.
    """

    run: Floats
    breaks: Floats

    @property
    def most(self) -> int:
        return len(self.run) - 1


@dataclass(frozen=True)
class Worth:
    """For one of two sides, by own and by the other's balls left (i, j): the turn in general (`open`), after a
    safety that came off, with no ball to be seen, with the ball in hand; and `broken`: to win a rack in which this
    run breaks down.
    """

    open: Floats
    safe: Floats
    hidden: Floats
    in_hand: Floats
    broken: Floats

    def standing(self, own: int, theirs: int) -> Standing:
        at = own, theirs
        return Standing(float(self.open[at]), float(self.safe[at]), float(self.hidden[at]), float(self.in_hand[at]))

    @property
    def guarded(self) -> Floats:
        """Against a safety as good as the usual one, half of which come off (assumed)."""
        return np.asarray((self.open + self.safe) / 2)


def side_of(pattern: Pattern) -> Side:
    """The side of a player whose own balls these are, from where places and sets of balls are taken all alike."""
    most = int(pattern.sizes.max())
    least = int(pattern.sizes.min())
    run, pot = np.ones((most + 1, SHARES)), np.ones(most + 1)
    flat, pots = pattern.run.reshape(len(pattern.run), -1), pattern.pot.reshape(len(pattern.run), -1)
    shares = (np.arange(SHARES) + 0.5) / SHARES
    for left in range(max(least, 1), most + 1):
        sets = np.flatnonzero(pattern.sizes == left)
        run[left] = np.quantile(flat[sets], shares, axis=1).mean(axis=1)
        pot[left] = pots[sets].mean()
    return Side(run, _breaking(run, pot))


def _breaking(run: Floats, pot: Floats) -> Floats:
    """Where runs break down: the first ball is potted as often as from any place, each further one as often as it
    takes to come from one count's chance to the next one's.
    """
    most = len(run) - 1
    usual = run[:, -int(USUAL_SHARE * SHARES) :].mean(axis=1)
    breaks = np.zeros((most + 1, most + 1))
    for begin in range(1, most + 1):
        goes_on = 1.0
        for left in range(begin, 0, -1):
            step = (
                pot[left] if left == begin else float(np.clip(usual[left] / max(usual[left - 1], 1e-9), 0.02, 0.98))
            )
            breaks[begin, left] = goes_on * (1.0 - step)
            goes_on *= step
        breaks[begin] /= max(breaks[begin].sum(), 1e-9)
    return breaks


def exchange(mine: Side, theirs: Side) -> tuple[Worth, Worth]:
    """What the table is worth to either side when it is to shoot."""
    sides = mine, theirs
    shape = [(sides[me].most + 1, sides[1 - me].most + 1) for me in (0, 1)]
    open_, safe = [np.full(one, 0.5) for one in shape], [np.full(one, 0.4) for one in shape]
    found: list[Worth] = []
    for _ in range(_ROUNDS):
        found = [_turn(sides[me], open_[1 - me], safe[1 - me]) for me in (0, 1)]
        open_ = [(old + new.open) / 2 for old, new in zip(open_, found, strict=True)]
        safe = [(old + new.safe) / 2 for old, new in zip(safe, found, strict=True)]
    hidden = [_hidden(open_[1 - me], found[1 - me].in_hand) for me in (0, 1)]
    last = [
        Worth(one.open, one.safe, hide, one.in_hand, one.broken) for one, hide in zip(found, hidden, strict=True)
    ]
    return last[0], last[1]


def _turn(side: Side, other_open: Floats, other_safe: Floats) -> Worth:
    """One side's values from the other's; those by (their, own) counts."""
    broken = side.breaks @ (1.0 - other_open.T)  # they are to shoot, with as many of mine left as then stand
    guarded = 1.0 - (other_open + other_safe).T / 2
    attack = side.run[:, None, :] + (1.0 - side.run[:, None, :]) * broken[:, :, None]
    worth = np.sort(np.maximum(attack, guarded[:, :, None]), axis=2)
    worth[0] = 1.0
    low, best = int(SAFE_SHARE * SHARES), max(1, int(HAND_SHARE * SHARES))
    return Worth(
        worth.mean(axis=2), worth[:, :, :low].mean(axis=2), worth[:, :, 0], worth[:, :, -best:].mean(axis=2), broken
    )


def _hidden(other_open: Floats, other_in_hand: Floats) -> Floats:
    """No ball to be seen: the kick hits and they have the table, or it is a foul."""
    return np.asarray(KICKED * (1.0 - other_open.T) + (1.0 - KICKED) * (1.0 - other_in_hand.T))
