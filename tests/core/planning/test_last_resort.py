"""A foul on purpose: where it is sought, what it leaves, and where the rules leave no sense in it."""

from __future__ import annotations

import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import options_for
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.outlook.strength import promise
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import racked
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES
from aretane.formats.choices import title_of
from tests.core.planning.tables import nine_ball, outlook

# The one is behind three balls at the other end; they lie so that one can be rolled against another.
HOOKED = {"b5": (0.40, 0.345), "b6": (0.36, 0.40), "b7": (0.37, 0.25), "b1": (2.35, 1.17), "b8": (0.9, 0.30),
          "b9": (1.35, 0.30)}  # fmt: skip
CUE = (0.3, 0.3)
HANDS = (PRESETS["club"], PRESETS["club"])


def fouls(layout, hands=HANDS):
    every = options_for(layout, hands, GLANCE, 0, 2).options
    return [one for one in every if one.intent in ("tie-up", "deny")], every


@pytest.fixture(scope="module")
def hooked():
    return nine_ball(cue=CUE, **HOOKED)


def test_where_escapes_mostly_fail_balls_are_tied_up_by_a_foul(hooked):
    """Common practice: hopelessly hooked, tie up the balls that the other needs before he has ball in hand."""
    meant, every = fouls(hooked)
    kicks = [one for one in every if one.kind in ("kick", "jump") and one.ball is None]
    assert all(one.value.foul.p > 0.5 for one in kicks)
    assert meant
    assert meant[0].value.foul.p > 0.95
    assert meant[0].win > max(one.win for one in kicks)
    assert title_of(meant[0], "nine-ball") == "foul on purpose, tie-up"
    assert "on purpose" in meant[0].why


def test_what_it_leaves_promises_less(hooked):
    from aretane.core.physics.shot import simulate

    meant, _ = fouls(hooked)
    left = simulate(hooked, meant[0].stroke).final
    view = outlook(hooked, PRESETS["club"])
    state = game_of(hooked).state
    assert promise(left, state, 0.9, view) < 0.9 * promise(hooked, state, 0.9, view)


def test_nobody_fouls_on_purpose_with_a_pot_on_or_for_the_third_time(hooked):
    with_pot = nine_ball(cue=(1.8, 0.9), **HOOKED)
    assert fouls(with_pot)[0] == []
    on_two = nine_ball(State(fouls={"A": 2, "B": 0}), cue=CUE, **HOOKED)
    assert fouls(on_two)[0] == []


def test_rules_that_ask_for_an_honest_try_have_none():
    """Blackball and snooker: a player must try to play a lawful stroke (published rules, from memory)."""
    table = TABLES["blackball-7ft"]
    places = {"cue": (0.25, 0.25), "yellow-1": (0.33, 0.29), "yellow-2": (0.30, 0.34), "yellow-3": (0.32, 0.21),
              "red-1": (1.6, 0.8), "black": (0.9, 0.5)}  # fmt: skip
    layout = Layout(table, "blackball", places, State(group="reds"))
    assert fouls(layout)[0] == []


def test_at_straight_pool_the_white_is_left_where_nothing_goes():
    """From behind the full rack: a foul for one point that leaves no shot (common practice)."""
    table = TABLES["pool-9ft"]
    balls = dict(racked(table, "straight-pool", 1).balls)
    behind = max(x for x, _ in balls.values()) + 2 * table.radius + 0.004
    layout = Layout(table, "straight-pool", {**balls, "cue": (behind, table.width / 2)})
    meant, _ = fouls(layout)
    assert [one.intent for one in meant][:1] == ["deny"]
    assert meant[0].value.leaves.pot < 0.2
