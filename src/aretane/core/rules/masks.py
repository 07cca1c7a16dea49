"""A layout's rules as plain sets of balls, so that a million simulated outcomes can be judged at once.

The tests hold nine-ball's masks equal to the referee. Option-dependent cases (a called ball, a push-out) are
given by the caller through `called`.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from aretane.core.layout import Layout
from aretane.core.rules.first_contact import EIGHT, legal_first

Flags = npt.NDArray[np.bool_]
Ints = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Masks:
    """`first`: may be struck first. `count`: a legal pot when they fall. `foul`: a foul when they fall (snooker).
    `as_struck`: of several colours only the one struck first may fall. `rail_needed`: without a pot, a ball must
    reach a rail after the contact.
    """

    first: frozenset[str]
    count: frozenset[str]
    foul: frozenset[str]
    as_struck: bool
    rail_needed: bool


def masks(layout: Layout) -> Masks:
    """What the discipline says about a shot from this layout."""
    first = frozenset(legal_first(layout))
    balls = frozenset(layout.object_balls)
    if layout.discipline == "snooker":
        colours = len(first) > 1 and not any(ball.startswith("red-") for ball in first)
        return Masks(first, first, balls - first, colours, rail_needed=False)
    money = {"eight-ball": EIGHT, "blackball": "black"}.get(layout.discipline)
    if money is not None:
        count = first if layout.state.group else balls - {money}
        return Masks(first, frozenset({money}) if first == {money} else count - {money}, frozenset(), False, True)
    return Masks(first, balls, frozenset(), False, True)


@dataclass(frozen=True)
class Outcomes:
    """What each of n sampled shots was: a foul, a pot that counts, a scratch."""

    foul: Flags
    pot: Flags
    scratch: Flags


def judge(
    rules: Masks,
    names: tuple[str, ...],
    fates: Ints,
    first: Ints,
    balls_to_rail: Ints,
    called: tuple[str, int] | None = None,
) -> Outcomes:
    """Judge n outcomes at once.

    `fates` (n x balls): -1 on the table, 0 to 5 a pocket, 6 off the table; `names` their balls, cue ball first.
    `first`: the row of the ball struck first, -1 for none; `balls_to_rail`: how many different balls reached a
    rail after that. With `called`, a ball and a pocket, only that pot counts.
    """
    rows = {name: row for row, name in enumerate(names)}
    potted = (fates >= 0) & (fates < 6)
    object_potted = potted[:, 1:].any(axis=1)
    legal_rows = np.array([rows[ball] for ball in rules.first if ball in rows], dtype=np.int64)
    foul = potted[:, 0] | (fates == 6).any(axis=1) | ~np.isin(first, legal_rows)
    if rules.rail_needed:
        foul |= ~object_potted & (balls_to_rail == 0)
    for ball in rules.foul & rows.keys():
        foul |= potted[:, rows[ball]]
    if rules.as_struck:
        for ball in rules.first & rows.keys():
            foul |= potted[:, rows[ball]] & (first != rows[ball])
    if called is not None:
        ball, pocket = called
        pot = fates[:, rows[ball]] == pocket
    else:
        counting = [rows[ball] for ball in rules.count if ball in rows]
        pot = potted[:, counting].any(axis=1)
    return Outcomes(foul, pot & ~foul, potted[:, 0])
