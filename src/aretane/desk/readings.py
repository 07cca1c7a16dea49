"""Reading recordings: balls at a moment, the table's outline, and whole recordings in the background."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import InputError, NotFound, Refused
from aretane.core.parameters import physics_of
from aretane.core.table import Point, Table, table_as_data, table_from
from aretane.desk import found, recordings
from aretane.desk.house import House
from aretane.desk.recent import Replayed
from aretane.desk.work.kinds import READING
from aretane.desk.work.reading import wanted_from
from aretane.jobs.pool import WorkerDied
from aretane.store import games, jobs, readings
from aretane.store.database import Db
from aretane.store.games import Match
from aretane.store.jobs import RUNNING, STOPPED, Job
from aretane.store.readings import Reading
from aretane.store.scope import Scope
from aretane.vision.balls.ball_sets import ball_set_of
from aretane.vision.balls.spacing import apart
from aretane.vision.paths.free_running import metres_of, table_told
from aretane.vision.paths.told import turns_of
from aretane.vision.shots.corrections import Found, Question, corrected, course_of, named, question
from aretane.vision.shots.found_data import layout_as_data, shot_from_data, summary_of
from aretane.vision.shots.looking import balls_in
from aretane.vision.shots.naming import DOUBTFUL, Names, once
from aretane.vision.shots.wanted import camera_of
from aretane.vision.shots.watch import Placed
from aretane.vision.table.alone import table_alone
from aretane.vision.table.corners import snap_marks, suggest_marks

P = ParamSpec("P")
T = TypeVar("T")
Data = dict[str, Any]
Marks = dict[str, tuple[float, float]]

BY_HAND = 2_000_000  # tracks of balls that nobody saw but the coach
PATIENCE = 60  # seconds for one picture
MOST_AT_ONCE = 50  # matches that are looked through for what is left
NOTHING_READ = "no recording of this match has been read"
DOUBTFUL_SHOT = 0.7  # confidence below which somebody should look
SURE = 1.96  # standard errors on either side hold 95 of 100
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


def unfinished(house: House, scope: Scope, ids: str) -> dict[str, Data]:
    """By match, of those with a reading: how many found shots are in no log yet, how many of them are doubtful."""
    told = {}
    for game_id in [one for one in ids.split(",") if one][:MOST_AT_ONCE]:
        with house.database.transaction() as db:
            reading = readings.of_game(db, scope, game_id)
            if reading is None:
                continue
            try:
                match = games.load(db, scope, game_id)
            except NotFound:
                continue
            job = jobs.find(db, scope, READING, reading.id)
        left = found.left(match, reading.wanted["recording"], _shots(match, reading))
        doubtful = sum(shot["doubtful"] for shot in left)
        told[game_id] = {"found": len(left), "doubtful": doubtful, "reading": bool(job and job.going)}
    return told


def table_of(house: House, scope: Scope, game_id: str) -> Data:
    """What the ways of the balls that were followed tell of this table's cloth and rails."""
    with house.database.transaction() as db:
        header = games.load(db, scope, game_id).header.document
        reading = readings.of_game(db, scope, game_id)
    if reading is None:
        raise Refused(NOTHING_READ)
    table = table_from(header.get("table") or "pool-9ft")
    shots = [one.shot for one in corrected([shot_from_data(one) for one in reading.found], reading.corrections)]
    try:
        fit, stretches = house.pool.call(PATIENCE, table_told, table, shots)
    except WorkerDied:
        raise InputError("recording", "its ways could not be told in time; try again later") from None
    usual = physics_of(replace(table, physics=()))
    return {
        "roll_friction": _with_error(fit.roll_friction, fit.roll_friction_error, usual.roll_friction),
        "rail_restitution": _with_error(fit.rail_restitution, fit.rail_restitution_error, usual.rail_restitution),
        "stretches": len(stretches),
        "metres": metres_of(stretches),
        "table": table_as_data(fit.applied_to(table)),
    }


def _with_error(value: float, error: float, usual: float) -> Data:
    return {"value": value, "low": value - SURE * error, "high": value + SURE * error, "usual": usual}


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
        match = games.load(db, scope, game_id, lock=True)
        reading = readings.of_game(db, scope, game_id, lock=True)
        if reading is None:
            raise Refused(NOTHING_READ)
        header = match.header.document
        if "ball" in correction and correction["ball"] not in (CUE, *OBJECT_BALLS[header["discipline"]]):
            raise InputError("ball", "this game has no such ball")
        told = {**correction}
        if told["do"] == "ball":
            told["track"] = BY_HAND + len(reading.corrections)
        return _put_right(house, db, scope, match, reading, [*reading.corrections, told])

    _keep(house, house.database.write(write))
    return of_game(house, scope, game_id)


