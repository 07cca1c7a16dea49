"""Shots as changes between settled layouts, on looks made up by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest

from aretane.vision.balls.identity import Appearance
from aretane.vision.shots.watch import Look, Seen, Watch

EVERY = 0.5
START = [(0.5, 0.5), (1.0, 0.8), (2.0, 0.4), (1.5, 1.0)]
AFTER = [(1.2, 0.3), (2.0, 0.4), (1.5, 1.0)]  # the first ball moved, the second fell


def watched(*spells, every=EVERY, jitter=0.003, hidden=(), racked=(), alone=False):
    """The shots of spells of (places, how many looks). Cloth is seen where nothing stands, but for `hidden`."""
    dice = np.random.default_rng(1)
    watch, time, shots = Watch(every, alone), 0.0, []
    for number, (places, count) in enumerate(spells):
        for _ in range(count):
            seen = [Seen((x + dice.normal(0, jitter), y + dice.normal(0, jitter)), 0.004, 0.9) for x, y in places]

            def empty(place, seen=seen):
                covered = any(math.dist(place, other) < 0.1 for other in hidden)
                return not covered and all(math.dist(place, one.place) > 0.05 for one in seen)

            shots += watch.look(Look(time, seen, empty, number in racked))
            time += every
    return shots + watch.finish(time)


def rolling(steps):
    return [([(0.5 + 0.1 * n, 0.5 - 0.03 * n), *START[2:]], 1) for n in range(1, steps)]


def test_a_shot_is_told_with_what_moved_and_what_is_gone():
    (shot,) = watched((START, 6), *rolling(5), (AFTER, 6))
    assert (shot.moved, shot.gone, shot.kind) == (1, 1, "shot")
    assert shot.start == pytest.approx(5 * EVERY)
    assert shot.contact == pytest.approx(6 * EVERY)
    assert shot.contact < shot.still <= 11 * EVERY
    assert [len(shot.before), len(shot.after)] == [4, 3]


def test_layouts_hold_the_places():
    (shot,) = watched((START, 8), *rolling(5), (AFTER, 8))
    for layout, places in ((shot.before, START), (shot.after, AFTER)):
        assert all(min(math.dist(one.place, place) for one in layout) < 0.006 for place in places)


def test_nothing_that_stays_is_a_shot():
    assert watched((START, 30)) == []


def test_hidden_is_not_gone_and_what_comes_back_is_no_shot():
    without = [START[0], *START[2:]]
    assert watched((START, 6), (without, 8), (START, 6), hidden=[START[1]]) == []
    assert watched((without, 6), (START, 8)) == [], "what only appears was hidden"


def test_a_hidden_ball_that_is_gone_afterwards_is_a_shot():
    assert len(watched((START, 6), (AFTER, 8))) == 1


def test_somebody_walking_through_is_no_shot():
    walk = [([*START, (0.2 + 0.2 * n, 0.1)], 1) for n in range(8)]
    assert watched((START, 6), *walk, (START, 6)) == []


def test_a_hand_that_rests_for_a_moment_is_no_shot():
    resting = [*START, (0.9, 0.2)]
    assert watched((START, 6), (resting, 3), (START, 6)) == []


def test_a_person_who_never_stands_still_does_not_hide_a_shot():
    restless = [([*AFTER, (0.2 + 0.13 * n, 0.1)], 1) for n in range(14)]
    assert len(watched((START, 6), *restless, (AFTER, 20))) == 1


def test_two_shots_in_a_row_are_two():
    third = [(0.4, 1.1), *AFTER[1:]]
    shots = watched((START, 6), (AFTER, 8), (third, 8))
    assert len(shots) == 2
    assert shots[1].start >= shots[0].still


def test_a_ball_that_moves_is_told_as_another_and_the_rest_stay():
    """Which of them it is, is for the names to tell."""
    (shot,) = watched((START, 8), *rolling(5), (AFTER, 8))
    before, after = ({one.track for one in layout} for layout in (shot.before, shot.after))
    assert set(shot.left) == before - after
    assert set(shot.arrived) == after - before
    assert len(before & after) == len(START) - 2


def test_a_ball_that_nobody_saw_since_is_not_told_as_seen():
    hidden = START[-1]
    look = [(AFTER, 8)]
    watch, shots = Watch(EVERY), []
    for n, balls in enumerate([START] * 8 + [one for places, count in look for one in [places] * count]):
        seen = [Seen(place, 0.004, 0.9) for place in balls if n < 7 or place != hidden]
        empty = lambda p, s=seen: math.dist(p, hidden) > 0.05 and all(math.dist(p, o.place) > 0.05 for o in s)  # noqa: E731
        shots += watch.look(Look(n * EVERY, seen, empty))
    (shot,) = shots
    assert all(one.seen for one in shot.before)
    assert [one.place for one in shot.after if not one.seen] == [hidden]


def test_a_shot_that_is_shown_again_is_a_replay():
    shots = watched((START, 8), *rolling(5), (AFTER, 8), (START, 8), *rolling(5), (AFTER, 8))
    assert [shot.kind for shot in shots].count("replay") == 1


def test_balls_racked_anew_are_no_shot():
    rack = [(1.9 + 0.05 * row, 0.635 + 0.0572 * (k - row / 2)) for row in range(4) for k in range(row + 1)]
    shots = watched((START, 8), (rack, 8), racked={1})
    assert [shot.kind for shot in shots] == ["re-rack"]


def test_one_picture_every_few_seconds_is_enough_to_compare_layouts():
    shots = watched((START, 3), (AFTER, 3), every=5.0)
    assert [(shot.moved, shot.gone) for shot in shots] == [(1, 1)]
    assert watched((START, 5), every=5.0) == []


def test_a_picture_in_the_middle_of_a_shot_does_not_make_it_two():
    under_way = [(0.8, 0.4), *START[2:]]
    assert len(watched((START, 3), (under_way, 1), (AFTER, 3), every=5.0)) == 1


def test_where_each_picture_is_alone_one_is_enough():
    third = [(0.4, 1.1), *AFTER[1:]]
    shots = watched((START, 1), (AFTER, 1), (third, 1), every=5.0, alone=True)
    assert [(shot.moved, shot.gone) for shot in shots] == [(1, 1), (1, 0)]
    assert [len(shot.before) for shot in shots] == [4, 3], "what came is in no layout before it"


def test_a_ball_that_somebody_hid_stood_there_before():
    """It is seen for the first time after the shot, at a place that nobody saw empty."""
    hid = (2.2, 1.1)
    (shot,) = watched((START, 8), *rolling(5), ([*AFTER, hid], 8), hidden=[hid])
    assert hid in [pytest.approx(one.place, abs=0.01) for one in shot.before]
    assert (shot.moved, shot.gone) == (1, 1)


def test_more_balls_than_before_are_a_new_rack():
    many = [(0.3, 0.3), (0.8, 1.1), (1.3, 0.2), (1.7, 0.6), (2.3, 0.9), (2.2, 0.2), (0.6, 0.7), (1.0, 0.3)]
    shots = watched((START, 2), (many, 2), every=5.0)
    assert [shot.kind for shot in shots] == ["re-rack"]


def test_a_watch_goes_on_where_another_stopped():
    first = watched((START, 6), (AFTER, 8))
    watch = Watch.resumed(EVERY, first)
    third = [(0.4, 1.1), *AFTER[1:]]
    shots = []
    for n in range(16):
        seen = [Seen(place, 0.004, 0.9) for place in (AFTER if n < 6 else third)]
        shots += watch.look(
            Look(10 + n * EVERY, seen, lambda p, s=seen: all(math.dist(p, one.place) > 0.05 for one in s))
        )
    assert [(shot.moved, shot.gone) for shot in shots] == [(1, 0)]
    assert {one.track for one in shots[0].before} == {one.track for one in first[0].after}


@pytest.mark.parametrize("recalled", [True, False])
def test_what_comes_to_rest_after_a_part_began_anew_did_not_stand_there_before(recalled):
    """No picture is handed on to the next part: the last one is looked at again, or nothing is known of it."""

    def look(n, places):
        seen = [Seen(place, 0.004, 0.9) for place in places]
        return Look(n * EVERY, seen, lambda place: all(math.dist(place, one.place) > 0.05 for one in seen))

    watch, shots = Watch(EVERY), []
    for n in range(16):
        if n == 8:
            watch.forget()
            if recalled:
                watch.recall(look(7, START))
        shots += watch.look(look(n, START if n < 8 else AFTER))
    assert [(shot.moved, shot.gone, len(shot.before)) for shot in shots] == [(1, 1, len(START))]


def test_an_empty_recording_has_no_shots():
    assert watched() == []
    assert watched(([], 5)) == []


def test_after_a_break_what_lies_where_a_packed_ball_lay_may_be_another():
    pack = [
        (1.9, 0.6),
        (1.95, 0.57),
        (1.95, 0.63),
        (2.0, 0.54),
        (2.0, 0.6),
        (2.0, 0.66),
        (2.05, 0.57),
        (2.05, 0.63),
    ]
    far = (0.3, 1.1)
    apart = [(0.5 + 0.2 * n, 0.2 + 0.1 * n) for n in range(6)] + [pack[4]]  # another came to rest in its place
    (shot,) = watched(([*pack, far], 8), ([*apart, far], 10))

    def track_at(layout, place):
        return next(one.track for one in layout if math.dist(one.place, place) < 0.01)

    assert track_at(shot.before, pack[4]) != track_at(shot.after, pack[4])
    assert track_at(shot.before, pack[4]) in shot.left
    assert track_at(shot.after, pack[4]) in shot.arrived
    assert track_at(shot.before, far) == track_at(shot.after, far)


IVORY = Appearance(0.97, 0.0, np.array([88.0, 0.0, 8.0]))
RED = Appearance(0.0, 0.02, np.array([40.0, 55.0, 35.0]))


@pytest.mark.parametrize(("struck", "count"), [(False, 0), (True, 1)])
def test_nothing_is_a_shot_in_which_the_cue_ball_stays(struck, count):
    """A ball of a cluster that is told in two ways leaves one place and comes to another."""
    cue, moved = (0.5, 0.5), (1.1, 0.3)
    watch, shots = Watch(EVERY), []
    for number in range(24):
        later = number >= 12
        cue_now = moved if later and struck else cue
        red_now = (1.55, 0.85) if later else (1.5, 0.95)
        seen = [Seen(cue_now, 0.004, 0.9, IVORY), Seen(red_now, 0.004, 0.9, RED), Seen((2.0, 0.4), 0.004, 0.9, RED)]
        shots += watch.look(
            Look(number * EVERY, seen, lambda place, seen=seen: all(math.dist(place, s.place) > 0.05 for s in seen))
        )
    assert len(shots + watch.finish(24 * EVERY)) == count


def looked(spells, every=EVERY):
    """The shots of spells of (balls with their looks, places that somebody hides, how many looks)."""
    watch, shots, time = Watch(every), [], 0.0
    for balls, hidden, count in spells:
        for _ in range(count):
            shown = [(place, look) for place, look in balls if all(math.dist(place, h) > 0.1 for h in hidden)]
            seen = [Seen(place, 0.004, 0.9, look) for place, look in shown]

            def empty(place, shown=shown, hidden=hidden):
                return all(math.dist(place, other) > 0.05 for other, _ in shown) and all(
                    math.dist(place, h) > 0.1 for h in hidden
                )

            shots += watch.look(Look(time, seen, empty))
            time += every
    return shots + watch.finish(time)


CUE, STRUCK = ((0.5, 0.5), IVORY), ((0.9, 1.0), IVORY)
REST = [((2.0, 0.4), RED), ((1.4, 1.0), RED)]


def test_nothing_moves_before_the_cue_ball():
    """A shadow that lay there for a while is gone seconds before the shot: it does not begin the shot."""
    shadow = ((1.0, 0.2), RED)
    player = (0.5, 0.5)  # stands before the cue ball from then on
    (shot,) = looked(
        [
            ([CUE, shadow, *REST], (), 10),
            ([CUE, *REST], (), 1),
            ([CUE, *REST], (player,), 5),
            ([STRUCK, REST[0]], (), 8),
        ]
    )
    assert shot.contact == pytest.approx(16 * EVERY)
    assert shot.start == pytest.approx(15 * EVERY)


def test_a_cue_ball_that_arrives_was_struck_though_its_old_place_is_hidden():
    player = (0.5, 0.5)
    (shot,) = looked([([CUE, *REST], (), 10), ([CUE, *REST], (player,), 4), ([STRUCK, REST[0]], (player,), 8)])
    assert shot.contact == pytest.approx(14 * EVERY)
    assert {one.place for one in shot.after} == {STRUCK[0], REST[0][0]}, "there is but one cue ball"


def test_where_only_the_cue_ball_moves_behind_somebody_it_is_a_shot():
    player = (0.5, 0.5)
    (shot,) = looked([([CUE, *REST], (), 10), ([STRUCK, *REST], (player,), 8)])
    assert {one.place for one in shot.before} == {CUE[0], *(place for place, _ in REST)}
    assert {one.place for one in shot.after} == {STRUCK[0], *(place for place, _ in REST)}
    assert (shot.moved, shot.gone) == (1, 0)


def test_a_second_white_ball_beside_a_hidden_one_is_no_shot():
    """A striped ball that shows its cap was there with the cue ball before somebody stood in front of that."""
    cap = ((0.9, 1.0), IVORY)
    assert looked([([CUE, cap, *REST], (), 10), ([CUE, cap, *REST], (CUE[0],), 12)]) == []


@pytest.mark.parametrize(("covered", "late"), [(((2.3, 1.0),), True), ((), False)])
def test_what_nobody_saw_to_come_stood_there(covered, late):
    """A ball is first seen some time after a shot: somebody stood before it, or it was set there by hand."""
    found = ((2.3, 1.0), RED)
    first, second = looked(
        [
            ([CUE, *REST], covered, 8),
            ([STRUCK, *REST], covered, 8),
            ([STRUCK, *REST, found], (), 8),
            ([CUE, *REST, found], (), 8),
        ]
    )
    assert found[0] not in [one.place for one in first.after]
    assert [one.place for one in second.before if one.late] == [found[0]] * late


def test_a_new_rack_has_no_ball_that_stood_hidden_before():
    green = Appearance(0.0, 0.02, np.array([40.0, -45.0, 25.0]))
    many = [((0.3 + 0.25 * n, 0.2 + 0.1 * n), green) for n in range(8)]
    (rack,) = looked([([CUE, *REST], (), 4), ([CUE, *REST], (many[6][0],), 2), ([STRUCK, *many], (), 4)], every=5.0)
    assert rack.kind == "re-rack"
    assert {one.place for one in rack.before} == {CUE[0], *(place for place, _ in REST)}


def test_what_leaves_when_all_had_come_to_rest_belongs_to_the_next_shot():
    """One picture in five seconds: a hand is seen now here, now there, until the next shot has begun."""
    between, end = [STRUCK, *REST], [((0.3, 0.3), IVORY), REST[0]]
    hands = [((x, 1.15), RED) for x in (1.7, 1.9, 2.1)]
    first, second = looked(
        [
            ([CUE, *REST], (), 4),
            ([*REST, hands[0]], (), 1),
            ([*between, hands[1]], (), 1),
            ([*between, hands[2]], (), 1),
            (end, (), 3),
        ],
        every=5.0,
    )
    for layout, balls in ((first.after, between), (second.before, between), (second.after, end)):
        assert {one.place for one in layout} == {place for place, _ in balls}


def test_who_stands_before_the_cue_ball_hides_no_second_shot():
    """One picture in five seconds, a player on the cue ball in each: two balls went one after the other, and were
    told as one shot."""
    hands = [(0.3, 0.9), (0.6, 1.0), (0.35, 0.7), (0.7, 0.8)]
    waits = [([*START[2:], hand], 1) for hand in hands]
    first, second = watched((START, 3), *waits, ([START[3]], 3), every=5.0)
    assert (len(first.left), len(second.left)) == (2, 1)
    assert first.still <= second.start < second.contact
    assert second.start >= 3 * 5.0, "the later one begins where its ball was last seen"
