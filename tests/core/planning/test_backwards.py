"""Backwards: the stroke for a place really stops there; mirrors in diamonds as worked out by hand."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.core.geometry.kick import diamond_of, kicks_by
from aretane.core.geometry.measured import measure_shot
from aretane.core.layout import Layout
from aretane.core.physics.sampling import sample
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.backwards.bank import bank_ways
from aretane.core.planning.backwards.goal import CLOSE, next_ball, place_of
from aretane.core.planning.backwards.kick import kick_ways
from aretane.core.planning.backwards.reach import reach
from aretane.core.planning.backwards.send import send
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES
from aretane.core.units import SIGHT_FROM_NOSE
from tests.core.planning.tables import TABLE, nine_ball
from tests.test_command_line import refused

CLUB = PRESETS["club"]
STRAIGHT = nine_ball(cue=(1.7, 0.7), b3=(2.1, 0.98), b9=(0.5, 0.2))


@pytest.mark.parametrize("to", [(2.0, 0.35), (1.4, 0.5), (1.72, 0.71)])
def test_the_stroke_really_stops_there(to):
    """Without an error within two centimetres, and with the hand as often as it is said (other errors, 99.9 %)."""
    found = reach(STRAIGHT, "3", "foot-left", place_of(STRAIGHT, to), CLUB, threads=2)
    assert found.ways
    for way in found.ways:
        shot = simulate(STRAIGHT, way.stroke)
        assert ("3", "foot-left") in [one[:2] for one in shot.potted]
        assert math.dist(shot.final.balls["cue"], to) <= CLOSE + 1e-9
        assert math.dist(shot.final.balls["cue"], way.stop) < 1e-9
    best = max(found.ways, key=lambda one: one.pot.p * (one.inside.p or 0))
    again = sample(STRAIGHT, best.stroke, CLUB, 400, 77, 2, ball="3")
    fell = again.fates[:, again.names.index("3")] == 4
    assert abs(fell.mean() - best.pot.p) < 3.3 * math.sqrt(2 * 0.25 / 400)


def test_a_stop_shot_is_the_plain_answer_to_stay_where_the_ball_was():
    """A nearly straight ball: to stop where the ghost ball was takes no side (common practice)."""
    straight = nine_ball(cue=(1.9, 0.84), b3=(2.2, 1.023), b9=(0.5, 0.2))
    ghost = (2.2 - 0.05715 * math.cos(0.549), 1.023 - 0.05715 * math.sin(0.549))
    first = reach(straight, "3", "foot-left", place_of(straight, ghost), CLUB, threads=2).ways[0]
    assert abs(first.stroke.side) < 0.1
    assert first.route == "no rail"


def test_what_cannot_be_reached_is_said_with_the_nearest():
    """A centimetre's tap cannot come back from the far end of the table, whatever the tip."""
    near = nine_ball(cue=(2.3, 1.1), b3=(2.42, 1.2), b1=(2.3, 1.0), b2=(2.2, 1.1), b9=(0.5, 0.2))
    found = reach(near, "3", "foot-left", place_of(near, (0.1, 0.1)), CLUB, threads=2)
    assert found.ways == ()
    assert found.nearest is not None
    assert found.nearest.off > CLOSE
    shut = nine_ball(cue=(2.3, 0.3), b3=(0.5, 1.1), b9=(0.5, 0.2))
    assert reach(shut, "3", "foot-right", place_of(shut, (1.0, 0.6)), CLUB).nearest is None


@pytest.mark.parametrize("degrees", [15, 35, 60])
def test_the_next_ball_lies_at_the_angle_that_was_asked_for(degrees):
    """The cut is measured anew by the reading of the table; with the hand, five degrees more or less are there."""
    found = reach(STRAIGHT, "3", "foot-left", next_ball(STRAIGHT, "3", "9", "head-right", degrees), CLUB, threads=2)
    assert found.ways
    for way in found.ways:
        left = simulate(STRAIGHT, way.stroke).final
        cut = measure_shot(left, "9", "head-right").cut
        away = cut.cue_distance
        assert away * abs(math.sin(abs(cut.angle) - math.radians(degrees))) <= CLOSE + 1e-6
        assert not measure_shot(left, "9", "head-right").blocked_cue


