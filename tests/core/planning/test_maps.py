"""Position maps: judgements of the trade ("common practice"), and full rollouts as the measure of their error."""

import math

import numpy as np
import pytest

from aretane.core.planning.outlook.maps import grid_for
from aretane.core.planning.outlook.rollout import visits
from aretane.core.planning.pots.strokes import COARSE
from aretane.core.planning.pots.zone import angle_from, area_at, areas, best_value, grade_of, harmless_error
from aretane.core.skill.hand import PRESETS
from aretane.core.table import POCKETS
from tests.core.planning.tables import SURE, TABLE, nine_ball, outlook

PROFESSIONAL = PRESETS["professional"]


def run_map(view, ball):
    return view.stages[ball].run[0]


def test_values_fall_with_every_ball_that_is_still_to_be_made():
    view = outlook(nine_ball(cue=(1.2, 0.6), b7=(0.7, 0.9), b8=(1.9, 0.4), b9=(2.1, 0.9)), PROFESSIONAL)
    best = [best_value(run_map(view, ball).value) for ball in ("9", "8", "7")]
    assert best[0] > best[1] > best[2] > 0
    for stage in view.stages.values():
        assert (stage.run[0].value <= 1).all()
        assert (stage.win[0].value >= 0).all()
        assert (stage.win[0].value <= 1).all()


def test_straight_on_the_ball_is_worse_when_the_next_is_at_the_other_end():
    """Common practice: leave an angle, or the cue ball cannot be moved to the other end."""
    view = outlook(nine_ball(b8=(2.2, 1.0), b9=(0.25, 0.3)), PRESETS["league"], effort=COARSE)
    mouth = np.array(view.game.layout.table.pockets["foot-left"].mouth)
    ball = np.array([2.2, 1.0])
    back = (ball - mouth) / np.hypot(*(ball - mouth))
    turned = np.array([-back[1], back[0]])
    straight = ball + 0.35 * back
    chart = run_map(view, "8")
    angled = max(chart.at(tuple(ball + 0.3 * back + side * 0.2 * turned)) for side in (1, -1))
    assert angled > chart.at(tuple(straight)) + 0.01


def test_along_the_line_forgives_speed_and_across_it_does_not():
    """Common practice: on the shot's line the cue ball may stop anywhere, beside it the cut changes at once."""
    view = outlook(nine_ball(b9=(2.0, 0.85)), PROFESSIONAL, effort=COARSE)
    chart = run_map(view, "9")
    mouth = np.array(view.game.layout.table.pockets["foot-left"].mouth)
    back = (np.array([2.0, 0.85]) - mouth) / np.hypot(*(np.array([2.0, 0.85]) - mouth))
    turned = np.array([-back[1], back[0]])
    good = np.array([2.0, 0.85]) + 0.45 * back
    along = [chart.at(tuple(good + step * back)) for step in (-0.15, 0.15)]
    across = [chart.at(tuple(good + step * turned)) for step in (-0.3, 0.3)]
    assert min(along) > max(across)


def test_a_half_open_pocket_is_easier_from_straight_on():
    """Common practice. A ball stands in a third of the way; the same distance: straight, and from either side."""
    chart = run_map(outlook(nine_ball(b8=(1.9, 0.9), b9=(2.23, 1.012)), PROFESSIONAL, effort=COARSE), "8")
    ball, mouth = np.array([1.9, 0.9]), np.array(TABLE.pockets["foot-left"].mouth)
    back = (ball - mouth) / np.hypot(*(ball - mouth))
    turned = np.array([-back[1], back[0]])

    def pot(place):
        return float(chart.grid.at(chart.pot, place))

    straight = pot(ball + 0.5 * back)
    assert straight > pot(ball + 0.3 * back + 0.4 * turned)
    assert straight > pot(ball + 0.3 * back - 0.4 * turned)


@pytest.mark.parametrize(
    "balls",
    [
        {"cue": (1.5, 0.5), "b8": (2.0, 0.9), "b9": (1.2, 1.05)},
        {"cue": (0.7, 0.4), "b7": (1.0, 0.9), "b8": (1.9, 0.35), "b9": (2.2, 0.9)},
    ],
)
def test_maps_keep_what_rollouts_show(balls):
    """Every shot searched again from where the balls really are, played to the end: the maps' promise holds."""
    layout = nine_ball(**balls)
    view = outlook(layout, SURE, effort=COARSE)
    played = visits(view, layout, 200, 0, 2).cleared
    assert view.turn(view.game.state).at(np.array(layout.cue)) >= 0
    assert run_map(view, min(layout.object_balls)).at(layout.cue) == pytest.approx(played.p, abs=0.2)


def test_zones_lie_where_the_map_is_high():
    view = outlook(nine_ball(b8=(1.9, 0.4), b9=(2.1, 0.9)), PROFESSIONAL)
    chart = run_map(view, "8")
    grid, values = chart.grid, chart.value
    for grade in ("ideal", "acceptable", "recoverable"):
        for area in areas(grid, values, grade):
            assert grade_of(grid, values, area.centre) in ("ideal", "acceptable", "recoverable")
            assert area.area > 0
    sizes = [
        sum(area.area for area in areas(grid, values, grade)) for grade in ("ideal", "acceptable", "recoverable")
    ]
    assert sizes[0] < sizes[1] < sizes[2]
    best = tuple(grid.places[int(np.argmax(values))])
    assert area_at(grid, values, best) is not None


@pytest.mark.parametrize(
    ("slope", "way", "error"), [(0.3, 0.0, "long"), (0.3, math.pi, "short"), (0.0, 0.0, "either")]
)
def test_the_harmless_error_is_the_one_that_leaves_more(slope, way, error):
    """On a map that rises towards the foot: running on is better towards it, staying short away from it."""
    grid = grid_for(nine_ball(b9=(2.0, 0.85)), COARSE)
    values = (0.4 + slope * grid.places[:, 0] / 2.54).reshape(grid.columns, grid.rows)
    assert harmless_error(grid, values, (1.2, 0.65), way).error == error


def test_the_cut_from_a_place_is_read_for_the_planned_pocket():
    layout = nine_ball(b9=(2.0, 0.85))
    mouth = layout.table.pockets["foot-left"].mouth
    back = np.array([2.0, 0.85]) + 0.5 * (np.array([2.0, 0.85]) - mouth)
    straight = angle_from(layout, tuple(back), "9", POCKETS.index("foot-left"))
    assert straight.straight
    assert angle_from(layout, (2.4, 1.1), "9", POCKETS.index("foot-left")) is None
