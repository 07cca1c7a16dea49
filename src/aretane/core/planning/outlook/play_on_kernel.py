"""Racks of a rotation game played on to their end, compiled: every turn chosen anew from where the balls
really are.
"""

from __future__ import annotations

import math

import numpy as np

from aretane.core.physics.compiled import (
    DROP,
    FEATURE,
    FROZEN,
    PHASE,
    POTTED,
    RADIUS,
    REST,
    RESULTS,
    S_LENGTH,
    S_WIDTH,
    VX,
    WZ,
    Floats,
    Ints,
    X,
    Y,
    allocating,
    entry,
    kernel,
)  # fmt: skip
from aretane.core.planning.outlook.turn_kernel import (
    CHOICE,
    T_AIM,
    T_PACE,
    T_POCKET,
    T_SPEED,
    T_VALUE,
    T_WIDER,
    best_pot,
    best_safety,
    lawful,
    play_choice,
)  # fmt: skip

# What the rules make of a rack: whether pots are called, how many fouls in a row lose it (0: none).
G_CALL, G_FOULS = range(2)
# How a rack begins: whose turn it is, whether the cue ball is in hand, standing fouls of both, whether the
# first stroke is given (columns T_... follow).
B_PLAYER, B_IN_HAND, B_FOULS, B_OTHER_FOULS, B_GIVEN = range(5)
BEGINS = 5

_MOST_TURNS = 80
_F1, _F2, _F3, _F4 = "float64[::1]", "float64[:,::1]", "float64[:,:,::1]", "float64[:,:,:,::1]"
_I1, _I2 = "int64[::1]", "int64[:,::1]"
_TABLE = f"{_F2}, {_I2}, {_F1}, float64, {_F1}, {_F2}, {_F2}, {_F1}, {_F2}, {_F2}"


@kernel
def take_over(start: Floats, state: Ints, b: Floats, k: Ints) -> None:
    """The table as a shot leaves it becomes the next one's start."""
    for i in range(start.shape[0]):
        start[i, X], start[i, Y] = b[i, X], b[i, Y]
        start[i, VX : WZ + 1] = 0.0
        gone = k[i, PHASE] >= DROP
        state[i, PHASE] = POTTED if gone else REST
        state[i, FROZEN] = -1


@kernel
def next_ball(state: Ints, order: Ints) -> int:
    """Place in `order` of the first ball that is still there; -1 when all have gone."""
    for i in range(order.shape[0]):
        if state[order[i], PHASE] < POTTED:
            return i
    return -1


@kernel
def _overlaps(start: Floats, state: Ints, x: float, y: float, i: int) -> bool:
    for j in range(start.shape[0]):
        reach = start[i, RADIUS] + start[j, RADIUS]
        if j != i and state[j, PHASE] < POTTED and math.hypot(start[j, X] - x, start[j, Y] - y) < reach:
            return True
    return False


@kernel
def place_best(start: Floats, state: Ints, worth: Floats, grid: Floats, line: float) -> None:
    """Put the cue ball in hand on the free place of the grid that is worth most, no further along than `line`."""
    columns, rows = worth.shape
    best = -np.inf
    for i in range(columns):
        for j in range(rows):
            x, y = grid[0] + i * grid[1], grid[2] + j * grid[3]
            if worth[i, j] > best and x <= line and not _overlaps(start, state, x, y, 0):
                best = worth[i, j]
                start[0, X], start[0, Y] = x, y
    state[0, PHASE] = REST


@kernel
def _spot(start: Floats, state: Ints, size: Floats, foot: float, i: int) -> None:
    """Put ball i back on the foot spot, or as near behind it as there is room."""
    x, y = foot, 0.5 * size[S_WIDTH]
    while _overlaps(start, state, x, y, i):
        x += 0.002
    start[i, X], start[i, Y] = x, y
    state[i, PHASE] = REST


@kernel
def hard_at(s: Floats, target: int, choice: Floats) -> None:
    """Where nothing is known to hit: hard at the ball."""
    choice[:] = 0.0
    choice[T_AIM] = math.atan2(s[target, Y] - s[0, Y], s[target, X] - s[0, X])
    choice[T_SPEED], choice[T_WIDER], choice[T_PACE], choice[T_POCKET] = 2.5, 1.0, 1.0, -1.0


