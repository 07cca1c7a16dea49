"""Last resorts: where nothing can be potted, a foul on purpose that leaves less than a failed escape would.

With ball in hand to follow it ties balls up or puts one in front of a pocket; where the cue ball stays after a foul
(straight pool) it leaves no shot. What it costs, points or the next foul of three, the rules' own states say.
"""

from __future__ import annotations

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.planning.choices.search import (
    OFFSETS,
    TIPS,
    Idea,
    Tries,
    direct_fan,
    play_fan,
    quick_leave,
    stroke_from_row,
)
from aretane.core.planning.choices.value import left_by
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.strength import promise
from aretane.core.rules.game import RackState, Seen
from aretane.core.rules.traits import traits_of

SPEEDS = (0.4, 0.7, 1.2)  # m/s: no harder than it takes to roll a ball against another
MOVED = 0.05  # m: a ball that was put somewhere else
LOOKED_AT = 90  # outcomes whose tables are looked at
LESS = 0.9  # of the table's promise: what ties nothing up is no resort


def last_resorts(outlook: Outlook, layout: Layout, soft: Tries, most: int, threads: int) -> list[Idea]:
    """The fouls that leave the other least; none where the rules punish a foul on purpose. `soft`: soft hits of the
    balls on, already played.
    """
    game = outlook.game
    if not traits_of(layout.discipline).foul_on_purpose:
        return []
    after = game.after(game.state, Seen(player=game.me, first_contact=None, rails=0))
    if after.winner is not None:
        return []  # the third foul
    off = tuple(ball for ball in layout.object_balls if ball not in game.on(game.state))
    fans = [soft]
    if off:
        fans.append(play_fan(game, layout, direct_fan(layout, off, SPEEDS, TIPS[:3], OFFSETS // 2), threads))
    found: list[tuple[float, Floats]] = []
    for tries in fans:
        rows = _harmless(tries)
        if after.in_hand is None:
            left = quick_leave(layout, tries.played, rows, outlook.hands[1], game.on(after))
        else:
            rows = _thinned(rows[_moved(layout, tries, rows)])
            left = _promises(outlook, layout, tries, rows, after)
        best = np.argsort(left)[:most]
        found += [(float(left[at]), tries.strokes[rows[at]]) for at in best if np.isfinite(left[at])]
    found.sort(key=lambda one: one[0])
    return [Idea(stroke_from_row(row), foul=True) for _, row in found[:most]]


def _harmless(tries: Tries) -> Ints:
    """Fouls after which everything is still on the table."""
    gone = (tries.played.fates >= 0).any(axis=1)
    return np.flatnonzero(tries.judged.foul & ~gone & ~tries.judged.lost)


def _moved(layout: Layout, tries: Tries, rows: Ints) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    names = tries.played.names
    before = np.array([layout.balls[name] for name in names if name != CUE])
    columns = [at for at, name in enumerate(names) if name != CUE]
    away = np.hypot(*np.moveaxis(tries.played.places[rows][:, columns] - before, 2, 0))
    return np.asarray((away > MOVED).any(axis=1))


def _thinned(rows: Ints) -> Ints:
    return rows[:: max(1, len(rows) // LOOKED_AT)]


def _promises(outlook: Outlook, layout: Layout, tries: Tries, rows: Ints, after: RackState) -> Floats:
    """What the other's ball in hand promises on each table, those left out that promise hardly less than before."""
    usual = outlook.usual(outlook.game.number(after.player), after)
    before = promise(layout, after, usual, outlook)
    tables = (left_by(layout, tries.played, int(row), after) for row in rows)
    found = np.array([promise(table, after, usual, outlook) for table in tables])
    return np.where(found < LESS * before, found, np.inf)
