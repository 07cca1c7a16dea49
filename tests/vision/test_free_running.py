"""The table's cloth and rails, told from ways that the simulator ran on a table of known ones."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.shot import place_on, simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import PRESETS
from aretane.vision.paths.free_running import metres_of, table_told
from aretane.vision.paths.told import Event, Mark
from aretane.vision.shots.watch import Shot

POOL = PRESETS["pool-9ft"]
SLOW = replace(POOL, physics=(("rail_restitution", 0.84), ("roll_friction", 0.013)))


def ran(aim, speed, noise, dice, stop=12.0):
    """A shot in which the cue ball ran alone, seen 30 times a second."""
    start = (0.5, 0.4)
    played = simulate(Layout(SLOW, "straight-pool", {"cue": start}), Stroke(speed=speed, aim=aim))
    marks = []
    for t in np.arange(0.0, min(stop, played.duration + 0.5), 1 / 30):
        x, y = place_on(played.legs["cue"], float(t))
        marks.append(Mark(float(t), (x + dice.normal(0, noise), y + dice.normal(0, noise))))
    strike = Event(0.0, "strike", ("7",), start)
    return Shot(0.0, 0.0, 12.0, 1.0, 1, 0, "shot", (), (), (7,), (7,), paths={7: tuple(marks)}, events=(strike,))


def test_the_cloth_and_the_rails_of_a_slow_table_are_found():
    dice = np.random.default_rng(4)
    shots = [
        ran(aim, speed, 0.002, dice) for aim, speed in ((0.3, 1.2), (0.9, 1.6), (2.0, 1.4), (-0.4, 1.0), (0.1, 1.8))
    ]
    fit, stretches = table_told(POOL, shots)
    assert fit.roll_friction == pytest.approx(0.013, abs=3 * fit.roll_friction_error)
    assert fit.rail_restitution == pytest.approx(0.84, abs=3 * fit.rail_restitution_error)
    assert (fit.roll_friction_error < 0.0005, fit.rail_restitution_error < 0.03) == (True, True)
    assert len(stretches) == 5
    assert metres_of(stretches) > 3


def test_a_way_that_was_disturbed_is_left_out():
    """A ball that somebody stopped ran as on no cloth."""
    dice = np.random.default_rng(5)
    shots = [ran(aim, 1.4, 0.002, dice) for aim in (0.3, 0.9, 2.0)]
    stopped = ran(0.1, 1.8, 0.002, dice, stop=1.2)
    marks = stopped.paths[7]
    held = (*marks, *(Mark(marks[-1].t + n / 30, marks[-1].place) for n in range(1, 40)))
    alone, _ = table_told(POOL, shots)
    both, stretches = table_told(POOL, [*shots, replace(stopped, paths={7: held})])
    assert len(stretches) == 3
    assert both.roll_friction == pytest.approx(alone.roll_friction)


def test_too_few_ways_tell_nothing():
    with pytest.raises(InputError, match="too few balls were followed"):
        table_told(POOL, [ran(0.3, 1.4, 0.002, np.random.default_rng(6))])
