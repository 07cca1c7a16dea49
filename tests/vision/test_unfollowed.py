"""Balls of whose way nothing was seen: told by the layouts and by the ways of the others."""

import math

import pytest

from aretane.core.table import PRESETS
from aretane.vision.paths.told import Event, Mark
from aretane.vision.paths.unfollowed import with_lost, with_unfollowed

TABLE = PRESETS["pool-9ft"]
HANGS = (2.46, 1.20)  # in the mouth of the foot-left pocket
TOWARDS = [Mark(0.04 * n, (2.0 + 0.042 * n, 0.8 + 0.036 * n)) for n in range(11)]
AWAY = [Mark(0.44 + 0.04 * n, (2.41 - 0.03 * n, 1.15 - 0.02 * n)) for n in range(10)]
STROKE = Event(0.0, "strike", ("cue",), (2.0, 0.8))


@pytest.fixture
def told():
    turn = Event(0.42, "rail", ("cue",), (2.42, 1.16), "left")
    return with_unfollowed([STROKE, turn], {"cue": [*TOWARDS, *AWAY]}, {"5": HANGS}, {"5"}, TABLE)


def test_a_ball_that_hung_at_a_pocket_was_met_and_fell(told):
    assert [(one.kind, one.balls, one.what) for one in told] == [
        ("strike", ("cue",), None), ("contact", ("cue", "5"), None), ("pocket", ("5",), "foot-left"),
    ]  # fmt: skip
    assert told[1].t == pytest.approx(0.4, abs=0.08)


def test_a_ball_that_stayed_up_was_met_and_did_not_fall():
    found = with_unfollowed([STROKE], {"cue": [*TOWARDS, *AWAY]}, {"5": HANGS}, (), TABLE)
    assert [one.kind for one in found] == ["strike", "contact"]


def test_what_nothing_came_near_is_not_told():
    assert with_unfollowed([STROKE], {"cue": TOWARDS[:5]}, {"5": (0.5, 0.5)}, {"5"}, TABLE) == [STROKE]


def test_a_rail_that_was_reached_stays():
    rail = Event(0.44, "rail", ("cue",), (2.40, 1.27 - 0.029), "left")
    found = with_unfollowed([STROKE, rail], {"cue": [*TOWARDS, *AWAY]}, {"5": HANGS}, (), TABLE)
    assert rail in found


def running(velocity, places=20, start=(1.5, 0.7)):
    """A ball that runs straight on at 25 pictures a second."""
    return [
        Mark(0.04 * n, (start[0] + 0.04 * n * velocity[0], start[1] + 0.04 * n * velocity[1]))
        for n in range(places)
    ]


@pytest.mark.parametrize(
    ("start", "velocity", "pocket"),
    [
        ((1.5, 0.7), (1.0, 0.55), "foot-left"),
        ((1.0, 0.3), (-1.0, -0.3), "head-right"),
        ((1.2, 0.6), (0.1, 0.8), "side-left"),
    ],
)
def test_a_ball_that_ran_out_of_sight_fell_where_it_ran_to(start, velocity, pocket):
    path = running(velocity, 10, start)
    (fell,) = with_lost([], {"5": path}, ["5"], TABLE)
    assert (fell.kind, fell.balls, fell.what) == ("pocket", ("5",), pocket)
    speed = math.hypot(*velocity)
    way = math.dist(path[-1].place, TABLE.pockets[pocket].drop)
    assert fell.t - path[-1].t == pytest.approx(way / speed, rel=0.02)


def test_one_that_ran_to_no_pocket_or_hardly_moved_is_not_told():
    assert with_lost([STROKE], {"5": running((0.0, -1.0), 5, (0.6, 0.9))}, ["5"], TABLE) == [STROKE]
    assert with_lost([STROKE], {"5": running((0.05, 0.03), 8)}, ["5"], TABLE) == [STROKE]
