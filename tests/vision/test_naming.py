"""What a ball shows, and the names that follow: by ivory and colour, and by which ball every shot moves."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations, pairwise, product

import numpy as np
import pytest
from scipy.optimize import linear_sum_assignment

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.rack import racked
from aretane.core.rules.traits import TRAITS
from aretane.core.table import PRESETS as TABLES
from aretane.vision.balls.appearance import Appearance, _shares, lightest, mean_of, unlikeness
from aretane.vision.balls.ball_sets import MAKES, colour_of
from aretane.vision.balls.identity import _lab, first_light, names_for
from aretane.vision.balls.markings import PLATE, STRIPE, shown, surprise
from aretane.vision.balls.order import money_ball
from aretane.vision.paths.told import Event, Mark
from aretane.vision.shots import naming
from aretane.vision.shots.exchange import Naming, Task
from aretane.vision.shots.naming import _gone, _stays, _trust, name_racks, once, racked_in
from aretane.vision.shots.watch import Placed, Shot

IVORY, RED, BLACK, LAMP = (80.0, 0.0, 6.0), (42.0, 55.0, 36.0), (12.0, 1.0, 0.0), (98.0, 0.0, 2.0)
WHITE = Appearance(1.0, 0.0, np.array(IVORY))


def solid(ball):
    return Appearance(0.05, 0.0, _lab(colour_of(ball)))


def test_pixels_are_ivory_black_or_coloured_and_a_lamp_is_none_of_them():
    look = _shares(np.array([IVORY] * 30 + [RED] * 50 + [BLACK] * 20 + [LAMP] * 10))
    assert (look.ivory, look.dark, look.coloured) == pytest.approx((0.3, 0.2, 0.5))
    assert look.colour == pytest.approx(RED)


def test_a_white_ball_in_full_light_is_white():
    look = _shares(np.array([LAMP] * 50))
    assert (look.ivory, look.dark) == (1.0, 0.0)
    assert lightest([solid("3"), look]) is look
    assert lightest([solid("3")]) is None


def test_the_mean_colour_is_of_looks_that_have_some():
    """A striped ball seen at its cap tells nothing of its stripe."""
    cap = Appearance(1.0, 0.0, np.array(IVORY))
    assert mean_of([cap, solid("3"), cap]).colour == pytest.approx(solid("3").colour)
    unlike = unlikeness([solid("3"), solid("3"), solid("2"), WHITE])
    assert unlike == pytest.approx(unlike.T)
    assert unlike[0, 1] == 0.0
    assert min(unlike[0, 2:]) > 1.3


def test_ivory_is_shown_as_often_as_it_covers_the_ball():
    """Oracle: over all ways to lie, the mean share is the share of the sphere: Archimedes' hat-box theorem."""
    field = 1 - np.cos(np.radians(PLATE))
    solid, striped = shown(np.random.default_rng(3))
    assert solid.mean() == pytest.approx(field, abs=0.012)
    assert striped.mean() == pytest.approx(1 - STRIPE + field, abs=0.02)


def test_half_white_is_a_striped_ball_and_a_spot_of_white_a_solid_one():
    assert surprise(0.5, striped=True) < surprise(0.5, striped=False)
    assert surprise(0.05, striped=False) < surprise(0.05, striped=True)
    red = _lab(colour_of("3"))
    named = names_for([Appearance(0.5, 0.0, red), Appearance(0.04, 0.0, red), WHITE], (CUE, "3", "11"))
    assert [named[n][0] for n in range(3)] == ["11", "3", CUE]


def placed(track, place, look, hits=20, seen=True):
    return Placed(track, place, 0.004, hits, look, seen)


def shot(start, before, after, left, arrived):
    return Shot(start, start + 1, start + 4, 0.9, 1, 0, "shot", tuple(before), tuple(after), left, arrived)


def balls_of(names):
    return {track: name for track, (name, _) in names.items()}


YELLOW_BALL, RED_BALL = placed(2, (1.0, 0.5), solid("1")), placed(3, (1.5, 0.5), solid("3"))


