"""Where a shot was before: those most like it, how often they were made, and what became of them."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from aretane.core.review.alike import LIKE, likeness_of
from aretane.core.statistics.rates import wilson
from aretane.desk.house import House
from aretane.store import alike
from aretane.store.scope import Scope

MOST = 40  # shots that are told


def alike_to(house: House, scope: Scope, game_id: str, shot_id: str) -> dict[str, Any]:
    """The shots like this one, the likest first; `comparable` is false where nothing can be compared."""
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
        known.shot(shot_id)
        _, figures = known.rows.get(shot_id, (None, None))  # a choice has none
        like = likeness_of(figures) if figures is not None else None
        if like is None:
            return {"comparable": False, "rate": asdict(wilson(0, 0)), "n": 0, "shots": []}
        n, made, rows = alike.alike(db, scope, like, shot_id, LIKE, MOST)
    return {"comparable": True, "rate": asdict(wilson(made, n)), "n": n, "shots": [asdict(row) for row in rows]}
