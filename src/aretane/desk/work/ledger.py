"""The ledger of a match, entry by entry: what is known already is not worked out again.

The same steps serve the page, whose job has them done in parts elsewhere, and the command line.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, MutableMapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol

import orjson

from aretane.core.review.replay import Replay, replay
from aretane.core.skill.hand import Hand, hand_as_data
from aretane.desk.work.choices import Doing, Here

if TYPE_CHECKING:
    from aretane.core.planning.outlook.stage import Stage
    from aretane.core.review.ledger.booking import Judged
    from aretane.core.review.ledger.juncture import Juncture

    Stages = MutableMapping[tuple[str, ...], Stage]

Body = dict[str, Any]

VERSION = 3  # of the model; entries of another one are judged again
LIMIT = 170.0  # seconds for an entry; they take a few
THREADS = 2


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


def steps(do: Doing, wanted: Wanted, known: Known) -> Iterator[tuple[float, Body]]:
    """Progress, 1 at its end, after every entry that had to be judged; after each rack that needed work with the
    ledger so far."""
    from aretane.core.review.ledger.booking import Judged
    from aretane.core.review.ledger.match import hands_of, kept_for_next, to_judge

    replayed = replay(wanted.match)
    hands = hands_of(replayed, wanted.hands)
    racks = to_judge(wanted.match, replayed)
    count = max(1, sum(len(rack) for rack in racks))
    judged: list[list[Judged]] = [[Judged() for _ in rack] for rack in racks]
    done = 0
    for number, rack in enumerate(racks):
        stages: Stages = {}
        worked = False
        for index, at in enumerate(rack):
            judged[number][index], stages, new = _one(do, wanted, hands, at, stages, known)
            stages = kept_for_next(stages, rack, index)
            done, worked = done + 1, worked or new
            if new:
                yield 0.98 * done / count, {}
        if worked and number + 1 < len(racks):
            yield 0.98 * done / count, _told(wanted, replayed, racks[: number + 1], judged[: number + 1], hands)
    yield 1.0, _told(wanted, replayed, racks, judged, hands)


def ledger(wanted: Wanted) -> Body:
    """The whole ledger at once, as the `ledger` command tells it."""
    *_, (_, body) = steps(Here(), wanted, Remembered())
    return body


def _told(
    wanted: Wanted,
    replayed: Replay,
    racks: list[list[Juncture]],
    judged: list[list[Judged]],
    hands: dict[str, Hand],
) -> Body:
    from aretane.core.review.ledger.match import match_ledger
    from aretane.core.review.ledger.verdict import verdict_of
    from aretane.formats.ledger import ledger_as_data

    found = match_ledger(replayed, racks, judged, hands)
    verdict = verdict_of(wanted.match, racks, replayed, found)
    told = ledger_as_data(found, verdict, replayed.discipline)
    told |= {"care": wanted.care, "version": VERSION}
    return told | {"hands": {seat: hand_as_data(hand) for seat, hand in hands.items()}}


def _one(
    do: Doing, wanted: Wanted, hands: dict[str, Hand], at: Juncture, stages: Stages, known: Known
) -> tuple[Judged, Stages, bool]:
    """An entry judged, what was found out of its table, and whether it had to be worked out."""
    from aretane.formats.ledger import judged_as_data, judged_from

    key = _key(wanted, hands, at)
    before = known.find(key)
    if before is not None:
        return judged_from(before), {}, False
    found, stages = do.part(LIMIT, work_out, at, hands, wanted.care, wanted.seed, dict(stages))
    known.keep(key, judged_as_data(found))
    return found, stages, True


def work_out(at: Juncture, hands: dict[str, Hand], care: str, seed: int, stages: Stages) -> tuple[Judged, Stages]:
    """The part: one entry judged."""
    from aretane.core.review.ledger.match import judged_entry
    from aretane.core.review.ledger.valuing import CARES

    return judged_entry(at, hands, CARES[care], seed, THREADS, stages), stages


def _key(wanted: Wanted, hands: dict[str, Hand], at: Juncture) -> str:
    """Everything that a judgement depends on; of a break only what the usual one does."""
    from aretane.core.review.ledger.juncture import juncture_as_data

    data = {
        "version": VERSION, "care": wanted.care, "seed": wanted.seed, "at": juncture_as_data(at),
        "hands": {seat: hand_as_data(hand) for seat, hand in hands.items()},
    }  # fmt: skip
    return hashlib.sha256(orjson.dumps(data, option=orjson.OPT_SORT_KEYS | orjson.OPT_NON_STR_KEYS)).hexdigest()
