"""The presets beside the ranges of the trade (`bench/hands.json`), with few samples; `bench --hands` has the
rest.
"""

import pytest

from aretane.core.planning.choices.break_shot import BREAKS, break_rates
from aretane.core.skill.hand import LEVELS, presets_for
from aretane.hands_bench import _cleared, measured, open_table, rows

QUICK = [row for row in rows() if row["measure"] in ("pot", "bank", "hit", "kick", "lag")]
SLACK = 3.5  # per cent (cm): what 1,600 samples may be off


@pytest.mark.parametrize("row", QUICK, ids=[row["row"][:40] for row in QUICK])
def test_players_do_what_such_players_do(row):
    for level in LEVELS:
        made = measured(row, level, 0.4)
        value = made["rate"]["p"] * (100 if made["unit"] == "%" else 1)
        low, high = row["want"][level]
        assert low - SLACK <= value <= high + SLACK, (level, value)


def test_run_outs_are_those_of_players():
    """One table of the twenty: a professional clears it often, a club player hardly ever."""
    row = next(row for row in rows() if row["measure"] == "run-out")
    layout = open_table(row, 0)
    rates = {level: _cleared(layout, presets_for(layout.table)[level], 40).p for level in ("club", "professional")}
    assert rates["club"] < 0.35
    assert 0.3 < rates["professional"] < 0.95


def test_breaks_are_as_wet_as_the_level():
    good, weak = (break_rates(BREAKS["nine-ball"], level, 120, 3, 2) for level in ("professional", "beginner"))
    assert 0.8 < good.balls.p < 1.8
    assert good.dry.p < weak.dry.p
    assert good.scratch.p < 0.2


def test_every_row_has_a_range_for_every_level_and_says_whether_it_holds():
    for row in rows():
        assert set(row["want"]) == set(LEVELS)
        assert all(low < high for low, high in row["want"].values())
