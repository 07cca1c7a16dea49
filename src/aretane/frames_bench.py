"""Frames of snooker played out on the table: what choices promise of them, held against both players choosing anew
at every stroke, quickly, and playing it with their errors, until the frame is over.

The reference shares the simulator, the rules and the position maps (which only choose) with what it checks, the
maps as fine as those that the choices were valued by, and nothing else: no chain of visits, no chance a ball.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, dataclass, replace
from itertools import count
from typing import Any

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, State
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.options import options_for, outlook_for
from aretane.core.planning.choices.search import in_hand_layouts
from aretane.core.planning.choices.value import cases_of, left_by
from aretane.core.planning.outlook.outlook import Outlook, game_of
from aretane.core.planning.outlook.play_on import hand_row
from aretane.core.planning.outlook.rollout import best_now
from aretane.core.planning.outlook.turn_kernel import (
    CHOICE,
    T_AIM,
    T_ELEVATION,
    T_HEIGHT,
    T_SIDE,
    T_SPEED,
    T_VALUE,
    best_safety,
)  # fmt: skip
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import COARSE, QUICK
from aretane.core.rack import colour_spots
from aretane.core.rules.game import RackState, Seen
from aretane.core.rules.snooker import remaining
from aretane.core.skill.hand import Hand, presets_for
from aretane.core.statistics.rates import wilson
from aretane.core.table import PRESETS as TABLES

MOST_STROKES = 300
NEAREST = 2  # balls off which a safety is tried
LEVELS = ("club", "league", "professional")
FRAMES, FRAME_TABLES = 400, 20
_PROCESSES, _HARD = 2, 2.5


@dataclass
class Frame:
    """A frame under way: the balls, what the rules say of it, and the stroke that it goes on with, if one is given,
    with the ball that is meant.
    """

    outlook: Outlook
    layout: Layout
    state: RackState
    seed: int
    first: tuple[Stroke, str | None] | None = None

    @property
    def hand(self) -> Hand:
        return self.outlook.hands[self.outlook.game.number(self.state.player)]

    def won(self) -> float:
        """Played to its end: 1 if the player of the outlook wins it, .5 where it is not over after very long."""
        for stroke in count():
            if self.state.winner is not None:
                return float(self.state.winner == self.outlook.game.me)
            if stroke == MOST_STROKES:
                return 0.5
            if self.state.choices:
                self.state = self._ruled(Seen(player=self.state.player, declared="accept"))
                continue
            if self.state.in_hand is not None or self.layout.cue is None:
                game = replace(self.outlook.game, layout=self.layout.without(CUE), state=self.state)
                self.layout = in_hand_layouts(game, self.outlook, 1)[0]
            self._play(self.first or self._chosen(), stroke)
            self.first = None
        raise AssertionError

    def _ruled(self, shot: Seen) -> RackState:
        game = self.outlook.game
        return game.rules.settle(self.state, shot, game.options).after

    def _chosen(self) -> tuple[Stroke, str | None]:
        """The pot that is worth most or, where a usual safety is worth more, the safety that leaves least."""
        found = best_now(self.outlook, self.layout, self.state, self.hand, QUICK)
        other = self.outlook.quick(self.outlook.game.passed(self.state)).standing
        if found:
            left = max(0.0, 1.0 - found[0].value / max(remaining(self.state), 1))  # what is still to be played for
            if found[0].value - left * other.open >= -other.guarded:
                return found[0].stroke, found[0].ball
        return self._safety(), None

    def _safety(self) -> Stroke:
        game, layout = self.outlook.game, self.layout
        ground, cue = Ground(layout), np.array(layout.cue)
        theirs = game.on(game.passed(self.state))
        rows = np.array([ground.names.index(ball) for ball in theirs if ball in layout.balls], dtype=np.int64)
        me = game.number(self.state.player)
        mine, other = (hand_row(self.outlook.hands[at]) for at in (me, 1 - me))
        on = sorted(
            (ball for ball in game.on(self.state) if ball in layout.balls),
            key=lambda ball: math.dist(layout.balls[ball], cue),
        )
        best, stroke = math.inf, None
        for ball in on[:NEAREST]:
            choice, target, luck = np.zeros(CHOICE), ground.names.index(ball), self.seed % 1000
            if best_safety(*ground.fixed, target, rows, mine, other, luck, choice) and choice[T_VALUE] < best:
                best = float(choice[T_VALUE])
                stroke = Stroke(
                    float(choice[T_SPEED]), float(choice[T_AIM]), side=float(choice[T_SIDE]),
                    height=float(choice[T_HEIGHT]), elevation=float(choice[T_ELEVATION]),
                )  # fmt: skip
        if stroke is None:
            (x, y), (bx, by) = cue.tolist(), layout.balls[on[0]]
            stroke = Stroke(_HARD, math.atan2(by - y, bx - x))
        return stroke

    def _play(self, chosen: tuple[Stroke, str | None], number: int) -> None:
        stroke, ball = chosen
        game = replace(self.outlook.game, layout=self.layout, state=self.state)
        tried = tries_of(self.layout, stroke, self.hand, 1, self.seed * 512 + number, ball=ball)
        played = play_all(self.layout, start_of(self.layout), tried.strokes, lucks=tried.lucks)
        self.state = cases_of(game, played)[0].after
        self.layout = left_by(self.layout, played, 0, self.state)


def frames(
    progress: Callable[[str], None] | None = None, tables: int = FRAME_TABLES, times: int = FRAMES
) -> list[dict[str, Any]]:
    """The chance of the frame that the first choice is given, and how often it was won."""
    rows = []
    with ProcessPoolExecutor(_PROCESSES) as pool:
        for row in pool.map(_compared, range(tables), [times] * tables):
            rows.append(row)
            if progress is not None:
                progress(row["layout"])
    return rows


def _compared(number: int, times: int) -> dict[str, Any]:
    layout = table(number)
    hands = presets_for(layout.table)
    mine, theirs = LEVELS[number % 3], LEVELS[(number + number // 3) % 3]
    both = hands[mine], hands[theirs]
    found = options_for(layout, both, COARSE, 0, 1)
    outlook = outlook_for(game_of(layout), both, COARSE, 0, 1)
    best = found.options[0]
    first = best.stroke, best.ball
    won = [Frame(outlook, layout, outlook.game.state, 1000 * number + n, first).won() for n in range(times)]
    points = layout.state.points
    return {
        "layout": f"{len(layout.object_balls)} balls, {points['A'] - points['B']:+d}",
        "hands": f"{mine} against {theirs}",
        "win": asdict(best.value.win),
        "won": asdict(wilson(round(sum(won)), times)),
    }


def table(number: int) -> Layout:
    """No to six reds, the colours on their spots, the score near."""
    dice, preset = random.Random(number), TABLES["snooker-12ft"]
    reds = number % 7
    balls = dict(colour_spots(preset))
    for name in [CUE, *(f"red-{at}" for at in range(1, reds + 1))]:
        while name not in balls:
            place = dice.uniform(0.1, preset.length - 0.1), dice.uniform(0.1, preset.width - 0.1)
            if all(math.dist(place, other) > 1.02 * preset.ball_diameter for other in balls.values()):
                balls[name] = place
    lead = dice.randint(-25, 25)
    points = {"A": max(lead, 0), "B": max(-lead, 0)}
    return Layout(preset, "snooker", balls, State(on="red" if reds else "yellow", points=points))