def test_a_place_from_where_the_next_ball_is_hidden_is_none():
    """A ball stands a hand's breadth before the ghost ball, on the line of a straight shot."""
    shut = nine_ball(cue=(1.7, 0.7), b3=(2.1, 0.98), b9=(0.5, 0.2), b7=(0.75, 0.3))
    goal = next_ball(shut, "3", "9", "head-right", 0)
    on_line = np.array([[1.5, 0.6], [1.0, 0.4]])
    assert not goal.inside(on_line).any()
    assert next_ball(STRAIGHT, "3", "9", "head-right", 0).inside(on_line).all()


@pytest.mark.parametrize("to", [(2.3, 0.2), (2.1, 0.9), (0.3, 1.1)])
def test_a_ball_is_sent_to_a_place(to):
    """Without an error within two centimetres; with the hand as often as is said (other errors, 99.9 %)."""
    found = send(STRAIGHT, "3", place_of(STRAIGHT, to, ball="3"), CLUB, threads=2)
    assert found
    for one in found:
        shot = simulate(STRAIGHT, one.stroke)
        assert shot.first_contact == "3"
        assert math.dist(shot.final.balls["3"], to) <= CLOSE + 1e-9
        assert shot.final.balls["cue"] == one.cue
    again = sample(STRAIGHT, found[0].stroke, CLUB, 400, 77, 2)
    stops = again.places[:, again.names.index("3")]
    there = (again.fates[:, again.names.index("3")] == -1) & (np.hypot(*(stops - np.array(to)).T) <= 0.1)
    assert abs(there.mean() - found[0].inside.p) < 3.3 * math.sqrt(2 * 0.25 / 400)


def test_a_ball_that_nobody_can_strike_is_sent_nowhere():
    walled = nine_ball(cue=(0.06, 0.06), b1=(0.12, 0.06), b2=(0.06, 0.12), b4=(0.115, 0.115), b9=(2.2, 1.0))
    assert send(walled, "9", place_of(walled, (2.0, 0.9), ball="9"), CLUB) == ()
    with pytest.raises(InputError) as refusal:
        send(walled, "7", place_of(walled, (2.0, 0.9)), CLUB)
    assert refusal.value.field == "ball"


@pytest.mark.parametrize(
    ("then", "field"),
    [(("3", "foot-left", 20), "next.ball"), (("8", "foot-left", 20), "next.ball"),
     (("9", "corner", 20), "next.pocket"), (("9", "foot-left", 85), "next.angle")],
)  # fmt: skip
def test_a_next_ball_that_cannot_be_is_named(then, field):
    with pytest.raises(InputError) as refusal:
        next_ball(STRAIGHT, "3", *then)
    assert refusal.value.field == field


@pytest.mark.parametrize(
    ("ball", "pocket", "to", "field"),
    [
        ("4", "foot-left", (1, 0.6), "ball"), ("3", "corner", (1, 0.6), "pocket"), ("3", "foot-left", (9, 9), "to"),
        ("3", "foot-left", (float("nan"), 1), "to"), ("cue", "foot-left", (1, 0.6), "ball"),
    ],
)  # fmt: skip
def test_what_is_not_there_is_named(ball, pocket, to, field):
    with pytest.raises(InputError) as refusal:
        reach(STRAIGHT, ball, pocket, place_of(STRAIGHT, to), CLUB)
    assert refusal.value.field == field


def test_one_rail_by_the_mirror_in_diamonds():
    """Both a quarter of the width from the rail: the ball turns half way between the two, whatever the inset; the
    line goes on to the diamonds behind.
    """
    quarter = TABLE.width / 4
    (way,) = [one for one in kicks_by(TABLE, (0.6, quarter), (1.6, quarter), 1) if one.rails == ("right",)]
    assert way.corners[0][0] == pytest.approx(1.1)
    rise = (quarter - way.corners[0][1]) / 0.5
    beyond = (way.corners[0][1] + SIGHT_FROM_NOSE) / rise
    assert diamond_of(TABLE, way, (0.6, quarter)) == pytest.approx((1.1 + beyond) / (TABLE.length / 8))


