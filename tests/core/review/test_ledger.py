"""The ledger: booked by hand, on a game whose every chance is known, on the demo's matches, and on holes."""

from __future__ import annotations

import json
import math
import random
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import pytest

import aretane.demo
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.review.ledger import valuing
from aretane.core.review.ledger.booking import PARTS, Judged, rack_ledger
from aretane.core.review.ledger.general import apart, shared, worth_in_general
from aretane.core.review.ledger.judging import Choice, Judgement, judge
from aretane.core.review.ledger.juncture import ALL, END, STROKE, CameOf, Juncture, Meant, junctures
from aretane.core.review.ledger.match import hands_of, judged_entry, kept_for_next, match_ledger, to_judge
from aretane.core.review.ledger.valuing import Care, Valuing
from aretane.core.review.ledger.verdict import sentence, verdict_of
from aretane.core.review.ledger.worth import Known
from aretane.core.review.replay import replay
from aretane.core.rules.game import PLAY, RackState
from aretane.core.rules.options import with_defaults
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import PRESETS
from aretane.core.statistics.rates import wilson
from aretane.core.table import PRESETS as TABLES
from aretane.formats.ledger import judged_as_data, judged_from, ledger_as_data
from tests.lost_rack import lost_rack

DEMO = Path(aretane.demo.__file__).parent / "matches"
QUICKEST = Care("quickest", GLANCE, 40, 4, 6, 2)
HANDS = {"A": PRESETS["club"], "B": PRESETS["league"]}
OPTIONS = with_defaults("nine-ball", {})
STOP = Stroke(1.5, 0.0)


def at(player, balls, outcome=None, after=None, winner=None, kind=STROKE):
    """An entry of a game in which only the number of balls counts."""
    names = tuple(str(9 - n) for n in range(balls))
    state = RackState(player, names, PLAY, None)
    came = None
    if outcome is not None:
        left = tuple(str(9 - n) for n in range(after[1]))
        came = CameOf(
            outcome == "made", outcome == "foul", {}, RackState(after[0], left, PLAY, None, winner=winner)
        )
    return Juncture(kind, TABLES["pool-9ft"], "nine-ball", OPTIONS, state, {}, player, Meant(), came)


def valued(before, chosen=None, expected=None, fortune=0.0, split=ALL):
    known = Known(before, 0.01)
    pot = Choice("pot", "attack", "9", "foot-left", STOP, 0.8, before, "no rail", (), "")
    decision = None if chosen is None else Known(chosen - before, 0.0)
    return Judged(
        Judgement(
            known, pot, pot, None, None if chosen is None else pot, decision,
            None if expected is None else Known(expected, 0.0), Known(fortune, 0.0) if split == ALL else None,
            split,
        )
    )  # fmt: skip


def test_a_rack_booked_by_hand():
    """Two balls each worth what is said; every number below is worked out on paper.

    A (.60) chooses a shot worth .55, makes it (.70 in the mean of what is made), stops where B would find .. the
    next shot is worth .80; then misses (.20 in the mean), B has the table with .85, chooses well, makes and wins.
    """
    rack = [
        at("A", 2, "made", ("A", 1)), at("A", 1, "missed", ("B", 1)), at("B", 1, "made", ("B", 0), winner="B"),
    ]  # fmt: skip
    judged = [valued(0.60, 0.55, 0.70), valued(0.80, 0.80, 0.20, 0.03), valued(0.85, 0.85, 1.0)]
    found = rack_ledger(rack, judged, HANDS, "B", False)
    first, second, third = found.entries
    assert [first.parts[part] for part in PARTS] == pytest.approx([-0.05, 0.15, 0.10, 0.0])
    assert [second.parts[part] for part in PARTS] == pytest.approx([0.0, -0.60, -0.08, 0.03])
    assert [third.parts[part] for part in PARTS] == pytest.approx([0.0, 0.15, 0.0, 0.0])
    assert [entry.after for entry in found.entries] == pytest.approx([0.80, 0.15, 1.0])
    assert found.start == 0.60
    assert found.result == 0.0
    assert found.turning_point == 1
    assert found.sums["A"] == pytest.approx(
        {"decision": -0.05, "pot": -0.45, "position": 0.02, "luck": 0.03, "unsplit": 0.0}
    )
    assert sum(found.sums["A"].values()) - sum(found.sums["B"].values()) == pytest.approx(-0.60, abs=1e-9)


