"""Everything as one flat table of shots: a row an entry, with the columns that a statistician asks for."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from aretane.core.review.replay import Replay
from aretane.core.review.shot_figures import ShotFigures, shot_figures

Data = Mapping[str, Any]
Cell = str | float | int | bool | None


@dataclass(frozen=True)
class Source:
    """What a row is read from: the match, the entry, its figures (None: a choice without a stroke), its booking in
    the ledger (empty: not judged).
    """

    match: Data
    rack: int
    shot: int
    data: Data
    figures: ShotFigures | None
    foul: str | None
    booked: Data


@dataclass(frozen=True)
class Column:
    """`means` says what it holds, in which unit."""

    name: str
    means: str
    of: Callable[[Source], Cell]


def _of(name: str) -> Callable[[Source], Cell]:
    return lambda row: getattr(row.figures, name) if row.figures is not None else None


def _degrees(name: str) -> Callable[[Source], Cell]:
    def of(row: Source) -> Cell:
        value = getattr(row.figures, name) if row.figures is not None else None
        return None if value is None else math.degrees(value)

    return of


def _error(name: str) -> Callable[[Source], Cell]:
    def of(row: Source) -> Cell:
        error = row.figures.error if row.figures is not None else None
        return None if error is None else getattr(error, name)

    return of


def _said(name: str) -> Callable[[Source], Cell]:
    return lambda row: row.data.get(name)


def _within(outer: str, name: str) -> Callable[[Source], Cell]:
    return lambda row: (row.data.get(outer) or {}).get(name)


def _listed(name: str) -> Callable[[Source], Cell]:
    return lambda row: "; ".join(str(one) for one in row.data.get(name) or ()) or None


def _booked(name: str) -> Callable[[Source], Cell]:
    return lambda row: row.booked.get(name)


def _name(row: Source) -> Cell:
    seat = row.data.get("player")
    return ((row.match.get("players") or {}).get(seat) or {}).get("name") or seat


def _fell(row: Source) -> Cell:
    return "; ".join(one["ball"] for one in row.data.get("potted") or ()) or None


COLUMNS = (
    Column("match", "the match's title", lambda row: row.match.get("title")),
    Column("date", "day of play, as 2026-11-28", lambda row: row.match.get("date")),
    Column("discipline", "the game", lambda row: row.match["discipline"]),
    Column("session", "match, solo, both-sides, partners, lesson", lambda row: row.match.get("session") or "match"),
    Column("rack", "rack or frame, from 1", lambda row: row.rack + 1),
    Column("shot", "entry in the rack, from 1", lambda row: row.shot + 1),
    Column("player", "who played it", _name),
    Column("kind", "pot, break, bank, kick and so on", _said("kind")),
    Column("also", "what else it was", _listed("also")),
    Column("intent", "attack, safety, two-way and so on", _said("intent")),
    Column("intent_source", "whose word the intent is", _said("intent_source")),
    Column("declared", "what was declared: push-out, safety, a choice", _said("declared")),
    Column("ball", "the ball that was meant", _within("called", "ball")),
    Column("pocket", "the pocket that was meant", _within("called", "pocket")),
    Column("tried", "counts as a try at a pot", _of("tried")),
    Column("made", "the try came off without a foul", _of("made")),
    Column("result", "the result in a word", _of("result")),
    Column("entered", "part of the pocket that a ball fell by: thick, middle, thin", _within("entered", "part")),
    Column("foul", "the foul that stands first", lambda row: row.foul),
    Column("potted", "balls that fell", _fell),
    Column("scratch", "the cue ball was lost", lambda row: bool(row.data.get("scratch"))),
    Column("cut_deg", "cut angle, degrees", _degrees("cut_angle")),
    Column("cut_side", "to which side the ball is cut", _of("cut_side")),
    Column("cue_distance_m", "cue ball to ghost ball, metres", _of("cue_distance")),
    Column("pocket_distance_m", "ball to the middle of the mouth, metres", _of("pocket_distance")),
    Column("open", "share of the window that is open", _of("open")),
    Column("tolerance_deg", "half-angle of aim that still pots, degrees", _degrees("tolerance")),
    Column("travel_m", "way of the cue ball after the contact, metres", _of("travel")),
    Column("off_m", "cue ball's stop from its zone, metres", _error("distance")),
    Column("along_m", "along its last leg, long positive, metres", _error("along")),
    Column("across_m", "across it, left positive, metres", _error("across")),
    Column("grade", "grade of the zone it stopped in", _error("grade")),
    Column("next_side", "right, wrong or straight side of the next ball", _error("side")),
    Column("speed_ms", "cue ball's speed, metres a second", _within("stroke", "speed")),
    Column("side_r", "tip's place to the right, in radii", _within("stroke", "side")),
    Column("height_r", "tip's place above the centre, in radii", _within("stroke", "height")),
    Column("felt_pot", "somebody's own estimate of the pot, 0 to 1", _within("felt", "pot")),
    Column("causes", "logged causes", _listed("causes")),
    Column("contact_s", "time of the contact in its recording, seconds", _within("time", "contact")),
    Column("note", "the coach's note", _said("note")),
    Column("win_before", "chance to win before it (straight pool: balls ahead)", _booked("before")),
    Column("win_after", "the same after it", _booked("after")),
    Column("decision", "what the choice changed", _booked("decision")),
    Column("pot_value", "what making or missing it changed", _booked("pot")),
    Column("position_value", "what the cue ball's place changed", _booked("position")),
    Column("luck", "what the other balls changed", _booked("luck")),
    Column("unsplit", "what cannot be told", _booked("unsplit")),
)  # fmt: skip


def rows(match: Data, replayed: Replay, ledger: Data | None = None) -> Iterator[list[Cell]]:
    """A row for each entry of a match, in the order of `COLUMNS`."""
    figures = {(one.rack, one.shot): one for one in shot_figures(replayed)}
    judged = (ledger or {}).get("racks") or ()
    for rack, shots in enumerate(replayed.racks):
        booked = judged[rack]["shots"] if rack < len(judged) else ()
        for index, shot in enumerate(shots):
            foul = shot.ruling.foul if shot.ruling else None
            value = booked[index] if index < len(booked) else {}
            source = Source(match, rack, index, shot.data, figures.get((rack, index)), foul, value)
            yield [column.of(source) for column in COLUMNS]
