"""What the benches of recordings ask for: neither a shot that the pictures do not show, nor a ball under an arm."""

from __future__ import annotations

import numpy as np
import pytest

from aretane.films_bench import covered
from aretane.vision_bench import shown

SHOTS = [{"contact": 2.0, "still": 4.0}, {"contact": 8.0, "still": 9.0}]


def frame(t, cue, hidden=0.0):
    return {"t": t, "balls": {"cue": cue, "1": [1.0, 0.5]}, "hidden": {"cue": hidden}}


@pytest.mark.parametrize(("before", "after", "told"), [(0.0, 0.0, True), (0.8, 0.0, False), (0.0, 0.8, False)])
def test_a_shot_is_asked_for_if_its_balls_stand_uncovered_before_and_after_it(before, after, told):
    frames = [frame(1.0, [0.5, 0.5], before), frame(3.0, [0.7, 0.5]), frame(5.0, [0.9, 0.5], after)]
    assert shown({"shots": SHOTS, "frames": frames}, 0) is told


def test_who_stands_before_a_ball_that_does_not_move_hides_no_shot():
    frames = [frame(1.0, [0.5, 0.5]), frame(5.0, [0.9, 0.5])]
    for one in frames:
        one["hidden"]["1"] = 0.9
    assert shown({"shots": SHOTS, "frames": frames}, 0)
    assert not shown({"shots": SHOTS, "frames": frames}, 1), "no picture comes after the second shot"


@pytest.mark.parametrize(("near", "told"), [(["arm"], 1.0), ([], 0.0)])
def test_a_ball_is_covered_where_it_looks_otherwise_than_before(near, told):
    ball = {"id": "3", "x": 1.0, "y": 0.5, "pixel": [20.0, 20.0], "radius": 6.0}
    frames = [{"near": [], "balls": [ball]}, {"near": near, "balls": [ball]}]
    plain, sleeve = np.full((40, 40, 3), 90, np.uint8), np.full((40, 40, 3), 90, np.uint8)
    sleeve[10:30, 10:30] = 200
    assert covered(ball, 1, frames, [plain, sleeve]) == told
    assert covered({**ball, "covered": 0.4}, 1, frames, [plain, sleeve]) == 0.4, "the truth itself tells it"


def test_nothing_is_said_of_a_ball_that_lay_elsewhere():
    ball = {"id": "3", "x": 1.0, "y": 0.5, "pixel": [20.0, 20.0], "radius": 6.0}
    frames = [{"near": [], "balls": [{**ball, "x": 1.2}]}, {"near": ["arm"], "balls": [ball]}]
    assert covered(ball, 1, frames, [np.zeros((40, 40, 3), np.uint8), np.full((40, 40, 3), 200, np.uint8)]) == 0.0
