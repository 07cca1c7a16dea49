"""Names for the balls of a reading, all at once: by what each looks like and by what balls can do.

A ball that stands is a track; when it has moved it is a new one. The names of all tracks of a rack are found
together, at the least total cost: how unlike that ball each looks, and what balls seldom do. No two tracks that are
seen at a time have one name; a ball that is gone does not come back, but for the cue ball; every shot moves the cue
ball. What the coach has named stays so, and the rest is told anew around it.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from aretane.core.ball import CUE
from aretane.vision.balls.appearance import Appearance, mean_of, unlikeness
from aretane.vision.balls.identity import (
    ROUNDS,
    Light,
    confidence,
    costs_under,
    first_light,
    light_of,
    makes_of,
    same,
)
from aretane.vision.balls.order import in_order, money_ball, out_of_turn
from aretane.vision.shots.exchange import Naming, Task
from aretane.vision.shots.watch import SCATTERED, Placed, Shot

RETURNED = 1.5  # of cost: a ball that was not there a shot before, or is thought to stand elsewhere still
RESTED = 3.0  # of cost: the cue ball lies still in a shot
OTHERWISE, AT_MOST = 0.4, 2.0  # of the unlikeness between a ball's looks before and after a shot, which is no more
FULLY, MANY = 20, 0.75  # looks from which on a look is fully trusted, or as many as this share of tracks has not
RARER = 3.0  # of cost: so much better must a make fit than the plain set, which most tables have (common practice)
NAMELESS, SPARE = 9.0, 3  # of cost: it is no ball of the set; and how many may be none at a time
ONCE = 0.5  # of that cost: what a single look shows is sooner none
FOLLOWED, ARRIVED = 3.0, 0.03  # of cost less, for a ball that was followed to its new place; m from its way's end
STRUCK = 2.0  # of cost less, for the cue ball: it was seen to move first, or stood apart from the pack
RACKED = (
    3.0  # of cost less, for a ball that has its place in the rack: the first in front, the money ball in the middle
)
OUT_OF_TURN = 1.2  # of cost: a ball that should have fallen before another that has
FRONT, MIDDLE, WITHIN = "front", "middle", "within"
LEAST_RACK = 7  # balls
APART = 3.0  # times as far from the next ball as is usual in a pack: it is not of it
BY_HAND = 200.0  # of cost: other than the coach has said
DOUBTFUL = 0.6  # confidence: somebody should look

Names = dict[int, tuple[str, float]]


@dataclass(frozen=True)
class Doubt:
    """Tracks that have a ball's name and could as well have another's, all or none: a word on one settles them."""

    names: Mapping[int, str]
    instead: Mapping[int, str]
    confidence: float


@dataclass(frozen=True)
class Told:
    """Ball and confidence of each track, and what is in doubt."""

    names: Names
    doubts: tuple[Doubt, ...] = ()

    def beside(self, other: Told) -> Told:
        return Told(self.names | other.names, self.doubts + other.doubts)


@dataclass(frozen=True)
class Stay:
    """A track: the layouts from `first` to `last` in which it is seen, and to `kept`, in which it is thought to be;
    what it looks like and how many looks that are; the shots through which it lay still, and those that it began;
    the track that it became, where its way was followed; and where in a tight rack it stands."""

    track: int
    first: int
    last: int
    kept: int
    look: Appearance
    hits: int
    rests: int
    struck: int = 0
    became: int | None = None
    racked: str = ""


def name_racks(racks: Sequence[Sequence[Shot]], balls: Sequence[str], pinned: Mapping[int, str]) -> Told:
    """Ball and confidence for each track of a recording's racks, each rack's shots in the order of time: all are
    played with one set of balls, told by which make fits best.

    `balls` are the names that there are, `pinned` what the coach has said, the oldest first. Tracks that are like
    no ball have none.
    """
    stays = [found for shots in racks if (found := _stays(shots))]
    makes = makes_of(balls)
    racked = [_named(rack, balls, pinned) for rack in stays]
    made = {make: [one[make] for one in racked] for make in makes}
    best = min(makes, key=lambda make: sum(one.total() for one in made[make]) + RARER * (make != makes[0]))
    told = Told({})
    for rack, naming in zip(stays, made[best], strict=True):
        told = told.beside(_told_of(naming, rack, balls, pinned))
    return told


def _named(rack: Sequence[Stay], balls: Sequence[str], pinned: Mapping[int, str]) -> dict[str, Naming]:
    """One rack's names for each make that its balls may be of. Names and light hang on one another: for each make
    they are also told from the light in which the names of the make that fits best would be right."""
    names, looks = _names(rack, balls), [stay.look for stay in rack]
    makes, first = makes_of(balls), first_light(looks)
    told = {make: _settled(rack, names, make, first) for make in makes}
    best = min(told.values(), key=_total)
    for make in makes:
        light = light_of(looks, _balls(best[0], names), first, make)
        told[make] = min(told[make], _settled(rack, names, make, light), key=_total)
    known = {stay.track for stay in rack}
    own = {track: ball for track, ball in pinned.items() if track in known}
    if own:  # a word changes what hangs on it, and no more
        for make, (naming, light) in told.items():
            _settle(naming, rack, names, make, light, own)
    return {make: naming for make, (naming, _) in told.items()}


def _settled(stays: Sequence[Stay], names: Sequence[str], make: str, light: Light) -> tuple[Naming, Light]:
    """The names if the balls are of that make, and the light, from what it is thought to be at first."""
    naming = Naming(_task(stays, names, _costs(stays, names, light, {}, make)))
    return naming, _settle(naming, stays, names, make, light, {})


def _settle(
    naming: Naming, stays: Sequence[Stay], names: Sequence[str], make: str, light: Light, said: Mapping[int, str]
) -> Light:
    """Tell names and light in turn, until both hold."""
    for _ in range(ROUNDS):
        naming.reprice(_costs(stays, names, light, said, make))
        naming.improve()
        light = light_of([stay.look for stay in stays], _balls(naming, names), light, make)
    return light


def _balls(naming: Naming, names: Sequence[str]) -> dict[int, str]:
    return {n: names[name] for n, name in enumerate(naming.names) if names[name]}


def _total(told: tuple[Naming, Light]) -> float:
    return told[0].total()


def _names(rack: Sequence[Stay], balls: Sequence[str]) -> list[str]:
    """The names that there are; some more finds may be no ball."""
    return [*balls, *[""] * (SPARE + max(0, _most_at_once(rack) - len(balls)))]


def _told_of(naming: Naming, stays: Sequence[Stay], balls: Sequence[str], pinned: Mapping[int, str]) -> Told:
    """How sure a rack's names are, and what is in doubt."""
    names = _names(stays, balls)
    margins, doubts = [math.inf] * len(stays), []
    for more, one, other, chain in naming.exchanges():
        for row in chain:
            margins[row] = min(margins[row], more)
        if names[one] and names[other] and confidence(more) < DOUBTFUL:
            doubts.append(_doubt(naming, stays, names, (one, other), chain, confidence(more)))
    told = {
        stay.track: (names[name], 1.0 if pinned.get(stay.track) == names[name] else confidence(margin))
        for stay, name, margin in zip(stays, naming.names, margins, strict=True)
        if names[name]
    }
    return Told(told, tuple(doubts))


