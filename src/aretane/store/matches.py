"""A whole match into the store at once: imported, from the demo, or new."""

from __future__ import annotations

import uuid
from typing import Any

from aretane.store import games, shot_figures
from aretane.store.changes import Operation
from aretane.store.database import Db
from aretane.store.games import Fact
from aretane.store.scope import Scope


def store_match(db: Db, scope: Scope, game_id: str, match: dict[str, Any], label: str) -> None:
    """Write a match of the match format as the facts of a new game, in one entry of its log."""
    games.create(db, scope, game_id)
    header = Fact("match", game_id, game_id, 0.0, {key: value for key, value in match.items() if key != "racks"})
    facts = [header]
    for number, rack in enumerate(match["racks"]):
        rack_id = str(uuid.uuid4())
        document = {key: value for key, value in rack.items() if key != "shots"}
        facts.append(Fact("rack", rack_id, game_id, float(number), document))
        for index, shot in enumerate(rack["shots"]):
            facts.append(Fact("shot", str(uuid.uuid4()), rack_id, float(index), shot))
    operation = Operation(str(uuid.uuid4()), str(uuid.uuid4()), 0, label)
    games.begin(db, scope, game_id, operation, facts)
    shot_figures.rebuild(db, scope, games.load(db, scope, game_id))