def _put_right(
    house: House, db: Db, scope: Scope, match: Match, reading: Reading, corrections: list[Data]
) -> Replayed | None:
    """Write these corrections; what nobody confirmed in the log follows."""
    was, now = _shots(match, reading), _shots(match, replace(reading, corrections=corrections))
    readings.correct(db, scope, reading.id, corrections)
    return found.follow(house, db, scope, reading.game_id, reading.wanted["recording"], was, now)


def _keep(house: House, changed: Replayed | None) -> None:
    if changed is not None:
        house.recent.keep(changed)


def take_back_correction(house: House, scope: Scope, game_id: str) -> Data:
    """Take the newest correction back."""

    def write(db: Db) -> Replayed | None:
        match = games.load(db, scope, game_id, lock=True)
        reading = readings.of_game(db, scope, game_id, lock=True)
        if reading is None or not reading.corrections:
            raise Refused("there is no correction to take back")
        return _put_right(house, db, scope, match, reading, reading.corrections[:-1])

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
    marked = _marked(view)
    if marked is None:
        raise InputError("marks", "mark the table first: four corners at least, or take the suggestion")
    path = house.files.path(entry["sha256"])
    if not path.is_file():
        raise InputError("recording", "its file is missing; add it again")
    probe = recording.probe
    data = {
        "sha256": entry["sha256"],
        "table": header.get("table") or "pool-9ft",
        "ball_set": ball_set_of(header["discipline"]),
        "discipline": header["discipline"],
        **marked,
        "marked_at": max(marked["marked_at"], probe["start"]),
        "others": [
            other for one in entry["views"] if one is not view and (other := _marked(one)) and other != marked
        ],
        "pixel_aspect": probe["pixel_aspect"],
        "duration": probe["duration"],
        "size": [probe["width"], probe["height"]],
    }
    return data, path


def _marked(view: Data) -> Data | None:
    """The marks of a view, and where they were set; None where there are too few."""
    camera = view.get("camera") or {}
    if len(camera.get("marks") or {}) < 4:
        return None
    at = float(camera.get("marked_at") or view.get("from") or 0.0)
    return {"marks": camera["marks"], "picture": camera.get("picture"), "marked_at": at}


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
        nothing = {"reached": 0.0, "duration": 0.0, "said": "", "corrections": 0, "question": None, "shots": []}
        return {"state": "none", "recording": 0, **nothing}
    shots, asked = _told(known.match, reading)
    return {
        "state": RUNNING if job and job.going else job.state if job else STOPPED,
        "recording": reading.wanted["recording"],
        "reached": min(reading.reached, reading.wanted["duration"]),
        "duration": reading.wanted["to"] or reading.wanted["duration"],
        "said": job.said if job else "",
        "corrections": len(reading.corrections),
        "question": None if asked is None else vars(asked),
        "shots": found.beside_the_log(known, reading.wanted["recording"], shots),
    }


def _shots(match: Match, reading: Reading) -> list[Data]:
    return _told(match, reading)[0]


def _told(match: Match, reading: Reading) -> tuple[list[Data], Question | None]:
    """The shots with all corrections, their balls named; and what should be asked of the coach first."""
    header = match.header.document
    shots = corrected([shot_from_data(one) for one in reading.found], reading.corrections)
    words = [*found.words_of(match, reading.wanted["recording"], shots), *reading.corrections]
    table = table_from(header.get("table") or "pool-9ft")
    told = named(shots, (CUE, *OBJECT_BALLS[header["discipline"]]), words)
    return [_shot(one, told.names, table) for one in shots], question(shots, told.doubts)


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
        "events": [
            {"t": round(told.t, 3), "kind": told.kind, "balls": told.balls, "what": told.what}
            for told in course_of(shot, names)
        ],
        "paths": [
            {"ball": names[track][0], "points": [[round(v, 3) for v in (m.t, *m.place)] for m in turns_of(marks)]}
            for track, marks in shot.paths.items()
            if track in names
        ],
    }


def _layout(layout: tuple[Placed, ...], names: Names, table: Table) -> list[Data]:
    known = once(layout, names)
    places = apart([one.place for one in known], table)
    return [_seen(*names[one.track], place, one.sigma, one.track) for one, place in zip(known, places, strict=True)]


def _seen(ball: str, confidence: float, place: Point, sigma: float, track: int | None) -> Data:
    return {
        "ball": ball,
        "confidence": round(confidence, 3),
        "doubtful": confidence < DOUBTFUL,
        "place": place,
        "sigma": min(1.0, sigma),
        "track": track,
    }
