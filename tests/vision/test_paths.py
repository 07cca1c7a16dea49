"""Balls followed through painted pictures of a simulated stroke, and what their ways tell. Oracles: the simulator
that ran them, and Shapely's simplification."""

from __future__ import annotations

import math
from functools import partial
from itertools import pairwise
from types import SimpleNamespace

import numpy as np
import pytest
from shapely import LineString

from aretane.core.layout import Layout
from aretane.core.physics.shot import place_on, simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import PRESETS
from aretane.vision.balls.identity import Appearance
from aretane.vision.paths.course import Course, _white
from aretane.vision.paths.events import events_of
from aretane.vision.paths.exchanged import told_apart, told_by_rest
from aretane.vision.paths.fitted import fitted
from aretane.vision.paths.pictures import Frame, View
from aretane.vision.paths.told import Mark, event_as_data, event_from, marks_as_data, marks_from, turns_of
from aretane.vision.paths.tracking import Runner, Tracker, tracked
from aretane.vision.render.look import CLOTHS, Look
from aretane.vision.render.motion import at_time, random_turn
from aretane.vision.render.places import camera_for
from aretane.vision.render.scene import Scene
from aretane.vision.shots.watch import Placed, Shot
from aretane.vision.table.cloth import bed_of, lab
from aretane.vision.table.registration import Registrar
from aretane.vision.table.sight import prepare

POOL = PRESETS["pool-9ft"]
SIZE, RATE, STRUCK = (960, 540), 30, 0.2
BALLS = {"cue": (0.7, 0.6), "3": (1.5, 0.62), "5": (2.0, 0.25)}


@pytest.fixture(scope="module")
def played():
    """A stroke, its simulated course, and what was told of it by pictures."""
    layout = Layout(POOL, "nine-ball", BALLS)
    stroke = Stroke(aim=math.atan2(0.045, 0.8), speed=2.2)
    shot = simulate(layout, stroke)
    tracks = {ball: partial(place_on, legs) for ball, legs in shot.legs.items()}
    dice = np.random.default_rng(4)
    camera = camera_for(POOL, "corner", SIZE, dice)
    scene = Scene(POOL, camera, SIZE, Look(cloth=CLOTHS["blue"]))
    turned = {ball: random_turn(dice) for ball in BALLS}
    bed = bed_of(POOL, camera, SIZE)
    first = scene.paint(BALLS, turned)
    cloth = prepare(first, POOL, camera, bed).cloth
    known = bed.seen.astype(np.float32)

    def pictures():
        for n in range(int((STRUCK + shot.duration + 0.6) * RATE)):
            places = at_time(tracks, n / RATE - STRUCK)
            yield Frame(n / RATE, lab(bed.crop(scene.paint(places, turned))), cloth, bed, known)

    view = View(POOL, camera, bed, cloth, Registrar(first, POOL, camera), 1.0)
    tracker = tracked(view, BALLS, pictures())
    return layout, shot, tracks, Course(tracker.paths(), events_of(tracker.runners, POOL))


def test_the_ways_are_those_that_were_run(played):
    _, shot, tracks, course = played
    ran = {event.balls[0] for event in shot.events if event.kind == "stop"} | {ball for ball, _, _ in shot.potted}
    assert set(course.paths) == ran
    offs = [
        math.dist(mark.place, place)
        for ball, marks in course.paths.items()
        for mark in marks
        if (place := tracks[ball](mark.t - STRUCK)) is not None
    ]
    assert (np.median(offs) < 0.008, np.percentile(offs, 95) < 0.03) == (True, True)


def test_what_happened_is_told_in_order(played):
    _, shot, _, course = played
    told = [(one.kind, one.balls, one.what) for one in course.events if one.kind in ("contact", "rail", "pocket")]
    true = [
        (one.kind, one.balls, one.rail or one.pocket)
        for one in shot.events
        if one.kind in ("contact", "rail", "pocket")
    ]
    assert [one for one in told if one[0] != "rail"] == [one for one in true if one[0] != "rail"]
    rails, ran = (sorted(one[1:] for one in some if one[0] == "rail") for some in (told, true))
    assert set(rails) <= set(ran)
    assert len(ran) - len(rails) <= 1, "a slow one may be missed"
    strike = next(one for one in course.events if one.kind == "strike")
    assert strike.t == pytest.approx(STRUCK, abs=0.05)


