"""The coach's corrections: what each of them makes of what was found."""

from __future__ import annotations

import numpy as np
import pytest

from aretane.core.errors import InputError
from aretane.vision.balls.ball_sets import colour_of
from aretane.vision.balls.identity import Appearance, _lab
from aretane.vision.shots.corrections import corrected, named, question
from aretane.vision.shots.found_data import layout_as_data, shot_as_data, shot_from_data
from aretane.vision.shots.naming import Doubt
from aretane.vision.shots.watch import Placed, Shot


def ball(track, place, look=None):
    return Placed(track, place, 0.004, 9, look)


def shot(start, before, after, kind="shot"):
    gone = max(0, len(before) - len(after))
    return Shot(start, start + 0.5, start + 4, 0.95, 1, gone, kind, tuple(before), tuple(after), (1,), (1,))


A = [ball(1, (0.5, 0.5)), ball(2, (1.0, 0.5)), ball(3, (1.5, 0.5))]
B = [ball(1, (0.6, 0.9)), ball(3, (1.5, 0.5))]
C = [ball(1, (0.2, 0.2)), ball(3, (1.5, 0.5))]
SHOTS = [shot(0, A, B), shot(10, B, C), shot(20, C, C[:1])]


def test_what_was_seen_later_and_stood_there_is_in_the_layout_before_it_too():
    late = Placed(7, (2.0, 0.9), 0.004, 3, late=True)
    first, second, _ = (one.shot for one in corrected([SHOTS[0], shot(10, [*B, late], C), SHOTS[2]], []))
    assert first.after == (*B, late)
    assert (first.moved, first.gone) == (2, 0), "it was not gone"
    assert 7 in first.arrived
    by_hand = Placed(7, (2.0, 0.9), 0.004, 3)
    assert corrected([SHOTS[0], shot(10, [*B, by_hand], C)], [])[0].shot.after == tuple(B)
    assert layout_as_data([late])[0]["late"]
    assert shot_from_data(shot_as_data(second)) == second


def ids(found):
    return [one.id for one in found]


def test_a_false_one_is_deleted_and_the_others_keep_their_ids():
    assert ids(corrected(SHOTS, [{"do": "delete", "shot": "s1"}])) == ["s0", "s2"]


def test_two_are_made_one():
    one = corrected(SHOTS, [{"do": "merge", "shot": "s0"}])[0].shot
    assert (one.start, one.still, one.before, one.after) == (0, 14, tuple(A), tuple(C))
    with pytest.raises(InputError, match="no shot after it"):
        corrected(SHOTS, [{"do": "merge", "shot": "s2"}])


def test_one_is_made_two_with_the_layout_that_was_read_between():
    between = layout_as_data([ball(1, (0.9, 0.9))])
    found = corrected(SHOTS, [{"do": "split", "shot": "s1", "at": 12.0, "layout": between}])
    assert ids(found) == ["s0", "s1a", "s1b", "s2"]
    assert found[1].shot.still == found[2].shot.start == 12.0
    assert found[1].shot.after == found[2].shot.before
    with pytest.raises(InputError, match="between its start and its end"):
        corrected(SHOTS, [{"do": "split", "shot": "s1", "at": 99.0, "layout": between}])


def test_a_missed_one_takes_its_layouts_from_its_neighbours():
    found = corrected(SHOTS, [{"do": "add", "at": 16.0, "id": "mine"}])
    assert ids(found) == ["s0", "s1", "mine", "s2"]
    assert (found[2].shot.before, found[2].shot.after) == (tuple(C), tuple(C))


def test_a_replay_is_marked_by_hand_and_a_new_rack_begins_at_a_re_rack():
    found = corrected(SHOTS, [{"do": "kind", "shot": "s1", "kind": "re-rack"}])
    assert [one.rack for one in found] == [0, 1, 1]
    assert [one.shot.kind for one in found] == ["shot", "re-rack", "shot"]


def test_a_ball_is_put_right_here_and_wherever_it_has_not_moved_since():
    move = {"do": "place", "shot": "s0", "side": "before", "track": 3, "place": [1.52, 0.51], "following": True}
    found = corrected(SHOTS, [move])
    places = [p.place for one in found for p in (*one.shot.before, *one.shot.after) if p.track == 3]
    assert set(places) == {(1.52, 0.51)}
    alone = corrected(SHOTS, [{**move, "following": False}])
    assert [p.place for p in alone[1].shot.before if p.track == 3] == [(1.5, 0.5)]


def test_what_is_no_ball_leaves_every_layout():
    found = corrected(SHOTS, [{"do": "remove", "track": 3}])
    assert all(p.track != 3 for one in found for p in (*one.shot.before, *one.shot.after))


def test_a_correction_of_a_shot_that_is_not_there_is_refused():
    with pytest.raises(InputError, match="not on the strip"):
        corrected(SHOTS, [{"do": "delete", "shot": "s9"}])


def test_a_name_given_once_holds_in_all_layouts_and_frees_the_others():
    def look(name):
        return Appearance(1.0 if name == "cue" else 0.05, 0.0, _lab(colour_of(name)))

    orange, red = look("5"), look("3")
    before = [ball(1, (0.5, 0.5), look("cue")), ball(2, (1.0, 0.5), orange), ball(3, (1.5, 0.5), red)]
    after = [ball(1, (0.6, 0.9), look("cue")), *before[1:]]
    found = corrected([shot(0, before, after)], [])
    balls = ("cue", "3", "5", "7")
    assert {t: n for t, (n, _) in named(found, balls, []).names.items()} == {1: "cue", 2: "5", 3: "3"}
    pinned = named(found, balls, [{"do": "name", "track": 2, "ball": "3"}]).names
    assert pinned[2] == ("3", 1.0)
    assert pinned[3][0] != "3", "a name is given once"
    words = [{"do": "name", "track": track, "ball": "3"} for track in (3, 2, 3)]
    assert named(found, balls, words).names[3] == ("3", 1.0), "the newest word holds"
    assert named(found, balls, words[:2]).names[2] == ("3", 1.0)


def test_the_question_is_the_one_that_settles_most():
    found = corrected(SHOTS, [])
    once, often = Doubt({1: "cue"}, {1: "3"}, 0.59), Doubt({2: "5", 3: "3"}, {2: "3", 3: "5"}, 0.55)
    asked = question(found, [once, often])
    assert asked is not None
    assert (asked.ball, asked.instead) == (often.names[asked.track], often.instead[asked.track])
    assert asked.settles == sum(p.track in (2, 3) for one in found for p in (*one.shot.before, *one.shot.after))
    assert question(found, []) is None


def test_found_shots_survive_being_stored():
    look = Appearance(0.1, 0.2, np.array([50.0, 10.0, -20.0]))
    one = shot(3, [ball(1, (0.5, 0.5), look)], [ball(1, (0.7, 0.5), look)])
    again = shot_from_data(shot_as_data(one))
    assert (again.start, again.still, again.before[0].place) == (3, 7, (0.5, 0.5))
    assert again.before[0].appearance.colour == pytest.approx(look.colour)
