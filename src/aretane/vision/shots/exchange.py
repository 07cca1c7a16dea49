"""Names for things at the least total cost, where things beside each other never have one name.

It is the colouring of a graph with costs. From a first colouring two names are exchanged wherever that is better,
always in all the things of these two names that hang together (chains as in Kempe 1879), so that neighbours never
come to have one name.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

MOST = 40  # times through all pairs of names; it has ended long before
FORBIDDEN = 1e6  # of cost
BETTER = 1e-6
NONE = -1


@dataclass(frozen=True)
class Task:
    """What is asked, of things in the order of time.

    `costs` of each name (columns) for each thing (rows); `spans`, the first and last moment of each thing: those
    whose spans meet are beside each other; `follows`, what it costs more that one thing (row) and then another
    (column) come to have one name; `linked`, the names for which that counts; `pairs` of names worth exchanging.
    """

    costs: NDArray[np.float64]
    spans: Sequence[tuple[int, int]]
    follows: NDArray[np.float64]
    linked: Sequence[bool]
    pairs: Sequence[tuple[int, int]]


class Naming:
    """Names told to things. There must be a name for each thing of any moment."""

    def __init__(self, task: Task) -> None:
        self.task = task
        self.costs: list[list[float]] = task.costs.tolist()
        self.follows: list[list[float]] = task.follows.tolist()
        self.beside = _beside(task.spans)
        self.names = [NONE] * len(task.spans)
        self.own = [set[int]() for _ in range(task.costs.shape[1])]
        moments = sorted({first for first, _ in task.spans})
        self.new = [[n for n, (first, _) in enumerate(task.spans) if first == moment] for moment in moments]
        for things in self.new:
            self._tell(things)

    def reprice(self, costs: NDArray[np.float64]) -> None:
        """The same names at other costs."""
        self.costs = costs.tolist()

    def improve(self) -> None:
        """Exchange two names, or tell all names of a moment's new things anew, until neither is better."""
        changed = set(range(len(self.own)))
        for _ in range(MOST):
            again = set[int]()
            for one, other in self.task.pairs:
                if one in changed or other in changed:
                    for chain in list(self._chains(one, other)):
                        if self._gain(one, other, chain) > BETTER:
                            self._exchange(one, other, chain)
                            again |= {one, other}
            for things in self.new:
                again |= self._tell(things)
            if not again:
                return
            changed = again

    def total(self) -> float:
        """What all names cost."""
        return sum(self._cost(name, own) for name, own in enumerate(self.own))

    def exchanges(self) -> Iterator[tuple[float, int, int, set[int]]]:
        """Of each two names the things that exchange them together or not at all, and what more that would cost."""
        for one, other in self.task.pairs:
            for chain in self._chains(one, other):
                yield -self._gain(one, other, chain), one, other, chain

    def _cost(self, name: int, things: Iterable[int]) -> float:
        """Of one name, if these were its things."""
        order = sorted(things)
        cost = sum([self.costs[thing][name] for thing in order])
        if self.task.linked[name]:
            cost += sum([self.follows[a][b] for a, b in pairwise(order)])
        return cost

    def _chains(self, one: int, other: int) -> Iterator[set[int]]:
        """The things of two names that hang together."""
        left = self.own[one] | self.own[other]
        while left:
            chain, new = set[int](), {left.pop()}
            while new:
                chain |= new
                new = left & set[int]().union(*[self.beside[thing] for thing in new])
                left -= new
            yield chain

    def _gain(self, one: int, other: int, chain: set[int]) -> float:
        mine, others = self.own[one], self.own[other]
        now = self._cost(one, mine) + self._cost(other, others)
        return now - self._cost(one, mine ^ chain) - self._cost(other, others ^ chain)

    def _exchange(self, one: int, other: int, chain: set[int]) -> None:
        self.own[one] ^= chain
        self.own[other] ^= chain
        for thing in chain:
            self.names[thing] = one if thing in self.own[one] else other

    def _tell(self, things: Sequence[int]) -> set[int]:
        """Tell the names of things that are new at one moment at the least cost, all others kept; return those that
        have changed."""
        before = [self.names[thing] for thing in things]
        others = [own.difference(things) for own in self.own]
        alone = [self._cost(name, own) for name, own in enumerate(others)]
        costs = np.array([[self._cost(name, own | {thing}) for name, own in enumerate(others)] for thing in things])
        costs -= alone
        for row, thing in enumerate(things):
            costs[row, [self.names[other] for other in self.beside[thing].difference(things)
                        if self.names[other] != NONE]] = FORBIDDEN  # fmt: skip
        rows, columns = linear_sum_assignment(costs)
        after = [int(name) for name in columns]
        if NONE not in before and costs[rows, columns].sum() > costs[rows, before].sum() - BETTER:
            return set()
        self.own = others
        for thing, name in zip(things, after, strict=True):
            self.names[thing] = name
            self.own[name].add(thing)
        return {*before, *after} if NONE not in before else set()


def _beside(spans: Sequence[tuple[int, int]]) -> list[set[int]]:
    beside = [set[int]() for _ in spans]
    for a, b in combinations(range(len(spans)), 2):
        if spans[a][0] <= spans[b][1] and spans[b][0] <= spans[a][1]:
            beside[a].add(b)
            beside[b].add(a)
    return beside