def test_what_cannot_be_told_is_never_luck():
    rack = [at("A", 2, "missed", ("B", 2)), at("B", 2, "made", ("B", 1)), at("B", 1, kind=END)]
    told = [valued(0.6, split="no-intent"), valued(0.7, 0.65, 0.8, split="no-stroke"), valued(0.9)]
    found = rack_ledger(rack, told, HANDS, None, False)
    first, second = found.entries
    assert all(value is None for value in first.parts.values())
    assert first.unsplit == pytest.approx(-0.3)
    assert second.parts["decision"] == pytest.approx(-0.05)
    assert second.parts["pot"] == pytest.approx(0.15)
    assert second.parts["position"] is None
    assert second.parts["luck"] is None
    assert second.unsplit == pytest.approx(0.1)
    assert found.result is None
    assert found.now == pytest.approx(0.1)


def test_what_somebody_else_decided_is_not_the_shots():
    """An overruled entry, a conceded rack, and an experiment: what followed is nobody's skill."""
    overruled = at("A", 2, "made", ("B", 1))
    overruled = replace(overruled, came=replace(overruled.came, overruled=True))
    rack = [overruled, at("B", 1, "missed", ("A", 1))]
    found = rack_ledger(rack, [valued(0.6, 0.6, 0.7), valued(0.9, 0.9, 0.3)], HANDS, "A", True)
    assert [entry.split for entry in found.entries] == ["rules", "rules"]
    assert all(entry.parts["luck"] is None and entry.parts["position"] is None for entry in found.entries)
    assert found.entries[1].after == 0.0
    tried = replace(rack[0], meant=Meant(experiment=True))
    (entry, _) = rack_ledger([tried, rack[1]], [valued(0.6, 0.5, 0.7), valued(0.9)], HANDS, "A", False).entries
    assert entry.parts["decision"] is None


# A game whose every chance is known: a player has `p` for each ball and may take a worse stroke for it.
CHANCE, WORSE = 0.7, 0.5
VALUES = {0: 1.0}
for number in range(1, 4):
    # v = p v' + (1 - p)(1 - v)
    VALUES[number] = (CHANCE * VALUES[number - 1] + (1 - CHANCE)) / (2 - CHANCE)


def toy_rack(dice, *, miss_more=0.0, choose_worse=0.0):
    """A rack of three balls, with its junctures and what the unplanted hand makes of each entry."""
    player, left, rack, judged = "A", 3, [], []
    while True:
        worse = dice.random() < choose_worse
        chance = WORSE if worse else CHANCE
        made = dice.random() < chance and not dice.random() < miss_more
        best, opponent = VALUES[left], "B" if player == "A" else "A"
        other = 1.0 - VALUES[left]
        chosen = chance * VALUES[left - 1] + (1 - chance) * other
        expected = VALUES[left - 1] if made else other
        judged.append(valued(best, chosen if worse else best, expected))
        following = (player, left - 1) if made else (opponent, left)
        winner = player if following[1] == 0 else None
        rack.append(at(player, left, "made" if made else "missed", following, winner))
        if winner:
            return rack_ledger(rack, judged, HANDS, winner, False)
        player, left = following


def columns(**planted):
    dice = random.Random(5)
    entries = [entry for _ in range(300) for entry in toy_rack(dice, **planted).entries]
    return {part: np.array([entry.parts[part] for entry in entries]) for part in PARTS}


def told_apart(values):
    return values.mean() / max(values.std(ddof=1) / math.sqrt(len(values)), 1e-9)


def test_a_planted_weakness_is_found_in_its_column_and_nowhere_else():
    """300 racks each: fair play, a tenth of the makes turned into misses, the worse stroke taken now and then."""
    fair, misses, chooses = columns(), columns(miss_more=0.1), columns(choose_worse=0.3)
    assert all(abs(told_apart(values)) < 3 for values in fair.values())
    assert told_apart(misses["pot"]) < -3
    assert misses["decision"].max() == misses["decision"].min() == 0.0
    assert abs(told_apart(misses["position"])) < 3
    assert told_apart(chooses["decision"]) < -10
    assert abs(told_apart(chooses["pot"])) < 3
    assert all(abs(told_apart(one["luck"])) < 3 for one in (fair, misses, chooses))


