"""Readings of recordings: a thread for each asks for one part after the other and stores what was found.

The parts are read elsewhere, by processes or a cluster; a decoder that crashes takes its worker along and nothing
else. What is stored is enough to go on after the server was stopped.
"""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from concurrent.futures import BrokenExecutor
from dataclasses import replace
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError
from aretane.core.table import table_from
from aretane.jobs.pool import Pool
from aretane.store import readings
from aretane.store.database import Database
from aretane.store.scope import Scope
from aretane.vision.shots.found_data import shot_as_data, shot_from_data
from aretane.vision.shots.part import Part, Tally, Wanted, read_part, watch_for, words_about

PART = 12.0  # seconds of recording
TRIES = 2
PATIENCE = 180.0  # seconds for one part: a worker that takes longer hangs

log = logging.getLogger("aretane.jobs")


class Readings:
    """Runs readings in the background of a server."""

    def __init__(self, database: Database, pool: Pool, path_of: Callable[[str], Path]) -> None:
        self._database, self._pool, self._path_of = database, pool, path_of
        self._ending = threading.Event()

    def start(self, scope: Scope, reading_id: str) -> threading.Thread:
        thread = threading.Thread(target=self._run, args=(scope, reading_id), daemon=True)
        thread.start()
        return thread

    def resume(self, *, everything: bool) -> None:
        """Go on with readings that a stopped server has left."""
        with self._database.transaction() as db:
            left = readings.take_silent(db, everything=everything)
        for scope, reading_id in left:
            self.start(scope, reading_id)

    def close(self) -> None:
        self._ending.set()
        self._pool.close()

    def _run(self, scope: Scope, reading_id: str) -> None:
        try:
            self._read(scope, reading_id)
        except InputError as problem:
            self._end(scope, reading_id, "failed", str(problem))
        except Exception:
            log.exception("reading %s", reading_id)
            if not self._ending.is_set():
                self._end(scope, reading_id, "failed", "reading stopped for a reason of its own; the log has it")

    def _read(self, scope: Scope, reading_id: str) -> None:
        with self._database.transaction() as db:
            reading = readings.find(db, scope, reading_id)
        if reading is None:
            return
        wanted = wanted_from(reading.wanted, self._path_of(reading.wanted["sha256"]))
        shots = tuple(shot_from_data(one) for one in reading.found)
        watch = watch_for(Path(wanted.path), shots)
        time = max(reading.wanted["from"], shots[-1].still if shots else reading.wanted["from"])
        count, tally, until = len(shots), Tally(), reading.wanted["to"] or float("inf")
        while not self._ending.is_set():
            part = self._part(wanted, watch, time, min(PART, until - time))
            watch, time, tally = part.watch, part.reached, tally.with_(part.tally)
            found = list(part.shots)
            over = part.over or time >= until
            if over and not part.over:
                found += watch.finish(until)
            told = [shot_as_data(one) for one in found]
            reached = min(time, reading.wanted["duration"])
            with self._database.transaction() as db:
                going = readings.advance(db, scope, reading_id, count, reached, told)
            count += len(found)
            if not going:
                return
            if over:
                self._end(scope, reading_id, "done", words_about(tally, count))
                return

    def _part(self, wanted: Wanted, watch: Any, begin: float, length: float) -> Part:
        """One part; a worker that dies is replaced, and the part tried once more."""
        for attempt in range(TRIES):
            try:
                part: Part = self._pool.submit(read_part, wanted, watch, begin, length).result(PATIENCE)
                return part
            except (BrokenExecutor, TimeoutError):
                self._pool.renew()
                if attempt + 1 == TRIES:
                    at = f"{int(begin // 60)}:{begin % 60:04.1f}"
                    raise InputError(
                        "recording", f"it cannot be decoded from {at} on; what was found before that is kept"
                    ) from None
        raise AssertionError

    def _end(self, scope: Scope, reading_id: str, state: str, said: str) -> None:
        with self._database.transaction() as db:
            readings.end(db, scope, reading_id, state, said)


def wanted_from(data: dict[str, Any], path: Path) -> Wanted:
    """What to read, from what was stored."""
    picture = data.get("picture")
    wanted = Wanted(
        str(path),
        table_from(data["table"]),
        data["ball_set"],
        {name: (float(at[0]), float(at[1])) for name, at in data["marks"].items()},
        marked_at=data["marked_at"],
        pixel_aspect=data["pixel_aspect"],
    )
    return replace(wanted, picture=tuple(picture)) if picture else wanted
