"""Straight pool's break shot: a ball left beside fourteen that are racked again, from every place of the cue ball;
and the secondary ones, a ball beside what the first has left tied up.

How often it is potted, whether the cue ball opens the rack, and what is left to go on with. The rack is a tight one
as the simulator knows it; a real one differs from day to day.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass

import numpy as np

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.geometry.cut import Cut, cut_for
from aretane.core.geometry.plane import bearing
from aretane.core.geometry.potting_window import aim_gain
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.compiled import Floats
from aretane.core.physics.play import ON_TABLE
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import cue_elsewhere, start_of
from aretane.core.planning.outlook.maps import top
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.outlook.quick import quick_pot
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.pots import Ground, Pots
from aretane.core.planning.pots.strokes import draws_of
from aretane.core.rack import racked
from aretane.core.rules.masks import Flags
from aretane.core.skill.effort import PLAIN, Demand
from aretane.core.skill.hand import Hand
from aretane.core.table import POCKETS, Point, Table

COLUMNS, ROWS = 13, 7
LOOKED_AT, DRAWS = 6, 8  # of a place's strokes, as pots that meet the rack
CLOSER, TRIED, PLAYED = 2, 4, 10  # played with what they leave, so often; the best of them once more
STROKES = np.array([(speed, 0.0, height) for speed in (2.4, 3.4, 4.4) for height in (0.35, 0.0, -0.35)])
OPEN = 3  # balls driven out of the rack: it is opened
DRIVEN = 0.05  # m: so far a ball is driven out
_HALVES = 0.15  # what a made pot is worth beside an opened rack, while strokes are chosen


@dataclass(frozen=True)
class BreakMap:
    """From each place of `grid` (columns x rows) with the stroke that opens best: the chance `pot`, balls of the
    rack, or of the cluster `into` which it goes, that are driven out (`opened`, mean when made), the chance
    `follows` of the next shot's pot when made, and how often the cue ball is lost (`scratch`). `least_angle`: the
    smallest cut, radians, from which it is still opened; None where it never is.
    """

    ball: str
    into: tuple[str, ...]
    grid: Grid
    pot: Floats
    opened: Floats
    follows: Floats
    scratch: Floats
    least_angle: float | None

    def best(self) -> tuple[Point, float, float, float, float]:
        """The place from which most is made of it, with the pot, balls driven out, next pot and
        lost cue ball there.
        """
        at = int(np.argmax(self.pot * (1.0 + self.follows * np.minimum(self.opened, OPEN))))
        x, y = self.grid.places[at]
        pot, opened, follows, scratch = (
            float(one.ravel()[at]) for one in (self.pot, self.opened, self.follows, self.scratch)
        )
        return (float(x), float(y)), pot, opened, follows, scratch

    def worth(self, usual_run: float) -> Floats:
        """Balls expected from the break shot on, where a rack that goes on is worth a `usual_run`."""
        return np.asarray(self.pot * (1.0 + self.follows * usual_run))


def racked_again(table: Table, ball: str, place: Point) -> Layout | None:
    """The fourteen others racked without their apex, and `ball` where it lies; None where it lies in the rack."""
    pack = racked(table, "straight-pool").object_balls
    spots = sorted(pack.values())[1:]  # the apex is nearest to the head
    names = [name for name in OBJECT_BALLS["straight-pool"] if name != ball]
    layout = Layout(table, "straight-pool", {**dict(zip(names, spots, strict=False)), ball: place})
    return None if first_overlap(layout) else layout


def break_map(
    layout: Layout, ball: str, hand: Hand, seed: int = 0, threads: int = 1,
    cancelled: Callable[[], bool] | None = None, into: Collection[str] = (),
) -> BreakMap:  # fmt: skip
    """The map of the break shot with this ball of the layout, as `racked_again` makes one; or of a secondary one
    `into` some of its balls that are tied up.
    """
    grid = Grid(layout.table, COLUMNS, ROWS)
    ground = Ground(layout, threads, cancelled)
    places = grid.free_places(ground.balls(), ground.reach)
    chosen, chance, reaching = openers(ground, ball, places, hand, seed)
    opened, follows, scratch = _followed(ground, chosen, reaching, hand, seed, PLAYED, into)
    enough = min(OPEN, len(into) - 1) if into else OPEN
    shape = COLUMNS, ROWS

    def on_grid(values: Floats) -> Floats:
        out = np.zeros(COLUMNS * ROWS)
        out[chosen.origin] = values
        return out.reshape(shape)

    cuts = [_cut(layout, ball, places[row], int(p)) for row, p in zip(chosen.origin, chosen.pocket, strict=True)]
    made = zip(cuts, opened, chance, strict=True)
    opening = [abs(cut.angle) for cut, n, p in made if cut is not None and n >= enough and p > 0.1]
    return BreakMap(
        ball, tuple(into), grid, on_grid(chance), on_grid(opened), on_grid(follows), on_grid(scratch),
        min(opening, default=None),
    )  # fmt: skip


def openers(ground: Ground, ball: str, places: Floats, hand: Hand, seed: int = 0) -> tuple[Pots, Floats, Flags]:
    """From each of `places` the stroke that pots the ball and leaves the next shot most often, of those that
    drive other balls; with its pot's chance, and whether it reaches the rack at all.
    """
    pots = ground.pots(ball, places, STROKES)
    pots = pots.only(np.sort(top(pots.origin, pots.chance(hand), LOOKED_AT)))
    sampled = ground.sampled(pots, hand, draws_of(DRAWS, seed))
    chance = np.minimum(sampled.weights.sum(axis=1), 1.0)
    drives = (sampled.weights * sampled.disturbed).sum(axis=1)
    closer = np.sort(top(pots.origin, drives + _HALVES * chance, CLOSER))
    pots, chance, reaching = pots.only(closer), chance[closer], drives[closer] > 0.0
    _, follows, _ = _followed(ground, pots, reaching, hand, seed + 1, TRIED)
    best = np.sort(top(pots.origin, chance * (_HALVES + follows), 1))
    return pots.only(best), chance[best], reaching[best]


def _cut(layout: Layout, ball: str, cue: Floats, pocket: int) -> Cut | None:
    """The cut of a pot into the middle of its pocket."""
    place, mouth = layout.balls[ball], layout.table.pockets[POCKETS[pocket]].mouth
    reach = layout.table.radius + layout.table.cue_radius
    return cut_for((float(cue[0]), float(cue[1])), place, bearing(place, mouth), reach)


def _demand(layout: Layout, cut: Cut | None) -> Demand | None:
    """What a plain pot asks of the hand, told from its cut: playing it to see takes ten times as long."""
    if cut is None:
        return None
    return Demand(cut.cue_distance, gain=aim_gain(layout.table, cut.angle, cut.cue_distance))


def _followed(
    ground: Ground, chosen: Pots, reaching: Flags, hand: Hand, seed: int, times: int, into: Collection[str] = ()
) -> tuple[Floats, Floats, Floats]:
    """What each chosen stroke that is `reaching` the rack leaves when it is made, and how often it loses the cue
    ball; each played `times` times. After any other there is nothing to go on with.
    """
    layout, start = ground.layout, start_of(ground.layout)
    opened, follows, scratch = (np.zeros(len(chosen)) for _ in range(3))
    left: list[Floats] = []  # where the balls are after each made one, the cue ball first; NaN: gone
    origin: list[int] = []
    for row in np.flatnonzero(reaching).tolist():
        cue = chosen.candidates[row, :2]
        here = layout.placed(CUE, (float(cue[0]), float(cue[1])))
        demand = PLAIN if hand.plain else _demand(layout, _cut(layout, chosen.ball, cue, int(chosen.pocket[row])))
        tries = tries_of(here, stroke_of(chosen, row), hand, times, seed + row, demand, ball=chosen.ball)
        played = play_all(here, cue_elsewhere(start, here), tries.strokes, ground.threads, lucks=tries.lucks)
        column = played.names.index(chosen.ball)
        stand = played.fates == ON_TABLE
        scratch[row] = float((~stand[:, 0]).mean())
        rows = np.flatnonzero((played.fates[:, column] == chosen.pocket[row]) & stand[:, 0])
        if not len(rows):
            continue
        before = np.array([here.balls[name] for name in played.names])
        moved = np.hypot(*np.moveaxis(played.places[rows] - before, 2, 0)) > DRIVEN
        moved[:, [at for at, name in enumerate(played.names) if not _counts(name, chosen.ball, into)]] = False
        opened[row] = moved.sum(axis=1).mean()
        left += list(np.where(stand[rows, :, None], played.places[rows], np.nan))
        origin += [row] * len(rows)
    if left:
        best = _best_pots(layout.table, np.array(left), hand)
        follows = np.bincount(origin, best, len(chosen)) / np.maximum(np.bincount(origin, minlength=len(chosen)), 1)
    return opened, follows, scratch


def _counts(name: str, potted: str, into: Collection[str]) -> bool:
    """Whether a ball that is driven out is one of those that were to be."""
    return name in into if into else name not in (CUE, potted)


def _best_pots(table: Table, left: Floats, hand: Hand) -> Floats:
    """The chance of the best pot of each of these layouts (n x balls x 2, the cue ball first; NaN: gone)."""
    best = np.zeros(len(left))
    for ball in range(1, left.shape[1]):
        others = np.delete(left, [0, ball], axis=1)
        best = quick_pot(table, left[:, 0], left[:, ball], others, hand, best)
    return best