def test_values_in_general_follow_the_player():
    """Nobody knows the places: fewer balls and a better hand are worth more; both halves of a turn add up."""
    assert shared(1, 0.8, 0.8) == pytest.approx(1 / 1.2)
    assert shared(9, 0.9, 0.5) > shared(9, 0.6, 0.5)
    assert apart(0, 5, 0.6, 0.6) == 1.0
    assert apart(3, 8, 0.6, 0.6) > apart(8, 3, 0.6, 0.6)
    state = RackState("A", ("8", "9"), PLAY, None)
    hands = PRESETS["professional"], PRESETS["beginner"]
    assert worth_in_general("nine-ball", state, hands, TABLES["pool-9ft"]) > 0.8


def demo(discipline, rack, kept):
    """A rack of a demo match in which only the last entries have their layouts."""
    match = json.loads((DEMO / f"{discipline}.json").read_text())
    shots = match["racks"][rack]["shots"]
    for shot in shots[:-kept]:
        for key in ("layout_before", "layout_after", "stroke", "targets"):
            shot.pop(key, None)
    shots[-kept]["layout_before"] = shots[-kept].get("layout_before") or {}
    return {**match, "racks": [match["racks"][rack]]}


def ledger_of(match, care=QUICKEST, hands=HANDS):
    replayed = replay(match)
    racks, judged = to_judge(match, replayed), []
    for rack in racks:
        known, found = {}, []
        for index, one in enumerate(rack):
            found.append(judged_entry(one, hands, care, 0, 2, known))
            known = kept_for_next(known, rack, index)
        judged.append(found)
    found = match_ledger(replayed, racks, judged, hands)
    return found, verdict_of(match, racks, replayed, found), judged


@pytest.mark.parametrize(
    ("discipline", "kept"),
    [("nine-ball", 4), ("ten-ball", 3), ("eight-ball", 2), ("blackball", 2), ("straight-pool", 1), ("snooker", 2)],
)
def test_the_sums_of_a_demo_rack(discipline, kept):
    found, verdict, judged = ledger_of(demo(discipline, -1, kept))
    data = ledger_as_data(found, verdict, discipline)
    (rack,) = data["racks"]
    assert any(entry["better"] for entry in rack["shots"])
    for entry in rack["shots"]:
        told = [entry[part] for part in (*PARTS, "unsplit") if entry[part] is not None]
        assert math.fsum(told) == pytest.approx(entry["after"] - entry["before"], abs=1e-9)
        assert entry["split"] != "full" or entry["luck"] is not None
    end = rack["result"] if rack["result"] is not None else rack["now"]
    sums = rack["sums"]
    assert math.fsum(sums["A"].values()) - math.fsum(sums["B"].values()) == pytest.approx(
        end - rack["start"], abs=1e-9
    )
    assert json.loads(json.dumps(data)) == data
    for one in judged[0]:
        assert judged_as_data(judged_from(judged_as_data(one))) == judged_as_data(one)


def nine_on_the_spot(called=("9", "foot-left"), stroke=None, intent="attack", **more):
    shot = {
        "player": "A", "kind": "pot", "intent": intent,
        "layout_before": {"balls": {"cue": [1.9, 0.8], "9": [2.3, 1.08]}},
        "layout_after": {"balls": {"cue": [1.8, 0.5]}},
        "potted": [{"ball": "9", "pocket": "foot-left"}], "first_contact": "9", "rails_after_contact": 1, **more,
    }  # fmt: skip
    if called:
        shot["called"] = dict(zip(("ball", "pocket"), called, strict=True))
    if stroke:
        shot["stroke"] = stroke
    return {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball",
        "start": {"layout": {"balls": {"9": [2.3, 1.08]}}}, "racks": [{"breaker": "A", "shots": [shot]}],
    }  # fmt: skip


def first_of(match):
    return ledger_of(match)[0].racks[0].entries[0]


def test_a_shot_without_its_stroke_takes_the_best_of_its_idea():
    entry = first_of(nine_on_the_spot())
    assert entry.split == "no-stroke"
    assert entry.parts["decision"] == 0.0
    assert entry.parts["pot"] == pytest.approx(1.0 - entry.before, abs=1e-9)
    assert entry.parts["position"] is None
    assert entry.unsplit == pytest.approx(0.0, abs=1e-9)


