"""Set-up cards: rounded figures that put every ball back within a quarter of its width, in an order that works."""

from __future__ import annotations

import itertools
import math
import random

import pytest

from aretane.core.errors import InputError
from aretane.core.geometry.card import card, on_table, place_of
from aretane.core.layout import Layout, first_overlap
from aretane.core.rack import racked
from aretane.core.table import PRESETS


def strewn(table, discipline, seed):
    """A full set of balls anywhere on the bed, none in another."""
    dice = random.Random(seed)
    names = [*racked(table, discipline, seed).balls, "cue"]
    while True:
        places = {
            name: (dice.uniform(0.06, table.length - 0.06), dice.uniform(0.06, table.width - 0.06))
            for name in names
        }
        layout = Layout(table, discipline, places)
        if not first_overlap(layout):
            return layout


@pytest.mark.parametrize(
    ("table", "discipline"),
    [
        ("pool-9ft", "nine-ball"), ("pool-8ft", "ten-ball"), ("pool-7ft", "nine-ball"),
        ("snooker-12ft", "snooker"), ("blackball-7ft", "blackball"),
    ],
)  # fmt: skip
@pytest.mark.parametrize("seed", range(4))
def test_a_layout_set_up_from_its_card_is_the_layout(table, discipline, seed):
    layout = strewn(PRESETS[table], discipline, seed)
    laid = card(layout)
    assert {one.ball for one in laid} == set(layout.balls)
    for one in laid:
        off = math.dist(place_of(layout.table, one), layout.balls[one.ball])
        assert off <= layout.table.ball_diameter / 4 + 1e-9


def test_diamonds_are_twentieths_and_a_hand_worked_case_agrees():
    """A ball on the foot spot of a 9 ft table lies at six diamonds along and two across."""
    table = PRESETS["pool-9ft"]
    layout = Layout(table, "nine-ball", {"cue": (0.635, 0.3), "9": (table.foot_spot, table.width / 2)})
    nine, cue = card(layout)
    assert (nine.ball, nine.long, nine.short) == ("9", 6.0, 2.0)
    assert (cue.ball, cue.long, cue.short) == ("cue", 2.0, 0.95)
    for one in (nine, cue):
        assert one.long * 20 == pytest.approx(round(one.long * 20))
    assert nine.text == "9 ball: 6 diamonds from the head, 2 from the right"


def test_snookers_are_whole_centimetres_and_rails_and_touching_balls_are_said():
    table = PRESETS["snooker-12ft"]
    reach = table.ball_diameter
    layout = Layout(
        table, "snooker", {
            "cue": (0.5, 0.889), "red-1": (2.0, 0.5), "red-2": (2.0 + reach, 0.5),
            "black": (3.0, table.radius + 0.001),
        },
    )  # fmt: skip
    laid = card(layout)
    assert [one.ball for one in laid] == ["black", "red-2", "red-1", "cue"]
    assert all(one.long == int(one.long) and one.short == int(one.short) for one in laid)
    assert "touching the red 2" in laid[2].text
    assert "at the right rail" in laid[0].text


@pytest.mark.parametrize("seed", range(3))
def test_nobody_reaches_over_a_ball_that_lies_already(seed):
    """From the far end on: each ball lies no further than the one before it, but for those that touch."""
    laid = card(strewn(PRESETS["pool-9ft"], "nine-ball", seed))[:-1]
    layout = strewn(PRESETS["pool-9ft"], "nine-ball", seed)
    assert all(
        layout.balls[one.ball][0] >= layout.balls[two.ball][0] - 1e-9
        for one, two in itertools.pairwise(laid)
        if "touching" not in two.text
    )


NINE, SEVEN = PRESETS["pool-9ft"], PRESETS["pool-7ft"]
R = NINE.radius


def test_a_smaller_table_keeps_rails_middles_and_what_touches():
    """By hand: on the rail stays on the rail, the middle stays the middle, a frozen pair stays frozen."""
    layout = Layout(
        NINE, "nine-ball",
        {"cue": (NINE.length / 2, NINE.width / 2), "1": (R, 0.4), "2": (1.9, 0.9), "3": (1.9 + 2 * R, 0.9)},
    )  # fmt: skip
    small = on_table(layout, SEVEN)
    assert small.balls["cue"] == pytest.approx((SEVEN.length / 2, SEVEN.width / 2), abs=1e-4)
    assert small.balls["1"][0] == pytest.approx(R)
    assert math.dist(small.balls["2"], small.balls["3"]) == pytest.approx(2 * R, abs=1e-4)
    assert first_overlap(small) is None
    back = on_table(small, NINE)
    assert all(math.dist(back.balls[ball], layout.balls[ball]) < R for ball in layout.balls)


@pytest.mark.parametrize("seed", range(8))
def test_nothing_lies_in_one_another_on_a_smaller_table(seed):
    dice = random.Random(seed)
    balls = {"cue": (0.3, 0.3)}
    for name in map(str, range(1, 16)):
        while True:
            at = dice.uniform(R, NINE.length - R), dice.uniform(R, NINE.width - R)
            if all(math.dist(at, other) >= 2 * R for other in balls.values()):
                balls[name] = at
                break
    small = on_table(Layout(NINE, "eight-ball", balls), SEVEN)
    assert first_overlap(small) is None
    assert all(R - 1e-9 <= x <= SEVEN.length - R + 1e-9 for x, _ in small.balls.values())


def test_a_table_for_other_balls_is_refused():
    with pytest.raises(InputError, match="another size"):
        on_table(Layout(NINE, "nine-ball", {"cue": (1.0, 0.5)}), PRESETS["snooker-12ft"])
