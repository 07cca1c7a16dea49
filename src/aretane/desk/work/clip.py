"""The job that cuts moments of a match out of its recordings, with what was better drawn and said."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any

from aretane.core.errors import InputError, NotFound
from aretane.core.rules.traits import BALLS, traits_of
from aretane.core.table import table_from
from aretane.desk.moments import choice_lines, cost_words, way_of
from aretane.desk.work.judging import stamp_of
from aretane.draw.drawn import drawn
from aretane.formats.printed.pages import LETTERS
from aretane.jobs.pool import WorkerDied
from aretane.jobs.work import Stopped, Work
from aretane.store import games, ledgers, voices
from aretane.store.database import Database
from aretane.store.files import RecordingFiles
from aretane.vision.clip.cutting import cut
from aretane.vision.clip.moment import Colour, Line, Moment

Data = Mapping[str, Any]

LIMIT = 1800.0  # seconds
CARE = "coarse"
PLAYED, BETTER = (250, 247, 240), (168, 64, 42)
INKS: dict[str, Colour] = {"ink-dark": (34, 48, 60), "ink-red": (150, 38, 44), "ink-blue": (43, 92, 158)}


def run(work: Work, database: Database, files: RecordingFiles) -> str:
    asked, name = work.job.arguments, work.job.subject
    target, progress = files.clip(work.scope, name), files.clip_progress(work.scope, name)
    if target.is_file():
        return ""
    with database.transaction() as db:
        match = games.load(db, work.scope, asked["game"])
        document = match.as_document()
        kept = ledgers.find(db, work.scope, asked["game"], CARE)
        body = kept.body if kept is not None and kept.stamp == stamp_of(document, kept.hands) else None
        spoken = {shot: voices.find(db, work.scope, asked["game"], shot) for shot in asked["shots"]}
    said: dict[str, Path] = {}
    try:
        for shot, voice in spoken.items():
            if voice is not None:
                said[shot] = files.clip_voice(work.scope, name, shot)
                said[shot].write_bytes(voice.sound)
        moments = [moment_of(document, *match.place(shot), body, files, said.get(shot)) for shot in asked["shots"]]
        work.part(
            LIMIT,
            cut,
            moments,
            str(target),
            str(progress),
            str(LETTERS),
            sound=bool(asked["sound"]),
        )
        if not target.is_file():
            raise Stopped
    except NotFound:
        raise InputError("clip", "one of these shots is not in the match any more") from None
    except WorkerDied:
        raise InputError("clip", "the recording cannot be decoded there") from None
    finally:
        progress.unlink(missing_ok=True)
        for path in said.values():
            path.unlink(missing_ok=True)
    return ""


def moment_of(
    match: Data, rack: int, index: int, body: Data | None, files: RecordingFiles, voice: Path | None = None
) -> Moment:
    """A shot as a moment. Raises `InputError` in a coach's words where its recording or its times are missing."""
    shot, table = match["racks"][rack]["shots"][index], table_from(match.get("table") or "pool-9ft")
    traits = traits_of(match["discipline"])
    players, seat = match.get("players") or {}, str(shot.get("player") or "")
    place = f"{traits.rack.capitalize()} {rack + 1}, shot {index + 1}"
    entry = _recording(match, shot, place)
    time = shot["time"]
    path = files.path(entry["sha256"])
    if not path.is_file():
        raise InputError("clip", f"{place}: its recording was removed")
    view = _view(entry, float(time["contact"]))
    told = _entry(body, rack, index)
    points = traits.counts != BALLS
    name = (players.get(seat) or {}).get("name") or seat
    note = str(shot.get("note") or "")
    return Moment(
        str(path), float(time.get("start") or time["contact"]), float(time["contact"]),
        float(time.get("still") or time["contact"] + 8.0), table, f"{place}: {name}" if name else place,
        tuple(one for one in (note, *(choice_lines(told, points) if told else ())) if one),
        f"{cost_words(told, points)}." if told and told["kind"] == "stroke" else "", _lines(shot, told),
        {name: (float(x), float(y)) for name, (x, y) in (view.get("marks") or {}).items()},
        tuple(view["picture"]) if view.get("picture") else None, str(voice) if voice else None,
    )  # fmt: skip


def _recording(match: Data, shot: Data, place: str) -> Data:
    recordings, number = match.get("recordings") or [], shot.get("recording")
    if number is None or not 0 <= number < len(recordings):
        raise InputError("clip", f"{place} is in no recording")
    if (shot.get("time") or {}).get("contact") is None:
        raise InputError("clip", f"{place}: nobody has marked when it was struck")
    return dict(recordings[number])


def _view(entry: Data, at: float) -> Data:
    for view in entry.get("views") or ():
        if view.get("from", 0) <= at and (view.get("to") is None or at < view["to"]):
            return dict(view.get("camera") or {})
    return {}


def _entry(body: Data | None, rack: int, index: int) -> dict[str, Any] | None:
    racks = (body or {}).get("racks") or []
    shots = racks[rack]["shots"] if rack < len(racks) else []
    return shots[index] if index < len(shots) else None


def _lines(shot: Data, told: dict[str, Any] | None) -> tuple[Line, ...]:
    own = [
        Line(shape.points, INKS.get(shape.line, BETTER), closed=shape.closed)
        for shape in drawn(shot.get("drawings") or ())
    ]
    if told is None:
        return tuple(own)
    looks = (("played", PLAYED, True), ("better", BETTER, False))
    ways = (Line(way, colour, dashed) for key, colour, dashed in looks if (way := way_of(told, key)))
    return (*ways, *own)
