"""What stands on the table, look by look: balls that stay are known, balls that leave their place make a shot.

A ball *stands* when looks in a row find it at one place. Hidden is not gone: a ball has left only when cloth is
seen where it stood. A shot begins when a standing ball has left and ends when all that is found stands again.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from aretane.core.table import Point
from aretane.vision.balls.appearance import Appearance, mean_of, unlikeness
from aretane.vision.balls.identity import cue_cost
from aretane.vision.paths.told import Event, Mark

SAME = 0.026  # m: a find this near to a standing ball is that ball
STANDS = 0.02  # m: two finds this near are one place
TWICE = 2  # looks at one place that make a ball stand
WELL_KNOWN = 5  # looks that a ball must have been seen for its leaving to be a shot
RESTED = 3  # looks after which it no longer rolls on
SPARSE = 1.5  # seconds between looks from which on two looks are all that a ball may get
FEW_LOOKS = 4  # looks, and
LONGEST = 12.0  # seconds, the longer of the two, for everything to come to rest; after that what moves is somebody
HANDS = 2  # finds that do not stand, but may be somebody
ROLLS = 9.0  # seconds after which a stroke moves no ball that still lies (the slowest cloth: some ten to stop)
LATER = 1.6  # seconds that a ball has stood before its leaving can be another shot
NUDGE = 0.06  # m: a shot in which a single ball moves by less is none
REMEMBERED = 60.0  # seconds for which a ball that is neither seen nor seen to be gone is kept
REPEATED = 0.015  # m: two shots whose balls all start and end this near are one, shown twice
ALIKE = 1.0  # of unlikeness: a doubt
RACKED = 3  # balls: if so many more stand than before, a rack was set up, and perhaps broken, meanwhile
SCATTERED = 5  # balls: if more have left at once, a pack was scattered
FEW_GONE = 2  # balls: with so few it may be no shot
LIKE_CUE, UNLIKE_CUE = 1.2, 2.0  # of cost: what looks like the cue ball, and by how much others look less like it
PACKED = 0.13  # m: balls this near to one that left were of its pack
BLEND = 0.25  # weight of the newest look in a place, once a ball has been seen often


Measure = Callable[[Sequence[Point]], Sequence[tuple[Point, float] | None]]


@dataclass(frozen=True)
class Seen:
    """A ball in one look."""

    place: Point
    sigma: float
    score: float
    appearance: Appearance | None = None


@dataclass(frozen=True)
class Look:
    """One picture's finds, and a way to ask whether cloth shows at a place. `racked`: a rack is among them."""

    time: float
    seen: Sequence[Seen]
    empty: Callable[[Point], bool]
    racked: bool = False


@dataclass
class Standing:
    """A ball that stands: where, since when, how it looks. It is a new `track` wherever it comes to rest anew.

    `fine`: its place was measured in the full picture and is not changed by later looks. `came`: its place was seen
    to be empty before; else it may have stood there, hidden.
    """

    track: int
    place: Point
    sigma: float
    first: float
    last: float
    hits: int = 1
    left: float | None = None
    fine: bool = False
    came: bool = False
    looks: list[Appearance] = field(default_factory=list)


@dataclass(frozen=True)
class Placed:
    """A ball of a settled layout. `hits` counts the looks in which it was found there; `seen` tells whether one of
    them is later than the shot before, else it is only thought to stand there still. `late`: it was first seen
    after that shot had ended, at a place that nobody saw empty: it stood there."""

    track: int
    place: Point
    sigma: float
    hits: int
    appearance: Appearance | None = None
    seen: bool = True
    late: bool = False


