"""Reading recordings: balls at a moment, the table's outline, and whole recordings in the background."""

from __future__ import annotations

import uuid
from concurrent.futures import BrokenExecutor
from pathlib import Path
from typing import Any

from apiflask import APIBlueprint
from flask import abort

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import InputError
from aretane.core.table import Point, Table, table_from
from aretane.jobs.pool import Pool
from aretane.jobs.reading import wanted_from
from aretane.store import games, readings, recordings
from aretane.store.readings import Reading
from aretane.vision.alone import table_alone
from aretane.vision.ball_sets import ball_set_of
from aretane.vision.corners import snap_marks, suggest_marks
from aretane.vision.corrections import Found, corrected, named
from aretane.vision.found_data import layout_as_data, shot_from_data, summary_of
from aretane.vision.looking import balls_in
from aretane.vision.naming import Names, once
from aretane.vision.part import camera_of
from aretane.vision.spacing import apart
from aretane.vision.watch import Placed
from aretane.web.context import context, transaction
from aretane.web.reading_schemas import (
    CorrectionRequest,
    OutlineAnswer,
    OutlineRequest,
    ReadingAnswer,
    ReadRecordingRequest,
    StillAnswer,
    StillQuery,
)

blueprint = APIBlueprint("readings", __name__, url_prefix="/api", tag="readings")

PATIENCE = 60  # seconds for one picture
NOTHING_READ = "no recording of this match has been read"
DOUBTFUL_SHOT, DOUBTFUL_BALL = 0.7, 0.6  # confidences below which somebody should look
NEEDED = {
    "delete": ("shot",), "merge": ("shot",), "split": ("shot", "at"), "add": ("at",), "kind": ("shot", "kind"),
    "place": ("shot", "side", "track", "place"), "remove": ("track",), "name": ("track", "ball"),
}  # fmt: skip


@blueprint.post("/recordings/<sha256>/outline")
@blueprint.input(OutlineRequest)
@blueprint.output(OutlineAnswer)
def outline(sha256: str, json_data: OutlineRequest) -> dict[str, Any]:
    """A first guess of the table's corners and pockets, or marks set by hand moved onto edges."""
    _recording(sha256)
    path, table = str(context().files.path(sha256)), table_from(json_data.table)
    return {"marks": _elsewhere(_outlined, path, table, json_data.at, json_data.marks)}


def _outlined(path: str, table: Table, at: float, marks: Any) -> Any:
    picture, scale = table_alone(Path(path), at)
    if marks:
        found = snap_marks(picture, table, {name: (u * scale, v * scale) for name, (u, v) in marks.items()})
    else:
        found = suggest_marks(picture, table)
    return {name: (round(u / scale, 1), round(v / scale, 1)) for name, (u, v) in found.items()}


@blueprint.get("/games/<game_id>/still")
@blueprint.input(StillQuery, location="query")
@blueprint.output(StillAnswer)
def still(game_id: str, query_data: StillQuery) -> dict[str, Any]:
    """The balls that stand at a moment of a match's recording."""
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
    header = game.header.document
    wanted = wanted_from(*_wanted(header, query_data.recording, query_data.at))
    balls = (CUE, *OBJECT_BALLS[header["discipline"]])
    told, _, time = _elsewhere(balls_in, wanted, query_data.at, balls)
    return {
        "time": time,
        "racked": any(one.racked for one in told),
        "balls": [_seen(one.name, one.confidence, one.candidate.place, one.candidate.sigma, None) for one in told],
    }


@blueprint.get("/games/<game_id>/reading")
@blueprint.output(ReadingAnswer)
def reading_of(game_id: str) -> dict[str, Any]:
    return _reading_of(game_id)


@blueprint.post("/games/<game_id>/reading")
@blueprint.input(ReadRecordingRequest)
@blueprint.output(ReadingAnswer)
def begin_reading(game_id: str, json_data: ReadRecordingRequest) -> dict[str, Any]:
    """Read a match's recording in the background, in the place of an earlier reading."""
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
        known = readings.find(db, json_data.id)
        if known is None:
            header = game.header.document
            data, path = _wanted(header, json_data.recording, json_data.marked_at)
            if json_data.end is not None and json_data.end <= json_data.begin:
                raise InputError("end", "must be after the beginning")
            _check_marks(data, path)
            data |= {"from": json_data.begin, "to": json_data.end, "recording": json_data.recording}
            readings.begin(db, author, game_id, json_data.id, data)
    if known is None:
        context().readings.start(json_data.id)
    return _reading_of(game_id)


@blueprint.post("/games/<game_id>/reading/stop")
@blueprint.output(ReadingAnswer)
def stop_reading(game_id: str) -> dict[str, Any]:
    """Stop reading; what was found stays."""
    with transaction() as (db, author):
        reading = readings.of_game(db, author.club_id, game_id) or abort(404, "nothing is being read")
        readings.end(db, reading.id, "stopped")
    return _reading_of(game_id)


@blueprint.post("/games/<game_id>/reading/corrections")
@blueprint.input(CorrectionRequest)
@blueprint.output(ReadingAnswer)
def correct_reading(game_id: str, json_data: CorrectionRequest) -> dict[str, Any]:
    """Add a correction; what it makes impossible is refused."""
    correction = {key: value for key, value in json_data.model_dump().items() if value not in (None, False)}
    for key in NEEDED[json_data.do]:
        if key not in correction:
            raise InputError(key, f"is needed to {json_data.do}")
    if json_data.do == "add":
        correction["id"] = f"by-hand-{uuid.uuid4().hex[:8]}"
    if json_data.do == "split":  # before anything is locked: a picture takes its time
        correction["layout"] = _between(game_id, float(correction["at"]))
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
        reading = readings.of_game(db, author.club_id, game_id, lock=True) or abort(404, NOTHING_READ)
        if json_data.do == "name" and json_data.ball not in (
            CUE,
            *OBJECT_BALLS[game.header.document["discipline"]],
        ):
            raise InputError("ball", "this game has no such ball")
        corrected([shot_from_data(one) for one in reading.found], [*reading.corrections, correction])
        readings.correct(db, reading.id, [*reading.corrections, correction])
    return _reading_of(game_id)


