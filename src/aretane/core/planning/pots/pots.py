"""Many pots of one ball from many places at once: which strokes pot it, how often, and where the cue ball goes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout
from aretane.core.parameters import physics_as_data, physics_of
from aretane.core.physics.compiled import Floats, Ints
from aretane.core.physics.sampling import Cancelled
from aretane.core.physics.start import start_of
from aretane.core.physics.table_shape import table_shape
from aretane.core.physics.threads import in_threads
from aretane.core.planning.pots.pot_kernel import (
    A_HALF,
    A_MOVED,
    A_X,
    C_HIGH,
    C_LOW,
    C_PACE,
    C_WIDER,
    CANDIDATE,
    SOLUTION,
    sample,
    solve,
)  # fmt: skip
from aretane.core.planning.pots.strokes import Draws
from aretane.core.planning.pots.touch_kernel import NONE_ABSENT
from aretane.core.planning.pots.ways_kernel import NARROWEST, PARTS, every_window, ways_from
from aretane.core.rules.masks import Flags
from aretane.core.skill.effort import thrown_off
from aretane.core.skill.hand import Hand
from aretane.core.skill.reach import UNKNOWN, Arm, reach_for
from aretane.core.table import POCKETS, Table

_VAST = 4000.0
_PARTS, _LEAST, _MOST = 8, 25, 400  # parts, and pots in a part


@dataclass(frozen=True)
class Window:
    """The directions (radians) that send a ball into a pocket: the widest part that jaws and balls leave."""

    pocket: str
    low: float
    high: float
    open: float

    @property
    def number(self) -> int:
        return POCKETS.index(self.pocket)


def windows_of(layout: Layout, ball: str) -> list[Window]:
    """Every pocket that is open for this ball; the cue ball is not in the way."""
    return all_windows(layout)[ball]


def all_windows(layout: Layout) -> dict[str, list[Window]]:
    """Every pocket that is open for each object ball; the cue ball is not in the way."""
    placed = layout if layout.cue is not None else layout.placed(CUE, _anywhere(layout))
    start = start_of(placed)
    found = every_window(start.numbers, start.integers, table_shape(layout.table).pockets)
    return {
        ball: [
            Window(pocket, float(low), float(high), float(share))
            for pocket, (low, high, share) in zip(POCKETS, found[row], strict=True)
            if high - low > NARROWEST
        ]
        for row, ball in enumerate(start.names)
        if ball != CUE
    }


@dataclass(frozen=True)
class Pots:
    """Strokes that pot `ball`: row by row the place's index, the pocket, and the columns of the kernel."""

    ball: str
    origin: Ints
    pocket: Ints
    candidates: Floats
    solutions: Floats

    def __len__(self) -> int:
        return len(self.origin)

    def only(self, rows: Ints) -> Pots:
        return replace(
            self,
            origin=self.origin[rows],
            pocket=self.pocket[rows],
            candidates=self.candidates[rows],
            solutions=self.solutions[rows],
        )

    @property
    def landing(self) -> Floats:
        """Where the cue ball stops when nothing goes wrong (n x 2)."""
        return self.solutions[:, A_X : A_X + 2]

    @property
    def moves(self) -> Flags:
        """Whether another ball is moved when nothing goes wrong (n)."""
        return np.asarray(self.solutions[:, A_MOVED] > 0.0)

    def chance(self, hand: Hand) -> Floats:
        """A first idea of each pot's chance: the aims that the window takes, under the hand's normal error."""
        from scipy.special import ndtr

        half, wider = self.solutions[:, A_HALF], 1.0 if hand.plain else self.candidates[:, C_WIDER]
        window = np.maximum((self.candidates[:, C_HIGH] - self.candidates[:, C_LOW]) / 2, 1e-9)
        thrown = thrown_off(hand) * half / window
        spread = np.maximum(np.hypot(hand.aim * wider, thrown), 1e-9)
        # The window without what was added on either side for the jaws.
        return np.asarray(2.0 * ndtr(half / spread) - 1.0)


@dataclass(frozen=True)
class Sampled:
    """Pots under a hand's errors: `weights` (n x s), `landings` (n x s x 2) of the cue ball, and whether
    another ball was moved (`disturbed`, n x s); see the kernel. `touched` (n x s, or empty): which of the balls
    that are absent would have been met, as bits.
    """

    weights: Floats
    landings: Floats
    disturbed: Flags
    touched: Ints


