"""The ledger of a match, entry by entry: what is known already is not worked out again.

The same steps serve the page, whose job has them done in parts elsewhere, and the command line. Within a rack an
entry needs what was found out about the table for the one before it; racks need nothing of each other, so two of
them are judged beside each other.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, MutableMapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from itertools import takewhile
from typing import TYPE_CHECKING, Any, Protocol

import orjson

from aretane.core.review.replay import Replay, replay
from aretane.core.rules.traits import BALLS, FRAMES, RACKS, traits_of
from aretane.core.skill.hand import Hand, hand_as_data
from aretane.desk.work.choices import Doing, Here

if TYPE_CHECKING:
    from aretane.core.planning.outlook.stage import Stage
    from aretane.core.review.ledger.booking import Judged
    from aretane.core.review.ledger.juncture import Juncture

    Stages = MutableMapping[tuple[str, ...], Stage]

Body = dict[str, Any]

VERSIONS = {RACKS: 5, FRAMES: 7, BALLS: 6}  # of the model, by what is counted; older entries are judged again
LIMIT = 340.0  # seconds for a part, two entries; they take a few
THREADS = 2  # of an entry
BESIDE = 2  # racks that are judged beside each other


@dataclass(frozen=True)
class Wanted:
    """A match, both players' hands (without: as its own shots tell), and the care to take."""

    match: Mapping[str, Any]
    hands: Mapping[str, Hand]
    care: str
    seed: int = 0


class Known(Protocol):
    """Entries that were judged before, by the hash of everything that they depend on."""

    def find(self, key: str) -> Body | None: ...

    def keep(self, key: str, body: Body) -> None: ...


class Remembered:
    """What is known while it is worked out: `new` is what came to it, `used` what was asked for."""

    def __init__(self, before: Mapping[str, Body] | None = None) -> None:
        self.every, self.new, self.used = dict(before or {}), dict[str, Body](), set[str]()

    def find(self, key: str) -> Body | None:
        self.used.add(key)
        return self.every.get(key)

    def keep(self, key: str, body: Body) -> None:
        self.every[key] = self.new[key] = body


@dataclass
class Going:
    """A rack as far as it is judged, and what is known of the table for its next entry."""

    rack: Sequence[Juncture]
    hands: Sequence[Mapping[str, Hand]]
    judged: list[Judged] = field(default_factory=list)
    stages: Stages = field(default_factory=dict)

    @property
    def over(self) -> bool:
        return len(self.judged) == len(self.rack)

    @property
    def next(self) -> Juncture:
        return self.rack[len(self.judged)]

    @property
    def playing(self) -> Mapping[str, Hand]:
        """Both players' hands at that entry."""
        return self.hands[len(self.judged)]

    def take(self, found: Judged, stages: Stages) -> None:
        from aretane.core.review.ledger.match import kept_for_next

        self.stages = kept_for_next(stages, self.rack, len(self.judged))
        self.judged.append(found)


def steps(do: Doing, wanted: Wanted, known: Known) -> Iterator[tuple[float, Body]]:
    """Progress, 1 at its end, whenever entries had to be judged; with the ledger so far after racks that needed
    work."""
    from aretane.core.review.ledger.match import hands_in_turn, hands_of, to_judge
    from aretane.formats.ledger import judged_as_data

    replayed = replay(wanted.match)
    hands = hands_of(replayed, wanted.hands)
    turns = hands_in_turn(wanted.match, hands)
    racks = [Going(*rack) for rack in zip(to_judge(wanted.match, replayed), turns, strict=True)]
    count = max(1, sum(len(going.rack) for going in racks))
    while beside := _beside(wanted, racks, known):
        before = _over(racks)
        parts = [(going.next, going.playing, dict(going.stages)) for going in beside.values()]
        found = do.part(LIMIT, work_out, parts, wanted.care, wanted.seed)
        for (key, going), (judged, stages) in zip(beside.items(), found, strict=True):
            known.keep(key, judged_as_data(judged))
            going.take(judged, stages)
        progress, over = 0.98 * sum(len(going.judged) for going in racks) / count, _over(racks)
        yield progress, _told(wanted, replayed, racks[:over], hands) if before < over < len(racks) else {}
    yield 1.0, _told(wanted, replayed, racks, hands)


def _over(racks: Sequence[Going]) -> int:
    """How many racks are judged to their end, from the first on."""
    return len([*takewhile(lambda going: going.over, racks)])


def _beside(wanted: Wanted, racks: Sequence[Going], known: Known) -> dict[str, Going]:
    """The racks to go on with, by the keys of their next entries, once all that is known has been taken."""
    from aretane.formats.ledger import judged_from

    found: dict[str, Going] = {}
    for going in racks:
        while not going.over:
            key = _key(wanted, going.playing, going.next)
            before = known.find(key)
            if before is None:
                found.setdefault(key, going)  # two racks may begin with the same break: it is judged once
                break
            going.take(judged_from(before), {})
        if len(found) == BESIDE:
            break
    return found


def version_of(discipline: str) -> int:
    """Of the model that judges this discipline."""
    return VERSIONS[traits_of(discipline).counts]


def ledger(wanted: Wanted) -> Body:
    """The whole ledger at once, as the `ledger` command tells it."""
    *_, (_, body) = steps(Here(), wanted, Remembered())
    return body


def _told(wanted: Wanted, replayed: Replay, racks: Sequence[Going], hands: Mapping[str, Hand]) -> Body:
    from aretane.core.review.ledger.match import match_ledger
    from aretane.core.review.ledger.verdict import verdict_of
    from aretane.formats.ledger import ledger_as_data

    entries = [going.rack for going in racks]
    found = match_ledger(replayed, entries, [going.judged for going in racks], hands)
    verdict = verdict_of(wanted.match, entries, replayed, found)
    told = ledger_as_data(found, verdict, replayed.discipline)
    told |= {"care": wanted.care, "version": version_of(replayed.discipline)}
    return told | {"hands": {seat: hand_as_data(hand) for seat, hand in hands.items()}}


def work_out(
    parts: Sequence[tuple[Juncture, Mapping[str, Hand], Stages]], care: str, seed: int
) -> list[tuple[Judged, Stages]]:
    """The part: entries of several racks judged beside each other, each with both hands and what is known of its
    table; with what was found out of it."""
    from aretane.core.review.ledger.match import judged_entry
    from aretane.core.review.ledger.valuing import CARES

    def one(part: tuple[Juncture, Mapping[str, Hand], Stages]) -> tuple[Judged, Stages]:
        at, hands, stages = part
        return judged_entry(at, hands, CARES[care], seed, THREADS, stages), stages

    with ThreadPoolExecutor(BESIDE) as beside:
        return list(beside.map(one, parts))


def _key(wanted: Wanted, hands: Mapping[str, Hand], at: Juncture) -> str:
    """Everything that a judgement depends on; of a break only what the usual one does."""
    from aretane.core.review.ledger.juncture import juncture_as_data

    data = {
        "version": version_of(at.discipline), "care": wanted.care, "seed": wanted.seed, "at": juncture_as_data(at),
        "hands": {seat: hand_as_data(hand) for seat, hand in hands.items()},
    }  # fmt: skip
    return hashlib.sha256(orjson.dumps(data, option=orjson.OPT_SORT_KEYS | orjson.OPT_NON_STR_KEYS)).hexdigest()