def test_the_simulator_explains_the_ways(played):
    layout, _, _, course = played
    fit = fitted(layout, course.paths, STRUCK)
    assert fit.explains
    assert fit.stroke.aim == pytest.approx(math.atan2(0.045, 0.8), abs=math.radians(0.5))
    assert fit.stroke.speed == pytest.approx(2.2, rel=0.12)
    assert fit.low[1] <= fit.stroke.speed <= fit.high[1]
    assert fitted(layout, {}, STRUCK) is None


def test_no_ball_runs_through_the_one_that_it_hit():
    """Both are sought ahead, and the faster one is found first: it is given to the ball in between."""
    tracker = Tracker(SimpleNamespace(table=POOL, camera=None), {}, 0.0)
    cue, three = runner("cue", [(0.9, 0.6), (1.0, 0.6)]), runner("3", [(1.05, 0.6), (1.15, 0.6)])
    assert tracker._beyond(cue, (1.25, 0.61), [three]) is three
    assert tracker._beyond(cue, (1.1, 0.6), [three]) is None, "it is not there yet"
    assert tracker._beyond(cue, (1.25, 0.8), [three]) is None, "it passes aside"


def test_balls_that_the_layouts_have_where_they_were_do_not_run():
    tracker = Tracker(
        SimpleNamespace(table=POOL, camera=None), {"cue": (1.0, 0.6), "3": (0.5, 0.6)}, 0.0, stay=["3"]
    )
    tracker.search = SimpleNamespace(changed=lambda one, frame: one.ball == "3")
    assert tracker._left(tracker.runners, SimpleNamespace(time=0.2)) == []
    assert [one.time for one in tracker.runners] == [0.2, 0.2]


def runner(ball, places, rate=0.04, **how):
    one = Runner(ball, [Mark(n * rate, place) for n, place in enumerate(places)], **how)
    one.ran = True
    return one


def test_a_ball_that_comes_from_a_rail_has_met_it():
    down = [(1.0 + 0.02 * n, 0.5 - 0.05 * n) for n in range(10)]
    up = [(down[-1][0] + 0.02 * n, down[-1][1] + 0.05 * n) for n in range(1, 10)]
    rails = [one for one in events_of([runner("cue", down + up)], POOL) if one.kind == "rail"]
    assert [(one.what, one.balls) for one in rails] == [("right", ("cue",))]
    along = [(1.0 + 0.05 * n, 0.03 + 0.001 * (n % 2)) for n in range(20)]
    assert not [one for one in events_of([runner("cue", along)], POOL) if one.kind == "rail"], "it ran along it"


R = POOL.radius


def rails_of(places, rate=0.04, **how):
    return [one.what for one in events_of([runner("cue", places, rate, **how)], POOL) if one.kind == "rail"]


def test_a_ball_that_runs_along_a_rail_may_touch_it():
    """It comes and goes by five centimetres a second: from picture to picture hardly more than places are off."""
    noise = np.random.default_rng(3).normal(0, 0.0008, 30)
    grazing = [(0.5 + 0.02 * n, R + abs(15 - n) * 0.002 + noise[n]) for n in range(30)]
    assert rails_of(grazing) == ["right"]
    beside = [(x, y + 0.012) for x, y in grazing]
    assert rails_of(beside) == [], "it turned a centimetre before the rail"


def test_a_ball_that_comes_to_rest_at_a_rail_has_met_it():
    comes = [(0.5 + 0.01 * n, max(R + 0.001, 0.12 - 0.004 * n)) for n in range(40)]
    assert rails_of(comes) == ["right"]
    stood = [(0.5 + 0.01 * n, R + 0.001) for n in range(40)]
    assert rails_of(stood) == [], "it was there before"
    assert rails_of(comes, pocket="side-right") == [], "it fell"


def test_a_turn_that_a_ball_gave_before_the_rail_is_no_rail():
    """The cue ball comes at 45 degrees to one that is frozen to the rail, and leaves along."""
    comes = [(1.0 + 0.07 * n, 0.0715 + 0.07 * (6 - n)) for n in range(7)]
    goes = [(comes[-1][0] + 0.05 * n, comes[-1][1] + 0.012 * n) for n in range(1, 8)]
    frozen = (comes[-1][0] + 0.035, R + 0.001)
    hit = runner("3", [frozen] * 7 + [(frozen[0] + 0.05 * n, R + 0.04 * n) for n in range(1, 8)])
    told = events_of([runner("cue", comes + goes), hit], POOL)
    assert [one.kind for one in told if one.balls[0] == "cue"][:2] == ["strike", "contact"]
    assert not [one for one in told if one.kind == "rail" and one.balls == ("cue",)]


