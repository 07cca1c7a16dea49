"""Choices in games of points, drawn to what visits played on bring."""

from dataclasses import replace

import numpy as np
import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.frames import with_points
from aretane.core.planning.choices.option import ATTACK, SAFE
from aretane.core.planning.choices.options import outlook_for, rate_of, tasks_for, valued
from aretane.core.planning.choices.played import played_on
from aretane.core.planning.choices.visited import maps_as_scored
from aretane.core.planning.outlook.frame import ahead_at, frame_chance
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.outlook.rollout import VISITS, visits
from aretane.core.planning.plans.plan import plan_for
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.rack import colour_spots
from aretane.core.skill.hand import presets_for
from aretane.core.statistics.rates import Rate
from aretane.core.table import PRESETS as TABLES
from tests.core.planning.tables import TABLE

SNOOKER = TABLES["snooker-12ft"]
SPOTS = colour_spots(SNOOKER)
COLOURS = {name: SPOTS[name] for name in ("blue", "pink", "black")}
TABLES_OF = {
    "straight-pool": Layout(
        TABLE, "straight-pool", {"cue": (1.2, 0.6), "5": (2.0, 0.9), "6": (0.5, 0.4), "7": (1.7, 0.3)}
    ),
    "snooker": Layout(SNOOKER, "snooker", {"cue": (2.1, 0.6), **COLOURS}, State(on="blue")),
}


@pytest.fixture(scope="module", params=list(TABLES_OF))
def looked_at(request):
    layout = TABLES_OF[request.param]
    hand = presets_for(layout.table)["league"]
    view = outlook_for(game_of(layout), (hand, hand), GLANCE, 0, 2)
    return view, [valued(view, task, GLANCE, 0, 2) for task in tasks_for(view, GLANCE, 2)]


def best_of(options):
    """A visit is played for the longest run."""
    return max((one for one in options if one.intent in ATTACK), key=lambda one: one.value.run)


def test_choices_and_plan_say_the_same_of_the_longest_run(looked_at):
    view, found = looked_at
    moved = played_on(view, found, lambda one: rate_of(view, one, GLANCE, 0, 2))
    best, plan = best_of(moved), plan_for(view, GLANCE, 0, 2)
    assert best.value.run == pytest.approx(plan.order[0].value.p)
    assert len(view.visited) == 1, "the visits were played once for both"
    assert 0 < best.value.played <= VISITS


def test_runs_are_scaled_alike_and_what_is_left_to_the_other_stays(looked_at):
    view, found = looked_at
    best = best_of(found)
    half = 0.5 * best.value.run
    moved = played_on(view, found, lambda one: Rate(half, 0.9 * half, 1.1 * half, 100))
    for before, after in zip(found, moved, strict=True):
        if before.intent in SAFE or not before.value.pot.p:
            assert after is before
            continue
        assert after.value.run == pytest.approx(0.5 * before.value.run)
        assert after.value.after_miss == before.value.after_miss
        assert after.win <= before.win
        assert after.value.after_pot <= before.value.after_pot
        assert after.value.win.low <= after.win <= after.value.win.high
        assert after.value.win.high - after.value.win.low >= 0.9 * (before.value.win.high - before.value.win.low)
        assert np.allclose(after.value.samples - before.value.samples, after.win - before.win, atol=1e-9)
    assert [one.value.played for one in moved if one.value.played] == [100]


def test_a_run_that_comes_as_promised_moves_nothing(looked_at):
    view, found = looked_at
    best = best_of(found)
    run = Rate(best.value.run, best.value.run, best.value.run, 150)
    for before, after in zip(found, played_on(view, found, lambda one: run), strict=True):
        assert after.win == pytest.approx(before.win, abs=1e-6)


def test_the_maps_tell_what_the_choices_do(looked_at):
    view, found = looked_at
    half = 0.5 * best_of(found).value.run
    drawn = maps_as_scored(view, found, Rate(half, half, half, 100))
    for (ball, run, worth), (same, before, value) in zip(drawn, view.maps(), strict=True):
        assert ball == same
        assert np.allclose(run, 0.5 * before)
        assert (worth <= value + 1e-9).all()
    assert [(b, r.tolist()) for b, r, _ in maps_as_scored(view, [], Rate(1.0, 0.0, 2.0, 9))] == [
        (b, r.tolist()) for b, r, _ in view.maps()
    ]


def test_without_a_pot_nothing_is_played_on(looked_at):
    view, found = looked_at
    safe = [one for one in found if one.intent in SAFE]
    never = [replace(one, value=replace(one.value, pot=Rate(0.0, 0.0, 0.1, 100))) for one in found]

    def asked(option):
        raise AssertionError(option)

    assert played_on(view, safe, asked) == safe
    assert played_on(view, never, asked) == never


def test_points_ahead_and_the_frame_are_each_others_inverse():
    state = game_of(TABLES_OF["snooker"]).state
    pots = (0.7, 0.6)
    for ahead in (-10.0, -3.0, 2.0, 8.0):
        assert ahead_at(state, frame_chance(state, ahead, pots), pots) == pytest.approx(ahead, abs=0.5)


def test_more_points_are_more_balls_or_a_better_frame(looked_at):
    view, _ = looked_at
    worth = 0.4
    assert with_points(view, worth, 3.0) > worth > with_points(view, worth, -3.0)
    if view.game.layout.discipline == "straight-pool":
        assert with_points(view, worth, 3.0) == worth + 3.0
    else:
        assert with_points(view, worth, 500.0) <= 1.0


@pytest.mark.parametrize("name", list(TABLES_OF))
def test_no_more_shots_are_played_than_asked(name):
    """A first look ends with the visits that were begun; as many as asked for otherwise."""
    layout = TABLES_OF[name]
    hand = presets_for(layout.table)["club"]
    view = outlook_for(game_of(layout), (hand, hand), GLANCE, 0, 2)
    few, many = (visits(view, layout, 40, 1, 2, shots=shots).scored for shots in (1, None))
    assert (few.n, many.n) == (8, 40)
    again = visits(view, layout, 40, 1, 1, shots=1).scored
    assert again == few, "the same with one thread"
