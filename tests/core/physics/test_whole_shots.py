"""Whole shots: against an independent slow integrator, and against what must hold whatever the parameters."""

from __future__ import annotations

import itertools
import math
from dataclasses import replace

import numpy as np
import pytest

from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.parameters import physics_of
from aretane.core.physics.sampling import play_all
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.rack import racked
from aretane.core.table import PRESETS
from tests.core.physics.helpers import R, shot, with_physics
from tests.core.physics.slow import Slow

POOL = PRESETS["pool-9ft"]
NAMES = ("cue", "1", "2")


def random_shot(seed, balls):
    """A shot whose balls meet no pocket, so that two descriptions of pockets are not compared."""
    dice = np.random.default_rng(seed)
    for _ in range(1000):
        places = {name: tuple(dice.uniform((0.4, 0.3), (2.1, 0.97))) for name in NAMES[:balls]}
        layout = Layout(POOL, "eight-ball", places)
        if first_overlap(layout):
            continue
        (cx, cy), (bx, by) = places["cue"], places["1"]
        aim = math.atan2(by - cy, bx - cx) + dice.uniform(-0.6, 0.6) * 2 * R / math.hypot(bx - cx, by - cy)
        stroke = Stroke(
            aim=aim, speed=dice.uniform(0.6, 2.2), side=dice.uniform(-0.4, 0.4), height=dice.uniform(-0.4, 0.4)
        )
        result = simulate(layout, stroke)
        near = any(event.pocket for event in result.events)
        if result.first_contact and not near and len(result.events) < 18:
            return layout, stroke, result
    raise AssertionError("no such shot")


@pytest.mark.parametrize("balls", [2, 3])
@pytest.mark.parametrize("seed", [1, 2, 3, 4])
def test_a_whole_shot_agrees_with_the_slow_integrator(balls, seed):
    layout, _, result = random_shot(seed, balls)
    slow = Slow(POOL, physics_of(POOL), [layout.balls[name] for name in NAMES[:balls]])
    first = result.legs["cue"][0]
    slow.strike(first.velocity, first.spin)
    slow.run(result.duration + 0.05)
    assert len(slow.touched) == sum(event.kind == "contact" for event in result.events)
    for row, name in enumerate(NAMES[:balls]):
        assert slow.x[row] == pytest.approx(result.final.balls[name], abs=0.006), name


def test_mirrored_shots_are_mirrored():
    for seed in range(8):
        layout, stroke, result = random_shot(100 + seed, 3)
        flipped = {name: (x, POOL.width - y) for name, (x, y) in layout.balls.items()}
        other = shot(POOL, flipped, aim=-stroke.aim, speed=stroke.speed, side=-stroke.side, height=stroke.height)
        for name, (x, y) in result.final.balls.items():
            assert other.final.balls[name] == pytest.approx((x, POOL.width - y), abs=1e-7)


def test_three_rails_without_friction_unfold_into_a_straight_line():
    """Mirror construction of kicks and banks: exact without friction and at e = 1, at the contact distance."""
    ideal = with_physics(
        POOL, slide_friction=0, roll_friction=0, rail_friction=0, rail_restitution=1, rail_softening=0
    )
    flat_nose = R  # at the height of the centre: the impulse has no upright part

    ideal = replace(ideal, nose_height=flat_nose)
    layout = Layout(ideal, "eight-ball", {"cue": (0.8, 0.4)})
    result = simulate(layout, Stroke(aim=0.62, speed=2.0))
    rails = [event for event in result.events if event.kind == "rail"][:3]
    length, width = ideal.length - 2 * R, ideal.width - 2 * R
    for event in rails:
        run = 2.0 * event.t
        x, y = 0.8 - R + run * math.cos(0.62), 0.4 - R + run * math.sin(0.62)
        folded = [size - abs(place % (2 * size) - size) for place, size in ((x, length), (y, width))]
        assert (event.place[0] - R, event.place[1] - R) == pytest.approx(folded, abs=1e-9)


