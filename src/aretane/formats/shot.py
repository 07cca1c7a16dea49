"""A simulated shot and its samples as data: the answer of `simulate`, and what the shot lab draws."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np

from aretane.core.layout import Layout
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER
from aretane.core.physics.sampling import Samples
from aretane.core.physics.shot import Event, Leg, Shot
from aretane.core.physics.stroke import Stroke
from aretane.core.rules.disciplines import masks
from aretane.core.rules.masks import Outcomes, judge
from aretane.core.statistics.rates import wilson
from aretane.core.table import POCKETS
from aretane.formats.layout import layout_as_data
from aretane.formats.stroke import stroke_as_data


def shot_as_data(shot: Shot) -> dict[str, Any]:
    """The noiseless part of the answer."""
    return {
        "stroke": stroke_as_data(shot.stroke),
        "potted": [{"ball": ball, "pocket": pocket, "t": t} for ball, pocket, t in shot.potted],
        "off_table": list(shot.off_table),
        "first_contact": shot.first_contact,
        "rails_after_contact": shot.rails_after_contact,
        "object_balls_to_rail": shot.object_balls_to_rail,
        "cue_rails": shot.cue_rails,
        "scratch": shot.scratch,
        "duration": shot.duration,
        "events": [_event(event) for event in shot.events],
        "capped": shot.capped,
        "miscue": shot.miscue,
        "final": layout_as_data(shot.final),
    }


def _event(event: Event) -> dict[str, Any]:
    data: dict[str, Any] = {"t": event.t, "kind": event.kind, "balls": list(event.balls)}
    data |= {"place": list(event.place), "speeds": list(event.speeds)}
    if event.rail is not None:
        data["rail"] = event.rail
    if event.pocket is not None:
        data["pocket"] = event.pocket
    return data


def legs_as_data(shot: Shot) -> dict[str, list[dict[str, Any]]]:
    """The motion of each ball that moved, for drawing and animation."""
    return {
        ball: [_leg(leg) for leg in legs]
        for ball, legs in shot.legs.items()
        if len(legs) > 1 or legs[0].phase != "rest"
    }


def _leg(leg: Leg) -> dict[str, Any]:
    return {
        "t": leg.t,
        "phase": leg.phase,
        "place": list(leg.place),
        "velocity": list(leg.velocity),
        "acceleration": list(leg.acceleration),
    }


def outcomes(layout: Layout, meant: Stroke, samples: Samples) -> Outcomes:
    """The samples judged by the rules: with `at`, only that ball in that pocket is a pot."""
    called = None
    if meant.at is not None and meant.pocket is not None:
        called = (meant.at, POCKETS.index(meant.pocket))
    balls_to_rail = np.bitwise_count(samples.results[:, R_RAILS_AFTER]).astype(np.int64)
    return judge(masks(layout), samples.names, samples.fates, samples.results[:, R_FIRST], balls_to_rail, called)


def samples_as_data(layout: Layout, meant: Stroke, samples: Samples) -> dict[str, Any]:
    """Rates with intervals, and where the cue ball came to rest whenever it stayed on the table."""
    judged, n = outcomes(layout, meant, samples), len(samples.durations)
    stayed = samples.fates[:, 0] == -1
    return {
        "pot": asdict(wilson(int(judged.pot.sum()), n)),
        "foul_rate": asdict(wilson(int(judged.foul.sum()), n)),
        "scratch_rate": asdict(wilson(int(judged.scratch.sum()), n)),
        "landing": samples.places[stayed, 0].tolist(),
        "capped": samples.capped,
    }
