"""Likeness of layouts: the four ways of laying a table on itself, and distances worked by hand."""

import pytest

from aretane.core.geometry.likeness import ALONE, unlike
from aretane.core.layout import Layout
from aretane.core.table import PRESETS

TABLE = PRESETS["pool-9ft"]
BALLS = {"cue": (0.6, 0.3), "1": (1.2, 0.9), "9": (2.0, 0.4)}


def layout(balls, table=TABLE, discipline="nine-ball"):
    return Layout(table, discipline, balls)


def moved(change):
    return layout({ball: change(*place) for ball, place in BALLS.items()})


@pytest.mark.parametrize(
    "change",
    [
        lambda x, y: (x, y),
        lambda x, y: (TABLE.length - x, y),
        lambda x, y: (x, TABLE.width - y),
        lambda x, y: (TABLE.length - x, TABLE.width - y),
    ],
)
def test_a_mirrored_table_is_the_same(change):
    assert unlike(layout(BALLS), moved(change)) == pytest.approx(0.0, abs=1e-12)


def test_ways_worked_by_hand():
    """One object ball 30 cm further: .3 over two balls and a cue ball that counts twice."""
    further = {**BALLS, "1": (1.5, 0.9)}
    assert unlike(layout(BALLS), layout(further)) == pytest.approx(0.3 / 4)
    cue = {**BALLS, "cue": (0.6, 0.5)}
    assert unlike(layout(BALLS), layout(cue)) == pytest.approx(2 * 0.2 / 4)
    more = {**BALLS, "5": (0.2, 1.0)}
    assert unlike(layout(BALLS), layout(more)) == pytest.approx(ALONE / 5)


def test_names_do_not_count_and_balls_find_their_nearest_partners():
    swapped = {"cue": BALLS["cue"], "9": BALLS["1"], "1": BALLS["9"]}
    assert unlike(layout(BALLS), layout(swapped)) == pytest.approx(0.0)


def test_a_smaller_table_is_stretched():
    small = PRESETS["pool-7ft"]
    shrunk = {
        ball: (x * small.length / TABLE.length, y * small.width / TABLE.width) for ball, (x, y) in BALLS.items()
    }
    assert unlike(layout(BALLS), layout(shrunk, small)) == pytest.approx(0.0, abs=1e-9)


def test_one_without_a_cue_ball():
    without = {ball: place for ball, place in BALLS.items() if ball != "cue"}
    assert unlike(layout(without), layout(without)) == 0.0
    assert unlike(layout(BALLS), layout(without)) == pytest.approx(2 * ALONE / 4)