def test_time_runs_backwards_without_loss():
    """Two contacts and a rail, at e = 1 and without friction: reversed, the balls come back."""
    ideal = with_physics(
        POOL, slide_friction=0, roll_friction=0, rail_friction=0, rail_restitution=1, rail_softening=0,
        ball_restitution=1, friction_floor=0, friction_span=0,
    )  # fmt: skip
    start = {"cue": (0.8, 0.5), "1": (1.3, 0.52)}
    there = shot(ideal, start, aim=0.03, speed=1.0)
    hit = next(event for event in there.events if event.kind == "contact")
    t = hit.t + 0.2
    now, speeds = {}, {}
    for name, legs in there.legs.items():
        leg = [one for one in legs if one.t <= t][-1]
        now[name] = (leg.place[0] + leg.velocity[0] * (t - leg.t), leg.place[1] + leg.velocity[1] * (t - leg.t))
        speeds[name] = leg.velocity
    # Backwards the object ball is the one that moves fast: play its return as the cue ball, the other in its way.
    slow = Slow(ideal, physics_of(ideal), [now["cue"], now["1"]])
    slow.v[:] = [[-v for v in speeds[name]] for name in ("cue", "1")]
    slow.run(t)
    assert slow.x[0] == pytest.approx(start["cue"], abs=2e-4)
    assert slow.x[1] == pytest.approx(start["1"], abs=2e-4)


def test_no_ball_is_lost_over_many_breaks():
    for discipline, table in (
        ("eight-ball", "pool-9ft"),
        ("snooker", "snooker-12ft"),
        ("blackball", "blackball-7ft"),
    ):
        known = PRESETS[table]
        for seed in range(20):
            layout = racked(known, discipline, seed).placed("cue", (known.head_line, known.width * 0.45))
            result = simulate(layout, Stroke(aim=0.02, speed=6.5))
            gone = [ball for ball, _, _ in result.potted] + list(result.off_table)
            assert sorted([*gone, *result.final.balls]) == sorted(layout.balls)
            assert not result.capped


@pytest.mark.parametrize("table", list(PRESETS))
def test_random_shots_end_on_the_table_and_never_meet_the_cap(table):
    known = PRESETS[table]
    discipline = {"snooker-12ft": "snooker", "blackball-7ft": "blackball"}.get(table, "eight-ball")
    dice = np.random.default_rng(4)
    for seed in range(10):
        layout = racked(known, discipline, seed).placed("cue", (known.head_line * 0.8, known.width * 0.4))
        rows = np.column_stack(
            [
                dice.uniform(-math.pi, math.pi, 300),
                dice.uniform(0.05, 10, 300),
                dice.uniform(-0.6, 0.6, 300),
                dice.uniform(-0.6, 0.6, 300),
                np.where(dice.random(300) < 0.2, dice.uniform(0, 1.2, 300), 0.0),
            ]
        )
        played = play_all(layout, start_of(layout), rows)
        assert not played.capped
        for places, fates in zip(played.places, played.fates, strict=True):
            left = {n: tuple(p) for n, p, fate in zip(played.names, places, fates, strict=True) if fate == -1}
            assert all(on_table(known, place, known.radius_of(name)) for name, place in left.items())
            assert first_overlap(Layout(known, discipline, left)) is None


def test_a_stop_shot_a_hanger_and_a_rattle_come_out_by_themselves():
    """Common practice: a stun shot straight on stops dead; a ball in the jaws falls to a touch; a firm ball
    that strikes the far jaw of a side pocket at a flat angle stays out."""
    straight = shot(POOL, {"cue": (0.5, 0.6), "1": (0.62, 0.6)}, aim=0.0, speed=0.7)
    assert math.dist(straight.final.balls["cue"], (0.62 - 2 * R, 0.6)) < 0.1
    hole = POOL.pockets["foot-left"]
    jaws = tuple(m + 0.5 * hole.shelf * a for m, a in zip(hole.mouth, hole.axis, strict=True))
    hanger = shot(POOL, {"cue": (1.9, 0.635), "1": jaws}, speed=1.2, aim=math.atan2(jaws[1] - 0.635, jaws[0] - 1.9))
    assert ("1", "foot-left") in [fall[:2] for fall in hanger.potted]
    tip = POOL.pockets["side-left"].tips[1]
    flat = [
        shot(
            POOL,
            {"cue": (0.7, 0.95), "1": (0.3, 0.3)},
            aim=math.atan2(tip[1] - 0.95, tip[0] - 0.7 + n / 1000),
            speed=3.0,
        )
        for n in range(-40, 1, 2)
    ]
    assert any(any(e.kind == "jaw" for e in one.events) and not one.scratch for one in flat)


