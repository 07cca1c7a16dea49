"""Visits played to their end in games of points, and plans drawn to what they bring."""

import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.outlook.outlook import game_of
from aretane.core.planning.outlook.rollout import visits
from aretane.core.planning.plans.instead import Instead
from aretane.core.planning.plans.plan import Entry, _as_scored, plan_for
from aretane.core.planning.pots.strokes import COARSE, GLANCE
from aretane.core.rack import colour_spots
from aretane.core.skill.hand import PRESETS, presets_for
from aretane.core.statistics.rates import Rate
from aretane.core.table import PRESETS as TABLES
from aretane.planning_bench import points_summary
from tests.core.planning.tables import NO_ERROR, TABLE

SNOOKER = TABLES["snooker-12ft"]
SPOTS = colour_spots(SNOOKER)


def view_of(layout, hand):
    return outlook_for(game_of(layout), (hand, hand), GLANCE, 0, 2)


def colours(*names, on):
    return Layout(SNOOKER, "snooker", {"cue": (2.3, 0.7), **{name: SPOTS[name] for name in names}}, State(on=on))


@pytest.mark.parametrize(("names", "on", "points"), [(("black",), "black", 7), (("pink", "black"), "pink", 13)])
def test_who_misses_nothing_scores_all_that_lies_there(names, on, points):
    layout = colours(*names, on=on)
    played = visits(view_of(layout, NO_ERROR), layout, 4, 1, 2)
    assert played.cleared.p == 1.0
    assert played.scored is not None
    assert played.scored.p == points


def test_a_visit_of_straight_pool_ends_with_what_the_break_shot_is_worth():
    balls = {"cue": (1.2, 0.4), "5": (TABLE.foot_spot + 0.08, TABLE.width / 2 + 0.24), "6": (0.5, 0.4)}
    layout = Layout(TABLE, "straight-pool", balls)
    view = view_of(layout, PRESETS["professional"])
    (last,) = (layout.without(ball) for ball in ("6",))
    chance, worth = view.opening(last)
    assert 0.0 <= chance <= 1.0
    assert chance <= worth <= 1.0 + view.usual_runs[0]
    assert view.opening(layout) is None, "two balls are left"
    played = visits(view, layout, 40, 1, 2)
    assert played.scored is not None
    assert played.cleared.p <= played.scored.p <= 2.0 + view.usual_runs[0]


@pytest.mark.parametrize("game", ["straight-pool", "snooker"])
def test_a_plan_promises_what_visits_under_other_errors_bring(game):
    """The bench asks the same of more tables: within five in a hundred on average."""
    if game == "snooker":
        layout, hand = colours("blue", "pink", "black", on="blue"), presets_for(SNOOKER)["professional"]
    else:
        balls = {"cue": (1.2, 0.6), "5": (2.0, 0.9), "6": (0.5, 0.4), "7": (1.7, 0.3)}
        layout, hand = Layout(TABLE, game, balls), PRESETS["club"]
    view = view_of(layout, hand)
    shown = plan_for(view, COARSE, 0, 2, 120).order[0].value
    came = visits(view, layout, 120, 99, 2).scored
    assert came is not None
    assert shown.low <= came.high
    assert came.low <= shown.high


def entry(ball, value):
    rate = Rate(value, value - 1.0, value + 1.0, 300)
    return Entry(ball, "foot-left", None, (0.0, 0.0), None, rate, 0.9, None, None)


def test_what_was_played_moves_the_first_ball_fully_and_the_last_not_at_all():
    order = [entry("1", 8.0), entry("2", 8.0), entry("3", 4.0)]
    firsts = [
        Instead(one.ball, one.pocket, one.value, cost, 0.5, False, "")
        for one, cost in ((order[0], 0.0), (entry("2", 6.0), 2.0))
    ]
    moved, priced = _as_scored(order, firsts, order[0].value, Rate(4.0, 3.5, 4.5, 100))
    assert [one.value.p for one in moved] == pytest.approx([4.0, 8.0 * 0.5**0.5, 4.0])
    assert (moved[0].value.high - moved[0].value.low) / 2 == pytest.approx(0.5**0.5), "both errors"
    assert moved[2].value == order[2].value
    assert [one.value.p for one in priced] == pytest.approx([4.0, 3.0])
    assert [one.cost for one in priced] == pytest.approx([0.0, 1.0])
    assert [one.error for one in priced] == pytest.approx([0.5, 0.25])


def test_where_nothing_was_promised_or_came_a_plan_stays_as_it_is():
    order = [entry("1", 8.0)]
    assert _as_scored(order, [], order[0].value, Rate(0.0, 0.0, 0.0, 100)) == (order, [])
    assert _as_scored(order, [], Rate(0.0, 0.0, 0.0, 0), Rate(4.0, 3.5, 4.5, 100)) == (order, [])


def test_the_bench_sums_points_up_by_game():
    def row(game, shown, came):
        rates = {"shown": (shown, shown - 1, shown + 1), "came": (came, came - 1, came + 1)}
        told = {side: {"p": p, "low": low, "high": high, "n": 200} for side, (p, low, high) in rates.items()}
        return {"layout": f"{game}, 4 balls, seed 1", "hands": "club", **told}

    rows = [row("straight-pool", 10.0, 10.0), row("straight-pool", 12.0, 8.0), row("snooker", 5.0, 10.0)]
    straight, snooker = points_summary(rows)
    assert (straight["ratio"], straight["meet"], straight["tables"]) == (pytest.approx(22 / 18), 0.5, 2)
    assert (snooker["ratio"], snooker["meet"]) == (0.5, 0.0)
