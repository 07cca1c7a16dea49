"""Judging many simulated outcomes at once by a state's `Masks`. The tests hold this equal to the referee."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from aretane.core.rules.game import Masks

Flags = npt.NDArray[np.bool_]
Ints = npt.NDArray[np.int64]


@dataclass(frozen=True)
class Outcomes:
    """What each of n sampled shots was: a foul, a pot that keeps the turn, a scratch, the rack won or lost."""

    foul: Flags
    pot: Flags
    scratch: Flags
    won: Flags
    lost: Flags


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
    gone = fates >= 0

    def any_of(balls: Iterable[str], where: Flags) -> Flags:
        return np.asarray(where[:, [rows[ball] for ball in balls if ball in rows]].any(axis=1))

    object_potted = potted[:, 1:].any(axis=1)
    legal_rows = np.array([rows[ball] for ball in rules.first if ball in rows], dtype=np.int64)
    foul = potted[:, 0] | (fates == 6).any(axis=1) | ~np.isin(first, legal_rows)
    if rules.rail_needed:
        foul |= ~object_potted & (balls_to_rail == 0)
    foul |= any_of(rules.foul, potted)
    lost = any_of(rules.loses, gone)
    if rules.needs:
        foul |= object_potted & ~any_of(rules.needs, potted) & ~lost
    if rules.as_struck:
        for ball in rules.first & rows.keys():
            foul |= potted[:, rows[ball]] & (first != rows[ball])
    won = any_of(rules.wins, potted)
    if called is not None:
        ball, pocket = called
        pot = fates[:, rows[ball]] == pocket
        won &= pot if ball in rules.wins else ~won
    else:
        pot = any_of(rules.count, potted)
    if rules.foul_loses:
        lost |= any_of(rules.wins, gone) & (foul | ~won)
    won &= ~foul & ~lost
    if rules.foul_ends is not None:
        won, lost = (won | foul, lost) if rules.foul_ends else (won, lost | foul)
    return Outcomes(foul, pot & ~foul & ~lost, potted[:, 0], won, lost)