def test_two_rails_square_come_back_parallel():
    """Off two neighbouring rails a ball comes back parallel to its way out (common practice, plane geometry)."""
    (way,) = [one for one in kicks_by(TABLE, (1.0, 0.9), (1.6, 1.0), 2) if one.rails == ("right", "foot")]
    out = math.atan2(way.corners[0][1] - 0.9, way.corners[0][0] - 1.0)
    back = math.atan2(1.0 - way.corners[1][1], 1.6 - way.corners[1][0])
    assert abs(math.remainder(back - out - math.pi, 2 * math.pi)) < 1e-9


HIDDEN = {"cue": (0.6, 0.3), "b3": (1.9, 0.4), "b4": (1.2, 0.34), "b9": (0.5, 1.0)}


@pytest.mark.parametrize("rails", [1, 2, 3])
def test_the_corrected_aim_gets_there_by_these_rails(rails):
    layout = nine_ball(**HIDDEN)
    ways = kick_ways(layout, "3", PRESETS["professional"], rails=rails, threads=2)
    assert ways
    assert all(len(way.rails) == rails for way in ways)
    assert [way.hit.p for way in ways] == sorted((way.hit.p for way in ways), reverse=True)
    for way in ways:
        assert 0.0 < way.hit.p <= 1.0
    assert ways[0].hit.p > 0.1
    better = {way.rails: way.hit.p for way in ways}
    worse = {way.rails: way.hit.p for way in kick_ways(layout, "3", PRESETS["beginner"], rails=rails, threads=2)}
    assert sum(better[one] > worse[one] for one in better.keys() & worse.keys()) * 2 >= len(worse)


def test_a_kick_that_pots_is_rarer_than_one_that_hits():
    hanging = nine_ball(cue=(0.8, 0.635), b3=(2.47, 0.06), b4=(1.6, 0.35), b9=(0.5, 1.0))
    hits, pots = (kick_ways(hanging, "3", CLUB, pocket, 1, threads=2) for pocket in (None, "foot-right"))
    assert pots
    assert pots[0].hit.p <= hits[0].hit.p


@pytest.mark.parametrize(
    ("arguments", "field"),
    [({"ball": "7"}, "ball"), ({"ball": "3", "rails": 5}, "rails"), ({"ball": "3", "pocket": "x"}, "pocket")],
)
def test_a_kick_at_nothing_is_refused(arguments, field):
    with pytest.raises(InputError) as refusal:
        kick_ways(nine_ball(**HIDDEN), hand=CLUB, **arguments)
    assert refusal.value.field == field


def test_a_snooker_table_is_as_good():
    layout = Layout(
        TABLES["snooker-12ft"], "snooker", {"cue": (2.4, 0.9), "red-1": (3.0, 0.5), "black": (3.245, 0.889)}
    )
    assert reach(layout, "red-1", "foot-right", place_of(layout, (2.9, 1.0)), CLUB, threads=2).ways


@pytest.fixture
def table(tmp_path):
    path = tmp_path / "layout.json"
    path.write_text(json.dumps({
        "format": "aretane-layout", "version": 1, "table": "pool-9ft", "discipline": "nine-ball",
        "balls": {"cue": [1.7, 0.7], "3": [2.1, 0.98], "9": [0.5, 0.2]},
    }))  # fmt: skip
    return path


def test_both_keep_to_the_contract_and_repeat(here, table):
    done = here("reach", table, "--ball", "3", "--pocket", "foot-left", "--to", "2.0,0.35")
    answer = json.loads(done.stdout)
    assert answer["strokes"]
    for one in answer["strokes"]:
        assert set(one["pot"]) == set(one["inside"]) == {"p", "low", "high", "n"}
        assert one["off"] == pytest.approx(math.dist(one["stop"], (2.0, 0.35)), abs=1e-6)
    again = here("reach", table, "--ball", "3", "--pocket", "foot-left", "--to", "2.0,0.35")
    assert again.stdout == done.stdout
    kicks = json.loads(here("kick", table, "--ball", "3", "--rails", "1").stdout)
    for way in kicks["ways"]:
        assert {"rails", "mirror_aim", "diamond", "corrected_aim", "speed", "hit", "scratch"} <= set(way)
    assert "to" in refused(here("reach", table, "--ball", "3", "--pocket", "foot-left", "--to", "there"))
    then = ("reach", table, "--ball", "3", "--pocket", "foot-left", "--next")
    assert json.loads(here(*then, "9,head-right,30").stdout)["strokes"]
    assert "next" in refused(here(*then, "9 head-right 30"))
    assert "next.pocket" in refused(here(*then, "9,corner,30"))
    assert "--to or --next" in refused(here("reach", table, "--ball", "3", "--pocket", "foot-left"))
    assert "rails" in refused(here("kick", table, "--ball", "3", "--rails", "9"))
    assert "radius" in refused(
        here("reach", table, "--ball", "3", "--pocket", "foot-left", "--to", "1,1", "--radius", "-1")
    )


