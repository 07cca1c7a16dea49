"""What a coach drew by hand, as it goes out with the shot."""

from __future__ import annotations

import math
from xml.etree.ElementTree import fromstring

from aretane.core.layout import Layout
from aretane.core.table import PRESETS
from aretane.draw.drawn import INKS, drawn
from aretane.draw.svg import drawing

ARROW = {"kind": "arrow", "points": [[0.4, 0.4], [1.4, 0.4]], "ink": "red", "text": "here"}


def test_an_arrow_ends_in_barbs_that_are_as_long():
    (shape,) = drawn([ARROW])
    tip = (1.4, 0.4)
    barbs = [one for one in shape.points if one not in ((0.4, 0.4), tip)]
    assert shape.line == INKS["red"]
    assert len(barbs) == 2
    assert math.dist(barbs[0], tip) == math.dist(barbs[1], tip)
    assert all(x < 1.4 for x, _ in barbs)


def test_circles_and_areas_are_closed_and_lines_are_not():
    line, circle, area = drawn(
        [
            {"kind": "line", "points": [[0.4, 0.4], [1.0, 0.9]]},
            {"kind": "circle", "points": [[1.0, 0.5], [1.0, 0.7]], "ink": "blue"},
            {"kind": "area", "points": [[0.4, 0.4], [1.0, 0.9], [0.2, 0.8]], "ink": "dark"},
        ]
    )
    assert (line.closed, circle.closed, area.closed) == (False, True, True)
    assert all(math.isclose(math.dist(one, (1.0, 0.5)), 0.2) for one in circle.points)


def test_the_picture_of_a_shot_has_them_with_their_words():
    layout = Layout(PRESETS["pool-9ft"], "nine-ball", {"cue": (0.5, 0.5), "9": (2.0, 0.6)})
    svg = fromstring(drawing(layout, drawn([ARROW]), title="x"))
    inked = [one for one in svg.iter() if one.get("data-line") == "ink-red"]
    assert len(inked) == 1
    assert "here" in [text.text for text in inked[0].iter("{http://www.w3.org/2000/svg}text")]
    assert inked[0][0].get("fill") == "none"


def test_a_drawing_of_one_point_is_nothing_and_an_unknown_one_is_a_line():
    assert drawn([{"kind": "line", "points": [[0.4, 0.4]]}]) == []
    assert drawn([{"kind": "squiggle", "points": [[0, 0], [1, 1]], "ink": "gold"}])[0].line == "ink-dark"
