"""Shots as changes between settled layouts, on looks made up by hand."""

from __future__ import annotations

import numpy as np

from aretane.vision.shots import EVERY, Look, cut

START = [(0.5, 0.5), (1.0, 0.8), (2.0, 0.4), (1.5, 1.0)]
AFTER = [(1.2, 0.3), (2.0, 0.4), (1.5, 1.0)]  # the first ball moved, the second fell


def looks(*spells, every=EVERY, jitter=0.003):
    """Each spell is (places, how many looks)."""
    dice = np.random.default_rng(1)
    found, time = [], 0.0
    for places, count in spells:
        for _ in range(count):
            found.append(Look(time, [(x + dice.normal(0, jitter), y + dice.normal(0, jitter)) for x, y in places]))
            time += every
    return found


def rolling(steps):
    return [([(0.5 + 0.1 * n, 0.5 - 0.03 * n), *START[2:]], 1) for n in range(1, steps)]


def test_a_shot_is_told_with_what_moved_and_what_is_gone():
    found = cut(looks((START, 6), *rolling(5), (AFTER, 6)))
    assert [(shot.moved, shot.gone) for shot in found] == [(1, 1)]
    shot = found[0]
    assert shot.start == 5 * EVERY
    assert shot.start < shot.contact <= shot.still
    assert shot.still == 10 * EVERY


def test_nothing_that_stays_is_a_shot():
    assert cut(looks((START, 30))) == []


def test_hidden_is_not_gone_and_what_comes_back_is_no_shot():
    hidden = [START[0], *START[2:]]
    assert cut(looks((START, 5), (hidden, 6), (START, 5))) == []
    late = [START[0], *START[2:]]
    assert cut(looks((late, 5), (START, 6))) == []


def test_somebody_walking_through_is_no_shot():
    walk = [([*START, (0.2 + 0.2 * n, 0.1)], 1) for n in range(8)]
    assert cut(looks((START, 5), *walk, (START, 5))) == []


def test_a_person_who_never_stands_still_does_not_hide_a_shot():
    restless = [([*AFTER, (0.2 + 0.13 * n, 0.1)], 1) for n in range(12)]
    assert len(cut(looks((START, 5), *restless, (AFTER, 4)))) == 1


def test_two_shots_in_a_row_are_two():
    third = [(0.4, 1.1), *AFTER[1:]]
    assert len(cut(looks((START, 5), (AFTER, 6), (third, 6)))) == 2


def test_one_picture_every_few_seconds_is_enough_to_compare_layouts():
    found = cut(looks((START, 2), (AFTER, 2), every=5.0))
    assert [(shot.moved, shot.gone) for shot in found] == [(1, 1)]
    assert cut(looks((START, 4), every=5.0)) == []


def test_an_empty_recording_has_no_shots():
    assert cut([]) == []
    assert cut([Look(0.0, [])]) == []
