"""Clips: moments of a match as a small film, made by a job and kept for a day."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import orjson

from aretane.core.errors import NotFound, Refused
from aretane.desk.house import House
from aretane.desk.work.clip import CARE, moment_of
from aretane.desk.work.kinds import CLIP
from aretane.store import games, jobs, ledgers, voices
from aretane.store.database import Db
from aretane.store.games import Match
from aretane.store.jobs import DONE, FAILED, RUNNING, Job
from aretane.store.scope import Scope

Data = dict[str, Any]

MOST_MOMENTS = 24


def ask(house: House, scope: Scope, game_id: str, shots: Sequence[str], *, sound: bool) -> Data:
    """Have the film of these shots made, in this order. What cannot be cut is refused at once, in a word."""
    if not shots:
        raise Refused("choose the moments that the film is to show")
    if len(shots) > MOST_MOMENTS:
        raise Refused(f"a film shows {MOST_MOMENTS} moments at most; make two of it")

    def write(db: Db) -> str:
        match = games.load(db, scope, game_id)
        for shot in shots:
            moment_of(match.as_document(), *match.place(shot), None, house.files)
        name = _name(db, scope, match, shots, sound)
        if not house.files.clip(scope, name).is_file():
            jobs.forget(db, scope, CLIP, name)
        house.jobs.ask(db, scope, CLIP, name, {"game": game_id, "shots": list(shots), "sound": sound})
        return name

    name = house.database.write(write)
    house.jobs.wake()
    return found(house, scope, name)


def found(house: House, scope: Scope, name: str) -> Data:
    """How far a film is."""
    with house.database.transaction() as db:
        job = jobs.find(db, scope, CLIP, name)
    there = house.files.clip(scope, name).is_file()
    if job is None and not there:
        raise NotFound("clip")
    return {
        "clip": name,
        "state": DONE if there else FAILED if job is not None and not job.going and job.said else RUNNING,
        "progress": 1.0 if there else house.files.clip_share(scope, name),
        "said": _said(job) if not there else "",
    }


def film(house: House, scope: Scope, name: str) -> Path:
    path = house.files.clip(scope, name)
    if not path.is_file():
        raise NotFound("clip")
    return path


def give_up(house: House, scope: Scope, name: str) -> None:
    """Not wanted any more, finished or not."""
    house.database.write(lambda db: jobs.forget(db, scope, CLIP, name))
    house.files.drop_clip(scope, name)


def _said(job: Job | None) -> str:
    return job.said if job is not None else ""


def _name(db: Db, scope: Scope, match: Match, shots: Sequence[str], sound: bool) -> str:
    """A name for this very film: what it shows, what is said in it."""
    kept = ledgers.find(db, scope, match.id, CARE)
    spoken = {shot: voices.find(db, scope, match.id, shot) for shot in shots}
    voice = {shot: hashlib.sha256(one.sound).hexdigest() for shot, one in spoken.items() if one is not None}
    told = [scope.club_id, match.id, match.as_document(), kept.stamp if kept else "", list(shots), sound, voice]
    return hashlib.sha256(orjson.dumps(told, option=orjson.OPT_SORT_KEYS)).hexdigest()