@allocating
def _choose(
    s: Floats, st: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats, vast_size: Floats,
    vast_jaws: Floats, vast_pockets: Floats, target: int, strokes: Floats, hand: Floats, other: Floats,
    errors: Floats, lucks: Ints, kept: int, worth: Floats, soft: Floats, grid: Floats, missed: float,
    guarded: float, luck: int, choice: Floats,
) -> None:  # fmt: skip
    """The pot that is worth most or, where that is worth less than a usual safety, the best safety."""
    pots = best_pot(
        s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, target, strokes, hand, errors,
        lucks, kept, worth, soft, grid, missed, choice,
    )  # fmt: skip
    if pots and choice[T_VALUE] >= guarded:
        return
    safe = np.zeros(CHOICE)
    theirs = np.array([target])
    if best_safety(s, st, p, emr, size, jaws, pockets, target, theirs, hand, other, luck + 32, safe):
        safe[T_POCKET] = -1.0
        choice[:] = safe
    elif not pots:
        hard_at(s, target, choice)


@entry(
    f"void({_TABLE}, {_I1}, {_F3}, {_F3}, {_F1}, {_F2}, {_F2}, {_F3}, {_I2}, int64, boolean, {_F1}, {_I1}, {_I1})"
)
def run_outs(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    vast_size: Floats, vast_jaws: Floats, vast_pockets: Floats, order: Ints, worths: Floats, softs: Floats,
    grid: Floats, strokes: Floats, turns: Floats, errors: Floats, lucks: Ints, kept: int, call: bool,
    first: Floats, seeds: Ints, done: Ints,
) -> None:  # fmt: skip
    """For each of `seeds` (n) whether one player clears the table; fills `done` (n) with 1 or 0.

    `turns` (2 x columns H_...): the hands of his strokes, in alternation.

    `order`: rows of the balls in the order of the game, the last one wins. `worths`, `softs` (balls x columns
    x rows): what a place is worth once that ball has gone. `first`: the first stroke as a choice, or empty.
    """
    n = start.shape[0]
    p = p.copy()
    s, st = start.copy(), state.copy()
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    result, choice = np.zeros(RESULTS, np.int64), np.zeros(CHOICE)
    last = order[order.shape[0] - 1]
    opening = np.zeros(CHOICE)  # every rack begins with the same stroke
    at = next_ball(st, order)
    opens = first.shape[0] > 0
    if opens:
        opening[:] = first
    else:
        opens = best_pot(
            s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, order[at], strokes, turns[0],
            errors, lucks, kept, worths[at], softs[at], grid, 0.0, opening,
        )  # fmt: skip
    for r in range(seeds.shape[0]):
        s[:], st[:] = start, state
        done[r] = 0
        for turn in range(_MOST_TURNS):
            hand = turns[turn & 1]
            at = next_ball(st, order)
            target = order[at]
            if turn == 0:
                if not opens:
                    break
                choice[:] = opening
            elif not best_pot(
                s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, target, strokes, hand,
                errors, lucks, kept, worths[at], softs[at], grid, 0.0, choice,
            ):  # fmt: skip
                break
            play_choice(s, st, p, emr, size, jaws, pockets, choice, hand, seeds[r] + turn + 1, b, k, meet, result)
            if not lawful(b, k, result, target):
                break
            made = k[target, PHASE] >= DROP and k[target, FEATURE] == int(choice[T_POCKET])
            if k[last, PHASE] >= DROP and (made or not call) and (target == last or not call):
                done[r] = 1
                break
            if not made:
                break
            take_over(s, st, b, k)
            if st[last, PHASE] >= POTTED:  # a call game's last ball comes back
                _spot(s, st, size, 0.75 * size[0], last)


