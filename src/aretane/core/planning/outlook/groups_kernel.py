"""Racks of a game of two groups played on to their end, compiled: every turn is chosen anew."""

from __future__ import annotations

import numpy as np

from aretane.core.physics.compiled import (
    DROP,
    FEATURE,
    OFF,
    PHASE,
    POTTED,
    R_FIRST,
    R_RAILS_AFTER,
    RESULTS,
    Floats,
    Ints,
    X,
    Y,
    allocating,
    entry,
    kernel,
)  # fmt: skip
from aretane.core.planning.outlook.play_on_kernel import hard_at, place_best, take_over
from aretane.core.planning.outlook.turn_kernel import (
    CHOICE,
    T_BALL,
    T_POCKET,
    T_VALUE,
    best_pot,
    best_safety,
    likely_pot,
    play_choice,
)  # fmt: skip
from aretane.core.rules.masks import Flags

MONEY = 2  # the sort of the ball that is played last; 0 and 1 are those of the groups, the cue ball's is -1
NO_GROUP = -1
# What the rules make of a rack: whether pots are called, whether it is a foul to pot theirs alone, whether a foul
# gives a shot at any ball, how many fouls in a row lose (0: none), whether one player plays alone until he misses.
G_CALL, G_STRICT, G_FREE, G_FOULS, G_ALONE = range(5)
# How it begins: whose turn, cue ball in hand, his group, standing fouls of both, a shot at any ball, a stroke
# given.
B_PLAYER, B_IN_HAND, B_GROUP, B_FOULS, B_OTHER_FOULS, B_FREE, B_GIVEN = range(7)
BEGINS = 7

_LOOKED_AT = 3  # balls of a turn
_MOST_TURNS = 120
_F1, _F2, _F3, _F4, _F5 = (f"float64[{':,' * n}::1]" for n in range(5))
_I1, _I2 = "int64[::1]", "int64[:,::1]"
_TABLE = f"{_F2}, {_I2}, {_F1}, float64, {_F1}, {_F2}, {_F2}, {_F1}, {_F2}, {_F2}"


@kernel
def _left(st: Ints, sorts: Ints, bits: Ints, sort: int) -> int:
    """The set of the balls of a sort that stand."""
    found = 0
    for i in range(1, st.shape[0]):
        if sorts[i] == sort and st[i, PHASE] < POTTED:
            found |= 1 << bits[i]
    return found


@kernel
def _count(left: int) -> int:
    """Balls in a set, and the one that is played last."""
    count = 1
    while left > 0:
        count += left & 1
        left >>= 1
    return count


@kernel
def _may_strike(st: Ints, sorts: Ints, bits: Ints, group: int, free: bool, legal: Flags) -> None:
    """Fill `legal` (n): any coloured ball on an open table, else the own ones, then the money ball."""
    cleared = group != NO_GROUP and _left(st, sorts, bits, group) == 0
    for i in range(legal.shape[0]):
        stands = i > 0 and st[i, PHASE] < POTTED
        mine = sorts[i] == MONEY if cleared else (sorts[i] == group or (group == NO_GROUP and sorts[i] != MONEY))
        legal[i] = stands and (mine or free)


@allocating
def _safe(
    s: Floats, st: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, legal: Flags,
    theirs: Ints, hand: Floats, other: Floats, luck: int, choice: Floats,
) -> None:  # fmt: skip
    """Fill `choice` with a safety off one of the two nearest balls that may be struck; where nothing lawful is
    found a pot that it holds stays.
    """
    n = st.shape[0]
    away = np.full(n, np.inf)
    for i in range(1, n):
        if legal[i]:
            away[i] = np.hypot(s[i, X] - s[0, X], s[i, Y] - s[0, Y])
    best, found, nearest = np.inf, False, int(np.argmin(away))
    trial = np.zeros(CHOICE)
    for _ in range(2):
        i = int(np.argmin(away))
        if away[i] == np.inf:
            break
        away[i] = np.inf
        if best_safety(s, st, p, emr, size, jaws, pockets, i, theirs, hand, other, luck, trial) and (
            trial[T_VALUE] < best
        ):
            found, best = True, trial[T_VALUE]
            choice[:] = trial
    if found:
        choice[T_POCKET] = -1.0
    elif choice[T_BALL] == 0.0:
        hard_at(s, nearest, choice)


