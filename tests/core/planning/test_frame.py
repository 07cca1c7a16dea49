"""The chance to win a frame of snooker, against frames played ball by ball and what the trade knows of leads."""

from __future__ import annotations

import random
from functools import cache

import numpy as np
import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.option import ATTACK
from aretane.core.planning.choices.options import options_for, outlook_for
from aretane.core.planning.outlook import frame
from aretane.core.planning.outlook.frame import (
    FOULS,
    MISSED,
    SAFE,
    USUAL_COLOUR,
    begins,
    frame_chance,
    turn_chances,
    usual_ahead,
)
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import colour_spots
from aretane.core.skill.hand import presets_for
from aretane.core.skill.visits import GOES_ON
from aretane.core.table import PRESETS as TABLES

COLOURS = {"yellow": (0.74, 0.6), "green": (0.74, 1.18), "brown": (0.74, 0.89), "blue": (1.8, 0.9),
           "pink": (2.7, 0.9), "black": (3.2, 0.9)}  # fmt: skip
PRO, CLUB = GOES_ON["professional"], GOES_ON["club"]


def state_of(lead: int, reds: int = 0, only: tuple[str, ...] = tuple(COLOURS), on_colour: bool = False):
    balls = {f"red-{n}": (2.2 + 0.06 * n, 0.3) for n in range(1, reds + 1)}
    layout = Layout(
        TABLES["snooker-12ft"], "snooker", {"cue": (1.0, 0.9), **balls, **{one: COLOURS[one] for one in only}},
    )  # fmt: skip
    state = game_of(layout).state
    points = {"A": max(0, lead), "B": max(0, -lead)}
    return state.turn_to("A", points=points, **({"on": "colour"} if on_colour else {}))


def played(reds: int, pots: tuple[float, float], dice: random.Random) -> int:
    """One frame ball by ball, as the module's head tells it: by how much the first player has won it."""
    points, player, first, colours, on_colour, left = [0, 0], 0, True, [2, 3, 4, 5, 6, 7], False, MISSED
    while reds or colours or on_colour:
        usual = begins(reds, pots[player], left, pots[1 - player])
        made, missed, _ = usual if first else (pots[player], 1.0, 0.0)
        luck = dice.random()
        if luck >= made:
            left = MISSED if luck < made + missed else SAFE
            if first and dice.random() < FOULS:
                left = MISSED
                points[1 - player] += 4 if reds or on_colour else max(4, colours[0])
                if not reds and not on_colour and colours == [7]:
                    break
            player, first, on_colour = 1 - player, True, False
            continue
        first = False
        if on_colour:
            points[player], on_colour = points[player] + USUAL_COLOUR, False
        elif reds:
            points[player], reds, on_colour = points[player] + 1, reds - 1, True
        else:
            points[player] += colours.pop(0)
    return points[0] - points[1]


@pytest.mark.parametrize("pots", [(0.8, 0.8), (0.91, 0.66), (0.4, 0.66)])
@pytest.mark.parametrize("reds", [0, 2, 6])
def test_the_margins_are_those_of_frames_played_ball_by_ball(pots, reds):
    dice = random.Random(7)
    frames = np.array([played(reds, pots, dice) for _ in range(6000)])
    margin = frame._chain(reds, (2, 3, 4, 5, 6, 7), pots)[(reds, (2, 3, 4, 5, 6, 7), False)][MISSED]
    points = np.arange(-frame.MOST, frame.MOST + 1)
    assert margin.sum() == pytest.approx(1.0)
    spread = frames.std() / len(frames) ** 0.5
    assert abs(frames.mean() - float(margin @ points)) < 4 * spread
    for lead in (-20, 0, 15):
        won = (frames + lead > 0).mean() + 0.5 * (frames + lead == 0).mean()
        told = float(margin @ ((points + lead > 0) + 0.5 * (points + lead == 0)))
        assert abs(won - told) < 4 * 0.5 / len(frames) ** 0.5


@pytest.mark.parametrize("pot", GOES_ON.values())
def test_a_miss_leaves_more_than_a_safety(pot):
    """Whatever is left, the other one would rather come to the table after a miss (common practice); on open reds
    he then hardly ever plays safe."""
    for reds in range(16):
        left = reds, (2, 3, 4, 5, 6, 7), False
        missed, safe = (turn_chances(left, 0, (pot, pot), after)[0] for after in (MISSED, SAFE))
        assert missed > 0.5
        assert 0.48 < safe < missed
    assert begins(5, pot)[2] < 0.05


