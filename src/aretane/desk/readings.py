"""Reading recordings: balls at a moment, the table's outline, and whole recordings in the background."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import InputError, Refused
from aretane.core.table import Point, Table, table_from
from aretane.desk import found, recordings
from aretane.desk.house import House
from aretane.desk.recent import Replayed
from aretane.desk.work.kinds import READING
from aretane.desk.work.reading import wanted_from
from aretane.jobs.pool import WorkerDied
from aretane.store import games, jobs, readings
from aretane.store.database import Db
from aretane.store.jobs import RUNNING, STOPPED, Job
from aretane.store.readings import Reading
from aretane.store.scope import Scope
from aretane.vision.balls.ball_sets import ball_set_of
from aretane.vision.balls.spacing import apart
from aretane.vision.shots.corrections import Found, corrected, named
from aretane.vision.shots.found_data import layout_as_data, shot_from_data, summary_of
from aretane.vision.shots.looking import balls_in
from aretane.vision.shots.naming import Names, once
from aretane.vision.shots.part import camera_of
from aretane.vision.shots.watch import Placed
from aretane.vision.table.alone import table_alone
from aretane.vision.table.corners import snap_marks, suggest_marks

P = ParamSpec("P")
T = TypeVar("T")
Data = dict[str, Any]
Marks = dict[str, tuple[float, float]]

BY_HAND = 2_000_000  # tracks of balls that nobody saw but the coach
PATIENCE = 60  # seconds for one picture
NOTHING_READ = "no recording of this match has been read"
DOUBTFUL_SHOT, DOUBTFUL_BALL = 0.7, 0.6  # confidences below which somebody should look
NEEDED = {
    "delete": ("shot",), "merge": ("shot",), "split": ("shot", "at"), "add": ("at",), "kind": ("shot", "kind"),
    "place": ("shot", "side", "track", "place"), "remove": ("track",), "name": ("track", "ball"),
    "ball": ("shot", "side", "ball", "place"),
}  # fmt: skip


def outline(house: House, scope: Scope, sha256: str, table: Any, at: float, marks: Marks | None) -> Marks:
    """A first guess of the table's corners and pockets, or marks set by hand moved onto edges."""
    recordings.found(house, scope, sha256)
    return _elsewhere(house, _outlined, str(house.files.path(sha256)), table_from(table), at, marks)


def _outlined(path: str, table: Table, at: float, marks: Marks | None) -> Marks:
    picture, scale = table_alone(Path(path), at)
    if marks:
        found = snap_marks(picture, table, {name: (u * scale, v * scale) for name, (u, v) in marks.items()})
    else:
        found = suggest_marks(picture, table)
    return {name: (round(u / scale, 1), round(v / scale, 1)) for name, (u, v) in found.items()}


def still(house: House, scope: Scope, game_id: str, recording: int, at: float) -> Data:
    """The balls that stand at a moment of a match's recording."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
    wanted = wanted_from(*_wanted(house, scope, header, recording, at))
    told, _, time = _elsewhere(house, balls_in, wanted, at, (CUE, *OBJECT_BALLS[header["discipline"]]))
    return {
        "time": time,
        "racked": any(one.racked for one in told),
        "balls": [_seen(one.name, one.confidence, one.candidate.place, one.candidate.sigma, None) for one in told],
    }


def of_game(house: House, scope: Scope, game_id: str) -> Data:
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
        reading = readings.of_game(db, scope, game_id)
        job = jobs.find(db, scope, READING, reading.id) if reading else None
    house.recent.keep(known)
    return _as_data(known, reading, job)


def begin(
    house: House, scope: Scope, game_id: str, reading_id: str, recording: int, marked_at: float,
    begin: float, end: float | None,
) -> Data:  # fmt: skip
    """Read a match's recording in the background, in the place of an earlier reading."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
        known = readings.find(db, scope, reading_id)
    if known is None:
        data, path = _wanted(house, scope, header, recording, marked_at)
        if end is not None and end <= begin:
            raise InputError("end", "must be after the beginning")
        _check_marks(data, path)
        wanted = data | {"from": begin, "to": end, "recording": recording}

        def write(db: Db) -> None:
            readings.begin(db, scope, game_id, reading_id, wanted)
            house.jobs.ask(db, scope, READING, reading_id)

        house.database.write(write)
        house.jobs.wake()
    return of_game(house, scope, game_id)