def _doubt(
    naming: Naming, stays: Sequence[Stay], names: Sequence[str], two: tuple[int, int], chain: set[int], sure: float
) -> Doubt:
    """What an exchange of two names would change."""
    now = {stays[row].track: naming.names[row] for row in sorted(chain)}
    return Doubt(
        {track: names[name] for track, name in now.items()},
        {track: names[two[0] if name == two[1] else two[1]] for track, name in now.items()},
        sure,
    )


def layouts_of(shot: Shot) -> tuple[tuple[Placed, ...], ...]:
    """A new rack's layouts: what stood before it belongs to the one before."""
    return (shot.after,) if shot.kind == "re-rack" else (shot.before, shot.after)


def once(layout: Sequence[Placed], names: Names) -> list[Placed]:
    """Those that have a name, each name once: of two the newer, since the other has not been seen for longer."""
    newest = {names[track][0]: track for track in sorted(one.track for one in layout) if track in names}
    return [one for one in layout if one.track in newest.values()]


def _stays(shots: Sequence[Shot]) -> list[Stay]:
    """All tracks whose looks are known, in the order of time."""
    found: dict[int, list[tuple[int, Placed]]] = {}
    for number, layout in enumerate(layout for shot in shots for layout in layouts_of(shot)):
        for one in layout:
            if one.appearance is not None:
                found.setdefault(one.track, []).append((number, one))
    rests = Counter(
        track
        for shot in shots
        if shot.kind == "shot" and shot.left
        for track in {one.track for one in shot.before} & {one.track for one in shot.after} - {*shot.left}
    )
    struck = Counter(int(one.balls[0]) for shot in shots for one in shot.events if one.kind == "strike")
    breaks = [shot for shot in shots if shot.kind == "shot" and len(shot.left) > SCATTERED]
    struck += Counter(track for shot in breaks if (track := _apart(shot.before)) is not None)
    racked = {track: where for shot in breaks for track, where in racked_in(shot.before).items()}
    became = {track: other for shot in shots for track, other in _links(shot)}
    stays = [
        Stay(
            track,
            first=placed[0][0],
            last=max([number for number, one in placed if one.seen], default=placed[0][0]),
            kept=placed[-1][0],
            look=mean_of([one.appearance for _, one in placed if one.appearance is not None]),
            hits=max(one.hits for _, one in placed),
            rests=rests[track],
            struck=struck[track],
            became=became.get(track),
            racked=racked.get(track, ""),
        )
        for track, placed in found.items()
    ]
    return sorted(stays, key=lambda stay: (stay.first, stay.track))