def test_the_jaws_of_a_pocket_are_no_rail():
    mouth = POOL.pockets["foot-left"].mouth
    rattles = [(mouth[0] - 0.02 * abs(4 - n), mouth[1] - 0.02 * abs(4 - n)) for n in range(9)]
    assert rails_of(rattles) == []


def test_a_ball_begins_where_another_reached_it():
    cue = [(0.5 + 0.05 * n, 0.6) for n in range(9)]
    still = [(0.97, 0.6)] * 9
    hit = runner("3", still + [(0.97 + 0.04 * n, 0.6) for n in range(1, 8)])
    contacts = [one for one in events_of([runner("cue", cue), hit], POOL) if one.kind == "contact"]
    assert contacts[0].balls == ("cue", "3")
    assert contacts[0].t == pytest.approx(8 * 0.04, abs=0.05)


def test_ways_are_drawn_by_their_turns_as_shapely_has_them():
    dice = np.random.default_rng(2)
    turns = [(0.2, 0.2), (1.5, 0.3), (2.2, 1.0), (1.0, 1.2)]
    way = [tuple(np.array(a) + s * (np.array(b) - a)) for a, b in pairwise(turns)
           for s in np.linspace(0, 1, 20)]  # fmt: skip
    marks = [Mark(float(n), tuple(np.array(p) + dice.normal(0, 0.002, 2))) for n, p in enumerate(way)]
    drawn = turns_of(marks)
    oracle = LineString([mark.place for mark in marks]).simplify(0.008, preserve_topology=False)
    assert [mark.place for mark in drawn] == [pytest.approx(place) for place in oracle.coords]
    assert turns_of(marks[:2]) == marks[:2]


def test_what_is_told_comes_back_from_data(played):
    *_, course = played
    marks = course.paths["cue"]
    again = marks_from(marks_as_data(marks))
    assert [one.t for one in again] == pytest.approx([one.t for one in marks], abs=1e-3)
    assert all(math.dist(a.place, b.place) < 1e-3 for a, b in zip(again, marks, strict=True))
    told = [event_from(event_as_data(one)) for one in course.events]
    assert [(one.kind, one.balls, one.what) for one in told] == [
        (one.kind, one.balls, one.what) for one in course.events
    ]


def test_nothing_is_met_where_a_ball_stood_that_has_fallen():
    """The cue ball turns (a bump) where the 3 stood, long after the 3 has gone."""
    three = runner("3", [(1.0, 0.5), (0.6, 0.3), (0.2, 0.1)], pocket="head-right")
    way = [(1.6 - 0.05 * n, 0.5) for n in range(12)]
    cue = runner("cue", [*way, *((1.05 - 0.04 * n, 0.5 + 0.03 * n) for n in range(1, 10))])
    told = [one for one in events_of([cue, three], POOL) if one.kind == "contact"]
    assert all(one.t < 0.2 for one in told)


def coloured(ball, own, shown, places):
    """A runner of its own colour whose way shows other colours, in turn."""
    one = runner(ball, places)
    one.colour = np.array(own, float)
    one.looks = {mark.t: np.array(shown[n % len(shown)], float) for n, mark in enumerate(one.marks)}
    return one


IVORY, PURPLE, ORANGE = (80.0, 2.0, 12.0), (25.0, 30.0, -30.0), (60.0, 40.0, 60.0)
LEFTWARDS = [(1.0 + 0.03 * n, 0.5) for n in range(12)]
DOWNWARDS = [(1.03, 0.5 + 0.03 * n) for n in range(12)]


@pytest.mark.parametrize(
    ("ball", "own", "ours", "theirs", "exchanged"),
    [
        ("4", PURPLE, [IVORY], [PURPLE], False),
        ("4", PURPLE, [PURPLE], [IVORY], True),
        ("12", IVORY, [IVORY, PURPLE], [IVORY], True),  # a stripe that shows white now and then
        ("12", IVORY, [IVORY], [IVORY, PURPLE], False),
    ],
)
def test_what_stays_white_after_two_met_is_the_cue_ball(ball, own, ours, theirs, exchanged):
    cue, other = coloured("cue", IVORY, ours, LEFTWARDS), coloured(ball, own, theirs, DOWNWARDS)
    told_apart([cue, other], "cue", POOL.ball_diameter, 20.0)
    assert (cue.place, other.place) == ((DOWNWARDS[-1], LEFTWARDS[-1])[:: 1 if exchanged else -1])


