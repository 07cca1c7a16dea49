"""A match judged in parts: racks beside each other come to what they come to one by one, and nothing twice."""

from __future__ import annotations

import copy
from collections import Counter

import pytest

from aretane.core.review.ledger.booking import Judged
from aretane.core.review.ledger.match import hands_of, kept_for_next, to_judge
from aretane.core.review.replay import replay
from aretane.core.skill.hand import PRESETS
from aretane.desk.work.choices import Here
from aretane.desk.work.ledger import BESIDE, Remembered, Wanted, _key, steps, work_out
from tests.lost_rack import lost_rack

HANDS = {"A": PRESETS["club"], "B": PRESETS["league"]}


def racks(count):
    """So many racks, no two alike: the nine lies elsewhere in each."""
    rack = lost_rack()["racks"][0]
    found = []
    for number in range(count):
        one = copy.deepcopy(rack)
        one["shots"][0]["layout_before"]["balls"]["9"] = [0.5 + number / 50, 0.2]
        one["shots"][0]["layout_after"]["balls"]["9"] = [0.5 + number / 50, 0.2]
        one["shots"][1]["layout_before"]["balls"]["9"] = [0.5 + number / 50, 0.2]
        found.append(one)
    return lost_rack(racks=found)


class Counting(Here):
    """Judges nothing, and notes which entries it was asked for together."""

    def __init__(self):
        self.parts = []

    def part(self, limit, work, parts, *arguments, **named):
        self.parts.append([at for at, _, _ in parts])
        return [(Judged(), {}) for _ in parts]


def judge(match, known=None):
    doing, known = Counting(), known or Remembered()
    told = list(steps(doing, Wanted(match, HANDS, "glance"), known))
    return doing.parts, told, known


def test_racks_beside_each_other_are_worth_what_they_are_one_by_one():
    match = racks(2)
    *_, (_, together) = steps(Here(), Wanted(match, HANDS, "glance"), Remembered())
    replayed = replay(match)
    hands, known = hands_of(replayed, HANDS), Remembered()
    wanted = Wanted(match, HANDS, "glance")
    for rack in to_judge(match, replayed):
        stages = {}
        for index, at in enumerate(rack):
            ((judged, stages),) = work_out([(at, hands, stages)], "glance", 0)
            stages = kept_for_next(stages, rack, index)
            known.keep(_key(wanted, hands, at), judged_as(judged))
    parts, told, _ = judge(match, known)
    assert parts == [], "everything is known"
    assert told[-1][1]["racks"] == together["racks"]


def judged_as(judged):
    from aretane.formats.ledger import judged_as_data

    return judged_as_data(judged)


@pytest.mark.parametrize("count", [1, 2, 3, 5])
def test_every_entry_is_judged_once_and_never_two_of_one_rack_together(count):
    match = racks(count)
    parts, told, _ = judge(match)
    entries = [at for part in parts for at in part]
    asked = Counter(_key(Wanted(match, HANDS, "glance"), HANDS, at) for at in entries)
    assert set(asked.values()) == {1}
    assert max(len(part) for part in parts) <= BESIDE
    assert len(entries) == 2 * count + 1, "the last shot is the same in every rack: it is judged once"
    progress = [share for share, _ in told]
    assert progress == sorted(progress)
    assert progress[-1] == 1.0


def test_two_racks_that_begin_alike_are_judged_once():
    match = lost_rack(racks=[lost_rack()["racks"][0]] * 2)
    parts, told, _ = judge(match)
    assert [len(part) for part in parts] == [1, 1, 1]
    assert len(told[-1][1]["racks"]) == 2


def test_an_early_rack_is_told_while_later_ones_are_judged():
    _, told, _ = judge(racks(4))
    seen = [len(body["racks"]) for _, body in told if body]
    assert seen == sorted(seen)
    assert seen[0] < 4
    assert seen[-1] == 4


def test_an_edit_recomputes_what_depends_on_it():
    match = racks(3)
    _, _, known = judge(match)
    assert judge(match, known)[0] == []
    match["racks"][1]["shots"][1]["layout_after"]["balls"]["cue"] = [1.1, 0.5]
    match["racks"][1]["shots"][2]["layout_before"]["balls"]["cue"] = [1.1, 0.5]
    parts, _, _ = judge(match, known)
    places = [to_judge(match, replay(match))[1].index(at) for part in parts for at in part]
    assert places == [1, 2], "the shot that was changed and the one after it"


def test_of_partners_each_entry_is_judged_with_the_hand_of_whose_turn_it_was():
    from dataclasses import replace

    match = racks(1)
    shots = match["racks"][0]["shots"]
    pair = replace(PRESETS["league"], partner=PRESETS["beginner"])
    doing, seen = Counting(), []
    doing.part = lambda limit, work, parts, *more, **named: (
        seen.extend(hands for _, hands, _ in parts) or [(Judged(), {}) for _ in parts]
    )
    [
        *steps(
            doing,
            Wanted({**match, "session": "partners"}, {"A": pair, "B": PRESETS["club"]}, "glance"),
            Remembered(),
        )
    ]
    played = dict.fromkeys("AB", 0)
    for shot, hands in zip(shots, seen, strict=False):
        assert hands["A"] == pair.turn(played["A"])
        assert hands["B"] == PRESETS["club"]
        played[shot["player"]] += 1
    assert played["A"] > 1
