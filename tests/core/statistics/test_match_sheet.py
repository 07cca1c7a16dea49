"""The match sheet against sheets that were worked out by hand, for each discipline."""

from __future__ import annotations

import pytest

from aretane.core.errors import InputError
from aretane.core.review.replay import replay
from aretane.core.statistics.match_sheet import sheets
from aretane.formats.figures import figures_of

PLAYERS = {"A": {"name": "Odile"}, "B": {"name": "Piers"}}


def pot(player, ball, *fell, intent="attack", pocket="foot-left", **more):
    return {
        "player": player, "kind": "pot", "intent": intent, "called": {"ball": ball, "pocket": pocket},
        "potted": [{"ball": one, "pocket": pocket} for one in fell], **more,
    }  # fmt: skip


def other(player, intent, **more):
    return {"player": player, "kind": "other", "intent": intent, **more}


def break_(player, *fell, **more):
    return {
        "player": player, "kind": "break", "potted": [{"ball": one} for one in fell],
        "rails_after_contact": 6, **more,
    }  # fmt: skip


def of(discipline, racks, **header):
    match = {
        "format": "aretane-match", "version": 1, "discipline": discipline, "players": PLAYERS,
        "racks": [{"breaker": shots[0]["player"], "shots": shots} for shots in racks], **header,
    }  # fmt: skip
    return {name: sheet.figures() for name, sheet in sheets([(match, replay(match))]).items()}


def run(player, *balls, **more):
    return [pot(player, ball, ball, **more) for ball in balls]


# Four breaks with five balls, one of them dry, one with a lost cue ball; eleven pots, nine of them made.
FOUR_RACKS = [
    [break_("A", "1", "3"), *run("A", "2", "4"), pot("A", "5"), *run("B", "5", "6", "7", "8", "9")],
    [break_("B"), pot("A", "1"), other("B", "safety"), other("A", "escape", fouls_seen=["no-contact"]),
     *run("B", "1", "2", "3", "4", "5", "6", "7", "8", "9")],
    [break_("A", "2", "7"), *run("A", "1", "3", "4", "5", "6", "8", "9")],
    [break_("A", "5", scratch=True), *run("B", "1", "2", "3", "4", "6", "7", "8", "9")],
]  # fmt: skip


def test_nine_ball_by_hand():
    """Odile tries 2+1+1+7 = 11 and makes 9 (82 %); her three breaks make 5 balls. She visits four times."""
    odile = of("nine-ball", FOUR_RACKS)["Odile"]
    assert (odile["pots"].n, round(odile["pots"].p, 2)) == (11, 0.82)
    assert odile["breaks"]["n"] == 3
    assert odile["breaks"]["balls"].mean == pytest.approx(5 / 3)
    assert odile["breaks"]["dry"].p == 0.0
    assert odile["breaks"]["scratch"].p == pytest.approx(1 / 3)
    assert odile["innings"] == 5
    assert odile["balls_per_inning"] == pytest.approx((4 + 0 + 0 + 9 + 0) / 5)
    assert odile["high_run"] == 9
    assert (odile["run_outs"].n, odile["run_outs"].p) == (5, pytest.approx(1 / 5)), "break and run"
    assert (odile["escapes"].n, odile["escapes"].p) == (1, 0.0)
    assert (odile["fouls"], odile["scratches"]) == (2, 1)
    assert (odile["racks_won"].n, odile["racks_won"].p) == (4, 0.25)
    assert odile["points"] is None
    assert odile["high_break"] is None


def test_the_other_ones_sheet():
    """Piers attacks three times from the first stroke and wins each; his safety left no attack."""
    piers = of("nine-ball", FOUR_RACKS)["Piers"]
    assert (piers["attack_visits"].n, piers["attack_visits"].p) == (3, 1.0)
    assert (piers["run_outs"].n, piers["run_outs"].p) == (5, pytest.approx(3 / 5))
    assert (piers["safeties"]["n"], piers["safeties"]["not_attacked"].p) == (1, 1.0)
    assert piers["safeties"]["hidden"].n == 0
    assert piers["breaks"]["dry"].p == 1.0


