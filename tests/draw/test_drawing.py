"""The table drawn on the server: shapes that agree with the table's measures, one look for page and server.

Oracles: the published measures (WPA Equipment Specifications: 50 by 100 in., sights at eighths and quarters;
WPBSA Official Rules section 1: D of 11 1/2 in.), Shapely for areas, and the page's own drawing (`tests/browser`).
"""

from __future__ import annotations

import json
import math
import re
from typing import get_args
from xml.etree import ElementTree

import numpy as np
import pytest
from shapely.geometry import Point as Spot
from shapely.geometry import Polygon
from shapely.ops import unary_union

from aretane.core.geometry.measured import measure_shot
from aretane.core.layout import Layout
from aretane.core.rules.traits import TRAITS
from aretane.core.table import PRESETS
from aretane.draw.cloud import SHARES, cloud, regions
from aretane.draw.look import LOOK, LineName, ball_look
from aretane.draw.shapes import plan, pot, zones
from aretane.draw.svg import drawing
from aretane.settings import ROOT

POOL, SNOOKER = PRESETS["pool-9ft"], PRESETS["snooker-12ft"]
SVG = "{http://www.w3.org/2000/svg}"
LAYOUT = Layout(POOL, "nine-ball", {"cue": (0.9, 0.5), "1": (1.7, 0.9), "9": (2.2, 0.3), "12": (0.3, 0.3)})


def lines(shapes, name):
    return [one for one in shapes if one.line == name]


def test_the_plan_has_the_tables_measures():
    drawn = plan(POOL)
    assert Polygon(lines(drawn, "bed")[0].points).area == pytest.approx(2.54 * 1.27)
    sights = [np.mean(one.points, axis=0) for one in lines(drawn, "diamond")]
    assert len(sights) == 18
    along = sorted({round(x / 2.54 * 8, 6) for x, y in sights if not 0 < y < 1.27})
    assert along == [1, 2, 3, 5, 6, 7], "the side pocket has the fourth one's place"
    assert sorted({round(y / 1.27 * 4, 6) for x, y in sights if 0 < y < 1.27}) == [1, 2, 3]
    assert [one.label for one in lines(drawn, "end")] == ["head", "foot"]
    for nose in lines(drawn, "nose"):
        assert all(
            any(math.dist(end, tip) < 1e-9 for p in POOL.pockets.values() for tip in p.tips) for end in nose.points
        )


def test_a_snooker_table_has_a_d_and_six_spots_and_no_diamonds():
    drawn = plan(SNOOKER)
    assert not lines(drawn, "diamond")
    (d,) = lines(drawn, "d")
    assert {round(math.dist(point, (SNOOKER.head_line, SNOOKER.width / 2)), 9) for point in d.points} == {0.292}
    assert len(lines(drawn, "spot")) == 12, "two strokes a spot"
    assert lines(drawn, "end")[0].label == "baulk"


def test_a_pot_is_drawn_as_it_is_measured():
    measured = measure_shot(LAYOUT, "1", "foot-left")
    drawn = pot(LAYOUT, measured)
    assert [one.line for one in drawn] == ["pocket", "ghost", "aim", "stun", "roll"]
    ghost = Polygon(lines(drawn, "ghost")[0].points)
    assert ghost.centroid.distance(Spot(measured.ghost)) < 1e-6
    assert math.dist(measured.ghost, LAYOUT.balls["1"]) == pytest.approx(2 * POOL.radius)
    start, end = lines(drawn, "stun")[0].points
    assert math.atan2(end[1] - start[1], end[0] - start[0]) == pytest.approx(measured.stun)
    r = POOL.cue_radius
    assert min(end[0] - r, 2.54 - r - end[0], end[1] - r, 1.27 - r - end[1]) == pytest.approx(0, abs=1e-9)


def test_zones_lie_with_the_ideal_one_on_top():
    found = zones([{"grade": "ideal", "centre": [1, 0.5], "radius": 0.1}, {"outline": [[0, 0], [1, 0], [0, 1]]}])
    assert [one.line for one in found] == ["acceptable", "ideal"]
    assert Polygon(found[1].points).area == pytest.approx(math.pi * 0.01, rel=0.01)


