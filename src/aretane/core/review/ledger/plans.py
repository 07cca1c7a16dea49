"""The order as it was laid down against the order as it was played: how long it held, where it was left, what that
cost."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.review.ledger.booking import Entry
from aretane.core.review.replay import ReplayedShot

Data = Mapping[str, Any]


@dataclass(frozen=True)
class Followed:
    """A written plan: whose, laid down before which entry, its balls; how many were taken as planned; the entry at
    which it was left and for which ball (None: it was not), and what that choice cost (None: not told). Another
    plan in its place is no leaving: `replaced` is the entry from which that one holds.
    """

    by: str
    begins: int
    order: tuple[str, ...]
    kept: int
    left_at: int | None
    left_for: str | None
    cost: float | None
    replaced: int | None


def followed(rack: Data, shots: Sequence[ReplayedShot], entries: Sequence[Entry]) -> list[Followed]:
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
        found.append(_against(by, begin, order, shots, entries, replaced))
    return found


def _against(
    by: str, begin: int, order: tuple[str, ...], shots: Sequence[ReplayedShot], entries: Sequence[Entry],
    replaced: int | None,
) -> Followed:  # fmt: skip
    waiting = list(order)
    kept = 0
    for at in range(begin, min(len(shots), len(entries) if replaced is None else replaced)):
        data = shots[at].data
        attacks = data.get("intent") in (None, "attack", "two-way")
        meant = (data.get("called") or {}).get("ball") if attacks else None
        if meant is not None and waiting and meant != waiting[0]:
            decision = entries[at].parts["decision"]
            return Followed(by, begin, order, kept, at, str(meant), None if decision is None else -decision, None)
        gone = {one["ball"] for one in data.get("potted") or ()}
        kept += bool(waiting and waiting[0] in gone)
        waiting = [ball for ball in waiting if ball not in gone]
    return Followed(by, begin, order, kept, None, None, None, replaced)
