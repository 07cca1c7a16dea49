"""What a player can do with a table that he is left: pot, safety, kick."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from aretane.core.geometry.kick import clear, kicks
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.planning.outlook.maps import tried
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rules.game import RackState
from aretane.core.skill.hand import Hand

MOST_BALLS = 2  # that are looked at closely, the best at a first glance
SEEN = 0.02  # less than this of a ball is nothing


@dataclass(frozen=True)
class Answer:
    """What the player to shoot has: the value of the turn to him, his chance to run out (in points: his run), his
    best pot's chance, whether a ball on can be seen, how far the nearest of them is, and how often a kick would
    hit (1 where nothing needs a kick).
    """

    value: float
    run: float
    pot: float
    seen: float
    distance: float
    kick: float


def answer_to(layout: Layout, state: RackState, outlook: Outlook, seed: int = 0) -> Answer:
    """The best answer to `layout`, which one stroke of player 0 has left, its cue ball in place; what follows it is
    taken from the outlook's maps.
    """
    player = outlook.game.number(state.player)
    hand = outlook.hands[player].turn(1 - player)
    turn = outlook.quick(state)
    other = outlook.quick(outlook.game.passed(state)).standing
    scale = outlook.scale
    on = [ball for ball in turn.on if ball in layout.balls]
    assert layout.cue is not None
    cue = np.array([layout.cue])
    best, run, pot = -math.inf, 0.0, 0.0
    ground, driven = Ground(layout), outlook.scattered(layout, state)
    lever = outlook.lever(state) if driven else 1.0
    for ball in likeliest(layout, on, hand):
        pots = ground.pots(ball, cue, GLANCE.strokes)
        if not len(pots):
            continue
        worth, further = follow_worth(outlook, state, ball), follow_run(outlook, state, ball)
        more = np.maximum(driven - further, 0.0)
        worth, further = worth + lever * more, further + more
        look = tried(ground, turn.grid, pots, hand, GLANCE, [worth - worth.min()], seed)
        chance, value = look.expected(worth)
        value = value + (1.0 - chance) * scale.flip(other.open)
        best, pot = max(best, float(value.max())), max(pot, float(chance.max()))
        run = max(run, float(look.expected(further)[1].max()))
    seen = max((visible_part(layout.cue, b, layout.object_balls, ground.reach) for b in on), default=0.0)
    away = min((math.dist(layout.cue, layout.balls[b]) for b in on), default=0.0)
    kick = 1.0 if seen > SEEN else max((kick_chance(layout, b, hand) for b in on), default=0.0)
    best = max(best, scale.flip(other.guarded) if seen > SEEN else outlook.escape(kick, other))
    return Answer(best, run, pot, seen, away, kick)


def follow_worth(outlook: Outlook, state: RackState, ball: str) -> Floats:
    """What it is worth to the player of `state`, at each place, to have potted this ball."""
    after = outlook.game.after_pot(state, ball)
    gain = outlook.game.scored(state, after) if outlook.scale.points else 0.0
    turn = outlook.quick(state)
    if after.winner is not None:
        won = 0.0 if outlook.scale.points else float(after.winner == state.player)
        return np.full_like(turn.worth, won + gain)
    follow = outlook.quick(after)
    return (follow.worth if after.player == state.player else outlook.scale.flip(follow.worth)) + gain


def follow_run(outlook: Outlook, state: RackState, ball: str) -> Floats:
    """The chance to run out (points: the run) that potting this ball begins, at each place of the cue ball."""
    after = outlook.game.after_pot(state, ball)
    gain = outlook.game.scored(state, after) if outlook.scale.points else 0.0
    if after.winner is not None or after.player != state.player:
        end = gain if outlook.scale.points else float(after.winner == state.player)
        return np.full((outlook.grid.columns, outlook.grid.rows), end)
    return outlook.run_ahead(after) + gain


def kick_chance(layout: Layout, ball: str, hand: Hand) -> float:
    """How often this hand hits a hidden ball by the rails: the best of the clear mirror ways."""
    reach = layout.table.radius + layout.table.cue_radius
    others = {name: place for name, place in layout.object_balls.items() if name != ball}
    best = 0.0
    assert layout.cue is not None
    for way in kicks(layout.table, layout.cue, layout.balls[ball]):
        half = math.asin(min(1.0, reach / way.length))
        spread = max(math.hypot(hand.aim, hand.rail * math.sqrt(len(way.rails))), 1e-9)
        chance = math.erf(half / spread / math.sqrt(2))
        if chance > best and clear(way, layout.cue, layout.balls[ball], others, reach):
            best = chance
    return best


def likeliest(layout: Layout, on: Sequence[str], hand: Hand, most: int = MOST_BALLS) -> list[str]:
    """The balls with the best pots at a first glance."""
    if len(on) <= most:
        return list(on)
    places = np.array([layout.balls[ball] for ball in on])
    every = list(layout.object_balls.items())
    others = np.array([[place for name, place in every if name != ball] for ball in on])
    chances = quick_pot(layout.table, np.repeat([layout.cue], len(on), axis=0), places, others, hand)
    return [on[i] for i in np.argsort(-chances)[:most]]
