"""The ledger of a whole match: which entries are to be judged, and all of them booked."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.errors import InputError
from aretane.core.review.ledger.booking import PARTS, Judged, RackLedger, rack_ledger
from aretane.core.review.ledger.judging import Stages, judge, still_true
from aretane.core.review.ledger.juncture import CHOICE, END, OPENING, STROKE, Juncture, Meant, junctures
from aretane.core.review.ledger.opening import opening_of
from aretane.core.review.ledger.valuing import Care
from aretane.core.review.ledger.worth import Known
from aretane.core.review.partners import SEATS, turns_at
from aretane.core.review.replay import Replay
from aretane.core.review.shot_figures import shot_figures
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.game import BREAK, CHOICES, Seen, opponent
from aretane.core.skill.hand import Hand
from aretane.core.statistics.success_map import hand_of

Data = Mapping[str, Any]
Hands = Mapping[str, Hand]


@dataclass(frozen=True)
class MatchLedger:
    """`players`: each one's sums over all racks, with the number of his entries."""

    racks: tuple[RackLedger, ...]
    players: dict[str, dict[str, float]]


def hands_of(replayed: Replay, given: Mapping[str, Hand]) -> Hands:
    """Both players' hands: those `given`, else as this match's own shots tell them, with a club player's as what is
    taken before any of them."""
    rows = shot_figures(replayed)
    return {
        seat: given.get(seat) or hand_of([row for row in rows if row.player == seat], replayed.table).hand
        for seat in ("A", "B")
    }


def hands_in_turn(match: Data, hands: Hands) -> list[list[Hands]]:
    """The hands at every entry of each rack and after its last one: of partners whose turn it is comes first."""
    return [
        [{seat: hands[seat].turn(SEATS.index(due[seat])) for seat in hands} for due in rack]
        for rack in turns_at(match)
    ]


def to_judge(match: Data, replayed: Replay) -> list[list[Juncture]]:
    """The junctures of every rack; none for one that has no entry yet."""
    return [junctures(match, replayed, rack) for rack in range(len(replayed.racks))]


def judged_entry(
    at: Juncture, hands: Hands, care: Care, seed: int = 0, threads: int = 1, known: Stages | None = None
) -> Judged:
    """What can be worked out for one entry; `known` as `judging.judge` has it."""
    both = hands[at.player], hands[opponent(at.player)]
    known = None if any(hand.partner for hand in both) else known  # the other partner's turn comes in between
    try:
        if at.kind == OPENING:
            return Judged(opening=opening_of(at, both, care, seed, threads))
        if at.kind == CHOICE:
            return Judged(others=_others(at, hands, care, seed, threads))
        if at.kind in (STROKE, END) and at.balls is not None and at.state.phase != BREAK:
            return Judged(stroke=judge(at, both, care, seed, threads, known))
    except InputError:  # balls that cannot stand so, by the coach's word; or nothing left that may be played
        return Judged()
    return Judged()


def _others(at: Juncture, hands: Hands, care: Care, seed: int, threads: int) -> Known | None:
    """What the best of the choices that were not made is worth to whoever had to choose."""
    rules, found = rules_of(at.discipline), list[Known]()
    for word in at.state.choices:
        if word == at.meant.declared or word not in CHOICES or at.balls is None:
            continue
        after = rules.settle(at.state, Seen(player=at.player, declared=word), at.options).after
        following = replace(at, kind=END, state=after, player=after.player, meant=Meant(), came=None)
        judged = judged_entry(following, hands, care, seed, threads)
        if judged.stroke is not None:
            value = judged.stroke.before
            mine = value.value if after.player == at.player else 1.0 - value.value
            found.append(Known(mine, value.error))
    return max(found, key=lambda one: one.value, default=None)


def kept_for_next(known: Stages, rack: Sequence[Juncture], index: int) -> Stages:
    """What is known of the table that still holds at the next entry, for the same hands in the same order."""
    if index + 1 >= len(rack) or rack[index + 1].player != rack[index].player:
        return {}
    return still_true(known, rack[index], rack[index + 1])


def match_ledger(
    replayed: Replay, racks: Sequence[Sequence[Juncture]], judged: Sequence[Sequence[Judged]], hands: Hands
) -> MatchLedger:
    """All racks booked, from what was worked out for each of their junctures."""
    booked = []
    for number, (rack, found) in enumerate(zip(racks, judged, strict=True)):
        result = replayed.result.racks[number]
        ruled = result.rulings[-1].after.winner if result.rulings else None
        booked.append(
            rack_ledger(rack, found, hands, result.winner, result.winner is not None and ruled is None)
            if rack
            else RackLedger(
                0.5, (), None, 0.5, {seat: dict.fromkeys((*PARTS, "unsplit"), 0.0) for seat in "AB"}, None
            )
        )
    return MatchLedger(tuple(booked), _players(booked))


def _players(booked: Sequence[RackLedger]) -> dict[str, dict[str, float]]:
    return {
        seat: {part: math.fsum(rack.sums[seat][part] for rack in booked) for part in (*PARTS, "unsplit")}
        | {"shots": float(sum(entry.player == seat for rack in booked for entry in rack.entries))}
        for seat in ("A", "B")
    }
