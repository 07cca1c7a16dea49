"""What else a pot of the plan may do: the strokes at one of its balls from where the plan has the cue ball."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Ints
from aretane.core.physics.hit import Met, met_at
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.plans.plan import Plan
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import FINE
from aretane.core.skill.hand import Hand
from aretane.core.table import POCKETS

NEXT = 0.5  # the chance of a pot that counts as a next shot

Way = tuple[Stroke, str]  # a stroke and the pocket that it is for


@dataclass(frozen=True)
class Moment:
    """A ball of the plan at its turn: the `table` then, as if none of the others had moved, the `hand` that plays,
    and the balls that are on after it.
    """

    ball: str
    table: Layout
    hand: Hand
    following: tuple[str, ...]


def moments(outlook: Outlook, plan: Plan, until: Collection[str]) -> Iterator[Moment]:
    """The balls of the plan before one of `until`."""
    game, layout, state = outlook.game, outlook.game.layout, outlook.game.state
    for number, entry in enumerate(plan.order):
        if entry.ball in until:
            return
        gone = [ball for ball in layout.object_balls if ball not in state.balls]
        state = game.after_pot(state, entry.ball)
        following = [ball for ball in game.on(state) if ball in state.balls] if state.winner is None else []
        table = layout.without(*gone).placed(CUE, entry.place)
        yield Moment(entry.ball, table, outlook.hands[0].turn(number), tuple(following))


def pots_from(moment: Moment) -> list[Way]:
    """All strokes that pot the ball from there, the surest first."""
    pots = Ground(moment.table).pots(moment.ball, np.array([moment.table.cue]), FINE.strokes)
    if not len(pots):
        return []
    return [(stroke_of(pots, row), POCKETS[int(pots.pocket[row])]) for row in np.argsort(-pots.chance(moment.hand))]


def played_plain(moment: Moment, ways: Sequence[Way]) -> Samples:
    """Each stroke once, without an error."""
    rows = np.array([[s.aim, s.speed, s.side, s.height, s.elevation] for s, _ in ways])
    return play_all(moment.table, start_of(moment.table), rows)


def tried(moment: Moment, way: Way, samples: int, seed: int) -> Samples:
    """One stroke so many times, with the hand's errors."""
    tries = tries_of(moment.table, way[0], moment.hand, samples, seed, ball=moment.ball)
    return play_all(moment.table, start_of(moment.table), tries.strokes, lucks=tries.lucks)


def made(drawn: Samples, moment: Moment, way: Way) -> Ints:
    """The samples in which the ball fell into its pocket and the cue ball stayed."""
    fell = drawn.fates[:, drawn.names.index(moment.ball)] == POCKETS.index(way[1])
    return np.flatnonzero(fell & (drawn.fates[:, 0] == ON_TABLE))


def goes_on(drawn: Samples, rows: Ints, moment: Moment) -> int:
    """In how many of these samples the cue ball stops where a following ball goes one time in two."""
    best = np.zeros(len(rows))
    places = np.where((drawn.fates[rows] == ON_TABLE)[:, :, None], drawn.places[rows], np.nan)
    for ball in moment.following:
        at = drawn.names.index(ball)
        others = np.delete(places, [0, at], axis=1)
        best = np.fmax(
            best, quick_pot(moment.table.table, places[:, 0], places[:, at], others, moment.hand.turn(1))
        )
    return int((best >= NEXT).sum())


def struck_in(layout: Layout, stroke: Stroke, group: Collection[str]) -> tuple[str | None, Met | None]:
    """The ball of a group that the cue ball meets first, played without an error; None where another ball does."""
    shot = simulate(layout, stroke)
    for event in shot.events:
        other = next((ball for ball in event.balls if ball in group), None)
        if event.kind == "contact" and other is not None:
            return (other, met_at(layout, shot, event.t, other)) if CUE in event.balls else (None, None)
    return None, None
