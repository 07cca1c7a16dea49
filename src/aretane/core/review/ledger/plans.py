"""The order as it was laid down against the order as it was played and the one that the values tell: how long it
held, where it was left, where another ball would have been better meanwhile, and what either cost.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.planning.choices.option import ATTACK
from aretane.core.review.ledger.booking import Entry
from aretane.core.review.ledger.worth import lost_by
from aretane.core.review.replay import ReplayedShot

Data = Mapping[str, Any]


@dataclass(frozen=True)
class Passed:
    """A shot that kept to the plan where another `ball` first was better, and what that `cost`."""

    at: int
    ball: str
    cost: float


@dataclass(frozen=True)
class Followed:
    """A written plan: whose, laid down before which entry, its balls; how many were taken as planned; the entry at
    which it was left and for which ball (None: it was not), and what that choice cost (None: not told). Another
    plan in its place is no leaving: `replaced` is the entry from which that one holds. `holding` is what the
    choices cost that kept to it (None: not told), `better` where another order was there beyond its uncertainty.
    """

    by: str
    begins: int
    order: tuple[str, ...]
    kept: int
    left_at: int | None
    left_for: str | None
    cost: float | None
    replaced: int | None
    holding: float | None
    better: tuple[Passed, ...]


def followed(
    rack: Data, shots: Sequence[ReplayedShot], entries: Sequence[Entry], discipline: str
) -> list[Followed]:
    """Every written plan of a rack that names balls, in the order in which they were laid down."""
    plans = [one for one in (rack.get("plan") or {}).get("plans") or () if isinstance(one, Mapping)]
    begins = [min(int(plan.get("from") or 0), len(shots)) for plan in plans]
    found = []
    for plan, begin in zip(plans, begins, strict=True):
        order = tuple(str(one["ball"]) for one in plan.get("order") or () if one.get("ball"))
        if not order:
            continue
        by = str(plan.get("by") or "")
        later = (at for other, at in zip(plans, begins, strict=True) if other.get("by") == plan.get("by"))
        replaced = min((at for at in later if at > begin), default=None)
        end = min(len(shots), len(entries) if replaced is None else replaced)
        taken = _taken(order, begin, shots[:end], entries)
        left_at = taken.left_at
        cost = None if left_at is None else entries[left_at].parts["decision"]
        choices = [told for at in taken.held if (told := entries[at].parts["decision"]) is not None]
        found.append(
            Followed(
                by, begin, order, taken.kept, left_at, taken.left_for, None if cost is None else -cost,
                replaced if left_at is None else None, -sum(choices) if choices else None,
                tuple(passed for at in taken.held if (passed := _passed(at, entries[at], discipline)) is not None),
            )
        )  # fmt: skip
    return found


@dataclass(frozen=True)
class _Taken:
    """How many balls fell as planned, the entries whose choice kept to the plan, and where it was left for what."""

    kept: int
    held: tuple[int, ...]
    left_at: int | None = None
    left_for: str | None = None


def _taken(order: Sequence[str], begin: int, shots: Sequence[ReplayedShot], entries: Sequence[Entry]) -> _Taken:
    """A plan is of whoever is at the table when it is laid down; the other's balls only leave the table."""
    waiting, held, kept = list(order), list[int](), 0
    for at in range(begin, len(shots)):
        data, mine = shots[at].data, entries[at].player == entries[begin].player
        attacks = mine and data.get("intent") in (None, "attack", "two-way")
        meant = (data.get("called") or {}).get("ball") if attacks else None
        if meant is not None and waiting:
            if meant != waiting[0]:
                return _Taken(kept, tuple(held), at, str(meant))
            held.append(at)
        gone = {one["ball"] for one in data.get("potted") or ()}
        kept += bool(mine and waiting and waiting[0] in gone)
        waiting = [ball for ball in waiting if ball not in gone]
    return _Taken(kept, tuple(held))


def _passed(at: int, entry: Entry, discipline: str) -> Passed | None:
    """What was better with another ball, at a shot that kept to the plan."""
    judged = entry.judged.stroke
    if judged is None or judged.best is None or judged.chosen is None or judged.best.intent not in ATTACK:
        return None
    lost, ball = lost_by(entry.parts["decision"], entry.errors["decision"], discipline), judged.best.ball
    return Passed(at, ball, lost) if lost is not None and ball not in (None, judged.chosen.ball) else None
