"""The matches that were last at work on, replayed: what follows from their facts is not computed anew each time."""

from __future__ import annotations

import threading
from collections import OrderedDict
from dataclasses import dataclass
from typing import Any

from aretane.core.errors import NotFound
from aretane.core.review.replay import Replay, ReplayedShot, replay
from aretane.core.review.shot_figures import shot_figures
from aretane.desk.game_view import game_as_data
from aretane.store import games
from aretane.store.database import Db
from aretane.store.games import Match
from aretane.store.scope import Scope
from aretane.store.shot_figures import Rows, rows_of

MOST = 64


@dataclass(frozen=True)
class Replayed:
    """A match as it is stored, replayed, with the rows of its figures, and as it is shown. Nobody changes any of it
    in place.
    """

    match: Match
    replay: Replay
    rows: Rows
    answer: dict[str, Any]

    @classmethod
    def of(cls, match: Match) -> Replayed:
        replayed = replay(match.as_document())
        return cls(match, replayed, rows_of(match, shot_figures(replayed)), game_as_data(match, replayed))

    def shot(self, shot_id: str) -> ReplayedShot:
        """An entry by its id. Raises `NotFound`."""
        for played, (_, shots) in zip(self.replay.racks, self.match.racks, strict=True):
            for entry, shot in zip(played, shots, strict=True):
                if shot.id == shot_id:
                    return entry
        raise NotFound("shot")

    def changed(self, match: Match, since: int) -> Replayed:
        """The same match after a change in no rack before `since`."""
        replayed = replay(match.as_document(), self.replay, since)
        rows = {shot: row for shot, row in self.rows.items() if row[1].rack < since}
        rows |= rows_of(match, shot_figures(replayed, since))
        return Replayed(match, replayed, rows, game_as_data(match, replayed, self.answer, since))


class Recent:
    """Matches by id. What is kept is used only where the store has no newer change."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._known: OrderedDict[str, Replayed] = OrderedDict()

    def find(self, db: Db, scope: Scope, game_id: str, *, lock: bool = False) -> Replayed:
        """A match as the store has it now. Raises `NotFound`, also for another club's."""
        with self._lock:
            known = self._known.get(game_id)
        match = games.load(db, scope, game_id, lock=lock, known=known.match if known else None)
        if known is not None and match is known.match:
            return known
        return Replayed.of(match)

    def keep(self, known: Replayed) -> dict[str, Any]:
        """Keep what has been committed, and answer with it."""
        with self._lock:
            self._known[known.match.id] = known
            self._known.move_to_end(known.match.id)
            while len(self._known) > MOST:
                self._known.popitem(last=False)
        return known.answer