def test_a_clouds_areas_hold_their_shares_and_lie_in_one_another():
    places = [(1.2 + 0.1 * a, 0.6 + 0.1 * b) for a, b in np.random.default_rng(3).standard_normal((4000, 2))]
    drawn = cloud(places, POOL)
    areas = [unary_union([Polygon(one.points) for one in drawn if one.part == part]) for part in range(3)]
    for share, area in zip(SHARES, areas, strict=True):
        held = sum(area.covers(Spot(place)) for place in places) / len(places)
        assert held == pytest.approx(share, abs=0.04)
    assert areas[2].buffer(1e-9).covers(areas[1])
    assert areas[1].buffer(1e-9).covers(areas[0])
    assert cloud([], POOL) == []


def test_the_page_draws_the_same_cloud():
    """`density.test.ts` holds the page's areas against the same cells."""
    kept = json.loads((ROOT / "tests" / "draw" / "cloud.json").read_bytes())
    for cells, region in zip(kept["cells"], regions(kept["places"], POOL), strict=True):
        assert [list(map(int, cell)) for cell in np.argwhere(region)] == cells


def test_every_name_of_a_line_has_a_look_in_every_colour():
    assert set(get_args(LineName)) == set(LOOK.lines)
    for colours in LOOK.colours.values():
        for look in LOOK.lines.values():
            assert {name for name in (look.stroke, look.fill) if name} <= set(colours)


def test_the_light_colours_are_the_pages():
    css = (ROOT / "frontend" / "src" / "styles.css").read_text()
    day = dict(reversed(re.findall(r"--color-([a-z0-9-]+): (#[0-9a-f]{6})", css)))  # the first one stands
    names = {
        "ink": "base-content", "rail": "base-200", "cloth": "base-100", "hole": "base-300", "accent": "primary",
        "second": "secondary", "warning": "warning", "error": "error", "blue": "ink-blue",
    }  # fmt: skip
    assert {name: day[own] for name, own in names.items()} == LOOK.colours["light"]


@pytest.mark.parametrize("colours", ["light", "print"])
@pytest.mark.parametrize("discipline", TRAITS)
def test_every_table_is_a_sound_picture(discipline, colours):
    table = PRESETS[TRAITS[discipline].table or "pool-9ft"]
    balls = {"snooker": ("cue", "red-1", "black"), "blackball": ("cue", "red-1", "yellow-2")}.get(
        discipline, ("cue", "8", "14")
    )
    layout = Layout(table, discipline, {ball: (0.4 + 0.2 * n, 0.5) for n, ball in enumerate(balls)})
    svg = ElementTree.fromstring(drawing(layout, title='Three balls & a "quote" <', colours=colours))
    assert svg.find(f"{SVG}title").text == 'Three balls & a "quote" <'
    assert [one.get("data-ball") for one in svg.iter() if one.get("data-ball")] == list(balls)
    inside = [float(number) for number in svg.get("viewBox").split()]
    for path in svg.iter(f"{SVG}path"):
        numbers = [float(number) for number in re.findall(r"-?[\d.]+", path.get("d"))]
        assert all(abs(number) <= max(inside[2], inside[3]) for number in numbers)
    used = {one.get(key) for one in svg.iter() for key in ("fill", "stroke")} - {None, "none"}
    known = {*LOOK.colours[colours].values(), *LOOK.ball["hues"].values(), LOOK.ball["white"], LOOK.ball["dark"]}
    assert used <= known


def test_balls_look_as_the_trade_has_them():
    """Common practice: 1 and 9 yellow, 9 to 15 striped; a snooker colour carries its value."""
    assert ball_look("9").fill == ball_look("1").fill
    assert [ball for ball in map(str, range(1, 16)) if ball_look(ball).striped] == [str(n) for n in range(9, 16)]
    assert ball_look("pink", valued=True).label == "6"
    assert ball_look("red-7").fill == ball_look("3").fill
