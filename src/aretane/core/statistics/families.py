"""The card of a match beyond its sums: which pots and which position play came up most, and what breaks led to.

Fullness as coaches say it: the share of the object ball's width that the cue ball covers, 1 - sin(cut angle).
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

from aretane.core.review.replay import Replay
from aretane.core.review.shot_figures import ShotFigures
from aretane.core.review.strokes import Visit, strokes_of, visits_of
from aretane.core.statistics.breaks import BreakFamily, BreakTally
from aretane.core.statistics.breaks import families as break_families
from aretane.core.statistics.rates import Rate, wilson

T = TypeVar("T")

FULLNESS = ((0.9, "full"), (0.6, "three-quarter ball"), (0.4, "half ball"), (0.15, "quarter ball"), (0.0, "thin"))
SHORT, MEDIUM = 0.9, 1.8  # m of both balls' ways together (common practice)
MOST = 5  # families that a card has room for


@dataclass(frozen=True)
class Family:
    """Strokes of one sort by its `words`, and how often it came off."""

    words: str
    rate: Rate


@dataclass(frozen=True)
class Card:
    """Of one player. `runs` from the own break, `after_dry`: after the other's break without a ball or a foul;
    `breaks` by where the cue ball lay.
    """

    pots: list[Family]
    position: list[Family]
    runs: Rate
    after_dry: Rate
    breaks: list[BreakFamily]


def cards(replayed: Replay, figures: Sequence[ShotFigures]) -> dict[str, Card]:
    """By seat."""
    visits = [list(visits_of(list(strokes_of(0, replayed, rack)))) for rack in range(len(replayed.racks))]
    return {seat: _card(seat, replayed, figures, visits) for seat in ("A", "B")}


def _card(seat: str, replayed: Replay, figures: Iterable[ShotFigures], visits: Sequence[list[Visit]]) -> Card:
    own = [one for one in figures if one.player == seat]
    own_breaks = [rack[0] for rack in visits if rack and rack[0].player == seat and rack[0].strokes[0].is_break]
    answers = [rack[1] for rack in visits if len(rack) > 1 and rack[1].player == seat and _dry(rack[0])]
    return Card(
        _told([one for one in own if one.tried], pot_words, lambda one: one.made),
        _told([one for one in own if one.error is not None], position_words, lambda one: not _off(one)),
        _cleared(own_breaks, replayed.discipline),
        _cleared(answers, replayed.discipline),
        break_families([_tally(one) for one in own if one.opening is not None], lambda one: one.place),
    )


def pot_words(one: ShotFigures) -> str | None:
    """ "half ball, long"; what is no plain pot goes by its kind."""
    if one.kind not in (None, "pot", "thin"):
        return str(one.kind)
    if one.cut_angle is None or one.cue_distance is None or one.pocket_distance is None:
        return None
    hit = 1.0 - math.sin(one.cut_angle)
    way = one.cue_distance + one.pocket_distance
    return f"{next(words for least, words in FULLNESS if hit >= least)}, {_long(way)}"


def position_words(one: ShotFigures) -> str | None:
    """ "stun, one rail"."""
    if one.around.tip is None or one.around.rails is None:
        return None
    return f"{one.around.tip}, {('no rail', 'one rail', 'two rails', 'three rails and more')[one.around.rails]}"


def _long(way: float) -> str:
    return "short" if way < SHORT else "medium" if way < MEDIUM else "long"


def _off(one: ShotFigures) -> bool:
    return one.error is not None and one.error.distance > 0.0


def _told(strokes: Sequence[T], words: Callable[[T], str | None], good: Callable[[T], bool]) -> list[Family]:
    """The sorts that came up most, the most frequent first."""
    sorts: Mapping[str, list[bool]] = defaultdict(list)
    for one in strokes:
        name = words(one)
        if name is not None:
            sorts[name].append(good(one))
    found = [Family(name, wilson(sum(own), len(own))) for name, own in sorts.items()]
    return sorted(found, key=lambda family: -family.rate.n)[:MOST]


def _dry(visit: Visit) -> bool:
    first = visit.strokes[0]
    return first.is_break and not first.ruling.fouls and not first.data.get("potted")


def _cleared(visits: Sequence[Visit], discipline: str) -> Rate:
    return wilson(sum(visit.cleared(discipline) for visit in visits), len(visits))


def _tally(one: ShotFigures) -> BreakTally:
    opening = one.opening
    assert opening is not None
    return BreakTally(
        opening.discipline, one.player, opening.place, opening.power, opening.fullness, opening.type,
        opening.opened, opening.leaves, opening.balls, opening.scratch, opening.next_visible, opening.won, 1,
    )  # fmt: skip