@dataclass(frozen=True)
class Shot:
    """One change between settled layouts. `kind` is shot, re-rack or replay.

    `start` is the last moment of the old layout, `contact` the first sign that a ball has left, `still` the first
    moment of the new one. `moved` counts balls that stand elsewhere, `gone` those that stand nowhere. `paths` are
    the ways of tracks that were followed, and `events` what happened on them (tracks for balls).
    """

    start: float
    contact: float
    still: float
    confidence: float
    moved: int
    gone: int
    kind: str
    before: tuple[Placed, ...]
    after: tuple[Placed, ...]
    left: tuple[int, ...]
    arrived: tuple[int, ...]
    paths: Mapping[int, tuple[Mark, ...]] = field(default_factory=dict)
    events: tuple[Event, ...] = ()


class Watch:
    """Takes looks one after the other; `look` returns the shots that have ended.

    Where each look is `alone`, no two pictures show one layout: what is found once stands.
    """

    def __init__(self, interval: float, alone: bool = False) -> None:
        self.interval = interval
        self.sparse = interval > SPARSE
        self.stands = 1 if alone else TWICE
        self.rested = self.stands if self.sparse else RESTED
        self.well_known = self.stands if self.sparse else WELL_KNOWN
        self.longest = max(LONGEST, FEW_LOOKS * interval)
        self.standing: list[Standing] = []
        self.fresh: list[Standing] = []
        self.tracks = 0
        self.shots: list[Shot] = []
        self.before: tuple[Placed, ...] = ()
        self.start = self.contact = self.rested_since = 0.0
        self.open = False
        self.cut = False
        self.settled_once = False
        self.began: float | None = None
        self.racked = False
        self.restless = 0
        self.previous: Look | None = None
        self.settled: Look | None = None  # since the last shot ended

    @classmethod
    def resumed(cls, interval: float, shots: Sequence[Shot], alone: bool = False) -> Watch:
        """A watch that goes on after the last of these shots."""
        watch = cls(interval, alone)
        if not shots:
            return watch
        last = shots[-1]
        watch.shots = list(shots[-6:])
        watch.settled_once = True
        watch.start = watch.contact = watch.rested_since = last.still
        watch.tracks = max((one.track for shot in shots for one in (*shot.before, *shot.after)), default=0)
        watch.standing = [
            Standing(one.track, one.place, one.sigma, last.still, last.still, max(one.hits, watch.well_known),
                     fine=True, looks=[one.appearance] if one.appearance else [])
            for one in last.after
        ]  # fmt: skip
        return watch

    def forget(self) -> None:
        """Keep no picture: one that is needed is looked at again."""
        self.previous = self.settled = None

    def recall(self, look: Look) -> None:
        """A look from before this part, which tells what was empty."""
        self.previous = look
        self.settled = None if self.open else look

    def lost(self) -> None:
        """The table is not in this picture."""
        self.cut = True

    def look(self, look: Look, measure: Measure | None = None) -> list[Shot]:
        """Take the next look; `measure` gives truer places for balls that have come to rest."""
        found: list[Shot] = []
        self.began = look.time if self.began is None else self.began
        left = self._match(look)
        self.previous = look
        self._promote()
        if measure is not None:
            self._refine(measure)
        left += self._hidden_when_struck(look.time)
        self.restless = max(len(self.fresh), self.restless - 1)
        if not self.settled_once:
            self.settled_once = len(self.standing) > HANDS or bool(self.standing and not self.fresh)
            self.racked = look.racked
            self.start, self.settled = look.time, look
            self.standing = self._here()
            return found
        if left and self.open:
            again = [one for one in left if self._struck_anew(one)]
            if again and self.restless <= HANDS:  # it had come to rest in between, but for somebody's hands
                until = max(one.first for one in self.standing if one.first <= min(a.last for a in again))
                found += self._close_before(left, until, look)
                self.settled = None
                self.start = max(self.start, min(one.last for one in left))
        if left and not self.open:
            self.contact = min(one.left or look.time for one in left)
            self.before = self._layout(left, self.contact)
            self.open = True
        if not self.open:
            self.start = look.time
            self.racked = self.racked or look.racked
        elif self._at_rest(look.time):
            found += self._close(max([one.first for one in self.standing if one.left is None] + [self.contact]),
                                 look.racked)  # fmt: skip
            self.start, self.settled = look.time, look
        return found

    def finish(self, time: float) -> list[Shot]:
        """The recording is over: what has left by now made a shot."""
        return self._close(time, False) if self.open else []

    def _hidden_when_struck(self, time: float) -> list[Standing]:
        """The cue ball, if somebody stands before its place, and what looks like it has come to rest elsewhere:
        there is but one."""
        here = self._here()
        seen = [one for one in here if one.last == time and one.hits >= self.rested]
        white = min(seen, key=_unlike_cue, default=None)
        if white is None or _unlike_cue(white) > LIKE_CUE:
            return []
        left = [one for one in here if one.last < white.first and _same_ball(one, white)]
        for one in left:
            one.left = white.first
        return left

    def _struck_anew(self, one: Standing) -> bool:
        """Whether a ball that has left while a shot is under way was left by that shot, and stood after it: it came
        to rest, or still lay there when no stroke goes on any more.
        """
        if one.first <= self.contact:
            return one.last - self.contact > ROLLS
        return one.last - one.first >= self._later()

    def _later(self) -> float:
        return 0.0 if self.sparse else LATER

    def _match(self, look: Look) -> list[Standing]:
        """Tell the finds to the balls that stand; return the balls that have left their places."""
        rest = list(look.seen)
        for one in self.standing:
            near = min(rest, key=lambda seen: math.dist(seen.place, one.place), default=None)
            if near is not None and math.dist(near.place, one.place) < SAME:
                rest.remove(near)
                _keep(one, near, look.time)
        left = []
        for one in self.standing:
            if one.last < look.time and one.left is None and look.empty(one.place):
                one.left = look.time
                left.append(one)
            elif one.last < look.time - REMEMBERED and one.left is None and one.hits < WELL_KNOWN - 1:
                one.left = look.time  # seen now and then: it never was a ball
        kept = []
        for one in self.fresh:
            near = min(rest, key=lambda seen: math.dist(seen.place, one.place), default=None)
            if near is not None and math.dist(near.place, one.place) < STANDS:
                rest.remove(near)
                _keep(one, near, look.time)
                kept.append(one)
        self.fresh = kept + [self._new(seen, look.time) for seen in rest]
        known = [one for one in left if one.hits >= self.stands or len(left) > 2]
        if not known:
            self.standing = [one for one in self.standing if one.left is None or one.hits >= self.stands]
        return known

    def _new(self, seen: Seen, time: float) -> Standing:
        self.tracks += 1
        looks = [seen.appearance] if seen.appearance else []
        earlier = [one for one in (self.previous, self.settled) if one is not None]
        came = self.settled is None or any(one.empty(seen.place) for one in earlier)
        return Standing(self.tracks, seen.place, seen.sigma, time, time, looks=looks, came=came)

    def _promote(self) -> None:
        """What has been found at one place long enough stands."""
        ready = [one for one in self.fresh if one.hits >= self.stands]
        self.fresh = [one for one in self.fresh if one.hits < self.stands]
        self.standing += ready

    def _refine(self, measure: Measure) -> None:
        ready = [one for one in self.standing if not one.fine and one.left is None and one.hits >= self.rested]
        for one, truer in zip(ready, measure([one.place for one in ready]) if ready else [], strict=True):
            one.fine = True
            if truer is not None:
                one.place, one.sigma = truer

    def _here(self) -> list[Standing]:
        return [one for one in self.standing if one.left is None]

    def _nothing(self, standing: list[Standing]) -> list[Shot]:
        """What looked like a shot was none; these balls stand."""
        self.standing, self.cut = standing, False
        return []

    def _at_rest(self, time: float) -> bool:
        """Whether all that is found stands, and has for a moment; or it has taken too long."""
        if time - self.contact > self.longest:
            return True
        new = [one for one in self.standing if one.first >= self.contact and one.left is None]
        if any(one.hits < self.rested and one.last == time for one in new):
            return False
        return not self.fresh and (bool(new) or time - self.contact > self.longest / 2)

    def _layout(self, including: Sequence[Standing] = (), before: float = math.inf) -> tuple[Placed, ...]:
        """What stands, and stood before a time."""
        here = [
            one
            for one in self.standing
            if (one.left is None or one in including) and one.hits >= self.stands and one.first < before
        ]
        return _placed(here, self.rested_since)

    def _close_before(self, left: Sequence[Standing], still: float, look: Look) -> list[Shot]:
        """End the shot that is under way, but for what has just left: that stood after it."""
        for one in left:
            one.left = None
        found = self._close(still, look.racked)
        for one in left:
            one.left = look.time
        return found

    def _close(self, still: float, racked: bool) -> list[Shot]:
        """End the shot that is under way."""
        self.open = False
        gone = [one for one in self.standing if one.left is not None]
        fists = [one.track for one in gone if self._is_fist(one)]
        gone = [one for one in gone if one.track not in fists]
        well_known = [one for one in gone if one.hits >= self.well_known or one.first == self.began]
        if not well_known:  # somebody's hand, or a shadow
            return self._nothing(self._here())
        struck = _struck_at(well_known)
        if struck > self.contact:
            self.start, self.contact = max(one.last for one in well_known if one.left == struck), struck
        now = max(one.last for one in self.standing)
        here = [
            one
            for one in self.standing
            if one.left is None and (one.first < self.contact or one.hits >= self.rested or one.last == now)
        ]
        new = [one for one in here if one.first >= self.contact]
        if len(gone) == len(new) == 1 and math.dist(gone[0].place, new[0].place) < NUDGE:
            return self._nothing(here)  # one ball of a cluster, told in two ways
        since = [one for one in here if one not in new and one.last >= struck]
        if len(gone) <= FEW_GONE and _cue_ball_stayed([*gone, *new], since):
            return self._nothing(here)  # balls of a cluster, told in two ways
        set_up = len(gone) >= 2 and sum(one.came for one in new) - len(gone) >= RACKED
        is_rerack = set_up or (racked and not self.racked and len(gone) >= 2)
        swapped = _perhaps_swapped(gone, [one for one in here if one not in new])
        left = tuple(one.track for one in (*gone, *swapped))
        for one in swapped:
            self.tracks += 1
            one.track, one.looks = self.tracks, one.looks[-1:]
        self.standing = here
        self.racked = racked
        lost = sum(one.first < self.contact for one in gone)  # what came and went meanwhile was never there
        hidden = [
            one for one in new if not (is_rerack or one.came or any(_same_ball(one, other) for other in gone))
        ]
        if lost > SCATTERED:  # a ball that ran from the pack may look otherwise than it did there
            hidden = hidden[: max(0, len(new) - lost)]
        new = [one for one in new if one not in hidden]
        moved = min(lost, len(new))
        self.rested_since = max(still, self.contact)
        after = self._layout()
        shot = Shot(
            self.start,
            self.contact,
            self.rested_since,
            self._confidence(gone, new, here),
            moved,
            max(0, lost - len(new)),
            "re-rack" if is_rerack else "shot",
            (
                *(one for one in self.before if one.track not in fists),
                *(replace(one, late=True) for one in _placed(hidden, self.rested_since)),
            ),
            after,
            left,
            tuple(one.track for one in (*new, *swapped)),
        )
        self.cut = False
        if self._repeats(shot):
            shot = replace(shot, kind="replay")
        self.shots.append(shot)
        return [shot]

    def _is_fist(self, one: Standing) -> bool:
        """Whether it came to an empty place after the balls had come to rest, was seen for a moment and is no cue
        ball: the hand of whoever was about to strike."""
        late = one.came and one.first > self.rested_since and one.hits < self.well_known
        return late and _unlike_cue(one) > LIKE_CUE

    def _confidence(self, gone: Sequence[Standing], new: Sequence[Standing], here: Sequence[Standing]) -> float:
        """Two balls that moved and stood well before are sure; one may have been set by hand, all a new camera."""
        sure = 0.95 if len(gone) >= 2 else 0.75
        if len(new) > len(gone):
            sure -= 0.15
        if self.cut:
            sure -= 0.25
        if len(new) > 0.7 * max(1, len(here)) and len(here) > 4 and not self.racked:
            sure -= 0.3
        return round(float(np.clip(sure, 0.05, 0.99)), 2)

    def _repeats(self, shot: Shot) -> bool:
        """Whether an earlier shot took the same balls from and to the same places: it is shown again."""
        return any(
            _alike(_places(shot.before, shot.left), _places(other.before, other.left))
            and _alike(_places(shot.after, shot.arrived), _places(other.after, other.arrived))
            for other in self.shots[-6:]
            if other.kind == "shot"
        )


