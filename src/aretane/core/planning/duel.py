"""Racks played to their end by both players: what win values promise, checked by full Monte Carlo.

Each player, at every turn, takes the pot that is worth most by the maps or, where that is worth less than a usual
safety, the safety that leaves least among those found by trying. Every stroke is played once with a drawn error and
ruled on by the referee's book.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import Cancelled, Samples, errors, play_all, with_errors
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.answer import follow_worth
from aretane.core.planning.one_place import best_from
from aretane.core.planning.outlook import Game, Outlook
from aretane.core.planning.search import direct_fan, kick_fan, play_fan, safe_ideas
from aretane.core.planning.strokes import GLANCE
from aretane.core.rules.game import PLAY, RackState, ShotFacts
from aretane.core.statistics.rates import Rate, wilson
from aretane.core.table import POCKETS

MOST_TURNS = 120
SAFE_FAN, SAFE_TIPS = (0.7, 1.3, 2.2), ((0.0, 0.0), (0.0, 0.35))


def duels(
    outlook: Outlook, layout: Layout, times: int, seed: int = 0, threads: int = 1,
    cancelled: Callable[[], bool] | None = None,
) -> Rate:  # fmt: skip
    """How often the player to shoot wins this rotation rack out of `times`, both with their own hands."""

    def one(number: int) -> bool:
        if cancelled is not None and cancelled():
            raise Cancelled
        return _wins(outlook, layout, seed * 100_003 + number)

    with ThreadPoolExecutor(threads) as pool:
        return wilson(sum(pool.map(one, range(times))), times)


def _wins(outlook: Outlook, layout: Layout, seed: int) -> bool:
    game, state = outlook.game, outlook.game.state
    me = state.player
    for turn in range(MOST_TURNS):
        if state.winner is not None:
            return state.winner == me
        if state.in_hand is not None or layout.cue is None:
            layout = _placed(outlook, layout, state)
            state = state.turn_to(state.player, in_hand=None)
        stroke = _chosen(outlook, layout, state)
        hand = outlook.hands[game.number(state.player)]
        wrong = errors(hand, 1, seed * 128 + turn)
        played = play_all(layout, start_of(layout), with_errors(stroke, wrong))
        state = game.after(state, _facts(state, played))
        stopped = zip(played.names, played.places[0].tolist(), played.fates[0], strict=True)
        balls = {name: (x, y) for name, (x, y), fate in stopped if fate == ON_TABLE}
        back = {ball: game.layout.balls[ball] for ball in state.balls if ball not in balls}
        layout = replace(layout, balls={**balls, **back})
    return False


def _facts(state: RackState, played: Samples) -> ShotFacts:
    """What one played stroke did, for the referee's book."""
    first, rails = int(played.results[0, R_FIRST]), int(played.results[0, R_RAILS_AFTER]).bit_count()
    fallen = [(name, int(fate)) for name, fate in zip(played.names, played.fates[0], strict=True) if 0 <= fate < 6]
    off = tuple(name for name, fate in zip(played.names, played.fates[0], strict=True) if fate == 6)
    called = next(((name, POCKETS[fate]) for name, fate in fallen if name != CUE), None)
    return ShotFacts(
        player=state.player,
        first_contact=played.names[first] if first > 0 else None,
        rails=rails,
        potted=tuple(name for name, _ in fallen if name != CUE),
        pockets={name: POCKETS[fate] for name, fate in fallen},
        scratch=any(name == CUE for name, _ in fallen),
        off_table=off,
        called=called,
    )


def _placed(outlook: Outlook, layout: Layout, state: RackState) -> Layout:
    """The cue ball on the best free place of the map."""
    turn = outlook.quick(state)
    for at in np.argsort(-turn.worth.ravel()):
        x, y = turn.grid.places[at]
        placed = layout.placed(CUE, (float(x), float(y)))
        if not first_overlap(placed):
            return placed
    return layout.placed(CUE, (layout.table.head_line, layout.table.width / 2))


def _chosen(outlook: Outlook, layout: Layout, state: RackState) -> Stroke:
    """The best pot, or a safety where that is worth more."""
    game, player = outlook.game, outlook.game.number(state.player)
    other = outlook.quick(game.passed(state)).standing
    ball, turn = game.on(state)[0], outlook.quick(state)
    pots = best_from(layout, ball, turn.grid, follow_worth(outlook, state, ball), outlook.hands[player], GLANCE, 0)
    if pots:
        worth = pots[0].value + (1.0 - pots[0].pot) * outlook.scale.flip(other.open)
        if worth >= outlook.scale.flip(other.guarded):
            return pots[0].stroke
    return _safety(outlook, layout, state) or (pots[0].stroke if pots else Stroke(speed=2.0, aim=0.0))


def _safety(outlook: Outlook, layout: Layout, state: RackState) -> Stroke | None:
    game: Game = replace(outlook.game, layout=layout, state=state.turn_to(state.player, phase=PLAY))
    mine = outlook.game.number(state.player)
    hands = outlook.hands[mine], outlook.hands[1 - mine]
    fans = [play_fan(game, layout, direct_fan(layout, game.on(game.state), SAFE_FAN, SAFE_TIPS))]
    if not (~fans[0].judged.foul).any():
        fans = [play_fan(game, layout, kick_fan((1.6, 2.8), ((0.0, 0.0),), 240))]
    found = safe_ideas(game, fans, hands, game.on(game.passed(game.state)), 1)
    return found[0].stroke if found else None
