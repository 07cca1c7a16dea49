"""Plants and cannons by hand, and what they say played by the simulator."""

from __future__ import annotations

import math

import pytest

from aretane.core.geometry.plants import cannons, plants
from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import table_from

TABLE = table_from("pool-9ft")
WIDTH = TABLE.ball_diameter
MOUTH = TABLE.pockets["foot-right"].mouth


def layout(**balls):
    return Layout(TABLE, "eight-ball", {name.removeprefix("b"): at for name, at in balls.items()})


def in_line(distance, gap, aside=0.0, cue=0.5):
    """A ball so far from the corner, one behind it, the cue ball behind both, all in line with it but the first,
    which lies aside."""
    x, y = -math.sqrt(0.5), math.sqrt(0.5)  # away from the corner
    second = (MOUTH[0] + x * distance, MOUTH[1] + y * distance)
    step = WIDTH + gap
    first = (second[0] + x * step - y * aside, second[1] + y * step + x * aside)
    behind = (first[0] + x * cue, first[1] + y * cue)
    return layout(b3=first, b7=second, cue=behind)


def found(table, **wanted):
    return next(one for one in plants(table) if all(getattr(one, name) == value for name, value in wanted.items()))


def test_a_plant_that_touches_in_line_is_on():
    one = found(in_line(0.8, 0.0), first="3", second="7", pocket="foot-right")
    assert one.gap == pytest.approx(0.0, abs=1e-9)
    assert one.off == pytest.approx(0.0, abs=1e-6)
    assert one.misses_by == pytest.approx(0.0, abs=1e-6)
    assert one.blocked == ()
    table = in_line(0.8, 0.0)
    aim = math.atan2(MOUTH[1] - table.cue[1], MOUTH[0] - table.cue[0])
    assert simulate(table, Stroke(1.5, aim)).potted[0][:2] == ("7", "foot-right")


def test_how_far_a_touching_plant_is_off():
    """A first ball two degrees aside: the line of centres passes the mouth by .8 m times their sine."""
    table = in_line(0.8, 0.0, aside=WIDTH * math.tan(math.radians(2.0)))
    one = next(p for p in plants(table) if (p.first, p.second, p.pocket) == ("3", "7", "foot-right"))
    assert math.degrees(abs(one.off)) == pytest.approx(2.0, abs=0.01)
    assert abs(one.misses_by) == pytest.approx(0.8 * math.sin(math.radians(2.0)), abs=1e-3)


def test_with_a_gap_the_first_is_sent_at_the_ghost_ball():
    """Thirty degrees by hand: the ghost ball lies a ball's width behind the second, on the pocket's line."""
    table = in_line(0.6, 0.25, aside=0.05)
    one = found(table, first="3", second="7", pocket="foot-right")
    second = table.balls["7"]
    assert math.dist(one.ghost, second) == pytest.approx(WIDTH)
    assert one.gap == pytest.approx(math.dist(table.balls["3"], second) - WIDTH)
    run = math.atan2(one.ghost[1] - table.balls["3"][1], one.ghost[0] - table.balls["3"][0])
    line = math.atan2(MOUTH[1] - second[1], MOUTH[0] - second[0])
    assert one.cut == pytest.approx(abs(run - line))


def test_what_stands_in_the_way_is_said():
    clear = in_line(0.8, 0.2)
    between = tuple((clear.balls["7"][n] + MOUTH[n]) / 2 for n in (0, 1))
    table = Layout(TABLE, "eight-ball", {**clear.balls, "9": between})
    assert found(table, first="3", second="7", pocket="foot-right").blocked == ("9",)


def test_a_stunned_cue_ball_runs_along_the_tangent_line_onto_the_second():
    """The half-ball hit leaves at sixty degrees from the aim; played without draw or follow at the contact."""
    table = layout(cue=(1.0, 0.6), b3=(1.6, 0.62), b7=(1.9, 1.1))
    one = next(c for c in cannons(table) if (c.first, c.second) == ("3", "7"))
    tangent = one.direction - math.atan2(0.62 - one.ghost[1], 1.6 - one.ghost[0])
    assert math.degrees(abs(math.remainder(tangent, 2 * math.pi))) == pytest.approx(90.0, abs=1e-6)
    aim = math.atan2(one.ghost[1] - 0.6, one.ghost[0] - 1.0)
    met = [
        simulate(table, Stroke(speed, aim, height=-0.1 * back)).events
        for speed in (3.0, 4.0) for back in (0, 1, 2, 3)
    ]  # fmt: skip
    hits = [any(e.kind == "contact" and set(e.balls) == {"cue", "7"} for e in events) for events in met]
    assert any(hits), "one of these strokes stuns at the contact"
    assert 0.0 < one.fullness < 1.0


def test_nothing_to_play_is_an_empty_list():
    assert cannons(layout(cue=(1.0, 0.6), b3=(1.6, 0.62))) == []
    assert plants(layout(cue=(1.0, 0.6), b3=(1.6, 0.62))) == []
    assert cannons(layout(b3=(1.6, 0.62), b7=(1.9, 1.1))) == []