@entry(
    f"void({_TABLE}, {_I1}, {_F4}, {_F4}, {_F4}, {_F3}, {_F1}, {_F2}, {_F3}, {_F3}, {_I2}, int64, {_I1}, {_I1},"
    f" {_F1}, {_I1}, {_F1})"
)
def racks(
    start: Floats, state: Ints, p: Floats, emr: float, size: Floats, jaws: Floats, pockets: Floats,
    vast_size: Floats, vast_jaws: Floats, vast_pockets: Floats, order: Ints, worths: Floats, softs: Floats,
    places: Floats, standings: Floats, grid: Floats, strokes: Floats, hands: Floats, errors: Floats, lucks: Ints,
    kept: int, game: Ints, begins: Ints, first: Floats, seeds: Ints, won: Floats,
) -> None:  # fmt: skip
    """For each of `seeds` (n) whether player 0 wins the rack; fills `won` (n) with 1, 0 or, unfinished, .5.

    Per player and ball in order: `worths`, `softs` (2 x balls x columns x rows) are what a place is worth once that
    ball has gone, `places` what it is worth for playing that ball, `standings` (2 x balls x 2) his turn in
    general and against a usual safety. `hands` (2 x 2 x columns H_...): of each player's strokes in alternation.
    `first`: the first stroke as a choice, or empty.
    """
    n = start.shape[0]
    p = p.copy()
    s, st = start.copy(), state.copy()
    b, k, meet = start.copy(), state.copy(), np.zeros((n, n))
    result, choice = np.zeros(RESULTS, np.int64), np.zeros(CHOICE)
    last = order[order.shape[0] - 1]
    fouls, strokes_of = np.zeros(2, np.int64), np.zeros(2, np.int64)
    opening, opened = np.zeros(CHOICE), begins[B_GIVEN] != 0  # every rack begins with the same stroke
    if opened:
        opening[:] = first
    for r in range(seeds.shape[0]):
        s[:], st[:] = start, state
        player, in_hand = begins[B_PLAYER], begins[B_IN_HAND] != 0
        fouls[0], fouls[1] = begins[B_FOULS], begins[B_OTHER_FOULS]
        strokes_of[:] = 0
        won[r] = 0.5
        for turn in range(_MOST_TURNS):
            at = next_ball(st, order)
            target, other = order[at], 1 - player
            luck = seeds[r] + 64 * turn + 1
            hand, answers = hands[player, strokes_of[player] & 1], hands[other, strokes_of[other] & 1]
            strokes_of[player] += 1
            if in_hand:
                place_best(s, st, places[player, at], grid, size[S_LENGTH])
                in_hand = False
            if turn == 0 and opened:
                choice[:] = opening
            else:
                _choose(
                    s, st, p, emr, size, jaws, pockets, vast_size, vast_jaws, vast_pockets, target, strokes,
                    hand, answers, errors, lucks, kept, worths[player, at], softs[player, at], grid,
                    1.0 - standings[other, at, 0], 1.0 - standings[other, at, 1], luck, choice,
                )  # fmt: skip
            if turn == 0 and not opened:
                opening[:] = choice
                opened = True
            play_choice(s, st, p, emr, size, jaws, pockets, choice, hand, luck, b, k, meet, result)
            fair = lawful(b, k, result, target)
            made = k[target, PHASE] >= DROP and (k[target, FEATURE] == int(choice[T_POCKET]) or game[G_CALL] == 0)
            wins = k[last, PHASE] == POTTED or k[last, PHASE] == DROP
            fell = False
            for i in range(1, n):
                fell = fell or (st[i, PHASE] < POTTED and k[i, PHASE] >= DROP)
            if fair and wins and (game[G_CALL] == 0 or (made and target == last)):
                won[r] = 1.0 if player == 0 else 0.0
                break
            lost_cue = k[0, PHASE] >= DROP
            take_over(s, st, b, k)
            if lost_cue:
                st[0, PHASE] = POTTED
            if st[last, PHASE] >= POTTED:
                _spot(s, st, size, 0.75 * size[0], last)
            if fair:
                fouls[player] = 0
                if not (made or (fell and game[G_CALL] == 0)):
                    player = other
                continue
            fouls[player] += 1
            if game[G_FOULS] > 0 and fouls[player] >= game[G_FOULS]:
                won[r] = 0.0 if player == 0 else 1.0
                break
            player, in_hand = other, True
