"""Every ball followed from picture to picture while it runs.

A ball that stands is looked at only where it stands. Where it is gone, or where one that ran is expected, what is
not cloth is searched for a ball, with all others taken away. A running ball is smeared along its way; the network
that judges patches has seen such balls, and puts their middle in the middle of the smear.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterable, Mapping, Sequence

import numpy as np

from aretane.core.ball import CUE
from aretane.core.table import Point, Table
from aretane.vision.balls.patches import RUNNING, judged
from aretane.vision.paths.exchanged import told_apart, told_by_rest
from aretane.vision.paths.pictures import Frame, View
from aretane.vision.paths.runner import MOVES_LESS, Pixels, Runner
from aretane.vision.paths.searching import FASTEST, OTHER, REACH, Search
from aretane.vision.paths.told import Mark
from aretane.vision.table.camera import places_sigma, project
from aretane.vision.table.cloth import Array

STANDS, CHANCE = 0.35, 0.5  # ball radii that it may seem moved, and the chance of a ball, if it still stands
ANOTHER = 1.5  # of `Search.unlike`: so unlike is a ball that has come to the place of one that it hit
EMPTY, SURELY_EMPTY, VACANT = 0.6, 0.9, 3  # of a disc that is cloth, where a ball has left; in so many pictures
TRIES, KEPT = 5, 0.25  # places kept of one picture; and for how many seconds
THROUGH = 0.6  # ball diameters aside of the middle
SAME = 0.5  # ball diameters: nearer to one that is found already, what is seen is the rest of its smear
BEHIND = 3.0  # how unlikely it is that a ball that was hit is behind the one that hit it
RESTS = 0.24  # seconds in which a ball that rests has not moved
OVER = 0.5  # seconds of rest after which a shot is over
LOST, GIVEN_UP = 0.15, 0.8  # seconds after which a ball that is not seen may have fallen, and is looked for no more
NEAR_POCKET = 0.16  # m from the drop: a ball that was last seen so near, or was on its way there, fell
AT_ONCE = 0.1  # seconds to the pocket, for a ball that nobody saw run
STUCK = 0.6  # seconds: longer no ball runs about in a pocket's mouth
NO_WAY = 0.006  # m: a ball that rests so near to where it stood was covered by somebody, and never ran
SIGMA = 0.7  # pixels, one standard deviation of a place


class Tracker:
    """Follows the balls of a layout, picture by picture. Those that `stay`, by the layouts before and after, do not
    run when somebody covers them."""

    def __init__(
        self, view: View, balls: Mapping[str, Point], time: float, cues: Sequence[str] = (CUE,),
        stay: Collection[str] = (),
    ) -> None:  # fmt: skip
        self.table, self.camera, self.search = view.table, view.camera, Search(view)
        self.runners = [Runner(ball, [Mark(time, place)]) for ball, place in balls.items()]
        self.last, self.cues, self.stay = time, tuple(cues), frozenset(stay)

    def take(self, frame: Frame) -> None:
        """Look at the next picture."""
        standing = [one for one in self.runners if not one.runs and one.pocket is None]
        for one in standing:
            if one.reference is None:
                self.search.refer(one, frame)
        left = self._left(standing, frame)
        if left and len(self.cues) > 1:
            first = [ball for ball in self.cues if any(one.ball == ball for one in left)]
            self.cues = tuple(first[:1]) or self.cues
        for one in left:
            one.runs = one.ran = True
        running = [one for one in self.runners if one.runs]
        if running:
            self._follow(running, frame)
        self._rest(running, frame)
        self.last = frame.time

    @property
    def cue(self) -> str:
        """The ball that was struck: of those that may be the cue ball the first that left, else the likeliest."""
        return self.cues[0]

    @property
    def at_rest(self) -> bool:
        return not any(one.runs for one in self.runners)

    def _left(self, standing: Sequence[Runner], frame: Frame) -> list[Runner]:
        """Those of the standing balls that are no longer there, and have not just been covered by somebody."""
        changed = []
        for one in standing:
            if one.ball not in self.stay and self.search.changed(one, frame):
                changed.append(one)
            else:
                one.marks[-1] = Mark(frame.time, one.place)
        if not changed:
            return []
        pixels, radii = self.search.discs([one.place for one in changed])
        told = judged(frame, frame.known, pixels, radii, RUNNING)
        off = np.linalg.norm(told.centre - pixels, axis=1) / radii
        left = []
        for n, one in enumerate(changed):
            another = (
                one.ball != self.cue
                and self._may_run(one)
                and self.search.unlike_at(one, one.place, frame) > ANOTHER
            )
            if told.chance[n] > CHANCE and off[n] < STANDS and not another:
                self.search.refer(one, frame)
                one.marks[-1] = Mark(frame.time, one.place)
            elif self._may_run(one) and (told.chance[n] > CHANCE or self.search.empty(one, frame, 1.0) > EMPTY):
                left.append(one)
            elif one.ball == self.cue and any(other.ran for other in self.runners):
                left.append(one)  # others run: it was struck, and somebody hides it
            elif told.chance[n] < CHANCE and self.search.empty(one, frame) > SURELY_EMPTY:
                one.vacant += 1
                if one.vacant >= VACANT:
                    left.append(one)  # whoever struck hid the ball that came
                continue
            one.vacant = 0
        return left

    def _may_run(self, one: Runner) -> bool:
        """The cue ball at any time; any other only when a ball that runs is near enough."""
        if one.ball in self.cues:
            return True
        reach = 2 * self.table.ball_diameter
        return any(
            math.dist(one.place, other.place) < reach + 2 * self._way(other, self.last + 0.05)
            for other in self.runners
            if other.runs
        )

    def _way(self, one: Runner, time: float) -> float:
        """How far it can have come since it was last seen."""
        velocity = one.velocity
        speed = FASTEST if velocity is None else float(np.hypot(*velocity))
        return speed * max(0.0, time - one.time)

    def _follow(self, running: Sequence[Runner], frame: Frame) -> None:
        """Find those that run, the plainest first; each takes its place away from the others."""
        known = frame.known.copy()
        self.search.cover(known, [one.place for one in self.runners if not one.runs and one.pocket is None])
        on_its_way = [one for one in running if one.velocity is not None and frame.time - one.time < LOST]
        tries = {one.ball: self.search.sought(one, known, frame) for one in on_its_way}
        open_ = list(on_its_way)
        taken: list[Point] = []
        while open_:
            one = max(open_, key=lambda each: tries[each.ball][0])
            open_.remove(one)
            place = tries[one.ball][1]
            if place is None or any(math.dist(place, other) < SAME * self.table.ball_diameter for other in taken):
                self._missed(one, frame.time)
                continue
            beyond = self._beyond(
                one, place, [other for other in open_ if _near(tries[other.ball][1], place, self.table)]
            )
            if beyond is not None:  # what is seen there is the ball that it hit
                open_ = [one, *(other for other in open_ if other is not beyond)]
                one, place = beyond, tries[beyond.ball][1] or place
            taken.append(place)
            one.marks.append(Mark(frame.time, place))
            one.looks[frame.time] = self.search.look(place, frame)
            self.search.cover(known, [place])
            for other in open_:
                if _near(tries[other.ball][1], place, self.table):
                    tries[other.ball] = self.search.sought(other, known, frame)
        self._none_through(running, frame)
        for one in running:
            if one not in on_its_way and one.time < frame.time:
                self._acquire(one, known, frame)
                if one.time == frame.time:
                    self.search.cover(known, [one.place])

    def _none_through(self, running: Sequence[Runner], frame: Frame) -> None:
        """No ball runs through one that it hits: what is seen beyond is the one that was hit."""
        for one in running:
            if len(one.marks) > 1:
                continue
            for other in running:
                if other is one or other.time < frame.time or len(other.marks) < 3:
                    continue
                if self._through(one.place, other.marks[-2].place, other.place):
                    one.marks.append(other.marks.pop())
                    break

    def _beyond(self, one: Runner, place: Point, others: Sequence[Runner]) -> Runner | None:
        """A ball through which this one would have run to a place."""
        return next((other for other in others if self._through(other.place, one.place, place)), None)

    def _through(self, middle: Point, was: Point, now: Point) -> bool:
        """Whether a ball that runs from one place to another runs through one whose middle is there."""
        run, stood = np.array(now) - was, np.array(middle) - was
        length = float(np.hypot(*run))
        if length < 1e-6:
            return False
        along = float(run @ stood) / length
        aside = abs(float(run[0] * stood[1] - run[1] * stood[0])) / length
        return 0 < along < length and aside < THROUGH * self.table.ball_diameter

    def _acquire(self, one: Runner, known: Array, frame: Frame) -> None:
        """Find one that has only just begun to run, or was hidden: it is believed once it has run straight on for a
        while, as no hand does."""
        found = self.search.candidates(one, known, frame)[:TRIES]
        chain = max(
            (way for worth, place in found for way in one.ways(Mark(frame.time, place), worth)),
            key=lambda way: way[0],
            default=None,
        )
        if chain is not None:
            one.marks += chain[1]
            one.tries = []
            self._tell_apart(one, chain[1][0].t, frame)
            return
        one.tries = [(worth, Mark(frame.time, place)) for worth, place in found] + [
            (worth, mark) for worth, mark in one.tries if frame.time - mark.t < KEPT
        ]
        self._missed(one, frame.time)

    def _tell_apart(self, one: Runner, since: float, frame: Frame) -> None:
        """A ball that was hit and the one that hit it, if they were taken for one another: no ball runs through
        another, so the one that was hit is ahead; and both have their colours."""
        stood = np.array(one.marks[-3].place if len(one.marks) > 2 else one.marks[0].place)
        for other in self.runners:
            earlier = [mark for mark in other.marks if mark.t < since]
            if other is one or not other.ran or other.time != frame.time or not earlier:
                continue
            line = stood - earlier[-1].place
            away = float(np.hypot(*line))
            if away > self.table.ball_diameter + REACH + self._way_before(earlier, since):
                continue

            def cost(
                hit: Point, by: Point, other: Runner = other, line: Pixels = line, away: float = away
            ) -> float:
                ahead = float((np.array(hit) - by) @ line) / max(away, 1e-6)
                unlike = self.search.unlike_at(one, hit, frame) + self.search.unlike_at(other, by, frame)
                return unlike + BEHIND * (ahead < 0)

            if cost(other.place, one.place) < cost(one.place, other.place):
                ours, theirs = ([mark for mark in each.marks if mark.t >= since] for each in (one, other))
                one.marks = [mark for mark in one.marks if mark.t < since] + theirs
                other.marks = earlier + ours
                return

    def _way_before(self, earlier: Sequence[Mark], until: float) -> float:
        if len(earlier) < 2 or earlier[-1].t <= earlier[-2].t:
            return FASTEST * (until - earlier[-1].t)
        a, b = earlier[-2:]
        return math.dist(a.place, b.place) / (b.t - a.t) * (until - b.t)

    def _missed(self, one: Runner, time: float) -> None:
        """It is not seen in this picture: covered, or fallen."""
        gone = time - one.time
        if gone > LOST and (pocket := self._fell(one)) is not None:
            one.runs, one.pocket = False, pocket
        elif gone > GIVEN_UP:
            one.runs, one.lost = False, True

    def _fell(self, one: Runner) -> str | None:
        """The pocket at which it was last seen, or on its way to which."""
        velocity = one.velocity
        ahead = np.zeros(2) if velocity is None else 0.12 * velocity
        place = np.array(one.place)

        def away(drop: Point) -> float:
            share = float(np.clip(ahead @ (np.array(drop) - place) / max(1e-9, float(ahead @ ahead)), 0, 1))
            return math.dist(place + share * ahead, drop)

        nearest = min(self.table.pockets.values(), key=lambda pocket: away(pocket.drop))
        return nearest.name if away(nearest.drop) < NEAR_POCKET else None

    def _rest(self, running: Sequence[Runner], frame: Frame) -> None:
        """Those that have not moved for a while stand."""
        for one in running:
            since = [mark for mark in one.marks if mark.t > frame.time - RESTS]
            if not one.runs or one.time < frame.time or len(since) < 3 or frame.time - one.marks[0].t < RESTS:
                continue
            if since[-1].t - since[0].t < 0.7 * RESTS:
                continue
            middle = np.mean([mark.place for mark in since], axis=0)
            if max(math.dist(mark.place, middle) for mark in since) < MOVES_LESS:
                one.runs = False
                one.marks.append(Mark(frame.time, (float(middle[0]), float(middle[1]))))
                self.search.refer(one, frame)

    def settle(self, white: Point | None = None) -> None:
        """All that is told only by the whole: who is who after balls met (`white`: where the cue ball lies in the
        end), what never left its place, and what is not a ball that runs but the inside of the pocket where it
        fell."""
        for one in self.runners:
            self._stuck(one)
            if one.pocket is not None and len(one.marks) == 1:  # it stood before the pocket and was gone at once
                one.marks.append(Mark(one.time + AT_ONCE, self.table.pockets[one.pocket].drop))
            if one.ran and one.ball != self.cue and not one.runs and one.pocket is None and not one.lost:
                one.ran = math.dist(one.place, one.marks[0].place) > NO_WAY
        told_apart(self.runners, self.cue, self.table.ball_diameter, OTHER)
        if white is not None:
            left = [one for one in self.runners if one.ball not in self.stay]
            told_by_rest(left, self.cue, white, self.table.ball_diameter)

    def _stuck(self, one: Runner) -> None:
        """What was seen in a pocket to the end, and never rested, fell there when it came."""
        if not one.runs or one.time - one.marks[0].t < STUCK:
            return
        drop = min(
            (pocket for pocket in self.table.pockets.values()), key=lambda pocket: math.dist(pocket.drop, one.place)
        )
        last = next(
            (
                n
                for n, mark in reversed(list(enumerate(one.marks)))
                if math.dist(mark.place, drop.drop) > NEAR_POCKET
            ),
            -1,
        )
        if one.time - one.marks[min(last + 1, len(one.marks) - 1)].t > STUCK:
            one.marks = one.marks[: last + 2]
            one.runs, one.pocket = False, drop.name

    def paths(self) -> dict[str, list[Mark]]:
        """Of each ball that ran its marks with their standard deviations."""
        found = {}
        for one in self.runners:
            if one.ran and len(one.marks) > 1:
                places = np.array([[*mark.place, self.table.radius] for mark in one.marks])
                sigma = places_sigma(self.camera, project(self.camera, places), self.table.radius, SIGMA)
                found[one.ball] = [
                    Mark(mark.t, mark.place, float(s)) for mark, s in zip(one.marks, sigma, strict=True)
                ]
        return found


def _near(rival: Point | None, place: Point, table: Table) -> bool:
    return rival is not None and math.dist(rival, place) < table.ball_diameter


def tracked(
    view: View, balls: Mapping[str, Point], looked_at: Iterable[Frame], cues: Sequence[str] = (CUE,),
    stay: Collection[str] = (), white: Point | None = None,
) -> Tracker:  # fmt: skip
    """The balls of a layout followed through these pictures, until all that ran rest. One of `cues`, the likeliest
    first, is struck, and lies at `white` in the end, if that is known; those that `stay` do not run."""
    tracker: Tracker | None = None
    rested = math.inf
    for frame in looked_at:
        if tracker is None:
            tracker = Tracker(view, balls, frame.time, cues, stay)
        tracker.take(frame)
        if not tracker.at_rest or not any(one.ran for one in tracker.runners):
            rested = math.inf
        elif rested == math.inf:
            rested = frame.time
        elif frame.time - rested > OVER:
            break
    tracker = tracker or Tracker(view, balls, 0.0, cues)
    tracker.settle(white)
    return tracker