def _apart(layout: Sequence[Placed]) -> int | None:
    """The ball that stands apart from all others: where a pack is broken that is the cue ball, if it was seen."""
    near = {
        one.track: min(
            (math.dist(one.place, other.place) for other in layout if other is not one), default=math.inf
        )
        for one in layout
    }
    track = max(near, key=lambda one: near[one], default=None)
    return track if track is not None and near[track] > APART * float(np.median([*near.values()])) else None


def racked_in(layout: Sequence[Placed]) -> dict[int, str]:
    """The tracks of a tight rack: the one in front, next to the head; the one in the middle, two rows straight
    behind it, as all games with a money ball have it; and the others. None where it is no rack.
    """
    apart = _apart(layout)
    pack = sorted((one for one in layout if one.track != apart), key=lambda one: one.place[0])
    if len(pack) < LEAST_RACK:
        return {}
    wide = float(
        np.median([min(math.dist(one.place, other.place) for other in pack if other is not one) for one in pack])
    )
    row, front = wide * math.sqrt(3) / 2, pack[0]
    tight = max(math.dist(one.place, front.place) for one in pack) < 5 * wide
    if not tight or pack[1].place[0] - front.place[0] < row / 2:
        return {}
    middle = front.place[0] + 2 * row, front.place[1]
    near = min(pack[1:], key=lambda one: math.dist(one.place, middle))
    where = {one.track: WITHIN for one in pack} | {front.track: FRONT}
    if math.dist(near.place, middle) < wide / 2:
        where[near.track] = MIDDLE
    return where


def _links(shot: Shot) -> Iterator[tuple[int, int]]:
    """Which track became which: a ball whose way ended where another came to rest is that ball."""
    rested = {int(one.balls[0]) for one in shot.events if one.kind == "rest"}
    arrived = [one for one in shot.after if one.track in shot.arrived]
    for track, marks in shot.paths.items():
        near = min(arrived, key=lambda one: math.dist(one.place, marks[-1].place), default=None)
        if track in rested and near is not None and math.dist(near.place, marks[-1].place) < ARRIVED:
            yield track, near.track