@blueprint.delete("/games/<game_id>/reading/corrections")
@blueprint.output(ReadingAnswer)
def take_back_correction(game_id: str) -> dict[str, Any]:
    """Take the newest correction back."""
    with transaction() as (db, author):
        reading = readings.of_game(db, author.club_id, game_id, lock=True)
        if reading is None or not reading.corrections:
            abort(409, "there is no correction to take back")
        readings.correct(db, reading.id, reading.corrections[:-1])
    return _reading_of(game_id)


def _reading_of(game_id: str) -> dict[str, Any]:
    with transaction() as (db, author):
        game = games.load(db, author.club_id, game_id)
        reading = readings.of_game(db, author.club_id, game_id)
    return _as_data(game.header.document, reading)


def _between(game_id: str, at: float) -> list[dict[str, Any]]:
    """The layout at a time inside of a shot, read from the picture; its tracks are new."""
    with transaction() as (db, author):
        header = games.load(db, author.club_id, game_id).header.document
        reading = readings.of_game(db, author.club_id, game_id) or abort(404, NOTHING_READ)
    wanted = wanted_from(*_wanted(header, reading.wanted["recording"], reading.wanted["marked_at"]))
    told, _, _ = _elsewhere(balls_in, wanted, at, (CUE, *OBJECT_BALLS[header["discipline"]]))
    first = 1_000_000 + 100 * len(reading.corrections)
    return layout_as_data(
        [
            Placed(first + n, one.candidate.place, one.candidate.sigma, 1, one.appearance)
            for n, one in enumerate(told)
        ]
    )


def _wanted(header: dict[str, Any], number: int, at: float) -> tuple[dict[str, Any], Any]:
    """What is needed to look at a match's recording with the marks of the view at that time, and its file."""
    entries = header.get("recordings") or []
    if number >= len(entries):
        raise InputError("recording", "this match has no such recording")
    entry = entries[number]
    recording = _recording(entry["sha256"])
    view: dict[str, Any] = next(
        (v for v in entry.get("views") or () if v.get("from", 0) <= at and (v.get("to") is None or at < v["to"])),
        {},
    )
    marks = (view.get("camera") or {}).get("marks") or {}
    if len(marks) < 4:
        raise InputError("marks", "mark the table first: four corners at least, or take the suggestion")
    path = context().files.path(entry["sha256"])
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


def _check_marks(data: dict[str, Any], path: Any) -> None:
    width, height = data["size"]
    wanted = wanted_from(data, path)
    camera_of(wanted, wanted.table, (width, height))


def _recording(sha256: str) -> Any:
    with transaction() as (db, author):
        recording = recordings.find(db, author.club_id, sha256)
    return recording or abort(404, "there is no such recording")


def _elsewhere(work: Any, *arguments: Any) -> Any:
    """Done by a worker, so that a decoder that crashes does not take the server along."""
    pool: Pool = context().pool
    try:
        return pool.submit(work, *arguments).result(PATIENCE)
    except (BrokenExecutor, TimeoutError):
        pool.renew()
        raise InputError("recording", "the picture there cannot be decoded") from None


def _as_data(header: dict[str, Any], reading: Reading | None) -> dict[str, Any]:
    if reading is None:
        nothing = {"reached": 0.0, "duration": 0.0, "said": "", "corrections": 0, "shots": []}
        return {"state": "none", "recording": 0, **nothing}
    shots = corrected([shot_from_data(one) for one in reading.found], reading.corrections)
    table = table_from(header.get("table") or "pool-9ft")
    names = named(shots, (CUE, *OBJECT_BALLS[header["discipline"]]), reading.corrections)
    return {
        "state": reading.state,
        "recording": reading.wanted["recording"],
        "reached": min(reading.reached, reading.wanted["duration"]),
        "duration": reading.wanted["to"] or reading.wanted["duration"],
        "said": reading.said,
        "corrections": len(reading.corrections),
        "shots": [_shot(one, names, table) for one in shots],
    }


def _shot(found: Found, names: Names, table: Table) -> dict[str, Any]:
    shot = found.shot
    before, after = _layout(shot.before, names, table), _layout(shot.after, names, table)
    unsure = any(one["doubtful"] for one in before + after)
    return {
        "id": found.id,
        "rack": found.rack,
        **summary_of(shot),
        "doubtful": shot.confidence < DOUBTFUL_SHOT or unsure,
        "before": before,
        "after": after,
    }


def _layout(layout: tuple[Placed, ...], names: Names, table: Table) -> list[dict[str, Any]]:
    known = once(layout, names)
    places = apart([one.place for one in known], table)
    return [_seen(*names[one.track], place, one.sigma, one.track) for one, place in zip(known, places, strict=True)]


def _seen(ball: str, confidence: float, place: Point, sigma: float, track: int | None) -> dict[str, Any]:
    return {
        "ball": ball,
        "confidence": round(confidence, 3),
        "doubtful": confidence < DOUBTFUL_BALL,
        "place": place,
        "sigma": min(1.0, sigma),
        "track": track,
    }