def _same_ball(one: Standing, other: Standing) -> bool:
    """Whether two that stood at different times look like one ball."""
    if not one.looks or not other.looks:
        return False
    return float(unlikeness([mean_of(one.looks), mean_of(other.looks)])[0, 1]) < ALIKE


def _placed(standing: Sequence[Standing], since: float) -> tuple[Placed, ...]:
    return tuple(
        Placed(
            one.track,
            one.place,
            one.sigma,
            one.hits,
            mean_of(one.looks) if one.looks else None,
            one.last >= since,
            one.first > since and not one.came,
        )
        for one in standing
    )


def _perhaps_swapped(gone: Sequence[Standing], stayed: Sequence[Standing]) -> list[Standing]:
    """Balls that seem to have stayed where a pack was scattered: another may have come to rest in their place."""
    if len(gone) <= SCATTERED:
        return []
    return [one for one in stayed if any(math.dist(one.place, other.place) < PACKED for other in gone)]


def _struck_at(gone: Sequence[Standing]) -> float:
    """When the first of these has left. No ball moves before the cue ball: what has left while a ball that looks
    like the cue ball still stood, and was struck later, was a hand, a shadow, or had been gone for long."""
    struck = min((one.last for one in gone if _unlike_cue(one) < LIKE_CUE), default=-math.inf)
    return min(one.left for one in gone if one.left is not None and one.left > struck)


