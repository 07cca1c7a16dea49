"""What a ball shows, and the names that follow: by ivory and colour, and by which ball every shot moves."""

from __future__ import annotations

import numpy as np
import pytest

from aretane.core.ball import CUE
from aretane.vision.appearance import Appearance, _shares, lightest, mean_of, unlikeness
from aretane.vision.ball_sets import colour_of
from aretane.vision.identity import _lab, names_for
from aretane.vision.markings import PLATE, STRIPE, shown, surprise
from aretane.vision.naming import name_tracks
from aretane.vision.watch import Placed, Shot

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
    assert unlikeness([solid("3")], [solid("3")]) == 0.0
    assert unlikeness([solid("3")], [solid("2")]) > 1.3
    assert unlikeness([solid("3")], [WHITE]) > 1.3


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


def test_who_is_never_the_cue_ball_gets_another_name():
    named = names_for([WHITE, Appearance(0.95, 0.0, np.array(IVORY))], (CUE, "9"), never={0})
    assert (named[0][0], named[1][0]) == ("9", CUE)


def placed(track, place, look):
    return Placed(track, place, 0.004, 9, look)


def test_the_ball_that_every_shot_moves_is_the_cue_ball():
    """A striped ball that shows its cap is the whiter one, but it lies where it lay."""
    cap, dull = Appearance(1.0, 0.0, np.array(IVORY)), Appearance(0.8, 0.0, np.array(IVORY))
    a = (placed(1, (0.5, 0.5), dull), placed(2, (1.0, 0.5), cap), placed(3, (1.5, 0.5), solid("3")))
    b = (placed(1, (0.9, 0.9), dull), *a[1:])
    c = (placed(1, (0.3, 0.2), dull), *a[1:])
    shots = [
        Shot(0, 1, 4, 0.9, 1, 0, "shot", a, b, (1,), (1,)),
        Shot(9, 10, 14, 0.9, 1, 0, "shot", b, c, (1,), (1,)),
    ]
    names = name_tracks(shots, (CUE, "3", "9"), {})
    assert {track: name for track, (name, _) in names.items()} == {1: CUE, 2: "9", 3: "3"}
    corrected = name_tracks(shots, (CUE, "3", "9"), {2: CUE})
    assert corrected[2] == (CUE, 1.0), "what the coach says holds"
    assert corrected[1][0] != CUE, "and there is one cue ball"


def test_a_shot_that_was_none_does_not_take_the_cue_ball_away():
    """A hand's shadow was taken for a shot in which the cue ball lay still."""
    red, yellow = solid("3"), solid("1")
    a = (placed(1, (0.5, 0.5), WHITE), placed(2, (1.0, 0.5), red), placed(3, (1.5, 0.5), yellow))
    b = (placed(1, (0.9, 0.9), WHITE), *a[1:])
    c = (*b[:1], placed(4, (1.2, 0.5), red), *b[2:])
    d = (placed(1, (0.3, 0.2), WHITE), *c[1:])
    shots = [
        Shot(0, 1, 4, 0.9, 1, 0, "shot", a, b, (1,), (1,)),
        Shot(5, 6, 8, 0.4, 1, 0, "shot", b, c, (2,), (4,)),
        Shot(9, 10, 14, 0.9, 1, 0, "shot", c, d, (1,), (1,)),
    ]
    names = name_tracks(shots, (CUE, "1", "3"), {})
    assert {names[1][0], names[3][0]} == {CUE, "1"}
    assert names[1][0] == CUE