class Ground:
    """A layout made ready for the kernels; the cue ball's own place in it does not matter."""

    def __init__(self, layout: Layout, threads: int = 1, cancelled: Callable[[], bool] | None = None) -> None:
        self.layout = layout.placed(CUE, _anywhere(layout))
        self.threads = threads
        self.cancelled = cancelled
        start = start_of(self.layout)
        self.names = start.names
        x, y = self.layout.balls[CUE]
        self.block = int(1e5 * (x + 3 * y))  # of the errors, for the first place: another one for another cue ball
        physics = physics_of(layout.table)
        self.fixed = (
            start.numbers, start.integers, np.array(physics.numbers()), physics.end_mass_ratio,
            *table_shape(layout.table),
        )  # fmt: skip
        self.vast = table_shape(_vast(layout.table))

    @cached_property
    def reach(self) -> float:
        return self.layout.table.radius + self.layout.table.cue_radius

    def balls(self, without: str | None = None) -> Floats:
        """Places of the object balls (m x 2)."""
        return np.array([p for b, p in self.layout.object_balls.items() if b != without]).reshape(-1, 2)

    def pots(self, ball: str, places: Floats, strokes: Floats, arm: Arm = UNKNOWN) -> Pots:
        """Every one of `strokes` (n x 3) from each place that pots `ball`, in whichever pocket is open, with
        the cue raised as far as it must be.
        """
        row = self.names.index(ball)
        candidates, origin, pocket = self._ways(ball, places, strokes, arm)
        solutions, good = np.zeros((len(candidates), SOLUTION)), np.zeros(len(candidates), dtype=np.bool_)

        def work(part: slice) -> None:
            solve(*self.fixed, *self.vast, row, pocket[part], candidates[part], solutions[part], good[part])

        self._in_parts(work, len(candidates))
        return Pots(ball, origin[good], pocket[good], candidates[good], solutions[good])

    def sampled(self, pots: Pots, hand: Hand, draws: Draws, absent: Floats = NONE_ABSENT) -> Sampled:
        """The pots under a hand's errors and the table's chance; a plain hand meets a table without chance.
        `absent` (m x 3: place and radius): balls that are not there, of which is told whether they would have been
        met.
        """
        shape = len(pots), draws.errors.shape[1]
        noted = shape if len(absent) else (0, 0)
        made = Sampled(
            np.zeros(shape), np.zeros((*shape, 2)), np.zeros(shape, dtype=np.bool_), np.zeros(noted, dtype=np.int64)
        )
        spread = np.array([hand.aim, hand.speed, hand.side, hand.height, hand.elevation])
        row = self.names.index(pots.ball)
        lucks, candidates = draws.lucks, pots.candidates
        if hand.plain:
            lucks, candidates = np.zeros_like(lucks), candidates.copy()
            candidates[:, [C_WIDER, C_PACE]] = 1.0

        def work(part: slice) -> None:
            sample(
                *self.fixed, row, pots.pocket[part], candidates[part], pots.solutions[part], spread,
                draws.errors, lucks, pots.origin[part] + self.block, made.weights[part], made.landings[part],
                made.disturbed[part], absent, made.touched[part], True,
            )  # fmt: skip

        self._in_parts(work, len(pots))
        return made

    def _ways(self, ball: str, places: Floats, strokes: Floats, arm: Arm) -> tuple[Floats, Ints, Ints]:
        """Candidates that a cut can pot from a free enough way and the cue can reach, with the index of their place
        and their pocket.
        """
        numbers, integers, _, end_mass, size, _, pockets = self.fixed
        most = len(places) * len(POCKETS) * PARTS * len(strokes)
        rows = np.empty((most, CANDIDATE))
        origin, pocket = np.empty(most, dtype=np.int64), np.empty(most, dtype=np.int64)
        reach = self._reach(ball, places, arm)
        row = self.names.index(ball)
        count = ways_from(
            numbers, integers, size, pockets, end_mass, row, np.ascontiguousarray(places), reach, strokes, rows,
            origin, pocket,
        )  # fmt: skip
        return rows[:count], origin[:count], pocket[:count]

    def _reach(self, ball: str, places: Floats, arm: Arm) -> Floats:
        """Factors of a stretch, rest or off hand (one for each place)."""
        if arm.handed == "unknown":
            return np.ones(len(places))
        at = self.layout.balls[ball]
        ways = ((x, y, bearing((x, y), at)) for x, y in places.tolist())
        return np.array([reach_for(self.layout.table, (x, y), aim, arm).wider for x, y, aim in ways])

    def _in_parts(self, work: Callable[[slice], None], n: int) -> None:
        """Work on slices, on several threads."""

        def one(begin: int) -> None:
            if self.cancelled is not None and self.cancelled():
                raise Cancelled
            work(slice(begin, min(begin + size, n)))

        # Whatever the threads: a kernel begins with what it found for the pot before, and so each part anew.
        size = min(_MOST, max(_LEAST, -(-n // _PARTS)))
        begins = range(0, n, size)
        in_threads(one, begins, self.threads)


def _vast(table: Table) -> Table:
    """The same bed without end: a pair of balls in its middle never meets a rail."""
    physics = tuple(sorted(physics_as_data(physics_of(table)).items()))
    return replace(table, name="vast", length=_VAST, width=_VAST, physics=physics)


def _anywhere(layout: Layout) -> tuple[float, float]:
    """Some free place for the cue ball."""
    if layout.cue is not None:
        return layout.cue
    table = layout.table
    balls = np.array(list(layout.object_balls.values())).reshape(-1, 2)
    for x in np.linspace(0.1, table.length - 0.1, 24):
        for y in np.linspace(0.1, table.width - 0.1, 12):
            if not len(balls) or np.hypot(*(balls - (x, y)).T).min() > 3 * table.radius:
                return float(x), float(y)
    raise AssertionError("no free place on the bed")