def _cue_ball_stayed(moved: Sequence[Standing], stayed: Sequence[Standing]) -> bool:
    """Whether the ball that looks like the cue ball is plainly among those that nobody has struck."""
    struck = min((_unlike_cue(one) for one in moved), default=math.inf)
    still = min((_unlike_cue(one) for one in stayed if one.hits >= WELL_KNOWN), default=math.inf)
    return still < LIKE_CUE and struck - still > UNLIKE_CUE


def _unlike_cue(one: Standing) -> float:
    return cue_cost(mean_of(one.looks)) if one.looks else math.inf


def _keep(one: Standing, seen: Seen, time: float) -> None:
    if not one.fine:
        share = max(BLEND, 1 / (one.hits + 1))
        one.place = (
            one.place[0] + share * (seen.place[0] - one.place[0]),
            one.place[1] + share * (seen.place[1] - one.place[1]),
        )
        one.sigma = seen.sigma
    one.last, one.hits, one.left = time, one.hits + 1, None
    if seen.appearance is not None:
        one.looks = [*one.looks[-11:], seen.appearance]


def _places(layout: Sequence[Placed], tracks: Sequence[int]) -> list[Point]:
    return [one.place for one in layout if one.track in tracks]


def _alike(some: Sequence[Point], others: Sequence[Point]) -> bool:
    """Whether these are the same places."""
    return len(some) == len(others) and all(
        min((math.dist(place, other) for other in others), default=math.inf) < REPEATED for place in some
    )
