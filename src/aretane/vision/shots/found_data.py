"""What was found in a recording, as data: shots with the layouts before and after, balls by their tracks."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from aretane.vision.balls.appearance import Appearance
from aretane.vision.paths.told import event_as_data, event_from, marks_as_data, marks_from
from aretane.vision.shots.watch import Placed, Shot

Data = dict[str, Any]


def summary_of(shot: Shot) -> Data:
    """When a shot was, how sure it is, and how many balls it moved and took away."""
    return {
        "start": round(shot.start, 3),
        "contact": round(shot.contact, 3),
        "still": round(shot.still, 3),
        "confidence": shot.confidence,
        "moved": shot.moved,
        "gone": shot.gone,
        "kind": shot.kind,
    }


def shot_as_data(shot: Shot) -> Data:
    return {
        **summary_of(shot),
        "before": layout_as_data(shot.before),
        "after": layout_as_data(shot.after),
        "left": list(shot.left),
        "arrived": list(shot.arrived),
        "paths": {str(track): marks_as_data(marks) for track, marks in shot.paths.items()},
        "events": [event_as_data(one) for one in shot.events],
    }


def shot_from_data(data: Mapping[str, Any]) -> Shot:
    return Shot(
        **{key: data[key] for key in ("start", "contact", "still", "confidence", "moved", "gone", "kind")},
        before=tuple(placed_from(one) for one in data["before"]),
        after=tuple(placed_from(one) for one in data["after"]),
        left=tuple(data["left"]),
        arrived=tuple(data["arrived"]),
        paths={int(track): marks_from(marks) for track, marks in (data.get("paths") or {}).items()},
        events=tuple(event_from(one) for one in data.get("events") or ()),
    )


def layout_as_data(layout: Sequence[Placed]) -> list[Data]:
    return [_placed_as_data(one) for one in layout]


def _placed_as_data(one: Placed) -> Data:
    look = one.appearance
    return {
        "track": one.track,
        "place": [round(float(one.place[0]), 4), round(float(one.place[1]), 4)],
        "sigma": round(float(one.sigma), 4),
        "hits": one.hits,
        "seen": one.seen,
        "late": one.late,
        "look": [round(v, 3) for v in (look.ivory, look.dark, *map(float, look.colour))] if look else None,
    }


def placed_from(data: Mapping[str, Any]) -> Placed:
    look = data["look"]
    x, y = data["place"]
    appearance = Appearance(look[0], look[1], np.array(look[2:])) if look else None
    told = data["track"], (x, y), data["sigma"], data["hits"], appearance
    return Placed(*told, data.get("seen", True), data.get("late", False))