def test_the_ball_that_every_shot_moves_is_the_cue_ball():
    """A striped ball that shows its cap is the whiter one, but it lies where it lay."""
    cap, dull = Appearance(1.0, 0.0, np.array(IVORY)), Appearance(0.8, 0.0, np.array(IVORY))
    rest = [placed(2, (1.0, 0.5), cap), RED_BALL]
    a, b, c = (
        [placed(track, place, dull), *rest] for track, place in ((1, (0.5, 0.5)), (4, (0.9, 0.9)), (5, (0.3, 0.2)))
    )
    shots = [shot(0, a, b, (1,), (4,)), shot(9, b, c, (4,), (5,))]
    names = name_racks([shots], (CUE, "3", "9"), {}).names
    assert balls_of(names) == {1: CUE, 4: CUE, 5: CUE, 2: "9", 3: "3"}
    corrected = name_racks([shots], (CUE, "3", "9"), {2: CUE}).names
    assert corrected[2] == (CUE, 1.0), "what the coach says holds"
    assert CUE not in {name for track, name in balls_of(corrected).items() if track != 2}, (
        "and there is one cue ball"
    )


def test_a_shot_that_was_none_does_not_take_the_cue_ball_away():
    """A hand's shadow was taken for a shot in which the cue ball lay still."""
    red = placed(2, (1.0, 0.5), solid("3"))
    again = placed(4, (1.2, 0.5), solid("3"))
    yellow = placed(3, (1.5, 0.5), solid("1"))
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (5, (0.9, 0.9)), (6, (0.3, 0.2)))]
    shots = [
        shot(0, [cue[0], red, yellow], [cue[1], red, yellow], (1,), (5,)),
        shot(5, [cue[1], red, yellow], [cue[1], again, yellow], (2,), (4,)),
        shot(9, [cue[1], again, yellow], [cue[2], again, yellow], (5,), (6,)),
    ]
    names = balls_of(name_racks([shots], (CUE, "1", "3"), {}).names)
    assert names == {1: CUE, 5: CUE, 6: CUE, 2: "3", 4: "3", 3: "1"}


def test_the_light_that_another_make_tells_is_tried_too():
    """A washed-out picture of a plain set: from what the light is thought to be at first, television's names end
    where some are exchanged; from the light that the plain names tell they come right, and cost less."""
    nine, pale, shift = (CUE, *OBJECT_BALLS["nine-ball"]), np.full(3, 0.7), np.array([22.0, -5.0, 5.0])
    looks = {
        ball: Appearance(0.7 if ball == "9" else 0.2, 0.0, pale * _lab(colour_of(ball)) + shift) for ball in nine
    }
    looks |= {CUE: WHITE, "8": Appearance(0.64, 0.1, np.array([43.0, 14.0, 13.0]))}
    layout = [placed(n, (0.2 * n + 0.1, 0.3 + 0.05 * n), looks[ball]) for n, ball in enumerate(nine, 1)]
    stays = _stays([shot(0, layout, [placed(20, (2.3, 0.2), WHITE), *layout[1:]], (1,), (20,))])
    names, first = naming._names(stays, nine), first_light([stay.look for stay in stays])
    alone, _ = naming._settled(stays, names, "television", first)
    told = naming._named(stays, nine, {})["television"]
    assert [names[name] for name in told.names] == [*nine, CUE]
    assert told.total() < alone.total()


def test_what_moves_takes_its_name_along_and_a_word_of_the_coach_goes_with_it():
    """Two balls are between red and brown, one a little yellower; one of them is moved."""
    between = (solid("3").colour + solid("7").colour) / 2
    some, other = (Appearance(0.0, 0.0, between + np.array([0.0, 0.0, off])) for off in (-0.2, 0.2))
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (6, (0.9, 0.9)))]
    before = [cue[0], placed(2, (1.0, 0.5), some), placed(3, (1.5, 0.5), other)]
    after = [cue[1], placed(4, (1.5, 0.6), some), before[2]]
    shots = [shot(0, before, after, (1, 2), (4, 6))]
    told = name_racks([shots], (CUE, "3", "7"), {})
    names = balls_of(told.names)
    assert names[2] == names[4] != names[3]
    (doubt,) = told.doubts
    assert doubt.names == {n: names[n] for n in (2, 3, 4)}
    assert doubt.instead == {2: names[3], 4: names[3], 3: names[2]}, "a word on one is a word on all three"
    assert not name_racks([shots], (CUE, "3", "7"), {4: names[3]}).doubts
    corrected = balls_of(name_racks([shots], (CUE, "3", "7"), {4: names[3]}).names)
    assert corrected[2] == corrected[4] == names[3]
    assert corrected[3] == names[2]