def test_five_balls_in_four_breaks():
    racks = [[break_("A", *fell)] for fell in (("1", "2"), ("3",), (), ("4", "5"))]
    odile = of("nine-ball", racks)["Odile"]
    assert odile["breaks"]["balls"].mean == 1.25
    assert odile["breaks"]["dry"].p == 0.25


def test_what_is_no_try():
    """Experiments, push-outs and breaks are none; a made ball with a foul counts apart; any pocket where none was
    called; a fluke elsewhere is a miss."""
    rack = [
        break_("A", "3"), other("A", "position", declared="push-out"), other("B", "safety", declared="accept"),
        pot("B", "1", flags=["experiment"]), pot("A", "1", "1", scratch=True),
        {**pot("B", "2", "2"), "called": {"ball": "2"}}, pot("B", "4", "4", pocket="side-left"),
        {**pot("B", "5"), "potted": [{"ball": "5", "pocket": "head-left"}]},
    ]  # fmt: skip
    found = of("nine-ball", [rack])
    assert (found["Odile"]["pots"].n, found["Odile"]["pots"].p) == (1, 0.0)
    assert found["Odile"]["potted_but_foul"] == 1
    assert (found["Piers"]["pots"].n, found["Piers"]["pots"].p) == (3, pytest.approx(2 / 3))
    assert found["Odile"]["run_outs"].n == 1, "the visit with the push-out is left out"


def test_an_early_nine_wins_and_is_no_run_out():
    rack = [break_("A"), pot("B", "1", "1"), {**pot("B", "2", "9"), "called": {"ball": "9", "pocket": "foot-left"}}]
    piers = of("nine-ball", [rack])["Piers"]
    assert piers["attack_visits"].p == 1.0
    assert piers["run_outs"].p == 0.0


def test_eight_ball_by_hand():
    """From the break Odile takes the solids and misses the eight; Piers clears the stripes and the eight."""
    solids, stripes = [str(n) for n in range(1, 8)], [str(n) for n in range(9, 16)]
    rack = [
        break_("A", "1"), *run("A", *solids[1:]), pot("A", "8"), *run("B", *stripes), pot("B", "8", "8"),
    ]  # fmt: skip
    found = of("eight-ball", [rack])
    assert (found["Odile"]["run_outs"].n, found["Odile"]["run_outs"].p) == (1, 0.0)
    assert found["Odile"]["high_run"] == 7
    assert (found["Piers"]["run_outs"].n, found["Piers"]["run_outs"].p) == (1, 1.0)
    assert found["Piers"]["pots"].p == 1.0


def test_blackball_and_ten_ball_by_hand():
    reds = [f"red-{n}" for n in range(1, 8)]
    found = of("blackball", [[break_("A"), *run("B", *reds, "black")]], table="blackball-7ft")
    assert (found["Piers"]["run_outs"].p, found["Piers"]["high_run"]) == (1.0, 8)
    ten = of("ten-ball", [[break_("A", "4"), *run("A", "1", "2"), pot("A", "3"), *run("B", "3")]])
    assert (ten["Odile"]["high_run"], ten["Piers"]["high_run"]) == (3, 1)
    assert ten["Odile"]["breaks"]["balls"].mean == 1.0


def test_straight_pool_by_hand():
    """Twelve in one inning, three in the other's: ten convert a chance; runs are balls."""
    first = [str(n) for n in range(1, 13)]
    rack = [
        break_("A", rails_after_contact=4), *run("B", *first), pot("B", "13"), *run("A", "13"),
        other("A", "safety", declared="safety"),
    ]  # fmt: skip
    found = of("straight-pool", [rack], race_to=50)
    piers, odile = found["Piers"], found["Odile"]
    assert (piers["high_run"], piers["points"], piers["balls_per_inning"]) == (12, 12, 12.0)
    assert (piers["attack_visits"].n, piers["attack_visits"].p) == (1, 1.0)
    assert piers["breaks"] is None
    assert (odile["innings"], odile["points"]) == (2, 1)