def test_side_takes_a_kick_to_another_diamond():
    """Common practice: side turns the ball at the rail, half a tip by about half a diamond there and back."""
    at = {}
    for side in (-0.35, 0.0, 0.35):
        layout = nine_ball(cue=(0.6, 0.5), b3=(1.9, 0.6), b9=(0.2, 1.1))
        way = next(
            one for one in kick_ways(layout, "3", CLUB, rails=1, threads=2, side=side) if one.rails == ("head",)
        )
        at[side] = dict(way.by_speed)[2.3]
        struck = simulate(layout, Stroke(way.speed, way.corrected_aim, side=side, height=0.15))
        assert struck.first_contact == "3"
    assert at[-0.35] > at[0.0] + 0.2 > at[0.35] + 0.4
    with pytest.raises(InputError) as refusal:
        kick_ways(layout, "3", CLUB, side=0.9)
    assert refusal.value.field == "side"


BANK = {"cue": (1.1, 0.35), "3": (1.45, 0.75)}


@pytest.fixture(scope="module")
def banks():
    return bank_ways(nine_ball(**BANK), "3", PRESETS["professional"], samples=300, threads=2)


def test_a_bank_by_the_mirror_in_diamonds(banks):
    """Across into the side by hand: the way over the table and back is shared out in proportion to the depths."""
    one = next(bank for bank in banks if bank.pocket == "side-right" and bank.rail == "left")
    line = TABLE.width - TABLE.contact_distance(TABLE.cue_radius)
    mouth = TABLE.pockets["side-right"].mouth
    share = (line - 0.75) / ((line - 0.75) + (line - mouth[1]))
    turn_at = 1.45 + share * (mouth[0] - 1.45)
    assert one.mirror_aim == pytest.approx((turn_at, line), abs=1e-6)
    slope = (turn_at - 1.45) / (line - 0.75)
    at_sights = 1.45 + slope * (TABLE.width + SIGHT_FROM_NOSE - 0.75)
    assert one.diamond == pytest.approx(at_sights / (TABLE.length / 8), abs=1e-6)


def test_the_aim_that_is_offered_banks_the_ball(banks):
    for bank in banks:
        shot = simulate(nine_ball(**BANK), Stroke(bank.speed, bank.corrected_aim))
        assert ("3", bank.pocket) in [fall[:2] for fall in shot.potted]
        assert [e.rail for e in shot.events if e.kind == "rail" and e.balls[0] == "3"] == [bank.rail]
        assert 0.0 < bank.pot.p < 0.9, "nobody banks nine of ten (common practice)"
    assert [bank.pot.p for bank in banks] == sorted((bank.pot.p for bank in banks), reverse=True)


def test_a_harder_bank_comes_off_the_rail_sharper(banks):
    """Common practice: the same bank has to be aimed nearer to the mirror's other side the harder it is struck."""
    told = [dict(bank.by_speed) for bank in banks if len(bank.by_speed) > 1]
    assert told, "a bank that goes at two speeds"
    assert any(abs(max(one.values()) - min(one.values())) > 0.02 for one in told)


def test_a_bank_of_nothing_is_said():
    with pytest.raises(InputError, match="not on the table"):
        bank_ways(nine_ball(**BANK), "9", CLUB)
    with pytest.raises(InputError, match="in hand"):
        bank_ways(nine_ball(**{"3": (1.45, 0.75)}), "3", CLUB)


def test_a_kick_says_how_many_diamonds_its_aim_moves_with_speed():
    ways = kick_ways(nine_ball(**HIDDEN), "3", PRESETS["professional"], samples=50, threads=2)
    for way in ways:
        assert way.speed in dict(way.by_speed)
        assert dict(way.by_speed)[way.speed] == pytest.approx(way.corrected_diamond, abs=1e-9)
