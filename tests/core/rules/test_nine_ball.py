"""Worked situations of nine-ball. World Pool-Billiard Association, The Rules of Play, sections 2 and 6.

The numbers name the rule; the situations are worked by hand from its text.
"""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aretane.core.layout import Layout, State
from aretane.core.rules.game import FOULS, IllegalEntry, Seen, judge
from aretane.core.rules.nine_ball import NINE_BALL as RULES
from aretane.core.rules.options import with_defaults
from aretane.core.table import PRESETS

DEFAULTS = with_defaults("nine-ball", {})


def play(*entries: Seen, options=None, state=None):
    """The ruling on the last entry of a rack that A breaks."""
    state = state or RULES.rack("A", DEFAULTS)
    ruling = None
    for entry in entries:
        ruling = judge(RULES, state, entry, options or {})
        state = ruling.after
    return ruling


def brk(*potted, player="A", **facts):
    facts = {"first_contact": "1", "object_balls_to_rail": 5, **facts}
    return Seen(player=player, kind="break", potted=potted, **facts)


def shot(player, first=None, potted=(), rails=1, **facts):
    known = {"first_contact": first} if first else {}
    return Seen(player=player, kind="pot", potted=tuple(potted), rails=rails, **{**known, **facts})


# 2.3 The break


def test_a_ball_on_the_break_keeps_the_table_and_allows_a_push_out():
    ruling = play(brk("4"))
    assert ruling.foul is None
    assert ruling.next == "A"
    assert ruling.after.choices == ("push-out",)
    assert ruling.legal_balls == ("1",)
    assert ruling.after.points == {"A": 1, "B": 0}


def test_a_dry_break_passes_the_table():
    ruling = play(brk())
    assert (ruling.foul, ruling.next, ruling.after.in_hand) == (None, "B", None)
    assert ruling.after.choices == ("push-out",)


def test_fewer_than_four_balls_to_a_rail_and_none_potted_is_an_illegal_break():
    ruling = play(brk(object_balls_to_rail=3))
    assert (ruling.foul, ruling.next, ruling.after.in_hand) == ("illegal-break", "B", "anywhere")
    assert play(brk("2", object_balls_to_rail=3)).foul is None


def test_the_break_must_strike_the_one_first():
    ruling = play(brk("4", first_contact="2"))
    assert (ruling.foul, ruling.next) == ("wrong-ball-first", "B")
    assert ruling.after.choices == ()


def test_the_nine_on_the_break_wins():
    ruling = play(brk("9"))
    assert (ruling.after.winner, ruling.next) == ("A", None)


def test_the_nine_on_a_foul_break_is_spotted():
    ruling = play(brk("9", "3", scratch=True))
    assert ruling.spotted == ("9",)
    assert "9" in ruling.after.balls
    assert "3" not in ruling.after.balls
    assert ruling.after.winner is None


# 2.4 Push out


def test_a_push_out_may_touch_nothing_and_the_other_player_chooses():
    ruling = play(brk(), Seen(player="B", declared="push-out", first_contact=None, rails=0))
    assert (ruling.foul, ruling.next) == (None, "A")
    assert ruling.after.choices == ("accept", "pass-back")


def test_a_returned_push_out_is_played_by_the_one_who_pushed():
    push = Seen(player="B", declared="push-out", first_contact=None)
    ruling = play(brk(), push, Seen(player="A", declared="pass-back"))
    assert (ruling.next, ruling.after.choices) == ("B", ())
    assert ruling.legal_balls == ()


def test_playing_on_after_a_push_out_accepts_it():
    push = Seen(player="B", declared="push-out", first_contact=None)
    assert play(brk(), push, shot("A", "1", ["1"])).next == "A"
    with pytest.raises(IllegalEntry, match="A is at the table"):
        play(brk(), push, shot("B", "1"))


def test_a_returned_push_out_must_hit_the_lowest_ball():
    push = Seen(player="B", declared="push-out", first_contact=None)
    back = Seen(player="A", declared="pass-back")
    assert play(brk(), push, back, shot("B", "2")).foul == "wrong-ball-first"


def test_a_ball_potted_by_a_push_out_stays_down_but_the_nine_is_spotted():
    push = Seen(player="B", declared="push-out", potted=("5", "9"))
    ruling = play(brk(), push)
    assert ruling.spotted == ("9",)
    assert "5" not in ruling.after.balls
    assert ruling.after.points == {"A": 0, "B": 0}
    assert ruling.next == "A"


def test_a_scratch_on_a_push_out_is_a_foul():
    ruling = play(brk(), Seen(player="B", declared="push-out", scratch=True))
    assert (ruling.foul, ruling.next, ruling.after.in_hand) == ("scratch", "A", "anywhere")


def test_a_push_out_is_only_allowed_right_after_the_break():
    with pytest.raises(IllegalEntry) as refused:
        play(brk("4"), shot("A", "1", ["1"]), Seen(player="A", declared="push-out"))
    assert refused.value.rule == "push out"
    with pytest.raises(IllegalEntry):
        play(brk(scratch=True), Seen(player="B", declared="push-out"))


def test_a_match_without_push_outs_offers_none():
    options = {"push_out": False}
    assert play(brk(), options=options).after.choices == ()
    with pytest.raises(IllegalEntry, match="without the push-out"):
        play(brk(), Seen(player="B", declared="push-out"), options=options)


# 2.5 and 6: fouls


