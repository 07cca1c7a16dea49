"""Visits played to their end in games of free order, and the best stroke now.

At every turn the best stroke is searched from where the balls really are, played once with a drawn error, and what
happens happens: other balls are moved, the cue ball is hidden, a ball rattles out. The maps serve only to choose.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import Cancelled, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.threads import in_threads
from aretane.core.planning.choices.search import judged
from aretane.core.planning.choices.value import mean_rate
from aretane.core.planning.outlook.answer import follow_run, likeliest
from aretane.core.planning.outlook.one_place import Best, best_from
from aretane.core.planning.outlook.outlook import Game, Outlook, Visits
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import QUICK, Effort
from aretane.core.rules.game import PLAY, RackState
from aretane.core.rules.spotting import spotted
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import wilson
from aretane.core.table import POCKETS, Point

MOST_SHOTS = 40
MOST_BALLS = 5  # that are looked at closely for one shot
VISITS = 150  # a run is known to a tenth then
TOGETHER = 8  # visits that are begun together
SHOTS = {"glance": 45, "coarse": 400, "fine": 800}  # by effort: no new visit begins once so many were played
RACKS = {"glance": 60}  # racks of games that are compiled
PLAYED_SEED = 1000  # racks are played on with other errors than the maps were made with


def visits(
    outlook: Outlook, layout: Layout, times: int, seed: int = 0, threads: int = 1,
    cancelled: Callable[[], bool] | None = None, shots: int | None = None,
) -> Visits:  # fmt: skip
    """So many visits of the player of this outlook from `layout`, its cue ball in place. In games of points no new
    ones begin once so many `shots` were played.
    """
    if (racks := outlook.racks(layout)) is not None:
        return Visits(racks.run_outs(times, seed, threads, cancelled))

    def one(number: int) -> tuple[float, float, int]:
        if cancelled is not None and cancelled():
            raise Cancelled
        return _visit(outlook, layout, seed * 100_003 + number)

    found: list[tuple[float, float, int]] = []
    while len(found) < times and (shots is None or sum(one[2] for one in found) < shots):
        found += in_threads(one, range(len(found), min(len(found) + TOGETHER, times)), threads)
    cleared, scored, _ = np.array(found).T
    points = outlook.scale.points
    return Visits(wilson(round(cleared.sum()), len(cleared)), mean_rate(scored, points) if points else None)


def visits_here(
    outlook: Outlook, layout: Layout, effort: Effort, times: int, seed: int = 0, threads: int = 1,
    cancelled: Callable[[], bool] | None = None,
) -> Visits:  # fmt: skip
    """The same with no more care than the `effort` allows, and played once for plan and choices."""
    key = layout.cue, times, seed
    if key not in outlook.visited:
        most = min(times, RACKS.get(effort.name, times)) if outlook.plays_on else times
        outlook.visited[key] = visits(
            outlook, layout, most, seed + PLAYED_SEED, threads, cancelled, SHOTS.get(effort.name)
        )
    return outlook.visited[key]


def best_now(
    outlook: Outlook, layout: Layout, state: RackState, hand: Hand, effort: Effort, seed: int = 0,
    on: Sequence[str] | None = None, most: int = 1,
) -> list[Best]:  # fmt: skip
    """The strokes with the best chances to run out, over the balls that are on (or those named), best first."""
    ground = Ground(layout)
    balls = [ball for ball in (on or outlook.game.on(state)) if ball in layout.balls]
    found = []
    for ball in likeliest(layout, balls, hand, MOST_BALLS):
        stirred = outlook.stirred(outlook.game.after_pot(state, ball))
        worth = follow_run(outlook, state, ball)
        found += best_from(ground, ball, outlook.grid, worth, hand, effort, seed, most, stirred)
    return sorted(found, key=lambda one: -one.value)[:most]


def _visit(outlook: Outlook, layout: Layout, seed: int) -> tuple[float, float, int]:
    """Whether the table was cleared (1 or 0; with a break shot to come, its chance), what was scored, and in how
    many shots.
    """
    game, state = outlook.game, outlook.game.state
    scored = 0.0
    for shot in range(MOST_SHOTS):
        hand = outlook.hands[0].turn(shot)
        if (last := outlook.opening(layout)) is not None:
            return last[0], scored + last[1], shot
        found = best_now(outlook, layout, state, hand, QUICK)
        if not found:
            return 0.0, scored, shot
        best = found[0]
        tried = tries_of(layout, best.stroke, hand, 1, seed * 64 + shot, ball=best.ball)
        played = play_all(layout, start_of(layout), tried.strokes, lucks=tried.lucks)
        column = played.names.index(best.ball)
        fell = int(played.fates[0, column]) == POCKETS.index(best.pocket)
        outcome = judged(game, played, state=state)
        if fell and not outcome.foul[0]:
            scored += _points(game, state, best.ball, int((played.fates[0] != ON_TABLE).sum()))
        if outcome.won[0]:
            return 1.0, scored, shot + 1
        if not fell or outcome.foul[0] or outcome.lost[0]:
            return 0.0, scored, shot + 1
        stopped = zip(played.names, played.places[0].tolist(), played.fates[0], strict=True)
        balls = {name: (x, y) for name, (x, y), fate in stopped if fate == ON_TABLE}
        after = remaining(game, replace(layout, balls=balls), state, best.ball)
        if after is None:
            return 1.0, scored, shot + 1
        state, left = after
        layout = replace(layout, balls={CUE: balls[CUE], **left})
    return 0.0, scored, MOST_SHOTS


def _points(game: Game, state: RackState, ball: str, fallen: int) -> float:
    """What a made pot brings; in straight pool every ball that falls with it counts as well."""
    if traits_of(game.layout.discipline).goes_on:
        return float(fallen)
    return float(game.after_pot(state, ball).points[state.player] - state.points[state.player])


def remaining(game: Game, layout: Layout, state: RackState, ball: str) -> tuple[RackState, dict[str, Point]] | None:
    """The state and the object balls of `layout` once `ball` has gone, or has come back to its spot; None where the
    player has finished or lost his turn by it. In straight pool the last ball of a rack is left alone on the table.
    """
    after = game.after_pot(state, ball)
    if after.winner is not None or after.player != state.player or after.phase != PLAY:
        return None
    back = ball in traits_of(game.layout.discipline).returns and ball in after.balls
    balls = {name: place for name, place in layout.balls.items() if name in (*after.balls, CUE) and name != ball}
    if back:
        balls = spotted(layout.table, layout.discipline, balls, [ball])
    balls.pop(CUE, None)
    if not balls:
        return None
    return after.turn_to(after.player, balls=tuple(name for name in after.balls if name in balls)), balls