def test_a_ball_rolls_as_far_as_the_trade_says():
    """Common practice: a lag of two lengths starts near 2.3 m/s; 6 to 7 m/s run four to five lengths."""

    def lengths(speed):
        table = POOL
        result = shot(table, {"cue": (table.head_line, 0.5)}, aim=0.0, speed=speed)
        turns = [table.head_line] + [e.place[0] for e in result.events if e.kind == "rail"]
        way = [*turns, result.final.balls["cue"][0]]
        return sum(abs(a - b) for a, b in itertools.pairwise(way)) / table.length

    assert 1.8 < lengths(2.3) < 2.2
    assert 3.8 < lengths(6.5) < 5.0


def test_breaks_are_as_wet_as_the_trade_says():
    """Common practice: a good nine-ball break at 8 to 9 m/s is dry once in three or four times."""
    fallen, scratched, dice = [], 0, np.random.default_rng(3)
    for seed in range(200):
        layout = racked(POOL, "nine-ball", seed).placed("cue", (POOL.head_line - 0.03, 0.4))
        head = layout.balls["1"]
        aim = math.atan2(head[1] - 0.4, head[0] - POOL.head_line + 0.03) + dice.normal(0, 0.005)
        result = simulate(layout, Stroke(aim=aim, speed=dice.uniform(8, 9)))
        fallen.append(sum(ball != "cue" for ball, _, _ in result.potted))
        scratched += result.scratch
    assert 0.15 < np.mean([n == 0 for n in fallen]) < 0.5
    assert 0.6 < np.mean(fallen) < 1.6
    assert scratched < 0.25 * 200


def test_rails_after_the_contact_are_counted_as_the_rules_count_them():
    """WPA 6.3 and 6.4: a ball driven into the rail that it is frozen to has not reached a rail."""
    rho = POOL.contact_distance(R)
    way = math.atan2(-0.25 - R, 0.3)
    frozen = shot(POOL, {"cue": (0.7, rho + 0.25), "1": (1.0, rho)}, aim=way, speed=0.5)
    pressed = [event for event in frozen.events if event.kind == "rail" and event.balls == ("1",)]
    assert frozen.first_contact == "1"
    assert pressed
    assert frozen.object_balls_to_rail == 0
    free = shot(POOL, {"cue": (1.0, rho + 0.3), "1": (1.0, rho + 0.05)}, aim=-math.pi / 2, speed=1.0)
    assert free.rails_after_contact >= 1


# A ball over the edge was to meet a jaw when another one struck it: it stays in that pocket.
STRUCK_WHILE_FALLING = [
    (
        {"cue": (1.3534, 0.7149), "1": (1.2888, 1.1892), "2": (1.3237, 1.2426), "3": (1.2053, 1.1364),
         "4": (1.334, 1.0939)}, 5.53, 1.5899, ("1", "side-left"),
    ),
    (
        {"cue": (1.136, 0.7453), "1": (1.3076, 1.1261), "2": (1.3335, 1.1822), "3": (1.2925, 1.2611),
         "4": (1.2467, 1.2102)}, 5.62, 1.3115, ("3", "side-left"),
    ),
    (
        {"cue": (1.9558, 0.852), "1": (2.4977, 1.1731), "2": (2.3833, 1.186), "3": (2.4233, 1.0879),
         "4": (2.5048, 1.2636)}, 6.15, 0.441, ("4", "foot-left"),
    ),
]  # fmt: skip


@pytest.mark.parametrize(("balls", "speed", "aim", "fell"), STRUCK_WHILE_FALLING)
def test_a_ball_that_is_struck_while_it_falls_stays_in_its_pocket(balls, speed, aim, fell):
    result = simulate(Layout(PRESETS["pool-9ft"], "nine-ball", balls), Stroke(speed, aim))
    assert result.potted[0][:2] == fell