@pytest.mark.parametrize(
    ("facts", "foul"),
    [
        ({"first": "2"}, "wrong-ball-first"),
        ({"first_contact": None, "rails": 0}, "no-contact"),
        ({"first": "1", "rails": 0}, "no-rail"),
        ({"first": "1", "scratch": True}, "scratch"),
        ({"first": "1", "off_table": ("cue",)}, "off-table"),
        ({"first": "1", "off_table": ("6",)}, "off-table"),
        ({"first": "1", "fouls_seen": ("double-hit",)}, "double-hit"),
        ({"first": "2", "scratch": True, "rails": 0}, "scratch"),
    ],
)
def test_a_foul_gives_the_cue_ball_in_hand_anywhere(facts, foul):
    ruling = play(brk("4"), shot("A", **facts))
    assert (ruling.foul, ruling.next, ruling.after.in_hand) == (foul, "B", "anywhere")


def test_no_rail_is_needed_when_a_ball_falls():
    assert play(brk("4"), shot("A", "1", ["6"], rails=0)).next == "A"


def test_a_moved_ball_is_a_foul_only_when_all_balls_count():
    moved = shot("A", "1", fouls_seen=("moved-ball",))
    assert play(brk("4"), moved).foul is None
    assert play(brk("4"), moved, options={"fouls": "all-balls"}).foul == "moved-ball"


def test_an_object_ball_off_the_table_is_not_spotted_except_the_nine():
    ruling = play(brk("4"), shot("A", "1", off_table=("6", "9")))
    assert ruling.spotted == ("9",)
    assert "6" not in ruling.after.balls


def test_three_fouls_in_a_row_lose_the_rack():
    miss = {"first_contact": None, "rails": 0}
    entries = [
        brk(), shot("B", "1"), shot("A", **miss), shot("B", "1"), shot("A", **miss), shot("B", "1"),
    ]  # fmt: skip
    assert play(*entries).after.fouls == {"A": 2, "B": 0}
    ruling = play(*entries, shot("A", **miss))
    assert ruling.after.winner == "B"
    assert ruling.fouls == ("no-contact", "three-fouls")
    assert play(*entries, shot("A", **miss), options={"three_fouls": False}).after.winner is None


def test_a_legal_shot_ends_the_row_of_fouls():
    miss = {"first_contact": None, "rails": 0}
    entries = [brk(), shot("B", "1"), shot("A", **miss), shot("B", "1"), shot("A", "1")]
    assert play(*entries).after.fouls["A"] == 0


# 2.2 and 2.6: the nine


def test_a_combination_on_the_nine_wins():
    assert play(brk("4"), shot("A", "1", ["9"])).after.winner == "A"


def test_the_nine_with_a_scratch_is_spotted_and_play_goes_on():
    ruling = play(brk("4"), shot("A", "1", ["9"], scratch=True))
    assert (ruling.spotted, ruling.after.winner, ruling.next) == (("9",), None, "B")


def test_any_ball_that_falls_keeps_the_table():
    assert play(brk("4"), shot("A", "1", ["7"])).next == "A"
    assert play(brk("4"), shot("A", "1")).next == "B"


# What cannot have happened


@pytest.mark.parametrize(
    ("entry", "rule"),
    [
        (shot("B", "1"), "order of play"),
        (shot("A", "4"), "balls on the table"),
        (shot("A", "1", ["4"]), "balls on the table"),
        (shot("A", "1", ["6", "6"]), "balls on the table"),
        (shot("A", first_contact=None, potted=["6"]), "first contact"),
        (brk("5"), "break shot"),
        (Seen(player="A", declared="accept"), "choices"),
        (Seen(player="A", declared="re-rack"), "choices"),
    ],
)
def test_impossible_entries_name_their_rule(entry, rule):
    with pytest.raises(IllegalEntry) as refused:
        play(brk("4"), entry)
    assert refused.value.rule == rule


def test_nothing_is_played_after_the_rack_is_over():
    with pytest.raises(IllegalEntry, match="already over"):
        play(brk("9"), shot("A", "1"))


def test_a_rack_that_is_under_way_is_resumed_with_its_balls_and_fouls():
    state = State(player="B", push_out_allowed=True, fouls={"A": 0, "B": 2}, ball_in_hand="anywhere")
    layout = Layout(PRESETS["pool-9ft"], "nine-ball", {"9": (1, 1), "7": (0.5, 0.5)}, state)
    resumed = RULES.resume(layout, DEFAULTS)
    assert RULES.legal_balls(resumed) == ("7",)
    assert play(shot("B", "9"), state=resumed).after.winner == "A"


entries = st.builds(
    lambda first, potted, rails, scratch, declared: {
        "first_contact": first, "potted": tuple(potted), "rails": rails, "scratch": scratch, "declared": declared,
    },
    st.sampled_from([None, *map(str, range(1, 10))]),
    st.lists(st.sampled_from([str(n) for n in range(1, 10)]), max_size=2, unique=True),
    st.integers(0, 3),
    st.booleans(),
    st.sampled_from([None, None, None, "push-out", "accept", "pass-back"]),
)  # fmt: skip


@given(st.lists(entries, max_size=25))
def test_any_sequence_keeps_the_totals_right(sequence):
    """Balls never come back except the nine, points never fall, fouls follow the published order."""
    ruling = play(brk())
    state = ruling.after
    for facts in sequence:
        try:
            ruling = judge(RULES, state, Seen(player=state.player, kind="pot", **facts), {})
        except IllegalEntry:
            continue
        after = ruling.after
        assert set(after.balls) <= set(state.balls)
        assert all(after.points[p] >= state.points[p] for p in "AB")
        assert sum(after.points.values()) <= 9
        assert list(ruling.fouls) == sorted(ruling.fouls, key=FOULS.index)
        assert after.winner or "9" in after.balls
        assert max(after.fouls.values()) <= 3
        state = after
        if after.winner:
            break
