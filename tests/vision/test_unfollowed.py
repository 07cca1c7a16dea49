"""Balls of whose way nothing was seen: told by the layouts and by the ways of the others."""

import pytest

from aretane.core.table import PRESETS
from aretane.vision.paths.told import Event, Mark
from aretane.vision.paths.unfollowed import with_unfollowed

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
