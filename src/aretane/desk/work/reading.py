"""Readings of recordings, part after part; what was found is stored after each.

The parts are read elsewhere: a decoder that crashes takes its worker along and nothing else. What is stored is
enough to go on after the server was stopped.
"""

from __future__ import annotations

import math
import time
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError
from aretane.core.table import table_from
from aretane.jobs.pool import WorkerDied
from aretane.jobs.work import Stopped, Work
from aretane.store import readings
from aretane.store.database import Database, Db
from aretane.store.files import RecordingFiles
from aretane.vision.shots.found_data import shot_as_data, shot_from_data
from aretane.vision.shots.part import Part, Tally, read_part, watch_for, words_about
from aretane.vision.shots.sense import misgivings
from aretane.vision.shots.wanted import Marked, Wanted
from aretane.vision.shots.watch import Shot, Watch

PART, SHORTEST = 12.0, 1.5  # seconds of recording
LONG = 7.0  # seconds that a part may take: the next one is shorter, so that none takes ten
LIMIT = 180.0  # seconds: a worker that takes longer hangs


def run(work: Work, database: Database, files: RecordingFiles) -> str:
    with database.transaction() as db:
        reading = readings.find(db, work.scope, work.job.subject)
    if reading is None:
        raise Stopped
    wanted = wanted_from(reading.wanted, files.path(reading.wanted["sha256"]))
    shots = tuple(shot_from_data(one) for one in reading.found)
    watch = watch_for(wanted, shots)
    begin = max(reading.wanted["from"], shots[-1].still if shots else reading.wanted["from"])
    count, tally, until, length = len(shots), Tally(), reading.wanted["to"] or math.inf, PART
    found_now: list[Shot] = []
    while True:
        started = time.monotonic()
        part = _part(work, wanted, watch, begin, min(length, until - begin), begin + length >= until)
        length = _next_length(length, time.monotonic() - started)
        watch, begin, tally = part.watch, part.reached, tally.with_(part.tally)
        found = list(part.shots)
        over = part.over or begin >= until
        told = [shot_as_data(one) for one in found]
        _note(work, count, min(begin, reading.wanted["duration"]), reading.wanted["duration"], told)
        count += len(found)
        found_now += found
        if over:
            width, height = reading.wanted["size"]
            game = reading.wanted.get("discipline")
            return words_about(tally, count, misgivings(wanted, game, [*shots, *found_now], (width, height)))


def _part(work: Work, wanted: Wanted, watch: Watch, begin: float, length: float, ends: bool) -> Part:
    try:
        return work.part(LIMIT, read_part, wanted, watch, begin, length, ends)
    except WorkerDied:
        at = f"{int(begin // 60)}:{begin % 60:04.1f}"
        raise InputError(
            "recording", f"it cannot be decoded from {at} on; what was found before that is kept"
        ) from None


def _next_length(length: float, took: float) -> float:
    return max(SHORTEST, length / 2) if took > LONG else min(PART, 2 * length)


def _note(work: Work, known: int, reached: float, duration: float, shots: list[dict[str, Any]]) -> None:
    def write(db: Db) -> None:
        if not readings.advance(db, work.scope, work.job.subject, known, reached, shots):
            raise Stopped

    work.advance(min(1.0, reached / max(duration, 1e-9)), write)


def wanted_from(data: dict[str, Any], path: Path) -> Wanted:
    """What to read, from what was stored."""
    first, *others = (
        Marked(
            {name: (float(at[0]), float(at[1])) for name, at in one["marks"].items()},
            tuple(one["picture"]) if one.get("picture") else None,
            one["marked_at"],
        )
        for one in (data, *data.get("others", ()))
    )
    return Wanted(
        str(path), table_from(data["table"]), data["ball_set"], first.marks, first.picture, first.marked_at,
        data["pixel_aspect"], tuple(others),
    )  # fmt: skip
