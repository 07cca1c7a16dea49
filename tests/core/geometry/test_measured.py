"""The measured of a whole table."""

from __future__ import annotations

import math
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from aretane.core.geometry.groups import clusters, frozen_pairs, on_rail
from aretane.core.geometry.measured import measure_shot, measure_table, measured_as_data
from aretane.core.geometry.uncertainty import shot_spread
from aretane.core.layout import Layout, State, first_overlap
from aretane.core.rules.disciplines import legal_first
from aretane.core.table import PRESETS

R = 0.028575


def read(layout):
    return measured_as_data(layout, measure_table(layout, legal_first(layout)))


def test_one_entry_for_every_ball_and_pocket_with_the_promised_keys(layout):
    answer = read(layout(cue=(0.62, 0.40), b3=(1.31, 0.96), b9=(2.20, 0.55)))
    assert len(answer["shots"]) == 12
    promised = {
        "ball", "pocket", "legal", "open", "cut_angle_deg", "cut_side", "fraction", "cue_distance",
        "pocket_distance", "tolerance_deg", "ghost", "aim", "blocked_by", "blocked_cue", "blocked_object",
        "stun_direction", "roll_direction", "scratch",
    }  # fmt: skip
    assert all(promised <= set(shot) for shot in answer["shots"])
    assert {shot["ball"] for shot in answer["shots"] if shot["legal"]} == {"3"}
    assert set(answer["visible"]) == {"3", "9"}


def test_a_half_ball_shot_measured_by_hand(layout, nine_foot):
    mouth = nine_foot.pockets["foot-left"].mouth
    line = math.radians(45)
    ball = (mouth[0] - 0.5 * math.cos(line), mouth[1] - 0.5 * math.sin(line))
    ghost = (ball[0] - 2 * R * math.cos(line), ball[1] - 2 * R * math.sin(line))
    aim = line - math.radians(30)
    cue = (ghost[0] - 0.8 * math.cos(aim), ghost[1] - 0.8 * math.sin(aim))
    shot = next(s for s in read(layout(cue=cue, b1=ball))["shots"] if s["pocket"] == "foot-left")
    assert shot["cut_angle_deg"] == pytest.approx(30)
    assert shot["fraction"] == pytest.approx(0.5)
    assert shot["cut_side"] == "left"
    assert shot["cue_distance"] == pytest.approx(0.8)
    assert shot["pocket_distance"] == pytest.approx(0.5)
    assert shot["aim"] == pytest.approx(aim)
    assert shot["open"] == 1
    assert shot["openness"] == "full"


def test_a_cut_that_does_not_exist_leaves_what_needs_it_empty(layout):
    shot = next(s for s in read(layout(cue=(0.6, 0.6), b1=(1.3, 0.6)))["shots"] if s["pocket"] == "head-left")
    for key in (
        "cut_angle_deg",
        "cut_side",
        "fraction",
        "tolerance_deg",
        "aim",
        "stun_direction",
        "roll_direction",
    ):
        assert shot[key] is None
    assert shot["blocked_cue"] == []


def test_without_a_cue_ball_only_the_object_balls_way_is_read(nine_foot):
    layout = Layout(nine_foot, "nine-ball", {"1": (1.3, 0.6)}, State(ball_in_hand="anywhere"))
    answer = read(layout)
    assert answer["visible"] == {}
    assert all(shot["cut_angle_deg"] is None and shot["open"] >= 0 for shot in answer["shots"])


def test_blockers_are_told_apart(layout, nine_foot):
    ball, cue = (1.8, 0.9), (0.8, 0.5)
    shot = measure_shot(layout(cue=cue, b1=ball, b5=(1.3, 0.68), b7=(2.1, 1.05)), "1", "foot-left")
    assert shot.blocked_cue == ("5",)
    assert shot.blocked_object == ("7",)
    assert not shot.playable


def test_a_ghost_ball_inside_the_cushion_cannot_be_reached(layout):
    shot = measure_shot(layout(cue=(1.0, 0.3), b1=(1.9, R)), "1", "foot-left")
    assert shot.cut is None
    assert shot.blocked_cue == ("jaw",)


def test_frozen_clustered_and_railed_balls(layout):
    touching = layout(
        cue=(0.5, 0.6),
        b1=(1.3, 0.6),
        b2=(1.3 + 2 * R + 0.0004, 0.6),
        b3=(1.3, 0.6 + 3 * R - 0.001),
        b4=(2.0, R + 0.004),
    )
    assert frozen_pairs(touching) == [("1", "2")]
    assert clusters(touching) == [["1", "2", "3"]]
    assert on_rail(touching) == ["4"]


def test_what_is_stated_to_touch_is_frozen_whatever_was_measured(nine_foot):
    balls = {"cue": (0.5, 0.6), "1": (1.3, 0.6), "2": (1.3 + 2 * R + 0.003, 0.6)}
    layout = Layout(nine_foot, "nine-ball", balls, State(touching=(("1", "2"),)))
    assert frozen_pairs(layout) == [("1", "2")]


def test_a_ball_without_an_open_pocket_is_a_problem(layout):
    ring = {
        f"b{n + 2}": (1.27 + 2.05 * R * math.cos(n * math.pi / 3), 0.6 + 2.05 * R * math.sin(n * math.pi / 3))
        for n in range(6)
    }
    problems = measure_table(layout(cue=(0.3, 0.3), b1=(1.27, 0.6), **ring), ["1"]).problem_balls
    assert ("1", "no pocket is open for it") in [(p.ball, p.why) for p in problems]


places = st.tuples(st.floats(0.1, 2.4), st.floats(0.1, 1.1))


@settings(max_examples=60, deadline=None)
@given(st.lists(places, min_size=2, max_size=9))
def test_a_mirrored_table_reads_mirrored(points):
    names = ["cue", *map(str, range(1, len(points)))]
    table = PRESETS["pool-9ft"]
    here = Layout(table, "nine-ball", dict(zip(names, points, strict=True)))
    if first_overlap(here):
        return
    there = Layout(table, "nine-ball", {b: (x, table.width - y) for b, (x, y) in here.balls.items()})
    mirrored = {"left": "right", "right": "left", None: None}
    for one in measure_table(here, []).shots:
        end, side = one.pocket.split("-")
        other = measure_shot(there, one.ball, f"{end}-{mirrored[side]}")
        assert other.open == pytest.approx(one.open, abs=1e-9)
        assert set(other.blocked_cue) == set(one.blocked_cue)
        assert (one.cut is None) == (other.cut is None)
        if one.cut and other.cut:
            assert other.cut.angle == pytest.approx(-one.cut.angle, abs=1e-9)


def test_the_spread_of_a_cut_angle_is_what_shaken_places_show(layout):
    """Monte Carlo of the same places; 8 mm on each ball make degrees at short range."""
    here = layout(cue=(1.6, 0.7), b1=(1.9, 0.9))
    sigma = {"cue": 0.008, "1": 0.008}
    dice = random.Random(3)
    angles = []
    for _ in range(4000):
        shaken = {b: (x + dice.gauss(0, 0.008), y + dice.gauss(0, 0.008)) for b, (x, y) in here.balls.items()}
        cut = measure_shot(layout(cue=shaken["cue"], b1=shaken["1"]), "1", "foot-left").cut
        angles.append(cut.angle)
    mean = sum(angles) / len(angles)
    deviation = math.sqrt(sum((a - mean) ** 2 for a in angles) / len(angles))
    spread = shot_spread(here, "1", "foot-left", sigma)
    assert spread.cut_angle == pytest.approx(1.96 * deviation, rel=0.06)
    assert math.degrees(spread.cut_angle) > 3
