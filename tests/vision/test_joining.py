"""A picture that stood still while balls ran makes two found shots of one: told and put together."""

from __future__ import annotations

from dataclasses import replace

import pytest

from aretane.vision.paths.told import Event, Mark
from aretane.vision.shots.corrections import corrected
from aretane.vision.shots.joining import goes_on, one_of
from aretane.vision.shots.watch import Placed, Shot

RED = Placed(2, (1.5, 0.9), 0.003, 20)


def run(track, start, speed, begin, seconds):
    """Along the table at one speed, then at rest from one picture to the next."""
    moving = [Mark(begin + n / 30, (start + speed * n / 30, 0.5)) for n in range(int(30 * seconds) + 1)]
    last = moving[-1]
    return (*moving, *(Mark(last.t + n / 30, last.place) for n in range(1, 12)))


def cue(track, x):
    return Placed(track, (x, 0.5), 0.003, 9)


def shot(track, arrived, path, events, start, still):
    ball = str(track)
    told = (
        Event(path[0].t, "strike", (ball,), path[0].place), *events, Event(still, "rest", (ball,), path[-1].place),
    )  # fmt: skip
    return Shot(
        start, path[0].t, still, 0.9, 1, 0, "shot", (cue(track, path[0].place[0]), RED),
        (cue(arrived, path[-1].place[0]), RED), (track,), (arrived,), {track: path}, told,
    )  # fmt: skip


FIRST = shot(1, 5, run(1, 0.4, 0.6, 2.0, 1.0), (), 1.8, 3.2)
SECOND = shot(5, 9, run(5, 1.0, 0.5, 6.0, 0.8), (Event(6.4, "rail", ("5",), (1.2, 0.5), "foot"),), 5.9, 7.0)


def test_a_ball_that_stood_from_one_picture_to_the_next_goes_on():
    assert goes_on(FIRST, SECOND)
    both = one_of(FIRST, SECOND)
    assert (both.start, both.contact, both.still) == (1.8, 2.0, 7.0)
    assert (both.before, both.after) == (FIRST.before, SECOND.after)
    assert (both.left, both.arrived) == ((1,), (9,))
    assert list(both.paths) == [1]
    assert both.paths[1] == FIRST.paths[1] + SECOND.paths[5], "one way, under the track that it began as"
    assert [(one.kind, one.balls) for one in both.events] == [
        ("strike", ("1",)),
        ("rail", ("1",)),
        ("rest", ("1",)),
    ]


def test_the_strip_has_one_shot_and_it_keeps_its_name():
    other = replace(SECOND, start=20.0, contact=20.1, still=22.0, before=(cue(77, 0.3), RED), left=(77,))
    assert [one.id for one in corrected([FIRST, SECOND, other], [])] == ["s0", "s2"]


@pytest.mark.parametrize(
    ("first", "second"),
    [
        (
            replace(FIRST, events=(*FIRST.events, Event(3.0, "contact", ("1", "2"), (1.0, 0.5)))),
            SECOND,
        ),  # a stop shot
        (shot(1, 5, run(1, 0.4, 0.1, 2.0, 1.0), (), 1.8, 3.2), SECOND),  # it had nearly come to rest
        (replace(FIRST, kind="re-rack"), SECOND),
        (FIRST, replace(SECOND, left=(2,))),  # another ball is moved
        (replace(FIRST, paths={}), SECOND),  # nothing is known of its way
        (FIRST, replace(SECOND, paths={5: run(5, 1.0, -0.5, 6.0, 0.8)})),  # it is sent back
    ],
)
def test_what_may_be_two_shots_stays_two(first, second):
    assert not goes_on(first, second)


def test_nobody_strikes_again_while_the_pack_still_runs():
    balls = tuple(cue(n, 0.2 + 0.2 * n) for n in range(1, 9))
    scattered = tuple(cue(n + 20, 0.1 + 0.25 * n) for n in range(1, 9))
    first = Shot(0, 1, 3, 0.9, 8, 0, "shot", balls, scattered, tuple(range(1, 9)), tuple(range(21, 29)))
    second = Shot(6, 6, 8, 0.9, 5, 0, "shot", scattered, balls, tuple(range(21, 26)), tuple(range(41, 46)))
    assert goes_on(first, second)
    assert not goes_on(first, replace(second, start=12, contact=12)), "by then somebody may have"


def crept(to, arrived=9, moved=(5,)):
    """The ball that the first shot brought to rest stands there, and then a little farther on."""
    place = FIRST.paths[1][-1].place
    before = (Placed(5, place, 0.003, 9), RED)
    return replace(
        SECOND, before=before, after=(Placed(arrived, to, 0.003, 9), RED), left=moved, arrived=(arrived,), paths={},
        events=(),
    )  # fmt: skip


SLOW = replace(FIRST, paths={1: run(1, 0.4, 0.1, 2.0, 6.0)})
SLOW = replace(SLOW, after=(Placed(5, SLOW.paths[1][-1].place, 0.003, 9), RED))


@pytest.mark.parametrize(
    ("on", "aside", "one"),
    [(0.1, 0.0, True), (0.1, 0.02, True), (0.1, 0.08, False), (-0.1, 0.0, False), (0.4, 0.0, False)],
)
def test_a_slow_ball_that_a_still_picture_showed_at_rest_creeps_on(on, aside, one):
    """Straight on and little, as no stroke does; aside, back or far it was struck."""
    x, y = SLOW.paths[1][-1].place
    second = replace(crept((x + on, y + aside)), before=(Placed(5, (x, y), 0.003, 9), RED))
    assert goes_on(SLOW, second) is one
    with_another = replace(second, left=(5, 2))
    assert not goes_on(SLOW, with_another), "another ball was moved too"