def test_nothing_said_nothing_booked():
    entry = first_of(nine_on_the_spot(called=None, intent=None))
    assert entry.split == "no-intent"
    assert all(value is None for value in entry.parts.values())


def test_a_hopeless_bank_chosen_for_a_plain_pot_is_a_decision():
    """From here the plain pot is nearly sure for a league player, a bank across is not (common practice)."""
    match = nine_on_the_spot(called=("9", "side-right"), potted=[], result="missed")
    match["racks"][0]["shots"][0]["layout_after"]["balls"]["9"] = [1.9, 0.4]
    entry = ledger_of(match, hands={"A": PRESETS["league"], "B": PRESETS["league"]})[0].racks[0].entries[0]
    if entry.parts["decision"] is not None:
        assert entry.parts["decision"] < -0.1


def test_the_chosen_idea_itself_costs_exactly_nothing():
    match = nine_on_the_spot()
    at_first = to_judge(match, replay(match))[0][0]
    best = judge(at_first, (HANDS["A"], HANDS["B"]), QUICKEST).best
    stroke = {
        "aim": best.stroke.aim,
        "speed": best.stroke.speed,
        "side": best.stroke.side,
        "height": best.stroke.height,
    }
    entry = first_of(nine_on_the_spot(called=(best.ball, best.pocket), stroke=stroke))
    assert entry.split == "full"
    assert entry.parts["decision"] == 0.0
    assert entry.parts["luck"] == 0.0


def test_a_ball_that_hangs_cut_in_by_its_side_was_meant_so():
    """At the middle of the pocket the white would follow it in; no aim is off by so much (common practice)."""
    match = nine_on_the_spot(called=("9", "foot-right"), potted=[{"ball": "9", "pocket": "foot-right"}])
    shot = match["racks"][0]["shots"][0]
    shot["layout_before"]["balls"] = {"cue": [2.07, 0.54], "9": [2.516, 0.024]}
    shot["layout_after"]["balls"] = {"cue": [1.74, 0.4]}
    shot["stroke"] = {"aim": -0.78638, "speed": 1.12911, "side": 0.0, "height": 0.17523}
    entry = first_of(match)
    assert entry.chosen > 0.9
    assert entry.parts["decision"] > -0.1


@pytest.mark.parametrize(
    "spoil",
    [
        lambda shot: shot.pop("layout_before"),
        lambda shot: shot["layout_before"]["balls"].pop("cue"),
        lambda shot: shot.update(hole=True, state={"player": "A", "standing": ["9"], "winner": "A"}),
    ],
)
def test_a_rack_with_holes_says_what_cannot_be_told(spoil):
    match = nine_on_the_spot()
    spoil(match["racks"][0]["shots"][0])
    entry = first_of(match)
    assert entry.split in ("no-layout", "hole")
    assert entry.unsplit == pytest.approx(entry.after - entry.before, abs=1e-12)


def test_a_match_without_any_shot_and_one_player_alone():
    empty = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "racks": [{"shots": []}]}
    found, _, _ = ledger_of(empty)
    assert found.racks[0].entries == ()
    alone = nine_on_the_spot(potted=[])
    alone["session"] = "solo"
    alone["racks"][0]["shots"][0]["layout_after"]["balls"]["9"] = [1.9, 0.4]
    found, _, _ = ledger_of(alone)
    (entry,) = found.racks[0].entries
    assert entry.after < entry.before
    assert found.racks[0].result is None


def test_hands_are_told_by_the_matchs_own_shots_with_a_club_players_before():
    replayed = replay(nine_on_the_spot())
    found = hands_of(replayed, {"B": PRESETS["professional"]})
    assert found["B"] == PRESETS["professional"]
    assert found["A"].aim == pytest.approx(PRESETS["club"].aim, rel=0.3)


def test_a_choice_without_a_stroke_costs_what_the_other_would_have_been_worth_more():
    """After a push-out to a hanging ball: to hand it back gives a nearly certain rack away."""
    layout = {"balls": {"cue": [2.0, 0.9], "9": [2.4, 1.15]}}
    pushed = {
        "player": "A", "kind": "other", "declared": "push-out", "layout_before": {
            "balls": {"cue": [1.0, 0.3], "9": [2.4, 1.15]}, "state": {"player": "A", "push_out_allowed": True},
        }, "layout_after": layout, "first_contact": None, "rails_after_contact": 0,
    }  # fmt: skip
    back = {"player": "B", "declared": "pass-back", "layout_before": layout, "layout_after": layout}
    match = {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball",
        "racks": [{"breaker": "A", "shots": [pushed, back]}],
    }  # fmt: skip
    rack = ledger_of(match)[0].racks[0]
    choice = rack.entries[1]
    assert choice.split == "rules"
    assert choice.parts["decision"] < -0.5
    assert choice.parts["decision"] == pytest.approx(choice.after - choice.before, abs=1e-12)