@allocating
def _choose(
    s: Floats, st: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, vast_size: Floats,
    vast_jaws: Floats, vast_pockets: Floats, sorts: Ints, bits: Ints, group: int, legal: Flags, theirs: Ints,
    runs: Floats, softs: Floats, means: Floats, opens: Floats, guards: Floats, brokens: Floats, alone: bool,
    strokes: Floats, hand: Floats, other: Floats, errors: Floats, lucks: Ints, kept: int, grid: Floats, luck: int,
    choice: Floats,
) -> None:  # fmt: skip
    """Fill `choice` with the pot that is worth most or, where a usual safety is worth more, the best safety; a
    player alone has none to play.

    For this player: `runs`, `softs` (sorts x sets x columns x rows), `means` (sorts x sets); `brokens` (sorts x own
    x theirs) a rack whose run breaks down. For the other one, by his sort: `opens`, `guards` (sorts x his x own).
    """
    n = st.shape[0]
    hopes = np.zeros(n)
    for i in range(1, n):
        sort = sorts[i]
        if not legal[i] or (sort != MONEY and group != NO_GROUP and sort != group):
            continue
        if sort == MONEY and (group == NO_GROUP or _left(st, sorts, bits, group) != 0):  # a free shot at any ball
            continue
        side = group if sort == MONEY else sort
        after = _left(st, sorts, bits, side)
        after = after if sort == MONEY else after ^ (1 << bits[i])
        hopes[i] = likely_pot(s, st, pockets, i, hand) * (1.0 if sort == MONEY else 0.02 + means[side, after])
    best = -np.inf
    trial, worth = np.zeros(CHOICE), np.empty((runs.shape[2], runs.shape[3]))
    soft = worth.copy()
    floor = -np.inf
    for _ in range(_LOOKED_AT):
        i = int(np.argmax(hopes))
        if hopes[i] <= 0.0:
            break
        hopes[i] = 0.0
        side = group if sorts[i] == MONEY else sorts[i]
        mine, hers = _left(st, sorts, bits, side), _left(st, sorts, bits, 1 - side)
        own, their = _count(mine), _count(hers)
        missed = 0.0 if alone else 1.0 - opens[1 - side, their, own]
        if sorts[i] == MONEY:
            worth[:] = 1.0
            soft[:] = 1.0
        else:
            after = mine ^ (1 << bits[i])
            broken = 0.0 if alone else brokens[side, own - 1, their]
            worth[:] = broken + (1.0 - broken) * runs[side, after]
            soft[:] = broken + (1.0 - broken) * softs[side, after]
        if best_pot(
            s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, i, strokes, hand, errors, lucks,
            kept, worth, soft, grid, missed, trial,
        ) and trial[T_VALUE] > best:  # fmt: skip
            best = trial[T_VALUE]
            choice[:] = trial
    for side in range(2):
        if group in (side, NO_GROUP):
            own, their = _count(_left(st, sorts, bits, side)), _count(_left(st, sorts, bits, 1 - side))
            floor = max(floor, 1.0 - guards[1 - side, their, own])
    if not alone and best < floor:
        _safe(s, st, p, emr, size, jaws, pockets, legal, theirs, hand, other, luck + 32, choice)


@kernel
def _fell(k: Ints, st: Ints) -> bool:
    """Whether any ball fell."""
    fell = False
    for i in range(1, k.shape[0]):
        fell = fell or (k[i, PHASE] >= DROP and st[i, PHASE] < POTTED)
    return fell


@kernel
def _fair(k: Ints, result: Ints, legal: Flags, st: Ints) -> bool:
    """No foul: a ball that may be struck first, no ball off the table, a rail or a pot."""
    if result[R_FIRST] <= 0 or not legal[result[R_FIRST]] or k[0, PHASE] >= DROP:
        return False
    for i in range(1, k.shape[0]):
        if k[i, PHASE] == OFF and st[i, PHASE] < POTTED:
            return False
    return result[R_RAILS_AFTER] != 0 or _fell(k, st)


@kernel
def _made(k: Ints, st: Ints, mine: Flags, target: int, pocket: int, call: bool) -> int:
    """The row of a ball that keeps the player at the table: the called one, or the first of his own; 0: none."""
    if call:
        fell = target > 0 and k[target, PHASE] >= DROP and k[target, FEATURE] == pocket
        return target if fell else 0
    for i in range(1, k.shape[0]):
        if mine[i] and k[i, PHASE] >= DROP and k[i, PHASE] != OFF and st[i, PHASE] < POTTED:
            return i
    return 0


@kernel
def _better(st: Ints, sorts: Ints, bits: Ints, means: Floats) -> int:
    """The group that promises more."""
    one, other = means[0, _left(st, sorts, bits, 0)], means[1, _left(st, sorts, bits, 1)]
    return 0 if one >= other else 1


@allocating
def _rows_for(st: Ints, sorts: Ints, bits: Ints, group: int) -> Ints:
    """Rows of the balls that a player may pot."""
    legal = np.zeros(st.shape[0], np.bool_)
    _may_strike(st, sorts, bits, group, False, legal)
    return np.flatnonzero(legal)