def test_a_ball_that_was_followed_is_the_same_ball():
    """Two balls alike are moved; their ways tell which became which."""
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (6, (0.9, 0.9)))]
    like = Appearance(0.0, 0.0, (solid("3").colour + solid("7").colour) / 2)
    before = [cue[0], placed(2, (1.0, 0.5), like), placed(3, (1.5, 0.5), like)]
    after = [cue[1], placed(4, (1.6, 0.6), like), placed(5, (1.1, 0.3), like)]
    for end, other in ((4, 5), (5, 4)):
        to = {one.track: one.place for one in after}
        ways = {2: (Mark(0.0, (1.0, 0.5)), Mark(2.0, to[end])), 3: (Mark(0.0, (1.5, 0.5)), Mark(2.0, to[other]))}
        events = tuple(Event(2.0, "rest", (str(track),), way[-1].place) for track, way in ways.items())
        seen = replace(shot(0, before, after, (1, 2, 3), (4, 5, 6)), paths=ways, events=events)
        names = balls_of(name_racks([[seen]], (CUE, "3", "7"), {}).names)
        assert (names[end], names[other]) == (names[2], names[3])


def test_in_rotation_the_lowest_goes_first():
    """Two balls between orange and yellow: the one that is gone was the 1, not the 5."""
    balls = (CUE, *(str(n) for n in range(1, 10)))
    between = Appearance(0.05, 0.0, (solid("1").colour + solid("5").colour) / 2)
    others = [placed(10 + n, (0.3 + 0.2 * n, 1.0), solid(str(n))) for n in (2, 3, 4, 6, 7)]
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (5, (0.9, 0.9)), (6, (0.3, 0.2)))]
    gone, stays = placed(2, (1.5, 0.5), between), placed(3, (2.0, 0.5), between)
    shots = [
        shot(0, [cue[0], gone, stays, *others], [cue[1], gone, stays, *others], (1,), (5,)),
        shot(5, [cue[1], gone, stays, *others], [cue[2], stays, *others], (5, 2), (6,)),
    ]
    names = balls_of(name_racks([shots], balls, {}).names)
    assert (names[2], names[3]) == ("1", "5")


@pytest.mark.parametrize("make", MAKES)
def test_a_set_of_any_make_is_named_by_its_own_colours(make):
    balls = (CUE, *(str(n) for n in range(1, 10)))
    looks = [WHITE, *(Appearance(0.05, 0.0, _lab(colour_of(ball, make))) for ball in balls[1:8])]
    looks += [Appearance(0.0, 0.95, np.array(BLACK)), Appearance(0.5, 0.0, _lab(colour_of("9", make)))]
    assert [names_for(looks, balls)[n][0] for n in range(10)] == list(balls)


def test_all_racks_of_a_recording_are_played_with_one_set():
    """A tan ball beside a red one could be an old 5; where a whole rack is the television set's, it is its 7."""
    names = (CUE, *(str(n) for n in range(1, 10)))

    def rack(start, first, make, balls):
        looks = [Appearance(0.05, 0.0, _lab(colour_of(ball, make))) for ball in balls]
        still = [placed(first + 3 + n, (0.3 + 0.2 * n, 1.0), look) for n, look in enumerate(looks)]
        cue = [placed(first + n, place, WHITE) for n, place in enumerate(((0.5, 0.5), (0.9, 0.9)))]
        return shot(start, [cue[0], *still], [cue[1], *still], (first,), (first + 1,))

    full, few = rack(0, 1, "television", "1234567"), rack(90, 50, "television", "37")
    told = balls_of(name_racks([[full], [few]], names, {}).names)
    assert [told[4 + n] for n in range(7)] == list("1234567")
    assert [told[53], told[54]] == ["3", "7"]
    alone = balls_of(name_racks([[few]], names, {}).names)
    assert [alone[53], alone[54]] == ["3", "5"]


