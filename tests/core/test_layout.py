"""Where a ball may stand."""

from __future__ import annotations

import math

import pytest

from aretane.core.errors import InputError
from aretane.core.layout import check, on_table

R = 0.028575


def test_a_ball_frozen_to_the_rail_is_on_the_table(nine_foot):
    assert on_table(nine_foot, (1.0, R), R)
    assert on_table(nine_foot, (1.0, 0.961 * R), R)
    assert not on_table(nine_foot, (1.0, 0.95 * R), R)


@pytest.mark.parametrize("name", ["head-left", "head-right", "side-left", "side-right", "foot-left", "foot-right"])
def test_a_ball_may_hang_between_the_jaws_up_to_the_drop(nine_foot, name):
    pocket = nine_foot.pockets[name]

    def on_axis(share):
        return tuple(m + share * pocket.shelf * a for m, a in zip(pocket.mouth, pocket.axis, strict=True))

    assert on_table(nine_foot, on_axis(0.0), R)
    assert on_table(nine_foot, on_axis(0.99), R)
    assert not on_table(nine_foot, on_axis(1.05), R)


@pytest.mark.parametrize("place", [(1.31, 9.96), (-0.2, 0.6), (2.7, 0.3), (1.27, -0.5), (1.1, -0.01)])
def test_beyond_the_cushions_is_off_the_table(nine_foot, place):
    assert not on_table(nine_foot, place, R)


def test_balls_nearer_than_touching_overlap(layout):
    check(layout(cue=(0.5, 0.5), b1=(0.5 + 2 * R - 0.0004, 0.5)))
    with pytest.raises(InputError, match="overlaps"):
        check(layout(cue=(0.5, 0.5), b1=(0.5 + 2 * R - 0.0006, 0.5)))


@pytest.mark.parametrize(
    ("balls", "field"),
    [
        ({"cue": (0.5, 0.5), "b10": (1, 1)}, "balls.10"),
        ({"cue": (math.nan, 0.5), "b1": (1, 1)}, "balls.cue"),
        ({"cue": (0.5, 0.5), "b1": (1, 3)}, "balls.1"),
        ({"b1": (1, 1)}, "balls.cue"),
    ],
)
def test_what_cannot_stand_is_named(layout, balls, field):
    with pytest.raises(InputError) as refused:
        check(layout(**balls))
    assert refused.value.field == field


def test_a_cleared_table_is_a_layout(layout):
    """After the last ball the cue ball stands alone, and what a shot left must be a place to read."""
    assert check(layout(cue=(0.5, 0.5))).object_balls == {}