def test_after_a_better_players_safety_less_is_tried():
    """Common practice; in frames played out .56 of the visits after a club player's safety began with a try, .45
    and .36 after a league player's and a professional's."""
    left = {name: begins(0, 0.8, SAFE, pot) for name, pot in GOES_ON.items()}
    tried = {name: made + missed for name, (made, missed, _) in left.items()}
    assert tried["club"] == pytest.approx(0.57, abs=0.05)
    assert tried["league"] == pytest.approx(0.46, abs=0.05)
    assert tried["professional"] == pytest.approx(0.36, abs=0.05)


def test_a_lead_with_the_black_left_is_worth_what_every_player_knows():
    """Seven behind on the black is a re-spotted black at best, eight is lost (rules; common practice)."""
    black = ("black",)
    assert frame_chance(state_of(8, only=black), 0.0, (PRO, PRO)) == 1.0
    assert frame_chance(state_of(-8, only=black), 7.0, (PRO, PRO)) == 0.0
    assert frame_chance(state_of(-7, only=black), 7.0, (PRO, PRO)) == pytest.approx(0.5)
    assert frame_chance(state_of(0, only=black), 0.0, (CLUB, CLUB)) == pytest.approx(0.5, abs=0.02)


def test_the_same_lead_is_surer_between_players_who_score_little():
    """Thirty ahead with six reds: hardly ever caught between beginners, often between professionals (common
    practice)."""
    chances = [frame_chance(state_of(30, reds=6), 0.0, (q, q)) for q in GOES_ON.values()]
    assert chances == sorted(chances, reverse=True)
    assert chances[0] > 0.9
    assert 0.6 < chances[-1] < 0.8


def test_who_clears_the_table_wins_and_who_leaves_it_to_a_clearance_loses():
    behind = state_of(-20, reds=3)
    gains, _ = frame._frames(frame.left_in(behind), -20, (PRO, PRO))
    assert frame_chance(behind, float(gains[-1]), (PRO, PRO)) == pytest.approx(1.0)
    assert frame_chance(behind, float(gains[0]), (PRO, PRO)) == pytest.approx(0.0)
    assert gains[-1] == -gains[0] == 3 * (1 + USUAL_COLOUR) + 27


def test_more_points_are_never_a_worse_chance():
    for state in (state_of(-12, reds=4), state_of(5, reds=2, on_colour=True), state_of(3, only=("pink", "black"))):
        chances = [frame_chance(state, ahead, (0.8, CLUB)) for ahead in np.linspace(-60, 60, 41)]
        assert chances == sorted(chances)
        assert 0.0 <= chances[0] < chances[-1] <= 1.0


REDS = {"red-1": (2.78, 1.59), "red-2": (2.59, 1.56), "red-3": (0.2, 0.83), "red-4": (3.28, 1.12),
        "red-5": (3.14, 0.28)}  # fmt: skip
SNOOKER = TABLES["snooker-12ft"]


def open_reds(mine: str, theirs: str):
    balls = {"cue": (2.2, 1.27), **colour_spots(SNOOKER), **REDS}
    hands = presets_for(SNOOKER)
    state = State(on="red", points={"A": 5, "B": 0})
    return Layout(SNOOKER, "snooker", balls, state), (hands[mine], hands[theirs])


@cache
def looked_at(mine: str, theirs: str):
    layout, hands = open_reds(mine, theirs)
    return outlook_for(game_of(layout), hands, GLANCE, 0, 2)


def test_a_professional_takes_a_red_that_never_misses():
    """Five open reds, one of which goes every time: nobody of that level plays safe there, whoever is against him
    (common practice). A safety once stood first: it was believed to bring the whole table.
    """
    best = options_for(*open_reds("professional", "club"), GLANCE, 0, 2).options[0]
    assert best.intent in ATTACK
    assert best.value.pot.p > 0.9


@pytest.mark.parametrize(("mine", "theirs"), [("professional", "club"), ("club", "professional")])
def test_a_turn_is_worth_less_to_the_better_player_than_all_that_lies_there(mine, theirs):
    """Five open reds, 67 points: 53 ahead came where a professional began against a club player; with six, and the
    club player beginning, 40 to 46 behind (frames played out, docs/method)."""
    outlook = looked_at(mine, theirs)
    ahead = outlook.turn(outlook.game.state).standing.open
    usual = usual_ahead(outlook.game.state, (GOES_ON[mine], GOES_ON[theirs]))
    assert 25.0 < abs(usual) < abs(ahead) < 57.0


def test_what_is_not_scored_now_is_still_played_for():
    """Ten points less in a visit cost the far better player little, and between equals more than the ten."""
    levers = {}
    for theirs in ("club", "professional"):
        outlook = looked_at("professional", theirs)
        levers[theirs] = outlook.lever(outlook.game.state)
    assert 0.0 < levers["club"] < 0.6
    assert 1.0 < levers["professional"] < 1.6