def test_junctures_leave_a_ball_in_hand_to_be_placed():
    match = nine_on_the_spot()
    shot = match["racks"][0]["shots"][0]
    shot["layout_before"]["state"] = {"player": "A", "ball_in_hand": "anywhere"}
    (one, *_) = junctures(match, replay(match), 0)
    assert "cue" not in one.balls
    assert one.meant.place == (1.9, 0.8)


@pytest.mark.parametrize(
    ("game", "words"), [("nine-ball", "racks"), ("snooker", "frames"), ("straight-pool", "balls")]
)
def test_what_is_said_aloud_counts_in_the_games_own_word(game, words):
    rack = [at("A", 1, "missed", ("B", 1)), at("B", 1, "made", ("B", 0), winner="B")]
    booked = rack_ledger(rack, [valued(0.90, 0.90, 0.20), valued(0.80, 0.80, 1.0)], HANDS, "B", False)
    said = sentence(booked.entries, "A", "Odo", 1, traits_of(game))
    assert said == f"Odo lost 0.7 {words} by potting, over 1 shot."


def test_the_best_choice_is_worth_most_and_not_only_the_plainest():
    """In the list of choices those that few racks do not tell apart from the best stand first by plainness, a soft
    safety before a pot. What is measured against is the one that is worth more."""
    from types import SimpleNamespace as One

    from aretane.core.review.ledger.judging import _best

    soft, pot, thin = (
        One(intent="containing", win=0.48),
        One(intent="attack", win=0.61),
        One(intent="safety", win=0.7),
    )
    push = One(intent="push-out", win=0.5)
    assert _best(One(options=(soft, pot, thin, push))) is pot, "of safeties the leading one stands for its sort"
    assert _best(One(options=(soft,))) is soft
    assert _best(One(options=(pot, push, One(intent="two-way", win=0.9)))) is pot


@pytest.mark.parametrize("wrong", [{"speed": -3.0}, {"speed": 1e9}, {"side": 2.0}, {"elevation": 9.0}])
def test_a_stroke_that_nobody_can_play_is_none(wrong):
    match = lost_rack()
    match["racks"][0]["shots"][0]["stroke"] = {"speed": 1.5, "aim": 0.5} | wrong
    rack = to_judge(match, replay(match))[0]
    assert rack[0].meant.stroke is None
    match["racks"][0]["shots"][0]["stroke"] = {"speed": 1.5, "aim": 0.5}
    assert to_judge(match, replay(match))[0][0].meant.stroke == Stroke(1.5, 0.5)


PLAIN_POT = SimpleNamespace(intent="attack")


def test_a_value_is_played_on_until_it_is_known_well_enough(monkeypatch):
    """Racks of which nine in ten are won: for an error of .03 a hundred are enough, for .01 it takes 900
    (p (1 - p) / n); an even one takes what there is."""
    asked = []

    def racks(share):
        def played(outlook, option, times, seed, threads, piece):
            asked.append(piece.stop - piece.start)
            return wilson(round(share * asked[-1]), asked[-1])

        return played

    def known(share, error, most=1000):
        asked.clear()
        monkeypatch.setattr(valuing, "racks_from", racks(share))
        care = Care("any", GLANCE, 40, 4, most, 2, error)
        game = SimpleNamespace(layout=SimpleNamespace(discipline="nine-ball"))
        return Valuing(SimpleNamespace(game=game, plays_on=True), care, 0, 1)._played(PLAIN_POT)

    assert known(0.9, 0.032).error == pytest.approx(0.03, abs=0.002)
    assert sum(asked) == 100
    assert known(0.9, 0.0101).error <= 0.0101
    assert sum(asked) == 900
    assert known(0.5, 0.01).value == 0.5
    assert sum(asked) == 1000
    known(0.5, 0.0, most=40)
    assert asked == [40]