def test_a_look_counts_beside_the_looks_that_there_could_be():
    """One picture of each layout: a ball that moves every time is seen once each, and its name is as sure."""
    cue = [placed(n, (0.3 + 0.2 * n, 0.4), WHITE, hits=1) for n in range(1, 6)]
    lying = [placed(20 + n, (0.4 * n, 1.0), solid(name), hits=5) for n, name in enumerate("2346", 1)]
    mirroring = Appearance(0.25, 0.36, np.array([29.0, -14.0, 10.0]))  # a lamp, and green cloth
    black = [placed(10 + n, (2.0, 0.2 * n), mirroring, hits=1) for n in range(1, 6)]
    layouts = [[one, eight, *lying] for one, eight in zip(cue, black, strict=True)]
    shots = [
        shot(9 * n, before, after, (n + 1, n + 11), (n + 2, n + 12))
        for n, (before, after) in enumerate(pairwise(layouts))
    ]
    assert _trust(_stays(shots)) == pytest.approx(np.ones(14))
    told = balls_of(name_racks([shots], (CUE, *(str(n) for n in range(1, 10))), {}).names)
    assert {told.get(one.track) for one in black} == {"8"}


def test_a_ball_that_is_seen_elsewhere_does_not_stand_where_nobody_looked_since():
    """Somebody stands before the place that it has left: it is named where it is, and once in a layout."""
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (5, (0.9, 0.9)))]
    hidden, moved = placed(3, (1.5, 0.5), solid("3"), seen=False), placed(4, (2.0, 0.8), solid("3"))
    shots = [shot(0, [cue[0], YELLOW_BALL, RED_BALL], [cue[1], YELLOW_BALL, hidden, moved], (1,), (4, 5))]
    names = name_racks([shots], (CUE, "1", "3", "5"), {}).names
    assert balls_of(names) == {1: CUE, 5: CUE, 2: "1", 3: "3", 4: "3"}
    assert [one.track for one in once(shots[0].after, names)] == [5, 2, 4]
    assert [one.track for one in once(shots[0].before, names)] == [1, 2, 3]


def test_what_is_like_no_ball_has_no_name():
    """A blue cube of chalk beside a cue ball and a yellow one."""
    chalk = placed(9, (2.0, 0.9), Appearance(0.0, 0.0, _lab(colour_of("2"))))
    cue = [placed(n, place, WHITE) for n, place in ((1, (0.5, 0.5)), (5, (0.9, 0.9)))]
    shots = [shot(0, [cue[0], YELLOW_BALL, chalk], [cue[1], YELLOW_BALL, chalk], (1,), (5,))]
    assert balls_of(name_racks([shots], (CUE, "1"), {}).names) == {1: CUE, 5: CUE, 2: "1"}


def test_exchanges_find_the_least_cost():
    """Oracle: all ways tried. Most of these tasks, harder than a rack's, are solved; none breaks the rules."""
    dice, off = np.random.default_rng(5), []
    while len(off) < 30:
        first = np.sort(dice.integers(0, 4, 6))
        spans = [(int(a), int(a + dice.integers(0, 2))) for a in first]
        if max(sum(a <= moment <= b for a, b in spans) for moment in range(6)) > 4:
            continue
        costs, follows = dice.uniform(0, 5, (6, 4)), dice.uniform(0, 1, (6, 6))
        task = Task(costs, spans, follows, [True, True, True, False], list(combinations(range(4), 2)))
        naming = Naming(task)
        naming.improve()
        off.append(_total(task, naming.names) - min(_total(task, told) for told in product(range(4), repeat=6)))
    assert min(off) > -1e-9
    assert np.isfinite(off).all(), "neighbours have different names"
    assert np.mean(np.array(off) < 1e-9) > 0.7


def test_one_moment_is_an_assignment():
    costs = np.random.default_rng(6).uniform(0, 5, (5, 7))
    naming = Naming(Task(costs, [(0, 0)] * 5, np.zeros((5, 5)), [True] * 7, list(combinations(range(7), 2))))
    naming.improve()
    rows, columns = linear_sum_assignment(costs)
    assert naming.names == list(columns)
    worse = [
        min(_assigned(costs, thing, name) for name in range(7) if name != columns[thing])
        - costs[rows, columns].sum()
        for thing in range(5)
    ]
    for more, _, _, chain in naming.exchanges():
        assert all(more >= worse[thing] - 1e-9 for thing in chain)