def test_snooker_by_hand():
    """A break of 1+7+1+7+1+7+1+7 = 32 and one of 8."""
    reds = iter(f"red-{n}" for n in range(1, 16))
    made = [ball for _ in range(4) for ball in (next(reds), "black")]
    rack = [
        {**other("A", "safety"), "kind": "break"}, *run("B", *made), pot("B", next(reds)),
        *run("A", "red-6", "black"), other("A", "safety"),
    ]  # fmt: skip
    found = of("snooker", [rack], table="snooker-12ft")
    piers, odile = found["Piers"], found["Odile"]
    assert (piers["high_break"], piers["points"], piers["high_run"]) == (32, 32, 8)
    assert (piers["attack_visits"].n, piers["attack_visits"].p) == (1, 1.0), "thirty points convert"
    assert (odile["high_break"], odile["attack_visits"].p) == (8, 0.0)
    assert piers["balls_per_inning"] is None


def test_shot_times_run_from_contact_to_contact_within_a_visit():
    timed = [
        {**shot, "time": {"contact": at}}
        for shot, at in zip(FOUR_RACKS[0], (10.0, 31.0, 55.0, 70.0, 200.0, 220.0, 221.0, 240.0, 300.0), strict=True)
    ]
    odile = of("nine-ball", [timed])["Odile"]["shot_time"]
    assert (odile.n, odile.mean) == (3, pytest.approx((21 + 24 + 15) / 3))


def test_a_safety_that_hides_every_ball():
    """The nine stands between the white and the one."""
    lies = {"balls": {"cue": [0.5, 0.6], "1": [2.0, 0.6], "9": [0.58, 0.6], "2": [1.0, 1.1]}}
    first = {**other("A", "safety"), "layout_before": {**lies, "state": {"player": "A"}}, "layout_after": lies}
    rack = [first, {**other("B", "escape"), "layout_before": lies}]
    odile = of("nine-ball", [rack])["Odile"]
    assert (odile["safeties"]["hidden"].n, odile["safeties"]["hidden"].p) == (1, 1.0)


def test_games_and_sessions_are_never_mixed_unasked():
    match = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": PLAYERS, "racks": []}
    ten, lesson = {**match, "discipline": "ten-ball"}, {**match, "session": "lesson"}
    for others, field in ((ten, "--discipline"), (lesson, "--session")):
        with pytest.raises(InputError, match=field):
            figures_of([("a", match), ("b", others)])
    assert figures_of([("a", match), ("b", ten)], discipline="ten-ball")["players"].keys() == {"Odile", "Piers"}
    with pytest.raises(InputError, match="nobody of that name"):
        figures_of([("a", match)], player="Quentin")
    with pytest.raises(InputError, match="no match"):
        figures_of([("a", match)], session="solo")


def test_a_match_that_is_named_twice_does_not_count_twice():
    racks = [{"breaker": "A", "shots": [other("A", "safety")]}]
    match = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": PLAYERS, "racks": racks}
    with pytest.raises(InputError, match="the same match as evening"):
        figures_of([("evening.json", match), ("copy.json", {**match, "title": "Again"})])
    with pytest.raises(InputError, match="the same match as evening"):
        figures_of([("evening.json", match), ("evening.json", match)])


def test_equal_names_are_one_person():
    turned = {"A": PLAYERS["B"], "B": PLAYERS["A"]}
    one, other_ = (
        {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": who, "racks": [
            {"breaker": "A", "shots": FOUR_RACKS[2]}
        ]} for who in (PLAYERS, turned)
    )  # fmt: skip
    found = figures_of([("a", one), ("b", other_)])["players"]
    assert found["Odile"]["racks_won"]["n"] == 2
    assert found["Odile"]["racks_won"]["p"] == 0.5