@entry(
    f"void({_TABLE}, {_I1}, {_I1}, {_F5}, {_F5}, {_F3}, {_F4}, {_F4}, {_F4}, {_F1}, {_F2}, {_F3}, {_F3}, {_I2},"
    f" int64, {_I1}, {_I1}, float64, {_F1}, {_I1}, {_F1})"
)
def racks(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    vast_size: Floats, vast_jaws: Floats, vast_pockets: Floats, sorts: Ints, bits: Ints, runs: Floats,
    softs: Floats, means: Floats, opens: Floats, guards: Floats, brokens: Floats, grid: Floats, strokes: Floats,
    hands: Floats, errors: Floats, lucks: Ints, kept: int, game: Ints, begins: Ints, line: float, first: Floats,
    seeds: Ints, won: Floats,
) -> None:  # fmt: skip
    """For each of `seeds` whether player 0 wins the rack (`game[G_ALONE]`: clears it in one visit): 1, 0 or,
    unfinished, .5.

    `sorts` (n) of the balls, `bits` (n) their place in the sets of their sort. Per player and sort that he has:
    `runs`, `softs` (2 x 2 x sets x columns x rows) chance to run out, `means` over all places, `opens`, `guards`,
    `brokens` (2 x 2 x own x theirs left, the last ball counted) what the turn is worth. `line`: a ball in hand lies
    no further along the table. `hands` (2 x 2 x columns H_...): of each player's strokes in alternation. `first`:
    the first stroke as a choice, or empty.
    """
    n = start.shape[0]
    p = p.copy()
    s, st = start.copy(), state.copy()
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    result, choice = np.zeros(RESULTS, np.int64), np.zeros(CHOICE)
    legal, mine, alone = np.zeros(n, np.bool_), np.zeros(n, np.bool_), game[G_ALONE] != 0
    fouls, groups, strokes_of = np.zeros(2, np.int64), np.zeros(2, np.int64), np.zeros(2, np.int64)
    opening, opened = np.zeros(CHOICE), begins[B_GIVEN] != 0  # every rack begins with the same stroke
    money = int(np.argmax(sorts == MONEY))  # 0 where there is none
    if opened:
        opening[:] = first
    for r in range(seeds.shape[0]):
        s[:], st[:] = start, state
        player, in_hand, free = begins[B_PLAYER], begins[B_IN_HAND] != 0, begins[B_FREE] != 0
        fouls[0], fouls[1] = begins[B_FOULS], begins[B_OTHER_FOULS]
        strokes_of[:] = 0
        groups[player] = begins[B_GROUP]
        groups[1 - player] = NO_GROUP if groups[player] == NO_GROUP else 1 - groups[player]
        won[r] = 0.5
        for turn in range(_MOST_TURNS):
            other, group, luck = 1 - player, groups[player], seeds[r] + 64 * turn + 1
            hand, answers = hands[player, strokes_of[player] & 1], hands[other, strokes_of[other] & 1]
            strokes_of[player] += 1
            _may_strike(st, sorts, bits, group, False, mine)
            _may_strike(st, sorts, bits, group, free, legal)
            if in_hand:
                side = group if group != NO_GROUP else _better(st, sorts, bits, means[player])
                place_best(s, st, runs[player, side, _left(st, sorts, bits, side)], grid, line)
                in_hand = False
            if turn == 0 and opened:
                choice[:] = opening
            else:
                choice[:] = 0.0
                _choose(
                    s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, sorts, bits, group,
                    legal, _rows_for(st, sorts, bits, groups[other]), runs[player], softs[player], means[player],
                    opens[other], guards[other], brokens[player], alone, strokes, hand, answers,
                    errors, lucks, kept, grid, luck, choice,
                )  # fmt: skip
            if turn == 0 and not opened:
                opening[:] = choice
                opened = True
            if alone and choice[T_BALL] == 0.0:
                won[r] = 0.0
                break
            play_choice(s, st, p, emr, size, jaws, pockets, choice, hand, luck, b, k, meet, result)
            fair = _fair(k, result, legal, st)
            made = _made(k, st, mine, int(choice[T_BALL]), int(choice[T_POCKET]), game[G_CALL] != 0)
            if fair and game[G_STRICT] != 0 and not free and made == 0:
                fair = not _fell(k, st)
            cleared = group != NO_GROUP and _left(st, sorts, bits, group) == 0
            if money > 0 and k[money, PHASE] >= DROP and st[money, PHASE] < POTTED:
                wins = fair and cleared and made == money
                won[r] = 1.0 if wins == (player == 0) else 0.0
                break
            keeps = fair and made > 0
            if alone and not keeps:
                won[r] = 0.0
                break
            if keeps and group == NO_GROUP:
                groups[player], groups[other] = sorts[made], 1 - sorts[made]
            lost_cue = k[0, PHASE] >= DROP
            take_over(s, st, b, k)
            if lost_cue:
                st[0, PHASE] = POTTED
            free = False
            if keeps and money == 0 and _left(st, sorts, bits, groups[player]) == 0:
                won[r] = 1.0 if player == 0 else 0.0
                break
            if fair:
                fouls[player] = 0
                player = player if keeps else other
                continue
            fouls[player] += 1
            if game[G_FOULS] > 0 and fouls[player] >= game[G_FOULS]:
                won[r] = 0.0 if player == 0 else 1.0
                break
            player, in_hand, free = other, True, game[G_FREE] != 0