def _total(task, told):
    """The cost by its definition; infinite if neighbours have one name."""
    cost = sum(task.costs[thing, name] for thing, name in enumerate(told))
    for name in range(task.costs.shape[1]):
        own = [thing for thing, one in enumerate(told) if one == name]
        for a, b in combinations(own, 2):
            if task.spans[a][0] <= task.spans[b][1] and task.spans[b][0] <= task.spans[a][1]:
                return np.inf
        if task.linked[name]:
            cost += sum(task.follows[a, b] for a, b in pairwise(own))
    return cost


def _assigned(costs, thing, name):
    """The least total with one thing's name given."""
    rest = np.delete(np.delete(costs, thing, 0), name, 1)
    return costs[thing, name] + rest[linear_sum_assignment(rest)].sum()


def test_who_stands_apart_from_the_pack_at_the_break_is_the_cue_ball():
    """The striped ball in the pack shows its cap and is the whiter of the two."""
    cap, dull = Appearance(1.0, 0.0, np.array(IVORY)), Appearance(0.9, 0.0, np.array(IVORY))
    solids = [placed(3 + n, (1.9 + 0.05 * n, 0.6), solid(str(n))) for n in range(1, 6)]
    before = [placed(1, (0.5, 0.6), dull), placed(2, (1.95, 0.65), cap), *solids]
    scattered = [placed(11 + n, (0.3 * n, 0.2), one.appearance) for n, one in enumerate(before)]
    left, arrived = tuple(one.track for one in before), tuple(one.track for one in scattered)
    balls = (CUE, *"12345", "9")
    names = balls_of(name_racks([[shot(0, before, scattered, left, arrived)]], balls, {}).names)
    assert (names[1], names[2]) == (CUE, "9")


def racked_balls(discipline, table, looks):
    """A tight rack as the rules have it, and the cue ball at the head: a track and a look for each."""
    pack = racked(table, discipline).object_balls
    tracks = {name: number for number, name in enumerate(pack, 2)}
    layout = [placed(tracks[name], place, looks(name)) for name, place in pack.items()]
    return tracks, [placed(1, (0.5, 0.6), WHITE), *layout]


@pytest.mark.parametrize(("discipline", "balls"), [("nine-ball", ("1", "9")), ("ten-ball", ("1", "10"))])
def test_in_a_rotation_rack_the_first_ball_stands_in_front_and_the_last_in_the_middle(discipline, balls):
    """Both look alike in a soft picture. World Pool-Billiard Association, The Rules of Play 2.2, 9.2: the 1 at the
    apex, the 9 or 10 in the middle."""
    alike = {"1": "9", "9": "9"}
    tracks, layout = racked_balls(discipline, TABLES["pool-9ft"], lambda name: solid(alike.get(name, name)))
    where = racked_in(layout)
    assert (where.pop(tracks[balls[0]]), where.pop(tracks[balls[1]])) == ("front", "middle")
    assert set(where) == set(tracks.values()) - {tracks[ball] for ball in balls}, "the cue ball is not of it"
    left = tuple(range(1, len(layout) + 1))
    told = name_racks([[shot(0, layout, [], left, ())]], (CUE, *OBJECT_BALLS[discipline]), {})
    assert {balls_of(told.names)[tracks[ball]] for ball in balls} == set(balls)
    assert balls_of(told.names)[tracks[balls[0]]] == balls[0]


def test_in_one_picture_the_ball_whose_turn_it_is_later_is_there_if_others_have_gone():
    """Near the end of a rack in which the lowest ball is struck first (World Pool-Billiard Association, The Rules
    of Play 2.4) a yellow ball is the 9, as long as it does not plainly look like a 1."""
    yellow, nine = Appearance(0.1, 0.0, solid("1").colour), (CUE, *OBJECT_BALLS["nine-ball"])
    black = Appearance(0.0, 1.0, np.array(BLACK))
    late = names_for([WHITE, yellow, solid("7")], nine)
    early = names_for([WHITE, yellow, *(solid(ball) for ball in "234567"), black], nine)
    assert (late[1][0], early[1][0]) == ("9", "1")
    assert names_for([WHITE, yellow, solid("7")], (CUE, *OBJECT_BALLS["straight-pool"]))[1][0] == "1"