def _most_at_once(stays: Sequence[Stay]) -> int:
    return max(sum(one.first <= stay.first <= one.last for one in stays) for stay in stays)


def _costs(
    stays: Sequence[Stay], names: Sequence[str], light: Light, pinned: Mapping[int, str], make: str
) -> NDArray[np.float64]:
    """Of each name for each track: how unlike that ball it looks under this light."""
    balls = [name for name in names if name]
    costs = np.full((len(stays), len(names)), NAMELESS)
    costs[:, : len(balls)] = costs_under(light, [stay.look for stay in stays], balls, make)
    costs *= _trust(stays)[:, None]
    costs[np.array([stay.hits == 1 for stay in stays]), len(balls) :] *= ONCE
    costs[:, balls.index(CUE)] += [
        RESTED * stay.rests - STRUCK * stay.struck + RACKED * bool(stay.racked) for stay in stays
    ]
    if (money := money_ball(balls)) is not None:
        costs[:, balls.index(money)] -= [RACKED * (stay.racked == MIDDLE) for stay in stays]
    if in_order(balls):
        costs[:, balls.index("1")] -= [RACKED * (stay.racked == FRONT) for stay in stays]
    costs[:, : len(balls)] += OUT_OF_TURN * out_of_turn(_gone(stays), balls)
    rows = {stay.track: row for row, stay in enumerate(stays)}
    for number, (track, ball) in enumerate(pinned.items(), 1):  # of two words that cannot both be true, the later
        costs[rows[track]] = [BY_HAND * number * (name != ball) for name in names]
    return costs


def _gone(stays: Sequence[Stay]) -> NDArray[np.float64]:
    """How many balls had gone at least when each was last there; what falls on the break falls in no order. A ball
    that is seen later was there, if hidden.
    """
    seen = [sum(one.first <= n <= one.kept for one in stays) for n in range(max(one.kept for one in stays) + 1)]
    present = np.maximum.accumulate(seen[::-1])[::-1]
    most = max(present[1:], default=present[0])
    return np.array([most - min(present[one.kept], most) for one in stays], np.float64)


def _trust(stays: Sequence[Stay]) -> NDArray[np.float64]:
    """How far the looks of each are to be trusted, 0 to 1: what came and went has been seen a few times only,
    unless its layouts were shown no longer."""
    layouts = np.array([1 + (stay.last - stay.first) // 2 for stay in stays])
    hits = np.array([stay.hits for stay in stays], np.float64)
    brief = hits[layouts == 1]
    shown = layouts * np.median(brief) if len(brief) else np.inf
    return np.asarray(np.minimum(1.0, hits / np.minimum(shown, min(FULLY, np.quantile(hits, MANY)))))


def _task(stays: Sequence[Stay], names: Sequence[str], costs: NDArray[np.float64]) -> Task:
    """Who may have one name, and what it costs that two tracks are one ball."""
    off = OTHERWISE * np.minimum(AT_MOST, unlikeness([stay.look for stay in stays]))
    first, kept = (np.array([getattr(stay, end) for stay in stays]) for end in ("first", "kept"))
    away = first != kept[:, None] + 1  # for a while, or thought to stand elsewhere still
    rows = {stay.track: row for row, stay in enumerate(stays)}
    follows = off + RETURNED * away
    for row, stay in enumerate(stays):
        if stay.became in rows:
            follows[row, rows[stay.became]] -= FOLLOWED
    pairs = [(a, b) for a, b in combinations(range(len(names)), 2) if not same(names[a], names[b])]
    linked = [name not in ("", CUE) for name in names]
    return Task(costs, [(stay.first, stay.last) for stay in stays], follows, linked, pairs)
