"""The balls of a shot followed through its pictures."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from copy import copy
from dataclasses import dataclass, replace
from pathlib import Path

from aretane.core.ball import CUE
from aretane.core.table import Point, Table
from aretane.vision.balls.identity import cue_cost
from aretane.vision.files.frames import picture_at
from aretane.vision.paths.events import events_of
from aretane.vision.paths.pictures import View, frames
from aretane.vision.paths.told import Event, Mark
from aretane.vision.paths.tracking import tracked
from aretane.vision.paths.unfollowed import with_lost, with_unfollowed
from aretane.vision.shots.following import View as Seen
from aretane.vision.shots.following import view_of
from aretane.vision.shots.wanted import Wanted, camera_of
from aretane.vision.shots.watch import SCATTERED, Shot
from aretane.vision.table.cloth import Image
from aretane.vision.table.registration import Registrar, resized
from aretane.vision.table.sight import prepare

SLOWEST = 15.0  # pictures a second, from which on balls can be followed
EARLIER, LATER = 0.9, 0.6  # seconds round a shot that are looked at
AS_LIKELY = 2.5  # of cost: a ball that looks so little less like the cue ball may be it
UNSEEN = 0.7  # seconds: so long before a look finds it gone a ball may have left


@dataclass(frozen=True)
class Course:
    """The marks of each ball that ran, and what happened, in the order of time."""

    paths: Mapping[str, list[Mark]]
    events: list[Event]


def view_for(wanted: Wanted, at: float) -> View:
    """What is known of the pictures from a moment on."""
    _, picture = picture_at(Path(wanted.path), at)
    size = (picture.shape[1], picture.shape[0])
    seen = view_of(wanted.table, wanted.ball_set, camera_of(wanted, wanted.table, size), size)
    return _view(seen, Registrar(resized(picture, seen.scale), wanted.table, seen.small), picture)


def _view(seen: Seen, registrar: Registrar, picture: Image) -> View:
    cloth = prepare(picture, seen.table, seen.camera, seen.bed).cloth
    return View(seen.table, seen.camera, seen.bed, cloth, registrar, seen.scale)


def paths_in(
    path: Path, view: View, begin: float, end: float, balls: Mapping[str, Point], cues: Sequence[str] = (CUE,),
    stay: Collection[str] = (), white: Point | None = None,
) -> Course:  # fmt: skip
    """The balls of a layout followed from one time to another; one of `cues`, the likeliest first, is struck and
    lies at `white` in the end, and those that `stay` are known not to have moved."""
    tracker = tracked(view, balls, frames(path, view, begin, end), cues, stay, white)
    return Course(tracker.paths(), events_of(tracker.runners, view.table, tracker.cue))


def with_paths(path: Path, seen: Seen, registrar: Registrar, shot: Shot) -> Shot:
    """A found shot with the ways of its balls, by their tracks; these tell its contact, and when all rest."""
    looks = {
        one.track: one.appearance for one in shot.before if one.appearance is not None and one.track in shot.left
    }
    if not looks or len(shot.left) > SCATTERED:
        return shot  # too many run at once to tell one from another
    costs = {track: cue_cost(look) for track, look in looks.items()}
    least = min(costs.values())
    cues = [str(track) for track in sorted(costs, key=costs.__getitem__) if costs[track] < least + AS_LIKELY]
    balls = {str(one.track): one.place for one in shot.before}
    stay = {str(one.track) for one in shot.before if one.track not in shot.left}
    begin = max(0.0, shot.start - EARLIER, shot.contact - UNSEEN - EARLIER)
    _, picture = picture_at(path, begin)
    if not registrar.fits(resized(picture, seen.scale)):
        return shot
    course = paths_in(
        path, _view(seen, copy(registrar), picture), begin, shot.still + LATER, balls, cues, stay, _white(shot)
    )
    struck = next((one.t for one in course.events if one.kind in ("strike", "contact")), None)
    if struck is None or not course.paths:
        return shot
    events = _with_unfollowed(course, shot, seen.table)
    over = max(one.t for one in events)
    contact = min(struck, shot.still)
    paths = {int(track): tuple(marks) for track, marks in course.paths.items()}
    return replace(
        shot,
        start=min(shot.start, contact),
        contact=contact,
        still=max(contact, min(over, shot.still)),
        paths=paths,
        events=tuple(events),
    )


def _white(shot: Shot) -> Point | None:
    """Where the cue ball lies after a shot: the new ball that looks like it as no other one that left does. None
    where that is not sure: what lies there may be a stripe, and the cue ball in a pocket.
    """
    arrived = sorted(
        (cue_cost(one.appearance), one.place)
        for one in shot.after
        if one.track in shot.arrived and one.appearance is not None
    )
    left = sorted(
        cue_cost(one.appearance) for one in shot.before if one.track in shot.left and one.appearance is not None
    )
    if not arrived or not left:
        return None
    cost, place = arrived[0]
    others = [*left[1:], *(other for other, _ in arrived[1:])]
    return place if cost < left[0] + AS_LIKELY and cost + AS_LIKELY < min(others, default=math.inf) else None


def _with_unfollowed(course: Course, shot: Shot, table: Table) -> list[Event]:
    """What happened, with the balls that left their places and were not followed, or not to the end of their way.
    They fell, if as many are gone as are not known to have fallen already.
    """
    left = {
        str(one.track): one.place
        for one in shot.before
        if one.track in shot.left and str(one.track) not in course.paths
    }
    ended = {one.balls[0] for one in course.events if one.kind in ("rest", "pocket")}
    lost = [ball for ball in course.paths if ball not in ended]
    missing = shot.gone - sum(one.kind == "pocket" for one in course.events)
    all_fell = 0 < len(left) + len(lost) <= missing
    found = with_unfollowed(course.events, course.paths, left, left if all_fell else {}, table)
    return with_lost(found, course.paths, lost if all_fell else [], table)
