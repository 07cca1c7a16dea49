"""Kicks by the mirror, against the simulator on a table without friction, and clear ways by Shapely."""

import math
from dataclasses import replace

import pytest
from shapely.geometry import LineString, Point

from aretane.core.geometry.kick import clear, kicks
from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import PRESETS

FLAT = PRESETS["pool-9ft"]
TABLE = replace(FLAT, nose_height=FLAT.radius)  # at the centre's height: the impulse has no upright part
IDEAL = replace(
    TABLE,
    physics=tuple(
        sorted(
            {
                "slide_friction": 0.0, "roll_friction": 0.0, "rail_restitution": 1.0, "rail_softening": 0.0,
                "rail_friction": 0.0, "spin_slowing": 0.0,
            }.items()
        )
    ),
)  # fmt: skip
START, END = (0.6, 0.4), (1.9, 0.8)


def test_every_mirror_way_reaches_its_end_without_friction():
    """Mirror unfolding is exact at e = 1 without friction: the simulator goes the same way."""
    found = list(kicks(TABLE, START, END))
    assert {len(kick.rails) for kick in found} == {1, 2}
    for kick in found:
        layout = Layout(IDEAL, "nine-ball", {"cue": START, "9": END})
        shot = simulate(layout, Stroke(speed=2.0, aim=kick.aim))
        rails = [event.rail for event in shot.events if event.kind == "rail" and event.balls[0] == "cue"]
        contact = next(event for event in shot.events if event.kind == "contact")
        assert rails[: len(kick.rails)] == list(kick.rails)
        assert contact.t == pytest.approx((kick.length - 2 * TABLE.radius) / 2.0, abs=0.002)


def test_the_angle_in_is_the_angle_out():
    kick = next(kick for kick in kicks(TABLE, START, END, most_rails=1) if kick.rails == ("right",))
    (corner,) = kick.corners
    into = math.atan2(START[1] - corner[1], corner[0] - START[0])
    out = math.atan2(END[1] - corner[1], END[0] - corner[0])
    assert into == pytest.approx(out, abs=1e-9)
    assert corner[1] == pytest.approx(TABLE.contact_distance(TABLE.cue_radius))


def test_a_ball_in_any_leg_closes_the_way():
    reach = 2 * TABLE.radius
    for kick in kicks(TABLE, START, END):
        points = [START, *kick.corners, END]
        for other in ((1.2, 0.2), (0.9, 1.0), (1.6, 0.5)):
            free = LineString(points).distance(Point(other)) >= reach
            assert clear(kick, START, END, {"3": other}, reach) == free


def test_a_way_through_a_pocket_is_none():
    beside = (TABLE.length / 2, 0.4)
    assert all(kick.rails != ("right",) for kick in kicks(TABLE, beside, (TABLE.length / 2, 0.9), most_rails=1))