def stop(house: House, scope: Scope, game_id: str) -> Data:
    """Stop reading; what was found stays."""

    def write(db: Db) -> None:
        games.load(db, scope, game_id)
        reading = readings.of_game(db, scope, game_id)
        if reading is None:
            raise Refused("nothing is being read")
        jobs.stop(db, scope, READING, reading.id)

    house.database.write(write)
    return of_game(house, scope, game_id)


def correct(house: House, scope: Scope, game_id: str, correction: Data) -> Data:
    """Add a correction; what it makes impossible is refused."""
    for key in NEEDED[correction["do"]]:
        if key not in correction:
            raise InputError(key, f"is needed to {correction['do']}")
    if correction["do"] == "add":
        correction = {**correction, "id": f"by-hand-{uuid.uuid4().hex[:8]}"}
    if correction["do"] == "split":  # before anything is locked: a picture takes its time
        correction = {**correction, "layout": _between(house, scope, game_id, float(correction["at"]))}

    def write(db: Db) -> Replayed | None:
        header = games.load(db, scope, game_id, lock=True).header.document
        reading = readings.of_game(db, scope, game_id, lock=True)
        if reading is None:
            raise Refused(NOTHING_READ)
        if "ball" in correction and correction["ball"] not in (CUE, *OBJECT_BALLS[header["discipline"]]):
            raise InputError("ball", "this game has no such ball")
        told = {**correction}
        if told["do"] == "ball":
            told["track"] = BY_HAND + len(reading.corrections)
        return _put_right(house, db, scope, header, reading, [*reading.corrections, told])

    _keep(house, house.database.write(write))
    return of_game(house, scope, game_id)


def _put_right(
    house: House, db: Db, scope: Scope, header: Data, reading: Reading, corrections: list[Data]
) -> Replayed | None:
    """Write these corrections; what nobody confirmed in the log follows."""
    was, now = _shots(header, reading), _shots(header, replace(reading, corrections=corrections))
    readings.correct(db, scope, reading.id, corrections)
    return found.follow(house, db, scope, reading.game_id, reading.wanted["recording"], was, now)


def _keep(house: House, changed: Replayed | None) -> None:
    if changed is not None:
        house.recent.keep(changed)


def take_back_correction(house: House, scope: Scope, game_id: str) -> Data:
    """Take the newest correction back."""

    def write(db: Db) -> Replayed | None:
        header = games.load(db, scope, game_id, lock=True).header.document
        reading = readings.of_game(db, scope, game_id, lock=True)
        if reading is None or not reading.corrections:
            raise Refused("there is no correction to take back")
        return _put_right(house, db, scope, header, reading, reading.corrections[:-1])

    _keep(house, house.database.write(write))
    return of_game(house, scope, game_id)