def test_what_the_games_with_one_set_of_balls_do_not_share_is_assumed_of_none():
    """Eight-ball racks its eight in the middle, straight pool anything; nine-ball and blackball are alone."""
    money = {name: money_ball((CUE, *OBJECT_BALLS[name])) for name in TRAITS}
    assert (money["nine-ball"], money["ten-ball"], money["blackball"]) == ("9", "10", "black")
    assert money["eight-ball"] is money["straight-pool"] is money["snooker"] is None


def test_strewn_balls_and_snookers_colours_are_no_rack():
    assert racked_in([placed(n, (0.3 * n, 0.2 + 0.1 * (n % 4)), WHITE) for n in range(1, 10)]) == {}
    assert racked_in([placed(1, (0.5, 0.5), WHITE), YELLOW_BALL, RED_BALL]) == {}
    spots = racked(TABLES["snooker-12ft"], "snooker").object_balls
    frame = [placed(n, place, WHITE) for n, place in enumerate([(0.5, 0.5), *spots.values()])]
    assert racked_in(frame) == {}


def test_where_nobody_sees_the_cue_ball_no_ball_of_the_pack_is_taken_for_it():
    """The 4 at the rack's corner was the cue ball, as all others lay a bit nearer to one another."""
    tracks, layout = racked_balls("nine-ball", TABLES["pool-9ft"], solid)
    pack = layout[1:]
    pack[-1] = replace(pack[-1], place=(pack[-1].place[0] + 0.01, pack[-1].place[1]))
    told = name_racks([[shot(0, pack, [], tuple(tracks.values()), ())]], (CUE, *OBJECT_BALLS["nine-ball"]), {})
    assert balls_of(told.names) == {track: name for name, track in tracks.items()}


def test_a_ball_that_was_hidden_for_a_while_had_not_gone():
    """Of five balls three are behind somebody after the break; the lowest seen is not out of turn for it."""
    looks = {ball: solid(ball) for ball in ("1", "2", "3", "4", "5")}
    places = {ball: (0.5 + 0.3 * n, 0.4 + 0.1 * (n % 3)) for n, ball in enumerate(looks)}
    every = [placed(10 + n, places[ball], looks[ball]) for n, ball in enumerate(looks)]
    few = every[:2]
    shots = [
        shot(0, [placed(1, (0.2, 0.2), WHITE), *every], [placed(2, (0.3, 0.3), WHITE), *few], (1,), (2,)),
        shot(5, [placed(2, (0.3, 0.3), WHITE), *every], [placed(3, (0.4, 0.3), WHITE), *every], (2,), (3,)),
    ]
    assert list(_gone(_stays(shots))) == [0.0] * len(_stays(shots))


def test_each_ball_that_fell_before_it_makes_the_lowest_less_likely(monkeypatch):
    """The 2, 3 and 4 are potted, the first of them by the break; what lies there still is hardly the 1, and rather
    the 5 or the 9."""
    lies = placed(9, (2.0, 0.4), solid("1"))
    standing = {ball: placed(10 + int(ball), (0.5 + 0.2 * int(ball), 0.9), solid(ball)) for ball in "2345"}
    shots = []
    for number, ball in enumerate("234"):
        cue_ball = [placed(20 + number + after, (0.2 + 0.1 * number, 0.2), WHITE) for after in (0, 1)]
        before = [cue_ball[0], lies, *standing.values()]
        del standing[ball]
        after = [cue_ball[1], lies, *standing.values()]
        shots.append(shot(8.0 * number, before, after, (20 + number, 10 + int(ball)), (21 + number,)))
    stays, balls = _stays(shots), (CUE, *OBJECT_BALLS["nine-ball"])
    row = [stay.track for stay in stays].index(9)

    def costs():
        return naming._costs(stays, balls, first_light([stay.look for stay in stays]), {}, next(iter(MAKES)))[row]

    told = costs()
    monkeypatch.setattr(naming, "OUT_OF_TURN", 0.0)
    more = dict(zip(balls, told - costs(), strict=True))
    assert more["1"] == pytest.approx(2 * more["2"])
    assert more["2"] > 1.0
    assert more["3"] == more["5"] == more["9"] == more[CUE] == 0.0
