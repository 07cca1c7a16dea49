"""Tables against published equipment specifications."""

from __future__ import annotations

import math

import pytest

from aretane.core.errors import InputError
from aretane.core.table import POCKETS, PRESETS, table_as_data, table_from
from aretane.core.units import INCH

INCHES = {"pool-9ft": (100, 50), "pool-8ft": (92, 46), "pool-7ft": (78, 39)}


@pytest.mark.parametrize(("name", "size"), INCHES.items())
def test_pool_beds_have_the_published_size(name, size):
    """World Pool-Billiard Association, Equipment Specifications: 100 x 50, 92 x 46, 78 x 39 in."""
    table = PRESETS[name]
    assert (table.length / INCH, table.width / INCH) == pytest.approx(size)
    assert table.ball_diameter / INCH == pytest.approx(2.25)
    assert 4.5 <= table.corner_mouth / INCH <= 4.625
    assert 5.0 <= table.side_mouth / INCH <= 5.125
    assert 0.625 <= table.nose_height / table.ball_diameter <= 0.645


def test_the_snooker_table_has_the_published_size():
    """WPBSA, Official Rules of Snooker, section 1: 3569 x 1778 mm, ball 52.5, baulk 737, black 324 from the top."""
    table = PRESETS["snooker-12ft"]
    assert (table.length, table.width) == (3.569, 1.778)
    assert table.ball_diameter == 0.0525
    assert table.head_line == 0.737
    assert table.length - table.foot_spot == pytest.approx(0.324)


@pytest.mark.parametrize("name", PRESETS)
def test_every_pocket_is_as_wide_as_its_mouth_and_opens_outwards(name):
    table = PRESETS[name]
    assert tuple(table.pockets) == POCKETS
    for pocket in table.pockets.values():
        wanted = table.side_mouth if "side" in pocket.name else table.corner_mouth
        assert pocket.mouth_width == pytest.approx(wanted)
        middle = (table.length / 2, table.width / 2)
        outwards = [p - m for p, m in zip(pocket.mouth, middle, strict=True)]
        assert outwards[0] * pocket.axis[0] + outwards[1] * pocket.axis[1] > 0
        assert math.hypot(*pocket.axis) == pytest.approx(1)


def test_left_and_right_are_those_of_a_player_who_looks_to_the_foot():
    pockets = PRESETS["pool-9ft"].pockets
    assert pockets["head-right"].mouth[0] < 0.1 > pockets["head-right"].mouth[1]
    assert pockets["foot-left"].mouth[0] > 2.4
    assert pockets["foot-left"].mouth[1] > 1.2


def test_a_table_of_its_own_reads_back_what_it_wrote():
    data = {**table_as_data_of("pool-9ft"), "corner_mouth": 0.12}
    assert table_from(table_as_data(table_from(data))) == table_from(data)
    assert table_as_data(PRESETS["pool-8ft"]) == "pool-8ft"


@pytest.mark.parametrize(
    ("field", "value"),
    [("length", float("nan")), ("length", "long"), ("width", None), ("corner_mouth", 0.05), ("length", 900)],
)
def test_a_dimension_that_no_table_has_is_named(field, value):
    data = {**table_as_data_of("pool-9ft"), field: value}
    with pytest.raises(InputError) as refused:
        table_from(data)
    assert field in refused.value.field


def test_an_unknown_table_is_refused():
    with pytest.raises(InputError, match="unknown table"):
        table_from("pool-10ft")


def table_as_data_of(name):
    from dataclasses import asdict

    return asdict(PRESETS[name])
