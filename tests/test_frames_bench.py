"""The reference for snooker's frame chances plays frames as they are played: in turn, by the rules, to the end."""

from __future__ import annotations

import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import colour_spots
from aretane.core.skill.hand import presets_for
from aretane.core.table import PRESETS as TABLES
from aretane.frames_bench import Frame, table

PRESET = TABLES["snooker-12ft"]
HANDS = presets_for(PRESET)
SPOTS = colour_spots(PRESET)


def frame(layout, mine="professional", theirs="professional", seed=1):
    outlook = outlook_for(game_of(layout), (HANDS[mine], HANDS[theirs]), GLANCE, 0, 2)
    return Frame(outlook, layout, outlook.game.state, seed)


def colours(*left, lead=0, cue=(1.2, 0.9)):
    balls = {"cue": cue, **{ball: SPOTS[ball] for ball in left}}
    return Layout(PRESET, "snooker", balls, State(on=left[0], points={"A": max(lead, 0), "B": max(-lead, 0)}))


def test_who_is_ahead_when_the_black_falls_has_won():
    """Eight ahead on the black nothing can happen to him but fouls; eight behind he cannot win by potting it."""
    near = (2.9, 0.75)
    assert sum(frame(colours("black", lead=8, cue=near), seed=n).won() for n in range(5)) >= 4
    assert sum(frame(colours("black", lead=-8, cue=near), seed=n).won() for n in range(5)) <= 1


def test_the_better_hand_wins_more_frames_from_the_same_table():
    layout = colours("pink", "black")
    won = [
        sum(frame(layout, *hands, seed=n).won() for n in range(3))
        for hands in (("professional", "club"), ("club", "professional"))
    ]
    assert won[0] > won[1]


def test_a_frame_is_the_same_again_from_the_same_seed_and_ends_by_the_rules():
    layout = table(1)
    one, again = (frame(layout, "league", "league", seed) for seed in (5, 5))
    assert one.won() == again.won()
    assert one.state.points == again.state.points
    assert one.state.winner is not None
    assert one.layout.object_balls == {}, "all have fallen"
    points = sum(one.state.points.values()) - sum(layout.state.points.values())
    assert points >= 27 + 2, "two reds and the colours at least, fouls beside"


@pytest.mark.parametrize("number", range(8))
def test_tables_are_frames_that_may_still_go_either_way(number):
    layout = table(number)
    assert len(layout.object_balls) == 6 + number % 7
    game = game_of(layout)
    assert game.on(game.state)
    points = layout.state.points
    assert abs(points["A"] - points["B"]) <= 25
