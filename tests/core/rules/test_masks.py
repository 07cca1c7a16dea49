"""The masks that judge simulated shots say the same as the referee, on any outcome at all."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from aretane.core.layout import Layout, State
from aretane.core.rules.disciplines import masks, rules_of
from aretane.core.rules.game import IllegalEntry, Seen, judge
from aretane.core.rules.masks import judge as judge_outcomes
from aretane.core.rules.options import with_defaults
from aretane.core.table import POCKETS, PRESETS

TABLES = {"snooker": "snooker-12ft", "blackball": "blackball-7ft"}

# A few balls, wide apart and all to be seen, and what the rules know besides
SITUATIONS = [
    ("nine-ball", "2 5 9", {}),
    ("nine-ball", "9", {}),
    ("ten-ball", "3 7 10", {}),
    ("eight-ball", "2 12 8", {}),
    ("eight-ball", "2 3 12 8", {"group": "solids"}),
    ("eight-ball", "12 8", {"group": "solids"}),
    ("blackball", "red-1 yellow-2 black", {}),
    ("blackball", "red-1 red-2 yellow-2 black", {"group": "reds"}),
    ("blackball", "yellow-2 black", {"group": "reds"}),
    ("straight-pool", "3 7 11 14", {}),
    ("snooker", "red-1 red-2 blue black", {}),
    ("snooker", "red-1 blue pink black", {"on": "colour"}),
    ("snooker", "blue pink black", {}),
    ("snooker", "black", {"points": {"A": 40, "B": 20}}),
]
PLACES = [(1.2, 0.75), (0.9, 0.2), (0.5, 0.6), (1.6, 0.4)]


def situation(discipline, balls, state):
    table = PRESETS[TABLES.get(discipline, "pool-9ft")]
    places = dict(zip(balls.split(), PLACES, strict=False))
    return Layout(table, discipline, {"cue": (1.1, 0.45), **places}, State(**state))


@pytest.mark.parametrize(("discipline", "balls", "state"), SITUATIONS)
@settings(max_examples=150, deadline=None)
@given(data=st.data())
def test_masks_are_the_referees(discipline, balls, state, data):
    layout = situation(discipline, balls, state)
    names = tuple(layout.balls)
    fates = {ball: data.draw(st.sampled_from([-1, -1, -1, 0, 3, 6]), ball) for ball in names}
    first = data.draw(st.sampled_from(names[1:] if any(f >= 0 for f in fates.values()) else (*names[1:], None)))
    rails = data.draw(st.integers(0, 3))
    found = masks(layout)
    called = None
    if with_defaults(discipline, {}).get("call"):
        called = (data.draw(st.sampled_from(sorted(found.count))), data.draw(st.sampled_from([0, 3])))
    row = np.array([[fates[name] for name in names]])
    struck = np.array([names.index(first) if first else -1])
    made = judge_outcomes(found, names, row, struck, np.array([rails]), called)

    potted = tuple(ball for ball in names[1:] if 0 <= fates[ball] < 6)
    facts = Seen(
        first_contact=first,
        rails=rails,
        potted=potted,
        pockets={ball: POCKETS[fates[ball]] for ball in potted},
        scratch=0 <= fates["cue"] < 6,
        off_table=tuple(ball for ball in names if fates[ball] == 6),
        called=(called[0], POCKETS[called[1]]) if called else None,
        before=layout,
    )
    rules = rules_of(discipline)
    try:
        ruling = judge(rules, rules.resume(layout, with_defaults(discipline, {})), facts)
    except IllegalEntry:
        return
    winner = ruling.after.winner
    assert (winner == "B") == bool(made.lost[0])
    assert (winner == "A") == bool(made.won[0])
    if winner is None:
        assert bool(ruling.fouls) == bool(made.foul[0])
        assert (ruling.next == "A" and ruling.counted > 0) == bool(made.pot[0])


def test_with_a_call_only_that_ball_in_that_pocket_is_a_pot():
    layout = situation("nine-ball", "2 5 9", {})
    names = tuple(layout.balls)
    row = np.array([[-1, 1, -1, -1]])
    for called, pot in ((("2", 1), True), (("2", 0), False), (("5", 1), False), (None, True)):
        made = judge_outcomes(masks(layout), names, row, np.array([1]), np.array([1]), called)
        assert bool(made.pot[0]) == pot