def test_two_balls_that_met_go_by_their_own_colours():
    one, other = coloured("4", PURPLE, [ORANGE], LEFTWARDS), coloured("5", ORANGE, [PURPLE], DOWNWARDS)
    other.pocket = "side-left"
    told_apart([one, other], "cue", POOL.ball_diameter, 20.0)
    assert (one.place, one.pocket) == (DOWNWARDS[-1], "side-left")
    assert (other.place, other.pocket) == (LEFTWARDS[-1], None)


ACROSS = [(0.5 + 0.05 * n, 0.6) for n in range(20)]  # over where the 3 stood, and on to where it fell or rests
MEETS = (0.9, 0.6)


def by_rest(white, cue=None, *others):
    """Whose way ends where, once it is known where the cue ball lies."""
    cue = cue or runner("cue", ACROSS)
    told_by_rest([cue, *others], "cue", white, POOL.ball_diameter)
    return {one.ball: one.marks[-1].place for one in (cue, *others)}


def test_the_way_on_is_that_of_the_ball_that_was_met_where_the_cue_ball_lies_elsewhere():
    """Struck full the 3 takes the whole speed; the cue ball stops behind it, and nobody saw the change."""
    cue, three = runner("cue", ACROSS, pocket="foot-left"), Runner("3", [Mark(0.3, MEETS)])
    ends = by_rest((0.95, 0.62), cue, three)
    assert ends == {"cue": (0.95, 0.62), "3": ACROSS[-1]}
    assert (cue.pocket, three.pocket, three.ran) == (None, "foot-left", True)
    assert cue.marks[-2].place[0] <= MEETS[0] + 0.05, "up to where they met it is its own"
    told = [(one.kind, one.balls) for one in events_of([cue, three], POOL)]
    assert ("pocket", ("3",)) in told
    assert ("rest", ("cue",)) in told


def test_of_two_that_ran_the_one_that_ends_where_the_cue_ball_lies_is_the_cue_ball():
    three = runner("3", [MEETS] * 9 + [(0.9, 0.6 - 0.03 * n) for n in range(1, 12)])
    white = three.place
    assert by_rest(white, runner("cue", ACROSS), three) == {"cue": white, "3": ACROSS[-1]}


@pytest.mark.parametrize("white", [ACROSS[-1], (ACROSS[-1][0] + 0.03, 0.62)])
def test_a_cue_ball_that_ends_where_it_lies_keeps_its_way(white):
    three = Runner("3", [Mark(0.3, MEETS)])
    assert by_rest(white, None, three) == {"cue": ACROSS[-1], "3": MEETS}
    assert not three.ran


def test_a_cue_ball_that_met_none_keeps_its_way_and_so_does_one_that_was_lost():
    far, near = Runner("3", [Mark(0.3, (0.9, 0.2))]), Runner("3", [Mark(0.3, MEETS)])
    assert by_rest((0.3, 0.3), None, far)["cue"] == ACROSS[-1]
    assert by_rest((0.3, 0.3), runner("cue", ACROSS, lost=True), near)["cue"] == ACROSS[-1]


def test_two_balls_that_begin_to_run_together_were_both_sent_by_the_cue_ball():
    still = [(1.0, 0.6), (1.0, 0.545)]
    cue = runner("cue", [(0.5 + 0.07 * n, 0.57) for n in range(7)] + [(0.93, 0.57 + 0.01 * n) for n in range(9)])
    pair = [
        runner(ball, [at] * 6 + [(at[0] + 0.04 * n, at[1] + side * 0.03 * n) for n in range(1, 10)])
        for ball, at, side in (("3", still[0], 1), ("4", still[1], -1))
    ]
    told = [one.balls for one in events_of([cue, *pair], POOL) if one.kind == "contact"][:2]
    assert sorted(told) == [("cue", "3"), ("cue", "4")]