def _between(house: House, scope: Scope, game_id: str, at: float) -> list[Data]:
    """The layout at a time inside of a shot, read from the picture; its tracks are new."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
        reading = readings.of_game(db, scope, game_id)
    if reading is None:
        raise Refused(NOTHING_READ)
    wanted = wanted_from(*_wanted(house, scope, header, reading.wanted["recording"], reading.wanted["marked_at"]))
    told, _, _ = _elsewhere(house, balls_in, wanted, at, (CUE, *OBJECT_BALLS[header["discipline"]]))
    first = 1_000_000 + 100 * len(reading.corrections)
    return layout_as_data(
        [
            Placed(first + n, one.candidate.place, one.candidate.sigma, 1, one.appearance)
            for n, one in enumerate(told)
        ]
    )


def _wanted(house: House, scope: Scope, header: Data, number: int, at: float) -> tuple[Data, Any]:
    """What is needed to look at a match's recording with the marks of the view at that time, and its file."""
    entries = header.get("recordings") or []
    if number >= len(entries):
        raise InputError("recording", "this match has no such recording")
    entry = entries[number]
    recording = recordings.found(house, scope, entry["sha256"])
    view: Data = next(
        (v for v in entry.get("views") or () if v.get("from", 0) <= at and (v.get("to") is None or at < v["to"])),
        {},
    )
    marks = (view.get("camera") or {}).get("marks") or {}
    if len(marks) < 4:
        raise InputError("marks", "mark the table first: four corners at least, or take the suggestion")
    path = house.files.path(entry["sha256"])
    if not path.is_file():
        raise InputError("recording", "its file is missing; add it again")
    probe = recording.probe
    data = {
        "sha256": entry["sha256"],
        "table": header.get("table") or "pool-9ft",
        "ball_set": ball_set_of(header["discipline"]),
        "marks": marks,
        "picture": (view.get("camera") or {}).get("picture"),
        "marked_at": max(
            float((view.get("camera") or {}).get("marked_at") or view.get("from") or 0.0), probe["start"]
        ),
        "pixel_aspect": probe["pixel_aspect"],
        "duration": probe["duration"],
        "size": [probe["width"], probe["height"]],
    }
    return data, path


def _check_marks(data: Data, path: Any) -> None:
    width, height = data["size"]
    wanted = wanted_from(data, path)
    camera_of(wanted, wanted.table, (width, height))


def _elsewhere(house: House, work: Callable[P, T], *arguments: P.args, **named: P.kwargs) -> T:
    """Done by a worker, so that a decoder that crashes does not take the server along."""
    try:
        return house.pool.call(PATIENCE, work, *arguments, **named)
    except WorkerDied:
        raise InputError("recording", "the picture there cannot be decoded") from None


def _as_data(known: Replayed, reading: Reading | None, job: Job | None) -> Data:
    if reading is None:
        nothing = {"reached": 0.0, "duration": 0.0, "said": "", "corrections": 0, "shots": []}
        return {"state": "none", "recording": 0, **nothing}
    shots = _shots(known.match.header.document, reading)
    return {
        "state": RUNNING if job and job.going else job.state if job else STOPPED,
        "recording": reading.wanted["recording"],
        "reached": min(reading.reached, reading.wanted["duration"]),
        "duration": reading.wanted["to"] or reading.wanted["duration"],
        "said": job.said if job else "",
        "corrections": len(reading.corrections),
        "shots": found.beside_the_log(known, reading.wanted["recording"], shots),
    }


def _shots(header: Data, reading: Reading) -> list[Data]:
    """The shots with all corrections, their balls named."""
    shots = corrected([shot_from_data(one) for one in reading.found], reading.corrections)
    table = table_from(header.get("table") or "pool-9ft")
    names = named(shots, (CUE, *OBJECT_BALLS[header["discipline"]]), reading.corrections)
    return [_shot(one, names, table) for one in shots]


def _shot(one: Found, names: Names, table: Table) -> Data:
    shot = one.shot
    before, after = _layout(shot.before, names, table), _layout(shot.after, names, table)
    unsure = any(ball["doubtful"] for ball in before + after)
    return {
        "id": one.id,
        "rack": one.rack,
        **summary_of(shot),
        "doubtful": shot.confidence < DOUBTFUL_SHOT or unsure,
        "before": before,
        "after": after,
    }


def _layout(layout: tuple[Placed, ...], names: Names, table: Table) -> list[Data]:
    known = once(layout, names)
    places = apart([one.place for one in known], table)
    return [_seen(*names[one.track], place, one.sigma, one.track) for one, place in zip(known, places, strict=True)]


def _seen(ball: str, confidence: float, place: Point, sigma: float, track: int | None) -> Data:
    return {
        "ball": ball,
        "confidence": round(confidence, 3),
        "doubtful": confidence < DOUBTFUL_BALL,
        "place": place,
        "sigma": min(1.0, sigma),
        "track": track,
    }
