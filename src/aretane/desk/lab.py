"""The shot lab: one shot played, and repeated with a player's hand."""

from __future__ import annotations

import os
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout
from aretane.core.parameters import LIMITS, changes_from, physics_as_data, physics_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.backwards.goal import Goal
from aretane.core.rules.traits import TRAITS, Traits, made_for
from aretane.core.skill.hand import Hand, hand_as_data, presets_for
from aretane.core.table import PRESETS, Table, table_as_data, table_from
from aretane.desk.table_view import table_as_answer

THREADS = os.cpu_count() or 1


def lab() -> dict[str, Any]:
    """Tables, hands, balls and limits of the lab."""
    from aretane.core.physics.cue import TIP_LIMIT
    from aretane.core.physics.stroke import FASTEST

    return {
        "tables": [
            {
                "id": name,
                "table": table_as_answer(table),
                "physics": physics_as_data(physics_of(table)),
                "disciplines": [one.name for one in TRAITS.values() if _fits(one, table)],
                "hands": [{"id": level, **hand_as_data(hand)} for level, hand in presets_for(table).items()],
            }
            for name, table in PRESETS.items()
        ],
        "limits": LIMITS,
        "balls": {discipline: [CUE, *balls] for discipline, balls in OBJECT_BALLS.items()},
        "tip_limit": TIP_LIMIT,
        "fastest": FASTEST,
    }


def _fits(traits: Traits, table: Table) -> bool:
    return traits.table == table.name or (traits.table is None and made_for(table) is None)


def played(layout: Layout, meant: Stroke, hand: Hand, samples: int, seed: int) -> dict[str, Any]:
    """A stroke played on a layout without error, and repeated `samples` times with the hand's errors."""
    # The simulator takes most of a second to load: not before the first shot, see `serving.run`.
    from aretane.core.physics.aim import aimed
    from aretane.core.physics.cue import cue_speed
    from aretane.core.physics.sampling import sample
    from aretane.core.physics.shot import simulate
    from aretane.core.physics.stroke import check_stroke
    from aretane.formats.shot import legs_as_data, samples_as_data, shot_as_data

    place = check_stroke(layout, meant)
    struck = aimed(place, meant)
    shot = simulate(place, struck)
    drawn = None
    if samples:
        drawn = samples_as_data(place, meant, sample(place, struck, hand, samples, seed, THREADS, ball=meant.at))
    mass = physics_of(place.table).cue_ball_mass
    return {
        "shot": shot_as_data(shot),
        "legs": legs_as_data(shot),
        "cue_speed": cue_speed(struck.speed, struck.side, struck.height, mass),
        "samples": drawn,
    }


def changed(table: Any, physics: Mapping[str, Any]) -> Any:
    """A table as data, with some parameters of its own."""
    if not physics:
        return table
    known: Table = table_from(table)
    return table_as_data(replace(known, physics=changes_from({**dict(known.physics), **physics})))


def reached(layout: Layout, ball: str, pocket: str, goal: Goal, hand: Hand) -> dict[str, Any]:
    """The strokes that pot this ball and leave the cue ball where it should be."""
    from aretane.core.planning.backwards.reach import reach
    from aretane.formats.backwards import reach_as_data

    return reach_as_data(reach(layout, ball, pocket, goal, hand, threads=THREADS))


def sent(layout: Layout, ball: str, goal: Goal, hand: Hand) -> dict[str, Any]:
    """The strokes that leave an object ball at a place."""
    from aretane.core.planning.backwards.send import send
    from aretane.formats.backwards import sent_as_data

    return sent_as_data(send(layout, ball, goal, hand, threads=THREADS))


def kicked(
    layout: Layout, ball: str, pocket: str | None, rails: int | None, hand: Hand, side: float
) -> dict[str, Any]:
    """The kicks at a ball, struck with this side."""
    from aretane.core.planning.backwards.kick import kick_ways
    from aretane.formats.backwards import ways_as_data

    return ways_as_data(kick_ways(layout, ball, hand, pocket, rails, threads=THREADS, side=side))


def banked(layout: Layout, ball: str, hand: Hand) -> dict[str, Any]:
    """The banks of a ball."""
    from aretane.core.planning.backwards.bank import bank_ways
    from aretane.formats.backwards import banks_as_data

    return banks_as_data(bank_ways(layout, ball, hand, threads=THREADS))


def lines(layout: Layout) -> dict[str, Any]:
    """Plants and cannons that lie on this table."""
    from aretane.core.geometry.plants import cannons, plants
    from aretane.formats.backwards import lines_as_data

    return lines_as_data(plants(layout), cannons(layout))