@pytest.mark.parametrize(("late", "told"), [(0.06, True), (0.4, False)])
def test_a_ball_sent_off_before_the_cue_ball_was_seen_to_run_was_sent_by_it(late, told):
    """An arm hides the cue ball for its first pictures."""
    three = runner("3", [(1.0 + 0.04 * n, 0.6) for n in range(12)])
    cue = Runner("cue", [Mark(late + 0.04 * n, (0.93 + 0.004 * n, 0.6)) for n in range(8)], ran=True)
    contacts = [one.balls for one in events_of([three, cue], POOL) if one.kind == "contact"]
    assert contacts == ([("cue", "3")] if told else [])


def test_what_begins_to_run_while_nobody_sees_the_cue_ball_was_sent_by_it():
    """No ball runs by itself; the next one was sent by the first."""
    three = runner("3", [(1.0 + 0.04 * n, 0.6) for n in range(12)])
    four = Runner("4", [Mark(0.32 + 0.04 * n, (1.38 + 0.04 * n, 0.6)) for n in range(8)], ran=True)
    for hidden in ([], [Runner("cue", [Mark(-0.3, (0.5, 0.6))], ran=True)]):
        contacts = [one.balls for one in events_of([*hidden, three, four], POOL) if one.kind == "contact"]
        assert contacts == [("cue", "3"), ("3", "4")]


def test_a_fast_ball_was_at_the_rail_between_two_pictures():
    """At three metres a second the last picture before the foot rail shows it four centimetres away, the first one
    after it three; just then it met a ball. Where both ways meet it touched the rail."""
    touching = POOL.length - R
    comes = [(touching - 0.04 - 0.1 * n, 0.9 - 0.05 * n) for n in range(6, -1, -1)]
    goes = [(touching - 0.03 - 0.07 * n, 0.92 - 0.01 * n) for n in range(8)]
    three = runner("3", [(2.47, 0.96)] * 7 + [(2.48, 0.96 + 0.05 * n) for n in range(1, 6)])
    told = events_of([runner("cue", comes + goes), three], POOL)
    rails = [one for one in told if one.kind == "rail" and one.balls == ("cue",)]
    assert [one.what for one in rails] == ["foot"]
    assert rails[0].at[0] == pytest.approx(touching, abs=0.03)


def test_a_turn_that_sparse_marks_leave_open_is_told_once():
    """Half a second without a mark: the turn near a ball that stays is that of the contact told already."""
    three = Runner(
        "3", [Mark(0.0, (0.97, 0.2))] + [Mark(0.6 + 0.04 * n, (1.0 + 0.06 * n, 0.2)) for n in range(9)], ran=True
    )
    before = [Mark(0.04 * n, (0.3 + 0.04 * n, 0.4 - 0.012 * n)) for n in range(12)]
    after = [Mark(0.94 + 0.04 * n, (1.1 + 0.01 * n, 0.3 + 0.03 * n)) for n in range(9)]
    cue = Runner("cue", before + after, ran=True)
    stays = Runner("7", [Mark(0.0, (before[-1].place[0] + 0.05, before[-1].place[1]))])
    contacts = [one.balls for one in events_of([cue, three, stays], POOL) if one.kind == "contact"]
    assert contacts == [("cue", "3")]


@pytest.mark.parametrize(
    ("ivory_left", "ivory_arrived", "found"),
    [
        ((0.95, 0.1), (0.94, 0.1), 0),  # the cue ball and a solid
        ((0.95, 0.1), (0.1, 0.94), 1),
        ((0.95, 0.1), (0.1,), None),  # the cue ball fell, the solid ran on
        ((0.95, 0.75), (0.75,), None),  # the cue ball fell, and a stripe is hardly less white
        ((0.95,), (0.94,), 0),
        ((0.95, 0.1), (), None),
    ],
)
def test_the_cue_ball_is_told_where_it_lies_if_no_other_looks_like_it(ivory_left, ivory_arrived, found):
    def balls(first, shares):
        looks = [Appearance(share, 0.0, np.array([60.0, 20.0, 20.0])) for share in shares]
        return [Placed(first + n, (0.5 + n, 0.5 + first), 0.004, 9, look) for n, look in enumerate(looks)]

    before, after = balls(0, ivory_left), balls(10, ivory_arrived)
    tracks = [tuple(one.track for one in each) for each in (before, after)]
    shot = Shot(0.0, 0.5, 4.0, 0.9, 1, 0, "shot", tuple(before), tuple(after), *tracks)
    assert _white(shot) == (None if found is None else after[found].place)
